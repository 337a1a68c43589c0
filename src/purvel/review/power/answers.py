"""What runs together on which circuit, how the cords run, how far the voltage falls, how bright it is."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from purvel.catalogue import kinds, uses
from purvel.catalogue.power import Tasks, conductors, light_tasks
from purvel.libraries import Array, np, shapely
from purvel.once import once
from purvel.power.circuits import Consumer, Drop, Loading, drop_at, loadings
from purvel.power.light import BENCH, RoomLight, illuminance
from purvel.power.plates import Draw, draw
from purvel.review.answers import Answers
from purvel.review.flow.answers import FlowAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Thing
from purvel.shop.power import Circuit, Luminaire, Outlet
from purvel.space.cords import Cord, conductors_run, cords, crossed, legs
from purvel.space.prepared import Prepared

LIGHTS = "lights"
CELL = 0.25  # m, of the map of light
MOST_CELLS = 6000  # in a hall they are wider


@dataclass(frozen=True, slots=True)
class Together:
    """What runs at the same time: the key of the set, the machine or choice of gates it is of, and the
    things.
    """

    key: str
    of: str
    things: tuple[str, ...]
    is_gate_set: bool = False


@dataclass(frozen=True, slots=True)
class TaskLight:
    """The light at one station [lx], and what its task asks for."""

    thing: str
    task: str
    lux: float
    wanted: float


@dataclass(frozen=True, slots=True, eq=False)
class LightMap:
    """Illuminance at bench height [lx] on a grid over the floor; nan where there is no floor."""

    x: Array
    y: Array
    lux: Array


class PowerAnswers:
    """Power and light of the shop as it stands."""

    def __init__(self, answers: Answers) -> None:
        self._answers, self._shop, self._ask = answers, answers.shop, answers.ask
        self._shell = answers.of(RoomAnswers).shell

    # ---- what draws, and where it is plugged in

    @once
    def draws(self) -> dict[str, Draw]:
        """What each thing draws, by thing."""
        service = self._shop.power.service
        found = {thing.id: draw(thing, service) for thing in self._shop.things}
        return {thing: one for thing, one in found.items() if one is not None}

    @once
    def circuits(self) -> Mapping[str, Circuit]:
        """By id."""
        return {one.id: one for one in self._shop.power.circuits}

    @once
    def outlets(self) -> Mapping[str, Outlet]:
        """By id."""
        return {one.id: one for one in self._shop.power.outlets}

    @once
    def _cords(self) -> dict[str, dict[str, Cord]]:
        """The best cord from each thing that draws to each outlet."""
        outlets = self._shop.power.outlets
        things = [thing for thing in self._shop.things if thing.id in self.draws]
        if not outlets or not things:
            return {}
        all_legs = tuple(self._ask(legs, thing, self._shell) for thing in things)
        across = self._ask(crossed, all_legs, self._answers.of(FlowAnswers).floor)
        return {
            thing.id: self._ask(cords, thing, outlets, self._shell, ways, far)
            for thing, ways, far in zip(things, all_legs, across)
        }

    @once
    def plugs(self) -> dict[str, Cord | None]:
        """The cord that each thing that draws is on: to its own outlet, else to the best that fits."""
        return {thing.id: self._plug(thing) for thing in self._shop.things if thing.id in self.draws}

    def _plug(self, thing: Thing) -> Cord | None:
        reached = self._cords.get(thing.id, {})
        if thing.outlet in reached:
            return reached[thing.outlet]
        fitting = [cord for outlet, cord in reached.items() if self.fits(thing.id, outlet)]
        return min(fitting, key=lambda cord: (cord.is_in_the_way, cord.length), default=None)

    def fits(self, thing: str, outlet: str) -> bool:
        """Whether an outlet has the voltage that a thing draws at."""
        circuit = self.circuit_of(outlet)
        return circuit is not None and circuit.volts == self.draws[thing].volts

    def circuit_of(self, outlet: str) -> Circuit | None:
        """The circuit that an outlet is on."""
        found = self.outlets.get(outlet)
        return None if found is None else self.circuits.get(found.circuit or "")

    # ---- what runs together

    @once
    def together(self) -> list[Together]:
        """Every machine by itself and every choice of gates, each with what runs along."""
        shop = self._shop
        along = tuple(thing.id for thing in shop.things if thing.id in shop.power.along)
        aside = {thing.id for thing in shop.things if thing.source or thing.cleaner}
        alone = [thing for thing in self.draws if thing not in along and thing not in aside]
        found = [Together(thing, thing, (thing, *along)) for thing in alone]
        for gate_set in shop.ducts.gate_sets:
            machines = tuple(dict.fromkeys((*self._at_gates(gate_set.open), *along)))
            found.append(Together(gate_set.id, gate_set.id, machines, is_gate_set=True))
        return found

    def _at_gates(self, opened: tuple[str, ...]) -> list[str]:
        """The machines whose runs open gates are on, and their sources."""
        runs = {run.id: run for run in self._shop.ducts.runs}
        found: list[str] = []
        for run in runs.values():
            if not any(gate.id in opened for gate in run.gates):
                continue
            found += [end.port.thing for end in runs.values() if end.port and self._hangs_on(end.id, run.id)]
            source = self._source_of(run.id)
            found += [source] if source is not None else []
        return [thing for thing in found if thing in self.draws]

    def _hangs_on(self, run_id: str, other: str) -> bool:
        at: str | None = run_id
        for _ in range(len(self._shop.ducts.runs) + 1):
            if at is None or at == other:
                return at == other
            at = self._joins(at)
        return False

    def _source_of(self, run_id: str) -> str | None:
        at: str | None = run_id
        for _ in range(len(self._shop.ducts.runs) + 1):
            run = next((one for one in self._shop.ducts.runs if one.id == at), None)
            if run is None or run.source is not None:
                return None if run is None else run.source
            at = self._joins(run.id)
        return None

    def _joins(self, run_id: str) -> str | None:
        run = next((one for one in self._shop.ducts.runs if one.id == run_id), None)
        return None if run is None or run.joins is None else run.joins.run

    @once
    def loads(self) -> dict[str, list[Loading]]:
        """What is on each circuit, by what runs together."""
        return {one.key: self._loads(one) for one in self.together}

    def _loads(self, one: Together) -> list[Loading]:
        power = self._shop.power
        consumers = []
        for thing in one.things:
            cord, drawn = self.plugs.get(thing), self.draws.get(thing)
            circuit = None if cord is None else self.circuit_of(cord.outlet)
            if circuit is not None and drawn is not None:
                consumers.append(Consumer(thing, circuit.id, drawn.amps, drawn.is_long))
        for appliance in power.appliances:
            if appliance.id in power.along and appliance.circuit in self.circuits:
                amps = appliance.watts / appliance.volts
                consumers.append(Consumer(appliance.id, appliance.circuit or "", amps, appliance.is_long))
        lights = self.circuits.get(power.lights or "")
        if lights is not None and power.luminaires:
            watts = sum(luminaire.watts for luminaire in power.luminaires)
            consumers.append(Consumer(LIGHTS, lights.id, watts / lights.volts, True))
        return loadings(power.circuits, consumers)

    @once
    def worst(self) -> dict[str, tuple[Together, Loading]]:
        """For each circuit when most is on it."""
        found: dict[str, tuple[Together, Loading]] = {}
        for one in self.together:
            for load in self.loads[one.key]:
                if load.circuit not in found or load.counted > found[load.circuit][1].counted:
                    found[load.circuit] = (one, load)
        return found

    # ---- voltage

    def run_length(self, circuit: Circuit) -> float | None:
        """How far a circuit's conductors go to its farthest outlet [m]; None without a panel to go from."""
        return self._runs[circuit.id]

    @once
    def _runs(self) -> dict[str, float | None]:
        return {circuit.id: self._run(circuit) for circuit in self._shop.power.circuits}

    def _run(self, circuit: Circuit) -> float | None:
        if circuit.run is not None:
            return circuit.run
        panel = next((one for one in self._shop.room.fixtures if one.acts == "panel"), None)
        if panel is None or not self._shell.sides:
            return None
        top, outlets = self._shop.room.ceiling.height, self._shop.power.outlets
        return self._ask(conductors_run, circuit, outlets, panel, top, self._shell)

    @once
    def drops(self) -> dict[str, Drop]:
        """How far the voltage falls at each plugged-in thing, at worst before a breaker trips; none without
        a panel.
        """
        found: dict[str, Drop] = {}
        for one in self.together:
            for load in (load for load in self.loads[one.key] if not load.trips):
                for consumer in load.consumers:
                    drop = self._drop(consumer, load)
                    if drop is not None and (
                        consumer.id not in found or drop.total > found[consumer.id].total
                    ):
                        found[consumer.id] = drop
        return found

    def _drop(self, consumer: Consumer, load: Loading) -> Drop | None:
        circuit, cord, thing = self.circuits[load.circuit], self.plugs.get(consumer.id), None
        length = self.run_length(circuit)
        if length is None or cord is None:
            return None
        thing = self._shop.thing(consumer.id)
        wire = conductors().get(circuit.conductor)
        lead = conductors()[self.cord_of(thing)] if thing is not None else None
        if wire is None or lead is None:
            return None
        return drop_at(
            consumer,
            load,
            circuit.volts,
            (length, wire.ohm_per_km),
            (cord.length, lead.ohm_per_km),
        )

    def cord_of(self, thing: Thing) -> str:
        """The conductor of a thing's cord: its own, else the thinnest that bears what it draws."""
        if thing.cord in conductors():
            return thing.cord or ""
        is_metric = self._shop.power.service == "230"
        amps = self.draws[thing.id].amps if thing.id in self.draws else 0.0
        cords_of = [
            key for key, one in conductors().items() if one.cord and key.startswith("mm2") == is_metric
        ]
        return next((key for key in cords_of if conductors()[key].breaker >= amps), cords_of[-1])

    # ---- light

    @once
    def room_light(self) -> RoomLight | None:
        """What the room makes of its light; None while it is open."""
        if self._shell.floor.is_empty:
            return None
        power, floor = self._shop.power, self._shell.floor
        height = self._shop.room.ceiling.height
        return RoomLight(
            float(floor.area),
            float(floor.length),
            height,
            power.ceiling,
            power.walls,
            power.floor,
            power.upkeep,
        )

    @once
    def tasks(self) -> list[TaskLight]:
        """The light at every station."""
        stations = [thing for thing in self._shop.things if thing.stand is not None]
        room = self.room_light
        if room is None or not stations:
            return []
        points = np.array([_bench_point(thing) for thing in stations])
        lux = self._ask(_at_stations, self._shop.power.luminaires, room, tuple(map(tuple, points.tolist())))
        wanted = light_tasks()
        return [
            TaskLight(thing.id, task := task_of(thing), float(value), getattr(wanted, task))
            for thing, value in zip(stations, lux)
        ]

    @once
    def light_map(self) -> LightMap | None:
        """The light at bench height over the floor; None while the room is open."""
        room = self.room_light
        return (
            None
            if room is None
            else self._ask(_light_map, self._shell.on_floor, self._shop.power.luminaires, room)
        )

    @property
    def wanted(self) -> Tasks:
        """Light that tasks ask for."""
        return light_tasks()


def task_of(thing: Thing) -> str:
    """What kind of light a station asks for."""
    kind = kinds().get(thing.kind)
    if kind is not None and (kind.group == "Machines" or kind.operation is not None):
        return "machine"
    is_stored = uses().get(thing.kind) == "store" or (kind is not None and kind.group == "Household")
    return "store" if is_stored else "bench"


def _bench_point(thing: Thing) -> tuple[float, float, float]:
    spot = (thing.feed.x, thing.feed.y) if thing.feed is not None else (0.0, 0.0)
    height = thing.z + thing.work_height if thing.work_height is not None else BENCH
    return (*thing.spot(*spot), height)


def _at_stations(
    luminaires: tuple[Luminaire, ...], room: RoomLight, points: tuple[tuple[float, ...], ...]
) -> Array:
    return illuminance(luminaires, np.array(points), room)


def _light_map(floor: Prepared, luminaires: tuple[Luminaire, ...], room: RoomLight) -> LightMap:
    x0, y0, x1, y1 = shapely.bounds(floor.shape)
    cell = max(CELL, ((x1 - x0) * (y1 - y0) / MOST_CELLS) ** 0.5)
    x, y = np.arange(x0 + cell / 2, x1, cell), np.arange(y0 + cell / 2, y1, cell)
    gx, gy = np.meshgrid(x, y, indexing="ij")
    points = np.stack([gx.ravel(), gy.ravel(), np.full(gx.size, BENCH)], axis=1)
    lux = illuminance(luminaires, points, room).reshape(gx.shape)
    lux[~floor.holds(gx, gy)] = np.nan
    return LightMap(x, y, lux)
