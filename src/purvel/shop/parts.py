"""The table of parts: every collection of the document, declared once.

What a part says of itself here is all that ids, lookup, names in sentences, taking away with what hangs on
it, faults and picking go by. A new collection is one entry in `PARTS`.
"""

from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import Any

from purvel.shop.air import WorkInterval
from purvel.shop.attachment import Attachment
from purvel.shop.ducts import Gate, GateSet, PortRef, Run
from purvel.shop.part import Part, Ref
from purvel.shop.room import Fixture, Opening, Slope, Wall
from purvel.shop.scene import Scene
from purvel.shop.shop import Shop
from purvel.shop.things import Thing


def _one(value: str | None) -> tuple[str, ...]:
    return () if value is None else (value,)


# ---- reading and writing what lies deeper in the document


def _put_walls(shop: Shop, walls: tuple[Wall, ...]) -> Shop:
    return replace(shop, room=replace(shop.room, walls=walls))


def _put_openings(shop: Shop, openings: tuple[Opening, ...]) -> Shop:
    return replace(shop, room=replace(shop.room, openings=openings))


def _put_fixtures(shop: Shop, fixtures: tuple[Fixture, ...]) -> Shop:
    return replace(shop, room=replace(shop.room, fixtures=fixtures))


def _put_slopes(shop: Shop, slopes: tuple[Slope, ...]) -> Shop:
    return replace(shop, room=replace(shop.room, ceiling=replace(shop.room.ceiling, slopes=slopes)))


def _put_runs(shop: Shop, runs: tuple[Run, ...]) -> Shop:
    return replace(shop, ducts=replace(shop.ducts, runs=runs))


def _put_gate_sets(shop: Shop, gate_sets: tuple[GateSet, ...]) -> Shop:
    return replace(shop, ducts=replace(shop.ducts, gate_sets=gate_sets))


def _put_work(shop: Shop, intervals: tuple[WorkInterval, ...]) -> Shop:
    """They stay in order of time."""
    ordered = tuple(sorted(intervals, key=lambda interval: interval.start))
    return replace(shop, air=replace(shop.air, session=replace(shop.air.session, work=ordered)))


def _put_gates(shop: Shop, gates: tuple[Gate, ...]) -> Shop:
    """Each stays on its run; one that is left out is taken out of it."""
    kept = {gate.id: gate for gate in gates}
    runs = (
        replace(run, gates=tuple(kept[gate.id] for gate in run.gates if gate.id in kept))
        for run in shop.ducts.runs
    )
    return _put_runs(shop, tuple(runs))


def _ports(shop: Shop) -> tuple[PortRef, ...]:
    return tuple(PortRef(thing=thing.id, port=port.id) for thing in shop.things for port in thing.ports)


def _put_ports(shop: Shop, ports: tuple[PortRef, ...]) -> Shop:
    """Ports that are left out are taken off their things."""
    kept = {port_id(ref.thing, ref.port) for ref in ports}
    things = (
        replace(thing, ports=tuple(port for port in thing.ports if port_id(thing.id, port.id) in kept))
        for thing in shop.things
    )
    return replace(shop, things=tuple(things))


def port_id(thing: str, port: str) -> str:
    """What tells a port from all others: ports have ids within their thing only."""
    return f"{thing}/{port}"


# ---- what refers to what


def _without_gate(gate_set: GateSet, gate: str) -> GateSet | None:
    """A choice that opens nothing is none."""
    rest = tuple(one for one in gate_set.open if one != gate)
    return replace(gate_set, open=rest) if rest else None


def _without_pose(scene: Scene, thing: str) -> Scene:
    return replace(scene, poses=tuple(pose for pose in scene.poses if pose.thing != thing))


def _without(field: str) -> Callable[[Scene, str], Scene]:
    """A scene without an id in one of its fields."""

    def drop(scene: Scene, gone: str) -> Scene:
        left: Any = tuple(one for one in getattr(scene, field) if one != gone)
        return replace(scene, **{field: left})

    return drop


def _fixture_name(_: Shop, fixture: Fixture) -> str:
    return "the car in its bay" if fixture.taken else fixture.name or fixture.id


def _opening_name(_: Shop, opening: Opening) -> str:
    what = "the window" if opening.kind == "window" else f"the {opening.kind} door"
    return f"{what} in wall {opening.wall}"


THINGS = Part("thing", Thing, lambda shop: shop.things, lambda shop, things: replace(shop, things=things),
              unique="thing or fixture")  # fmt: skip
WALLS = Part(
    "wall", Wall, lambda shop: shop.room.walls, _put_walls, lambda _, wall: f"wall {wall.id}", unique="wall"
)
OPENINGS = Part(
    "opening",
    Opening,
    lambda shop: shop.room.openings,
    _put_openings,
    _opening_name,
    refs=(Ref("wall", lambda opening: (opening.wall,), lambda *_: None, "is in a wall"),),
    unique="opening",
)
FIXTURES = Part(
    "fixture",
    Fixture,
    lambda shop: shop.room.fixtures,
    _put_fixtures,
    _fixture_name,
    unique="thing or fixture",
)
SLOPES = Part(
    "slope",
    Slope,
    lambda shop: shop.room.ceiling.slopes,
    _put_slopes,
    lambda _, slope: f"the sloping ceiling at wall {slope.wall}",
    refs=(Ref("wall", lambda slope: (slope.wall,), lambda *_: None, "starts at a wall"),),
    pickable=False,
    id_of=lambda slope: f"slope/{slope.wall}",
    subject=lambda _: "A sloping ceiling",
)
RUNS = Part(
    "run",
    Run,
    lambda shop: shop.ducts.runs,
    _put_runs,
    refs=(
        Ref(
            "thing",
            lambda run: _one(run.source),
            lambda run, _: replace(run, source=None),
            "starts at a source",
            lambda thing: thing.source is not None,
        ),
        Ref("run", lambda run: _one(run.joins.run if run.joins else None), lambda *_: None, "joins a run"),
        Ref(
            "port",
            lambda run: _one(port_id(run.port.thing, run.port.port) if run.port else None),
            lambda run, _: replace(run, port=None),
            "ends at a port",
        ),
    ),
    unique="run",
)
GATES = Part(
    "gate",
    Gate,
    lambda shop: tuple(gate for run in shop.ducts.runs for gate in run.gates),
    _put_gates,
    pickable=False,
    unique="gate",
)
PORTS = Part(
    "port",
    PortRef,
    _ports,
    _put_ports,
    lambda shop, ref: f"{name_of(shop, ref.thing)}, port {ref.port}",
    pickable=False,
    id_of=lambda ref: port_id(ref.thing, ref.port),
    unique="port",
)
GATE_SETS = Part(
    "gate set",
    GateSet,
    lambda shop: shop.ducts.gate_sets,
    _put_gate_sets,
    refs=(Ref("gate", lambda gate_set: gate_set.open, _without_gate, "opens a gate"),),
    pickable=False,
    unique="gate set",
)
WORK = Part(
    "work interval",
    WorkInterval,
    lambda shop: shop.air.session.work,
    _put_work,
    refs=(
        Ref(
            "thing",
            lambda interval: _one(interval.thing),
            lambda interval, _: replace(interval, thing=None),
            "is work at a thing",
        ),
    ),
    unique="work interval",
)

SCENES = Part(
    "scene",
    Scene,
    lambda shop: shop.scenes,
    lambda shop, scenes: replace(shop, scenes=scenes),
    refs=(
        Ref("thing", lambda scene: tuple(pose.thing for pose in scene.poses), _without_pose, "poses a thing"),
        Ref("opening", lambda scene: scene.opened, _without("opened"), "opens a door or window"),
        Ref(
            "fixture",
            lambda scene: scene.parked,
            _without("parked"),
            "parks a car in a bay",
            lambda fixture: fixture.kind == "parking bay",
        ),
    ),
    unique="scene",
)

ATTACHMENTS = Part(
    "attachment",
    Attachment,
    lambda shop: shop.attachments,
    lambda shop, attachments: replace(shop, attachments=attachments),
    pickable=False,
    unique="attachment",
)

PARTS: tuple[Part[Any], ...] = (
    THINGS, WALLS, OPENINGS, FIXTURES, SLOPES, RUNS, GATES, PORTS, GATE_SETS, WORK, SCENES, ATTACHMENTS,
)  # fmt: skip


# ---- what is done by the table


def ids_of(shop: Shop) -> set[str]:
    """Every id that something in the shop has."""
    return {part.id_of(item) for part in PARTS for item in part.get(shop)}


def find(shop: Shop, item_id: str) -> tuple[Part[Any], Any] | None:
    """The item with this id and the part it belongs to."""
    return next(
        ((part, item) for part in PARTS for item in part.get(shop) if part.id_of(item) == item_id), None
    )


def item_of(shop: Shop, item_id: str | None) -> Any:
    """Whatever has this id and can be picked; None where nothing has."""
    if item_id is None:
        return None
    for part in PARTS:
        if part.pickable:
            for item in part.get(shop):
                if part.id_of(item) == item_id:
                    return item
    return None


def name_of(shop: Shop, item_id: str) -> str:
    """What the item with this id is called in a sentence; the id itself where nothing has it."""
    found = find(shop, item_id)
    return item_id if found is None else found[0].name(shop, found[1])


def part_of(item: object) -> Part[Any]:
    """The part that an item is of. Raises KeyError for what is in no part."""
    for part in PARTS:
        if isinstance(item, part.kind):
            return part
    raise KeyError(type(item).__name__)


def lost(shop: Shop) -> Iterator[tuple[Part[Any], Any, Ref[Any], str]]:
    """What is referred to and is not there: the part, the item of it that refers, how, and the id that is
    missing.
    """
    for part in PARTS:
        for ref in part.refs:
            known = _there(shop, ref)
            for item in part.get(shop):
                for wanted in ref.ids(item):
                    if wanted not in known:
                        yield part, item, ref, wanted


def _there(shop: Shop, ref: Ref[Any]) -> set[str]:
    target = next(part for part in PARTS if part.key == ref.to)
    return {target.id_of(item) for item in target.get(shop) if ref.fits(item)}


def without_lost(shop: Shop) -> Shop:
    """The shop without references to what is not there, and without what cannot do without them."""
    while True:
        after = shop
        for part in PARTS:
            if part.refs:
                after = _part_without_lost(after, part)
        if after is shop:
            return shop
        shop = after


def _part_without_lost(shop: Shop, part: Part[Any]) -> Shop:
    there = [(ref, _there(shop, ref)) for ref in part.refs]
    items = part.get(shop)
    kept = tuple(left for item in items if (left := _item_without_lost(item, there)) is not None)
    same = len(kept) == len(items) and all(left is item for left, item in zip(kept, items))
    return shop if same else part.put(shop, kept)


def _item_without_lost(item: Any, there: list[tuple[Ref[Any], set[str]]]) -> Any:
    for ref, known in there:
        for wanted in ref.ids(item):
            if wanted not in known:
                item = ref.drop(item, wanted)
                if item is None:
                    return None
    return item
