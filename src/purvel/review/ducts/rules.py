"""All rules of the ducts, and those of a system as it is built: the source's inlet, hose, strength."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator

from purvel.airflow.flows import NetworkResult
from purvel.airflow.paths import length_of
from purvel.airflow.segments import Layout, Segment
from purvel.airflow.sources import SourceCurve, most_suction
from purvel.catalogue import materials
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.curve_rules import blown_back, curve_ends, known_of
from purvel.review.ducts.drawn import (
    hoodless,
    ignition,
    in_scene,
    in_the_way,
    loose,
    overhead,
    plastic,
    run_name,
    unconnected,
)
from purvel.review.ducts.filter_rules import filters
from purvel.review.ducts.flow_rules import carrying, hoods, idle_choices, middle, unsolved
from purvel.review.ducts.separator_rules import separators
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.stage import Rule
from purvel.shop.parts import name_of

# m: vac hose is 63 mm at most; in wider duct its flow crawls [computed: 100 cfm in 4 in is 1150 fpm]
WIDE_FOR_A_VAC = 0.090
LONG_HOSE = 2.0  # m: more hose than this on a collector deserves a look [trade practice]

SystemRule = Callable[[Answers, NetworkResult, Figures], Iterable[Finding]]


def _for_each_system(rule: SystemRule) -> Rule:
    """A rule of one system as a rule of the shop: asked of every system that leads to a machine."""

    def of_all(answers: Answers, say: Figures) -> Iterator[Finding]:
        for network in answers.of(DuctAnswers).networks:
            if network.layout.hoods:
                yield from rule(answers, network, say)

    return of_all


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
            f"Its free flow of {say.flow(curve.free_flow)} in {say.size(wide[0].diameter)} is"
            f" {say.speed(speed)}. A vac has suction, not flow: keep it on hose of {say.size(0.063)} or"
            " less.",
            Basis("geometry", "Flow over cross-section."),
            Where((layout.source_thing, wide[0].run)),
            {"speed": speed},
        )


def _one_at_a_time(answers: Answers, network: NetworkResult, say: Figures) -> Iterator[Finding]:
    """Choices in which one vac is asked to serve several tools."""
    layout = network.layout
    if any(source.kind != "vac" for _, source in layout.sources):
        return
    several = [one for one in network.sets if sum(hood.at_work for hood in one.hoods) > len(layout.sources)]
    if not several:
        return
    most = max(several, key=lambda one: sum(hood.at_work for hood in one.hoods))
    gets = ", ".join(
        f"{name_of(answers.shop, hood.thing)} {say.flow(hood.flow)}" for hood in most.hoods if hood.at_work
    )
    gateless = not any(segment.gates for segment in layout.segments)
    yield Finding(
        "vac-shared",
        Grade.WATCH,
        (layout.source_thing,),
        f"With “{answers.of(DuctAnswers).choice_name(most.id)}” {name_of(answers.shop, layout.source_thing)} is"
        f" shared by {sum(hood.at_work for hood in most.hoods)} tools; a vac serves one at a time.",
        f"Each gets a part of what it would get alone: {gets}. "
        + (
            "There is no gate: set one before each tool, or plug the hoses that are not in use."
            if gateless
            else "Open one gate at a time."
        ),
        Basis("trade practice", "A vac has suction for one small port (medium confidence)."),
        Where((layout.source_thing,), gate_set=most.id),
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
        solved = [flows for flows in network.sets if flows.converged]
        if not solved:
            continue
        one = max(solved, key=lambda flows: flows.segments[index].flow)
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
        where = Where((segment.run,), middle(segment.path))
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
    """The most that the sources can suck, at the strong end of what is known of their curves."""
    layout = network.layout
    shut_off = max(map(most_suction, (source for _, source in layout.sources)))
    weak: dict[str, float] = {}
    for segment in layout.segments:
        run = next(run for run in answers.shop.ducts.runs if run.id == segment.run)
        limit = materials()[run.material].collapse_limit(run.diameter)
        if limit < shut_off:
            weak[run.id] = limit
    for run_id, limit in weak.items():
        run = next(run for run in answers.shop.ducts.runs if run.id == run_id)
        known = [one for one in materials().values() if one.wall is not None]
        hold = [one for one in known if one.collapse_limit(run.diameter) >= shut_off]
        would = "; ".join(one.name_in(say.system).lower() for one in hold)
        yield Finding(
            "duct-collapse",
            Grade.STOP if shut_off > 2 * limit else Grade.MEND,
            (run_id,),
            f"{run_name(answers, run_id)} can fold flat: {materials()[run.material].name_in(say.system)} of"
            f" {say.size(run.diameter)} is taken to hold {say.pressure(limit)}, and with all gates shut the"
            f" suction can be {say.ended(say.pressure(shut_off))}",
            "Long thin tube 2E/(1−ν²)·(t/D)³, divided for seams, dents and warmth. The load is the greatest suction"
            " that the source can make, at the strong end of what is known of its curve. "
            + (
                f"At this size these hold it: {would}."
                if hold
                else "Nothing in the catalogue holds it at this size."
            )
            + " A relief flap at the main opens before it comes to that.",
            Basis(
                "published practice",
                "Bresse/Bryan formula; the divisor is trade practice (low confidence). SMACNA gauge tables"
                " are the authority.",
            ),
            Where((run_id,)),
            {"limit": limit, "shut_off": shut_off},
        )


RULES: tuple[Rule, ...] = (
    in_scene,
    loose,
    unconnected,
    hoodless,
    *map(
        _for_each_system,
        (
            unsolved,
            hoods,
            carrying,
            idle_choices,
            curve_ends,
            blown_back,
            _vac,
            _one_at_a_time,
            _hoses,
            _inlet,
            _strength,
            known_of,
            separators,
        ),
    ),
    in_the_way,
    ignition,
    overhead,
    plastic,
)
SEARCHES: tuple[Rule, ...] = (_for_each_system(filters),)  # a solution more for each state of a filter
