"""What a solved duct network says: flow and pressure of every segment and hood in each set of gates."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import NamedTuple, overload

from purvel.airflow.air import AirState
from purvel.airflow.segments import Layout
from purvel.libraries import Array, np
from purvel.once import once


class SegmentFlow(NamedTuple):
    """One segment in one gate set: flow [m3/s], speed [m/s] and density of the air there, friction factor,
    friction coefficient f L/D, fittings, gate (shut, or not fully open) and junction coefficients on its own
    velocity pressure [-], and the loss of total pressure along it [Pa]. Where two sources pull, air may go
    away from the first: flow, speed and loss are below 0 then.
    """

    flow: float
    speed: float
    density: float
    velocity_pressure: float
    reynolds: float
    friction_factor: float
    friction: float
    fittings: float
    shut_gate: float
    junction: float
    loss: float
    total_pressure: float

    @property
    def friction_loss(self) -> float:
        """What of the loss is friction [Pa]."""
        return self.friction * self.velocity_pressure

    @property
    def fittings_loss(self) -> float:
        """What of it is fittings, a shut gate among them [Pa]."""
        return (self.fittings + self.shut_gate) * self.velocity_pressure

    @property
    def junction_loss(self) -> float:
        """What of it is the joint that it flows into [Pa]; a gain is negative."""
        return self.junction * self.velocity_pressure

    @property
    def static_pressure(self) -> float:
        """Static pressure at its downstream end [Pa], behind the joint there, negative under suction."""
        return self.total_pressure - self.velocity_pressure

    @property
    def static_ahead(self) -> float:
        """Static pressure just ahead of the joint at its downstream end [Pa], where a gauge sits."""
        return self.static_pressure + self.junction_loss


class SegmentFlows(Sequence[SegmentFlow]):
    """The segments of one gate set from their `figures` (S, 12), in the order of SegmentFlow.

    They are made when one is first asked for: a system of 40 hoods has 16,000 of them in 200 sets, of which
    few are looked at.
    """

    def __init__(self, figures: Array) -> None:
        self._figures = figures

    @once
    def _made(self) -> tuple[SegmentFlow, ...]:
        return tuple(map(SegmentFlow._make, self._figures.tolist()))

    def __len__(self) -> int:
        return len(self._figures)

    @overload
    def __getitem__(self, index: int) -> SegmentFlow: ...
    @overload
    def __getitem__(self, index: slice) -> Sequence[SegmentFlow]: ...
    def __getitem__(self, index: int | slice) -> SegmentFlow | Sequence[SegmentFlow]:
        return self._made[index]

    def __iter__(self) -> Iterator[SegmentFlow]:
        return iter(self._made)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, SegmentFlows) and np.array_equal(self._figures, other._figures)

    def __hash__(self) -> int:
        return hash(self._figures.tobytes())


@dataclass(frozen=True, slots=True)
class HoodFlow:
    """One hood in one gate set: flow [m3/s], speed in the port [m/s], entry loss [Pa], static suction in the
    port [Pa], all below 0 where air is blown back out; whether its gates are open. What `lends` is open only
    for the air that it lets in: nothing works there.
    """

    thing: str
    port: str
    segment: int
    flow: float
    port_speed: float
    entry_loss: float
    static_suction: float
    is_open: bool
    lends: bool = False

    @property
    def at_work(self) -> bool:
        """Whether something is to be caught there."""
        return self.is_open and not self.lends


@dataclass(frozen=True, slots=True)
class SourceFlow:
    """One source in one gate set: the flow that it moves [m3/s of room air], its pressure, and what of that
    is lost between its inlet and the room [Pa]. A flow below 0 is blown back through it.
    """

    thing: str
    flow: float
    pressure: float
    separator_loss: float
    filter_loss: float
    discharge_loss: float


@dataclass(frozen=True, slots=True)
class GateSetFlow:
    """The whole system with one set of gates open; `part_open` are those of them that are not all the way
    out, with the share of the diameter. The source that the tree starts at is the first of `sources`.

    Pressures in Pa, flows in m3/s; `imbalance` is the worst energy error of any path [Pa].
    """

    id: str
    open_gates: tuple[str, ...]
    density: float
    sources: tuple[SourceFlow, ...]
    segments: Sequence[SegmentFlow]
    hoods: tuple[HoodFlow, ...]
    imbalance: float
    converged: bool
    part_open: tuple[tuple[str, float], ...] = ()

    @property
    def flow(self) -> float:
        """What the first source moves."""
        return self.sources[0].flow

    @property
    def whole_flow(self) -> float:
        """What all sources move together."""
        return sum(one.flow for one in self.sources)

    @property
    def source_pressure(self) -> float:
        """The first source's pressure."""
        return self.sources[0].pressure

    @property
    def separator_loss(self) -> float:
        """What of it is lost in its separator."""
        return self.sources[0].separator_loss

    @property
    def filter_loss(self) -> float:
        """What of it is lost in its filter."""
        return self.sources[0].filter_loss

    @property
    def discharge_loss(self) -> float:
        """What of it is lost at its outlet."""
        return self.sources[0].discharge_loss

    @property
    def duct_suction(self) -> float:
        """Total-pressure loss on the suction side, from the room to the first source's inlet [Pa]."""
        return self.source_pressure - self.separator_loss - self.filter_loss - self.discharge_loss


@dataclass(frozen=True, slots=True)
class NetworkResult:
    """All gate sets of one source. `ranges` are the least and the most flow of each hood [m3/s] in each set
    over all that is known of its hose and of its source's curve.

    Without hose in the system, and with a source whose curve is known, there are none.
    """

    layout: Layout
    air: AirState
    sets: tuple[GateSetFlow, ...]
    ranges: tuple[tuple[tuple[float, float], ...], ...] = ()
