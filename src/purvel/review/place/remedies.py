"""What would help in placing: a shift, a turn, a height, an open door."""

from collections.abc import Iterator
from functools import partial
from math import ceil, cos, radians, sin

from purvel.libraries import shapely
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Finding, Grade
from purvel.review.moves import along_the_room, burdens, collides, mover, nudges, words_for
from purvel.review.place.answers import PlaceAnswers
from purvel.review.place.keep_free import space_of
from purvel.review.place.lane_rules import lane_grade, round_grade, shut_door, with_open
from purvel.review.place.rules import QUICK, quick_findings, standing_grade
from purvel.review.place.support_rules import TIPS
from purvel.review.place.thrown_rules import throw_grade
from purvel.review.room.answers import RoomAnswers
from purvel.review.scenes import tried
from purvel.review.stage import Candidate, Progress, Proposer
from purvel.shop import Shop, Thing
from purvel.shop.edits import Edit, change
from purvel.shop.parts import name_of
from purvel.space.aisles import SQUEEZE
from purvel.space.clearances import polygon
from purvel.space.lanes import LEAST_GAP, LEVEL, PROUD
from purvel.space.setout import built
from purvel.space.standing_room import standing_room
from purvel.space.supports import SLOT_FIT, TURNS
from purvel.stopping import go_on

_STEP = 0.05  # m, in which a shift off a narrow place is rounded up
_BELOW = 0.002  # m that a support is set lower than the table before it [trade practice: 0 to 3 mm]
_STEP_UP = 0.1  # m: what stands on the floor is raised by no more than this
_CLOSE = 0.005  # m that is left of a gap: two tables that touch tell each other of every knock
_ASKEW = 0.05  # deg: over half a metre less than half a millimetre
_NEAR = 3  # things at a narrow place that are tried


def _nudge(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    yield from nudges(finding, answers, say, QUICK)


def _out_of_the_way(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """Out of a space that is kept free."""
    space = space_of(finding.rule, finding.about[1], answers)
    if space is not None:
        yield from nudges(finding, answers, say, QUICK, off=space.floor)


def _bay(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """Put on wheels, or out of the bay."""
    thing = answers.shop.thing(finding.about[0])
    if thing is not None and not thing.wheels and thing.z == 0:
        yield f"Put {thing.name or thing.id} on wheels", lambda shop: change(shop, thing.id, wheels=True)
    yield from _out_of_the_way(finding, answers, say)


def _room_to_stand(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """Whoever stands there, or what takes the room, moved."""
    (worker,) = finding.about

    def grade(trial: Answers) -> Grade:
        taken = standing_room(trial.shop.things, trial.of(RoomAnswers).shell, worker)
        return standing_grade(max((one.share for one in taken), default=0.0))

    yield from nudges(finding, answers, say, QUICK, grade)


def _apart(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """Raised onto the other where that is the shorter way, as for a saw on a bench; else moved."""
    for item, under in (finding.about, finding.about[::-1]):
        thing, other = answers.shop.thing(item), answers.shop.thing(under)
        if thing is None or other is None or thing.settled:
            continue
        rise = other.z + other.height - thing.z
        stands_on = thing.z > 0 or rise <= _STEP_UP  # else it would be lifted off the floor onto a cupboard
        if stands_on and 0 < rise < finding.figures["depth"] and rise <= finding.figures["rise"] + 1e-6:
            yield (
                f"Raise {thing.name or item} by {say.length(rise)}, onto {other.name or under}",
                _riser(thing, rise),
            )
    yield from _nudge(finding, answers, say)


def _riser(thing: Thing, rise: float) -> Edit:
    def edit(shop: Shop) -> Shop:
        return change(shop, thing.id, z=thing.z + rise)

    return edit


def _lane(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    shop = answers.shop
    lane = answers.of(PlaceAnswers).lanes[finding.about[0]]
    for run in (lane.into, lane.out):
        if run.stopped_by is None:
            continue
        kind, item = run.stopped_by
        blocker = shop.thing(item) if kind == "thing" else None
        if blocker is not None and 0 < blocker.z + blocker.height - lane.low <= 0.05:
            lower = lane.low - _BELOW - blocker.z
            yield f"Lower {blocker.name} to {say.length(lower)}", _heightener(blocker, lower)
        door = shut_door(answers, lane, run)
        if door is not None:
            yield f"Open {name_of(shop, door.id)} while you feed", partial(with_open, door=door)

    def grade(trial: Answers) -> Grade:
        machine = trial.shop.thing(lane.thing)
        assert machine is not None  # a nudge moves things and takes none away
        return lane_grade(trial.of(PlaceAnswers).lane(machine))

    yield from nudges(finding, answers, say, QUICK, grade)


def _round(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """Moved or turned to where stock can lie."""

    def grade(trial: Answers) -> Grade:
        machine = trial.shop.thing(finding.about[0])
        zone = None if machine is None else trial.of(PlaceAnswers).round_zone(machine)
        return Grade.GOOD if zone is None else round_grade(zone)

    yield from nudges(finding, answers, say, QUICK, grade)


def _thrown(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """Who stands in the line moved out of it, or the machine that throws."""
    thrower, item = finding.about

    def grade(trial: Answers) -> Grade:
        machine, other = trial.shop.thing(thrower), trial.shop.thing(item)
        assert machine is not None
        one = trial.of(PlaceAnswers).thrown_by(machine, () if other is None else (other,))
        return throw_grade(one, item)

    yield from nudges(finding, answers, say, QUICK, grade)


def _aisle(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """What stands at the narrowest place, moved off it; then room to stand, where that is taken."""
    yield from _off_the_narrow_place(finding, answers, say)
    standing = (other for other in quick_findings(answers, say) if other.rule == "standing-room")
    taken = next((other for other in standing if other.about == finding.about), None)
    if taken is not None:
        yield from _room_to_stand(taken, answers, say)


def _off_the_narrow_place(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    # a squeeze is seldom worth the long search for more
    if finding.where.point is None or finding.grade == Grade.WATCH:
        return
    shift = ceil((SQUEEZE - finding.figures["width"] + finding.figures["error"]) / _STEP) * _STEP
    others = burdens(answers, finding, QUICK)
    for thing in _things_near(answers.shop, *finding.where.point):
        for dx, dy in along_the_room(shift, answers):
            place = (thing.x + dx, thing.y + dy, thing.angle)
            trial = tried(answers, mover(thing.id, place))
            if not collides(trial, thing) and burdens(trial, finding, QUICK) <= others:
                yield words_for(thing, place, say), mover(thing.id, place)


def _cut_off(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """What cuts off the rest, moved aside: as far as is needed, the nearest first."""
    thing = answers.shop.thing(finding.about[0])
    if thing is None or thing.settled:
        return
    for far in (0.3, 0.6, 0.9, 1.2, 1.6):
        for dx, dy in along_the_room(far, answers):
            go_on()
            place = (thing.x + dx, thing.y + dy, thing.angle)
            trial = tried(answers, mover(thing.id, place))
            ways = trial.of(PlaceAnswers).aisles
            if not collides(trial, thing) and not any(one.cut_off_by == thing.id for one in ways):
                yield words_for(thing, place, say), mover(thing.id, place), thing.id


def _things_near(shop: Shop, x: float, y: float) -> list[Thing]:
    """The things that could give way at a place, the nearest first."""
    spot = shapely.Point(x, y)
    loose = [thing for thing in shop.things if not thing.settled]
    return sorted(loose, key=lambda thing: spot.distance(polygon(thing)))[:_NEAR]


def _heightener(thing: Thing, height: float) -> Edit:
    table = None if thing.work_height is None else height

    def edit(shop: Shop) -> Shop:
        return change(shop, thing.id, height=height, work_height=table)

    return edit


def _support(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """The table trimmed, shimmed or raised, or the machine put on a platform; moved up to it over a gap."""
    machine, other = (answers.shop.thing(item) for item in finding.about)
    if machine is None or other is None or machine.work_height is None:
        return
    height = machine.z + machine.work_height - _BELOW - other.z
    step, gap = finding.figures["step"], finding.figures["gap"]
    if not -LEVEL <= step <= PROUD:
        verb = "Trim" if step > 0 else "Shim" if step > -TIPS else "Raise"
        yield f"{verb} {other.name} to {say.length(height)}", _heightener(other, height)
    if step > PROUD:
        rise = step + _BELOW
        how = f"Put {machine.name} on a platform of" if machine.z == 0 else f"Raise {machine.name} by"
        yield f"{how} {say.length(rise)}", _riser(machine, rise)
    if gap > LEAST_GAP and not other.settled:
        for one in answers.of(PlaceAnswers).supports:
            if (one.machine, one.other, one.gap) != (*finding.about, gap):
                continue
            turn = radians(answers.of(PlaceAnswers).lanes[machine.id].direction + TURNS[one.at])
            near = (other.x - (gap - _CLOSE) * cos(turn), other.y - (gap - _CLOSE) * sin(turn), other.angle)
            yield f"Move {other.name} {say.length(gap - _CLOSE)} up to {machine.name}", mover(other.id, near)


def _slots(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """Moved into line, or slots cut where they belong."""
    machine, other = (answers.shop.thing(item) for item in finding.about)
    found = answers.of(PlaceAnswers).mitre_slots
    one = next((one for one in found if (one.machine, one.other) == finding.about), None)
    if machine is None or other is None or one is None:
        return
    turn = radians(machine.angle)
    if one.off is not None and max(one.off) - min(one.off) <= SLOT_FIT and not other.settled:
        by = (max(one.off) + min(one.off)) / 2
        place = (other.x - by * cos(turn), other.y - by * sin(turn), other.angle)
        side = "left" if by > 0 else "right"
        yield f"Move {other.name} {say.length(abs(by))} to the {side}, as you feed", mover(other.id, place)
    apart = (machine.angle - other.angle) % 180.0
    if min(apart, 180.0 - apart) < _ASKEW:
        ahead = 1.0 if cos(turn - radians(other.angle)) > 0 else -1.0
        cut = tuple(sorted(round(ahead * at, 4) for at in one.wanted))
        yield f"Cut {len(cut)} mitre slots into {other.name}", _slotter(other, cut)


def _accepted(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """Drawn where it was found."""
    thing = answers.shop.thing(finding.about[0])
    found = thing and thing.built and built(thing, thing.built[-1], answers.of(RoomAnswers).shell)
    if thing and found:
        yield (
            f"Accept as built: draw {thing.name or thing.id} there",
            mover(thing.id, (found.x, found.y, found.angle)),
        )


def _castors(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """Castors for what would have to turn."""
    thing = answers.base.thing(finding.about[0]) if finding.about else None
    if thing is not None and not thing.castors:
        yield (
            f"Put {thing.name or thing.id} on castors that turn",
            lambda shop: change(shop, thing.id, castors=True),
        )


def _slotter(thing: Thing, cut: tuple[float, ...]) -> Edit:
    def edit(shop: Shop) -> Shop:
        return change(shop, thing.id, slots=cut)

    return edit


def _much_longer(before: Finding, after: Finding) -> bool:
    return after.figures["longest_board"] > 1.2 * before.figures["longest_board"] + 0.1


REMEDIES: dict[str, Proposer] = {
    "bodies-overlap": _apart,
    "outside-room": _nudge,
    "lane": _lane,
    "support-level": _support,
    "mitre-slots": _slots,
    "roll-out": _castors,
    "as-built": _accepted,
    "standing-room": _room_to_stand,
    "aisle": _aisle,
    "cut-off": _cut_off,
    "door-swing": _out_of_the_way,
    "panel-space": _out_of_the_way,
    "overhead-door": _out_of_the_way,
    "bay-blocked": _bay,
    "round-zone": _round,
    "kickback-line": _thrown,
    "car-way": _nudge,
    "too-tall": _nudge,
    "operation": _nudge,
    "kept-clear": _out_of_the_way,
}
PROGRESS: dict[str, Progress] = {"lane": _much_longer}
