from dataclasses import fields

import pint
import pytest

from purvel.quantities import Unit, UnitError, Units, convert, format_number, parse_quantity, units_for
from purvel.quantities.systems import System
from purvel.quantities.units import WRITTEN, factor, to_si

IMPERIAL, METRIC = units_for("imperial"), units_for("metric")


def test_factors_are_the_published_ones() -> None:
    assert convert(4.71947e-4, IMPERIAL.flow) == pytest.approx(1.0, rel=1e-5)
    assert convert(249.089, IMPERIAL.pressure) == pytest.approx(1.0, rel=1e-5)
    assert convert(0.00508, IMPERIAL.speed) == pytest.approx(1.0)
    assert convert(1.0, METRIC.flow) == pytest.approx(3600.0)


def test_every_factor_is_pints() -> None:
    """Pint is told the inch and the millimetre of water as tables print them; it knows the rest."""
    registry: pint.UnitRegistry[float] = pint.UnitRegistry()
    registry.define("inch_water_gauge = 249.08891 pascal")
    registry.define("mm_water_gauge = 9.80665 pascal")
    own = {
        "cfm": "ft**3/min",
        "fpm": "ft/min",
        "in. w.g.": "inch_water_gauge",
        "mm w.g.": "mm_water_gauge",
        "pa": "Pa",
        "hpa": "hPa",
        "kpa": "kPa",
        "gal": "gallon",
        "l": "liter",
        "m³/hr": "m**3/hour",
        "k": "delta_degC",
        "°c": "delta_degC",
        "°f": "delta_degF",
    }
    named = {"m³/s": "m**3/s", "Pa": "Pa", "m³": "m**3", "kg/m³": "kg/m**3", "m²": "m**2", "K": "delta_degC"}
    for si, written in WRITTEN.items():
        for spelled, makes in written.items():
            plain = own.get(spelled, spelled.replace("²", "**2").replace("³", "**3").replace("/h", "/hour"))
            assert makes == pytest.approx(registry.Quantity(1.0, plain).to(named.get(si, si)).magnitude), (
                spelled
            )
            assert parse_quantity(f"2 {spelled}", Unit("?", si)) == pytest.approx(2 * makes), spelled


@pytest.mark.parametrize("units", [IMPERIAL, METRIC])
def test_what_a_refusal_tells_to_write_is_taken(units: Units) -> None:
    for one in fields(units):
        unit = getattr(units, one.name)
        if isinstance(unit, Unit):
            with pytest.raises(UnitError) as refused:
                parse_quantity("5 bananas", unit)
            told = str(refused.value).split("for example ")[1]
            told = told if unit.label.endswith(".") else told.removesuffix(".")
            assert told == f"{unit.example} {unit.label}"
            assert parse_quantity(told, unit) == pytest.approx(
                float(unit.example.replace(",", "")) * factor(unit)
            )


def test_other_ways_to_write_a_unit() -> None:
    for text, metres in (('4"', 0.1016), ("4 inches", 0.1016), ("12 ft", 3.6576), ("40 MM", 0.04)):
        assert parse_quantity(text, IMPERIAL.diameter) == pytest.approx(metres)
    for text, milligrams in (
        ("50 ug/m3", 0.05),
        ("50 µg/m³", 0.05),
        ("50 μg/m^3", 0.05),
        ("2", 2.0),
        ("1 g/m3", 1e3),
    ):
        assert parse_quantity(text, METRIC.concentration) == pytest.approx(milligrams)
    for bad in ("5 +", "5 m2m", "3 kg kg", "2 **", "7 /", "1 m³/s m"):
        with pytest.raises(UnitError):
            parse_quantity(bad, METRIC.flow)


@pytest.mark.parametrize(
    ("value", "unit", "text"),
    [
        (0.222847, IMPERIAL.flow, "472 cfm"),
        (2333.0, IMPERIAL.pressure, "9.37 in. w.g."),
        (20.32, IMPERIAL.speed, "4,000 fpm"),
        (0.0, METRIC.flow, "0 m³/h"),
        (18.04, METRIC.speed, "18.0 m/s"),
        (1234567.0, METRIC.pressure, "1,230,000 Pa"),
        (1.23456, None, "1.23"),
        (0.0123456, None, "0.0123"),
        (-12.3456, None, "-12.3"),
        (9.996, None, "10.0"),
        (9.994, None, "9.99"),
        (999.6, None, "1,000"),
        (0.0009996, None, "0.00100"),
    ],
)
def test_three_figures_and_always_its_unit(value: float, unit: object, text: str) -> None:
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
