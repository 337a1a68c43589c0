import pytest

from purvel.quantities import Unit, UnitError, convert, format_number, parse_quantity, units_for
from purvel.quantities.systems import System
from purvel.quantities.units import to_si

IMPERIAL, METRIC = units_for("imperial"), units_for("metric")


def test_factors_are_the_published_ones() -> None:
    assert convert(4.71947e-4, IMPERIAL.flow) == pytest.approx(1.0, rel=1e-5)
    assert convert(249.089, IMPERIAL.pressure) == pytest.approx(1.0, rel=1e-5)
    assert convert(0.00508, IMPERIAL.speed) == pytest.approx(1.0)
    assert convert(1.0, METRIC.flow) == pytest.approx(3600.0)


@pytest.mark.parametrize(
    ("value", "unit", "text"),
    [
        (0.222847, IMPERIAL.flow, "472 cfm"),
        (2333.0, IMPERIAL.pressure, "9.37 in. w.g."),
        (20.32, IMPERIAL.speed, "4,000 fpm"),
        (0.0, METRIC.flow, "0 m³/h"),
        (18.04, METRIC.speed, "18.0 m/s"),
        (1234567.0, METRIC.pressure, "1,230,000 Pa"),
    ],
)
def test_three_figures_and_always_a_unit(value: float, unit: object, text: str) -> None:
    assert format_number(value, unit) == text  # type: ignore[arg-type]


def test_typed_quantities_take_their_own_unit_or_the_fields() -> None:
    assert parse_quantity("350", IMPERIAL.flow) == pytest.approx(0.16518, rel=1e-4)
    assert parse_quantity("600 m3/h", IMPERIAL.flow) == pytest.approx(1 / 6)
    assert parse_quantity("2 kPa", IMPERIAL.pressure) == pytest.approx(2000.0)
    for text, cfm in (
        ("1,200", 1200),
        ("1,200 cfm", 1200),
        ("1,200.5", 1200.5),
        ("12,5", 12.5),
        ("0,125", 0.125),
        ("1,20", 1.2),
    ):
        assert convert(parse_quantity(text, IMPERIAL.flow), IMPERIAL.flow) == pytest.approx(cfm)
    for bad in ("1.200,5", "1,2,3", "many", "12 bananas", "", "3 m"):
        with pytest.raises(UnitError):
            parse_quantity(bad, IMPERIAL.flow)


@pytest.mark.parametrize("unit", [IMPERIAL.flow, IMPERIAL.speed, METRIC.flow, METRIC.pressure])
def test_what_is_written_is_read_back_thousands_and_all(unit: Unit) -> None:
    for shown in (0.4, 7, 96.5, 350, 1230, 12_300, 1_230_000):
        text = format_number(to_si(shown, unit), unit)
        assert format_number(parse_quantity(text, unit), unit) == text


@pytest.mark.parametrize(
    ("system", "bulk", "density", "thickness"),
    [("imperial", "7.1 ft³", "40.6 lb/ft³", "0.126 in"), ("metric", "200 l", "650 kg/m³", "3.2 mm")],
)
def test_bins_woods_and_kerfs(system: System, bulk: str, density: str, thickness: str) -> None:
    """0.2 m3 / 0.0283168 = 7.063 ft3; 650 kg/m3 / 16.0185 = 40.58 lb/ft3; 3.2 mm / 25.4 = 0.126 in."""
    units = units_for(system)
    assert format_number(0.2, units.bulk).replace("\u00a0", " ") == bulk
    assert format_number(650.0, units.density).replace("\u00a0", " ") == density
    assert format_number(0.0032, units.thickness).replace("\u00a0", " ") == thickness
    assert parse_quantity(density, units.density) == pytest.approx(650.0, rel=2e-3)
    assert parse_quantity("650 kg/m³", units.density) == pytest.approx(650.0)
    assert parse_quantity("200 l", units.bulk) == pytest.approx(0.2)
