"""Sizes sought together with what pipe is made of, and with another source: each kind of pipe that holds, and
each source of the same family, is sized as it would be alone; the best of all is the answer.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from purvel.airflow.flows import NetworkResult
from purvel.airflow.sizing import Aim, Sizing, sizings
from purvel.airflow.sources import most_suction
from purvel.catalogue import kinds, materials
from purvel.catalogue.money import prices
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.sizes import Result, Speeds, in_place, problem, searched, smaller_first
from purvel.review.ducts.sizes import taken as sized
from purvel.shop import Shop, Source
from purvel.shop.edits import put

SECONDS = 20.0  # that all trials together may take, where none is gone through as a whole


@dataclass(frozen=True, slots=True)
class Trial:
    """One kind of pipe and one source: their keys in the catalogue, empty for as it is."""

    material: str = ""
    kind: str = ""


@dataclass(frozen=True, slots=True, eq=False)
class Wider(Result):
    """The best so far, of which trial it is, and how many kinds of pipe do not hold the source's suction."""

    trial: Trial = Trial()
    crushed: int = 0
    share: float = 0.0  # of all trials that are done


def widened(
    answers: Answers, network: NetworkResult, how: tuple[Aim, Speeds], *, pipes: bool, sources: bool
) -> Iterator[Result]:
    """The best sizes, pipe and source as they are found; the last is the answer. Asked for neither it is the
    search for sizes alone. Raises ValueError where sizes are not searched for; Stopped when nobody waits.
    """
    aim, speeds = how
    if not pipes and not sources:
        yield from searched(problem(answers, network, speeds), answers, aim, speeds)
        return
    trials, crushed = _trials(answers, network, pipes=pipes, sources=sources)
    best: tuple[tuple[float, float], Wider] | None = None
    for number, (trial, shop) in enumerate(trials):
        inner = answers.with_shop(shop)
        here = next(
            one
            for one in inner.of(DuctAnswers).networks
            if one.layout.source_thing == network.layout.source_thing
        )
        posed = problem(inner, here, speeds)
        extra = sum(prices()[trial.kind]) / 2 if trial.kind in prices() else 0.0
        last: Sizing | None = None
        for last in sizings(posed.system, posed.asked, posed.prices, aim, max(1.0, SECONDS / len(trials))):
            share = (number + last.done) / len(trials)
            if best is not None:
                yield replace(best[1], share=share)
        assert last is not None  # a search tries something
        rank = _rank(last, aim, extra) if _stands(shop, here.layout.source, last) else (2.0, 0.0)
        if best is None or rank < best[0]:
            best = rank, Wider(posed, last, trial=trial, crushed=crushed)
        yield replace(best[1], share=(number + 1) / len(trials))
    assert best is not None  # there is always pipe as it is, or it would not have been posed
    yield replace(best[1], is_over=True, share=1.0)


def _rank(sizing: Sizing, aim: Aim, extra: float) -> tuple[float, float]:
    """What holds comes first, by the aim; then what comes nearest."""
    best = sizing.best
    if not best.holds:
        return 1.0, -best.share
    return 0.0, best.cost + extra if aim == "cost" else best.loss


def _stands(shop: Shop, source: Source, sizing: Sizing) -> bool:
    """Whether no pipe of another kind is folded by the suction in the sizes that were found."""
    made, sizes = {run.id: run.material for run in shop.ducts.runs}, sizing.best.sizes
    limits = (materials()[made[run]].collapse_limit(size) for run, size in sizes.items())
    return all(limit >= most_suction(source) for limit in limits)


def _trials(
    answers: Answers, network: NetworkResult, *, pipes: bool, sources: bool
) -> tuple[list[tuple[Trial, Shop]], int]:
    """What is tried, as it is first, and how many kinds of pipe are left out because suction folds them."""
    shop, layout = answers.shop, network.layout
    mine = {segment.run for segment in layout.segments}
    kinds_of_pipe = [""]
    if pipes:
        kinds_of_pipe += [key for key, one in materials().items() if one.kind == "duct" and not one.plastic]
    movers: list[tuple[str, Source]] = [("", layout.source)]
    if sources:
        movers += [(key, source) for key, _, source in smaller_first(layout.source)]
    found, crushed = list[tuple[Trial, Shop]](), 0
    widest = max((run.diameter for run in shop.ducts.runs if run.id in mine), default=0.1)
    for key in kinds_of_pipe:
        for kind, source in movers:
            if key and materials()[key].collapse_limit(widest) < most_suction(source):
                crushed += 1
                continue
            other = source if kind else None
            found.append((Trial(key, kind), _made(shop, layout.source_thing, mine, key, other)))
    return found, crushed


def _made(shop: Shop, owner: str, mine: set[str], material: str, source: Source | None) -> Shop:
    """The shop with its pipe of another kind, and another source where its own is."""
    thing = shop.thing(owner)
    if source is not None and thing is not None and thing.source is not None:
        shop = put(shop, replace(thing, source=in_place(thing.source, source)))
    for run in shop.ducts.runs if material else ():
        if run.id in mine and materials()[run.material].kind == "duct":
            shop = put(shop, replace(run, material=material, roughness=None))
    return shop


def taken(shop: Shop, result: Result, owner: str) -> Shop:
    """The shop with what was found: sizes, and pipe and source where those were sought too."""
    if isinstance(result, Wider):
        mine = set(result.posed.system.runs)
        source = None
        if result.trial.kind:
            source = next(
                one
                for key, _, one in smaller_first(result.posed.network.layout.source)
                if key == result.trial.kind
            )
        shop = _made(shop, owner, mine, result.trial.material, source)
    return sized(shop, result.sizing.best)


def words(result: Result) -> Iterator[str]:
    """What was chosen besides sizes, a line."""
    if not isinstance(result, Wider):
        return
    trial = result.trial
    pipe = f"pipe of {materials()[trial.material].name.lower()}" if trial.material else "pipe as drawn"
    mover = f"{kinds()[trial.kind].name} (its price counted in)" if trial.kind else "the source as it is"
    crushed = (
        f" {result.crushed} combinations were left out: suction would fold the pipe."
        if result.crushed
        else ""
    )
    yield f"Best with {pipe} and {mover}.{crushed}"
