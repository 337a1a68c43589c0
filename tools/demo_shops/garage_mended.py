"""The two-bay garage, mended."""

from demo_shops.garage import STOCK, garage_room
from demo_shops.pieces import interval, thing, v
from purvel.shop import (
    Air,
    Ducts,
    Gate,
    Join,
    PortRef,
    Run,
    Session,
    Shop,
)

THINGS = (
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
DUCTS = Ducts(
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
WORK = (
    interval(1, "jointer", 10, 15, "jointer"),
    interval(2, "planer", 30, 20, "planer"),
    interval(3, "table-saw", 60, 25, "table-saw", "saw-both"),
    interval(4, "random-orbit-sander", 110, 60, None, "sander-vac"),
)
AIR = Air(session=Session(minutes=180, work=WORK, cleaner_on=True, run_on=60))


def garage_mended() -> Shop:
    return Shop(
        name="Two-bay garage, mended",
        room=garage_room(6.604),
        things=THINGS,
        ducts=DUCTS,
        air=AIR,
        stock=STOCK,
        hand_room=0.6096,
    )
