"""What would help power and light: another outlet, a circuit more, a heavier conductor, a light more."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from itertools import count
from typing import Any

from purvel.catalogue.power import conductors, luminaire_kinds, make_luminaire, utilisation
from purvel.libraries import shapely
from purvel.power.circuits import BRANCH_DROP, TOTAL_DROP
from purvel.power.light import BENCH, how_many
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Finding
from purvel.review.power.answers import LIGHTS, PowerAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.review.stage import Candidate, Progress, Proposer
from purvel.shop import Shop, Thing
from purvel.shop.edits import Edit, change, fresh_id, put
from purvel.shop.parts import name_of
from purvel.shop.power import Circuit, Outlet
from purvel.space.clearances import wall_distances

_HEIGHT = 1.15  # m: an outlet above a bench
_UNDER_CEILING = 0.4  # m that an outlet hangs under the ceiling
_BELOW = 0.05  # m that a luminaire hangs under the ceiling
_OFF_WALL = 0.2  # m: nearer to a wall no row of lights is hung
_MOST_PIECES = 8  # times as many as are wanted, that a floor is parted in for rows of lights


def _changer(item: str, **changes: Any) -> Edit:
    return lambda shop: change(shop, item, **changes)


def _along(shop: Shop, ids: tuple[str, ...]) -> Shop:
    return replace(shop, power=replace(shop.power, along=ids))


def _circuit(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """What is on the circuit plugged in elsewhere, on a circuit of its own, or not running along."""
    power, shop = answers.of(PowerAnswers), answers.shop
    load = power.worst[finding.about[0]][1]
    heaviest = sorted(load.consumers, key=lambda one: -one.amps)
    for consumer in heaviest:
        thing = shop.thing(consumer.id)
        for outlet in shop.power.outlets if thing is not None else ():
            elsewhere = outlet.circuit not in (None, finding.about[0])
            if elsewhere and power.fits(consumer.id, outlet.id):
                where = f"{name_of(shop, outlet.id)} ({name_of(shop, outlet.circuit or '')})"
                yield (
                    f"Plug {name_of(shop, consumer.id)} into {where}",
                    _changer(consumer.id, outlet=outlet.id),
                )
    for consumer in heaviest:
        thing = shop.thing(consumer.id)
        if thing is not None:
            yield _own_circuit(answers, thing)
    if any(consumer.id == LIGHTS for consumer in heaviest):
        for circuit in shop.power.circuits:
            if circuit.id != finding.about[0] and circuit.volts != 240:
                yield f"Put the lights on {name_of(shop, circuit.id)}", _lights_on(circuit.id)
    for consumer in heaviest:
        if consumer.id in shop.power.along:
            rest = tuple(one for one in shop.power.along if one != consumer.id)
            yield f"Do not run {name_of(shop, consumer.id)} along", _runs_along(rest)


def _lights_on(circuit: str) -> Edit:
    return lambda shop: replace(shop, power=replace(shop.power, lights=circuit))


def _runs_along(ids: tuple[str, ...]) -> Edit:
    return lambda shop: _along(shop, ids)


def _own_circuit(answers: Answers, thing: Thing) -> Candidate:
    """An outlet at the wall next to a thing, on a new circuit that bears it."""
    power, shop = answers.of(PowerAnswers), answers.shop
    drawn, is_metric = power.draws[thing.id], shop.power.service == "230"
    ratings = (16.0, 20.0, 32.0) if is_metric else (15.0, 20.0, 30.0, 50.0)
    rating = next((one for one in ratings if 0.8 * one >= drawn.amps), ratings[-1])
    wire = next(
        key
        for key, one in conductors().items()
        if key.startswith("mm2") == is_metric and one.breaker >= rating
    )
    circuit = Circuit(
        id=fresh_id(shop, "circuit"),
        name=f"Circuit {len(shop.power.circuits) + 1}",
        volts=drawn.volts,
        rating=rating,
        conductor=wire,
        residual=True,
    )
    outlet = replace(_beside(answers, thing), circuit=circuit.id)

    def edit(shop: Shop) -> Shop:
        return change(put(put(shop, circuit), outlet), thing.id, outlet=outlet.id)

    label = f"A circuit of {drawn.volts} V and {rating:.0f} A for {name_of(shop, thing.id)}, with an outlet beside it"
    return label, edit


def _beside(answers: Answers, thing: Thing) -> Outlet:
    """An outlet in the wall nearest to a thing."""
    shell, shop = answers.of(RoomAnswers).shell, answers.shop
    outlet_id = fresh_id(shop, "outlet")
    nearest = next(iter(wall_distances(thing, shell)), None)
    if nearest is None:
        return Outlet(id=outlet_id, x=thing.x, y=thing.y)
    side = shell.sides[nearest[0]]
    x, y = nearest[3]
    offset = (x - side.start[0]) * side.along[0] + (y - side.start[1]) * side.along[1]
    return Outlet(
        id=outlet_id, wall=side.wall, offset=round(min(max(0.0, offset), side.length), 3), height=_HEIGHT
    )


def _no_outlet(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    thing = answers.shop.thing(finding.about[0])
    if thing is None:
        return
    volts = answers.of(PowerAnswers).draws[thing.id].volts
    for circuit in answers.shop.power.circuits:
        if circuit.volts == volts:
            outlet = replace(_beside(answers, thing), circuit=circuit.id)
            yield f"An outlet beside it on {name_of(answers.shop, circuit.id)}", _putter(outlet)
    yield _own_circuit(answers, thing)


def _putter(item: Any) -> Edit:
    return lambda shop: put(shop, item)


def _wrong_outlet(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    yield "Let it use the nearest outlet that fits", _changer(finding.about[0], outlet=None)


def _cord(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """An outlet over the machine, or beside it, on the circuit that it is on."""
    power, thing = answers.of(PowerAnswers), answers.shop.thing(finding.about[0])
    cord = power.plugs.get(finding.about[0])
    circuit = None if cord is None else power.circuit_of(cord.outlet)
    if thing is None or circuit is None:
        return
    shop = answers.shop
    height = shop.room.ceiling.height - _UNDER_CEILING
    over = Outlet(
        id=fresh_id(shop, "outlet"), x=thing.x, y=thing.y, height=round(height, 3), circuit=circuit.id
    )
    beside = replace(_beside(answers, thing), circuit=circuit.id)
    for label, outlet in (("An outlet in the wall beside it", beside), ("An outlet hung over it", over)):
        edit = _plugger(thing.id, outlet)
        yield f"{label}, on {name_of(shop, circuit.id)}", edit


def _plugger(thing: str, outlet: Outlet) -> Edit:
    return lambda shop: change(put(shop, outlet), thing, outlet=outlet.id)


def _drop(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """A heavier cord, then heavier wire."""
    power, shop = answers.of(PowerAnswers), answers.shop
    thing, circuit = shop.thing(finding.where.items[0]), power.circuits[finding.about[0]]
    if thing is None:
        return
    is_metric = shop.power.service == "230"
    heavier = [key for key in conductors() if key.startswith("mm2") == is_metric]
    for key in _after(heavier, power.cord_of(thing)):
        if conductors()[key].cord:
            yield (
                f"A cord of {conductors()[key].name} for {name_of(shop, thing.id)}",
                _changer(thing.id, cord=key),
            )
    for key in _after(heavier, circuit.conductor):
        yield (
            f"Wire {name_of(shop, circuit.id)} in {conductors()[key].name}",
            _changer(circuit.id, conductor=key),
        )


def _after(keys: list[str], key: str) -> list[str]:
    return keys[keys.index(key) + 1 :] if key in keys else []


def _wire(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    circuit = next((one for one in answers.shop.power.circuits if one.id == finding.about[0]), None)
    if circuit is None:
        return
    limit = conductors()[circuit.conductor].breaker
    yield f"A breaker of {limit:.0f} A", _changer(circuit.id, rating=limit)
    is_metric = circuit.conductor.startswith("mm2")
    for key, one in conductors().items():
        if key.startswith("mm2") == is_metric and one.breaker >= circuit.rating:
            yield f"Wire it in {one.name}", _changer(circuit.id, conductor=key)


def _residual(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    def edit(shop: Shop) -> Shop:
        circuits = tuple(replace(one, residual=True) for one in shop.power.circuits)
        return replace(shop, power=replace(shop.power, circuits=circuits))

    yield "Note that they have one (ask for it where they have not)", edit


def _light(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """One more over the darkest station, or as many as the room asks for, spread evenly."""
    shop = answers.shop
    thing = shop.thing(finding.where.items[0])
    if thing is not None:
        here = [one.kind for one in shop.power.luminaires if one.kind in luminaire_kinds() and one.length > 0]
        for kind in dict.fromkeys((*here, "batten", "long-batten")):
            light = make_luminaire(
                kind, fresh_id(shop, "light"), round(thing.x, 3), round(thing.y, 3), _high(shop)
            )
            yield f"Hang a {light.name} over {name_of(shop, thing.id)}", _putter(light)
    for kind in ("batten", "long-batten"):
        yield from _spread(answers, kind, finding.figures["wanted"])


def _high(shop: Shop) -> float:
    return round(shop.room.ceiling.height - _BELOW, 3)


def _spread(answers: Answers, kind: str, target: float) -> Iterator[Candidate]:
    """So many of a kind in rows over the floor that they give the room its light by themselves."""
    room, shell = answers.of(PowerAnswers).room_light, answers.of(RoomAnswers).shell
    if room is None:
        return
    one, factors = luminaire_kinds()[kind], utilisation()
    height = max(0.3, _high(answers.shop) - BENCH)
    number = how_many(one.lumens, target, room, height, (factors.index, factors.factor))
    spots = _rows(shell.floor, number, shell.lies)
    if spots:
        yield f"Hang {len(spots)} of {one.name}, in rows", _hanger(kind, spots, round(shell.lies, 1))


def _rows(floor: shapely.Polygon, number: int, along: float) -> list[tuple[float, float]]:
    """At least this many places over a floor, in rows that run `along` a direction [deg], in the middle of
    equal pieces of the floor's extent; of a floor that is no rectangle some pieces more.
    """
    level = shapely.affinity.rotate(floor, -along, origin=(0.0, 0.0))
    clear = level.buffer(-_OFF_WALL)
    x0, y0, x1, y1 = level.bounds
    spots: list[shapely.Point] = []
    for pieces in count(number):
        columns = max(1, round((pieces * (x1 - x0) / max(y1 - y0, 0.1)) ** 0.5))
        rows = -(-pieces // columns)
        middles = [
            shapely.Point(x0 + (i + 0.5) * (x1 - x0) / columns, y0 + (j + 0.5) * (y1 - y0) / rows)
            for j in range(rows)
            for i in range(columns)
        ]
        spots = [spot for spot in middles if clear.contains(spot)]
        if len(spots) >= number or pieces >= _MOST_PIECES * number:
            break
    turned = (shapely.affinity.rotate(spot, along, origin=(0.0, 0.0)) for spot in spots)
    return [(round(spot.x, 3), round(spot.y, 3)) for spot in turned]


def _hanger(kind: str, spots: list[tuple[float, float]], along: float) -> Edit:
    def edit(shop: Shop) -> Shop:
        for x, y in spots:
            light = make_luminaire(kind, fresh_id(shop, "light"), x, y, _high(shop))
            shop = put(shop, replace(light, angle=along))
        return shop

    return edit


def _less(before: Finding, after: Finding) -> bool:
    limit = {"total": TOTAL_DROP, "branch": BRANCH_DROP}
    return all(after.figures[key] <= max(limit[key], 0.8 * before.figures[key]) for key in limit)


def _brighter(before: Finding, after: Finding) -> bool:
    """Fewer stations that lack light."""
    return after.figures["stations"] < before.figures["stations"]


REMEDIES: dict[str, Proposer] = {
    "circuit": _circuit,
    "no-outlet": _no_outlet,
    "wrong-outlet": _wrong_outlet,
    "cord-in-the-way": _cord,
    "cord-long": _cord,
    "voltage-drop": _drop,
    "wire-thin": _wire,
    "residual": _residual,
    "light": _light,
}
PROGRESS: dict[str, Progress] = {"voltage-drop": _less, "light": _brighter}
