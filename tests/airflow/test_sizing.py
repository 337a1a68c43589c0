"""Sizes for all runs: what the batch computes is what the solver says, and the best is the best of all."""

import itertools
from dataclasses import replace

import numpy as np
import pytest

from purvel.airflow import sizing
from purvel.airflow.layout import layouts
from purvel.airflow.network import solve
from purvel.airflow.segments import Leaks
from purvel.airflow.sized import SizedSystem
from purvel.airflow.sizing import HOLDS, Asked, Sizing, sizings
from purvel.shop import Ducts, Gate, Join, Port, PortRef, Run, Source, Thing, Vertex
from purvel.stopping import Stopped, while_wanted
from tests.airflow.test_network import STANDARD, blower

SIZES = (0.08, 0.1, 0.125, 0.15)
LEAKS = Leaks(gate_gap=2e-4)


def machine(name: str, x: float, y: float, diameter: float = 0.1) -> Thing:
    port = Port(
        id="port", x=0, y=0, z=1.0, diameter=diameter, entry_loss=1.5, chips_flow=0.165, fine_flow=0.3
    )
    return Thing(id=name, kind="saw", x=x, y=y, width=0.6, depth=0.6, height=1.0, ports=(port,))


def fan(source: Source | None = None) -> Thing:
    source = source or replace(blower(), curve_from="maker", inlet_z=1.0)
    return Thing(id="fan", kind="collector", width=0.5, depth=0.5, height=1.5, source=source)


THINGS = (fan(), machine("near", 3.0, 2.0), machine("far", 6.0, 2.0), machine("end", 9.0, 0.0))
MAIN = Run(id="main", diameter=0.15, source="fan", points=(Vertex(x=6.0, y=0.0, z=1.0),))
NEAR = Run(
    id="near-drop",
    diameter=0.1,
    joins=Join(run="main", at=3.0),
    port=PortRef(thing="near", port="port"),
    gates=(Gate(id="near-gate", at=0.3),),
)
END = Run(
    id="end-run",
    diameter=0.1,
    material="ribbed-hose",
    slack=0.1,
    joins=Join(run="main"),
    port=PortRef(thing="end", port="port"),
    gates=(Gate(id="end-gate", at=0.3),),
)
FAR = replace(NEAR, id="far-drop", joins=Join(run="main", at=5.0), port=PortRef(thing="far", port="port"))
FAR = replace(FAR, gates=(Gate(id="far-gate", at=0.3),))
SETS = ((("near-gate",), {}), (("end-gate",), {}), (("near-gate", "end-gate"), {"near-gate": 0.5}))


def system(*runs: Run, sizes: tuple[float, ...] = SIZES, things: tuple[Thing, ...] = THINGS) -> SizedSystem:
    return SizedSystem(Ducts(runs=runs), things, "fan", sizes, SETS, STANDARD, LEAKS)


def asked(of: SizedSystem, flow: float = 0.08, speed: float = 9.0) -> Asked:
    """Each hood whose gate is open the same flow, in all runs on its way the same speed."""
    segments = of.layout.segments
    flows = np.zeros((len(SETS), len(of.layout.hoods)))
    speeds = np.zeros((len(SETS), len(segments)))
    for row, (opened, _) in enumerate(SETS):
        for column, index in enumerate(of.layout.hoods):
            if all(gate in opened for at in of.layout.way(index) for gate in segments[at].gates):
                flows[row, column] = flow
                speeds[row, list(of.layout.way(index))] = speed
    return Asked(flows, speeds)


def prices(of: SizedSystem) -> np.ndarray:
    """Longer runs cost more, wider ones too; no two sums alike."""
    return np.array([[(1.0 + 0.37 * k) * (5 + 100 * size) for size in of.sizes] for k in range(len(of.runs))])


def one_by_one(
    of: SizedSystem, ducts: Ducts, wants: Asked
) -> dict[tuple[int, ...], tuple[float, float, float]]:
    """By assignment the least share of anything asked, the least of any flow, and the sum of suctions: each
    laid out and solved by itself.
    """
    found = {}
    for sizes in itertools.product(range(len(of.sizes)), repeat=len(of.runs)):
        by_run = dict(zip(of.runs, sizes))
        runs = tuple(replace(run, diameter=of.sizes[by_run[run.id]]) for run in ducts.runs)
        (layout,) = layouts(replace(ducts, runs=runs), THINGS)
        choices = [(str(k), gates) for k, (gates, _) in enumerate(SETS)]
        sets = solve(layout, choices, STANDARD, LEAKS, [drawn for _, drawn in SETS]).sets
        assert all(one.converged for one in sets)
        flow = min(
            one.hoods[column].flow / want
            for one, row in zip(sets, wants.flows)
            for column, want in enumerate(row)
            if want > 0
        )
        speed = min(
            one.segments[index].speed / want
            for one, row in zip(sets, wants.speeds)
            for index, want in enumerate(row)
            if want > 0
        )
        found[sizes] = min(flow, speed), flow, sum(one.duct_suction for one in sets)
    return found


def last(found: object) -> Sizing:
    return list(found)[-1]  # type: ignore[call-overload,no-any-return]


@pytest.fixture(scope="module")
def small() -> tuple[SizedSystem, Asked, dict[tuple[int, ...], tuple[float, float, float]]]:
    runs = (MAIN, NEAR, END)
    of = system(*runs)
    wants = asked(of)
    return of, wants, one_by_one(of, Ducts(runs=runs), wants)


def test_many_sizes_at_once_are_what_each_is_by_itself(small: tuple) -> None:
    of, wants, each = small
    everything = list(each)
    found = of.evaluate(np.array(everything))
    assert found.solved.all()
    flow = np.where(wants.flows > 0, found.flows / np.where(wants.flows > 0, wants.flows, 1.0), np.inf)
    for k, one in enumerate(everything):
        _, least, suction = each[one]
        assert flow[k].min() == pytest.approx(least, rel=1e-5)
        assert found.suction[k].sum() == pytest.approx(suction, rel=1e-5)


@pytest.mark.parametrize("is_whole", [True, False])
def test_the_least_cost_is_the_least_of_all(
    small: tuple, is_whole: bool, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Gone through as a whole, and found by searching on and then proven."""
    of, wants, each = small
    if not is_whole:
        monkeypatch.setattr(sizing, "MOST_PROVEN", 0)
    costs = prices(of)
    hold = {
        one: sum(costs[k, size] for k, size in enumerate(one))
        for one, (share, _, _) in each.items()
        if share >= HOLDS
    }
    assert 0 < len(hold) < len(each)
    best = min(hold, key=lambda one: hold[one])
    found = last(sizings(of, wants, costs, "cost"))
    assert found.is_proven and found.done == 1.0
    assert found.best.sizes == {run: of.sizes[size] for run, size in zip(of.runs, best)}
    assert found.best.cost == pytest.approx(hold[best])
    assert found.best.growth == pytest.approx(each[best][1], rel=1e-5)
    if is_whole:
        assert found.tried == len(each)
        grow = [(hold[one], each[one][1]) for one in hold]
        frontier = [one for one in grow if not any(c <= one[0] and g > one[1] + 1e-9 for c, g in grow)]
        assert sorted(one.cost for one in found.frontier) == pytest.approx(
            sorted(cost for cost, _ in frontier)
        )


def test_the_least_loss_is_the_least_of_all(small: tuple) -> None:
    of, wants, each = small
    hold = {one: suction for one, (share, _, suction) in each.items() if share >= HOLDS}
    best = min(hold, key=lambda one: hold[one])
    found = last(sizings(of, wants, prices(of), "loss"))
    assert found.best.loss == pytest.approx(hold[best], rel=1e-6)
    assert found.best.sizes == {run: of.sizes[size] for run, size in zip(of.runs, best)}


def test_where_nothing_holds_the_nearest_is_told_and_what_gives_way(small: tuple) -> None:
    of, _, _ = small
    much = asked(of, flow=0.5, speed=25.0)
    each = one_by_one(of, Ducts(runs=(MAIN, NEAR, END)), much)
    found = last(sizings(of, much, prices(of), "cost"))
    assert not found.best.holds and found.frontier == ()
    assert found.best.share == pytest.approx(max(share for share, _, _ in each.values()), rel=1e-5)
    assert found.binds[0].share == pytest.approx(found.best.share, rel=1e-5)
    shares = [one.share for one in found.binds]
    assert shares == sorted(shares) and all(
        (one.hood is None) != (one.segment is None) for one in found.binds
    )


def test_a_larger_system_is_searched_on_and_comes_to_the_proven_best(monkeypatch: pytest.MonkeyPatch) -> None:
    """Four runs of six sizes: the search from beginnings against all 1296."""
    of = system(MAIN, NEAR, FAR, END, sizes=(0.063, 0.08, 0.1, 0.125, 0.15, 0.175))
    wants = asked(of)
    proven = last(sizings(of, wants, prices(of), "cost"))
    assert proven.is_proven and proven.tried == 6**4
    monkeypatch.setattr(sizing, "MOST_PROVEN", 0)
    for aim in ("cost", "loss"):
        whole = proven if aim == "cost" else None
        *before, found = sizings(of, wants, prices(of), aim)  # type: ignore[arg-type]
        assert before and not any(one.is_proven for one in before)
        if whole is not None:
            assert found.best.cost == pytest.approx(whole.best.cost) and found.is_proven
        assert found.best.holds
        assert found.tried < 6**4


def test_what_is_left_untried_when_the_time_is_over_is_no_proof(small: tuple) -> None:
    of, wants, _ = small
    costs = prices(of)
    for seconds in (1e-9, 60.0):
        found = last(sizings(of, wants, costs, "cost", seconds, most_proven=0))
        assert found.is_proven is (seconds > 1.0) and found.done == 1.0


def test_two_sources_are_refused_and_what_leads_nowhere() -> None:
    second = replace(fan(), id="second", x=12.0)
    line = Run(id="line", diameter=0.15, source="second", joins=Join(run="main"))
    with pytest.raises(ValueError, match="Two sources"):
        system(MAIN, NEAR, line, things=(*THINGS, second))
    with pytest.raises(ValueError, match="No run leads"):
        SizedSystem(Ducts(runs=(MAIN, NEAR)), THINGS, "near", SIZES, SETS, STANDARD, LEAKS)


def test_a_search_that_nobody_waits_for_is_stopped(small: tuple) -> None:
    of, wants, _ = small
    with while_wanted(lambda: False), pytest.raises(Stopped):
        next(iter(sizings(of, wants, prices(of))))


def test_a_hood_that_is_blown_back_is_not_served() -> None:
    there, wanted = np.array([[[-0.2, 0.1]]]), np.array([[0.1, 0.0]])
    assert sizing._Search._shares(there, wanted).tolist() == [[[-2.0, np.inf]]]
