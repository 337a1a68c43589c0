"""What the rules of room and place say of fixtures, doors, crosscuts, supports and shut doors."""

from dataclasses import replace

import pytest

from purvel.catalogue import make_thing
from purvel.review import Grade, Memory, remedies_for, review
from purvel.review.reviewing import first_review
from purvel.review.trying import can_try
from purvel.shop import Ceiling, Fixture, Opening, Shop, Stock
from purvel.shop.edits import change, change_room, move_thing, put
from tests.conftest import block, box_room, saw
from tests.review.test_rules import fired, grade


def fixture(name: str, kind: str, x: float, y: float, **changes: object) -> Fixture:
    one = Fixture(id=name, kind=kind, name=name.capitalize(), x=x, y=y, width=0.6, depth=0.6)  # type: ignore[arg-type]
    return replace(one, **changes)  # type: ignore[arg-type]


def test_fixtures_are_checked_against_each_other(small_shop: Shop) -> None:
    freezer, heater = fixture("freezer", "freezer", 5.6, 4.6), fixture("heater", "heater", 5.3, 4.6)
    (clash,) = fired(change_room(small_shop, fixtures=(freezer, heater)), "fixtures-overlap")
    assert clash.grade == Grade.MEND and clash.figures["depth"] == pytest.approx(0.3)
    assert (
        fired(change_room(small_shop, fixtures=(freezer, replace(heater, x=5.0))), "fixtures-overlap") == []
    )
    above = replace(heater, bottom=2.0, top=2.4)
    assert (
        fired(change_room(small_shop, fixtures=(replace(freezer, top=0.9), above)), "fixtures-overlap") == []
    )
    assert fired(small_shop, "bodies-overlap") == []
    (outside,) = fired(change_room(small_shop, fixtures=(replace(freezer, x=6.0),)), "fixture-outside")
    assert outside.figures["area"] == pytest.approx(0.18) and outside.stage == "room"


def test_a_freezer_before_the_panel_and_a_post_in_a_swing(small_shop: Shop) -> None:
    panel = fixture("panel", "panel", 3.0, 4.94, width=0.4, depth=0.12, bottom=1.2, top=1.9)
    freezer = fixture("freezer", "freezer", 3.0, 4.4, top=0.9)
    shop = change_room(small_shop, fixtures=(panel, freezer))
    (blocked,) = fired(shop, "panel-space")
    assert blocked.about == ("freezer", "panel") and blocked.grade == Grade.STOP
    assert fired(change_room(small_shop, fixtures=(panel, replace(freezer, x=5.0))), "panel-space") == []
    # the door is in wall D, 0.3 m from its start in the upper left corner
    post = fixture("post", "post", 0.5, 4.3, width=0.1, depth=0.1)
    (hit,) = fired(change_room(small_shop, fixtures=(post,)), "door-swing")
    assert hit.about == ("post", "door")
    bay = fixture("bay", "parking bay", 0.5, 4.3)
    assert fired(change_room(small_shop, fixtures=(bay,)), "door-swing") == []


def test_two_doors_that_hit_each_other_are_said(small_shop: Shop) -> None:
    door = small_shop.room.openings[0]
    other = Opening(id="other", kind="swing", wall="C", offset=5.0, width=0.9, head=2.0, hinge="end")
    (meet,) = fired(put(small_shop, other), "doors-meet")
    assert meet.about == ("door", "other") and meet.figures["area"] > 0.1
    for apart in (replace(other, offset=0.2), replace(other, swing="out"), replace(other, kind="sliding")):
        assert fired(put(small_shop, apart), "doors-meet") == []
    assert door.swing == "in"


def test_a_ceiling_under_two_metres_is_said_once(small_shop: Shop) -> None:
    low = change_room(small_shop, ceiling=Ceiling(height=1.95))
    (said,) = fired(low, "ceiling-low")
    assert said.figures["height"] == 1.95 and fired(small_shop, "ceiling-low") == []
    assert all("ceiling" not in one.sentence for one in fired(low, "standing-room"))


def test_a_saw_that_stands_in_a_bench_is_raised_onto_it(small_shop: Shop) -> None:
    """Its base is 80 mm below the bench's top: that, not 650 mm along the floor, is how far off it is."""
    bench = make_thing("workbench", "low", 2.0, 4.0, 180.0)
    mitre = replace(make_thing("bench-mitre-saw", "mitre", 2.0, 4.0, 180.0), z=0.80)
    shop = put(put(small_shop, bench), mitre)
    (clash,) = fired(shop, "bodies-overlap")
    assert clash.figures["rise"] == pytest.approx(0.08) and "80 mm of height" in clash.sentence
    answers = first_review(shop, Memory()).answers
    cure = remedies_for(clash, answers)[0]
    assert cure.label == "Raise Mitre saw on the bench by 80 mm, onto Workbench"
    raised = cure.edit(shop).thing("mitre")
    assert raised is not None and raised.z == pytest.approx(0.88)
    assert fired(cure.edit(shop), "bodies-overlap") == []


def with_mitre(shop: Shop, x: float, length: float) -> Shop:
    mitre = make_thing("mitre-saw", "mitre", x, 4.4)
    return replace(
        put(replace(shop, things=()), mitre), stock=Stock(length=length, width=0.2, thickness=0.02)
    )


def test_what_a_mitre_saw_takes(small_shop: Shop) -> None:
    """6 m between the walls: the blade 1 m from the left one."""
    (anywhere,) = fired(with_mitre(small_shop, 1.0, 1.0), "lane")
    assert anywhere.grade == Grade.GOOD and "anywhere" in anywhere.sentence
    (tips,) = fired(with_mitre(small_shop, 2.0, 2.4), "lane")
    assert tips.grade == Grade.WATCH and "tip on the left and right" in tips.sentence
    (trims,) = fired(with_mitre(small_shop, 1.0, 2.4), "lane")
    assert (
        trims.grade == Grade.WATCH
        and "2000 mm" in trims.sentence
        and "wall D, shut, is on the left" in trims.sentence
    )
    (short,) = fired(with_mitre(small_shop, 1.0, 5.5), "lane")
    assert short.grade == Grade.MEND and "5000 mm to trim" in short.sentence
    assert short.figures["longest_board"] == pytest.approx(2.0)
    assert fired(with_mitre(small_shop, 1.0, 1.0), "kickback-line") == []


def test_where_stock_is_turned(small_shop: Shop) -> None:
    def at(y: float) -> Shop:
        return put(replace(small_shop, things=()), make_thing("drill-press", "press", 3.0, y))

    (round_,) = fired(at(2.5), "round-zone")
    assert round_.grade == Grade.GOOD and "all round" in round_.sentence and round_.figures["free"] == 1.0
    (wall,) = fired(at(4.6), "round-zone")
    assert wall.grade == Grade.GOOD and "not all round" in wall.sentence and 0 < wall.figures["free"] < 0.5
    boxed = (block("a", 2.5, 2.5, 0.1, 3.0, 1.5), block("b", 3.5, 2.5, 0.1, 3.0, 1.5))
    shut = put(put(put(at(2.5), boxed[0]), boxed[1]), block("c", 3.0, 3.2, 0.8, 0.1, 1.5))
    (none,) = fired(put(shut, block("d", 3.0, 1.8, 0.8, 0.1, 1.5)), "round-zone")
    assert none.grade == Grade.MEND and none.figures["free"] == 0


def with_outfeed(shop: Shop, gap: float, height: float, **changes: object) -> Shop:
    table = make_thing("outfeed-table", "table", 3.0, 2.5 + 0.375 + gap + 0.4)
    return put(shop, replace(table, height=height, work_height=height, **changes))  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("gap", "height", "worth", "words"),
    [
        (0.02, 0.859, Grade.GOOD, "carries boards up to 2390 mm"),
        (0.02, 0.861, Grade.GOOD, "carries boards"),
        (0.02, 0.8615, Grade.MEND, "proud"),
        (0.02, 0.85, Grade.WATCH, "10 mm below"),
        (0.02, 0.78, Grade.MEND, "80 mm below the table of Table saw: boards drop"),
        (0.29, 0.86, Grade.WATCH, "290 mm away. A gap of 290 mm lets boards under 580 mm drop in"),
        (0.29, 0.78, Grade.MEND, "lets boards under 580 mm drop in"),
    ],
)
def test_an_outfeed_is_told_as_it_is(
    small_shop: Shop, gap: float, height: float, worth: Grade, words: str
) -> None:
    (said,) = fired(with_outfeed(small_shop, gap, height), "support-level")
    assert (said.grade, words in said.sentence) == (worth, True), said.sentence


def test_a_low_outfeed_is_raised(small_shop: Shop) -> None:
    shop = with_outfeed(small_shop, 0.02, 0.78)
    answers = first_review(shop, Memory()).answers
    (cure,) = remedies_for(fired(shop, "support-level")[0], answers)
    assert cure.label == "Raise Outfeed table to 858 mm"
    assert grade(cure.edit(shop), "support-level") == Grade.GOOD


def test_heights_that_contradict_each_other_are_said(small_shop: Shop) -> None:
    assert fired(with_outfeed(small_shop, 0.02, 0.858), "table-height") == []
    odd = with_outfeed(small_shop, 0.02, 0.858)
    (said,) = fired(change(odd, "table", work_height=0.80), "table-height")
    assert said.figures["over"] == pytest.approx(-0.058) and "858 mm high, its table 800 mm" in said.sentence
    assert fired(change(odd, "saw", work_height=0.95), "table-height")[0].about == ("saw",)


def test_where_nothing_carries_the_board_it_is_said(small_shop: Shop) -> None:
    longer = replace(small_shop, stock=replace(small_shop.stock, length=1.5))
    (bare,) = fired(longer, "support-none")
    assert bare.where.items == ("saw",) and "750 mm" in bare.why
    assert fired(with_outfeed(longer, 0.02, 0.858), "support-none") == []
    short = replace(small_shop, stock=replace(small_shop.stock, length=0.7))
    assert fired(short, "support-none") == []


def behind_a_door(**changes: object) -> Shop:
    door = Opening(
        id="side", kind="swing", wall="C", offset=2.5, width=1.0, head=2.0, swing="out", outside=3.0
    )
    room = box_room(openings=(replace(door, **changes),))  # type: ignore[arg-type]
    stock = Stock(length=2.4, width=0.2, thickness=0.02)
    return Shop(units="metric", room=room, things=(saw(3.0, 3.5),), stock=stock, hand_room=0.5)


def test_a_board_that_ends_at_a_shut_door_is_told_of_the_door_and_offered_it() -> None:
    shop = behind_a_door()
    checked = review(shop)
    (lane,) = [one for one in checked.findings if one.rule == "lane"]
    assert "swing door in wall C, shut," in lane.sentence
    labels = [move.label for move in remedies_for(lane, checked.answers)]
    assert labels[0] == "Open the swing door in wall C while you feed"
    for changes in ({"sill": 1.0}, {"head": 0.8}, {"offset": 1.9}, {"width": 0.5, "offset": 2.95}):
        (lane,) = fired(behind_a_door(**changes), "lane")
        assert "wall C" in lane.sentence and "shut" not in lane.sentence, changes


def test_a_move_is_named_once_for_each_thing(small_shop: Shop) -> None:
    shop = move_thing(small_shop, "bench", 3.6, 2.6)
    checked = first_review(shop, Memory())
    (clash,) = [one for one in checked.findings if one.rule == "bodies-overlap"]
    moves = remedies_for(clash, checked.answers)
    names = [move.label.split(" ")[1] for move in moves]
    assert moves and len(names) == len(set(names))


def test_what_cuts_off_the_rest_is_moved_aside(small_shop: Shop) -> None:
    """A cupboard that leaves a hand on either side of a 5 m room: the cure stands at the cause."""
    shop = put(small_shop, block("cupboard", 1.6, 2.5, 0.2, 4.8, 2.0))
    (cut,) = fired(shop, "cut-off")
    checked = first_review(shop, Memory())
    moves = remedies_for(cut, checked.answers)
    assert len(moves) <= 1 and all(move.label.startswith("Move cupboard") for move in moves)
    two = put(put(small_shop, block("a", 1.6, 1.0, 0.2, 2.0, 2.0)), block("b", 1.6, 3.5, 0.2, 3.0, 2.0))
    assert fired(two, "cut-off") == [] or len(fired(two, "cut-off")) == 1


def test_nothing_small_helped_is_said_by_its_card(small_shop: Shop) -> None:
    """Both stand where nothing else is free."""
    shop = replace(
        small_shop, things=(block("a", 3.0, 2.5, 5.9, 4.9, 1.0), block("b", 3.0, 2.5, 5.8, 4.8, 1.0))
    )
    checked = first_review(shop, Memory())
    (clash,) = [one for one in checked.findings if one.rule == "bodies-overlap"]
    assert remedies_for(clash, checked.answers) == () and can_try(clash)
    good = next(one for one in review(small_shop).findings if one.grade == Grade.GOOD)
    assert not can_try(good)
