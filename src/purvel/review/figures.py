"""Figures as the reader wants them, for sentences."""

from dataclasses import dataclass
from typing import Any

from purvel.quantities import convert, format_length, format_number, units_for
from purvel.quantities.systems import System


def sentence_case(text: str) -> str:
    """A text that begins a sentence."""
    return text[:1].upper() + text[1:]


@dataclass(frozen=True, slots=True)
class Figures:
    """Writes SI values in one system's units."""

    system: System
    is_said = True  # else what is only said need not be found out

    def length(self, metres: float) -> str:
        """A length that was computed: millimetres, or inches to the eighth.

        What was typed is shown to the sixteenth.
        """
        return format_length(metres, self.system, denominator=8)

    def size(self, metres: float) -> str:
        """A duct diameter: millimetres, or inches as pipe is called (100 mm is 4 in)."""
        if self.system == "metric":
            return f"{metres * 1000:.0f} mm"
        inches = metres / 0.0254
        return f"{round(inches * 2) / 2 if inches >= 3 else round(inches * 4) / 4:g} in"

    def flow(self, value: float) -> str:
        """m3/s."""
        return format_number(value, units_for(self.system).flow)

    def pressure(self, value: float) -> str:
        """Pa."""
        return format_number(value, units_for(self.system).pressure)

    def speed(self, value: float) -> str:
        """m/s."""
        return format_number(value, units_for(self.system).speed)

    def area(self, value: float) -> str:
        """m2; what would be written as nothing is under the least that is written."""
        unit = units_for(self.system).area
        least = 10.0**-unit.decimals
        if 0 < convert(value, unit) < least / 2:
            return f"under {least:g} {unit.label}"
        return format_number(value, unit)

    def volume(self, value: float) -> str:
        """m3."""
        return format_number(value, units_for(self.system).volume)

    def bulk(self, value: float) -> str:
        """What a bin holds, m3: litres, or cubic feet."""
        return format_number(value, units_for(self.system).bulk)

    def density(self, value: float) -> str:
        """kg/m3."""
        return format_number(value, units_for(self.system).density)

    def thickness(self, metres: float) -> str:
        """A kerf: tenths of a millimetre, or thousandths of an inch."""
        return format_number(metres, units_for(self.system).thickness)

    def dust(self, value: float) -> str:
        """mg/m3."""
        return format_number(value, units_for(self.system).concentration)

    def distance(self, metres: float) -> str:
        """A way on foot: metres, or feet."""
        return format_number(metres, units_for(self.system).distance)

    def mass(self, value: float) -> str:
        """kg."""
        return format_number(value, units_for(self.system).mass)

    def minutes(self, value: float | None) -> str:
        """Minutes, or hours from two on."""
        if value is None:
            return "more than 12 h"
        return f"{value:.0f} min" if value < 120 else f"{value / 60:.1f} h"

    @staticmethod
    def reading(value: float) -> str:
        """A monitor's reading, in whatever it reads."""
        return f"{value:,.0f}" if abs(value) >= 100 else f"{value:.3g}"

    @staticmethod
    def ended(text: str) -> str:
        """A text as the end of a sentence: a unit that ends in a full stop gets no second one."""
        return text if text.endswith(".") else f"{text}."


class Unsaid(Figures):
    """Writes nothing: for findings of which only the grade is wanted."""

    is_said = False
    _nothing: Any = lambda *_: ""  # a method in place of each
    length = size = flow = pressure = speed = area = volume = _nothing
    bulk = density = thickness = dust = distance = mass = minutes = _nothing
