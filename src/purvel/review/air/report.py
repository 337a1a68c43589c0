"""The share of the air in the report: the session with all its inputs."""

from collections.abc import Iterator
from typing import Any

from purvel.catalogue import limits
from purvel.review.air.answers import AirAnswers
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.roomair.day import BANDS, Course, Day, Stretch
from purvel.shop import Air, WorkInterval


def report(answers: Answers) -> dict[str, Any]:
    """`session`."""
    return {"session": _day(answers, answers.of(AirAnswers).day)}


def _day(answers: Answers, day: Day | None) -> dict[str, Any] | None:
    if day is None:
        return None
    air = answers.base.air
    return {
        "volume": day.volume,
        "session_minutes": day.session_minutes,
        "last_cut": day.last_cut,
        "clean_level": air.clean_level,
        "limit": {
            "name": air.limit,
            "value": limits()[air.limit].value,
            "fraction": limits()[air.limit].fraction,
        },
        "cleaner_delivery": day.clean_delivery,
        "cleaners": [
            {"thing": thing.id, "flow": one.flow, "efficiency": list(one.efficiency), "mixing": one.mixing}
            for thing in answers.base.things
            if (one := thing.cleaner) is not None
        ],
        "outdoors": air.outdoors,
        "penetration": air.penetration,
        "work": [_work(one) for one in air.session.work],
        "sizes": [
            {
                "name": s.name,
                "low": s.low,
                "high": s.high,
                "diameter": s.diameter,
                "share": s.share,
                "settling": s.settling,
            }
            for s in day.sizes
        ],
        "stretches": [_stretch(one) for one in day.stretches],
        "bands": {band: _course(course, air) for band, course in day.courses.items()},
    }


def _work(one: WorkInterval) -> dict[str, Any]:
    return {
        "id": one.id,
        "start": one.start,
        "minutes": one.minutes,
        "emission": list(one.emission),
        "capture": list(one.capture),
    }


def _stretch(one: Stretch) -> dict[str, Any]:
    return {
        "start": one.start,
        "end": one.end,
        "cleaner_on": one.cleaner_on,
        "air_changes": one.air_changes,
        "spells": list(one.intervals),
        "removal": list(one.removal),
        "released": {band: list(one.released[band]) for band in BANDS},
    }


def _course(course: Course, air: Air) -> dict[str, Any]:
    return {
        "peak": course.peak,
        "peak_at": course.peak_at,
        "mean": course.mean,
        "average_8h": course.average_8h,
        "respirable_average_8h": course.respirable_average_8h,
        "clear_after": course.clear_after,
        "share_of_limit": course.average_8h / limits()[air.limit].value,
    }


def summary(answers: Answers, say: Figures) -> Iterator[str]:
    """Peak, average and the time to clear."""
    day = answers.of(AirAnswers).day
    if day is not None:
        course = day.courses["central"]
        where = "" if answers.scene is None else ", in the shop as drawn"
        yield (
            f"Air{where}: peak {say.dust(course.peak)}, 8 h average {say.dust(course.average_8h)} inhalable, clear"
            f" {say.minutes(course.clear_after)} after the last cut. Emissions are known to a factor of five."
        )
