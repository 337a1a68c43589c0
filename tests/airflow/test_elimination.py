"""Newton's step through the tree is the one by the matrix; both lead to the same flows."""

import numpy as np
import pytest

from purvel.airflow import network
from purvel.airflow.arrays import Arrays
from purvel.airflow.elimination import Node, Slopes, nodes_of, step
from purvel.airflow.segments import Layout, Leaks
from tests.airflow.test_network import STANDARD, blower, large_layout
from tests.airflow.test_two_sources import SEALED, two_fans


def slopes(arrays: Arrays, rows: int, seed: int) -> Slopes:
    """Slopes as they might be, with some ways sealed."""
    rng = np.random.default_rng(seed)
    many, ways = arrays.passes.shape
    return Slopes(
        rng.uniform(1e2, 1e5, (rows, many)),
        rng.uniform(0.0, 1e4, (rows, many)),
        rng.uniform(1e2, 1e5, (rows, ways)),
        rng.normal(0.0, 500.0, (rows, ways)),
        rng.uniform(1e2, 1e4, rows),
        arrays.coupling * rng.uniform(0.5, 1.5, arrays.coupling.shape),
        arrays.sign,
        rng.random((rows, ways)) > 0.2,
    )


@pytest.mark.parametrize("hoods", [1, 2, 7, 25])
@pytest.mark.parametrize("leaks", [Leaks(2e-4), Leaks(0.0), Leaks(2e-4, 5e-5)])
def test_the_step_through_the_tree_is_that_by_the_matrix(hoods: int, leaks: Leaks) -> None:
    layout, choices = large_layout(hoods)
    arrays = Arrays(layout, [frozenset(gates) for _, gates in choices[:4]], leaks)
    at = slopes(arrays, 5, hoods)
    at.miss[~at.flowing] = 0.0
    by_tree, by_matrix = step(arrays.nodes, at), network._by_matrix(arrays, at)
    assert by_tree == pytest.approx(by_matrix, rel=1e-7, abs=1e-9 * float(np.abs(by_matrix).max()))
    assert (by_tree[~at.flowing] == 0).all()


def test_it_goes_out_through_a_second_source_too() -> None:
    layout = two_fans(blower())
    arrays = Arrays(layout, [frozenset({"g"})], SEALED)
    assert (arrays.sign < 0).any()
    at = slopes(arrays, 4, 3)
    at.miss[~at.flowing] = 0.0
    assert step(arrays.nodes, at) == pytest.approx(network._by_matrix(arrays, at), rel=1e-7, abs=1e-12)


def test_a_joint_of_one_way_and_one_leg_by_hand() -> None:
    """One hood of slope 4 behind pipe of slope 3 on a source of slope 2, 18 Pa too much: 18 / 9 = 2 less."""
    nodes = (Node(0, (), (0,)), Node(-1, (0,), ()))
    one = np.ones((1, 1))
    at = Slopes(3.0 * one, one, 4.0 * one, 18.0 * one, 2.0 * one[0], np.zeros((1, 1)), np.ones(1), one > 0)
    assert step(nodes, at) == pytest.approx(np.array([[-2.0]]))


@pytest.mark.parametrize("leaks", [Leaks(2e-4), Leaks(0.0)])
def test_flows_are_the_same_whichever_way_is_taken(monkeypatch: pytest.MonkeyPatch, leaks: Leaks) -> None:
    layout, choices = large_layout(9)

    def flows() -> list[list[float]]:
        return [
            [hood.flow for hood in one.hoods] for one in network.solve(layout, choices, STANDARD, leaks).sets
        ]

    monkeypatch.setattr(network, "MOST_DENSE", 10**12)
    by_matrix = flows()
    monkeypatch.setattr(network, "MOST_DENSE", 0)
    assert np.array(flows()) == pytest.approx(np.array(by_matrix), rel=1e-6, abs=1e-9)


def test_the_nodes_go_from_the_ends_to_the_source() -> None:
    layout: Layout = large_layout(3)[0]
    nodes = nodes_of(layout, list(layout.hoods))
    assert [node.segment for node in nodes] == [*reversed(range(len(layout.segments))), -1]
    seen: set[int] = set()
    for node in nodes:
        assert set(node.legs) <= seen
        seen.add(node.segment)
    assert sorted(way for node in nodes for way in node.ways) == [0, 1, 2]
