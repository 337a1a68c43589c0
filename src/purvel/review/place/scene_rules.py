"""Rules of scenes: whether what is moved for one gets there, the car in its bay."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.place.answers import PlaceAnswers
from purvel.review.scenes import AS_DRAWN, scene_name
from purvel.shop.parts import name_of
from purvel.space.car import DOOR, HIGH, WIDE
from purvel.space.roll_out import ROLLS_OVER, RollOut

_ROLLED = Basis("geometry", "Searched with the footprint as it is, turned on the spot where it has castors.")
_CAR = Basis("trade practice", "A usual car; measure yours.")


def roll_outs(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Whether all on wheels gets to where it is here from where it is as drawn and in the other scenes: long
    searches.
    """
    stuck = dict[str, tuple[RollOut, list[str]]]()
    told = list[tuple[str, list[RollOut]]]()
    for start, found in answers.of(PlaceAnswers).roll_outs.items():
        name = _there(answers, start)
        for one in found:
            if not one.fits:
                stuck.setdefault(one.thing, (one, []))[1].append(name)
        if going := [one for one in found if one.fits]:
            told.append((name, going))
    for one, starts in stuck.values():
        yield _stuck(answers, one, starts, say)
    if not told:
        return
    (start, going), *others = told
    order = _in_order(answers, going, say)
    also = "".join(
        f" From where they stand {name}: {_in_order(answers, ways, say)}." for name, ways in others
    )
    goes = f"{order} can be rolled back"
    if answers.scene is not None:
        goes = f"For “{scene_name(answers.base, answers.scene)}” {order} can be rolled there"
    they_stand = "it stands" if len(going) == 1 else "they stand"
    yield Finding(
        "roll-out",
        Grade.GOOD,
        (),
        f"{goes} from where {they_stand} {start}.",
        "One after another in this order, each among the rest as it stands then. What is higher than"
        f" {say.length(ROLLS_OVER)} on the floor stops castors. Whoever pushes is not looked at.{also}",
        _ROLLED,
        Where(tuple(one.thing for one in going)),
        {"length": sum(one.length for one in going)},
    )


def _there(answers: Answers, scene: str | None) -> str:
    """How something stands: as drawn, or in a scene."""
    return AS_DRAWN if scene is None else f"in “{scene_name(answers.base, scene)}”"


def _in_order(answers: Answers, going: Sequence[RollOut], say: Figures) -> str:
    """What is rolled one after another, how far and how much it is turned."""
    return ", then ".join(
        f"{name_of(answers.base, one.thing)} ({say.length(one.length)}"
        + (f", turned by {one.turned:.0f}°)" if one.turned > 1 else ")")
        for one in going
    )


def _stuck(answers: Answers, one: RollOut, starts: Sequence[str], say: Figures) -> Finding:
    name = name_of(answers.shop, one.thing)
    if one.wants_castors:
        why_not = "it would have to turn on the way, and has no castors"
    elif one.blocked_by:
        names = " or ".join(name_of(answers.base, other) for other in one.blocked_by)
        why_not = f"{names} is in the way"
    else:
        why_not = "more than one thing, or what cannot move, is in the way"
    also = "" if len(starts) == 1 else f" Nor from where it stands {' or '.join(starts[1:])}."
    return Finding(
        "roll-out",
        Grade.MEND,
        (one.thing,),
        f"{name} cannot be rolled to its place {_there(answers, answers.scene)} from where it stands {starts[0]}:"
        f" {why_not}.",
        "Searched among what stands there when the others have gone as far as they can; its whole footprint, over"
        f" nothing higher than {say.length(ROLLS_OVER)}.{also}",
        _ROLLED,
        Where((one.thing, *one.blocked_by)),
    )


def cars(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Whether a parked car gets in through a door, and whether somebody gets out of it."""
    for one in answers.of(PlaceAnswers).cars:
        if one.door is None:
            yield Finding(
                "car-way",
                Grade.WATCH,
                (one.bay,),
                f"No door that a car drives through lies straight ahead of {name_of(answers.shop, one.bay)}.",
                f"Looked for a door {say.length(WIDE)} wide and {say.length(HIGH)} high along the bay.",
                _CAR,
                Where((one.bay,)),
            )
        for other in one.blocked_by:
            yield Finding(
                "car-way",
                Grade.MEND,
                (one.bay, other),
                f"{name_of(answers.shop, other)} stands where the car drives in.",
                f"The car, {say.length(WIDE)} wide, drives straight from {name_of(answers.shop, one.door or '')}.",
                _CAR,
                Where((other, one.bay)),
            )
        if not one.lets_out:
            left, right = one.sides
            yield Finding(
                "car-door",
                Grade.WATCH,
                (one.bay,),
                "Nobody gets out of the car: there is no room to open a door on either side.",
                f"{say.length(DOOR)} are wanted along one side; {left:.0%} of that is free on one side and {right:.0%} on"
                " the other.",
                _CAR,
                Where((one.bay,)),
            )
