"""What would help the air: better hoods, a cleaner, the doors."""

from collections.abc import Callable, Iterator
from dataclasses import replace

from purvel.catalogue import captures, make_thing, operations
from purvel.review.air.answers import AirAnswers
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Finding
from purvel.review.room.answers import RoomAnswers
from purvel.review.scenes import tried
from purvel.review.stage import Candidate, Progress, Proposer
from purvel.roomair.day import Course
from purvel.shop import Shop, WorkInterval
from purvel.shop.edits import Edit, change_session, fresh_id, put
from purvel.shop.parts import name_of

_BETTER_HOOD = {
    "none": "bag",
    "saw-below": "saw-both",
    "mitre-port": "mitre-shroud",
    "bandsaw-one": "bandsaw-two",
    "sander-poor": "sander-vac",
    "hand-tool": "sander-vac",
    "bag": "sander-vac",
    "lathe": "lathe-sanding",
}


def _exposure(_: Finding, answers: Answers, __: Figures) -> Iterator[Candidate]:
    yield from _ranked(answers, lambda course: course.average_8h)


def _clearing(_: Finding, answers: Answers, __: Figures) -> Iterator[Candidate]:
    yield from _ranked(answers, _minutes_to_clear)


def _minutes_to_clear(course: Course) -> float:
    return float("inf") if course.clear_after is None else course.clear_after


def _ranked(answers: Answers, figure: Callable[[Course], float]) -> list[Candidate]:
    """Better hoods, a cleaner, the doors; ranked by how much each lowers a figure of the day."""
    candidates = [*_better_hoods(answers), *_more_cleaning(answers), *_open_doors(answers)]

    def after(candidate: Candidate) -> float:
        day = tried(answers, candidate[1], answers.memory.scratch()).of(AirAnswers).day
        return 0.0 if day is None else figure(day.courses["central"])

    return sorted(candidates, key=after)


def _better_hoods(answers: Answers) -> Iterator[Candidate]:
    shop = answers.base
    improved: dict[tuple[str, str], list[str]] = {}
    for interval in shop.air.session.work:
        better = _better_hood(interval)
        if better and captures()[better].share[1] > interval.capture[1]:
            improved.setdefault((interval.thing or interval.id, better), []).append(interval.id)
    for (thing, better), intervals in improved.items():
        work = next(interval.name for interval in shop.air.session.work if interval.id in intervals)
        what = f"at {name_of(shop, thing)}" if shop.thing(thing) else f"for “{work}”"
        yield f"{captures()[better].name} {what}", _capturer(tuple(intervals), captures()[better].share)


def _better_hood(interval: WorkInterval) -> str:
    """The hood that catches more than the one this work has; empty where none is known."""
    usual = operations()[interval.operation].capture if interval.operation in operations() else "none"
    by_share = {capture.share: key for key, capture in captures().items()}
    now = by_share.get(interval.capture, "")
    return _BETTER_HOOD.get(now, usual if interval.capture[1] < captures()[usual].share[1] else "")


def _capturer(intervals: tuple[str, ...], share: tuple[float, float, float]) -> Edit:
    def edit(shop: Shop) -> Shop:
        work = (
            replace(interval, capture=share) if interval.id in intervals else interval
            for interval in shop.air.session.work
        )
        return change_session(shop, work=tuple(work))

    return edit


def _more_cleaning(answers: Answers) -> Iterator[Candidate]:
    session = answers.base.air.session
    if not any(thing.cleaner for thing in answers.base.things):
        yield from _hang_a_cleaner(answers)
    elif not session.cleaner_on:
        yield "Switch the cleaner on for the session", _session(cleaner_on=True)
    if session.cleaner_on and session.run_on < 120:
        yield "Let the cleaner run two hours after work", _session(run_on=120.0)


def _session(**changes: float | bool) -> Edit:
    def edit(shop: Shop) -> Shop:
        return change_session(shop, **changes)

    return edit


def _hang_a_cleaner(answers: Answers) -> Iterator[Candidate]:
    """One in the middle under the ceiling, running."""
    shop, corners = answers.base, answers.of(RoomAnswers).traverse.corners
    if not corners or any(thing.cleaner for thing in shop.things):
        return
    x, y = sum(c[0] for c in corners) / len(corners), sum(c[1] for c in corners) / len(corners)
    cleaner = make_thing("air-cleaner", fresh_id(shop, "air-cleaner"), x, y)
    hung = replace(cleaner, z=max(0.0, min(2.05, shop.room.ceiling.height - cleaner.height)))

    def edit(shop: Shop) -> Shop:
        return change_session(put(shop, hung), cleaner_on=True)

    yield "Hang an air cleaner", edit


def _cleaner(_: Finding, answers: Answers, __: Figures) -> Iterator[Candidate]:
    yield from _hang_a_cleaner(answers)


def _open_doors(answers: Answers) -> Iterator[Candidate]:
    if not answers.base.air.session.doors_open and answers.base.room.openings:
        yield "Work with the doors open", _session(doors_open=True)


def _lower_capture(finding: Finding, answers: Answers, _: Figures) -> Iterator[Candidate]:
    intervals = tuple(
        interval.id for interval in answers.base.air.session.work if (interval.thing,) == finding.about
    )
    yield "Count on nothing being caught there until it is", _capturer(intervals, captures()["none"].share)


def _a_fifth_less(figure: str) -> Progress:
    def better(before: Finding, after: Finding) -> bool:
        return after.figures[figure] < 0.8 * before.figures[figure]

    return better


REMEDIES: dict[str, Proposer] = {
    "exposure": _exposure,
    "clearing": _clearing,
    "cleaner": _cleaner,
    "capture-assumed": _lower_capture,
}
PROGRESS: dict[str, Progress] = {
    "exposure": _a_fifth_less("average_8h"),
    "clearing": _a_fifth_less("clear_after"),
}
