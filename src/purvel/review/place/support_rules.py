"""Rules of what carries the board: level, gap and reach behind a machine and beside it, mitre slots."""

from __future__ import annotations

from collections.abc import Iterator

from purvel.catalogue import uses
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.place.answers import PlaceAnswers
from purvel.shop import Thing
from purvel.shop.parts import name_of
from purvel.space.lanes import LEAST_GAP, LEVEL, PROUD
from purvel.space.supports import BAR, SLOT_FIT, Slots, Support, droop, own_reach, thinnest

TIPS = 0.03  # m: lower than this a board drops rather than tips onto the support
_THIN = 0.003  # m: nobody feeds thinner boards by hand over a gap [a guess]
_SLOTS = Basis(
    "trade practice", "The bar of a mitre gauge runs out behind the table in the line of its slot."
)
_PRACTICE = Basis(
    "trade practice",
    "An outfeed lies level with the table or up to 3 mm lower. An unheld board of even weight stays while its"
    " middle is carried.",
)


def supports(answers: Answers, say: Figures) -> Iterator[Finding]:
    """What stands behind each machine to carry its board, and the machines behind which nothing does."""
    place, shop = answers.of(PlaceAnswers), answers.shop
    for one in place.supports:
        yield _support(answers, one, say)
    carried = {one.machine for one in place.supports if one.at == "behind" and one.step > -TIPS}
    bare = [lane for lane in place.lanes.values() if not lane.across and lane.thing not in carried]
    reaches = own_reach(bare, shop.things).tolist() if bare else []
    tipping = [(lane.thing, reach) for lane, reach in zip(bare, reaches) if 2 * reach < lane.stock_length]
    if tipping:
        names = ", ".join(name_of(shop, thing) for thing, _ in tipping)
        lengths = "; ".join(f"{name_of(shop, thing)} {say.length(2 * reach)}" for thing, reach in tipping)
        yield Finding(
            "support-none",
            Grade.WATCH,
            ("room",),
            f"Nothing carries your boards behind {names}: unheld they tip there.",
            f"The longest that stays on the machine's own table, twice what reaches beyond the cutter: {lengths}.",
            _PRACTICE,
            Where(tuple(thing for thing, _ in tipping)),
        )


PLACES = {"behind": "behind", "left": "to the left of", "right": "to the right of"}


def _support(answers: Answers, one: Support, say: Figures) -> Finding:
    machine, other = name_of(answers.shop, one.machine), name_of(answers.shop, one.other)
    table = answers.of(PlaceAnswers).lanes[one.machine].low
    why = (
        f"Its top is at {say.length(table + one.step)}, the machine's table at {say.length(table)}; the gap"
        f" between them is {say.length(one.gap)}, its far edge {say.length(one.far)} from the cutter. The shortest"
        f" board that does not drop in is {say.length(one.shortest_that_passes)}, the longest that stays"
        f" {say.length(one.longest_that_stays)}."
    )
    why += _sags(answers, one, say)
    stock = "boards" if one.at == "behind" else "sheets"
    gap = (
        f" A gap of {say.length(one.gap)} lets {stock} under {say.length(one.shortest_that_passes)} drop in."
    )
    if one.step > PROUD + 1e-6:
        grade = Grade.MEND
        sentence = f"{other} stands {say.length(one.step)} proud of the table of {machine}: {stock} will catch on it."
        why += f" Trim or lower it by {say.length(one.step + 0.002)}."
    elif one.step < -TIPS - 1e-6:
        grade = Grade.MEND
        sentence = f"{other} lies {say.length(-one.step)} below the table of {machine}: {stock} drop onto it."
        why += f" Raise it by {say.length(-one.step)}."
    elif one.step < -LEVEL - 1e-6:
        grade = Grade.WATCH
        sentence = (
            f"{other} lies {say.length(-one.step)} below the table of {machine}: long {stock} will tip."
        )
        why += f" Shim it up by {say.length(-one.step)}."
    elif one.gap > LEAST_GAP:
        grade, sentence = (
            Grade.WATCH,
            f"{other} is level {PLACES[one.at]} {machine} but {say.length(one.gap)} away.{gap}",
        )
    else:
        grade = Grade.GOOD
        sentence = (
            f"{other} carries {stock} up to {say.length(one.longest_that_stays)} {PLACES[one.at]} {machine}."
        )
    if one.gap > LEAST_GAP and one.step < -LEVEL - 1e-6:
        sentence += gap
    about, where = (one.machine, one.other), Where((one.other, one.machine))
    figures = {"step": one.step, "gap": one.gap, "far": one.far}
    return Finding("support-level", grade, about, sentence, why, _PRACTICE, where, figures)


def _sags(answers: Answers, one: Support, say: Figures) -> str:
    """How far a board hangs down by its own weight: past the far edge, and in the gap."""
    machine = answers.shop.thing(one.machine)
    stock = (machine.stock if machine is not None else None) or answers.shop.stock
    words = ""
    over = stock.length - one.far
    if one.at == "behind" and 0 < over <= one.far:
        low, high = droop(over, stock.thickness)
        if high >= PROUD:
            words += (
                f" The end of your board, {say.length(over)} past its far edge, hangs {say.length(low)} to"
                f" {say.length(high)} down by its own weight (solid wood; MDF three times as much)."
            )
    drop = max(-one.step, 0.0) + PROUD
    least = thinnest(one.gap, drop)
    if least > _THIN:
        words += (
            f" In the gap boards thinner than {say.length(least)} sag by more than {say.length(drop)} and catch"
            " on its edge: chamfer that, or close the gap."
        )
    return words


def slots(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Whether the bar of a mitre gauge runs out over what stands behind its machine."""
    for one in answers.of(PlaceAnswers).mitre_slots:
        machine, other = name_of(answers.shop, one.machine), name_of(answers.shop, one.other)
        worst = None if one.off is None else max(one.off, key=abs)
        if worst is None:
            grade = Grade.WATCH
            sentence = f"The bar of the mitre gauge of {machine} meets {other}, which has no slots for it."
        elif abs(worst) > SLOT_FIT:
            grade = Grade.WATCH
            sentence = f"The mitre slots of {other} are {say.length(abs(worst))} out of line with those of {machine}."
        else:
            grade, sentence = Grade.GOOD, f"The mitre slots of {other} line up with those of {machine}."
        yield Finding(
            "mitre-slots",
            grade,
            (one.machine, one.other),
            sentence,
            f"Slots belong {_where(one, say)} of its middle, as you feed; within {1000 * SLOT_FIT:.1f} mm (1/16 in) a bar still"
            f" runs. It also runs free over what is {say.length(BAR)} or more away.",
            _SLOTS,
            Where((one.other, one.machine)),
            {} if worst is None else {"off": worst},
        )


def _where(one: Slots, say: Figures) -> str:
    sides = (f"{say.length(abs(at))} to the {'right' if at > 0 else 'left'}" for at in sorted(one.wanted))
    return " and ".join(sides)


def table_heights(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Tables whose height and table height contradict each other."""
    for thing in answers.shop.things:
        if thing.work_height is None:
            continue
        over = thing.work_height - thing.height
        if over > PROUD or (uses().get(thing.kind) in ("outfeed", "bench") and over < -PROUD):
            yield _contradiction(thing, over, say)


def _contradiction(thing: Thing, over: float, say: Figures) -> Finding:
    assert thing.work_height is not None
    return Finding(
        "table-height",
        Grade.WATCH,
        (thing.id,),
        f"{thing.name or thing.id} is {say.length(thing.height)} high, its table {say.length(thing.work_height)}:"
        " one of the two is wrong.",
        "What is in the way of boards, and what carries them, goes by the height of the whole"
        f" ({say.length(thing.z + thing.height)} above the floor); work goes by the table's.",
        Basis("geometry", "Sizes as entered."),
        Where((thing.id,)),
        {"over": over},
    )
