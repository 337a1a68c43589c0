"""Ways to collect the dust side by side, in words."""

from __future__ import annotations

from collections.abc import Iterator

from purvel.review.answers import Answers
from purvel.review.ducts.plans import ROLLED_HOSE, Bore, Plan, bores, plans
from purvel.review.figures import Figures
from purvel.review.stage import Table
from purvel.shop import Port, Thing
from purvel.shop.parts import name_of

ENOUGH = 0.95  # of what is asked from which a hood counts as served


def plan_tables(answers: Answers, say: Figures) -> Iterator[Table]:
    """The plans against each other, then what each machine gets in each."""
    found = plans(answers)
    if not found:
        return
    target = answers.shop.ducts.target
    heads = ("Plan", "Served", "Worst", "Slowest", "Buy", "Pipe", "Hose", "Moves")
    yield Table("Ways to collect it", heads, [_row(answers, one, target, say) for one in found])
    machines = [thing for thing in answers.shop.things if thing.ports]
    rows = [
        (thing.name or thing.id, *(_cell(one, thing, target, say) for one in found)) for thing in machines
    ]
    yield Table("What each machine gets", ("Machine", *(one.name for one in found)), rows)


def _row(answers: Answers, plan: Plan, target: str, say: Figures) -> tuple[str, ...]:
    if plan.why_none:
        return plan.name, plan.why_none, "", "", "", "", "", ""
    served = {one.thing for one in plan.hoods if one.share(target) >= ENOUGH}
    machines = sum(1 for thing in answers.shop.things if thing.ports)
    worst = min(plan.hoods, key=lambda one: one.share(target))
    slow = min(plan.hoods, key=lambda one: one.carries)
    low, high = plan.cost
    return (
        plan.name,
        f"{len(served)} of {machines}",
        f"{name_of(answers.shop, worst.thing)}, {worst.share(target):.0%}",
        f"{say.speed(slow.speed)}, {slow.carries:.0%}",
        f"{low:,.0f} to {high:,.0f} USD",
        say.length(plan.pipe) if plan.pipe else "none",
        say.length(plan.hose),
        f"{plan.moves:.1f}".removesuffix(".0") + " a day" if plan.moves else "none",
    )


def _cell(plan: Plan, thing: Thing, target: str, say: Figures) -> str:
    mine = [one for one in plan.hoods if one.thing == thing.id]
    if not mine:
        return "not connected"
    worst = min(mine, key=lambda one: one.share(target))
    return f"{say.flow(sum(one.flow for one in mine))}, {worst.share(target):.0%}"


def said(answers: Answers, say: Figures) -> Iterator[str]:
    """What the table leaves unsaid."""
    found = {one.key: one for one in plans(answers)}
    aim = "catches the fine dust" if answers.shop.ducts.target == "fine" else "clears the chips"
    yield f"Shares are of what {aim}, at each machine's port with the greatest need; speeds of what carries."
    trial = found.get("long")
    if trial is not None:
        places = [thing for thing in answers.shop.things if thing.ports and not thing.settled]
        waits = f" {len(places)} machines have not proven their place yet." if places else ""
        yield (
            f"Try places with {say.length(trial.hose)} of hose first: {say.length(trial.stays)} of it stays useful at the drops"
            f" of fixed ducts.{waits}"
        )
    yield (
        "A move is another machine begun in the day, or in your jobs. A source that is there costs nothing more; vacs, pipe and"
        " hose by our own rough prices, low to high."
    )


def bore_table(answers: Answers, thing: Thing, port: Port, say: Figures) -> Table:
    """One machine through small and through large bore."""
    heads = ("Source", "Bore", "Flow", "Speed", "Suction", "Chips", "Fine", "Good at")
    rows = [
        (
            one.name,
            say.size(one.size),
            say.flow(one.at.flow),
            say.speed(one.at.speed),
            say.pressure(one.at.suction),
            f"{one.at.chips:.0%}",
            f"{one.at.fine:.0%}",
            _good_at(one),
        )
        for one in bores(answers, thing, port)
    ]
    hose = say.length(ROLLED_HOSE)
    return Table(f"Small and large bore at {thing.name or thing.id}, each on {hose} of hose", heads, rows)


def _good_at(one: Bore) -> str:
    if one.at.fine >= ENOUGH:
        what = "chips and fine dust" if one.at.chips >= ENOUGH else "fine dust"
    elif one.at.chips >= ENOUGH:
        what = "chips, not fine dust"
    else:
        what = "neither here"
    if one.at.carries < ENOUGH:
        return f"{what}; settles in the hose"
    return what
