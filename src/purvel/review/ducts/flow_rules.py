"""Rules of the flows that the network gives: what each hood gets, where chips settle, where the figures
end.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from purvel.airflow.flows import GateSetFlow, NetworkResult
from purvel.airflow.paths import Path
from purvel.airflow.segments import Hood, Layout
from purvel.airflow.sources import band_of
from purvel.catalogue import transport
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.drawn import AS_DRAWN, run_name
from purvel.review.ducts.standing import ChipState, carried, wanted_flow
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.shop import Port, Shop
from purvel.shop.parts import name_of, port_id

# share of the flow that clears chips below which a hood is expected to plug [trade practice, low confidence]
PLUGS = 0.6
WORTH_A_RANGE = 0.03  # share of a flow: what is known better than this is said as one figure
SHORT = 0.95  # share of it that is still called enough: reading a curve is no better than that
# what a duct's state is worth; the findings and the colours on the plan go by it
CHIP_GRADES: dict[ChipState, Grade] = {"moving": Grade.GOOD, "slow": Grade.WATCH, "settling": Grade.MEND}
_WORDS = {"chips": ("shavings and chips", "settle", "keep them"), "dust": ("sawdust", "settles", "keep it")}
_FINE = " Flow for fine dust: fine-dust school (low confidence)."
_NEEDS = {
    "published": Basis(
        "published practice", "Flow for chips: ACGIH woodworking prints (medium confidence)." + _FINE
    ),
    "trade": Basis("trade practice", "Flow for chips: usual for such a port (low confidence)." + _FINE),
    "own": Basis("your measurement", "Flows as you set them for this port."),
}


def unsolved(answers: Answers, network: NetworkResult, _: Figures) -> Iterator[Finding]:
    for one in network.sets:
        if not one.converged:
            name = answers.of(DuctAnswers).choice_name(one.id)
            yield Finding(
                "not-solved",
                Grade.STOP,
                (one.id,),
                f"The flows with “{name}” could not be computed; take none of its figures.",
                f"The pressures still disagree by {one.imbalance:.1f} Pa when the search was given up.",
                Basis("geometry", "Numerical."),
                Where((network.layout.source_thing,)),
            )


def hoods(answers: Answers, network: NetworkResult, say: Figures) -> Iterator[Finding]:
    """Each hood over all gate sets in which it is open: the worst counts."""
    for column, index in enumerate(network.layout.hoods):
        hood = network.layout.segments[index].hood
        solved = (which for which, one in enumerate(network.sets) if one.converged)
        open_in = [which for which in solved if network.sets[which].hoods[column].at_work]
        if hood is not None and open_in:
            worst = min(open_in, key=lambda which: network.sets[which].hoods[column].flow)
            best = max(open_in, key=lambda which: network.sets[which].hoods[column].flow)
            yield _hood(answers, network, _Hood(hood, column, index, worst, best), say)


@dataclass(frozen=True, slots=True)
class _Hood:
    """A hood, its number, its segment, and the numbers of the gate sets in which it gets least and most."""

    hood: Hood
    column: int
    segment: int
    worst: int
    best: int


def _hood(answers: Answers, network: NetworkResult, at: _Hood, say: Figures) -> Finding:
    ducts, hood = answers.of(DuctAnswers), at.hood
    least, most = network.sets[at.worst], network.sets[at.best]
    worst, best = least.hoods[at.column], most.hoods[at.column]
    spread = network.ranges[at.worst][at.column] if network.ranges else None
    why = (
        f"With “{ducts.choice_name(least.id)}” {say.flow(worst.flow)}, with “{ducts.choice_name(most.id)}”"
        f" {say.flow(best.flow)}. Clearing the chips asks for {say.flow(hood.chips_flow)}, catching the fine dust"
        f" too for {say.flow(hood.fine_flow)}. In the port {say.speed(worst.port_speed)}; entry loss"
        f" {hood.entry_loss:g} × velocity pressure = {say.pressure(worst.entry_loss)}; static suction"
        f" {say.ended(say.pressure(worst.static_suction))}"
    )
    if spread is not None:
        why += f" The range is what is known of {_known(network.layout)}."
    figures = {"flow": worst.flow, "best": best.flow, "chips": hood.chips_flow, "fine": hood.fine_flow}
    where = Where((hood.thing, network.layout.segments[at.segment].run), gate_set=least.id)
    grade, sentence = _verdict(answers, hood, worst.flow, spread, least.id, say)
    about = (port_id(hood.thing, hood.port),)
    return Finding("hood-flow", grade, about, sentence, why, _basis(answers, hood), where, figures)


def _known(layout: Layout) -> str:
    """What the range of a flow comes from."""
    known = []
    if any(one.hose is not None for one in layout.segments):
        known.append("hose: its roughness, and what slack does to it")
    if any(band_of(source) for _, source in layout.sources):
        known.append("the source's curve")
    return "; and of ".join(known)


def _basis(answers: Answers, hood: Hood) -> Basis:
    """What the needs of a hood rest on."""
    ports: Iterator[Port] = (
        port
        for thing in answers.shop.things
        if thing.id == hood.thing
        for port in thing.ports
        if port.id == hood.port
    )
    return _NEEDS[next(ports).needs_from]


def hood_grade(hood: Hood, flow: float, wanted: float) -> Grade:
    """What a hood's flow is worth [m3/s]; its finding and its colour on the plan go by it."""
    if flow < PLUGS * hood.chips_flow:
        return Grade.STOP
    if flow < SHORT * hood.chips_flow:
        return Grade.MEND
    return Grade.WATCH if flow < wanted else Grade.GOOD


def grade_of_choice(shop: Shop, layout: Layout, flows: GateSetFlow) -> Grade:
    """What a choice of gates is worth: its worst hood, or what moves worst in its runs."""
    if not flows.converged:
        return Grade.STOP
    ends = ((one, layout.segments[one.segment].hood) for one in flows.hoods if one.at_work)
    hoods = [hood_grade(end, one.flow, wanted_flow(shop, end)) for one, end in ends if end is not None]
    runs = [CHIP_GRADES[part.state] for part in carried(layout, flows) if part.state in CHIP_GRADES]
    return min([*hoods, *runs], default=Grade.GOOD)


def _verdict(
    answers: Answers, hood: Hood, flow: float, spread: tuple[float, float] | None, choice: str, say: Figures
) -> tuple[Grade, str]:
    """What a hood's least flow is worth, in a sentence."""
    name, choice = name_of(answers.shop, hood.thing), answers.of(DuctAnswers).choice_name(choice)
    wanted = wanted_flow(answers.shop, hood)
    grade, share = hood_grade(hood, flow, wanted), flow / hood.chips_flow
    got = say.flow(flow)
    if spread is not None and spread[1] - spread[0] > WORTH_A_RANGE * flow:
        got += f" ({say.flow(spread[0])} to {say.flow(spread[1])})"
    if flow < 0:
        return grade, (
            f"With “{choice}” {say.flow(-flow)} are blown back out of {name}: the air of another leg that meets its"
            " own head-on."
        )
    if grade == Grade.STOP:
        plug = f"{share:.0%} of what clears its chips: it will plug."
        return grade, f"{name} gets only {got} with “{choice}”, {plug}"
    if grade == Grade.MEND:
        chips = f"{got} of the {say.flow(hood.chips_flow)} that clear its chips."
        return grade, f"{name} is starved with “{choice}”: {chips}"
    if grade == Grade.WATCH:
        fine = f"but much fine dust gets past: that would take {say.flow(hood.fine_flow)}."
        return grade, f"{name} clears its chips with {got}, {fine}"
    return grade, f"{name} gets {got} or more in every gate choice; {say.flow(wanted)} is wanted."


def carrying(answers: Answers, network: NetworkResult, say: Figures) -> Iterator[Finding]:
    """Each gate set: where chips settle."""
    for one in network.sets:
        if one.converged:
            yield from _moving(answers, network.layout, one, say)


def _moving(answers: Answers, layout: Layout, one: GateSetFlow, say: Figures) -> Iterator[Finding]:
    choice = answers.of(DuctAnswers).choice_name(one.id)
    parts = carried(layout, one)
    bad = [index for index, part in enumerate(parts) if part.state in ("settling", "slow")]
    where = Where((layout.source_thing,), gate_set=one.id)
    if not bad and any(part.state == "moving" for part in parts):
        yield Finding(
            "chips-move",
            Grade.GOOD,
            (one.id,),
            f"With “{choice}” all that is carried keeps moving ({say.flow(one.whole_flow)} in all).",
            _works_at(one, say),
            Basis("published practice", transport("chips").source),
            where,
            {"flow": one.whole_flow},
        )
    if not bad:
        return
    worst = min(bad, key=lambda i: abs(one.segments[i].speed) / parts[i].limits.least)
    segment, limits, speed = layout.segments[worst], parts[worst].limits, abs(one.segments[worst].speed)
    is_settling = parts[worst].state == "settling"
    what, settle, keep = _WORDS[parts[worst].what]
    yield Finding(
        "chips-move",
        CHIP_GRADES[parts[worst].state],
        (one.id,),
        f"With “{choice}” {what} {settle if is_settling else 'may settle'} in"
        f" {run_name(answers, segment.run)}: {say.speed(speed)}, where"
        f" {say.speed(limits.least if is_settling else limits.want)} {keep} moving.",
        f"{say.flow(abs(one.segments[worst].flow))} in {say.size(segment.diameter)} is {say.speed(speed)}. For"
        f" {what} {say.speed(limits.want)} are wanted, most of all in risers, {say.speed(limits.least)} at the"
        f" least. {_works_at(one, say)}",
        Basis("published practice", limits.source),
        Where((segment.run,), middle(segment.path), one.id),
        {"speed": speed, "least": limits.least, "want": limits.want},
    )


def _works_at(one: GateSetFlow, say: Figures) -> str:
    points = "; the other ".join(
        f"works at {say.pressure(source.pressure)}, {say.flow(source.flow)}" for source in one.sources
    )
    return f"The source {points}." if len(one.sources) == 1 else f"One source {points}."


def idle_choices(answers: Answers, network: NetworkResult, _: Figures) -> Iterator[Finding]:
    """Choices of gates that open no hood."""
    for one in network.sets:
        if not any(hood.at_work for hood in one.hoods):
            yield Finding(
                "choice-idle",
                Grade.WATCH,
                (one.id,),
                f"“{answers.of(DuctAnswers).choice_name(one.id)}” opens the way to no machine: only leaks flow.",
                "A hood draws when every gate on its way is open. Open its gates in this choice, or take it away.",
                AS_DRAWN,
                Where((network.layout.source_thing,), gate_set=one.id),
            )


def middle(path: Path) -> tuple[float, float]:
    """A point to show a run at."""
    at = path[len(path) // 2] if len(path) > 2 else tuple((p + q) / 2 for p, q in zip(path[0], path[-1]))
    return (at[0], at[1])
