"""Flow's share of the report: jobs with their stations and legs, ways and verdicts, so that each can be
checked.
"""

from collections.abc import Iterator
from dataclasses import asdict
from typing import Any

from purvel.catalogue import trade_operations
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.flow.answers import FlowAnswers, HaulAnswer
from purvel.review.flow.rules import stock_words
from purvel.review.stage import Table
from purvel.shop.parts import name_of
from purvel.space.carrying import REACH
from purvel.space.legs import JobFlow, Leg
from purvel.space.routes import BODY


def report(answers: Answers) -> dict[str, Any]:
    """`jobs`, with the width of a walker and the reach at a station."""
    flows = answers.of(FlowAnswers)
    jobs = [_job(flows, flow) for flow in flows.jobs.values()]
    return {"jobs": jobs, "walker_width": BODY, "carry_reach": REACH}


def _job(flows: FlowAnswers, flow: JobFlow) -> dict[str, Any]:
    return {
        "id": flow.job.id,
        "name": flow.job.name,
        "comes_from": flow.start,
        "yard": flow.job.yard,
        "held": flow.job.held,
        "per_month": flow.job.per_month,
        "distance": flow.distance,
        "stations": [
            {
                "operation": one.step.operation,
                "thing": one.thing,
                "minutes": one.step.minutes,
                "stock": asdict(one.stock),
            }
            for one in flow.stations
        ],
        "legs": [_leg(leg) for leg in flow.legs],
        "hauls": [
            _haul(flows, flow, one, limits=number == 0) for number, one in enumerate(flows.hauls(flow.job.id))
        ],
    }


def _leg(leg: Leg) -> dict[str, Any]:
    return {
        "from": leg.start,
        "to": leg.end,
        "walks": leg.walks,
        "way": None if leg.way is None else [list(point) for point in leg.way.points],
        "length": None if leg.way is None else leg.way.length,
        "distance": leg.distance,
    }


def _haul(flows: FlowAnswers, flow: JobFlow, one: HaulAnswer, *, limits: bool) -> dict[str, Any]:
    """`limits`: also what would still pass, of the stock as it comes in; of what is cut from it that is not
    searched.
    """
    held = flows.held(flow, one.haul)
    longest = flows.longest(flow, one.haul) if limits else {}
    sheets = flows.largest_sheets(flow, one.haul) if limits else {}
    return {
        "from": one.haul.start.item,
        "yard": one.haul.start.yard,
        "stock": asdict(one.haul.stock),
        "low": held.low,
        "high": held.high,
        "across": held.across,
        "stops": [
            {
                "thing": stop,
                "standing": list(flows.stops[stop]),
                "fits": carried.fits,
                "way": [[place.x, place.y, place.heading] for place in carried.way],
                "length": carried.length if carried.fits else None,
                "turned": carried.turned if carried.fits else None,
                "longest": longest.get(stop),
                "largest_sheet": list(sheets.get(stop) or ()) or None,
            }
            for stop, carried in one.carried.items()
        ],
    }


def tables(answers: Answers, say: Figures) -> Iterator[Table]:
    """The job cards."""
    flows, shop = answers.of(FlowAnswers), answers.shop
    heads = ("Step", "Station", "Stock", "Walks", "One way", "On foot", "Work")
    for flow in flows.jobs.values():
        legs = {leg.step: leg for leg in flow.legs}
        rows = []
        for number, station in enumerate(flow.stations):
            known, leg = trade_operations().get(station.step.operation), legs.get(number)
            walked = ("", "", "")
            if leg is not None:
                way = "no way" if leg.way is None else say.distance(leg.way.length)
                walked = (str(leg.walks), way, say.distance(leg.distance))
            rows.append(
                (
                    station.step.operation if known is None else known.name,
                    "nothing here" if station.thing is None else name_of(shop, station.thing),
                    stock_words(station.stock, say),
                    *walked,
                    say.minutes(station.step.minutes),
                )
            )
        yield Table(f"Job card: {flow.job.name}, {say.distance(flow.distance)} on foot", heads, rows)
