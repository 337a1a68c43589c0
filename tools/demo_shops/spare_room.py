"""A spare room with only a vac, and the same, mended."""

from dataclasses import replace

from demo_shops.pieces import interval, thing, v
from purvel.shop import (
    Air,
    Ceiling,
    Ducts,
    Fixture,
    Opening,
    PortRef,
    Room,
    Run,
    Session,
    Shop,
    Stock,
    Wall,
)

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
