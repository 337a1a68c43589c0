"""What the engines of space say about jobs: the ways on foot, the legs, and what can be carried where."""

from __future__ import annotations

from dataclasses import dataclass

from purvel.once import once
from purvel.review.answers import Answers
from purvel.review.place.answers import PlaceAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.space import carry_limits, carrying, legs, loads
from purvel.space.carry_limits import Jam
from purvel.space.carrying import Carried, Setting
from purvel.space.legs import JobFlow
from purvel.space.routes import FreeFloor, Ways, free_floor, walks
from purvel.space.traverse import Point


@dataclass(frozen=True, slots=True)
class HaulAnswer:
    """Whether a haul gets to each of its stops."""

    haul: legs.Haul
    carried: dict[str, Carried]

    @property
    def stuck(self) -> list[str]:
        """The stops that it does not get to."""
        return [stop for stop, one in self.carried.items() if not one.fits]


class FlowAnswers:
    """Jobs in the shop as it stands."""

    def __init__(self, answers: Answers) -> None:
        self._shop, self._ask = answers.shop, answers.ask
        self._shell, self._bare = answers.of(RoomAnswers).shell, answers.of(RoomAnswers).bare
        self._place = answers.of(PlaceAnswers)
        self._hauls: dict[str, list[HaulAnswer]] = {}

    @once
    def floor(self) -> FreeFloor:
        """The floor that a person can be on."""
        return self._ask(free_floor, self._bare, self._place.barriers)

    @once
    def stops(self) -> dict[str, Point]:
        """Standing places by what they are at."""
        return legs.stops(self._shell, self._shop.things)

    @once
    def ways(self) -> Ways:
        """The shortest way between any two standing places."""
        return self._ask(walks, self.floor, self.stops)

    @once
    def jobs(self) -> dict[str, JobFlow]:
        """Jobs by id, with their legs; none while the room is open."""
        if self._shell.floor.is_empty:
            return {}
        shop = self._shop
        return {
            job.id: self._ask(legs.job_flow, job, shop.things, self._shell, self.ways) for job in shop.jobs
        }

    def hauls(self, job: str) -> list[HaulAnswer]:
        """What of a job can be carried where: a long search."""
        if job not in self._hauls:
            flow = self.jobs[job]
            self._hauls[job] = [HaulAnswer(haul, self._carried(flow, haul)) for haul in flow.hauls]
        return self._hauls[job]

    def _carried(self, flow: JobFlow, haul: legs.Haul) -> dict[str, Carried]:
        return self._ask(carrying.carry, self.held(flow, haul), self._setting(haul), self._goals(haul))

    def held(self, flow: JobFlow, haul: legs.Haul) -> loads.Load:
        """What is hauled, as it is held."""
        load_id = f"{flow.job.id}/{flow.hauls.index(haul)}"
        return loads.load_of(haul.stock, flow.job.held, self._shop.person.stature, load_id)

    def _setting(self, haul: legs.Haul) -> Setting:
        return Setting(haul.start, self._shell, self._shop.things, self._place.ground)

    def _goals(self, haul: legs.Haul) -> dict[str, Point]:
        return {stop: self.stops[stop] for stop in haul.stops if stop in self.stops}

    def longest(self, flow: JobFlow, haul: legs.Haul) -> dict[str, float]:
        """The longest of the same width that still gets to each stop [m]: a long search."""
        held = self.held(flow, haul)
        return self._ask(carry_limits.longest, held, self._setting(haul), self._goals(haul))

    def largest_sheets(self, flow: JobFlow, haul: legs.Haul) -> dict[str, tuple[float, float] | None]:
        """The biggest sheet as sold, held in the same way, that gets to each stop [m]: a long search."""
        held, stature = self.held(flow, haul), self._shop.person.stature
        return self._ask(carry_limits.largest_sheets, held, stature, self._setting(haul), self._goals(haul))

    def jam(self, flow: JobFlow, haul: legs.Haul, stop: str) -> Jam | None:
        """How far it gets on the way on foot to a stop, and what it touches then: a long search."""
        way = self.ways.get((haul.start.item, stop))
        if way is None:
            return None
        held, tried = self.held(flow, haul), self._carried(flow, haul)[stop].tried
        return self._ask(carry_limits.jam, held, self._setting(haul), way.points, tried)
