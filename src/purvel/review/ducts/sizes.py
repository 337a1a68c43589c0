"""Sizes for the runs of a system: what is asked of it, what is found, and in words what that means."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Literal, get_args

from purvel.airflow.flows import NetworkResult
from purvel.airflow.sized import SizedSystem
from purvel.airflow.sizing import Aim, Asked, Bind, Offer, Sizing, sizings
from purvel.airflow.sources import SourceCurve
from purvel.catalogue import duct_sizes, kinds, make_thing
from purvel.catalogue.money import duct_prices
from purvel.libraries import Array, np
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.choices import gate_choices
from purvel.review.ducts.standing import carried, wanted_flow
from purvel.review.figures import Figures
from purvel.shop import Shop, Source
from purvel.shop.edits import put
from purvel.shop.parts import name_of

Speeds = Literal["want", "least"]
SPEEDS: tuple[Speeds, ...] = get_args(Speeds)
SMALLEST = 0.08  # m: of pipe on a collector or cyclone; narrower is vac hose [trade practice]
LARGEST_ON_VAC = 0.1  # m: in wider duct a vac's air crawls
_TRY_SOURCE = 4.0  # s that each other source is tried for


@dataclass(frozen=True, slots=True, eq=False)
class Problem:
    """A system whose sizes are searched: as it is, what is asked, and what runs cost in each size (R, sizes)
    in US dollars, by our own rough bands.
    """

    network: NetworkResult
    system: SizedSystem
    asked: Asked
    prices: Array


@dataclass(frozen=True, slots=True, eq=False)
class Result:
    """How far a search is: the best sizes so far, and whether it is over. Where nothing holds then, `source`
    is the smallest of the catalogue with which something would, empty for none.
    """

    posed: Problem
    sizing: Sizing
    is_over: bool = False
    source: str = ""


def sizes_for(source: Source) -> tuple[float, ...]:
    """The sizes sold that are looked at for a source [m]."""
    is_vac = source.kind == "vac"
    return tuple(size for size in duct_sizes() if (size <= LARGEST_ON_VAC if is_vac else size >= SMALLEST))


def problem(
    answers: Answers, network: NetworkResult, speeds: Speeds = "want", source: Source | None = None
) -> Problem:
    """What is searched for a system, in all its choices of gates; with another `source` in its place where
    one is named. Raises ValueError where sizes cannot be searched for, and says why.
    """
    shop, ducts, layout = answers.shop, answers.of(DuctAnswers), network.layout
    if not layout.hoods:
        raise ValueError("No run leads to a machine yet.")
    things = tuple(
        replace(thing, source=in_place(thing.source, source))
        if source is not None and thing.source is not None and thing.id == layout.source_thing
        else thing
        for thing in shop.things
    )
    choices = gate_choices(shop, layout)
    sets = [(choice.open, dict(choice.part)) for choice in choices]
    sizes = sizes_for(source or layout.source)
    system = SizedSystem(shop.ducts, things, layout.source_thing, sizes, sets, ducts.air_state, ducts.leaks)
    return Problem(network, system, _asked(shop, network, speeds), _prices(answers, system))


def in_place(was: Source, other: Source) -> Source:
    """Another source where one stands: its inlet where that one's is."""
    return replace(
        other,
        inlet_x=was.inlet_x,
        inlet_y=was.inlet_y,
        inlet_z=was.inlet_z,
        inlet_direction=was.inlet_direction,
    )


def _asked(shop: Shop, network: NetworkResult, speeds: Speeds) -> Asked:
    layout = network.layout
    flows = np.zeros((len(network.sets), len(layout.hoods)))
    wanted = np.zeros((len(network.sets), len(layout.segments)))
    for row, one in enumerate(network.sets):
        for column, hood in enumerate(one.hoods):
            end = layout.segments[hood.segment].hood
            if hood.at_work and end is not None:
                flows[row, column] = wanted_flow(shop, end)
        for index, part in enumerate(carried(layout, one)):
            if part.state != "idle":
                wanted[row, index] = part.limits.want if speeds == "want" else part.limits.least
    return Asked(flows, wanted)


def _prices(answers: Answers, system: SizedSystem) -> Array:
    """Metres, fittings and gates of each run in each size, at the middle of what they cost."""
    prices, metres, pieces = duct_prices(), dict[str, float](), dict[str, float]()
    for part in answers.of(DuctAnswers).parts:
        counted = metres if part.unit == "m" else pieces
        counted[part.run] = counted.get(part.run, 0.0) + part.amount
    made = {run.id: run.material for run in answers.shop.ducts.runs}

    def cost(run: str, size: float) -> float:
        metre, piece = prices.middle("m", size, made[run]), prices.middle("piece", size, made[run])
        return metres.get(run, 0.0) * metre + pieces.get(run, 0.0) * piece

    return np.array([[cost(run, size) for size in system.sizes] for run in system.runs])


def taken(shop: Shop, offer: Offer) -> Shop:
    """The shop with its runs in the sizes of an offer."""
    for run in shop.ducts.runs:
        if run.id in offer.sizes and abs(offer.sizes[run.id] - run.diameter) > 1e-6:
            shop = put(shop, replace(run, diameter=offer.sizes[run.id]))
    return shop


def smaller_first(source: Source) -> list[tuple[str, str, Source]]:
    """Sources of the catalogue of the same family, by key and name, that with the least power first."""
    found = []
    for key, kind in kinds().items():
        if kind.source is not None:
            other = make_thing(key, key).source
            if other is not None and (other.kind == "vac") == (source.kind == "vac"):
                curve = SourceCurve(other)
                found.append((curve.shut_off * curve.free_flow, key, kind.name, other))
    return [one[1:] for one in sorted(found, key=lambda one: one[:2])]


def searched(posed: Problem, answers: Answers, aim: Aim, speeds: Speeds) -> Iterator[Result]:
    """The best sizes as they are found; the last is the answer. Raises Stopped when nobody waits any more."""
    last: Sizing | None = None
    for last in sizings(posed.system, posed.asked, posed.prices, aim):
        yield Result(posed, last)
    assert last is not None  # a search tries something
    name = "" if last.best.holds else _source_that_would(answers, posed.network, aim, speeds)
    yield Result(posed, last, is_over=True, source=name)


def _source_that_would(answers: Answers, network: NetworkResult, aim: Aim, speeds: Speeds) -> str:
    """The smallest source of the catalogue with which something holds, by its name; empty if none does."""
    for _, name, source in smaller_first(network.layout.source):
        other = problem(answers, network, speeds, source)
        if any(one.best.holds for one in sizings(other.system, other.asked, other.prices, aim, _TRY_SOURCE)):
            return name
    return ""


# ---- in words


def said(answers: Answers, found: Result, say: Figures) -> Iterator[str]:
    """What a search found, line by line."""
    posed, sizing, best = found.posed, found.sizing, found.sizing.best
    if best.holds:
        yield (
            f"All flows and speeds hold in every choice of gates, flows with {best.growth - 1:.0%} to spare."
        )
    else:
        yield (
            f"No sizes hold everything: these come nearest, with {best.share:.0%} of what is asked where it is"
            " tightest."
        )
    yield from _resized(answers, best, say)
    known = "proven, nothing better holds" if sizing.is_proven else "the best that was found, not proven"
    yield f"Tried {sizing.tried:,}: {known}. Sizes from {say.size(posed.system.sizes[0])} to {say.size(posed.system.sizes[-1])}."
    yield (
        f"About {best.cost:,.0f} USD of pipe, hose and fittings (our rough prices); the suctions at the inlet sum to"
        f" {say.ended(say.pressure(best.loss))}"
    )
    for bind in sizing.binds[:3]:
        yield _tight(answers, posed.network, bind)
    if not best.holds and sizing.binds:
        yield f"First to give way: {_what(answers, posed.network, sizing.binds[0])}."
    if found.is_over and not best.holds:
        yield f"The smallest source with which something holds: {found.source or 'none of the catalogue'}."
    if len(sizing.frontier) > 1:
        more = (f"{one.cost:,.0f} USD for {one.growth - 1:.0%} to spare" for one in sizing.frontier[:5])
        yield f"For more money: {', '.join(more)}."


def _resized(answers: Answers, offer: Offer, say: Figures) -> Iterator[str]:
    other = [f"{name} {old} → {new}" for name, old, new in changes(answers, offer, say) if old != new]
    as_is = len(offer.sizes) - len(other)
    stays = "" if not as_is else " All sizes stay." if not other else f" The other {as_is} stay as they are."
    yield f"{'; '.join(other)}.{stays}" if other else stays.strip()


def changes(answers: Answers, offer: Offer, say: Figures) -> Iterator[tuple[str, str, str]]:
    """Each run, the size that it has and the one that it gets."""
    for run in answers.shop.ducts.runs:
        if run.id in offer.sizes:
            yield name_of(answers.shop, run.id), say.size(run.diameter), say.size(offer.sizes[run.id])


def _what(answers: Answers, network: NetworkResult, bind: Bind) -> str:
    layout = network.layout
    if bind.hood is not None:
        end = layout.segments[layout.hoods[bind.hood]].hood
        return f"the flow at {name_of(answers.shop, end.thing) if end else ''}"
    assert bind.segment is not None  # one of the two is what binds
    return f"the speed in {name_of(answers.shop, layout.segments[bind.segment].run)}"


def _tight(answers: Answers, network: NetworkResult, bind: Bind) -> str:
    choice = answers.of(DuctAnswers).choice_name(network.sets[bind.choice].id)
    what = _what(answers, network, bind)
    return f"With “{choice}” {what} is {bind.share:.0%} of what is asked."
