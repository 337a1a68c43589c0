"""Work of the session and jobs, as parts."""

from dataclasses import replace

from purvel.shop.air import WorkInterval
from purvel.shop.jobs import Job
from purvel.shop.part import Part, Ref, one
from purvel.shop.shop import Shop


def _put_work(shop: Shop, intervals: tuple[WorkInterval, ...]) -> Shop:
    """They stay in order of time."""
    ordered = tuple(sorted(intervals, key=lambda interval: interval.start))
    return replace(shop, air=replace(shop.air, session=replace(shop.air.session, work=ordered)))


WORK = Part(
    "work interval",
    WorkInterval,
    lambda shop: shop.air.session.work,
    _put_work,
    refs=(
        Ref(
            "thing",
            lambda interval: one(interval.thing),
            lambda interval, _: replace(interval, thing=None),
            "is work at a thing",
        ),
        Ref(
            "gate set",
            lambda interval: one(interval.gate_set),
            lambda interval, _: replace(interval, gate_set=None),
            "is worked with the gate choice",
        ),
    ),
    unique=True,
)


def _stations(job: Job) -> tuple[str, ...]:
    return tuple(step.station for step in job.steps if step.station is not None)


def _without_station(job: Job, thing: str) -> Job:
    """Its steps there look for another station."""
    steps = (replace(step, station=None) if step.station == thing else step for step in job.steps)
    return replace(job, steps=tuple(steps))


JOBS = Part(
    "job",
    Job,
    lambda shop: shop.jobs,
    lambda shop, jobs: replace(shop, jobs=jobs),
    refs=(
        Ref("thing", _stations, _without_station, "works at a station"),
        Ref(
            "opening or thing",
            lambda job: one(job.comes_from),
            lambda job, _: replace(job, comes_from=None),
            "has stock that comes from",
        ),
    ),
    unique=True,
)
