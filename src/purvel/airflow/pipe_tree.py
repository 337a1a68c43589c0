"""A tree of pipe on a lattice: where pipe may lie, what it costs, its legs, where legs cross."""

from __future__ import annotations

import itertools
from collections.abc import Callable
from dataclasses import dataclass, field

from purvel.libraries import Array, np

WAYS = ((1, 0), (0, 1), (-1, 0), (0, -1))  # the ways that air goes: to +x, +y, -x, -y

Node = tuple[int, int]
"""Column and row of the lattice."""


@dataclass(frozen=True, slots=True, eq=False)
class Lattice:
    """Where pipe may lie: columns x (X,) and rows y (Y,) [m], and for the edges along x (Y, X-1) and along y
    (Y-1, X) by how much they are dearer than elsewhere [-]; inf where no pipe may lie.
    """

    x: Array
    y: Array
    along_x: Array
    along_y: Array


@dataclass(frozen=True, slots=True)
class Start:
    """A place where pipe may begin, and what it costs before it gets there: its drop and its hose."""

    node: Node
    cost: float


@dataclass(frozen=True, slots=True)
class PipePrice:
    """What a metre, an elbow and a branch into it cost of pipe that has gathered a set of places."""

    metre: float
    elbow: float
    branch: float


Priced = Callable[[frozenset[int]], PipePrice]


@dataclass(slots=True)
class Leg:
    """A piece of pipe between two branches, from its downstream end outwards: nodes at its ends and corners.
    `parent` is the number of the leg that it flows into, -1 for the root; `in_line` whether it carries that
    on. `places` are what it gathers; `start` is the number of the start that it ends at, if it ends at one.
    """

    nodes: list[Node]
    parent: int
    in_line: bool
    places: frozenset[int]
    start: int | None = None


@dataclass(slots=True)
class Tree:
    """Legs, every downstream one before its upstream ones, what all costs, the number of the root that it
    flows into, and whether pipes of it cross.
    """

    cost: float
    legs: list[Leg] = field(default_factory=list)
    root: int = 0
    crosses: bool = False


@dataclass(frozen=True, slots=True)
class Closed:
    """A node at which pipe that has gathered these places, or with `others` any others, may not lie."""

    node: Node
    places: frozenset[int]
    others: bool


def crossings(tree: Tree) -> list[Closed]:
    """What to close so that pipes of a tree do not lie in each other: a drop's place to all others, a
    crossing to the pipe that has gathered less.
    """
    on: dict[Node, list[int]] = {}
    for number, leg in enumerate(tree.legs):
        for a, b in itertools.pairwise(leg.nodes):
            for node in (a, *between(a, b)):
                on.setdefault(node, []).append(number)
        on.setdefault(leg.nodes[-1], []).append(number)
    found = []
    for node, numbers in on.items():
        legs = [tree.legs[number] for number in dict.fromkeys(numbers)]
        begins = [leg for leg in legs if leg.start is not None and leg.nodes[-1] == node]
        through = [leg for leg in legs if node not in (leg.nodes[0], leg.nodes[-1])]
        if begins and len(legs) > 1:
            found.append(Closed(node, begins[0].places, others=True))
        elif through and len(legs) > 1:
            found.append(Closed(node, min(through, key=lambda leg: len(leg.places)).places, others=False))
    return found


def split(tree: Tree, number: int, piece: int, node: Node) -> None:
    """Cuts a leg in two at a node: what lies beyond goes on in line from it."""
    leg = tree.legs[number]
    beyond = Leg([node, *leg.nodes[piece + 1 :]], number, True, leg.places, leg.start)
    for other in tree.legs:
        if other.parent == number:
            other.parent = len(tree.legs)
    leg.nodes, leg.start = [*leg.nodes[: piece + 1], node], None
    tree.legs.append(beyond)


def back_from(node: Node, way: int) -> Node:
    """The node before, for air that goes in a way."""
    dx, dy = WAYS[way]
    return node[0] - dx, node[1] - dy


def way_between(a: Node, b: Node) -> int:
    """The way from one node to another in line with it."""
    step = (int(np.sign(b[0] - a[0])), int(np.sign(b[1] - a[1])))
    return WAYS.index(step)


def between(a: Node, b: Node) -> list[Node]:
    """The nodes strictly between two in line."""
    dx, dy = WAYS[way_between(a, b)]
    many = max(abs(b[0] - a[0]), abs(b[1] - a[1]))
    return [(a[0] + k * dx, a[1] + k * dy) for k in range(1, many)]
