"""A duct system as arrays, for all sets of gates at once."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from copy import copy
from dataclasses import dataclass
from functools import lru_cache
from math import pi

from purvel.airflow.elimination import nodes_of
from purvel.airflow.fittings import junction, part_open_gate
from purvel.airflow.segments import Layout, Leaks
from purvel.airflow.sources import Scale, band_of
from purvel.libraries import Array, Mask, np

DISCHARGE_OF_LEAK = 0.61  # [-], sharp-edged gap round a shut gate or at a joint [textbook]


class Arrays:
    """A layout with its sets of gates as arrays: B rows (the sets; and again at every end of what is known of
    hose and of the sources' curves), S segments, C ways for air: the hoods, then the joints that leak, then
    out through each source but the first.

    `part` says of each set how far gates are drawn out that are open in part.
    """

    def __init__(
        self,
        layout: Layout,
        opened: Sequence[frozenset[str]],
        leaks: Leaks,
        part: Sequence[Mapping[str, float]] = (),
    ) -> None:
        segments = layout.segments
        self.sets = len(opened)
        self.area = np.array([one.area for one in segments])
        self.diameter = np.array([one.diameter for one in segments])
        ends = self._assume(layout)
        self.fittings = np.array([sum(fitting.loss for fitting in one.fittings) for one in segments])
        self.hoods = np.array(layout.hoods, dtype=int)
        self._lead(layout, leaks)
        sealed = self._gates(layout, opened, leaks, part)
        # (B, S) what gates cost that are not fully open, beyond what they cost when they are
        at_rings = self._shut * (self.area / self.diameter) ** 2
        self.at_gates = np.tile(at_rings + self._in_part, (ends, 1))
        behind = np.tile(sealed, (ends, 1)) @ np.abs(self.passes)  # gates that seal, on each way
        self.flowing = np.asarray(behind == 0)
        self.coupling = self._coupling(layout)

    def _gates(
        self,
        layout: Layout,
        opened: Sequence[frozenset[str]],
        leaks: Leaks,
        part: Sequence[Mapping[str, float]],
    ) -> Array:
        """What gates cost by set and segment: those that are shut and leak times (diameter / area)² [1/m2],
        1 / (Cd π gap)² each, and those that are open in part; how many seal.
        """
        many = len(layout.segments)
        gates = [
            (index, gate, leaks.gate_gap if own is None else own)
            for index, one in enumerate(layout.segments)
            for gate, own in zip(one.gates, one.gaps or (None,) * len(one.gates))
        ]
        on = np.zeros((len(gates), many))
        on[range(len(gates)), [index for index, _, _ in gates]] = 1.0
        shut = np.array([[gate not in them for _, gate, _ in gates] for them in opened], dtype=float)
        shut = shut.reshape(self.sets, len(gates))
        ring = np.array([(DISCHARGE_OF_LEAK * gap * pi) ** -2 if gap > 0 else 0.0 for _, _, gap in gates])
        self._shut = (shut * ring) @ on
        self._in_part = np.zeros((self.sets, many))
        for row, drawn in enumerate(part):
            for index, gate, _ in gates if drawn else ():
                self._in_part[row, index] += part_open_gate(drawn.get(gate, 1.0))
        return np.asarray((shut * np.array([gap <= 0 for _, _, gap in gates], dtype=float)) @ on)

    def _assume(self, layout: Layout) -> int:
        """Takes friction and curves as they mostly are, then each end of what is known of hose with each of
        what is known of the sources; says how many that makes.
        """
        segments = layout.segments
        hoses = (1, 2) if any(one.hose is not None for one in segments) else ()
        bands = [band_of(source) for _, source in layout.sources]
        sources = (0, 1) if any(bands) else ()
        ends: list[tuple[int, int | None]] = [(0, None)]
        if hoses or sources:
            ends += [(hose, source) for hose in hoses or (0,) for source in sources or (None,)]
        self.has_range = len(ends) > 1
        # how many times the pressure and the flow of its curve each source has in each row (B,)
        self.times = [
            self._repeated([Scale() if end is None or band is None else band[end] for _, end in ends])
            for band in bands
        ]
        rows = np.array([(one.roughness, one.multiplier) for one in segments])[None].repeat(len(ends), axis=0)
        for index, one in enumerate(segments):
            for row, (hose, _) in zip(rows, ends if one.hose else ()):
                if one.hose and hose:  # smooth or rough, not as it mostly is
                    row[index] = (one.hose[hose - 1].roughness, one.hose[hose - 1].multiplier)
        self.relative_roughness = np.repeat(rows[..., 0] / self.diameter, self.sets, axis=0)
        lengths = np.array([one.length for one in segments])
        self.length = np.repeat(rows[..., 1] * lengths, self.sets, axis=0)
        return len(ends)

    def _lead(self, layout: Layout, leaks: Leaks) -> None:
        """Finds the ways of the air, through which segments they lead, and what it costs to get in."""
        segments = layout.segments
        leaking = range(len(segments)) if leaks.joint_area > 0 else ()
        ends_of_ways = [*self.hoods, *leaking, *(one.segment for one in layout.others)]
        self.nodes = nodes_of(layout, [int(one) for one in ends_of_ways])
        self.sign = np.ones(len(ends_of_ways))  # (C,) air comes in, or goes out through another source
        self.sign[len(ends_of_ways) - len(layout.others) :] = -1.0
        # a way leads through it towards the first source (1) or, with the air, the other way (-1)
        at = np.array(ends_of_ways, dtype=int)
        self.passes = (np.arange(len(segments))[:, None] == at).astype(float)
        for index in reversed(range(len(segments))):  # a downstream segment comes before its upstream ones
            if segments[index].downstream >= 0:
                self.passes[segments[index].downstream] += self.passes[index]
        self.passes *= self.sign
        entries = [
            hood.entry_loss / (pi / 4 * hood.diameter**2) ** 2
            for hood in (segments[index].hood for index in self.hoods)
            if hood is not None
        ]
        gaps = [DISCHARGE_OF_LEAK * leaks.joint_area * (len(segments[i].fittings) + 1) for i in leaking]
        # what each way in costs on half the density times its flow squared [1/m4]
        self.entry = np.array([*entries, *(gap**-2 for gap in gaps), *([0.0] * len(layout.others))])

    def sized(
        self, diameter: Array, roughness: Array, length: Array, fittings: Array, coupling: Array
    ) -> Arrays:
        """The same system in other sizes, all its sets for each: diameters, lengths as friction has them [m]
        and fittings (N, S), roughness (S,) [m], coupling (N, S, S). Everything is taken as it mostly is.
        """
        other, many = copy(self), len(diameter)

        def each(values: Array) -> Array:
            return np.repeat(values, self.sets, axis=0)

        other.diameter = each(diameter)
        other.area = pi / 4 * other.diameter**2
        other.relative_roughness = roughness / other.diameter
        other.length, other.fittings, other.coupling = each(length), each(fittings), each(coupling)
        other.flowing = np.tile(self.flowing[: self.sets], (many, 1))
        other.has_range = False
        other.times = [(np.ones(many * self.sets),) * 2 for _ in self.times]
        at_rings = np.tile(self._shut, (many, 1)) * (other.area / other.diameter) ** 2
        other.at_gates = at_rings + np.tile(self._in_part, (many, 1))
        return other

    def rows(self, which: slice | Mask) -> Arrays:
        """The same system with some of its rows."""
        other = copy(self)
        other.relative_roughness, other.length = self.relative_roughness[which], self.length[which]
        other.at_gates, other.flowing = self.at_gates[which], self.flowing[which]
        other.times = [(pressure[which], flow[which]) for pressure, flow in self.times]
        if self.area.ndim == 2:
            other.diameter, other.area = self.diameter[which], self.area[which]
            other.fittings, other.coupling = self.fittings[which], self.coupling[which]
        return other

    def _repeated(self, ends: Sequence[Scale]) -> tuple[Array, Array]:
        """A source's shares of pressure and flow, one row for each set at every end of what is known."""
        shares = np.array([(end.pressure, end.flow) for end in ends])
        return np.repeat(shares[:, 0], self.sets), np.repeat(shares[:, 1], self.sets)

    def _coupling(self, layout: Layout) -> Array:
        """C[s, k]: how much of segment k's velocity pressure is lost in segment s at the junction at its
        downstream end. A leg with no hood on it is a dead end, and no part of a junction. Where air may go
        either way there are none: a branch costs its turn there (see `layout`).
        """
        coupling = np.zeros((len(layout.segments), len(layout.segments)))
        area: list[float] = self.area.tolist()
        legs, others, terms = [], [], []
        for joint in self.joints(layout):
            at = joint.at
            legs += [leg for leg in joint.legs for _ in at]
            others += at * len(joint.legs)
            terms.append(joint.terms(tuple(area[one] for one in at)).ravel())
        if terms:
            coupling[legs, others] = np.concatenate(terms)  # a segment is a leg of one joint only
        return coupling

    def at_joints(self, values: Array) -> Array:
        """What each segment loses at the joint behind it, of what meets there (B, S)."""
        if self.coupling.ndim == 2:
            return np.asarray(values @ self.coupling.T)
        return np.asarray(np.matmul(self.coupling, values[..., None])[..., 0])

    def joints(self, layout: Layout) -> list[Joint]:
        """The joints at which air meets: those with a branch, but not where air may go either way."""
        carries = np.asarray(self.passes[:, : len(self.hoods)].any(axis=1))
        either_way, segments = layout.either_way, layout.segments
        found = []
        for behind, all_legs in layout.joints().items():
            legs = [leg for leg in all_legs if carries[leg]]
            is_between = behind in either_way and either_way & set(all_legs)
            if not is_between and any(segments[leg].is_branch for leg in legs):
                angles = tuple(segments[leg].angle if segments[leg].is_branch else 0.0 for leg in legs)
                found.append(Joint(behind, tuple(legs), angles))
        return found


@dataclass(frozen=True, slots=True)
class Joint:
    """A joint at which air meets: the segment behind it, its legs, and the angle of each to it [deg]."""

    behind: int
    legs: tuple[int, ...]
    angles: tuple[float, ...]

    @property
    def at(self) -> list[int]:
        """All that meet there, the one behind it first."""
        return [self.behind, *self.legs]

    def terms(self, areas: tuple[float, ...]) -> Array:
        """By leg what it loses of the velocity pressures of `at` (legs, 1 + legs) [-]; their areas [m2]."""
        return _terms(self.angles, areas)


@lru_cache(maxsize=20_000)  # the same joints come again with every change of anything else
def _terms(angles: tuple[float, ...], areas: tuple[float, ...]) -> Array:
    found = junction(areas[1:], angles, areas[0])
    return np.array([(one.combined, *one.legs) for one in found])
