"""Rules of what is set out and built: where things were found standing, what is on trial and since when."""

from __future__ import annotations

from collections.abc import Iterator
from math import hypot

from purvel.review.answers import Answers
from purvel.review.days import today
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.room.answers import RoomAnswers
from purvel.shop import AsBuilt, Thing
from purvel.shop.parts import name_of
from purvel.space.setout import IN_PLACE, TRUE, Built, built
from purvel.space.traverse import turn_between
from purvel.upkeep.due import day_of

_READ = Basis("your measurement", "Read from its corner to the walls.")


def as_built(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Whether each thing that was measured again stands where it is drawn, and whether it has drifted."""
    shell = answers.of(RoomAnswers).shell
    drawn = {thing.id: thing for thing in answers.base.things}
    for thing in answers.shop.things:
        there = drawn.get(thing.id)
        if not thing.built or there is None or (thing.x, thing.y) != (there.x, there.y):
            continue  # in this scene it stands elsewhere
        reading = thing.built[-1]
        found = built(thing, reading, shell)
        if found is None:
            continue
        name = name_of(answers.shop, thing.id)
        why = (
            f"On {reading.day} its {reading.corner} corner was read: {_read(reading, say)}. Within"
            f" {say.length(IN_PLACE)} a tape on a floor tells no better."
        )
        sentence = f"{name} {said_of(found, say)}."
        yield Finding(
            "as-built",
            Grade.GOOD if found.in_place else Grade.WATCH,
            (thing.id,),
            sentence,
            why + _drift(thing, answers, say),
            _READ,
            Where((thing.id,), (found.x, found.y)),
            {"right": found.right, "ahead": found.ahead, "turned": found.turned},
        )


def _read(reading: AsBuilt, say: Figures) -> str:
    read = [f"{say.length(one.distance)} from wall {one.wall}" for one in reading.distances]
    if reading.angle is not None:
        read.append(f"turned {reading.angle % 360:.1f}°")
    return ", ".join(read)


def said_of(found: Built, say: Figures) -> str:
    """Where something was found against where it is drawn, in words."""
    if found.in_place:
        return "stands where it is drawn"
    words = []
    if abs(found.right) >= IN_PLACE / 2:
        words.append(f"{say.length(abs(found.right))} to the {'right' if found.right > 0 else 'left'}")
    if abs(found.ahead) >= IN_PLACE / 2:
        words.append(f"{say.length(abs(found.ahead))} {'ahead' if found.ahead > 0 else 'back'}")
    if abs(found.turned) > TRUE / 2:
        words.append(f"turned {_turned(found)}")
    return f"stands {', '.join(words)} of where it is drawn" if words[0][0].isdigit() else f"is {words[0]}"


def _turned(found: Built) -> str:
    return f"{abs(found.turned):.1f}° to the {'left' if found.turned > 0 else 'right'}"


def _drift(thing: Thing, answers: Answers, say: Figures) -> str:
    """How far it went between the first reading and the last."""
    shell = answers.of(RoomAnswers).shell
    first, last = (built(thing, one, shell) for one in (thing.built[0], thing.built[-1]))
    if len(thing.built) < 2 or first is None or last is None:
        return ""
    gone, turned = hypot(last.x - first.x, last.y - first.y), abs(turn_between(first.angle, last.angle))
    if gone <= IN_PLACE and turned <= TRUE:
        return f" Since {thing.built[0].day} it has not moved."
    return f" Since {thing.built[0].day} it has moved by {say.length(gone)} and turned by {turned:.1f}°."


def on_trial(answers: Answers, say: Figures) -> Iterator[Finding]:
    """What stands on trial since when, and what is fixed."""
    told = sorted(
        ((today() - since).days, one.id)
        for one in answers.shop.things
        if not one.settled and (since := day_of(one.trial_since)) is not None
    )[::-1]
    if not told:
        return
    words = "; ".join(f"{name_of(answers.shop, thing)} {_for(days)}" for days, thing in told)
    fixed = [one.name or one.id for one in answers.shop.things if one.settled]
    yield Finding(
        "trial",
        Grade.GOOD,
        (),
        f"On trial: {words}.",
        f"Fixed: {', '.join(fixed) or 'nothing yet'}. What proves itself is fixed before ducts are run to it.",
        Basis("your measurement", "Days as entered."),
        Where(tuple(thing for _, thing in told)),
        {"longest": float(told[0][0])},
    )


def _for(days: int) -> str:
    return "since today" if days <= 0 else f"for {days} day{'s' if days > 1 else ''}"
