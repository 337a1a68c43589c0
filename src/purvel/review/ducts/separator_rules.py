"""Rules of separators: what gets past them to the filter, and whether a hose tips a bucket over."""

from __future__ import annotations

from collections.abc import Iterator
from math import pi

from purvel.airflow.flows import NetworkResult
from purvel.airflow.separators import (
    PASSES_CHIPS,
    PASSES_FINE,
    ballast_wanted,
    cut_size,
    inlet_width,
)
from purvel.catalogue import materials
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.shop import Separator
from purvel.shop.parts import name_of

PULL = (20.0, 60.0)  # N, of a hose that is dragged along [a guess]
CONTAINERS = {
    # height of the lid, base, empty mass of a usual one [m, m, kg; trade practice, low]
    "bucket": (0.50, 0.27, 2.5),
    "drum": (0.90, 0.45, 9.0),
}


def separators(answers: Answers, network: NetworkResult, say: Figures) -> Iterator[Finding]:
    """Each source with a separator."""
    for number, (thing, source) in enumerate(network.layout.sources):
        if source.separator is not None:
            flows = [one.sources[number].flow for one in network.sets if one.converged]
            yield _past(answers, thing, source.separator, max(flows, default=0.0), say)
            yield from _tips(answers, network, thing, source.separator, say)


def _past(answers: Answers, thing: str, one: Separator, flow: float, say: Figures) -> Finding:
    chips, fine = PASSES_CHIPS[one.kind], PASSES_FINE[one.kind]
    name = name_of(answers.shop, thing)
    why = (
        f"Of chips {chips[0]:.0%} to {chips[1]:.0%} of the mass go past a {one.kind}, of the finest dust {fine[0]:.0%} to"
        f" {fine[1]:.0%}. A leak in its bin carries most of the dust along: seal the lid."
    )
    figures = {}
    if one.kind == "cyclone" and flow > 0:
        speed = flow / (pi / 4 * one.inlet_diameter**2)
        cut = cut_size(inlet_width(one.inlet_diameter), speed, answers.of(DuctAnswers).air_state.viscosity)
        figures = {"cut_size": cut}
        why += (
            f" At {say.speed(speed)} in its inlet it catches half of what is {1e6 * cut:.1f} µm, less of what is finer"
            " (Lapple)."
        )
    return Finding(
        "separator-passes",
        Grade.GOOD,
        (thing,),
        f"The filter of {name} still takes the finest dust: its {one.kind} lets {fine[0]:.0%} to {fine[1]:.0%} of it by.",
        why,
        Basis("trade practice", "Shares caught by separators of hobby size (low confidence)."),
        Where((thing,)),
        figures,
    )


def _tips(
    answers: Answers, network: NetworkResult, thing: str, one: Separator, say: Figures
) -> Iterator[Finding]:
    """A bucket or drum on a hose that is dragged: only where hose hangs on the system."""
    runs = {run.id: run for run in answers.shop.ducts.runs}
    on_hose = any(
        materials()[runs[segment.run].material].kind == "hose" for segment in network.layout.segments
    )
    if one.kind not in CONTAINERS or not on_hose:
        return
    height, base, mass = CONTAINERS[one.kind]
    low, high = (ballast_wanted(pull, height, base, mass + one.ballast) for pull in PULL)
    name = name_of(answers.shop, thing)
    if high <= 0:
        grade, sentence = Grade.GOOD, f"The {one.kind} of {name} stands against the pull of its hose."
    else:
        grade = Grade.WATCH  # the pull is a guess
        more = say.mass(high) if low <= 0 else f"{say.mass(low)} to {say.mass(high)}"
        sentence = f"A hose that is dragged tips the empty {one.kind} of {name} over: {more} more at its foot would hold it."
    yield Finding(
        "separator-tips",
        grade,
        (thing,),
        sentence,
        f"{PULL[0]:.0f} to {PULL[1]:.0f} N at a lid {say.length(height)} up, on a base of {say.length(base)} and"
        f" {say.mass(mass + one.ballast)}. Ballast in its foot, a wider board under it or a strap to the vac hold it; a hose"
        " led down from above does not pull.",
        Basis("geometry", "Moments about its edge; pull and sizes are guesses (low confidence)."),
        Where((thing,)),
        {"ballast_low": low, "ballast_high": high},
    )
