"""Rules of flow: who does a step, how far one walks, whether the stock gets there, what takes two to lift."""

from __future__ import annotations

from collections.abc import Iterator

from purvel.catalogue import StandIn, trade_operations
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.flow.answers import FlowAnswers, HaulAnswer
from purvel.review.stage import Rule
from purvel.shop import Stock
from purvel.shop.parts import name_of
from purvel.space.carrying import REACH
from purvel.space.legs import JobFlow, Leg, Station
from purvel.space.routes import BODY, detour

LONG_LEG = 0.40  # of a job's walking: from here on one leg is worth a look [a guess]
FAR = 3.0  # m: shorter legs are left alone [a guess]
ROUNDABOUT = 1.6  # times the straight line: a way that is worth a look [a guess]
ONE_PERSON_LIFT = 23.0  # kg: load constant of the revised NIOSH lifting equation (1994), its best case
_PLAN = Basis("geometry", "The free floor as it stands in the plan, for a person half a metre wide.")


def _operation(key: str) -> str:
    known = trade_operations().get(key)
    return key if known is None else known.name


def _stand_ins(stand_ins: tuple[StandIn, ...]) -> str:
    said = [f"{one.name} ({one.how}; {one.lacks})" for one in stand_ins]
    return "; ".join(said) if said else "none is known"


def _stations(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Operations that nothing here does, and stations that are put away."""
    missing: dict[str, list[JobFlow]] = {}
    for flow in answers.of(FlowAnswers).jobs.values():
        for station in flow.stations:
            if station.thing is None:
                missing.setdefault(station.step.operation, []).append(flow)
            elif station.is_away:
                yield _away(answers, flow, station, station.thing)
    for operation, flows in missing.items():
        yield _nobody(operation, list(dict.fromkeys(flow.job.id for flow in flows)), flows)


def _away(answers: Answers, flow: JobFlow, station: Station, instead: str) -> Finding:
    return Finding(
        "station-away",
        Grade.WATCH,
        (flow.job.id, station.step.operation),
        f"{flow.job.name}: {_operation(station.step.operation).lower()} goes to"
        f" {name_of(answers.shop, instead)} here, as the chosen station is not there.",
        "The station that the job names is put away in this scene.",
        _PLAN,
        Where((instead, flow.job.id)),
    )


def _nobody(operation: str, jobs: list[str], flows: list[JobFlow]) -> Finding:
    known = trade_operations().get(operation)
    by = "" if known is None else _stand_ins(known.stand_ins)
    names = " and ".join(dict.fromkeys(flow.job.name for flow in flows))
    return Finding(
        "job-station",
        Grade.MEND,
        (operation,),
        f"Nothing here can {_operation(operation).lower()}, which {names} {'needs' if len(jobs) == 1 else 'need'}.",
        f"What can stand in: {by}." if known is not None else "This operation is not in the catalogue.",
        Basis("trade practice", "What does which operation, and how well."),
        Where(tuple(jobs)),
        {"jobs": len(jobs)},
    )


def _unreachable(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Stations that nobody gets to, with the jobs that need them."""
    shop, flows = answers.shop, answers.of(FlowAnswers)
    cut_off: dict[str, list[str]] = {}
    for flow in flows.jobs.values():
        for station in dict.fromkeys(one.thing for one in flow.stations if one.thing):
            if not _is_reached(flows, flow, station):
                cut_off.setdefault(station, []).append(flow.job.id)
    for station, jobs in cut_off.items():
        many = f"{name_of(shop, jobs[0])} goes" if len(jobs) == 1 else f"{len(jobs)} jobs go"
        yield Finding(
            "job-unreachable",
            Grade.MEND,
            (station,),
            f"Nobody gets to {name_of(shop, station)} on {say.length(BODY)} of floor; {many} there.",
            "No way is left from where the stock comes in for a person who walks upright, or the place to"
            " stand there is taken.",
            _PLAN,
            Where((station, *jobs)),
            {"jobs": len(jobs)},
        )


def _is_reached(flows: FlowAnswers, flow: JobFlow, station: str) -> bool:
    return flow.start is None or flow.start == station or (flow.start, station) in flows.ways


def _walks(answers: Answers, say: Figures) -> Iterator[Finding]:
    """How far one walks for a job, and the leg that most of it goes into."""
    for flow in answers.of(FlowAnswers).jobs.values():
        if not flow.legs or any(leg.way is None for leg in flow.legs):
            continue
        name, total = flow.job.name or flow.job.id, flow.distance
        most = max(flow.legs, key=lambda leg: leg.distance)
        share = most.distance / total if total else 0.0
        yield Finding(
            "job-walk",
            Grade.GOOD,
            (flow.job.id,),
            f"{name} takes {say.distance(total)} on foot, {say.distance(total * flow.job.per_month)} a month.",
            f"{len(flow.legs)} legs; each walk there and back again but for the last. Most of it"
            f" ({share:.0%}) goes {_leg_words(answers, most)}. Ways keep half of {say.length(BODY)} off"
            " everything between floor and head height.",
            _PLAN,
            Where((flow.job.id,)),
            {"distance": total, "per_month": total * flow.job.per_month},
        )
        if share > LONG_LEG and len(flow.legs) > 2 and most.way is not None and most.way.length > FAR:
            yield _long_leg(answers, flow, most, share, say)


def _leg_words(answers: Answers, leg: Leg) -> str:
    return f"from {name_of(answers.shop, leg.start)} to {name_of(answers.shop, leg.end)}"


def _long_leg(answers: Answers, flow: JobFlow, leg: Leg, share: float, say: Figures) -> Finding:
    assert leg.way is not None
    around = detour(leg.way)
    straight = leg.way.length - around
    round_about = (
        f" {say.distance(around)} of it goes round what stands between."
        if leg.way.length > ROUNDABOUT * straight
        else ""
    )
    return Finding(
        "leg-long",
        Grade.WATCH,
        (flow.job.id, leg.start, leg.end),
        f"{share:.0%} of the walking for {flow.job.name} goes {_leg_words(answers, leg)}:"
        f" {say.distance(leg.distance)}.",
        f"{say.distance(leg.way.length)} one way, {leg.walks} walks.{round_about}",
        _PLAN,
        Where((leg.end, leg.start, flow.job.id)),
        {"distance": leg.distance, "way": leg.way.length, "share": share, "total": flow.distance},
    )


def _lifts(answers: Answers, say: Figures) -> Iterator[Finding]:
    for flow in answers.of(FlowAnswers).jobs.values():
        job, stock = flow.job, flow.job.stock
        mass = stock.length * stock.width * stock.thickness * job.density
        if mass > ONE_PERSON_LIFT:
            yield Finding(
                "lift-alone",
                Grade.WATCH,
                (job.id,),
                f"A piece for {job.name} weighs {say.mass(mass)}: two carry it, or it is cut before it comes in.",
                f"{say.length(stock.length)} × {say.length(stock.width)} × {say.length(stock.thickness)} at"
                f" {say.density(job.density)}. One person lifts at most {say.mass(ONE_PERSON_LIFT)} in the best"
                " posture, and a wide sheet is never the best posture.",
                Basis(
                    "published practice",
                    "NIOSH revised lifting equation (1994): load constant 23 kg (51 lb), less for every"
                    " hindrance.",
                ),
                Where((job.id,)),
                {"mass": mass},
            )


# ---- by long searches


def _carries(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Whether what is carried gets there; where it jams, and what would still pass."""
    flows = answers.of(FlowAnswers)
    for flow in flows.jobs.values():
        for number, one in enumerate(flows.hauls(flow.job.id)):
            walked = [stop for stop in one.stuck if _is_reached(flows, flow, stop)]
            for stop in walked:  # where not even a person gets there, that is said already
                yield _stuck(answers, flow, one, stop, number, say)
            if number == 0 and not one.stuck:
                yield _passes(answers, flow, one, say)


def stock_words(stock: Stock, say: Figures) -> str:
    """A board by its length, a sheet by its sides."""
    return f"{say.length(stock.length)} × {say.length(stock.width)}"


def _carry_basis(say: Figures) -> Basis:
    return Basis(
        "geometry",
        "The board or sheet alone, level, turned by small steps; whoever carries it, door leaves and lifting"
        f" it over things are not looked at. It has arrived when its middle is within {say.length(REACH)} of"
        " where you stand.",
    )


def _stuck(answers: Answers, flow: JobFlow, one: HaulAnswer, stop: str, number: int, say: Figures) -> Finding:
    flows, shop = answers.of(FlowAnswers), answers.shop
    jam = flows.jam(flow, one.haul, stop)
    length = flows.longest(flow, one.haul).get(stop, 0.0)
    held = flows.held(flow, one.haul)
    target, start = name_of(shop, stop), name_of(shop, one.haul.start.item)
    what = stock_words(one.haul.stock, say)
    on = " and ".join(name_of(shop, item) for _, item in jam.on[:2]) if jam is not None else ""
    jams = f": it jams on {on}" if on else ": there is no room to turn it" if jam is not None else ""
    least = (
        "Nothing of that width gets there"
        if length <= 0
        else f"Up to {say.length(length)} of that width passes"
    )
    items = tuple(item for _, item in jam.on if item) if jam is not None else ()
    return Finding(
        "carry",
        Grade.STOP if number == 0 and stop == one.haul.stops[0] else Grade.MEND,
        (flow.job.id, one.haul.start.item, stop),
        f"{what} carried {flow.job.held} does not get from {start} to {target}{jams}.",
        f"{least}. It is carried between {say.length(held.low)} and {say.length(held.high)} above the floor.",
        _carry_basis(say),
        Where((*items, stop, flow.job.id), None if jam is None else (jam.place.x, jam.place.y)),
        {"length": one.haul.stock.length, "longest": length},
    )


def _passes(answers: Answers, flow: JobFlow, one: HaulAnswer, say: Figures) -> Finding:
    shop, start = answers.shop, name_of(answers.shop, one.haul.start.item)
    ways = [f"{name_of(shop, stop)} {say.distance(way.length)}" for stop, way in one.carried.items()]
    return Finding(
        "carry",
        Grade.GOOD,
        (flow.job.id, one.haul.start.item),
        f"{stock_words(one.haul.stock, say)} carried {flow.job.held} gets from {start} to"
        f" {', '.join(name_of(shop, stop) for stop in one.haul.stops)}.",
        f"Its middle goes so far: {', '.join(ways)}.",
        _carry_basis(say),
        Where((flow.job.id,)),
        {"length": one.haul.stock.length},
    )


RULES: tuple[Rule, ...] = (_stations, _unreachable, _walks, _lifts)
SEARCHES: tuple[Rule, ...] = (_carries,)
