"""The day laid over a monitor's log."""

from dataclasses import replace

import numpy as np
import pytest

from purvel.files import Document, attached
from purvel.review import Answers, Memory
from purvel.review.air.answers import AirAnswers
from purvel.review.air.played import over_log, played
from purvel.shop import Air, Session, Shop, WorkInterval
from purvel.shop.edits import put
from tests.conftest import box_room
from tests.review.test_logs import MINUTES, checked, csv, noise


def test_the_day_lies_over_the_log_that_it_was() -> None:
    work = (WorkInterval(id="sand", start=30, minutes=20, emission=(10, 50, 250)),)
    shop = Shop(units="metric", room=box_room(), air=Air(session=Session(work=work, minutes=110)))
    day = Answers(shop, Memory()).of(AirAnswers).day
    assert day is not None
    course = played(day, shop.air)
    expected = np.interp(MINUTES * 60, course.seconds, course.counts(0.5))
    made = attached(Document(shop), "log.csv", csv(3.0 * expected + 100), "log")
    place = over_log(checked(made).answers, "attachment-1")
    assert (
        place is not None
        and place[2].at == pytest.approx(0.0, abs=30)
        and place[2].times == pytest.approx(3.0, rel=0.03)
    )
    flat = attached(Document(shop), "log.csv", csv(100 * noise()), "log")
    assert over_log(checked(flat).answers, "attachment-1") is None
    assert over_log(checked(made).answers, "none such") is None
    # the same log, another day: what is kept of the one is not taken for the other
    review = checked(made)
    later = put(made.shop, replace(work[0], start=60))
    again = Answers(later, review.answers.memory)
    first, second = (over_log(each, "attachment-1") for each in (review.answers, again))
    assert first is not None and (second is None or not np.array_equal(first[1], second[1]))
    assert over_log(review.answers, "attachment-1") is first
