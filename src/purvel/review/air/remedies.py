"""What would help the air: better hoods, a cleaner, the doors."""

from collections.abc import Callable, Iterator
from dataclasses import replace

from purvel.catalogue import captures, make_thing, operations
from purvel.review.air.answers import AirAnswers
from purvel.review.air.hoods import AS_DRAWN, hood_of
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Finding
from purvel.review.room.answers import RoomAnswers
from purvel.review.scenes import tried
from purvel.review.stage import Candidate, Progress, Proposer
from purvel.roomair.course import Course
from purvel.shop import Shop, WorkInterval
from purvel.shop.edits import Edit, change_session, fresh_id, put
from purvel.shop.parts import name_of


def _exposure(_: Finding, answers: Answers, __: Figures) -> Iterator[Candidate]:
    yield from _ranked(answers, lambda course: course.personal_8h)


def _clearing(_: Finding, answers: Answers, __: Figures) -> Iterator[Candidate]:
    yield from _ranked(answers, _minutes_to_clear)


def _minutes_to_clear(course: Course) -> float:
    return max(float("inf") if one is None else one for one in (course.clear_after, course.fine_clear_after))


def _ranked(answers: Answers, figure: Callable[[Course], float]) -> list[Candidate]:
    """Better hoods, a cleaner, the doors; ranked by how much each lowers a figure of the day."""
    candidates = [*better_hoods(answers), *more_cleaning(answers), *open_doors(answers)]

    def after(candidate: Candidate) -> float:
        day = tried(answers, candidate[1]).of(AirAnswers).day
        return 0.0 if day is None else figure(day.courses["central"])

    return sorted(candidates, key=after)


def better_hoods(answers: Answers) -> Iterator[tuple[str, Edit]]:
    """For each machine, and each kind of work by hand, the next better hood that it can have; its port and
    its duct are then still to do.
    """
    shop, pulled = answers.base, answers.of(AirAnswers).pulls
    improved: dict[tuple[str, str], list[WorkInterval]] = {}
    for interval in shop.air.session.work:
        now, has = hood_of(interval, pulled), interval.capture[1]
        has = captures()[now].share[1] if now else has
        hoods = operations()[interval.operation].hoods
        better = next((key for key in hoods if captures()[key].share[1] > has), None)
        if better is not None:
            of = interval.thing if interval.thing and shop.thing(interval.thing) else interval.operation
            improved.setdefault((of, better), []).append(interval)
    for (of, better), intervals in improved.items():
        names = {interval.name for interval in intervals}
        work = (
            f"“{intervals[0].name}”" if len(names) == 1 else operations()[intervals[0].operation].name.lower()
        )
        what = f"at {name_of(shop, of)}" if shop.thing(of) else f"for {work}"
        yield f"{captures()[better].name} {what}", _hooded(tuple(one.id for one in intervals), better)


def _hooded(intervals: tuple[str, ...], hood: str) -> Edit:
    def edit(shop: Shop) -> Shop:
        work = (
            replace(
                interval,
                hood=hood,
                measured=False,
                capture=captures()[hood].share if hood in captures() else interval.capture,
            )
            if interval.id in intervals
            else interval
            for interval in shop.air.session.work
        )
        return change_session(shop, work=tuple(work))

    return edit


def more_cleaning(answers: Answers) -> Iterator[tuple[str, Edit]]:
    """A cleaner where there is none; else the one that is there for longer."""
    session = answers.base.air.session
    if not any(thing.cleaner for thing in answers.base.things):
        yield from hang_a_cleaner(answers)
    elif not session.cleaner_on:
        yield "Switch the cleaner on for the session", session_with(cleaner_on=True)
    elif session.run_on < 120:
        yield "Let the cleaner run two hours after work", session_with(run_on=120.0)


def session_with(**changes: float | bool) -> Edit:
    """The session otherwise."""

    def edit(shop: Shop) -> Shop:
        return change_session(shop, **changes)

    return edit


def hang_a_cleaner(answers: Answers) -> Iterator[tuple[str, Edit]]:
    """One in the middle under the ceiling, running."""
    shop, corners = answers.base, answers.of(RoomAnswers).traverse.corners
    if not corners or any(thing.cleaner for thing in shop.things):
        return
    x, y = sum(c[0] for c in corners) / len(corners), sum(c[1] for c in corners) / len(corners)
    cleaner = make_thing("air-cleaner", fresh_id(shop, "air-cleaner"), x, y)
    hung = replace(cleaner, z=max(0.0, min(2.05, shop.room.ceiling.height - cleaner.height)))

    def edit(shop: Shop) -> Shop:
        return change_session(put(shop, hung), cleaner_on=True, run_on=max(shop.air.session.run_on, 120.0))

    yield "Hang an air cleaner and let it run two hours after work", edit


def _cleaner(_: Finding, answers: Answers, __: Figures) -> Iterator[Candidate]:
    yield from hang_a_cleaner(answers)
    if any(thing.cleaner for thing in answers.base.things) and not answers.base.air.session.cleaner_on:
        yield "Switch the cleaner on for the session", session_with(cleaner_on=True)


def open_doors(answers: Answers) -> Iterator[tuple[str, Edit]]:
    """Outdoor air, where a door or window leads there."""
    if not answers.base.air.session.doors_open and answers.of(AirAnswers).leads_out:
        yield "Work with the doors open", session_with(doors_open=True)


def _as_drawn(finding: Finding, answers: Answers, _: Figures) -> Iterator[Candidate]:
    intervals = tuple(
        interval.id
        for interval in answers.base.air.session.work
        if (interval.thing or interval.id,) == finding.about
    )
    yield "Reckon with the hood that is drawn", _hooded(intervals, AS_DRAWN)


def _longer_session(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    interval = next(one for one in answers.base.air.session.work if one.id == finding.about[0])
    end = interval.start + interval.minutes
    if end <= 1440:
        yield f"Let the session last {say.minutes(end)}", session_with(minutes=end)


def _a_fifth_less(figure: str) -> Progress:
    def better(before: Finding, after: Finding) -> bool:
        return after.figures[figure] < 0.8 * before.figures[figure]

    return better


def _more_running(before: Finding, after: Finding) -> bool:
    return after.figures["running"] > before.figures["running"]


REMEDIES: dict[str, Proposer] = {
    "exposure": _exposure,
    "clearing": _clearing,
    "cleaner": _cleaner,
    "capture-assumed": _as_drawn,
    "work-late": _longer_session,
}
PROGRESS: dict[str, Progress] = {
    "exposure": _a_fifth_less("personal_8h"),
    "cleaner": _more_running,
    "clearing": _a_fifth_less("clear_after"),
}
