"""The choices of gates that matter: which are checked, which is worst, and a gate that is left open so that a
wide main carries.
"""

import random
from dataclasses import replace
from itertools import combinations

import pytest

from purvel.review import Answers, Grade, Memory
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.choices import _at_once
from purvel.review.ducts.flow_rules import grade_of_choice
from purvel.review.ducts.report import report
from purvel.review.ducts.standing import Worst, carried, worst_of_choice
from purvel.review.trying import remedies_for
from purvel.shop import GateSet, Join, PortRef, Shop, WorkInterval
from purvel.shop.edits import change, change_ducts, remove
from purvel.shop.faults import faults
from tests.review.test_rules import fired, piped, two_drops

__all__ = ["piped", "two_drops"]


def ducts_of(shop: Shop) -> DuctAnswers:
    return Answers(shop, Memory()).of(DuctAnswers)


def with_work(shop: Shop, *work: WorkInterval) -> Shop:
    session = replace(shop.air.session, work=work)
    return replace(shop, air=replace(shop.air, session=session))


def test_machines_whose_work_overlaps_are_checked_together(two_drops: Shop) -> None:
    assert set(ducts_of(two_drops).choices) == {"alone/saw/cabinet", "alone/planer/hood"}
    saw = WorkInterval(id="a", thing="saw", start=0.0, minutes=20.0)
    after = WorkInterval(id="b", thing="planer", start=20.0, minutes=5.0)
    assert len(ducts_of(with_work(two_drops, saw, after)).choices) == 2  # one after the other
    during = replace(after, start=19.0)
    both = ducts_of(with_work(two_drops, saw, during)).choices["together/saw+planer"]
    assert set(both.open) == {"gate", "planer-gate"} and both.name.endswith("and Thickness planer")
    own = GateSet(id="own", open=("gate", "planer-gate"))  # the user's own stands for it
    shop = change_ducts(with_work(two_drops, saw, during), gate_sets=(own,))
    assert not [one for one in ducts_of(shop).choices if one.startswith("together/")]


def test_a_set_without_a_name_goes_by_its_gates(two_drops: Shop) -> None:
    own = (
        GateSet(id="both", open=("gate", "planer-gate")),
        GateSet(id="named", name="Mine", open=("gate",)),
        GateSet(id="shut"),
        GateSet(id="again", name="Mine", open=("planer-gate",)),
    )
    choices = ducts_of(change_ducts(two_drops, gate_sets=own)).choices
    names = {gate.id: gate.name or gate.id for run in two_drops.ducts.runs for gate in run.gates}
    assert [choices[one.id].name for one in own] == [
        f"{names['gate']} + {names['planer-gate']}",
        "Mine",
        "Nothing open",
        "Mine (2)",
    ]


@pytest.mark.parametrize("seed", range(6))
def test_machines_at_once_are_found_as_by_looking_at_each_two(seed: int) -> None:
    """Each pair once, as it comes first in the day; work of no machine, or of no length, is in no pair."""
    rng = random.Random(seed)
    work = [
        WorkInterval(
            id=f"w{k}",
            thing=rng.choice(("saw", "planer", "bandsaw", "sander", None)),
            start=float(rng.randrange(0, 60, 5)),
            minutes=float(rng.choice((0, 5, 10, 15))),
        )
        for k in range(14)
    ]
    found = dict[frozenset[str | None], tuple[str | None, str | None]]()
    for one, other in combinations(work, 2):
        minutes = min(one.start + one.minutes, other.start + other.minutes) - max(one.start, other.start)
        if minutes > 0 and one.thing and other.thing and one.thing != other.thing:
            found.setdefault(frozenset((one.thing, other.thing)), (one.thing, other.thing))
    assert list(_at_once(work)) == list(found.values())
    assert list(_at_once(work[:1])) == list(_at_once(())) == []


def test_what_is_worst_in_a_choice_and_beyond_all_choices(two_drops: Shop) -> None:
    ducts = ducts_of(two_drops)
    for_chips, for_fine = (change_ducts(two_drops, target=target) for target in ("chips", "fine"))
    (network,) = ducts.networks
    for one in network.sets:
        worst = worst_of_choice(for_chips, network.layout, one)
        shares = [
            hood.flow / network.layout.segments[hood.segment].hood.chips_flow  # type: ignore[union-attr]
            for hood in one.hoods
            if hood.is_open
        ]
        assert worst.hood is not None and worst.hood_share == pytest.approx(min(shares))
        assert worst.segment is not None
        speed = one.segments[worst.segment].speed
        wants = carried(network.layout, one)[worst.segment].limits.want
        assert worst.speed_share == pytest.approx(speed / wants)
        told = next(
            row["worst"]
            for row in report(Answers(two_drops, Memory()))["ducts"][0]["gate_sets"]
            if row["id"] == one.id
        )
        assert told["segment"] == network.layout.segments[worst.segment].id
    fine = worst_of_choice(for_fine, network.layout, network.sets[0])
    assert fine.hood_share < worst_of_choice(for_chips, network.layout, network.sets[0]).hood_share
    opened, shut = ducts.bounds(network).sets
    assert (
        opened.flow
        > max(one.flow for one in network.sets)
        > min(one.flow for one in network.sets)
        > shut.flow
    )
    assert shut.source_pressure > opened.source_pressure
    assert worst_of_choice(for_chips, network.layout, shut) == Worst(None, 1.0, None, 1.0)
    parts = carried(network.layout, opened)  # of several hoods and runs the worst
    worst = worst_of_choice(for_chips, network.layout, opened)
    ends = [(hood.flow, network.layout.segments[hood.segment].hood) for hood in opened.hoods if hood.at_work]
    shares = [flow / end.chips_flow for flow, end in ends if end is not None]
    assert worst.hood_share == pytest.approx(min(shares)) and min(shares) < max(shares)
    speeds = [abs(one.speed) / part.limits.want for one, part in zip(opened.segments, parts)]
    assert worst.speed_share == pytest.approx(min(speeds)) and min(speeds) < max(speeds)
    assert ducts.choice_name(opened.id) == "All open" and ducts.choice_name(shut.id) == "All shut"
    assert [one.rule for one in fired(two_drops, "choice-idle")] == []  # the bounds are no choices


def wide(shop: Shop) -> Shop:
    """The main so wide that one machine's air does not carry in it, and machines with little need."""
    shop = change(change(shop, "main", diameter=0.15), "drop", joins=Join(run="main", at=2.5))
    for name in ("saw", "planer"):
        thing = shop.thing(name)
        assert thing is not None
        ports = tuple(replace(port, chips_flow=0.1, fine_flow=0.1, carries="dust") for port in thing.ports)
        shop = change(shop, name, ports=ports)
    return change_ducts(shop, target="chips")


def test_a_second_gate_is_left_open_where_the_main_is_too_wide(two_drops: Shop) -> None:
    shop = wide(two_drops)
    answers = Answers(shop, Memory())
    settling = [one for one in fired(shop, "chips-move") if one.about == ("alone/saw/cabinet",)]
    assert [one.grade for one in settling] == [Grade.MEND]
    remedies = remedies_for(settling[0], answers)
    (leave,) = [one for one in remedies if one.label.startswith("Leave Planer gate open whenever")]
    after = leave.edit(shop)
    (choice,) = after.ducts.gate_sets
    assert set(choice.open) == {"gate", "planer-gate"}
    assert choice.instead_of == PortRef(thing="saw", port="cabinet") and faults(after) == []
    ducts = ducts_of(after)
    assert "alone/saw/cabinet" not in ducts.choices and "alone/planer/hood" in ducts.choices
    (network,) = ducts.networks
    flows = next(one for one in network.sets if one.id == choice.id)
    lends = {hood.thing: hood.lends for hood in flows.hoods}
    assert lends == {"saw": False, "planer": True}
    assert grade_of_choice(after, network.layout, flows) > Grade.MEND
    # what is open for its air alone is not asked whether that clears chips
    assert all(
        choice.id != one.where.gate_set for one in fired(after, "hood-flow") if one.about == ("planer/hood",)
    )
    gone = remove(after, "saw")
    assert faults(gone) == [] and all(one.instead_of is None for one in gone.ducts.gate_sets)


def test_several_tools_on_one_vac_are_told_of(two_drops: Shop) -> None:
    assert fired(two_drops, "vac-shared") == []
    both = change_ducts(two_drops, gate_sets=(GateSet(id="both", name="Both", open=("gate", "planer-gate")),))
    assert fired(both, "vac-shared") == []  # a collector may
    thing = both.thing("collector")
    assert thing is not None and thing.source is not None
    vac = change(both, "collector", source=replace(thing.source, kind="vac"))
    (shared,) = fired(vac, "vac-shared")
    assert (
        shared.where.gate_set == "both"
        and "by 2 tools" in shared.sentence
        and "one gate at a time" in shared.why
    )
    gateless = change(change(vac, "drop", gates=()), "planer-drop", gates=())
    (shared,) = fired(change_ducts(gateless, gate_sets=()), "vac-shared")
    assert "There is no gate" in shared.why
