"""Rules of the flows that the network gives: what each hood gets, where chips settle, where the figures
end.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from purvel.airflow.flows import GateSetFlow, NetworkResult
from purvel.airflow.paths import Path
from purvel.airflow.segments import Hood, Layout
from purvel.airflow.sources import BANDS, SourceCurve
from purvel.catalogue import transport
from purvel.review.answers import Answers
from purvel.review.ducts.answers import ChipState, DuctAnswers, carried, chip_state
from purvel.review.ducts.drawn import AS_DRAWN, run_name
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
        open_in = [which for which in solved if network.sets[which].hoods[column].is_open]
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
    if layout.source.curve_from in BANDS:
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


def wanted_flow(shop: Shop, hood: Hood) -> float:
    """What is wanted of a hood, for what the shop is after [m3/s]."""
    return hood.fine_flow if shop.ducts.target == "fine" else hood.chips_flow


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
    asked = [transport(carried(layout, one, index)) for index in range(len(layout.segments))]
    states = [chip_state(layout, one, index) for index in range(len(layout.segments))]
    bad = [index for index, state in enumerate(states) if state in ("settling", "slow")]
    where = Where((layout.source_thing,), gate_set=one.id)
    if not bad and any(state == "moving" for state in states):
        yield Finding(
            "chips-move",
            Grade.GOOD,
            (one.id,),
            f"With “{choice}” all that is carried keeps moving ({say.flow(one.flow)} in all).",
            f"The source works at {say.pressure(one.source_pressure)}, {say.flow(one.flow)}.",
            Basis("published practice", transport("chips").source),
            where,
            {"flow": one.flow},
        )
    if not bad:
        return
    worst = min(bad, key=lambda i: one.segments[i].speed / asked[i].least)
    segment, limits, speed = layout.segments[worst], asked[worst], one.segments[worst].speed
    is_settling = states[worst] == "settling"
    what, settle, keep = _WORDS[carried(layout, one, worst)]
    yield Finding(
        "chips-move",
        CHIP_GRADES[states[worst]],
        (one.id,),
        f"With “{choice}” {what} {settle if is_settling else 'may settle'} in"
        f" {run_name(answers, segment.run)}: {say.speed(speed)}, where"
        f" {say.speed(limits.least if is_settling else limits.want)} {keep} moving.",
        f"{say.flow(one.segments[worst].flow)} in {say.size(segment.diameter)} is {say.speed(speed)}. For"
        f" {what} {say.speed(limits.want)} are wanted, most of all in risers, {say.speed(limits.least)} at the"
        f" least. The source works at {say.pressure(one.source_pressure)}, {say.flow(one.flow)}.",
        Basis("published practice", limits.source),
        Where((segment.run,), middle(segment.path), one.id),
        {"speed": speed, "least": limits.least, "want": limits.want},
    )


def idle_choices(answers: Answers, network: NetworkResult, _: Figures) -> Iterator[Finding]:
    """Choices of gates that open no hood."""
    for one in network.sets:
        if not any(hood.is_open for hood in one.hoods):
            yield Finding(
                "choice-idle",
                Grade.WATCH,
                (one.id,),
                f"“{answers.of(DuctAnswers).choice_name(one.id)}” opens the way to no machine: only leaks flow.",
                "A hood draws when every gate on its way is open. Open its gates in this choice, or take it away.",
                AS_DRAWN,
                Where((network.layout.source_thing,), gate_set=one.id),
            )


def curve_ends(answers: Answers, network: NetworkResult, say: Figures) -> Iterator[Finding]:
    """Choices in which the source works where its curve says nothing: past the last point, or left of the
    highest.
    """
    curve = SourceCurve(network.layout.source)
    name = name_of(answers.shop, network.layout.source_thing)
    past = [one for one in network.sets if one.converged and one.flow > curve.last_flow]
    if past:
        most = max(past, key=lambda one: one.flow)
        choices = ", ".join(f"“{answers.of(DuctAnswers).choice_name(one.id)}”" for one in past[:3])
        yield Finding(
            "curve-past",
            Grade.WATCH,
            (network.layout.source_thing,),
            f"{name} works past the last point of its curve with {choices}: those flows are guessed.",
            f"The last point is {say.flow(curve.last_flow)}; from"
            f" there on the curve is drawn out as straight as it ends, up to {say.flow(most.flow)}. Put in another"
            " point of the maker's curve.",
            Basis("geometry", "As far as the curve goes."),
            Where((network.layout.source_thing,), gate_set=most.id),
            {"flow": most.flow, "last": curve.last_flow},
        )
    hump = [one for one in network.sets if one.converged and one.hoods and one.flow < curve.peak_flow]
    if hump and curve.top > 0:
        least = min(hump, key=lambda one: one.flow)
        yield Finding(
            "curve-hump",
            Grade.WATCH,
            (network.layout.source_thing,),
            f"{name} works left of the highest point of its curve with"
            f" “{answers.of(DuctAnswers).choice_name(least.id)}”: a fan may surge there.",
            f"{say.flow(least.flow)}, where the curve is highest at {say.flow(curve.peak_flow)}. The figures take"
            " the highest pressure there.",
            Basis("published practice", "Fan practice: work right of the peak (medium confidence)."),
            Where((network.layout.source_thing,), gate_set=least.id),
            {"flow": least.flow, "peak": curve.peak_flow},
        )


def middle(path: Path) -> tuple[float, float]:
    """A point to show a run at."""
    at = path[len(path) // 2] if len(path) > 2 else tuple((p + q) / 2 for p, q in zip(path[0], path[-1]))
    return (at[0], at[1])
