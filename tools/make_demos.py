"""Makes the demo shops in src/purvel/demo from the plain sources below.

Run it after a change here or in the catalogue.
"""

from dataclasses import replace
from pathlib import Path

from purvel.catalogue import captures, make_thing, operations
from purvel.files import Document, saves
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
    Pose,
    Room,
    Run,
    Scene,
    Session,
    Shop,
    Stock,
    Thing,
    Vertex,
    Wall,
    WorkInterval,
)

TARGET = Path(__file__).parent.parent / "src" / "purvel" / "demo"


def v(x: float, y: float, z: float) -> Vertex:
    return Vertex(x=x, y=y, z=z)


def interval(
    number: int,
    operation: str,
    start: float,
    minutes: float,
    thing: str | None = None,
    capture: str | None = None,
) -> WorkInterval:
    one = operations()[operation]
    share = captures()[capture or one.capture].share
    return WorkInterval(
        id=f"spell-{number}",
        name=one.name,
        operation=operation,
        thing=thing,
        start=start,
        minutes=minutes,
        emission=one.band,
        capture=share,
    )


def thing(kind: str, name: str, x: float, y: float, angle: float = 0.0, **changes: object) -> Thing:
    return replace(make_thing(kind, kind, x, y, angle, name), **changes)


# ---- a two-bay garage: the car comes home at night
# ------------------------------------------------------------------------------------


def garage_room(wall_c: float) -> Room:
    return Room(
        walls=(
            Wall(id="A", length=6.604),
            Wall(id="B", length=6.2992),
            Wall(id="C", length=wall_c),
            Wall(id="D", length=6.2992),
        ),
        openings=(
            Opening(
                id="car-door", kind="roll-up", wall="A", offset=0.35, width=2.45, head=2.10, headroom=0.35
            ),
            Opening(
                id="house-door",
                kind="swing",
                wall="D",
                offset=1.45,
                width=0.85,
                head=2.03,
                hinge="start",
                entry=True,
            ),
            Opening(id="window", kind="window", wall="C", offset=1.2, width=1.2, head=2.0, sill=1.1),
        ),
        fixtures=(
            Fixture(
                id="post", kind="post", name="Steel post", x=2.95, y=3.60, width=0.10, depth=0.10, top=2.60
            ),
            Fixture(
                id="panel",
                kind="panel",
                name="Electrical panel",
                x=0.06,
                y=3.10,
                angle=-90,
                width=0.40,
                depth=0.12,
                bottom=1.20,
                top=1.90,
            ),
            Fixture(
                id="heater",
                kind="heater",
                name="Gas water heater",
                x=6.25,
                y=0.35,
                width=0.50,
                depth=0.50,
                top=1.60,
                flame=True,
            ),
            Fixture(
                id="bay",
                kind="parking bay",
                name="the car's bay",
                x=1.55,
                y=2.60,
                width=2.30,
                depth=4.90,
                top=1.60,
            ),
        ),
        ceiling=Ceiling(height=2.5908),
    )


STOCK = Stock(length=1.8288, width=0.2032, thickness=0.0254)


def garage() -> Shop:
    things = (
        thing("table-saw", "Table saw", 4.55, 3.00, wheels=True),
        thing("outfeed-table", "Outfeed table", 4.40, 3.80, height=0.866, work_height=0.866),
        thing("planer", "Planer", 2.30, 1.60),
        thing("jointer", "Jointer", 4.80, 5.95),
        thing("bandsaw", "Bandsaw", 3.10, 5.15, -90.0),
        thing("workbench", "Workbench", 0.40, 2.70, 90.0),
        thing("timber-rack", "Timber rack", 6.30, 2.20, -90.0, settled=True),
        thing("drill-press", "Drill press", 0.40, 5.90),
        thing("collector", "Collector", 3.40, 0.38),
    )
    sheet_metal = {"material": "snap-lock", "elbow": "adjustable"}
    ducts = Ducts(
        runs=(
            Run(
                id="main",
                name="Main",
                diameter=0.15,
                source="collector",
                points=(v(4.0, 0.38, 0.65), v(4.0, 0.38, 2.35), v(4.0, 5.30, 2.35)),
                **sheet_metal,
            ),
            Run(
                id="planer-hose",
                name="Planer hose",
                diameter=0.10,
                material="ribbed-hose",
                slack=0.15,
                joins=Join(run="main", at=2.9, angle=90.0),
                points=(v(2.9, 1.50, 2.35),),
                port=PortRef(thing="planer", port="hood"),
                gates=(Gate(id="planer-gate", name="Planer gate", at=1.9),),
            ),
            Run(
                id="saw-drop",
                name="Saw drop",
                diameter=0.10,
                joins=Join(run="main", at=4.9, angle=90.0),
                points=(v(3.55, 3.50, 2.35), v(3.55, 3.50, 0.15)),
                port=PortRef(thing="table-saw", port="cabinet"),
                gates=(Gate(id="saw-gate", name="Saw gate", at=1.6),),
                **sheet_metal,
            ),
            Run(
                id="jointer-drop",
                name="Jointer drop",
                diameter=0.10,
                joins=Join(run="main"),
                points=(v(4.85, 6.15, 2.35), v(4.85, 6.15, 0.30)),
                port=PortRef(thing="jointer", port="chute"),
                gates=(Gate(id="jointer-gate", name="Jointer gate", at=2.6),),
                **sheet_metal,
            ),
        ),
        gate_sets=(
            GateSet(id="set-all", name="All gates open", open=("saw-gate", "planer-gate", "jointer-gate")),
        ),
        target="chips",
    )
    work = (
        interval(1, "jointer", 10, 15, "jointer"),
        interval(2, "planer", 30, 20, "planer"),
        interval(3, "table-saw", 60, 25, "table-saw", "saw-below"),
        interval(4, "random-orbit-sander", 110, 60, None, "none"),
    )
    air = Air(session=Session(minutes=180, work=work, cleaner_on=False, run_on=0))
    night = Scene(
        id="night",
        name="Night: car in",
        poses=(Pose(thing="table-saw", x=4.95, y=2.95),),
        parked=("bay",),
    )
    day = Scene(id="day", name="Day: door open", opened=("car-door",))
    return Shop(
        name="Two-bay garage",
        scenes=(night, day),
        room=garage_room(6.5024),
        things=things,
        ducts=ducts,
        air=air,
        stock=STOCK,
        hand_room=0.6096,
    )


def garage_mended() -> Shop:
    things = (
        thing("table-saw", "Table saw", 4.55, 3.00, wheels=True),
        thing("outfeed-table", "Outfeed table", 4.40, 3.80),
        thing("planer", "Planer", 2.05, 2.65, wheels=True),
        thing("jointer", "Jointer", 3.90, 5.98),
        thing("bandsaw", "Bandsaw", 3.10, 4.55, -90.0),
        thing("workbench", "Workbench", 6.23, 4.20, -90.0),
        thing("timber-rack", "Timber rack", 6.36, 2.00, -90.0, width=2.4, settled=True),
        thing("collector", "Collector", 3.30, 0.38),
        thing("air-cleaner", "Air cleaner", 5.60, 5.40, 180.0, z=2.10),
    )
    ducts = Ducts(
        runs=(
            Run(
                id="main",
                name="Main",
                diameter=0.125,
                source="collector",
                points=(v(4.50, 0.38, 0.65), v(4.50, 0.38, 2.35), v(4.50, 5.40, 2.35)),
            ),
            Run(
                id="planer-branch",
                name="Planer branch",
                diameter=0.10,
                joins=Join(run="main", at=4.2, angle=45.0),
                points=(v(3.40, 2.98, 2.35), v(2.60, 2.98, 2.35)),
                gates=(Gate(id="planer-gate", name="Planer gate", at=0.4),),
            ),
            Run(
                id="planer-hose",
                name="Planer hose",
                diameter=0.10,
                material="smooth-hose",
                joins=Join(run="planer-branch"),
                port=PortRef(thing="planer", port="hood"),
            ),
            Run(
                id="saw-drop",
                name="Saw drop",
                diameter=0.10,
                joins=Join(run="main", at=4.9, angle=45.0),
                points=(v(3.65, 3.43, 2.35), v(3.65, 3.43, 0.15)),
                port=PortRef(thing="table-saw", port="cabinet"),
                gates=(Gate(id="saw-gate", name="Saw gate", at=0.4),),
            ),
            Run(
                id="bandsaw-drop",
                name="Bandsaw drop",
                diameter=0.10,
                joins=Join(run="main", at=6.2, angle=45.0),
                points=(v(3.75, 4.93, 2.35), v(3.75, 4.93, 0.75)),
                port=PortRef(thing="bandsaw", port="lower"),
                gates=(Gate(id="bandsaw-gate", name="Bandsaw gate", at=0.4),),
            ),
            Run(
                id="jointer-drop",
                name="Jointer drop",
                diameter=0.10,
                joins=Join(run="main"),
                points=(v(4.0, 6.15, 2.35), v(4.0, 6.15, 0.25)),
                port=PortRef(thing="jointer", port="chute"),
                gates=(Gate(id="jointer-gate", name="Jointer gate", at=0.4),),
            ),
        ),
        target="chips",
    )
    work = (
        interval(1, "jointer", 10, 15, "jointer"),
        interval(2, "planer", 30, 20, "planer"),
        interval(3, "table-saw", 60, 25, "table-saw", "saw-both"),
        interval(4, "random-orbit-sander", 110, 60, None, "sander-vac"),
    )
    air = Air(session=Session(minutes=180, work=work, cleaner_on=True, run_on=60))
    return Shop(
        name="Two-bay garage, mended",
        room=garage_room(6.604),
        things=things,
        ducts=ducts,
        air=air,
        stock=STOCK,
        hand_room=0.6096,
    )


# ---- a spare room with only a vac
# ------------------------------------------------------------------------------------------------------


SMALL_ROOM = Room(
    walls=(
        Wall(id="A", length=3.50),
        Wall(id="B", length=3.00),
        Wall(id="C", length=3.50),
        Wall(id="D", length=3.00),
    ),
    openings=(
        Opening(
            id="door", kind="swing", wall="A", offset=0.15, width=0.80, head=2.00, hinge="start", entry=True
        ),
        Opening(id="window", kind="window", wall="C", offset=1.10, width=1.30, head=2.10, sill=0.95),
    ),
    fixtures=(
        Fixture(
            id="radiator",
            kind="step",
            name="Radiator",
            x=1.75,
            y=2.94,
            width=1.20,
            depth=0.10,
            bottom=0.15,
            top=0.75,
        ),
    ),
    ceiling=Ceiling(height=2.45),
)
BENCH = {"width": 1.50, "depth": 0.60, "height": 0.90, "work_height": 0.90}


def spare_room() -> Shop:
    things = (
        thing("workbench", "Workbench", 0.31, 1.30, -90.0, **BENCH),
        thing("bench-mitre-saw", "Mitre saw", 2.95, 2.60),
        thing("cabinet", "Cabinet", 1.95, 2.60),
        thing("router-table", "Router table", 3.10, 0.95, -90.0, width=0.70, depth=0.50),
        thing("vac", "Vac", 2.00, 0.35),
        thing("hand-sander", "Sander", 0.31, 1.30, -90.0, z=0.90),
    )
    ducts = Ducts(
        runs=(
            Run(
                id="vac-pipe",
                name="Vac pipe",
                diameter=0.10,
                material="sewer-pipe",
                elbow="short-turn",
                source="vac",
                points=(v(2.45, 0.35, 0.5), v(3.40, 0.35, 0.5)),
                port=PortRef(thing="router-table", port="fence"),
            ),
        ),
        target="chips",
    )
    work = (
        interval(1, "mitre-saw", 5, 10, "bench-mitre-saw", "none"),
        interval(2, "router-table", 30, 20, "router-table"),
        interval(3, "random-orbit-sander", 70, 45, "hand-sander", "bag"),
    )
    air = Air(
        session=Session(minutes=150, work=work, cleaner_on=False, run_on=0),
        limit="eu-2023",
        ach_closed=0.4,
        ach_open=5.0,
    )
    return Shop(
        name="Spare room",
        units="metric",
        room=SMALL_ROOM,
        things=things,
        ducts=ducts,
        air=air,
        stock=Stock(length=1.0, width=0.12, thickness=0.02),
        hand_room=0.3,
    )


def spare_room_mended() -> Shop:
    things = (
        thing("workbench", "Workbench", 0.31, 2.10, 90.0, **BENCH),
        thing("bench-mitre-saw", "Mitre saw", 1.75, 2.55, z=0.95),
        thing("cabinet", "Cabinet", 1.50, 0.23, 180.0, width=0.80, depth=0.45),
        thing("router-table", "Router table", 3.20, 1.55, -90.0, width=0.70, depth=0.50, wheels=True),
        thing("vac", "Vac", 3.10, 0.45, 90.0),
        thing("hand-sander", "Sander", 0.40, 2.10, 90.0, z=0.90),
        thing("box-cleaner", "Filter box", 2.35, 0.35),
    )
    ducts = Ducts(
        runs=(
            Run(
                id="vac-hose",
                name="Vac hose",
                diameter=0.063,
                material="vac-hose",
                source="vac",
                points=(v(3.30, 0.95, 0.80),),
                port=PortRef(thing="router-table", port="fence"),
            ),
        ),
        target="chips",
    )
    work = (
        interval(1, "mitre-saw", 5, 10, "bench-mitre-saw", "mitre-port"),
        interval(2, "router-table", 30, 20, "router-table"),
        interval(3, "hand-work", 70, 45, "workbench", "none"),
    )
    air = Air(
        session=Session(minutes=150, work=work, cleaner_on=True, run_on=60),
        limit="eu-2023",
        ach_closed=0.4,
        ach_open=5.0,
    )
    return replace(spare_room(), name="Spare room, mended", things=things, ducts=ducts, air=air)


DEMOS = {
    "garage": garage,
    "garage-mended": garage_mended,
    "spare-room": spare_room,
    "spare-room-mended": spare_room_mended,
}

if __name__ == "__main__":
    for name, make in DEMOS.items():
        (TARGET / f"{name}.purvel").write_bytes(saves(Document(make())))
        print(f"made {name}.purvel")
