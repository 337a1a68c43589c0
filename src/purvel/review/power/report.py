"""Power's share of the report: draws, cords, what runs together on which circuit, voltage, light."""

from collections.abc import Iterator
from typing import Any

from purvel.catalogue.power import conductors
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.power.answers import PowerAnswers
from purvel.review.power.light_rules import lux
from purvel.review.power.rules import amps, consumer_name, together_name
from purvel.review.stage import Table
from purvel.shop.parts import name_of


def report(answers: Answers) -> dict[str, Any]:
    """`power` and `light`."""
    power = answers.of(PowerAnswers)
    return {"power": _power(answers, power), "light": _light(answers, power)}


def _power(answers: Answers, power: PowerAnswers) -> dict[str, Any]:
    return {
        "service": answers.shop.power.service,
        "circuits": [
            {
                "id": one.id,
                "volts": one.volts,
                "rating": one.rating,
                "ohm_per_km": conductors()[one.conductor].ohm_per_km
                if one.conductor in conductors()
                else None,
                "run": power.run_length(one),
            }
            for one in power.circuits.values()
        ],
        "machines": [_machine(answers, power, thing) for thing in power.draws],
        "together": [
            {
                "key": one.key,
                "things": list(one.things),
                "circuits": [
                    {
                        "circuit": load.circuit,
                        "amps": load.amps,
                        "counted": load.counted,
                        "rating": load.rating,
                        "trips": load.trips,
                        "holds": load.holds,
                        "of": [{"id": c.id, "amps": c.amps, "long": c.is_long} for c in load.consumers],
                    }
                    for load in power.loads[one.key]
                    if load.consumers
                ],
            }
            for one in power.together
        ],
    }


def _machine(answers: Answers, power: PowerAnswers, thing_id: str) -> dict[str, Any]:
    drawn, cord, thing = power.draws[thing_id], power.plugs[thing_id], answers.shop.thing(thing_id)
    drop = power.drops.get(thing_id)
    assert thing is not None
    found: dict[str, Any] = {
        "thing": thing_id,
        "volts": drawn.volts,
        "amps": drawn.amps,
        "long": drawn.is_long,
        "from_plate": drawn.is_plate,
        "outlet": None,
        "cord": None,
        "voltage_drop": None
        if drop is None
        else {"circuit": drop.circuit, "cord": drop.cord, "volts": drop.volts},
    }
    if cord is not None:
        found["outlet"] = cord.outlet
        found["cord"] = {
            "length": cord.length,
            "ohm_per_km": conductors()[power.cord_of(thing)].ohm_per_km,
            "points": [list(point) for point in cord.points],
            "across_walking_floor": cord.across,
            "before_doors": list(cord.doors),
        }
    return found


def _light(answers: Answers, power: PowerAnswers) -> dict[str, Any]:
    room = power.room_light
    return {
        "surface": None if room is None else room.surface,
        "reflectance": None if room is None else room.reflectance,
        "upkeep": answers.shop.power.upkeep,
        "stations": [
            {"thing": one.thing, "task": one.task, "lux": one.lux, "wanted": one.wanted}
            for one in power.tasks
        ],
    }


def tables(answers: Answers, say: Figures) -> Iterator[Table]:
    """The electrician's sheet: circuits, what is plugged in where, light."""
    power, shop = answers.of(PowerAnswers), answers.shop
    if shop.power.circuits:
        heads = ("Circuit", "Voltage", "Breaker", "Wire", "Length", "At most", "With")
        yield Table(
            "For the electrician, who decides and does it: circuits",
            heads,
            [_circuit_row(answers, power, circuit, say) for circuit in power.circuits],
        )
        yield Table(
            "What is plugged in where",
            ("Machine", "Draws", "Voltage", "Outlet", "Circuit", "Cord"),
            [_plug_row(answers, power, t, say) for t in power.draws],
        )
    if shop.power.luminaires:
        rows = [(name_of(shop, one.thing), lux(one.lux, say), lux(one.wanted, say)) for one in power.tasks]
        yield Table("Light", ("Station", "Has", "Asks for"), rows)


def _circuit_row(answers: Answers, power: PowerAnswers, circuit: str, say: Figures) -> tuple[str, ...]:
    one, length = power.circuits[circuit], power.run_length(power.circuits[circuit])
    most, what = "", ""
    if circuit in power.worst:
        together, load = power.worst[circuit]
        most = f"{amps(load.amps)}, counts {amps(load.counted)}"
        names = ", ".join(consumer_name(answers, c.id) for c in load.consumers)
        what = f"{together_name(answers, together)}: {names}" if names else ""
    wire = conductors()[one.conductor].name if one.conductor in conductors() else one.conductor
    far = "" if length is None else say.distance(length)
    return (name_of(answers.shop, circuit), f"{one.volts} V", amps(one.rating), wire, far, most, what)


def _plug_row(answers: Answers, power: PowerAnswers, thing: str, say: Figures) -> tuple[str, ...]:
    drawn, cord = power.draws[thing], power.plugs[thing]
    start = (
        name_of(answers.shop, thing),
        amps(drawn.amps) + ("" if drawn.is_plate else " (guess)"),
        f"{drawn.volts} V",
    )
    if cord is None:
        return (*start, "none", "", "")
    circuit = power.circuit_of(cord.outlet)
    name = "" if circuit is None else name_of(answers.shop, circuit.id)
    return (*start, name_of(answers.shop, cord.outlet), name, say.length(cord.length))
