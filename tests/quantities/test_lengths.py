import pytest
from hypothesis import given
from hypothesis import strategies as st

from purvel.quantities import LengthError, format_length, parse_length


@pytest.mark.parametrize(
    ("text", "metres"),
    [
        ("13' 6 1/2\"", 4.1275),
        ("13'6½\"", 4.1275),
        ("13′ 6 1⁄2″", 4.1275),
        ("4.12 m", 4.12),
        ("4,12m", 4.12),
        ("412 cm", 4.12),
        ("162 1/2", 162.5 * 0.0254),
        ("5 ft 3", 63 * 0.0254),
        ("7'", 7 * 0.3048),
        ('1/2"', 0.0127),
        ("3-1/4 in", 3.25 * 0.0254),
        ("250mm", 0.25),
    ],
)
def test_reads_what_people_write(text: str, metres: float) -> None:
    assert parse_length(text, "imperial") == pytest.approx(metres, abs=1e-12)


def test_a_bare_number_is_in_the_readers_small_unit_and_a_fraction_is_always_inches() -> None:
    assert parse_length("412", "metric") == pytest.approx(0.412)
    assert parse_length("412", "imperial") == pytest.approx(412 * 0.0254)
    assert parse_length("162 1/2", "metric") == pytest.approx(162.5 * 0.0254)


@pytest.mark.parametrize(
    "text", ["", "abc", "-3", "1/0", "3 4", "4 m 20", "1e9", "99999 m", "12 furlongs", "''", "5'6'7"]
)
def test_refuses_with_one_sentence_that_says_what_it_takes(text: str) -> None:
    with pytest.raises(LengthError) as refused:
        parse_length(text, "imperial")
    assert "Write a length such as" in str(refused.value)
    assert refused.value.text == text


def test_a_comma_that_can_mean_two_things_is_asked_about() -> None:
    for text in ("1,200", "6,300", "1,250 cm"):
        with pytest.raises(LengthError, match="in two ways"):
            parse_length(text, "metric")
    assert parse_length("4,120 mm", "metric") == parse_length("4,120mm", "imperial") == 4.12
    assert parse_length("4,12 mm", "metric") == 0.00412
    assert parse_length("4,125 m", "metric") == pytest.approx(4.125)  # four kilometres are not a room
    assert parse_length("0,125 m", "metric") == pytest.approx(0.125)
    assert parse_length("12,5", "metric") == pytest.approx(0.0125)


@pytest.mark.parametrize(
    ("metres", "text"),
    [
        (5.8, "19' 0 3/8\""),
        (0.3048, "1' 0\""),
        (0.0095, '3/8"'),
        (0.0, '0"'),
        (3.8227, "12' 6 1/2\""),
        (-0.3143, "-1' 0 3/8\""),
    ],
)
def test_written_as_on_a_tape(metres: float, text: str) -> None:
    assert format_length(metres, "imperial") == text


@given(st.integers(0, 16 * 12 * 100))
def test_feet_and_inches_come_back_to_the_sixteenth(sixteenths: int) -> None:
    metres = sixteenths / 16 * 0.0254
    assert parse_length(format_length(metres, "imperial"), "imperial") == pytest.approx(metres, abs=1e-9)


@given(st.integers(0, 150_000))
def test_millimetres_come_back(mm: int) -> None:
    assert parse_length(format_length(mm / 1000, "metric"), "metric") == pytest.approx(mm / 1000, abs=1e-9)


@given(st.text(max_size=30))
def test_any_text_is_read_or_refused_never_worse(text: str) -> None:
    try:
        assert 0 <= parse_length(text, "metric") <= 200
    except LengthError as refused:
        assert str(refused)


@pytest.mark.parametrize(
    ("text", "metres"),
    [
        ("4 m 12 cm", 4.12),
        ("4m12cm5mm", 4.125),
        ("4 m 120 mm", 4.12),
        ("0 m 12,5 cm", 0.125),
        ("13 ft 6 1/2 in", 4.1275),
        ("820 mm", 0.82),
    ],
)
def test_metres_and_what_is_left_of_them(text: str, metres: float) -> None:
    """To the last digit: what is written in whole millimetres comes back as it went."""
    assert parse_length(text, "metric") == parse_length(text, "imperial") == metres


@pytest.mark.parametrize(
    "text", ["12 cm 4 m", "4 m 5 m", "4 m 12", "m 4", "4 m 12 cm 1 cm", "mm", "4 m - 12 cm"]
)
def test_metres_that_do_not_fall_are_refused(text: str) -> None:
    with pytest.raises(LengthError, match="is not a length"):
        parse_length(text, "metric")
