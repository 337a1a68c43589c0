"""The share of the air in the report: the session with all its inputs."""

from collections.abc import Iterator
from math import inf
from typing import Any

from purvel.catalogue import limits
from purvel.review.air import beyond
from purvel.review.air.answers import AirAnswers
from purvel.review.air.days import week_of
from purvel.review.air.helps import assumptions, measures, smallest_cleaner
from purvel.review.air.hoods import hood_of
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.roomair.course import Course
from purvel.roomair.day import Day
from purvel.roomair.stretches import BANDS, Stretch, worked
from purvel.shop import Air, WorkInterval


def report(answers: Answers) -> dict[str, Any]:
    """`session`, what `helps`, the `week`, and `rooms`, `people`, `passages`."""
    return {
        "session": _day(answers, answers.of(AirAnswers).day),
        "helps": _helps(answers),
        "week": _week(answers),
    } | beyond.report(answers)


def _week(answers: Answers) -> dict[str, Any] | None:
    week, other = week_of(answers), answers.of(AirAnswers).other
    if week is None:
        return None
    return {
        "days": list(week.days),
        "mean": list(week.mean),
        "day_b": None if other is None else _day(other.answers, other.day),
    }


def _helps(answers: Answers) -> dict[str, Any]:
    flow = smallest_cleaner(answers)
    return {
        "measures": [
            {"name": one.name, "breathed": list(one.breathed), "saved": one.saved, "cost": list(one.cost)}
            for one in measures(answers)
        ],
        "assumed": [{"name": one.name, "low": one.low, "high": one.high} for one in assumptions(answers)],
        "smallest_cleaner": None if flow == inf else flow,
    }


def _day(answers: Answers, day: Day | None) -> dict[str, Any] | None:
    if day is None:
        return None
    air = answers.base.air
    return {
        "volume": day.volume,
        "session_minutes": day.session_minutes,
        "last_cut": day.last_cut,
        "clean_level": air.clean_level,
        "clean_fine": air.clean_fine,
        "limit": {
            "name": air.limit,
            "value": limits()[air.limit].value,
            "fraction": limits()[air.limit].fraction,
        },
        "cleaner_delivery": day.clean_delivery,
        "cleaners": [
            {
                "thing": thing,
                "flow": one.flow,
                "loaded": one.loaded,
                "efficiency": list(one.efficiency),
                "mixing": one.mixing,
            }
            for thing, one in answers.of(AirAnswers).cleaners.items()
        ],
        "outdoors": air.outdoors,
        "outdoor_sizes": list(air.outdoor_sizes),
        "at_start": list(air.at_start),
        "penetration": air.penetration,
        "work": [_work(answers, one) for one in worked(answers.of(AirAnswers).air)],
        "switched": _switched(answers),
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


def _switched(answers: Answers) -> list[dict[str, Any]]:
    return [
        {"id": s.id, "thing": s.thing, "start": s.start, "minutes": s.minutes, "speed": s.speed}
        for s in answers.base.air.session.spells
    ]


def _work(answers: Answers, one: WorkInterval) -> dict[str, Any]:
    blown = answers.of(AirAnswers).extractions.get(one.id)
    return {
        "id": one.id,
        "start": one.start,
        "minutes": one.minutes,
        "cutting": one.cutting,
        "emission": list(one.emission),
        "capture": list(one.capture),
        "hood": hood_of(one, answers.of(AirAnswers).pulls) or None,
        "wood": one.wood or None,
        "edge": one.edge,
        "measured": one.measured,
        "fine": None if one.fine is None else list(one.fine),
        "gate_set": one.gate_set,
        "blows_into": None
        if blown is None
        else {
            "source": blown.source,
            "flow": blown.flow,
            "efficiency": list(blown.efficiency),
            "outdoors": blown.outdoors,
        },
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
        "entering": list(one.entering),
        "near": {band: one.near[band] for band in BANDS},
        "exchanged": [list(row) for row in one.exchanged],
    }


def _course(course: Course, air: Air) -> dict[str, Any]:
    return {
        "peak": course.peak,
        "peak_at": course.peak_at,
        "mean": course.mean,
        "average_8h": course.average_8h,
        "personal_8h": course.personal_8h,
        "personal_peak": course.personal_peak,
        "respirable_8h": course.respirable_8h,
        "clear_after": course.clear_after,
        "fine_clear_after": course.fine_clear_after,
        "share_of_limit": course.personal_8h / limits()[air.limit].value,
    }


def summary(answers: Answers, say: Figures) -> Iterator[str]:
    """Peak, average and the time to clear."""
    day = answers.of(AirAnswers).day
    if day is not None:
        course = day.courses["central"]
        where = "" if answers.scene is None else ", in the shop as drawn"
        yield (
            f"Air{where}: peak {say.dust(course.peak)}, breathed over 8 h {say.dust(course.personal_8h)} inhalable,"
            f" clear {say.minutes(course.clear_after)} after the last cut. Emissions are known to a factor of five."
        )
