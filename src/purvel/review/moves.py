"""The search for a nudge: the smallest shift or turn of a thing that makes a finding better and nothing else
worse.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from math import cos, dist, radians, sin

from purvel.libraries import shapely
from purvel.review.answers import Answers
from purvel.review.figures import Figures, Unsaid
from purvel.review.finding import Finding, Grade
from purvel.review.room.answers import RoomAnswers
from purvel.review.stage import Candidate, Rule
from purvel.shop import Fixture, Shop, Thing
from purvel.shop.edits import Edit, move_thing
from purvel.space.clearances import free_of, off_floor
from purvel.space.traverse import turn_between
from purvel.stopping import go_on

_STEP = 0.05  # m, of the search for a nudge
_RINGS = 24  # steps that a nudge goes at the most
_PLACES, _APART = 3, 0.2  # places given for one thing, and how far apart [m]
# m: the shift that people would rather make than this turn [deg]
_TURN_COST = {0.0: 0.0, 90.0: 0.3, -90.0: 0.3, 180.0: 0.4, 15.0: 0.5, -15.0: 0.5}

_SWAPS = 6  # things that something is tried to change places with, those most alike first
_ALIKE = 2.0  # times as much floor that two things may take to change places

_FOUR = (0.0, 90.0, 180.0, 270.0)  # deg: along the walls, both ways

Place = tuple[float, float, float]  # x, y [m], angle [deg]


def nudges(
    finding: Finding,
    answers: Answers,
    say: Figures,
    rules: Sequence[Rule],
    grade: Callable[[Answers], Grade] | None = None,
    off: shapely.Polygon | None = None,
) -> Iterator[Candidate]:
    """The smallest shift of a movable thing that clears the finding of one of these rules, for each thing
    concerned. `grade` tells how the finding would be graded, where that is quicker than to find it; where
    the thing only has to come `off` some floor, that floor is enough.
    """
    loose = [
        thing for item in finding.where.items if (thing := answers.shop.thing(item)) and not thing.settled
    ]
    for thing in loose:
        for place in _shifts(finding, answers, thing, say, rules, grade, off):
            yield words_for(thing, place, say), mover(thing.id, place), thing.id
    if off is None:
        for thing in loose:
            yield from _swaps(finding, answers, thing, rules, grade)


def _swaps(
    finding: Finding,
    answers: Answers,
    thing: Thing,
    rules: Sequence[Rule],
    grade: Callable[[Answers], Grade] | None,
) -> Iterator[Candidate]:
    """Two things that change places, turned as they are or each as the other was, where that ends it."""
    own, others = thing.width * thing.depth, burdens(answers, finding, rules)
    alike = [
        (max(own / size, size / own), one)
        for one in answers.shop.things
        if one.id != thing.id and not one.settled and (size := one.width * one.depth)
    ]
    near = sorted((pair for pair in alike if pair[0] <= _ALIKE), key=lambda pair: (pair[0], pair[1].id))
    for _, other in near[:_SWAPS]:
        for turned in (False, True) if thing.angle != other.angle else (False,):
            go_on()
            edit = _swapper(thing, other, turned)
            trial = _placed(answers, edit)
            if any(collides(trial, one) for one in (thing, other)):
                continue
            better = _graded(trial, finding, rules, grade) > max(finding.grade, Grade.MEND)
            if better and burdens(trial, finding, rules) <= others:
                yield (
                    f"Let {thing.name or thing.id} and {other.name or other.id} change places",
                    edit,
                    "swap",
                )
                break


def _swapper(thing: Thing, other: Thing, turned: bool) -> Edit:
    angles = (other.angle, thing.angle) if turned else (thing.angle, other.angle)

    def edit(shop: Shop) -> Shop:
        moved = move_thing(shop, thing.id, other.x, other.y, angles[0])
        return move_thing(moved, other.id, thing.x, thing.y, angles[1])

    return edit


def along_the_room(far: float, answers: Answers, turns: Sequence[float] = _FOUR) -> list[tuple[float, float]]:
    """The shifts by so far [m] along the room's walls: in the directions `turns` [deg] from how it lies."""
    lies = answers.of(RoomAnswers).shell.lies
    return [(far * cos(radians(lies + turn)), far * sin(radians(lies + turn))) for turn in turns]


def mover(thing_id: str, place: Place) -> Edit:
    """The edit that sets a thing down at a place."""

    def edit(shop: Shop) -> Shop:
        return move_thing(shop, thing_id, *place)

    return edit


def words_for(thing: Thing, place: Place, say: Figures) -> str:
    """What a button says that moves a thing to a place."""
    x, y, angle = place
    name, turn = thing.name or thing.id, turn_between(thing.angle, angle)
    shift = _shift_words(x - thing.x, y - thing.y, say)
    turned = f"{abs(turn):.0f}° to the {'left' if turn > 0 else 'right'}" if abs(turn) < 179.9 else "round"
    if abs(turn) < 0.1:
        return f"Move {name} {shift}"
    return f"Move {name} {shift} and turn it {turned}" if shift else f"Turn {name} {turned}"


def _shift_words(dx: float, dy: float, say: Figures) -> str:
    words = []
    if abs(dx) > 1e-3:
        words.append(f"{say.length(abs(dx))} to the {'right' if dx > 0 else 'left'}")
    if abs(dy) > 1e-3:
        words.append(f"{say.length(abs(dy))} {'up' if dy > 0 else 'down'} the plan")
    return " and ".join(words)


def _shifts(
    finding: Finding,
    answers: Answers,
    thing: Thing,
    say: Figures,
    rules: Sequence[Rule],
    grade: Callable[[Answers], Grade] | None,
    off: shapely.Polygon | None,
) -> Iterator[Place]:
    """Tries places of growing cost; the first few, not next to each other, where the finding is better and
    nothing that these rules see got worse.
    """
    rule = next((rule for rule in rules if any(same(other, finding) for other in rule(answers, say))), None)
    if rule is None:  # the shop has changed since
        return
    others, given = burdens(answers, finding, rules), list[Place]()
    places = _free(_places(thing, answers), thing, answers)
    if off is not None:
        places = [place for place, is_off in zip(places, off_floor(places, thing, off)) if is_off]
    for place in places:
        if any(place[2] == one[2] and dist(place[:2], one[:2]) < _APART for one in given):
            continue
        go_on()
        trial = _placed(answers, mover(thing.id, place))
        better = off is not None or _graded(trial, finding, (rule,), grade) > finding.grade
        if better and burdens(trial, finding, rules) <= others:
            yield place
            given.append(place)
            if len(given) == _PLACES:
                return


def _graded(
    trial: Answers, finding: Finding, rules: Sequence[Rule], grade: Callable[[Answers], Grade] | None
) -> Grade:
    """How the finding would be graded by these rules, or quicker; Good where it is gone."""
    if grade is not None:
        return grade(trial)
    say = Unsaid(trial.shop.units)
    found = (one for rule in rules for one in rule(trial, say))
    return min((one.grade for one in found if same(one, finding)), default=Grade.GOOD)


def _placed(answers: Answers, edit: Edit) -> Answers:
    """The answers with something moved in the scene that is looked at; ducts are left as they were, of which
    no rule of places knows.
    """
    return answers.with_shop(edit(answers.shop))


def same(one: Finding, other: Finding) -> bool:
    """Whether two findings answer the same question."""
    return one.rule == other.rule and one.about == other.about


def collides(trial: Answers, thing: Thing) -> bool:
    """Whether a thing stands in a wall or in another."""
    there = trial.shop.thing(thing.id)
    return there is None or not _free([(there.x, there.y, there.angle)], there, trial)


def _free(places: Sequence[Place], thing: Thing, answers: Answers) -> list[Place]:
    """The places where it stands in no wall and in nothing else, all looked at together."""
    room = answers.of(RoomAnswers)
    others: list[Thing | Fixture] = [one for one in answers.shop.things if one.id != thing.id]
    others += [one for one in answers.shop.room.fixtures if one.is_body]
    free = free_of(places, thing, others, room.shell)
    return [place for place, is_free in zip(places, free) if is_free]


def _places(thing: Thing, answers: Answers) -> list[Place]:
    """Where a thing could go, the smallest change first: rings about where it is, along the walls and
    between, and coarser ones of it turned.
    """
    ways = {0: [(0.0, 0.0)]} | {
        ring: along_the_room(ring * _STEP, answers, range(0, 360, 45)) for ring in range(1, _RINGS + 1)
    }
    found: list[tuple[float, Place]] = []
    for turn, cost in _TURN_COST.items():
        for ring in range(0 if turn else 1, _RINGS + 1, 4 if turn else 1):
            for dx, dy in ways[ring]:
                x, y = (round(thing.x + dx, 6), round(thing.y + dy, 6)) if ring else (thing.x, thing.y)
                found.append((cost + ring * _STEP, (x, y, (thing.angle + turn) % 360)))
    return [place for _, place in sorted(found, key=lambda costed: costed[0])]


def burdens(answers: Answers, finding: Finding, rules: Sequence[Rule]) -> int:
    """How many Stop and Mend these rules find besides a finding."""
    say = Unsaid(answers.shop.units)
    found = (other for rule in rules for other in rule(answers, say))
    return sum(other.grade <= Grade.MEND for other in found if not same(other, finding))
