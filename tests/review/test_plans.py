"""Ways to collect the dust side by side: each as it would be solved alone, and what it costs and asks for."""

from dataclasses import replace

import pytest

from purvel.airflow.on_hose import BENDS, HUNG, on_hose
from purvel.airflow.sources import SourceCurve
from purvel.catalogue import kinds, make_thing, transport
from purvel.catalogue.money import duct_prices, prices
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Answers, Figures, Memory
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.plan_words import bore_table, plan_tables, said
from purvel.review.ducts.plans import OWN_HOSE, ROLLED_HOSE, Plan, bores, main_source, plans, set_ups
from purvel.shop import Shop, WorkInterval
from tests.airflow.test_network import STANDARD


@pytest.fixture(scope="module")
def garage() -> Answers:
    return Answers(loads(demo_bytes("garage")).shop, Memory())


def by_key(answers: Answers) -> dict[str, Plan]:
    return {one.key: one for one in plans(answers)}


def test_more_hose_and_less_bore_give_less() -> None:
    source, port = make_thing("collector", "c").source, make_thing("planer", "p").ports[0]
    assert source is not None
    flows = [on_hose(source, port, length, 0.1, STANDARD).flow for length in (0.5, 3.0, 9.0)]
    assert flows == sorted(flows, reverse=True) and flows[0] > 1.3 * flows[2]
    assert on_hose(source, port, 3.0, 0.125, STANDARD).flow > flows[1]


def test_the_working_point_lies_on_the_curve_and_on_what_the_hose_asks() -> None:
    """Suction behind the hood is (1 + its entry coefficient) velocity pressures of the hose, by hand."""
    source, port = make_thing("collector", "c").source, make_thing("planer", "p").ports[0]
    assert source is not None
    one = on_hose(source, port, 3.0, 0.1, STANDARD)
    pressure = 0.5 * STANDARD.density * one.speed**2
    assert one.suction == pytest.approx((1 + port.entry_loss) * pressure, rel=0.02)
    assert 0 < one.flow < SourceCurve(source).free_flow
    assert pytest.approx(2 * 0.55) == BENDS and 0 < HUNG < 0.5


def test_what_is_rolled_is_the_source_that_moves_most(garage: Answers) -> None:
    own, other = make_thing("collector", "c"), make_thing("collector", "other", 3.0, 3.0)
    assert own.source is not None
    one, two, three = own.source.curve[0], own.source.curve[-2], own.source.curve[-1]
    steeper = replace(
        own.source, curve=(one, replace(two, flow=0.9 * three.flow), replace(three, flow=0.95 * three.flow))
    )
    for first, second in ((own, replace(other, source=steeper)), (replace(other, source=steeper), own)):
        shop = Shop(room=garage.shop.room, things=(first, second))
        found = main_source(Answers(shop, Memory()))
        assert found is not None and found.id == "c"
    assert main_source(Answers(Shop(), Memory())) is None


def test_each_plan_has_its_costs_and_metres(garage: Answers) -> None:
    found = by_key(garage)
    machines = [thing for thing in garage.shop.things if thing.ports]
    assert list(found) == ["rolled", "long", "vacs", "fixed"]
    assert found["rolled"].hose == ROLLED_HOSE and found["vacs"].hose == OWN_HOSE * len(machines)
    (low, high), (end_low, end_high) = duct_prices().of("m", 0.1), duct_prices().of("piece", 0.1)
    assert found["rolled"].cost == pytest.approx((3 * low + 2 * end_low, 3 * high + 2 * end_high))
    assert found["vacs"].cost[0] > len(machines) * prices()["vac"][0]
    parts = garage.of(DuctAnswers).parts
    assert found["fixed"].cost[0] == pytest.approx(
        sum(one.amount * duct_prices().of(one.unit, one.size, one.material)[0] for one in parts)
    )
    assert found["fixed"].moves == found["vacs"].moves == 0 < found["rolled"].moves


def test_what_is_fixed_is_what_the_network_gives(garage: Answers) -> None:
    network = garage.of(DuctAnswers).networks[0]
    for one in by_key(garage)["fixed"].hoods:
        most = max(h.flow for s in network.sets for h in s.hoods if h.at_work and h.thing == one.thing)
        assert one.flow == most
        port = next(p for t in garage.shop.things if t.id == one.thing for p in t.ports if p.id == one.port)
        assert one.chips == pytest.approx(most / port.chips_flow)


def test_a_move_is_another_machine_begun() -> None:
    shop = loads(demo_bytes("garage")).shop
    day = shop.air.session

    def work(*things: str) -> Shop:
        steps = tuple(
            WorkInterval(id=f"w{n}", thing=thing, start=10.0 * n, minutes=5.0)
            for n, thing in enumerate(things)
        )
        return replace(shop, air=replace(shop.air, session=replace(day, work=steps)))

    dusty = {"planer", "jointer", "table-saw"}
    for things, moves in (
        (("planer", "planer", "jointer", "planer"), 3),
        (("planer", "workbench", "planer"), 1),  # at the bench nothing is collected: the hose stays
        ((), None),
    ):
        answers = Answers(work(*things), Memory())
        if moves is not None:
            assert set_ups(answers, dusty) == moves
        else:
            assert set_ups(answers, dusty) > 0  # by the jobs


def test_a_trial_keeps_the_hose_that_drops_take(garage: Answers) -> None:
    long = by_key(garage)["long"]
    assert 0 < long.stays <= long.hose
    text = " ".join(said(garage, Figures("metric")))
    assert "stays useful at the drops" in text and "have not proven their place yet" in text


def test_bores_are_held_against_each_other_on_the_same_port(garage: Answers) -> None:
    saw = next(thing for thing in garage.shop.things if thing.id == "table-saw")
    found = list(bores(garage, saw, saw.ports[0]))
    assert [round(one.size, 3) for one in found] == [0.036, 0.05, 0.1, 0.15]
    assert found[0].at.speed > found[2].at.speed and found[0].at.flow < found[2].at.flow
    assert found[2].at.carries == pytest.approx(found[2].at.speed / transport("dust").want)
    table = bore_table(garage, saw, saw.ports[0], Figures("metric"))
    assert [row[0] for row in table.rows] == [kinds()[k].name for k in ("vac", "vac", "collector", "cyclone")]
    assert table.rows[0][-1] == "neither here" and table.rows[2][-1] == "chips, not fine dust"


def test_tables_say_what_is_served(garage: Answers) -> None:
    ways, machines = plan_tables(garage, Figures("imperial"))
    assert [row[1] for row in ways.rows] == ["5 of 5", "0 of 5", "1 of 5", "2 of 5"]
    assert machines.rows[3][-1] == "not connected"
    assert not list(plan_tables(Answers(Shop(), Memory()), Figures("metric")))
    bare = replace(garage.shop, ducts=replace(garage.shop.ducts, runs=(), gate_sets=()))
    (fixed,) = [one for one in plans(Answers(bare, Memory())) if one.key == "fixed"]
    assert "Nothing is drawn" in fixed.why_none
