"""Light: the laws, worked examples, and what must hold for any room."""

from math import cos, pi, radians

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from purvel.catalogue.power import luminaire_kinds, make_luminaire, utilisation
from purvel.power.light import RoomLight, direct, exponent, how_many, illuminance, reflected, room_index
from purvel.shop.power import Luminaire
from tests.reference import CASES

ROOM = RoomLight(30.0, 22.0, 2.55, 0.7, 0.5, 0.2, 0.8)


def lamp(**changes: float) -> Luminaire:
    return Luminaire(
        id="l",
        **{"x": 0.0, "y": 0.0, "z": 2.0, "lumens": 1000.0, "half_angle": 60.0, "length": 0.0} | changes,
    )  # type: ignore[arg-type]


def test_straight_below_a_matt_face() -> None:
    """I0 = 1000 / pi = 318.3 cd; 2 m below 318.3 / 4 = 79.6 lx."""
    assert direct([lamp()], np.array([[0.0, 0.0, 0.0]]))[0] == pytest.approx(1000 / pi / 4)


def test_off_to_the_side_it_falls_with_the_fourth_power_of_the_cosine() -> None:
    """At 45 degrees, 2 m below and 2 m aside: 318.3 cos(45) cos(45) / 8 = 19.9 lx, a quarter."""
    assert direct([lamp()], np.array([[2.0, 0.0, 0.0]]))[0] == pytest.approx(1000 / pi * 0.5 / 8)


@pytest.mark.parametrize("half", [15.0, 30.0, 60.0, 75.0])
def test_at_the_half_angle_a_beam_is_half_as_strong(half: float) -> None:
    one, t = lamp(half_angle=half), radians(half)
    spot = np.array([[2.0 * np.tan(t), 0.0, 0.0], [0.0, 0.0, 0.0]])
    aside, below = direct([one], spot)
    # the same intensity law, taken out of inverse square and incidence
    assert aside / cos(t) * (2.0 / cos(t)) ** 2 == pytest.approx(0.5 * below * 4.0)
    assert cos(t) ** exponent(half) == pytest.approx(0.5)


def test_all_light_that_leaves_comes_down_on_a_plane() -> None:
    """Over a very wide floor the direct light sums to the lamp's lumens."""
    step = 0.1
    x, y = np.meshgrid(np.arange(-40, 40, step), np.arange(-40, 40, step))
    points = np.stack([x.ravel(), y.ravel(), np.zeros(x.size)], axis=1)
    for half in (30.0, 60.0):
        total = direct([lamp(half_angle=half)], points).sum() * step**2
        assert total == pytest.approx(1000.0, rel=0.01)


def test_a_long_luminaire_agrees_with_the_line_s_integral() -> None:
    """A matt strip 1.5 m long, 1 m below its middle: the points along it, summed finely."""
    strip = lamp(length=1.5, z=1.0)
    s = (np.arange(20_000) + 0.5) / 20_000 * 1.5 - 0.75
    exact = (1000 / pi * 1.0 / (1 + s**2) ** 2).mean()  # I0 cos cos / d2 with cos = 1 / d
    assert direct([strip], np.array([[0.0, 0.0, 0.0]]))[0] == pytest.approx(exact, rel=0.01)


def test_nothing_shines_upwards() -> None:
    assert direct([lamp()], np.array([[0.5, 0.0, 2.5], [0.5, 0.0, 2.0]])).tolist() == [0.0, 0.0]


def test_the_room_throws_back_as_an_integrating_sphere() -> None:
    """Surface 2 x 30 + 22 x 2.55 = 116.1 m2; mean reflectance (30 x 0.9 + 56.1 x 0.5) / 116.1 = 0.4741."""
    assert ROOM.surface == pytest.approx(116.1)
    assert ROOM.reflectance == pytest.approx(0.47416, rel=1e-4)
    assert reflected([lamp()], ROOM) == pytest.approx(1000 * 0.47416 / (116.1 * 0.52584), rel=1e-4)


def test_the_lumen_method_as_in_the_reference_cases() -> None:
    i = CASES["light-01"]["inputs"]
    room = RoomLight(i["A"], 22.0, 2.55, 0.7, 0.5, 0.2, i["MF"])
    one = how_many(34091.0, i["E"], room, i["Hm"], ((1.0, 2.0), (i["UF"], i["UF"])))
    assert one == 1 and how_many(34090.0, i["E"], room, i["Hm"], ((1.0, 2.0), (i["UF"], i["UF"]))) == 2
    assert room_index(30.0, 22.0, i["Hm"]) == pytest.approx(6 * 5 / (i["Hm"] * 11))
    i = CASES["light-02"]["inputs"]
    room = RoomLight(i["A"], 20.0, 2.5, 0.7, 0.5, 0.2, i["MF"])
    lux = i["n"] * i["lm"] * i["UF"] * i["MF"] / i["A"]
    assert how_many(i["lm"], lux, room, 1.7, ((1.0, 2.0), (i["UF"], i["UF"]))) == i["n"]


@given(st.floats(0.0, 6.0), st.floats(0.0, 5.0), st.floats(100, 10_000))
def test_more_light_is_brighter_everywhere_and_light_adds(x: float, y: float, lumens: float) -> None:
    points = np.array([[1.0, 1.0, 0.85], [5.0, 4.0, 0.85]])
    one, other = lamp(x=x, y=y), lamp(x=5.0 - x / 2, y=y, lumens=lumens)
    both = illuminance([one, other], points, ROOM)
    assert np.allclose(both, illuminance([one], points, ROOM) + illuminance([other], points, ROOM))
    assert (both >= illuminance([one], points, ROOM)).all()


def test_kinds_are_whole() -> None:
    for key, kind in luminaire_kinds().items():
        made = make_luminaire(key, "l", 1.0, 2.0, 2.4)
        assert made.lumens == kind.lumens > 0 and made.name
    index, factor = utilisation().index, utilisation().factor
    assert len(index) == len(factor) and list(factor) == sorted(factor)
