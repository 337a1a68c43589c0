"""What is said of a source's curve that goes through the user's own readings."""

from dataclasses import replace

from purvel.review import Answers, Grade, Memory
from purvel.review.ducts.report import report
from purvel.shop import Shop
from purvel.shop.edits import change
from tests.review.test_rules import fired, piped

__all__ = ["piped"]


def test_both_readings_take_the_place_of_what_was_guessed(piped: Shop) -> None:
    thing = piped.thing("collector")
    assert thing is not None and thing.source is not None
    assert len(fired(piped, "curve-representative")) == 1
    one = change(piped, "collector", source=replace(thing.source, sealed=2000.0))
    assert len(fired(one, "curve-representative")) == 1 and fired(one, "curve-read") == []
    both = change(piped, "collector", source=replace(thing.source, sealed=2000.0, open_flow=0.45))
    (read,) = fired(both, "curve-read")
    assert (
        read.grade == Grade.GOOD
        and "2,000 Pa with its inlet blocked, 1,620 m³/h with it open" in read.sentence
    )
    assert fired(both, "curve-representative") == []
    curve = report(Answers(both, Memory()))["ducts"][0]["curve"]
    assert curve["sealed"] == 2000.0 and curve["open_flow"] == 0.45 and curve["shut_off"] == 2000.0
    assert curve["band"] == [[0.97, 0.9], [1.03, 1.1]]
