"""Searches of the ducts without a window: as JSON for scripts (docs/report.md) and as text for people."""

from collections.abc import Iterator
from typing import Any

from purvel.airflow.flows import NetworkResult
from purvel.airflow.sizing import AIMS, Offer
from purvel.review import Answers, Figures, Memory
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.route_words import said as said_of_routes
from purvel.review.ducts.routes import routings
from purvel.review.ducts.sizes import SPEEDS, Speeds, said
from purvel.review.ducts.wider import Wider, taken, widened, words
from purvel.shop import Shop
from purvel.shop.parts import name_of


class SizesFound:
    """What a search found for the system of one source. Raises ValueError where there is none, or where sizes
    are not searched for.
    """

    def __init__(
        self,
        shop: Shop,
        source: str | None,
        aim: str,
        speeds: str,
        *,
        pipes: bool = False,
        sources: bool = False,
    ) -> None:
        if aim not in AIMS:
            raise ValueError(f"The aim is {' or '.join(AIMS)}.")
        self.answers, self.speeds = Answers(shop, Memory()), _speeds(speeds)
        network = _network(self.answers, source)
        *_, self.result = widened(self.answers, network, (aim, self.speeds), pipes=pipes, sources=sources)

    @property
    def shop(self) -> Shop:
        """The shop with the sizes that were found."""
        return taken(self.answers.shop, self.result, self.result.posed.network.layout.source_thing)

    def as_json(self) -> dict[str, Any]:
        """In SI units."""
        posed, sizing = self.result.posed, self.result.sizing
        network = posed.network
        return {
            "source": network.layout.source_thing,
            "sizes_tried": list(posed.system.sizes),
            "speeds": self.speeds,
            "holds": sizing.best.holds,
            "proven": sizing.is_proven,
            "tried": sizing.tried,
            "best": _offer(sizing.best),
            "frontier": [_offer(one) for one in sizing.frontier],
            "binds": [
                {
                    "gate_set": network.sets[one.choice].id,
                    "hood": None if one.hood is None else network.sets[0].hoods[one.hood].thing,
                    "segment": None if one.segment is None else network.layout.segments[one.segment].id,
                    "share": one.share,
                }
                for one in sizing.binds
            ],
            "smallest_source": self.result.source or None,
            "material": (self.result.trial.material or None) if isinstance(self.result, Wider) else None,
            "other_source": (self.result.trial.kind or None) if isinstance(self.result, Wider) else None,
        }

    def as_text(self) -> Iterator[str]:
        """In the reader's units."""
        yield from words(self.result)
        yield from said(self.answers, self.result, Figures(self.answers.shop.units))


class RoutesFound:
    """What is proposed for a source: the one named, else the first there is. Raises ValueError where nothing
    is.
    """

    def __init__(self, shop: Shop, source: str | None, speeds: str) -> None:
        sources = [thing.id for thing in shop.things if thing.source is not None]
        if source not in (None, *sources):
            raise ValueError(f"“{source}” is no source; there are {', '.join(sources) or 'none'}.")
        self.answers = Answers(shop, Memory())
        *_, self.result = routings(self.answers, source or next(iter(sources), ""), _speeds(speeds))

    def shop(self, number: int) -> Shop:
        """The shop with a proposal, the first being 1. Raises ValueError where there is none."""
        if not 1 <= number <= len(self.result.routes):
            raise ValueError(f"There are {len(self.result.routes)} proposals; {number} is none of them.")
        return self.result.routes[number - 1].shop

    def as_json(self) -> dict[str, Any]:
        """In SI units."""
        return {
            "why_none": self.result.why_none or None,
            "routes": [
                {
                    "name": one.name,
                    "cost": one.cost,
                    "pipe": one.pipe,
                    "hose": one.hose,
                    "elbows": one.elbows,
                    "branches": one.branches,
                    "share": one.share,
                    "height": one.height,
                    "not_kept": list(one.given_up),
                    "left_out": list(one.left_out),
                }
                for one in self.result.routes
            ],
        }

    def as_text(self) -> Iterator[str]:
        """In the reader's units."""
        yield from said_of_routes(self.result, Figures(self.answers.shop.units))


def _speeds(speeds: str) -> Speeds:
    if speeds not in SPEEDS:
        raise ValueError(f"Speeds are {' or '.join(SPEEDS)}.")
    return speeds


def _network(answers: Answers, source: str | None) -> NetworkResult:
    networks = answers.of(DuctAnswers).networks
    if not networks:
        raise ValueError("There are no ducts.")
    found = next((one for one in networks if source in (None, one.layout.source_thing)), None)
    if found is None:
        known = ", ".join(
            f"{one.layout.source_thing} ({name_of(answers.shop, one.layout.source_thing)})"
            for one in networks
        )
        raise ValueError(f"There is no system of “{source}”; there are {known}.")
    return found


def _offer(offer: Offer) -> dict[str, Any]:
    return {
        "runs": offer.sizes,
        "cost": offer.cost,
        "suctions": offer.loss,
        "growth": offer.growth,
        "share": offer.share,
    }
