"""The two-bay garage, mended."""

from dataclasses import replace

from demo_shops.garage import STOCK, garage_room
from demo_shops.jobs import job
from demo_shops.money import buy, extra
from demo_shops.pieces import interval, thing, v
from demo_shops.power import circuit, light, outlet, overhead
from demo_shops.storage import tool, unit
from demo_shops.upkeep import cabinet, duties
from purvel.review import Answers, Memory
from purvel.review.walls.answers import WallsAnswers
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
from purvel.shop.money import Budget
from purvel.shop.power import Power
from purvel.shop.storage import Storage
from purvel.shop.upkeep import Bin, Upkeep
from purvel.walls.hanging import with_homes

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
            diameter=0.125,
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
            points=(v(3.95, 6.30, 2.35), v(3.95, 6.30, 0.20)),
            port=PortRef(thing="jointer", port="chute"),
            gates=(Gate(id="jointer-gate", name="Jointer gate", at=0.4),),
        ),
    ),
    target="chips",
)
WORK = (
    interval(1, "jointer", 10, 15, "jointer"),
    interval(2, "planer", 30, 20, "planer"),
    interval(3, "table-saw", 60, 25, "table-saw"),
    interval(4, "random-orbit-sander", 110, 60, None, "bag"),
)
AIR = Air(session=Session(minutes=180, work=WORK, cleaner_on=True, run_on=60))
JOBS = (
    job("rough-boards", "imperial", comes_from="timber-rack", per_month=4),
    job("sheets-to-panels", "imperial", ("mould", "bore"), comes_from="car-door", per_month=2),
    job("legs-and-rails", "imperial", ("bore",), comes_from="car-door"),
)
POWER = Power(
    circuits=(
        circuit(1, "Lights and cleaner", 120, 15, "awg-14"),
        circuit(2, "Saw", 120, 30, "awg-10"),
        circuit(3, "Collector", 240, 20, "awg-12"),
        circuit(4, "Right wall", 120, 30, "awg-10"),
        circuit(5, "Back wall", 120, 20, "awg-12"),
    ),
    outlets=(
        overhead(1, 4.55, 3.00, 2.10, 2),
        outlet(2, "A", 4.10, 3),
        outlet(3, "B", 5.45, 4),
        outlet(4, "C", 2.60, 5),
        outlet(5, "B", 5.60, 1, 2.30),
        overhead(6, 2.05, 2.65, 2.10, 4),
        overhead(7, 3.10, 4.55, 2.20, 5),
    ),
    along=("collector", "air-cleaner"),
    luminaires=tuple(
        light(number, "long-batten", x, y, 2.54, 90.0)
        for number, (x, y) in enumerate(
            (
                (1.2, 1.5),
                (1.2, 4.6),
                (3.2, 1.5),
                (3.2, 4.6),
                (5.2, 1.5),
                (5.2, 4.6),
                (4.2, 3.1),
                (2.1, 3.1),
                (3.9, 5.9),
                (6.0, 3.2),
            ),
            start=1,
        )
    ),
    lights="circuit-1",
)
BUDGET = Budget(
    start=1500.0,
    monthly=220.0,
    items=(
        buy("table-saw", "table-saw", paid=980.0, paid_on="2026-09-02"),
        buy("planer", "planer"),
        buy("bandsaw", "bandsaw", known="quote", low=620.0, high=620.0),
        buy("jointer", "jointer"),
        buy("air-cleaner", "air-cleaner", known="seen", low=260.0, high=300.0),
        extra("blades"),
    ),
)
UNITS = (
    unit("cleat", "cleat-b", "Cleat over the bench", "B", 3.20, 2.00, 1.66),
    unit("shelf", "shelf-c", "Shelf", "C", 3.70, 2.20, 0.95, spans=4, depth=0.35),
    unit("cleat", "cleat-c", "Long cleat", "C", 3.70, 2.20, 1.70),
)
KINDS = (
    "try-square", "marking-gauge", "block-plane", "smoothing-plane", "chisels", "mallet", "dovetail-saw",
    "panel-saw", "screwdrivers", "drill-driver", "push-sticks", "respirator", "face-shield", "quick-clamps", "spring-clamps",
    "drill-bits", "glue", "hand-router", "orbital-sander", "screws-box", "first-aid",
)  # fmt: skip


def garage_mended() -> Shop:
    """Its tools where “Hang these” puts them."""
    shop = _without_tools()
    shop = replace(shop, storage=replace(shop.storage, tools=tuple(tool(kind) for kind in KINDS)))
    hung, left = Answers(shop, Memory()).of(WallsAnswers).proposal()
    assert not left, left
    upkeep = Upkeep(
        duties=duties(shop, None),
        bin=Bin(volume=0.2),
        cuts=cabinet(0.01905, 2.4384, 1.2192),
    )
    homes = with_homes(shop.storage.tools, hung)
    return replace(shop, storage=replace(shop.storage, tools=homes), upkeep=upkeep)


def _without_tools() -> Shop:
    return Shop(
        name="Two-bay garage, mended",
        room=garage_room(6.604),
        things=THINGS,
        ducts=DUCTS,
        air=AIR,
        jobs=JOBS,
        power=POWER,
        storage=Storage(units=UNITS),
        budget=BUDGET,
        stock=STOCK,
        hand_room=0.6096,
    )
