"""Rules of the ducts: every gate choice, every hood, every segment; the source's inlet, strength, the
overhead door.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass

from purvel.airflow.flows import NetworkResult
from purvel.airflow.paths import Path, length_of
from purvel.airflow.segments import Hood, Layout, Segment
from purvel.airflow.sources import SourceCurve
from purvel.catalogue import materials, transport
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers, chip_state
from purvel.review.ducts.drawn import (
    hoodless,
    in_scene,
    loose,
    overhead,
    plastic,
    run_name,
    unconnected,
)
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.stage import Rule
from purvel.shop.parts import name_of, port_id

# m: vac hose is 63 mm at most; in wider duct its flow crawls [computed: 100 cfm in 4 in is 1150 fpm]
WIDE_FOR_A_VAC = 0.090
LONG_HOSE = 2.0  # m: more hose than this on a collector deserves a look [trade practice]
# share of the flow that clears chips below which a hood is expected to plug [trade practice, low confidence]
PLUGS = 0.6
WORTH_A_RANGE = 0.03  # share of a flow: what is known better than this is said as one figure
SHORT = 0.95  # share of it that is still called enough: reading a curve is no better than that
_PRACTICE = Basis(
    "published practice",
    "Flow for chips: ACGIH woodworking prints (medium confidence). Flow for fine dust: fine-dust school (low"
    " confidence).",
)


SystemRule = Callable[[Answers, NetworkResult, Figures], Iterable[Finding]]


def _for_each_system(rule: SystemRule) -> Rule:
    """A rule of one system as a rule of the shop: asked of every system that leads to a machine."""

    def of_all(answers: Answers, say: Figures) -> Iterator[Finding]:
        for network in answers.of(DuctAnswers).networks:
            if network.layout.hoods:
                yield from rule(answers, network, say)

    return of_all


def _solved(answers: Answers, network: NetworkResult, _: Figures) -> Iterator[Finding]:
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


def _hoods(answers: Answers, network: NetworkResult, say: Figures) -> Iterator[Finding]:
    """Each hood over all gate sets in which it is open: the worst counts."""
    for column, index in enumerate(network.layout.hoods):
        hood = network.layout.segments[index].hood
        open_in = [which for which, one in enumerate(network.sets) if one.hoods[column].is_open]
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
        why += " The range is what is known of hose: its roughness, and what slack does to it."
    figures = {"flow": worst.flow, "best": best.flow, "chips": hood.chips_flow, "fine": hood.fine_flow}
    where = Where((hood.thing, network.layout.segments[at.segment].run), gate_set=least.id)
    grade, sentence = _verdict(answers, hood, worst.flow, spread, least.id, say)
    about = (port_id(hood.thing, hood.port),)
    return Finding("hood-flow", grade, about, sentence, why, _PRACTICE, where, figures)


def _verdict(
    answers: Answers, hood: Hood, flow: float, spread: tuple[float, float] | None, choice: str, say: Figures
) -> tuple[Grade, str]:
    """What a hood's least flow is worth."""
    name, choice = name_of(answers.shop, hood.thing), answers.of(DuctAnswers).choice_name(choice)
    wanted = hood.fine_flow if answers.shop.ducts.target == "fine" else hood.chips_flow
    share = flow / hood.chips_flow
    got = say.flow(flow)
    if spread is not None and spread[1] - spread[0] > WORTH_A_RANGE * flow:
        got += f" ({say.flow(spread[0])} to {say.flow(spread[1])})"
    if share < PLUGS:
        plug = f"{share:.0%} of what clears its chips: it will plug."
        return Grade.STOP, f"{name} gets only {got} with “{choice}”, {plug}"
    if share < SHORT:
        chips = f"{got} of the {say.flow(hood.chips_flow)} that clear its chips."
        return Grade.MEND, f"{name} is starved with “{choice}”: {chips}"
    if flow < wanted:
        fine = f"but much fine dust gets past: that would take {say.flow(hood.fine_flow)}."
        return Grade.WATCH, f"{name} clears its chips with {got}, {fine}"
    return Grade.GOOD, f"{name} gets {got} or more in every gate choice; {say.flow(wanted)} is wanted."


def _transport(answers: Answers, network: NetworkResult, say: Figures) -> Iterator[Finding]:
    """Each gate set: where chips settle."""
    layout = network.layout
    for one in network.sets:
        choice = answers.of(DuctAnswers).choice_name(one.id)
        states = [chip_state(layout, one, index) for index in range(len(layout.segments))]
        bad = [index for index, state in enumerate(states) if state in ("settling", "slow")]
        if not bad:
            if any(state == "moving" for state in states):
                sentence = f"With “{choice}” chips keep moving everywhere ({say.flow(one.flow)} in all)."
                why = f"The source works at {say.pressure(one.source_pressure)}, {say.flow(one.flow)}."
                basis = Basis("published practice", transport("branch").source)
                yield Finding(
                    "chips-move",
                    Grade.GOOD,
                    (one.id,),
                    sentence,
                    why,
                    basis,
                    Where((layout.source_thing,), gate_set=one.id),
                    {"flow": one.flow},
                )
            continue
        worst = min(bad, key=lambda i: one.segments[i].speed / transport(layout.segments[i].role).least)
        segment, limits = layout.segments[worst], transport(layout.segments[worst].role)
        speed = one.segments[worst].speed
        settling = states[worst] == "settling"
        yield Finding(
            "chips-move",
            Grade.MEND if settling else Grade.WATCH,
            (one.id,),
            f"With “{choice}” chips {'settle' if settling else 'may settle'} in"
            f" {run_name(answers, segment.run)}: {say.speed(speed)}, where"
            f" {say.speed(limits.least if settling else limits.want)} keep them moving.",
            f"{say.flow(one.segments[worst].flow)} in {say.size(segment.diameter)} is {say.speed(speed)}. A"
            f" {segment.role} wants {say.speed(limits.want)}, {say.speed(limits.least)} at the least. The"
            f" source works at {say.pressure(one.source_pressure)}, {say.flow(one.flow)}.",
            Basis("published practice", limits.source),
            Where((segment.run,), _middle(segment.path), one.id),
            {"speed": speed, "least": limits.least, "want": limits.want},
        )


def _vac(answers: Answers, network: NetworkResult, say: Figures) -> Iterator[Finding]:
    layout = network.layout
    if layout.source.kind != "vac":
        return
    wide = [segment for segment in layout.segments if segment.diameter >= WIDE_FOR_A_VAC]
    if wide:
        curve = SourceCurve(layout.source)
        speed = curve.free_flow / wide[0].area
        yield Finding(
            "vac-on-wide-duct",
            Grade.MEND,
            (layout.source_thing,),
            f"{name_of(answers.shop, layout.source_thing)} is on {say.size(wide[0].diameter)} duct: even with"
            f" nothing in its way the air would crawl at {say.speed(speed)}.",
            f"Its free flow of {say.flow(curve.free_flow)} over {wide[0].area * 1e4:.0f} cm² is"
            f" {say.speed(speed)}. A vac has suction, not flow: keep it on hose of {say.size(0.063)} or"
            " less.",
            Basis("geometry", "Flow over cross-section."),
            Where((layout.source_thing, wide[0].run)),
            {"speed": speed},
        )


def _hoses(answers: Answers, network: NetworkResult, say: Figures) -> Iterator[Finding]:
    if network.layout.source.kind == "vac":
        return
    for index, segment in enumerate(network.layout.segments):
        if (
            materials()[next(run for run in answers.shop.ducts.runs if run.id == segment.run).material].kind
            != "hose"
            or segment.length <= LONG_HOSE
        ):
            continue
        one = max(network.sets, key=lambda flows: flows.segments[index].flow)
        share = one.segments[index].friction_loss / max(one.source_pressure, 1e-9)
        sentence = (
            f"{run_name(answers, segment.run)} is {say.length(segment.length)} of hose and eats {share:.0%}"
            " of the suction."
        )
        why = (
            f"With “{answers.of(DuctAnswers).choice_name(one.id)}”: friction factor {one.segments[index].friction_factor:.3f}, loss "
            f"{say.pressure(one.segments[index].friction_loss)} of {say.ended(say.pressure(one.source_pressure))} "
            "Ribbed hose loses two to three times as much as smooth pipe, slack hose more; give or take half."
        )
        basis = Basis(
            "trade practice",
            "Hose roughness and slack law are known to about half (medium to low confidence).",
        )
        where = Where((segment.run,), _middle(segment.path))
        yield Finding(
            "hose-long",
            Grade.WATCH,
            (segment.id,),
            sentence,
            why,
            basis,
            where,
            {"length": segment.length, "share": share},
        )


def _inlet(answers: Answers, network: NetworkResult, say: Figures) -> Iterator[Finding]:
    """The straight piece before the fan's inlet."""
    layout = network.layout
    if layout.source.kind == "vac":
        return
    first, straight = min(_straights(answers, layout), key=lambda pair: pair[1] / pair[0].diameter)
    diameters = straight / first.diameter
    if diameters < 3.0:
        yield Finding(
            "inlet-straight",
            Grade.MEND if diameters < 1.0 else Grade.WATCH,
            (layout.source_thing,),
            f"Only {say.length(straight)} of straight pipe lead into"
            f" {name_of(answers.shop, layout.source_thing)}: {diameters:.1f} diameters.",
            "Air that enters a wheel swirling costs 0.5 to 1.5 velocity pressures more and 5 to 20 % of the"
            f" fan. Three to five diameters, {say.length(3 * first.diameter)} to"
            f" {say.length(5 * first.diameter)}, let it settle. This loss is not in the figures.",
            Basis("published practice", "AMCA 201, fan inlet system effect (medium confidence)."),
            Where((layout.source_thing, first.run)),
            {"diameters": diameters},
        )


def _straights(answers: Answers, layout: Layout) -> Iterator[tuple[Segment, float]]:
    """For each run on the inlet its first segment and how far it goes [m] before it turns or a branch comes
    in.
    """
    for segment in layout.segments:
        if segment.downstream < 0:
            path = answers.of(DuctAnswers).run_paths[segment.run]
            turns = [length_of(path[: i + 2]) for i in range(len(path) - 2)]
            yield segment, min([*turns, segment.ends])


def _strength(answers: Answers, network: NetworkResult, say: Figures) -> Iterator[Finding]:
    layout = network.layout
    shut_off = SourceCurve(layout.source).shut_off
    weak: dict[str, float] = {}
    for segment in layout.segments:
        run = next(run for run in answers.shop.ducts.runs if run.id == segment.run)
        limit = materials()[run.material].collapse_limit(run.diameter)
        if limit < shut_off:
            weak[run.id] = limit
    for run_id, limit in weak.items():
        run = next(run for run in answers.shop.ducts.runs if run.id == run_id)
        yield Finding(
            "duct-collapse",
            Grade.STOP if shut_off > 2 * limit else Grade.MEND,
            (run_id,),
            f"{run_name(answers, run_id)} can fold flat: {materials()[run.material].name} of"
            f" {say.size(run.diameter)} is taken to hold {say.pressure(limit)}, and with all gates shut the"
            f" suction is {say.ended(say.pressure(shut_off))}",
            "Long thin tube 2E/(1−ν²)·(t/D)³, divided for seams, dents and warmth. The load is the source's"
            " shut-off suction.",
            Basis(
                "published practice",
                "Bresse/Bryan formula; the divisor is trade practice (low confidence). SMACNA gauge tables"
                " are the authority.",
            ),
            Where((run_id,)),
            {"limit": limit, "shut_off": shut_off},
        )


def _curve(answers: Answers, network: NetworkResult, _: Figures) -> Iterator[Finding]:
    layout = network.layout
    if layout.source.curve_from == "representative":
        name = name_of(answers.shop, layout.source_thing)
        yield Finding(
            "curve-representative",
            Grade.WATCH,
            (layout.source_thing,),
            f"The curve of {name} is a representative one: flows are good to about a fifth. Put in your"
            " maker's points.",
            "Makers' “free air” figures are measured without filter, hose or duct, and often not at all: at a"
            " machine a third to two thirds of it arrive.",
            Basis(
                "trade practice",
                "Representative curve, ±20 % in pressure and ±25 % in flow (low confidence).",
            ),
            Where((layout.source_thing,)),
        )


def _middle(path: Path) -> tuple[float, float]:
    middle = path[len(path) // 2] if len(path) > 2 else tuple((p + q) / 2 for p, q in zip(path[0], path[-1]))
    return (middle[0], middle[1])


RULES: tuple[Rule, ...] = (
    in_scene,
    loose,
    unconnected,
    hoodless,
    *map(_for_each_system, (_solved, _hoods, _transport, _vac, _hoses, _inlet, _strength, _curve)),
    overhead,
    plastic,
)
