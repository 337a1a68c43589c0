"""The cheapest tree of pipe on a lattice that gathers several places at one.

A dynamic program over the sets of places that a pipe has gathered (Dreyfus and Wagner, Networks 1, 1971),
here with the way that the air goes: a corner costs an elbow, two pipes meet square through a branch that
leans with the flow, and a metre costs by what is gathered in it. On the lattice the tree is the cheapest for
up to `MOST_EXACT` places; what is more is brought to that tree one by one.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import replace

from purvel.airflow.pipe_tree import (
    Closed,
    Lattice,
    Leg,
    Node,
    Priced,
    Start,
    Tree,
    back_from,
    between,
    crossings,
    split,
    way_between,
)
from purvel.libraries import Array, np
from purvel.stopping import go_on

MOST_EXACT = 8  # places that are gathered at once: time and memory grow threefold with each
_MOST_AGAIN = 8  # times that a tree is sought anew because pipes of it cross
_FAR = 1e6  # m: as which an edge counts where no pipe may lie
_NEVER = 1e5  # what costs more is no way
_SAME = 1e-5  # prices this near are one


def gathered(
    lattice: Lattice, places: Sequence[Sequence[Start]], roots: Sequence[Start], priced: Priced
) -> Tree | None:
    """The cheapest tree from one start of each place to one of the roots, which cost what their `cost` says
    besides; None where there is no way. The first `MOST_EXACT` places are gathered at once.

    Pipes that would cross are sent round each other; `crosses` is set where that did not come to an end.
    Raises Stopped when nobody waits any more.
    """
    closed: list[Closed] = []
    first: Tree | None = None
    for _ in range(_MOST_AGAIN):
        tree = _Gathering(lattice, places, priced, closed).tree(roots)
        if tree is None:
            break
        met = crossings(tree)
        if not met:
            return tree
        first = first or replace(tree, crosses=True)
        closed += met
    return first


class _Gathering:
    """`_held` (sets, 4, Y, X): the least cost of having gathered a set in pipe that goes on in a way."""

    def __init__(
        self,
        lattice: Lattice,
        places: Sequence[Sequence[Start]],
        priced: Priced,
        closed: Sequence[Closed] = (),
    ) -> None:
        self.lattice, self.places, self.priced, self.closed = lattice, places, priced, closed
        self.exact = min(len(places), MOST_EXACT)
        self._price = [priced(frozenset(_members(bits))) for bits in range(1 << self.exact)]
        self._edges_x = self._finite(np.diff(lattice.x)[None, :] * lattice.along_x)
        self._edges_y = self._finite(np.diff(lattice.y)[:, None] * lattice.along_y)
        self._edges = [self._open_to(bits) for bits in range(1 << self.exact)]
        shape = (4, len(lattice.y), len(lattice.x))
        self._held = np.full((1 << self.exact, *shape), np.inf)
        self._side = np.full((1 << self.exact, *shape), np.inf)  # come from the side of each way
        self._moved = np.full((1 << self.exact, *shape), np.inf)

    @staticmethod
    def _finite(edges: Array) -> Array:
        return np.where(np.isfinite(edges), edges, _FAR)

    def _open_to(self, bits: int) -> tuple[Array, Array]:
        """The edges along x and along y that are open to pipe which has gathered a set."""
        along_x, along_y = self._edges_x, self._edges_y
        places = frozenset(_members(bits))
        shut = [one.node for one in self.closed if (places == one.places) != one.others]
        if shut:
            along_x, along_y = along_x.copy(), along_y.copy()
        for column, row in shut:
            along_x[row, max(0, column - 1) : column + 1] = _FAR
            along_y[max(0, row - 1) : row + 1, column] = _FAR
        return along_x, along_y

    def tree(self, roots: Sequence[Start]) -> Tree | None:
        for many in range(1, self.exact + 1):
            for chosen in itertools.combinations(range(self.exact), many):
                go_on()
                self._gather(sum(1 << place for place in chosen), chosen)
        full = (1 << self.exact) - 1
        at = [self._moved[full, :, one.node[1], one.node[0]] for one in roots]  # no two meet at a root itself
        best = min(range(len(roots)), key=lambda n: float(at[n].min()) + roots[n].cost)
        root, way = roots[best].node, int(np.argmin(at[best]))
        cost = float(at[best][way]) + roots[best].cost
        if not cost < _NEVER:
            return None
        found = Tree(cost, root=best)
        self._trace(found, (full, way, back_from(root, way)), -1, root, in_line=True)
        for place in range(self.exact, len(self.places)):
            if not self._bring(found, place):
                return None
        return found

    # ---- one set of places

    def _gather(self, bits: int, chosen: Sequence[int]) -> None:
        held = self._held[bits]
        if len(chosen) == 1:
            for start in self.places[chosen[0]]:
                column, row = start.node
                held[:, row, column] = np.minimum(held[:, row, column], start.cost)
        for part in _parts(bits):
            np.minimum(held, self._moved[part] + self._side[bits ^ part] + self._price[bits].branch, out=held)
        self._spread(bits, held)
        self._moved[bits] = self._shifted(bits, held)
        self._side[bits] = _from_side(self._moved[bits]) + self._price[bits].elbow

    def _spread(self, bits: int, held: Array) -> None:
        """Along straight pipe and round corners until nothing gets cheaper."""
        metre, elbow = self._price[bits].metre, self._price[bits].elbow
        along_x, along_y = self._edges[bits]
        far_x, far_y = metre * _summed(along_x, axis=1), metre * _summed(along_y, axis=0)
        while True:
            before = held.copy()
            for way in range(4):
                far, axis = (far_x, 1) if way % 2 == 0 else (far_y, 0)
                if way < 2:
                    run = np.minimum.accumulate(held[way] - far, axis=axis) + far
                else:
                    back = np.flip(held[way] + far, axis=axis)
                    run = np.flip(np.minimum.accumulate(back, axis=axis), axis=axis) - far
                held[way] = np.minimum(held[way], run)
            np.minimum(held, _from_side(self._shifted(bits, held)) + elbow, out=held)
            if not (held < before - _SAME).any():
                return

    def _shifted(self, bits: int, held: Array) -> Array:
        """What it costs to have come by an edge in each way."""
        metre, (along_x, along_y) = self._price[bits].metre, self._edges[bits]
        moved = np.full_like(held, np.inf)
        moved[0, :, 1:] = held[0, :, :-1] + metre * along_x
        moved[2, :, :-1] = held[2, :, 1:] + metre * along_x
        moved[1, 1:, :] = held[1, :-1, :] + metre * along_y
        moved[3, :-1, :] = held[3, 1:, :] + metre * along_y
        moved[moved > _NEVER] = np.inf
        return moved

    # ---- the way back

    def _trace(
        self, tree: Tree, at: tuple[int, int, Node], parent: int, joint: Node, *, in_line: bool
    ) -> None:
        """Walks upstream from a node, in pipe that ends at a joint, until the pipe begins or two meet."""
        bits, way, node = at
        leg = Leg([joint], parent, in_line, frozenset(_members(bits)))
        number = len(tree.legs)
        tree.legs.append(leg)
        while True:
            cost = float(self._held[bits, way, node[1], node[0]])
            start = self._start(bits, node, cost)
            met = None if start is not None else self._met(bits, way, node, cost)
            if start is not None or met is not None:
                if node != leg.nodes[-1]:
                    leg.nodes.append(node)
                leg.start = start
                break
            back = self._turned(bits, way, node, cost)
            if back != way:
                if node != leg.nodes[-1]:
                    leg.nodes.append(node)
                way = back
            node = back_from(node, way)
        if met is not None:
            part, side = met
            self._trace(tree, (part, way, back_from(node, way)), number, node, in_line=True)
            self._trace(tree, (bits ^ part, side, back_from(node, side)), number, node, in_line=False)

    def _start(self, bits: int, node: Node, cost: float) -> int | None:
        members = _members(bits)
        if len(members) > 1:
            return None
        starts = enumerate(self.places[members[0]])
        return next((n for n, one in starts if one.node == node and abs(one.cost - cost) < _SAME), None)

    def _met(self, bits: int, way: int, node: Node, cost: float) -> tuple[int, int] | None:
        """The part of a set that comes straight, and the way that the rest comes from the side."""
        column, row = node
        for part in _parts(bits):
            other = bits ^ part
            both = (
                self._moved[part, way, row, column]
                + self._side[other, way, row, column]
                + self._price[bits].branch
            )
            if abs(float(both) - cost) < _SAME:
                sides = ((way + 1) % 4, (way + 3) % 4)
                return part, min(sides, key=lambda side: float(self._moved[other, side, row, column]))
        return None

    def _turned(self, bits: int, way: int, node: Node, cost: float) -> int:
        """The way in which pipe came to a node that it leaves in `way`."""
        metre, elbow = self._price[bits].metre, self._price[bits].elbow
        costs = {}
        for one, extra in ((way, 0.0), ((way + 1) % 4, elbow), ((way + 3) % 4, elbow)):
            before = back_from(node, one)
            if 0 <= before[0] < len(self.lattice.x) and 0 <= before[1] < len(self.lattice.y):
                edge = metre * self._edge(bits, before, node)
                costs[one] = float(self._held[bits, one, before[1], before[0]]) + edge + extra
        best = min(costs, key=lambda one: costs[one])
        assert abs(costs[best] - cost) < 1e-3, "a cost that nothing leads to"
        return best

    def _edge(self, bits: int, a: Node, b: Node) -> float:
        along_x, along_y = self._edges[bits]
        if a[1] == b[1]:
            return float(along_x[a[1], min(a[0], b[0])])
        return float(along_y[min(a[1], b[1]), a[0]])

    # ---- places beyond those that are gathered at once

    def _bring(self, tree: Tree, place: int) -> bool:
        """Brings one more place to the tree, where that costs least; whether there is a way."""
        price = self.priced(frozenset({place}))
        alone = _Gathering(self.lattice, [self.places[place]], lambda _: price)
        alone._gather(1, (0,))
        best: tuple[float, int, int, Node, int] | None = None
        for number, leg in enumerate(tree.legs):
            for piece, (a, b) in enumerate(itertools.pairwise(leg.nodes)):
                for node in between(a, b):
                    way = way_between(b, a)
                    for side in ((way + 1) % 4, (way + 3) % 4):
                        cost = float(alone._moved[1, side, node[1], node[0]])
                        if best is None or cost < best[0] - _SAME:
                            best = cost, number, piece, node, side
        if best is None or not best[0] < _NEVER:
            return False
        cost, number, piece, node, side = best
        tree.cost += cost + price.branch + price.elbow
        split(tree, number, piece, node)
        at = number
        while at >= 0:
            tree.legs[at].places |= {place}
            at = tree.legs[at].parent
        branch = Tree(0.0)
        alone._trace(branch, (1, side, back_from(node, side)), number, node, in_line=False)
        branch.legs[0].places = frozenset({place})
        tree.legs += branch.legs
        return True


def _parts(bits: int) -> list[int]:
    """The proper parts of a set that are not empty."""
    found, part = [], (bits - 1) & bits
    while part:
        found.append(part)
        part = (part - 1) & bits
    return found


def _members(bits: int) -> list[int]:
    return [place for place in range(bits.bit_length()) if bits >> place & 1]


def _from_side(moved: Array) -> Array:
    """For each way the cheaper of what comes from its two sides."""
    return np.minimum(np.roll(moved, 1, axis=0), np.roll(moved, -1, axis=0))


def _summed(edges: Array, axis: int) -> Array:
    """How far each node is along its line (Y, X)."""
    shape = (edges.shape[0], 1) if axis == 1 else (1, edges.shape[1])
    return np.concatenate([np.zeros(shape), np.cumsum(edges, axis=axis)], axis=axis)
