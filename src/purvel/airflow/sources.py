"""Curves of vacs, collectors and cyclones, and what stands between their inlet and the room."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from math import pi

from purvel.libraries import Array, np
from purvel.shop import CurvePoint, Source
from purvel.shop.things import SourceKind


@dataclass(frozen=True, slots=True)
class Scale:
    """How many times the pressure and the flow of its curve a source has."""

    pressure: float = 1.0
    flow: float = 1.0


BANDS = {
    # of machines of one class by their makers' curves, about one that represents them [trade practice, low]
    "representative": (Scale(0.80, 0.75), Scale(1.20, 1.25)),
    # of a machine of which two figures are known: the shape between them is not, and figures for free air are
    # taken without hose and filter and seldom reached [a guess]
    "plate": (Scale(0.90, 0.75), Scale(1.15, 1.10)),
}
"""What is left open by where a curve comes from: the weak end and the strong one. A maker's curve and a
measured one are taken as they are.
"""


GAUGE = 0.03  # of a suction that was read: a water column or a dial [trade practice, medium]
FLOW_READ = 0.10  # of a flow that was read with a vane in a hose's end [trade practice, low]


def band_of(source: Source) -> tuple[Scale, Scale] | None:
    """The weak and the strong end of what is known of a source's curve, None where it is taken as it is. What
    the user has read leaves open only what the reading does.
    """
    known = BANDS.get(source.curve_from)
    if known is None and source.sealed is None and source.open_flow is None:
        return None
    weak, strong = known or (Scale(), Scale())
    if source.sealed is not None:
        weak, strong = Scale(1.0 - GAUGE, weak.flow), Scale(1.0 + GAUGE, strong.flow)
    if source.open_flow is not None:
        weak = Scale(weak.pressure, 1.0 - FLOW_READ)
        strong = Scale(strong.pressure, 1.0 + FLOW_READ)
    return weak, strong


def most_suction(source: Source) -> float:
    """The greatest suction that a source can make [Pa], at the strong end of what is known of its curve."""
    ends = band_of(source) or (Scale(),)
    return SourceCurve(source).shut_off * max(end.pressure for end in ends)


_LEAST_FALL = 1e-3  # Pa per m3/s: keeps the curve falling where the monotone cubic is level


@dataclass(frozen=True, slots=True, eq=False)
class Losses:
    """What is lost between the inlet and the room [Pa], by part."""

    separator: Array
    filter: Array
    discharge: Array

    @property
    def total(self) -> Array:
        """The sum [Pa]."""
        return np.asarray(self.separator + self.filter + self.discharge)


class SourceCurve:
    """A source's total pressure against flow: monotone cubic (Fritsch-Carlson) through the points of the
    falling branch.

    Right of the last point it goes on with the last slope; left of the highest point it keeps that height.
    Scaled from the density it was taken at, and for a fan from the speed: flow goes with it, pressure with
    its square (fan laws).
    """

    def __init__(self, source: Source) -> None:
        self.source = source
        turns = 1.0 if source.kind == "vac" else source.speed
        flow = turns * np.array([point.flow for point in source.curve])
        pressure = turns**2 * np.array([point.pressure for point in source.curve])
        self.top = int(np.argmax(pressure))
        self._flow, self._pressure = flow[self.top :], np.minimum.accumulate(pressure[self.top :])
        if source.sealed is not None:  # the shape stays, its ends go where they were read
            self._pressure = self._pressure * (source.sealed / float(self._pressure[0]))
        self._rise = _slopes(self._flow, self._pressure)
        last_piece = float((self._pressure[-1] - self._pressure[-2]) / (self._flow[-1] - self._flow[-2]))
        self._last_slope = min(float(self._rise[-1]), last_piece, -_LEAST_FALL)
        if source.open_flow is not None and source.open_flow > 0:
            wider = source.open_flow / self._spent_at()
            self._flow, self._rise = self._flow * wider, self._rise / wider
            self._last_slope /= wider
        self.inlet_area = pi / 4 * source.inlet_diameter**2
        self.outlet_area = pi / 4 * source.outlet_diameter**2

    @property
    def shut_off(self) -> float:
        """The most suction the curve shows [Pa], at its own density."""
        return float(self._pressure[0])

    @property
    def peak_flow(self) -> float:
        """The flow of the highest point [m3/s]; left of it a fan may surge."""
        return float(self._flow[0])

    @property
    def last_flow(self) -> float:
        """The flow of the last point [m3/s]; right of it the curve is a guess."""
        return float(self._flow[-1])

    @cached_property
    def free_flow(self) -> float:
        """The flow at no pressure by the curve [m3/s]."""
        return self._spent_at()

    def _spent_at(self) -> float:
        spent = np.flatnonzero(self._pressure <= 0.0)
        return float(
            self._flow[spent[0]] if len(spent) else self._flow[-1] - self._pressure[-1] / self._last_slope
        )

    @property
    def discharge_loss(self) -> float:
        """What is charged for the discharge, on the velocity pressure at the outlet [-]: nothing where the
        curve holds it already, as those of vacs do.
        """
        is_charged = self.source.pressure_is == "total" and self.source.kind != "vac"
        return self.source.discharge_loss if is_charged else 0.0

    def plate(self, flow: Array) -> tuple[Array, Array]:
        """Pressure [Pa] as the points say it, and its slope [Pa s/m3]."""
        inside = np.minimum(np.maximum(flow, self._flow[0]), self._flow[-1])
        over, under = flow - self._flow[-1], flow - self._flow[0]
        on_curve, along = self._cubic(inside)
        pressure = on_curve + np.maximum(over, 0.0) * self._last_slope - _LEAST_FALL * under
        slope = np.where(over > 0, self._last_slope, np.where(under < 0, 0.0, along)) - _LEAST_FALL
        return pressure, slope

    def _cubic(self, flow: Array) -> tuple[Array, Array]:
        """The cubic through the points and its slope, for flows among theirs: by Hermite's basis."""
        piece = np.searchsorted(self._flow[1:-1], flow, side="right")
        width = self._flow[piece + 1] - self._flow[piece]
        t = (flow - self._flow[piece]) / width
        p0, p1 = self._pressure[piece], self._pressure[piece + 1]
        m0, m1 = self._rise[piece] * width, self._rise[piece + 1] * width
        pressure = p0 + t * (m0 + t * (3 * (p1 - p0) - 2 * m0 - m1 + t * (2 * (p0 - p1) + m0 + m1)))
        slope = (m0 + t * (2 * (3 * (p1 - p0) - 2 * m0 - m1) + t * 3 * (2 * (p0 - p1) + m0 + m1))) / width
        return pressure, slope

    def total_pressure(
        self, flow: Array, rho: Array, times: tuple[Array | float, Array | float] = (1.0, 1.0)
    ) -> tuple[Array, Array]:
        """The source's total pressure [Pa] and its slope, from flow [m3/s] and density [kg/m3], with so many
        `times` the pressure and the flow of its curve.

        “outlet static” is what the losses up to the outlet come to, with nothing added and no discharge
        charged (AMCA 210: FSP = FTP - VP_out, and VP_out is lost in the room). “inlet suction” takes away the
        velocity pressure in the inlet duct, since |SP| = losses + VP there.
        """
        pressure, slope = self.plate(flow / times[1])
        scale = self.density_share(rho) * times[0]
        pressure, slope = pressure * scale, slope * scale / times[1]
        if self.source.pressure_is == "inlet suction":
            return (
                pressure - 0.5 * rho * (flow / self.inlet_area) ** 2,
                slope - rho * flow / self.inlet_area**2,
            )
        return pressure, slope

    def density_share(self, rho: Array | float) -> Array | float:
        """How many times the pressure of the curve there is at a density [kg/m3]: in proportion, but for a
        suction that was read in that air.
        """
        return 1.0 if self.source.sealed is not None else rho / self.source.density

    def losses(self, flow: Array, rho: Array | float) -> Losses:
        """Losses between inlet and room [Pa]: separator and discharge on their velocity pressures, the filter
        in proportion to flow; against a flow that is blown back.
        """
        separator, filter_, discharge = self._coefficients
        drag = 0.5 * rho * flow * np.abs(flow)
        return Losses(separator * drag, filter_ * flow, discharge * drag)

    def loss_slope(self, flow: Array, rho: Array | float) -> Array:
        """How fast those losses rise [Pa s/m3]."""
        separator, filter_, discharge = self._coefficients
        return np.asarray(rho * (separator + discharge) * np.abs(flow) + filter_)

    @cached_property
    def _coefficients(self) -> tuple[float, float, float]:
        one = self.source
        apart = one.separator.loss / (pi / 4 * one.separator.inlet_diameter**2) ** 2 if one.separator else 0.0
        filter_ = sum(each.resistance / each.area for each in (one.filter, one.behind) if each)
        return apart, filter_, self.discharge_loss / self.outlet_area**2


_POINTS = 7  # of a curve that is made from two figures
_ROUND = 2.5  # of a fan: p = p0 (1 - (q / q0)^2.5) [trade practice, low confidence]


def plate_curve(kind: SourceKind, shut_off: float, free_flow: float) -> tuple[CurvePoint, ...]:
    """The curve that goes through the most suction [Pa], which is that without flow, and the most flow
    [m3/s], which is that without suction: the two are never there together. A vac's is straight, for its
    motor speeds up as it is throttled [trade practice, medium confidence]; a fan's is round.
    """
    shares = np.array([0.0, 1.0]) if kind == "vac" else np.linspace(0.0, 1.0, _POINTS)
    left = 1.0 - (shares if kind == "vac" else shares**_ROUND)
    return tuple(
        CurvePoint(flow=round(free_flow * float(x), 6), pressure=round(shut_off * float(y), 3))
        for x, y in zip(shares, left)
    )


def _slopes(flow: Array, pressure: Array) -> Array:
    """The slopes at the points that keep the cubic between them monotone: weighted harmonic means inside, a
    one-sided parabola at the ends (Fritsch and Carlson 1980, Fritsch and Butland 1984), as SciPy's
    `PchipInterpolator`, against which a test holds them and which takes half a second to load.
    """
    width = np.diff(flow)
    secant = np.diff(pressure) / width
    if len(secant) == 1:
        return np.repeat(secant, 2)
    before, after, left, right = secant[:-1], secant[1:], width[:-1], width[1:]
    same_way = before * after > 0
    weights = 2 * right + left, right + 2 * left
    mean = weights[0] / np.where(same_way, before, 1.0) + weights[1] / np.where(same_way, after, 1.0)
    inner = np.where(same_way, (weights[0] + weights[1]) / mean, 0.0)
    return np.array([_end(*width[:2], *secant[:2]), *inner, _end(*width[:-3:-1], *secant[:-3:-1])])


def _end(near: float, next_one: float, secant: float, next_secant: float) -> float:
    """The slope at an end: three points' parabola, kept monotone."""
    slope = ((2 * near + next_one) * secant - near * next_secant) / (near + next_one)
    if slope * secant <= 0:
        return 0.0
    if secant * next_secant < 0 and abs(slope) > 3 * abs(secant):
        return float(3 * secant)
    return float(slope)
