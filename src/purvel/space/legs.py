"""The legs of a job: from where the stock comes in to station after station, each as long as it is walked."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from purvel.catalogue import able
from purvel.shop import Opening, Stock, Thing
from purvel.shop.jobs import Job, JobStep
from purvel.space.loads import Start
from purvel.space.routes import BODY, Way, standing_spot
from purvel.space.shell import Shell
from purvel.space.traverse import Point


@dataclass(frozen=True, slots=True)
class Station:
    """Where a step is done: the thing (None: nothing here does it), and whether the job's own choice of a
    station is put away.
    """

    step: JobStep
    stock: Stock
    thing: str | None
    is_away: bool = False


@dataclass(frozen=True, slots=True)
class Leg:
    """From one station to the next, by their ids: how many walks there, the way (None: nobody gets there) and
    the stock that is carried.
    """

    start: str
    end: str
    walks: int
    way: Way | None
    stock: Stock
    step: int

    @property
    def distance(self) -> float:
        """All walks there and those back between them [m]: 2 walks - 1 times the way."""
        return 0.0 if self.way is None else (2 * self.walks - 1) * self.way.length


@dataclass(frozen=True, slots=True)
class Haul:
    """Stock that is carried from one place to several stations."""

    stock: Stock
    start: Start
    stops: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class JobFlow:
    """A job in the shop as it stands: where it starts, its stations, its legs, and what is carried where."""

    job: Job
    start: str | None
    stations: tuple[Station, ...]
    legs: tuple[Leg, ...]
    hauls: tuple[Haul, ...]

    @property
    def distance(self) -> float:
        """On foot, each time the job is done [m]."""
        return sum(leg.distance for leg in self.legs)


def way_in(job: Job, shell: Shell, things: tuple[Thing, ...]) -> str | None:
    """Where a job's stock comes from: its own door or rack if that is here, else the widest door."""
    known = {*(one.id for one in shell.room.openings), *(one.id for one in things)}
    if job.comes_from in known:
        return job.comes_from
    doors = [one for one in shell.room.openings if one.kind != "window" and one.wall in shell.sides]
    return max(doors, key=lambda door: door.width).id if doors else None


def stops(shell: Shell, things: tuple[Thing, ...]) -> dict[str, Point]:
    """Where one stands at each thing, and in each door [m]."""
    found = {thing.id: standing_spot(thing) for thing in things}
    for opening in shell.room.openings:
        side = shell.sides.get(opening.wall)
        if side is not None and opening.kind != "window":
            found[opening.id] = side.at(opening.offset + opening.width / 2, -BODY / 2)
    return found


def job_flow(
    job: Job, things: tuple[Thing, ...], shell: Shell, ways: Mapping[tuple[str, str], Way]
) -> JobFlow:
    """A job's stations, legs and hauls. Steps without a station are passed over by the legs."""
    start = way_in(job, shell, things)
    stations = _stations(job, things)
    legs: list[Leg] = []
    at = start
    for number, station in enumerate(stations):
        if station.thing is None:
            continue
        if at is not None and station.thing != at:
            way = ways.get((at, station.thing))
            legs.append(Leg(at, station.thing, station.step.walks, way, station.stock, number))
        at = station.thing
    return JobFlow(job, start, stations, tuple(legs), _hauls(job, stations, start, shell))


def _stations(job: Job, things: tuple[Thing, ...]) -> tuple[Station, ...]:
    here = {thing.id for thing in things}
    found, stock = [], job.stock
    for step in job.steps:
        stock = step.stock or stock
        if step.station in here:
            found.append(Station(step, stock, step.station))
        else:
            best = next(iter(able(things, step.operation)), None)
            is_away = step.station is not None
            found.append(Station(step, stock, None if best is None else best.id, is_away))
    return tuple(found)


def _hauls(job: Job, stations: tuple[Station, ...], start: str | None, shell: Shell) -> tuple[Haul, ...]:
    """Each stock with the stations that it goes to, from where the stock before it was cut."""
    doors: dict[str, Opening] = {one.id: one for one in shell.room.openings}
    found: list[Haul] = []
    at, stock, goes_to = start, job.stock, list[str]()

    def close() -> None:
        if at is not None and goes_to:
            is_yard = job.yard and at in doors
            found.append(Haul(stock, Start(at, is_yard), tuple(dict.fromkeys(goes_to))))

    last = start
    for station in stations:
        if station.stock != stock:
            close()
            at, stock, goes_to = last, station.stock, []
        if station.thing is not None:
            if station.thing != at:
                goes_to.append(station.thing)
            last = station.thing
    close()
    return tuple(found)
