"""Makes the demo shops in src/purvel/demo from the plain sources below. Run it after a change here or in the catalogue."""

from dataclasses import replace
from pathlib import Path

from purvel.catalogue import captures, make_thing, operations
from purvel.files import saves
from purvel.shop import (
    Air,
    Ceiling,
    Ducts,
    Fixture,
    Gate,
    GateSet,
    Join,
    Opening,
    PortRef,
    Room,
    Run,
    Session,
    Shop,
    Spell,
    Stock,
    Thing,
    Vertex,
    Wall,
)

TARGET = Path(__file__).parent.parent / "src" / "purvel" / "demo"


def v(x: float, y: float, z: float) -> Vertex:
    return Vertex(x=x, y=y, z=z)


def spell(number: int, operation: str, start: float, minutes: float, thing: str | None = None, capture: str | None = None) -> Spell:
    one = operations()[operation]
    share = captures()[capture or one.capture].share
    return Spell(
        id=f"spell-{number}", name=one.name, operation=operation, thing=thing, start=start, minutes=minutes, emission=one.band, capture=share
    )


def thing(kind: str, name: str, x: float, y: float, angle: float = 0.0, **changes: object) -> Thing:
    return replace(make_thing(kind, kind, x, y, angle, name), **changes)


# ---- a two-bay garage: the car comes home at night ------------------------------------------------------------------------------------


def garage_room(wall_c: float) -> Room:
    return Room(
        walls=(Wall(id="A", length=6.60), Wall(id="B", length=6.30), Wall(id="C", length=wall_c), Wall(id="D", length=6.30)),
        openings=(
            Opening(id="car-door", kind="roll-up", wall="A", offset=0.35, width=2.45, head=2.10, headroom=0.35),
            Opening(id="house-door", kind="swing", wall="D", offset=0.30, width=0.85, head=2.03, hinge="start", entry=True),
            Opening(id="window", kind="window", wall="C", offset=1.2, width=1.2, head=2.0, sill=1.1),
        ),
        fixtures=(
            Fixture(id="post", kind="post", name="Steel post", x=2.95, y=3.60, width=0.10, depth=0.10, top=2.60),
            Fixture(id="panel", kind="panel", name="Electrical panel", x=6.54, y=5.35, angle=90, width=0.40, depth=0.12, bottom=1.20, top=1.90),
            Fixture(id="heater", kind="heater", name="Gas water heater", x=6.25, y=0.35, width=0.50, depth=0.50, top=1.60, flame=True),
            Fixture(id="bay", kind="parking bay", name="the car's bay", x=1.55, y=2.60, width=2.30, depth=4.90, top=1.60),
        ),
        ceiling=Ceiling(height=2.60),
    )


def garage() -> Shop:
    things = (
        thing("table-saw", "Table saw", 4.55, 3.15, 0.0, wheels=True),
        thing("outfeed-table", "Outfeed table", 4.45, 3.95, height=0.866, work_height=0.866),
        thing("planer", "Planer", 2.40, 2.10),
        thing("jointer", "Jointer", 6.10, 4.95, 90.0),
        thing("bandsaw", "Bandsaw", 3.55, 5.70, 180.0),
        thing("workbench", "Workbench", 1.30, 5.90, 180.0),
        thing("timber-rack", "Timber rack", 6.36, 2.45, -90.0, settled=True),
        thing("drill-press", "Drill press", 2.70, 5.90, 180.0),
        thing("collector", "Collector", 5.20, 0.40, 180.0),
    )
    ducts = Ducts(
        runs=(
            Run(
                id="main", name="Main", diameter=0.15, material="snap-lock", elbow="adjustable", source="collector",
                points=(v(4.70, 0.20, 0.65), v(4.70, 0.20, 2.35), v(0.60, 0.20, 2.35), v(0.60, 4.6, 2.35), v(4.2, 4.6, 2.35)),
            ),
            Run(
                id="saw-drop", name="Saw drop", diameter=0.10, material="snap-lock", elbow="adjustable", joins=Join(run="main", at=13.6, angle=90.0),
                points=(v(4.05, 4.35, 2.35), v(4.05, 4.35, 0.30)), port=PortRef(thing="table-saw", port="cabinet"),
                gates=(Gate(id="saw-gate", name="Saw gate", at=1.6),),
            ),
            Run(
                id="planer-hose", name="Planer hose", diameter=0.10, material="ribbed-hose", slack=0.15, joins=Join(run="main", at=7.9, angle=90.0),
                points=(v(1.20, 2.10, 2.35), v(2.0, 2.4, 1.4)), port=PortRef(thing="planer", port="hood"), gates=(Gate(id="planer-gate", name="Planer gate", at=2.6),),
            ),
            Run(
                id="jointer-drop", name="Jointer drop", diameter=0.10, material="snap-lock", elbow="adjustable", joins=Join(run="main", angle=90.0),
                points=(v(5.7, 4.6, 2.35), v(5.7, 4.6, 0.30)), port=PortRef(thing="jointer", port="chute"),
                gates=(Gate(id="jointer-gate", name="Jointer gate", at=2.2),),
            ),
        ),
        gate_sets=(GateSet(id="set-all", name="All gates open", open=("saw-gate", "planer-gate", "jointer-gate")),),
        target="chips",
    )  # fmt: skip
    work = (
        spell(1, "jointer", 10, 15, "jointer"),
        spell(2, "planer", 30, 20, "planer"),
        spell(3, "table-saw", 60, 25, "table-saw", "saw-below"),
        spell(4, "random-orbit-sander", 110, 40, None, "bag"),
    )
    air = Air(session=Session(minutes=180, spells=work, cleaner_on=False, run_on=0))
    return Shop(
        name="Two-bay garage", room=garage_room(6.30), things=things, ducts=ducts, air=air, stock=Stock(length=2.44, width=0.20, thickness=0.025)
    )


def garage_mended() -> Shop:
    things = (
        thing("table-saw", "Table saw", 4.60, 3.15, 0.0, wheels=True),
        thing("outfeed-table", "Outfeed table", 4.30, 3.93, width=1.0),
        thing("planer", "Planer", 3.28, 2.45, 180.0, wheels=True),
        thing("jointer", "Jointer", 4.55, 5.60, 180.0),
        thing("bandsaw", "Bandsaw", 0.62, 5.90, 180.0),
        thing("workbench", "Workbench", 2.10, 5.92, 180.0),
        thing("timber-rack", "Timber rack", 6.36, 2.45, -90.0, settled=True),
        thing("collector", "Collector", 5.20, 0.40, 180.0),
        thing("air-cleaner", "Air cleaner", 2.2, 4.6, 90.0, z=2.2),
    )
    return replace(garage(), name="Two-bay garage, mended", room=garage_room(6.60), things=things, ducts=Ducts())


# ---- a spare room with only a vac ------------------------------------------------------------------------------------------------------


def spare_room() -> Shop:
    room = Room(
        walls=(Wall(id="A", length=3.50), Wall(id="B", length=3.00), Wall(id="C", length=3.50), Wall(id="D", length=3.00)),
        openings=(
            Opening(id="door", kind="swing", wall="A", offset=0.20, width=0.80, head=2.00, hinge="start", entry=True),
            Opening(id="window", kind="window", wall="C", offset=1.10, width=1.30, head=2.10, sill=0.95),
        ),
        fixtures=(Fixture(id="radiator", kind="step", name="Radiator", x=1.75, y=2.94, width=1.20, depth=0.10, bottom=0.15, top=0.75),),
        ceiling=Ceiling(height=2.45),
    )
    things = (
        thing("workbench", "Workbench", 0.75, 0.80, 90.0, width=1.50, depth=0.60, height=0.90, work_height=0.90),
        thing("bench-mitre-saw", "Mitre saw", 2.95, 2.55, 180.0),
        thing("cabinet", "Cabinet", 1.95, 2.60, 180.0),
        thing("router-table", "Router table", 2.85, 0.95, 90.0, width=0.70, depth=0.50),
        thing("vac", "Vac", 2.00, 0.35),
        thing("hand-sander", "Sander", 0.70, 1.0, 90.0, z=0.90),
    )
    ducts = Ducts(
        runs=(
            Run(id="vac-pipe", name="Vac pipe", diameter=0.10, material="sewer-pipe", elbow="short-turn", source="vac", points=(v(2.4, 0.35, 0.5), v(3.3, 0.35, 0.5)),
                port=PortRef(thing="router-table", port="fence")),
        ),
        target="chips",
    )  # fmt: skip
    work = (
        spell(1, "mitre-saw", 5, 10, "bench-mitre-saw", "none"),
        spell(2, "router-table", 30, 20, "router-table"),
        spell(3, "random-orbit-sander", 70, 45, "hand-sander", "bag"),
    )
    air = Air(session=Session(minutes=150, spells=work, cleaner_on=False, run_on=0), limit="eu-2023", ach_closed=0.4, ach_open=5.0)
    return Shop(
        name="Spare room",
        units="metric",
        room=room,
        things=things,
        ducts=ducts,
        air=air,
        stock=Stock(length=1.2, width=0.15, thickness=0.02),
        hand_room=0.3,
    )


def spare_room_mended() -> Shop:
    return replace(spare_room(), name="Spare room, mended")


DEMOS = {"garage": garage, "garage-mended": garage_mended, "spare-room": spare_room, "spare-room-mended": spare_room_mended}

if __name__ == "__main__":
    for name, make in DEMOS.items():
        (TARGET / f"{name}.purvel").write_bytes(saves(make()))
        print(f"made {name}.purvel")
