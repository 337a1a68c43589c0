"""A two-bay garage: the car comes home at night."""

from dataclasses import replace

from demo_shops.jobs import job
from demo_shops.money import buy, extra
from demo_shops.pieces import interval, thing, v
from demo_shops.power import circuit, light, outlet
from demo_shops.storage import tool, unit
from demo_shops.upkeep import PAST, cabinet, duties
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
    Wall,
)
from purvel.shop.money import Budget
from purvel.shop.power import Power
from purvel.shop.storage import Storage
from purvel.shop.upkeep import Bin, Entry, Upkeep

OPENINGS = (
    Opening(id="car-door", kind="roll-up", wall="A", offset=0.35, width=2.45, head=2.10, headroom=0.35),
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
)
FIXTURES = (
    Fixture(id="post", kind="post", name="Steel post", x=2.95, y=3.60, width=0.10, depth=0.10, top=2.60),
    Fixture(
        id="panel",
        kind="panel",
        stands="wall",
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
        stands="wall",
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
)


def garage_room(wall_c: float) -> Room:
    return Room(
        walls=(
            Wall(id="A", length=6.604),
            Wall(id="B", length=6.2992, stud_spacing=0.4064, first_stud=0.4064),
            Wall(id="C", length=wall_c, stud_spacing=0.4064, first_stud=0.4064),
            Wall(id="D", length=6.2992, stud_spacing=0.4064, first_stud=0.4064),
        ),
        openings=OPENINGS,
        fixtures=FIXTURES,
        ceiling=Ceiling(height=2.5908),
    )


STOCK = Stock(length=1.8288, width=0.2032, thickness=0.0254)
THINGS = (
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
SHEET_METAL = {"material": "snap-lock", "elbow": "adjustable"}
DUCTS = Ducts(
    runs=(
        Run(
            id="main",
            name="Main",
            diameter=0.15,
            source="collector",
            points=(v(4.0, 0.38, 0.65), v(4.0, 0.38, 2.35), v(4.0, 5.30, 2.35)),
            **SHEET_METAL,
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
            **SHEET_METAL,
        ),
        Run(
            id="jointer-drop",
            name="Jointer drop",
            diameter=0.10,
            joins=Join(run="main"),
            points=(v(4.85, 6.15, 2.35), v(4.85, 6.15, 0.30)),
            port=PortRef(thing="jointer", port="chute"),
            gates=(Gate(id="jointer-gate", name="Jointer gate", at=2.6),),
            **SHEET_METAL,
        ),
    ),
    gate_sets=(
        GateSet(id="set-all", name="All gates open", open=("saw-gate", "planer-gate", "jointer-gate")),
    ),
    target="chips",
)
WORK = (
    interval(1, "jointer", 10, 15, "jointer"),
    interval(2, "planer", 30, 20, "planer"),
    interval(3, "table-saw", 60, 25, "table-saw", "saw-below"),
    interval(4, "random-orbit-sander", 110, 60, None, "none"),
)
AIR = Air(session=Session(minutes=180, work=WORK, cleaner_on=False, run_on=0))
NIGHT = Scene(
    id="night",
    name="Night: car in",
    poses=(Pose(thing="table-saw", x=4.95, y=2.95),),
    parked=("bay",),
    asleep=True,
)
DAY = Scene(id="day", name="Day: door open", opened=("car-door",))
JOBS = (
    job("rough-boards", "imperial", comes_from="timber-rack", per_month=4),
    job("sheets-to-panels", "imperial", comes_from="house-door", held="flat", per_month=2),
    job("legs-and-rails", "imperial", comes_from="car-door"),
)
POWER = Power(
    circuits=(
        circuit(1, "Outlets left", 120, 15, "awg-14", residual=False),
        circuit(2, "Outlets right", 120, 20, "awg-12", residual=False),
        circuit(3, "Collector", 240, 20, "awg-12"),
    ),
    outlets=(
        outlet(1, "D", 0.90, 1),
        outlet(2, "C", 0.60, 2),
        outlet(3, "B", 3.40, 2),
        outlet(4, "A", 4.10, 3),
    ),
    along=("collector",),
    luminaires=(
        light(1, "bulb", 1.60, 3.10, 2.54),
        light(2, "batten", 4.60, 3.10, 2.54, 90.0),
    ),
    lights="circuit-1",
)
STORAGE = Storage(
    units=(
        unit("cleat", "cleat-d", "Cleat over the bench", "D", 2.90, 1.80, 1.62),
        unit("shelf", "shelf-c", "High shelf", "C", 3.00, 2.40, 2.20, material="particleboard"),
        unit("cleat", "cleat-b", "Cleat right", "B", 3.10, 1.20, 1.55, per_stud=1, lining=0.0127),
    ),
    tools=(
        tool("dovetail-saw", "cleat-d", 0.05),
        tool("mallet", "cleat-d", 0.25),
        tool("try-square", "cleat-d", 0.50),
        tool("chisels", "cleat-d", 0.90),
        tool("hand-router", "shelf-c", 0.10),
        tool("screws-box", "shelf-c", 0.50),
        tool("finish-cans", "shelf-c", 1.10),
        tool("bar-clamps", "cleat-b", 0.05),
        tool("long-clamps", "cleat-b", 0.55),
        tool("block-plane"),
        tool("smoothing-plane"),
        tool("drill-driver"),
        tool("screwdrivers"),
        tool("glue"),
        tool("push-sticks"),
        tool("respirator"),
        tool("extinguisher"),
        tool("guide-rail"),
    ),
)
BUDGET = Budget(
    start=900.0,
    monthly=220.0,
    items=(
        buy(
            "table-saw",
            "table-saw",
            paid=980.0,
            paid_on="2026-09-02",
            regret="A smaller one would have left the car its bay.",
        ),
        buy("drum-sander"),
        buy("planer", "planer"),
        buy("router-table", needs=("item-wiring-120",)),
        buy("air-cleaner"),
        extra("wiring-120"),
        extra("blades"),
    ),
)


def garage() -> Shop:
    shop = _without_upkeep()
    few = tuple(duty for duty in duties(shop, PAST) if duty.thing in ("collector", "table-saw", "bandsaw"))
    upkeep = Upkeep(
        duties=few,
        bin=Bin(volume=0.115, emptied_on=PAST),
        journal=(
            Entry(
                id="entry-1",
                day=PAST,
                text="Moved the saw 20 cm",
                why="the outfeed did not clear the post",
                thing="table-saw",
            ),
        ),
        cuts=cabinet(0.01905, 2.4384, 1.2192),
    )
    return replace(shop, upkeep=upkeep)


def _without_upkeep() -> Shop:
    return Shop(
        name="Two-bay garage",
        scenes=(NIGHT, DAY),
        room=garage_room(6.5024),
        things=THINGS,
        ducts=DUCTS,
        air=AIR,
        jobs=JOBS,
        power=POWER,
        storage=STORAGE,
        budget=BUDGET,
        stock=STOCK,
        hand_room=0.6096,
    )
