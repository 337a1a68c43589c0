"""The cheapest tree of pipe: against a pocket calculator, and against every tree of small lattices."""

import itertools
from collections import defaultdict
from math import inf

import numpy as np
import pytest

from purvel.airflow import gathering
from purvel.airflow.gathering import gathered
from purvel.airflow.pipe_tree import Lattice, Leg, Node, PipePrice, Priced, Start, crossings

FLAT = PipePrice(10.0, 5.0, 8.0)


def grid(columns: int, rows: int, step: float = 1.0) -> Lattice:
    return Lattice(
        step * np.arange(columns),
        step * np.arange(rows),
        np.ones((rows, columns - 1)),
        np.ones((rows - 1, columns)),
    )


def flat(_: frozenset[int]) -> PipePrice:
    return FLAT


def by_many(places: frozenset[int]) -> PipePrice:
    return PipePrice(10.0 + 3.0 * len(places), 5.0 + len(places), 8.0)


def test_one_place_takes_the_shortest_way_and_one_elbow() -> None:
    tree = gathered(grid(4, 3), [[Start((3, 2), 7.0)]], [Start((0, 0), 0.0)], flat)
    assert tree is not None
    assert tree.cost == pytest.approx(7.0 + 5 * 10.0 + 5.0)
    (leg,) = tree.legs
    assert leg.nodes[0] == (0, 0) and leg.nodes[-1] == (3, 2) and len(leg.nodes) == 3
    assert leg.start == 0 and leg.parent == -1


def test_of_two_starts_the_cheaper_in_all_is_taken() -> None:
    """20 dearer in itself, but 3 m nearer at 10 a metre."""
    tree = gathered(grid(6, 1), [[Start((5, 0), 0.0), Start((2, 0), 20.0)]], [Start((0, 0), 0.0)], flat)
    assert tree is not None and tree.cost == pytest.approx(40.0) and tree.legs[0].start == 1


def test_of_two_roots_the_cheaper_in_all_is_taken() -> None:
    """25 dearer to get to from the source, 3 m of pipe at 10 less from there."""
    roots = [Start((0, 0), 1.0), Start((3, 0), 26.0)]
    tree = gathered(grid(6, 1), [[Start((5, 0), 0.0)]], roots, flat)
    assert tree is not None and tree.root == 1 and tree.cost == pytest.approx(26.0 + 20.0)


def test_two_places_share_a_main() -> None:
    """A main of 3 m with a metre of branch off it: 40 of pipe, an elbow at the branch, the branch fitting."""
    tree = gathered(grid(4, 2), [[Start((3, 0), 0.0)], [Start((2, 1), 0.0)]], [Start((0, 0), 0.0)], flat)
    assert tree is not None and tree.cost == pytest.approx(40.0 + 5.0 + 8.0)
    main, onwards, branch = tree.legs
    assert main.nodes == [(0, 0), (2, 0)] and main.places == {0, 1}
    assert onwards.in_line and onwards.nodes == [(2, 0), (3, 0)] and onwards.places == {0}
    assert not branch.in_line and branch.nodes == [(2, 0), (2, 1)] and branch.parent == 0


def test_what_is_taken_is_gone_round() -> None:
    lattice = grid(4, 2)
    lattice.along_x[0, 1] = inf
    tree = gathered(lattice, [[Start((3, 0), 0.0)]], [Start((0, 0), 0.0)], flat)
    assert tree is not None and tree.cost == pytest.approx(5 * 10.0 + 2 * 5.0)
    lattice.along_x[1, 1] = inf
    assert gathered(lattice, [[Start((3, 0), 0.0)]], [Start((0, 0), 0.0)], flat) is None


def test_dear_floor_is_left_for_cheap() -> None:
    lattice = grid(6, 2)
    lattice.along_x[0] = 4.0
    tree = gathered(lattice, [[Start((5, 0), 0.0)]], [Start((0, 0), 0.0)], flat)
    assert tree is not None and tree.cost == pytest.approx(7 * 10.0 + 2 * 5.0 + 0.0)


# ---- against every tree


def every_tree(columns: int, rows: int, places: list[Node], root: Node, priced: Priced) -> float:
    """The cheapest of all trees on a small lattice, gone through one by one."""
    nodes = [(c, r) for c in range(columns) for r in range(rows)]
    edges = [((c, r), (c + 1, r)) for c, r in nodes if c + 1 < columns]
    edges += [((c, r), (c, r + 1)) for c, r in nodes if r + 1 < rows]
    best = inf
    for many in range(1, len(edges) + 1):
        for chosen in itertools.combinations(edges, many):
            best = min(best, tree_cost(chosen, places, root, priced))
    return best


def tree_cost(chosen: tuple[tuple[Node, Node], ...], places: list[Node], root: Node, priced: Priced) -> float:
    """What a tree costs whose ends are the places; inf for what is no such tree."""
    next_to: dict[Node, list[Node]] = defaultdict(list)
    for a, b in chosen:
        next_to[a].append(b)
        next_to[b].append(a)
    if len(next_to) != len(chosen) + 1 or root not in next_to:
        return inf
    if {node for node in next_to if len(next_to[node]) == 1} - {root} != set(places):
        return inf

    joined = {root}
    for _ in chosen:
        joined |= {other for node in joined for other in next_to[node]}
    if len(joined) != len(next_to):
        return inf

    def walk(node: Node, towards: Node | None) -> tuple[frozenset[int], float]:
        """What comes to a node, gathered and paid for; pipe goes on `towards`."""
        comes = [one for one in next_to[node] if one != towards]
        if not comes:
            return frozenset({places.index(node)}), 0.0
        done = [walk(one, node) for one in comes]
        paid = sum(cost + priced(them).metre for them, cost in done)
        all_of = frozenset().union(*(them for them, _ in done))
        ways = [(node[0] - one[0], node[1] - one[1]) for one in comes]
        out = None if towards is None else (towards[0] - node[0], towards[1] - node[1])
        if len(comes) == 1:
            return all_of, paid + (priced(all_of).elbow if out is not None and out != ways[0] else 0.0)
        if out is None or len(comes) > 2 or ways[0] == (-ways[1][0], -ways[1][1]):
            return all_of, inf
        bends = [priced(them).elbow for (them, _), way in zip(done, ways) if way != out]
        return all_of, paid + bends[0] + priced(all_of).branch

    them, cost = walk(root, None)
    return cost if them == frozenset(range(len(places))) else inf


@pytest.mark.parametrize(
    ("places", "root"),
    [
        ([(3, 0), (3, 2)], (0, 1)),
        ([(3, 0), (1, 2)], (0, 0)),
        ([(0, 2), (3, 2), (3, 0)], (0, 0)),
        ([(0, 0), (3, 0), (2, 2)], (1, 1)),
        ([(0, 0), (3, 1), (1, 2)], (3, 2)),
    ],
)
@pytest.mark.parametrize("priced", [flat, by_many])
def test_nothing_is_cheaper_among_all_trees(places: list[Node], root: Node, priced: Priced) -> None:
    tree = gathered(grid(4, 3), [[Start(place, 0.0)] for place in places], [Start(root, 0.0)], priced)
    assert tree is not None
    best = every_tree(4, 3, places, root, priced)
    assert tree.crosses if best == inf else tree.cost == pytest.approx(best)


# ---- many places


def cost_of(legs: list[Leg], priced: Priced, step: float) -> float:
    """What the legs of a tree come to: pipe, corners, branches."""
    total = 0.0
    for leg in legs:
        price = priced(leg.places)
        total += sum(
            step * price.metre * (abs(a[0] - b[0]) + abs(a[1] - b[1]))
            for a, b in itertools.pairwise(leg.nodes)
        )
        total += price.elbow * max(0, len(leg.nodes) - 2)
        if not leg.in_line:
            total += price.elbow + priced(legs[leg.parent].places).branch
    return total


@pytest.mark.parametrize("many", [2, 5, 7, 12])
def test_a_tree_costs_what_its_legs_do(many: int) -> None:
    """Also where more places are there than are gathered at once."""
    rng = np.random.default_rng(many)
    spots = [(int(k % 14), int(k // 14)) for k in rng.choice(14 * 11, size=many + 1, replace=False)]
    tree = gathered(
        grid(14, 11, 0.5), [[Start(spot, 1.0)] for spot in spots[1:]], [Start(spots[0], 0.0)], flat
    )
    assert tree is not None
    assert tree.cost == pytest.approx(cost_of(tree.legs, flat, 0.5) + many, abs=1e-4)
    ends = {leg.nodes[-1] for leg in tree.legs if leg.start is not None}
    assert ends == set(spots[1:]) and tree.legs[0].places == frozenset(range(many))
    for leg in tree.legs[1:]:
        assert leg.nodes[0] == tree.legs[leg.parent].nodes[-1] and leg.places <= tree.legs[leg.parent].places


def test_what_is_brought_later_costs_little_more(monkeypatch: pytest.MonkeyPatch) -> None:
    rng = np.random.default_rng(5)
    spots = [(int(k % 12), int(k // 12)) for k in rng.choice(12 * 9, size=7, replace=False)]
    places = [[Start(spot, 0.0)] for spot in spots[1:]]
    exact = gathered(grid(12, 9), places, [Start(spots[0], 0.0)], flat)
    monkeypatch.setattr(gathering, "MOST_EXACT", 4)
    later = gathered(grid(12, 9), places, [Start(spots[0], 0.0)], flat)
    assert exact is not None and later is not None
    assert exact.cost - 1e-6 <= later.cost <= 1.15 * exact.cost


def test_pipes_go_round_each_other() -> None:
    """Trees that are not said to cross do not, nor pass a drop that is another's; nearly all are such."""
    crossing = 0
    for seed in range(60):
        rng = np.random.default_rng(seed)
        spots = [(int(k % 10), int(k // 10)) for k in rng.choice(10 * 8, size=6, replace=False)]
        tree = gathered(
            grid(10, 8, 0.5), [[Start(spot, 1.0)] for spot in spots[1:]], [Start(spots[0], 0.0)], by_many
        )
        assert tree is not None and tree.crosses == bool(crossings(tree)), seed
        crossing += tree.crosses
    assert crossing <= 2


def test_a_crossing_is_seen() -> None:
    one = Leg([(0, 1), (4, 1)], -1, True, frozenset({0}), 0)
    other = Leg([(2, 0), (2, 3)], 0, False, frozenset({1}), 0)
    assert [found.node for found in crossings(gathering.Tree(0.0, [one, other]))] == [(2, 1)]
