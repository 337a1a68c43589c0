"""What one change of a system would bring at a hood: a metre less of hose, a size more, gentler elbows, a
clean filter.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from purvel.airflow.fittings import elbow_loss
from purvel.airflow.flows import HoodFlow, NetworkResult
from purvel.airflow.layout import layouts
from purvel.airflow.network import solve
from purvel.airflow.segments import Fitting, Layout, Segment
from purvel.catalogue import duct_sizes, elbows, filter_states, materials
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.choices import GateChoice
from purvel.review.figures import Figures
from purvel.shop import Run
from purvel.shop.edits import change
from purvel.shop.parts import name_of

SHORTER = 1.0  # m of hose that is left out
GENTLE = "smooth-1.5"  # the elbows with the least loss
TURN_OF_TWO = 70.0  # deg: a sharper elbow may be made of two 45 degree ones


@dataclass(frozen=True, slots=True)
class Gain:
    """A change in words, and by how much the hood's flow grows with it [m3/s]."""

    change: str
    flow: float


def gains(answers: Answers, network: NetworkResult, choice: str, hood: HoodFlow, say: Figures) -> list[Gain]:
    """Changes on the way of a hood in one choice of gates, that which brings most first; each is solved by
    itself.
    """
    at = next(one for one in network.sets if one.id == choice)
    asked = GateChoice(choice, "", at.open_gates, at.part_open)
    ducts, found = answers.of(DuctAnswers), list[Gain]()
    now = _flow(ducts, network.layout, asked, hood)
    for words, layout in _changed(answers, network.layout, hood, say):
        then = _flow(ducts, layout, asked, hood)
        if then is not None and now is not None:
            found.append(Gain(words, then - now))
    return sorted(found, key=lambda one: -one.flow)


def _flow(ducts: DuctAnswers, layout: Layout, choice: GateChoice, hood: HoodFlow) -> float | None:
    opened = ((choice.id, choice.open),)  # not remembered: it would push out what the review needs again
    (one,) = solve(layout, opened, ducts.air_state, ducts.leaks, (dict(choice.part),)).sets
    ends = (end for end in one.hoods if (end.thing, end.port) == (hood.thing, hood.port))
    return next(ends).flow if one.converged else None


def _changed(answers: Answers, layout: Layout, hood: HoodFlow, say: Figures) -> Iterator[tuple[str, Layout]]:
    runs = {run.id: run for run in answers.shop.ducts.runs}
    way = layout.way(hood.segment)
    for index in way:
        segment, run = layout.segments[index], runs[layout.segments[index].run]
        if materials()[run.material].kind == "hose" and segment.length > SHORTER + 0.1:
            shorter = replace(segment, length=segment.length - SHORTER)
            yield f"{_named(answers, run)} {say.length(SHORTER)} shorter", _with(layout, index, shorter)
        yield from _elbows(answers, layout, index, run)
    for run_id in dict.fromkeys(layout.segments[index].run for index in way):
        yield from _wider(answers, layout, runs[run_id], say)
    yield from _source(answers, layout)


def _named(answers: Answers, run: Run) -> str:
    return name_of(answers.shop, run.id)


def _with(layout: Layout, index: int, segment: Segment) -> Layout:
    return replace(layout, segments=(*layout.segments[:index], segment, *layout.segments[index + 1 :]))


def _elbows(answers: Answers, layout: Layout, index: int, run: Run) -> Iterator[tuple[str, Layout]]:
    """An elbow less; the sharpest made of two of 45 degrees; all of the gentlest kind."""
    segment = layout.segments[index]
    bends = [one for one in segment.fittings if one.kind == "elbow"]
    if not bends:
        return
    sharpest = max(bends, key=lambda one: one.loss)
    rest = list(segment.fittings)
    rest.remove(sharpest)
    yield (
        f"{_named(answers, run)} with one elbow less",
        _with(layout, index, replace(segment, fittings=tuple(rest))),
    )
    if materials()[run.material].kind == "hose":
        return
    kind, gentle = elbows()[run.elbow], elbows()[GENTLE]
    two = 2.0 * elbow_loss(gentle.loss, 45.0)
    if sharpest.turn >= TURN_OF_TWO and two < sharpest.loss:
        halves = replace(sharpest, loss=two, loss_there=two)
        changed = replace(segment, fittings=(*rest, halves))
        yield (
            f"{_named(answers, run)} with two 45s instead of its sharpest elbow",
            _with(layout, index, changed),
        )
    if gentle.loss < kind.loss:
        eased = tuple(_eased(one, kind.loss, gentle.loss) for one in segment.fittings)
        words = f"{_named(answers, run)} with elbows of radius 1.5 D"
        yield words, _with(layout, index, replace(segment, fittings=eased))


def _eased(one: Fitting, was: float, loss: float) -> Fitting:
    if one.kind != "elbow":
        return one
    return replace(one, loss=one.loss * loss / was, loss_there=one.loss_there * loss / was)


def _wider(answers: Answers, layout: Layout, run: Run, say: Figures) -> Iterator[tuple[str, Layout]]:
    """A run one size up."""
    wider = next((size for size in duct_sizes() if size > run.diameter + 1e-6), None)
    if wider is None:
        return
    shop = change(answers.shop, run.id, diameter=wider)
    for one in layouts(shop.ducts, shop.things):
        if one.source_thing == layout.source_thing:
            yield f"{_named(answers, run)} {say.size(wider)} instead of {say.size(run.diameter)}", one


def _source(answers: Answers, layout: Layout) -> Iterator[tuple[str, Layout]]:
    """The filter clean; the separator taken out."""
    source = layout.source
    if source.filter is not None:
        clean = replace(
            source.filter,
            resistance=min(source.filter.resistance, filter_states(source.filter.medium)["clean"]),
        )
        yield "The filter cleaned", replace(layout, source=replace(source, filter=clean))
    if source.separator is not None:
        yield "Without the separator", replace(layout, source=replace(source, separator=None))
