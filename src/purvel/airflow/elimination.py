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
    rows, many = at.segment.shape
    given, taken = (
        np.zeros((rows, many)),
        np.zeros((rows, many)),
    )  # a segment's flow is given - taken x pressure
    own = np.maximum(at.entry, _LEAST_OWN)
    per_way = np.where(at.flowing, 1.0 / own, 0.0)
    at_rest = -at.sign * at.miss * per_way  # a way's flow towards the source where no pressure changes
    held: list[tuple[Array, Array, Array, Array]] = []
    for node in nodes:
        ways = list(node.ways)
        come, yields = at_rest[:, ways].sum(axis=1), per_way[:, ways].sum(axis=1)
        flow, slope = _legs(node, at, given, taken, come, yields)
        held.append((flow, slope, come, yields))
        if node.segment >= 0:
            given[:, node.segment] = flow.sum(axis=1) + come
            taken[:, node.segment] = slope.sum(axis=1) + yields
    return _back(nodes, at, held, per_way, at_rest)


def _legs(
    node: Node, at: Slopes, given: Array, taken: Array, come: Array, yields: Array
) -> tuple[Array, Array]:
    """The flows of a node's legs as lines of the pressure there, (B, legs) each: at rest, and by how much
    less as it rises.
    """
    legs, behind = list(node.legs), node.segment
    if not legs:
        return np.zeros((len(given), 0)), np.zeros((len(given), 0))
    a, b = given[:, legs], taken[:, legs]
    if behind >= 0:
        # what a leg loses of each leg's flow, and of that behind the joint, which is all of them together
        seen = at.coupling[..., behind][..., legs] * at.at_joint[:, behind, None]
        matrix = at.coupling[..., legs, :][..., legs] * at.at_joint[:, None, legs] + seen[:, :, None]
    else:
        seen = np.zeros_like(a)
        matrix = np.broadcast_to(at.source[:, None, None], (len(a), len(legs), len(legs))).copy()
    matrix = b[:, :, None] * matrix
    index = np.arange(len(legs))
    matrix[:, index, index] += 1.0 + b * at.segment[:, legs]
    rest = a - b * seen * come[:, None]
    slope = b * (1.0 - seen * yields[:, None])
    return _solved(matrix, rest, slope)


def _solved(matrix: Array, one: Array, other: Array) -> tuple[Array, Array]:
    """Both right-hand sides through the rows' matrices, which are as large as a joint has legs."""
    if matrix.shape[1] == 1:
        return one / matrix[:, 0], other / matrix[:, 0]
    if matrix.shape[1] == 2:
        (p, q), (r, s) = (matrix[:, 0, 0], matrix[:, 0, 1]), (matrix[:, 1, 0], matrix[:, 1, 1])
        whole = (p * s - q * r)[:, None]

        def through(side: Array) -> Array:
            return (
                np.stack([s * side[:, 0] - q * side[:, 1], p * side[:, 1] - r * side[:, 0]], axis=1) / whole
            )

        return through(one), through(other)
    both = np.linalg.solve(matrix, np.stack([one, other], axis=2))
    return np.asarray(both[..., 0]), np.asarray(both[..., 1])


def _back(
    nodes: Sequence[Node],
    at: Slopes,
    held: Sequence[tuple[Array, Array, Array, Array]],
    per_way: Array,
    at_rest: Array,
) -> Array:
    """From the source back out: the pressure at each node, and with it every flow."""
    rows, many = at.segment.shape
    flows, pressure = np.zeros((rows, many)), np.zeros((rows, many))
    shift = np.zeros_like(at.entry)
    for node, (flow, slope, come, yields) in zip(reversed(nodes), reversed(held)):
        legs, behind = list(node.legs), node.segment
        here = pressure[:, behind] if behind >= 0 else np.zeros(rows)
        if node.ways:
            ways = list(node.ways)
            towards = at_rest[:, ways] - per_way[:, ways] * here[:, None]
            shift[:, ways] = at.sign[ways] * towards
        if not legs:
            continue
        flows[:, legs] = flow - slope * here[:, None]
        if behind >= 0:
            whole = flows[:, legs].sum(axis=1) + come - yields * here
            of_joint = (at.coupling[..., legs, :][..., legs] * (at.at_joint * flows)[:, None, legs]).sum(
                axis=2
            )
            of_joint = (
                of_joint + at.coupling[..., behind][..., legs] * (at.at_joint[:, behind] * whole)[:, None]
            )
            pressure[:, legs] = here[:, None] + at.segment[:, legs] * flows[:, legs] + of_joint
        else:
            total = flows[:, legs].sum(axis=1)
            pressure[:, legs] = at.segment[:, legs] * flows[:, legs] + (at.source * total)[:, None]
    return shift
