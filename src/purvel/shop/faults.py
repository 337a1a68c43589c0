"""What is wrong inside a document that each field alone cannot show: ids used twice, references to what is
not there.
"""

import itertools
from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from purvel.shop.ducts import Run
from purvel.shop.parts import PARTS, lost
from purvel.shop.shop import Shop
from purvel.shop.things import Source


@dataclass(frozen=True, slots=True)
class Fault:
    """What does not hold together: the id of the item it is about, and one sentence that says so."""

    item: str
    sentence: str


def faults(shop: Shop) -> list[Fault]:
    """All faults, none if the document holds together."""
    return [
        *_repeated_ids(shop),
        *_lost_references(shop),
        *_room_faults(shop),
        *_duct_faults(shop),
        *_source_faults(shop),
        *_air_faults(shop),
        *_scene_faults(shop),
    ]


def _repeated_ids(shop: Shop) -> Iterator[Fault]:
    owners: dict[str, list[str]] = {}
    for part in PARTS:
        if part.unique:
            for item in part.get(shop):
                owners.setdefault(part.id_of(item), []).append(part.key)
    for name, keys in owners.items():
        if len(keys) > 1:
            by = " and ".join(
                f"{count} {key}{'s' if count > 1 else ''}" for key, count in Counter(keys).items()
            )
            yield Fault(name, f"The id “{name}” is used by {by}; each needs its own.")


def _lost_references(shop: Shop) -> Iterator[Fault]:
    for part, item, ref, wanted in lost(shop):
        yield Fault(part.id_of(item), f"{part.spoken(item)} {ref.says} “{wanted}” that is not there.")


def _room_faults(shop: Shop) -> Iterator[Fault]:
    for opening in shop.room.openings:
        if opening.sill >= opening.head:
            yield Fault(opening.id, f"The opening “{opening.id}” has its sill at or above its head.")
    for slope in shop.room.ceiling.slopes:
        if slope.low >= shop.room.ceiling.height:
            yield Fault(
                slope.wall, f"The sloping ceiling at wall “{slope.wall}” starts above the flat ceiling."
            )
    for wall, count in Counter(slope.wall for slope in shop.room.ceiling.slopes).items():
        if count > 1:
            yield Fault(wall, f"The wall “{wall}” has {count} sloping ceilings; one is enough.")
    for one in shop.room.diagonals:
        if one.start == one.end:
            yield Fault(one.id, f"The diagonal “{one.id}” ends at the corner “{one.start}” where it starts.")
    for spot in shop.room.spots:
        for corner, count in Counter(one.corner for one in spot.offsets).items():
            if count > 1:
                yield Fault(
                    spot.id, f"The spot “{spot.id}” is read {count} times from the corner “{corner}”."
                )
    for fixture in shop.room.fixtures:
        if fixture.bottom >= fixture.top:
            yield Fault(fixture.id, f"The fixture “{fixture.id}” has its bottom at or above its top.")


def _duct_faults(shop: Shop) -> Iterator[Fault]:
    runs = {run.id: run for run in shop.ducts.runs}
    used = Counter((run.port.thing, run.port.port) for run in shop.ducts.runs if run.port is not None)
    for run in shop.ducts.runs:
        if run.source is not None and run.joins is not None:
            if run.port is not None:
                yield Fault(
                    run.id, f"The run “{run.id}” leads to a source, to a run and to a port; two are its ends."
                )
            if sum(one.source == run.source for one in shop.ducts.runs) > 1:
                yield Fault(
                    run.id,
                    f"The source “{run.source}” is brought into a line by “{run.id}” and has another run.",
                )
        if _goes_in_circles(run.id, runs):
            yield Fault(run.id, f"The run “{run.id}” joins itself in a circle.")
    for one in shop.ducts.gate_sets:
        for gate, count in Counter(one.open).items():
            if count > 1:
                yield Fault(one.id, f"The gate choice “{one.id}” names the gate “{gate}” {count} times.")
        for gate, count in Counter(part.gate for part in one.part).items():
            if count > 1 or gate not in one.open:
                yield Fault(
                    one.id, f"The gate choice “{one.id}” opens “{gate}” in part, but not once at all."
                )
    for (thing, port), count in used.items():
        if count > 1:
            yield Fault(thing, f"The port “{thing} {port}” has {count} runs on it.")


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


def _source_faults(shop: Shop) -> Iterator[Fault]:
    for thing in shop.things:
        if thing.source is not None:
            for reason in curve_faults(thing.source):
                yield Fault(thing.id, f"The curve of “{thing.id}” {reason}")


def curve_faults(source: Source) -> Iterator[str]:
    """Why a source's curve cannot be one, each as the end of a sentence."""
    flows = [point.flow for point in source.curve]
    pressures = [point.pressure for point in source.curve]
    if any(b <= a for a, b in itertools.pairwise(flows)):
        yield "must rise in flow from point to point."
    if pressures[0] <= 0:
        yield "must start above zero pressure."
    if pressures[-1] >= max(pressures):
        yield "must fall towards its last point."


def _air_faults(shop: Shop) -> Iterator[Fault]:
    for interval in shop.air.session.work:
        for name, band in (("emission", interval.emission), ("capture", interval.capture)):
            if not band[0] <= band[1] <= band[2]:
                yield Fault(
                    interval.id,
                    f"The {name} of the work interval “{interval.id}” must run low, central, high.",
                )


def _scene_faults(shop: Shop) -> Iterator[Fault]:
    for scene in shop.scenes:
        for thing, count in Counter(pose.thing for pose in scene.poses).items():
            if count > 1:
                yield Fault(
                    scene.id, f"The scene “{scene.id}” has {count} poses of “{thing}”; one is enough."
                )
