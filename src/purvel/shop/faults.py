"""What is wrong inside a document that each field alone cannot show: ids used twice, references to what is
not there.
"""

import itertools
from collections import Counter
from collections.abc import Iterator, Mapping

from purvel.shop.ducts import Run
from purvel.shop.shop import Shop


def faults(shop: Shop) -> list[str]:
    """One sentence for each fault, none if the document holds together."""
    return [
        *_repeated_ids(shop),
        *_room_faults(shop),
        *_duct_faults(shop),
        *_source_faults(shop),
        *_air_faults(shop),
    ]


def _repeated_ids(shop: Shop) -> Iterator[str]:
    groups = {
        "wall": [wall.id for wall in shop.room.walls],
        "opening": [opening.id for opening in shop.room.openings],
        "thing or fixture": [
            *(thing.id for thing in shop.things),
            *(fixture.id for fixture in shop.room.fixtures),
        ],
        "run": [run.id for run in shop.ducts.runs],
        "gate": [gate.id for run in shop.ducts.runs for gate in run.gates],
        "gate set": [gate_set.id for gate_set in shop.ducts.gate_sets],
        "spell": [spell.id for spell in shop.air.session.spells],
    }
    for what, ids in groups.items():
        for name, count in Counter(ids).items():
            if count > 1:
                yield f"The id “{name}” is used by {count} {what} entries; each needs its own."
    for thing in shop.things:
        for name, count in Counter(port.id for port in thing.ports).items():
            if count > 1:
                yield f"The thing “{thing.id}” has {count} ports with the id “{name}”."


def _room_faults(shop: Shop) -> Iterator[str]:
    walls = {wall.id: wall for wall in shop.room.walls}
    for opening in shop.room.openings:
        if opening.wall not in walls:
            yield f"The opening “{opening.id}” is in a wall “{opening.wall}” that is not there."
        if opening.sill >= opening.head:
            yield f"The opening “{opening.id}” has its sill at or above its head."
    for slope in shop.room.ceiling.slopes:
        if slope.wall not in walls:
            yield f"A sloping ceiling starts at a wall “{slope.wall}” that is not there."
        if slope.low >= shop.room.ceiling.height:
            yield f"The sloping ceiling at wall “{slope.wall}” starts above the flat ceiling."
    for fixture in shop.room.fixtures:
        if fixture.bottom >= fixture.top:
            yield f"The fixture “{fixture.id}” has its bottom at or above its top."


def _duct_faults(shop: Shop) -> Iterator[str]:
    runs = {run.id: run for run in shop.ducts.runs}
    ports = {(thing.id, port.id) for thing in shop.things for port in thing.ports}
    sources = {thing.id for thing in shop.things if thing.source}
    used: Counter[tuple[str, str]] = Counter()
    for run in shop.ducts.runs:
        if run.source is not None and run.joins is not None:
            yield f"The run “{run.id}” starts both at a source and at another run."
        if run.source is not None and run.source not in sources:
            yield f"The run “{run.id}” starts at a source “{run.source}” that is not there."
        if run.joins is not None and run.joins.run not in runs:
            yield f"The run “{run.id}” joins a run “{run.joins.run}” that is not there."
        if run.port is not None:
            used[(run.port.thing, run.port.port)] += 1
            if (run.port.thing, run.port.port) not in ports:
                yield (
                    f"The run “{run.id}” ends at a port “{run.port.thing} {run.port.port}” that is not there."
                )
        if _goes_in_circles(run.id, runs):
            yield f"The run “{run.id}” joins itself in a circle."
    for (thing, port), count in used.items():
        if count > 1:
            yield f"The port “{thing} {port}” has {count} runs on it."
    gates = {gate.id for run in shop.ducts.runs for gate in run.gates}
    for gate_set in shop.ducts.gate_sets:
        for gate in gate_set.open:
            if gate not in gates:
                yield f"The gate set “{gate_set.id}” opens a gate “{gate}” that is not there."


def _goes_in_circles(start: str, runs: Mapping[str, Run]) -> bool:
    seen = set()
    current: str | None = start
    while current is not None and current in runs:
        if current in seen:
            return True
        seen.add(current)
        joins = runs[current].joins
        current = joins.run if joins is not None else None
    return False


def _source_faults(shop: Shop) -> Iterator[str]:
    for thing in shop.things:
        if thing.source is None:
            continue
        flows = [point.flow for point in thing.source.curve]
        pressures = [point.pressure for point in thing.source.curve]
        if any(b <= a for a, b in itertools.pairwise(flows)):
            yield f"The curve of “{thing.id}” must rise in flow from point to point."
        if pressures[0] <= 0:
            yield f"The curve of “{thing.id}” must start above zero pressure."
        if pressures[-1] >= max(pressures):
            yield f"The curve of “{thing.id}” must fall towards its last point."


def _air_faults(shop: Shop) -> Iterator[str]:
    for spell in shop.air.session.spells:
        for name, band in (("emission", spell.emission), ("capture", spell.capture)):
            if not band[0] <= band[1] <= band[2]:
                yield f"The {name} of the spell “{spell.id}” must run low, central, high."
