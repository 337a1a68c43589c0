"""What the engines of space say about the things in the room."""

from dataclasses import replace

from purvel.catalogue import other_ways, trade_operations, uses
from purvel.once import once
from purvel.review.answers import Answers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Thing
from purvel.shop.scenes import in_scene
from purvel.space.aisles import Aisle, aisles, entries, goals, way_in
from purvel.space.around import Around, around
from purvel.space.car import CarWay, car_way
from purvel.space.clearances import Clash, barriers, low_ceiling, outside, overlaps
from purvel.space.ground import Footprint, Ground, ground
from purvel.space.lanes import Lane, lanes, other_lanes, shared_floor
from purvel.space.open_floor import OpenFloor, costs, open_floor
from purvel.space.roll_out import RollOut, roll_outs
from purvel.space.round_zones import RoundZone, round_zones
from purvel.space.shell import shell
from purvel.space.standing_room import TakenRoom, standing_room
from purvel.space.supports import Slots, Support, mitre_slots, supports
from purvel.space.thrown import Flight, Thrown, flights, thrown


class PlaceAnswers:
    """Lanes, clashes and aisles of the things as they stand."""

    def __init__(self, answers: Answers) -> None:
        self._shop, self._ask = answers.shop, answers.ask
        self._base, self._scene = answers.base, answers.scene
        self._room = answers.of(RoomAnswers)

    @once
    def ground(self) -> Ground:
        """What can block."""
        return self._ask(ground, self._room.shell, self._shop.things)

    @once
    def lanes(self) -> dict[str, Lane]:
        """Lanes by machine; none while the room is open."""
        return self._lanes_of(self._shop.things)

    def lane(self, machine: Thing) -> Lane:
        """One machine's lane, without the others'. Raises KeyError where it has none."""
        return self._lanes_of((machine,))[machine.id]

    def _lanes_of(self, machines: tuple[Thing, ...]) -> dict[str, Lane]:
        if not self._room.traverse.is_closed:
            return {}
        shop = self._shop
        return self._ask(lanes, machines, shop.stock, shop.hand_room, self.ground, self._room.shell)

    @once
    def other_lanes(self) -> list[Lane]:
        """Lanes of operations at which boards lie otherwise than the feed says; none while the room is
        open.
        """
        return self.other_lanes_of(self._shop.things)

    def other_lanes_of(self, machines: tuple[Thing, ...]) -> list[Lane]:
        """The same of these machines only."""
        if not self._room.traverse.is_closed:
            return []
        shop = self._shop
        return self._ask(
            other_lanes, machines, other_ways(), shop.stock, shop.hand_room, self.ground, self._room.shell
        )

    @once
    def shared(self) -> dict[str, tuple[str, ...]]:
        """By machine, the others whose lanes take floor of its own."""
        return shared_floor(self.lanes)

    @once
    def thrown(self) -> list[Thrown]:
        """Where machines may throw what is worked, and who stands there."""
        return self._ask(thrown, self.lanes, _turning(self._shop.things), self._shop.things, self._room.shell)

    def thrown_by(self, machine: Thing, others: tuple[Thing, ...]) -> Thrown | None:
        """Where one machine throws, and who of some others stands there; None where it throws nothing."""
        found = thrown(self._lanes_of((machine,)), _turning((machine,)), others, self._room.shell)
        return next(iter(found), None)

    def flight(self, machine: Thing) -> Flight | None:
        """Where one machine throws; None where it throws nothing."""
        lanes = [self.lanes[machine.id]] if machine.id in self.lanes else []
        return flights(lanes, _turning((machine,)), self._room.shell).get(machine.id)

    @once
    def round_zones(self) -> dict[str, RoundZone]:
        """Round zones by machine; none while the room is open."""
        if not self._room.traverse.is_closed:
            return {}
        return self._ask(round_zones, self._shop.things, self._shop.stock, self.ground, self._room.shell)

    def round_zone(self, machine: Thing) -> RoundZone | None:
        """One machine's round zone, without the others'; None where it has none."""
        if not self._room.traverse.is_closed:
            return None
        found = self._ask(round_zones, (machine,), self._shop.stock, self.ground, self._room.shell)
        return found.get(machine.id)

    @once
    def supports(self) -> list[Support]:
        """What carries boards behind machines."""
        return self._ask(supports, self.lanes, self._shop.things, uses())

    @once
    def mitre_slots(self) -> list[Slots]:
        """Slots that supports need for the bars of mitre gauges."""
        return mitre_slots(self.supports, self._shop.things)

    @once
    def overlaps(self) -> list[Clash]:
        """Bodies in each other."""
        return self._ask(overlaps, self._shop.things, self._shop.room.fixtures)

    @once
    def outside(self) -> list[Clash]:
        """Things beyond the walls."""
        return self._ask(outside, self._shop.things, self._room.bare)

    @once
    def standing(self) -> list[TakenRoom]:
        """Standing room that is taken."""
        return self._ask(standing_room, self._shop.things, self._room.shell)

    @once
    def aisles(self) -> list[Aisle]:
        """Ways to the machines."""
        entry = self._ask(way_in, self._room.bare, entries(self._shop.room.openings))
        return self._ask(aisles, self.barriers, goals(self._shop.things), entry)

    @once
    def barriers(self) -> tuple[Footprint, ...]:
        """What nobody walks through."""
        return barriers(self._shop.things, self._shop.room.fixtures)

    @once
    def around(self) -> list[Around]:
        """From which sides one works at the benches and tables on which things are put together."""
        puts_together = trade_operations()["glue"].by
        benches = tuple(thing for thing in self._shop.things if thing.kind in puts_together)
        return self._ask(around, benches, self.barriers, self._room.shell)

    @once
    def open_floor(self) -> OpenFloor | None:
        """The largest clear rectangle of floor: a long search."""
        return self._ask(open_floor, self._room.shell, self._shop.things)

    @once
    def open_floor_costs(self) -> dict[str, float]:
        """What each thing costs of the largest clear rectangle [m2]: a long search."""
        return self._ask(costs, self._room.shell, self._shop.things, self.open_floor)

    @once
    def roll_outs(self) -> dict[str | None, list[RollOut]]:
        """The ways of what is on wheels from where it stands as drawn (None) and in every other scene to
        where it stands here: long searches. Cars are away meanwhile, but for those that are always there.
        """
        if not self._base.scenes:
            return {}
        drawn = {one.id for one in self._base.room.fixtures if one.taken}
        fixtures = tuple(
            replace(one, taken=one.taken and one.id in drawn) for one in self._shop.room.fixtures
        )
        empty = self._room.shell
        if fixtures != self._shop.room.fixtures:
            empty = self._ask(shell, replace(self._shop.room, fixtures=fixtures))
        return {
            start: self._ask(roll_outs, in_scene(self._base, start).things, self._shop.things, empty)
            for start in (None, *(scene.id for scene in self._base.scenes))
            if start != self._scene
        }

    @once
    def cars(self) -> list[CarWay]:
        """How cars get into the bays that they stand in."""
        bays = (one for one in self._shop.room.fixtures if one.acts == "bay" and one.taken)
        ways = (self._ask(car_way, bay, self._shop.things, self._room.shell) for bay in bays)
        return [way for way in ways if way is not None]

    @once
    def low_ceiling(self) -> list[tuple[str, float]]:
        """Things taller than the ceiling over them; none while the room is open."""
        if not self._room.traverse.is_closed:
            return []
        return self._ask(low_ceiling, self._shop.things, self._room.bare)


def _turning(things: tuple[Thing, ...]) -> tuple[Thing, ...]:
    """Those that turn what may break."""
    turns = trade_operations()["turn"].by
    return tuple(thing for thing in things if thing.kind in turns)
