"""Newton's step through a tree, without its matrix: from the ends down to the source and back.

Every way in (hood, leak, second source) and every segment gives its flow as a straight line of the pressure
at the node where it ends; at a joint those of its legs are put together, which takes a system as large as the
joint has legs. So a step costs what the tree has segments, where the matrix of all ways costs their cube.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from purvel.airflow.segments import Layout
from purvel.libraries import Array, Mask, np

_LEAST_OWN = 1e-9  # Pa s/m3: as which a way in counts that loses nothing of its own
MOST_DENSE = 200_000  # rows times ways squared, up to which the matrix is quicker [measured]


@dataclass(frozen=True, slots=True)
class Node:
    """Where a segment ends upstream (-1: the source's inlet): the segments that flow into it and the ways
    that end there, by their numbers.
    """

    segment: int
    legs: tuple[int, ...]
    ways: tuple[int, ...]


def nodes_of(layout: Layout, ends: Sequence[int]) -> tuple[Node, ...]:
    """The nodes of a tree from the ends to the source; `ends` are the segments at which the ways end."""
    legs = layout.joints()
    roots = tuple(i for i, one in enumerate(layout.segments) if one.downstream < 0)
    at: dict[int, list[int]] = {}
    for way, segment in enumerate(ends):
        at.setdefault(segment, []).append(way)
    found = [
        Node(segment, tuple(legs.get(segment, ())), tuple(at.get(segment, ())))
        for segment in reversed(range(len(layout.segments)))
    ]
    return (*found, Node(-1, roots, ()))


@dataclass(frozen=True, slots=True, eq=False)
class Slopes:
    """What Newton's step goes by, for every row: how a segment's own loss grows with its flow (B, S), its
    velocity pressure as joints see it (B, S), the entry of each way (B, C) and its miss [Pa] (B, C), that of
    the source (B,), what is lost at joints, (S, S) or (B, S, S), which way each goes (C,), and whether air
    may go it at all (B, C).
    """

    segment: Array
    at_joint: Array
    entry: Array
    miss: Array
    source: Array
    coupling: Array
    sign: Array
    flowing: Mask


def step(nodes: Sequence[Node], at: Slopes) -> Array:
    """The change of flow along each way [m3/s] (B, C) that would bring every miss to nothing."""
    return _Pass(nodes, at).shift()


class _Pass:
    """From the ends to the source and back. Everything is held by segment or way first, then by row, so that
    what a node takes lies together.
    """

    def __init__(self, nodes: Sequence[Node], at: Slopes) -> None:
        self.nodes, self.sign = nodes, at.sign[:, None]
        self.own, self.at_joint = (np.ascontiguousarray(one.T) for one in (at.segment, at.at_joint))
        self.coupling = np.moveaxis(at.coupling, 0, -1) if at.coupling.ndim == 3 else at.coupling[..., None]
        self.source = at.source
        entry = np.maximum(at.entry.T, _LEAST_OWN)
        self.per_way = np.where(at.flowing.T, 1.0 / entry, 0.0)
        # a way's flow towards the source where no pressure changes
        self.at_rest = -self.sign * at.miss.T * self.per_way
        # a segment's flow is given - taken x the pressure where it ends
        self.given, self.taken = np.zeros_like(self.own), np.zeros_like(self.own)
        self.lines: list[tuple[Array, Array, Array, Array]] = []

    def shift(self) -> Array:
        """Both ways."""
        for node in self.nodes:
            ways = list(node.ways)
            come, yields = self.at_rest[ways].sum(axis=0), self.per_way[ways].sum(axis=0)
            flow, slope = self._legs(node, come, yields)
            self.lines.append((flow, slope, come, yields))
            if node.segment >= 0:
                self.given[node.segment] = flow.sum(axis=0) + come
                self.taken[node.segment] = slope.sum(axis=0) + yields
        return self._back()

    def _legs(self, node: Node, come: Array, yields: Array) -> tuple[Array, Array]:
        """The flows of a node's legs as lines of the pressure there, (legs, B) each: at rest, and by how much
        less as it rises.
        """
        legs, behind = list(node.legs), node.segment
        if not legs:
            return self.given[legs], self.given[legs]
        a, b = self.given[legs], self.taken[legs]
        index = np.arange(len(legs))
        if behind < 0:
            matrix = b[:, None] * self.source
            matrix = np.repeat(matrix, len(legs), axis=1)
            matrix[index, index] += 1.0 + b * self.own[legs]
            return _solved(matrix, a, b)
        # what a leg loses of each leg's flow, and of that behind the joint, which is all of them together
        seen = self.coupling[legs, behind] * self.at_joint[behind]
        matrix = self.coupling[np.ix_(legs, legs)] * self.at_joint[legs] + seen[:, None]
        matrix = b[:, None] * matrix
        matrix[index, index] += 1.0 + b * self.own[legs]
        return _solved(matrix, a - b * seen * come, b * (1.0 - seen * yields))

    def _back(self) -> Array:
        """From the source back out: the pressure at each node, and with it every flow."""
        pressure, shift = np.zeros_like(self.own), np.zeros_like(self.per_way)
        for node, (flow, slope, come, yields) in zip(reversed(self.nodes), reversed(self.lines)):
            legs, behind = list(node.legs), node.segment
            here = pressure[behind] if behind >= 0 else np.zeros(pressure.shape[1])
            if node.ways:
                ways = list(node.ways)
                shift[ways] = self.at_rest[ways] - self.per_way[ways] * here
            if not legs:
                continue
            flows = flow - slope * here
            rises = self.own[legs] * flows
            if behind >= 0:
                whole = flows.sum(axis=0) + come - yields * here
                of_legs = (self.coupling[np.ix_(legs, legs)] * (self.at_joint[legs] * flows)).sum(axis=1)
                rises += of_legs + self.coupling[legs, behind] * (self.at_joint[behind] * whole) + here
            else:
                rises += self.source * flows.sum(axis=0)
            pressure[legs] = rises
        return np.asarray((self.sign * shift).T)


def _solved(matrix: Array, one: Array, other: Array) -> tuple[Array, Array]:
    """Both right-hand sides (legs, B) through the rows' matrices (legs, legs, B), as large as a joint has
    legs.
    """
    if len(matrix) == 1:
        return one / matrix[0], other / matrix[0]
    if len(matrix) == 2:
        (p, q), (r, s) = matrix
        whole = p * s - q * r

        def through(side: Array) -> Array:
            return np.asarray(np.stack([s * side[0] - q * side[1], p * side[1] - r * side[0]]) / whole)

        return through(one), through(other)
    both = np.linalg.solve(np.moveaxis(matrix, 2, 0), np.stack([one.T, other.T], axis=2))
    return np.asarray(both[..., 0].T), np.asarray(both[..., 1].T)
