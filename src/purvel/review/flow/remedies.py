"""What would help the flow of work: another hold, another door, a station moved, added or swapped."""

from collections.abc import Iterator
from dataclasses import replace

from purvel.catalogue import kinds, make_thing, trade_operations
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Finding
from purvel.review.flow.answers import FlowAnswers
from purvel.review.moves import along_the_room, collides, mover, words_for
from purvel.review.place.rules import quick_findings
from purvel.review.room.answers import RoomAnswers
from purvel.review.scenes import tried
from purvel.review.stage import Candidate, Progress, Proposer
from purvel.shop import Shop, Thing
from purvel.shop.edits import Edit, change, fresh_id, move_thing, put
from purvel.shop.jobs import Job
from purvel.shop.parts import item_of, name_of
from purvel.space.placing import free_spot
from purvel.stopping import go_on

_SHIFTS = (0.20, 0.50)  # m that what jams is moved by


def _job(shop: Shop, job_id: str) -> Job | None:
    job = item_of(shop, job_id)
    return job if isinstance(job, Job) else None


def _station(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """A kind that does the step, where there is room for it."""
    operation = trade_operations().get(finding.about[0])
    for kind in operation.by if operation is not None else ():
        thing = make_thing(kind, fresh_id(answers.shop, kind))
        spot = free_spot(thing, answers.shop.things, answers.of(RoomAnswers).shell)
        if spot is None:
            continue
        placed = replace(thing, x=spot[0], y=spot[1])
        yield f"Place a {kinds()[kind].name.lower()}", _placer(placed)


def _placer(thing: Thing) -> Edit:
    return lambda shop: put(shop, thing)


def _carry(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """Held the other way, through another door, or with what is in the way moved: what gets it there."""
    for label, edit, *_ in _ways_round(finding, answers, say):
        go_on()
        flows = tried(answers, edit).of(FlowAnswers)
        job = finding.about[0]
        if job in flows.jobs and not any(finding.about[2] in one.stuck for one in flows.hauls(job)):
            yield label, edit


def _ways_round(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    shop, job = answers.shop, _job(answers.shop, finding.about[0])
    if job is None:
        return
    other = "on edge" if job.held == "flat" else "flat"
    yield f"Carry it {other}", _changer(job.id, held=other)
    for opening in shop.room.openings:
        if opening.id != finding.about[1] and opening.kind != "window":
            yield f"Bring it in by {name_of(shop, opening.id)}", _changer(job.id, comes_from=opening.id)
    jammed = (shop.thing(item) for item in finding.where.items if item != finding.about[2])
    thing = next((one for one in jammed if one is not None and not one.settled), None)
    if thing is not None:
        yield from _aside(thing, answers, say)


def _changer(item: str, **changes: object) -> Edit:
    return lambda shop: change(shop, item, **changes)


def _aside(thing: Thing, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """The thing a little aside, where it stands clear and nothing of placing gets worse."""
    burden = _stops(answers, say)
    for shift in _SHIFTS:
        for dx, dy in along_the_room(shift, answers, (0.0, 180.0, 90.0, 270.0)):
            place = (thing.x + dx, thing.y + dy, thing.angle)
            trial = tried(answers, mover(thing.id, place))
            if not collides(trial, thing) and _stops(trial, say) <= burden:
                yield words_for(thing, place, say), mover(thing.id, place)


def _stops(answers: Answers, say: Figures) -> int:
    return sum(finding.grade == 0 for finding in quick_findings(answers, say))


def _lift(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    job = _job(answers.shop, finding.about[0])
    if job is not None:
        half = replace(job.stock, length=round(job.stock.length / 2, 4))
        yield f"Cut it to {say.length(half.length)} before it comes in", _changer(job.id, stock=half)


def _leg(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """The station of the leg swapped with another."""
    flow = answers.of(FlowAnswers).jobs.get(finding.about[0])
    if flow is None:
        return
    burden = _stops(answers, say)
    one = answers.shop.thing(finding.about[2])
    stations = {station.thing for station in flow.stations if station.thing}
    for other in answers.shop.things:
        fits = one is not None and other.id in stations and other.id != one.id
        if not fits or one is None or one.settled or other.settled:
            continue
        edit = _swapper(one, other)
        trial = tried(answers, edit)
        clear = not collides(trial, one) and not collides(trial, other)
        if clear and _stops(trial, say) <= burden:
            yield f"Swap {name_of(answers.shop, one.id)} and {name_of(answers.shop, other.id)}", edit


def _swapper(one: Thing, other: Thing) -> Edit:
    def edit(shop: Shop) -> Shop:
        moved = move_thing(shop, one.id, other.x, other.y, other.angle)
        return move_thing(moved, other.id, one.x, one.y, one.angle)

    return edit


def _shorter(before: Finding, after: Finding) -> bool:
    """A tenth less to walk in all."""
    return after.figures["total"] < 0.9 * before.figures["total"]


REMEDIES: dict[str, Proposer] = {
    "job-station": _station,
    "carry": _carry,
    "lift-alone": _lift,
    "leg-long": _leg,
}
PROGRESS: dict[str, Progress] = {"leg-long": _shorter}
