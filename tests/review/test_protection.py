"""What to wear, as findings and the card tell it."""

from dataclasses import replace

import pytest

from purvel.catalogue import make_thing
from purvel.review import Answers, Figures, Grade, Memory
from purvel.review.air import STAGE
from purvel.review.air.answers import AirAnswers
from purvel.review.air.protection import Protection, card, is_loud
from purvel.review.reviewing import first_review
from purvel.roomair.wear import noise_dose
from purvel.shop import Shop, Wearer, WorkInterval
from purvel.shop.edits import change, change_air, change_session, put
from tests.conftest import box_room

SAY = Figures("metric")


@pytest.fixture
def shop() -> Shop:
    """A planer of 100 dB(A) at which an hour is worked, half of it in the cut, and some sanding by hand."""
    planer = replace(make_thing("planer", "planer", 2.0, 2.0), noise=100.0)
    work = (
        WorkInterval(
            id="plane",
            name="Planing",
            operation="planer",
            thing="planer",
            start=0,
            minutes=60,
            cutting=0.5,
            emission=(20, 100, 500),
        ),
        WorkInterval(
            id="hand", name="By hand", operation="hand-work", start=70, minutes=30, emission=(0.3, 1.6, 8)
        ),
    )
    bare = put(Shop(room=box_room(6.0, 4.0), units="metric"), planer)
    return change_air(change_session(bare, work=work, minutes=120.0), limit="eu-2023")


def said(shop: Shop, rule: str) -> list:
    return [one for one in first_review(shop, Memory()).findings if one.rule == rule]


def wearing(shop: Shop, **changes: object) -> Shop:
    return change_air(shop, wearer=Wearer(**changes))


def test_the_noise_of_a_day_by_hand(shop: Shop) -> None:
    """Half an hour at 100 and half an hour at 92; what is done by hand is as loud as nobody knows."""
    (found,) = said(shop, "noise-dose")
    by_hand = noise_dose([(100.0, 0.5), (92.0, 0.5)])
    assert found.figures["niosh"] == pytest.approx(by_hand.niosh)
    assert found.grade == Grade.MEND and "wear hearing protection" in found.sentence
    assert "By hand" in found.why
    (worn,) = said(wearing(shop, hearing=27.0), "noise-dose")
    assert worn.figures["under"] == pytest.approx(by_hand.level_8h - 10.0) and worn.grade == Grade.GOOD
    (little,) = said(wearing(shop, hearing=9.0), "noise-dose")
    assert little.grade == Grade.MEND


def test_what_runs_beside_is_breathed_though_it_ends_first(shop: Shop) -> None:
    """By hand from 50 to 80 min, beside the planer until 60: most is at the tool then (exchange of 8)."""
    plane, hand = shop.air.session.work
    answers = Answers(change_session(shop, work=(plane, replace(hand, start=50.0))), Memory())
    day, task = answers.of(AirAnswers).day, answers.of(Protection).tasks[1]
    assert day is not None and task.work.id == "hand"
    room = max(dust for at, dust in zip(day.times, day.courses["central"].total) if 50.0 <= at <= 80.0)
    assert task.breathed[1] == pytest.approx(room + 100 * 0.5 * (1 - plane.capture[1]) / 8)


def test_at_the_limit_hearing_is_protected() -> None:
    """At and above it exposure counts as hazardous (NIOSH 98-126); 84.96 is shown as 85.0."""
    assert [is_loud(level) for level in (84.9, 84.94, 84.96, 85.0, 85.1)] == [False, False, True, True, True]


@pytest.mark.parametrize(
    ("worn", "grade", "says"),
    [
        ({"respirator": "half", "beard": True, "fit_tested": True}, Grade.MEND, "beard"),
        ({"respirator": "half"}, Grade.MEND, "not fit-tested"),
        ({"respirator": "paper"}, Grade.MEND, "no respirator"),
        ({"respirator": "hood", "beard": True}, None, "20 times"),
        ({"respirator": "half", "fit_tested": True}, None, "20 times"),
        ({"respirator": "full", "fit_tested": True, "glasses": True}, None, "arms of glasses"),
    ],
)
def test_what_is_worn_counts_only_as_it_is_worn(
    shop: Shop, worn: dict, grade: Grade | None, says: str
) -> None:
    (found,) = said(wearing(shop, **worn), "respirator-worn")
    assert says in found.sentence
    if grade is None:
        peak = first_review(shop, Memory()).answers.of(Protection).tasks[0].breathed[1]
        assert found.figures["leaves"] == pytest.approx(peak / found.figures["factor"])
    else:
        assert found.grade == grade and found.figures["factor"] == 1.0


def test_factors_are_those_of_the_country_whose_limit_was_chosen(shop: Shop) -> None:
    half = wearing(shop, respirator="half", fit_tested=True)
    (found,) = said(change_air(half, limit="acgih-2024"), "respirator-worn")
    assert found.figures["factor"] == 10.0
    (found,) = said(change_air(half, limit="uk-hardwood-2020"), "respirator-worn")
    assert found.figures["factor"] == 20.0
    assert said(shop, "respirator-worn") == []  # nothing is worn: the usual advice stands


def test_a_mask_that_is_too_weak_is_to_be_mended(shop: Shop) -> None:
    dusty = change(shop, "plane", emission=(4000.0, 20_000.0, 100_000.0))
    (found,) = said(wearing(dusty, respirator="half", fit_tested=True), "respirator-worn")
    assert found.grade == Grade.MEND and found.figures["needed"] > 20


def test_the_card_has_what_each_piece_of_work_asks_for(shop: Shop) -> None:
    cut = change(change(shop, "plane", wood="fibreboard"), "hand", wood="oak-beech")
    (table,) = card(Answers(cut, Memory()), SAY)
    plane, hand = table.rows
    tasks = Answers(cut, Memory()).of(Protection).tasks
    assert plane[0] == "Planing" and SAY.dust(tasks[0].breathed[1]) in plane[1]
    assert plane[3] == "glasses with side shields" and hand[3] == "face shield"
    assert plane[4] == "100 dB(A), protect them" and hand[4] == "not known"
    assert "vapours" in plane[5] and hand[5] == "oak or beech"
    assert tasks[0].factor == pytest.approx(tasks[0].breathed[1] / 2.0)
    bearded = change_air(cut, wearer=Wearer(beard=True))
    assert all(not one.tight for one in Answers(bearded, Memory()).of(Protection).fitting(tasks[0]))


def test_what_is_breathed_at_the_tool_is_the_days_own(shop: Shop) -> None:
    answers = Answers(shop, Memory())
    day = answers.of(AirAnswers).day
    task = answers.of(Protection).tasks[0]
    assert day is not None and task.breathed[1] == pytest.approx(day.courses["central"].personal_peak)


def test_what_begins_where_dusty_work_ends_is_not_that_dusty(shop: Shop) -> None:
    """From the minute at which the planer stops: what hangs in the room, and next to nothing besides."""
    close = change(shop, "hand", start=60.0)
    answers = Answers(close, Memory())
    day = answers.of(AirAnswers).day
    plane, hand = answers.of(Protection).tasks
    assert day is not None
    room = float(day.courses["central"].total.max())
    assert hand.breathed[1] <= room + 1.6 / 8.0 + 1e-9 < plane.breathed[1]


def test_woods_that_ask_for_more(shop: Shop) -> None:
    (treated,) = said(change(shop, "plane", wood="treated"), "wood-harms")
    assert treated.grade == Grade.MEND and "arsenic" in treated.sentence
    (cedar,) = said(change(shop, "plane", wood="red-cedar"), "wood-harms")
    assert cedar.grade == Grade.WATCH
    tasks = Answers(change(shop, "plane", wood="red-cedar"), Memory()).of(Protection).tasks
    assert (tasks[0].limit, tasks[1].limit) == (1.0, 2.0)
    assert said(change(shop, "plane", wood="softwood"), "wood-harms") == [] == said(shop, "wood-harms")


def test_the_report_has_it_and_nothing_without_work(shop: Shop) -> None:
    found = STAGE.report(Answers(shop, Memory()))["protection"]
    assert [one["work"] for one in found["tasks"]] == ["plane", "hand"]
    assert found["tasks"][1]["loud"] is None and found["noise"]["niosh"] > 1
    assert STAGE.report(Answers(change_session(shop, work=()), Memory()))["protection"] is None
