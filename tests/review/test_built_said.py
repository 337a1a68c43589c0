"""What is said of things that were measured again, and of those on trial."""

from dataclasses import replace
from datetime import date

import pytest

from purvel.review import Grade, Memory, remedies_for
from purvel.review.place import built_rules
from purvel.review.reviewing import first_review
from purvel.shop import AsBuilt, FromWall, Shop
from purvel.shop.edits import change, put, remove
from tests.conftest import block
from tests.review.test_rules import fired


def read(day: str, left: float, below: float, angle: float | None = None) -> AsBuilt:
    distances = (FromWall(wall="D", distance=left), FromWall(wall="A", distance=below))
    return AsBuilt(day=day, corner="front left", distances=distances, angle=angle)


@pytest.fixture
def chest(small_shop: Shop) -> Shop:
    """A chest whose front left corner is drawn at (0.5, 3.7)."""
    return put(small_shop, block("chest", 1.0, 4.0, 1.0, 0.6, 0.8))


def with_readings(shop: Shop, *readings: AsBuilt) -> Shop:
    return change(shop, "chest", built=readings)


def test_what_stands_off_its_place_is_said_and_can_be_accepted(chest: Shop) -> None:
    shop = with_readings(chest, read("2026-11-01", 0.52, 3.66))
    (off,) = fired(shop, "as-built")
    assert off.grade == Grade.WATCH
    assert off.sentence == "Chest stands 20 mm to the right, 40 mm back of where it is drawn."
    assert "On 2026-11-01 its front left corner was read: 520 mm from wall D, 3660 mm from wall A." in off.why
    assert "Since" not in off.why  # one reading tells no drift
    (cure,) = remedies_for(off, first_review(shop, Memory()).answers)
    after = cure.edit(shop)
    moved = after.thing("chest")
    assert moved is not None and (moved.x, moved.y) == pytest.approx((1.02, 3.96))
    assert [one.grade for one in fired(after, "as-built")] == [Grade.GOOD]
    assert fired(chest, "as-built") == []


def test_what_is_only_turned_and_what_stands_well(chest: Shop) -> None:
    well = with_readings(chest, read("2026-11-01", 0.504, 3.695))
    assert fired(well, "as-built")[0].sentence == "Chest stands where it is drawn."
    turned = with_readings(chest, AsBuilt(day="2026-11-01", corner="front left", angle=2.0))
    (said,) = fired(turned, "as-built")
    assert said.grade == Grade.WATCH and "turned 2.0° to the left" in said.sentence


def test_drift_is_from_the_first_reading_to_the_last(chest: Shop) -> None:
    went = with_readings(chest, read("2026-09-01", 0.50, 3.70), read("2026-11-01", 0.50, 3.73))
    assert "Since 2026-09-01 it has moved by 30 mm" in fired(went, "as-built")[0].why
    stays = with_readings(chest, read("2026-09-01", 0.53, 3.70), read("2026-11-01", 0.53, 3.70))
    assert "Since 2026-09-01 it has not moved." in fired(stays, "as-built")[0].why
    across = (FromWall(wall="D", distance=0.5), FromWall(wall="B", distance=4.5))  # which tells no place
    first = AsBuilt(day="2026-09-01", corner="front left", distances=across)
    assert (
        "Since" not in fired(with_readings(chest, first, read("2026-11-01", 0.53, 3.70)), "as-built")[0].why
    )


def test_a_wall_that_goes_takes_its_distances_along(chest: Shop) -> None:
    shop = with_readings(
        chest,
        read("2026-11-01", 0.52, 3.66),
        AsBuilt(day="2026-11-02", corner="front left", distances=(FromWall(wall="D", distance=1.0),)),
    )
    thing = remove(shop, "D").thing("chest")
    assert thing is not None
    assert [[one.wall for one in reading.distances] for reading in thing.built] == [["A"]]


def test_how_long_things_are_on_trial(chest: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(built_rules, "today", lambda: date(2026, 11, 27))
    assert fired(chest, "trial") == []
    shop = change(change(chest, "chest", trial_since="2026-11-04"), "saw", trial_since="2026-11-27")
    shop = change(shop, "bench", settled=True, trial_since="2026-01-01")
    (said,) = fired(shop, "trial")
    assert said.sentence == "On trial: chest for 23 days; Table saw since today."
    assert said.figures["longest"] == 23 and "Fixed: Workbench." in said.why
    assert replace(said, sentence="").grade == Grade.GOOD


def test_a_day_that_is_none_is_not_counted(chest: Shop) -> None:
    assert fired(change(chest, "chest", trial_since="2026-02-31"), "trial") == []
