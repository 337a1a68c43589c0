"""A spare room with only a vac, and the same, mended."""

from dataclasses import replace

from demo_shops.jobs import job
from demo_shops.money import buy, extra
from demo_shops.pieces import interval, thing, v
from demo_shops.power import circuit, light, outlet
from demo_shops.storage import tool, unit
from demo_shops.upkeep import PAST, cabinet, duties
from purvel.review import Answers, Memory
from purvel.review.walls.answers import WallsAnswers
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
from purvel.shop.money import Budget
from purvel.shop.power import Power
from purvel.shop.storage import Storage
from purvel.shop.upkeep import Bin, Entry, Upkeep
from purvel.walls.hanging import with_homes

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
            kind="radiator",
            stands="wall",
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

POWER = Power(
    service="230",
    circuits=(circuit(1, "Room", 230, 16, "mm2-1-5", residual=False),),
    outlets=(outlet(1, "A", 2.90, 1, 0.30), outlet(2, "D", 0.60, 1, 0.30)),
    along=("vac",),
    luminaires=(light(1, "bulb", 1.75, 1.50, 2.35),),
    lights="circuit-1",
)
MENDED_POWER = Power(
    service="230",
    circuits=(
        circuit(1, "Room", 230, 16, "mm2-2-5"),
        circuit(2, "Bench", 230, 16, "mm2-2-5"),
    ),
    outlets=(
        outlet(1, "B", 1.60, 1, 0.30),
        outlet(2, "C", 1.60, 2, 1.15),
        outlet(3, "D", 1.00, 2, 1.15),
        outlet(4, "A", 2.90, 1, 0.30),
    ),
    along=("vac", "box-cleaner"),
    luminaires=(
        light(1, "long-batten", 0.80, 1.60, 2.40, 90.0),
        light(2, "long-batten", 1.75, 2.30, 2.40),
        light(3, "long-batten", 2.80, 1.40, 2.40, 90.0),
        light(4, "long-batten", 1.75, 0.80, 2.40),
    ),
    lights="circuit-1",
)

STORAGE = Storage(
    units=(
        unit("cleat", "cleat-d", "Cleat over the bench", "D", 0.60, 1.40, 1.95),
        unit("shelf", "shelf-b", "Shelf", "B", 1.60, 1.20, 2.05, material="particleboard"),
    ),
    tools=(
        tool("chisels", "cleat-d", 0.10),
        tool("mallet", "cleat-d", 0.60),
        tool("screws-box", "shelf-b", 0.10),
        tool("try-square"),
        tool("block-plane"),
        tool("respirator"),
    ),
)
BUDGET = Budget(
    currency="€",
    start=120.0,
    monthly=60.0,
    items=(buy("bandsaw"), buy("router-table", "router-table"), buy("box-cleaner"), extra("blades")),
)
UNITS = (
    unit("cleat", "cleat-d", "Cleat over the bench", "D", 0.30, 1.50, 1.60),
    unit("shelf", "shelf-d", "Shelf beside the bench", "D", 1.85, 1.00, 1.05, spans=2),
)
TOOLS = ("chisels", "mallet", "try-square", "block-plane", "respirator", "screws-box")
MENDED_BUDGET = Budget(
    currency="€",
    start=300.0,
    monthly=60.0,
    items=(
        buy("router-table", "router-table", paid=320.0, paid_on="2026-03-02"),
        buy("box-cleaner", "box-cleaner", known="seen", low=110.0, high=140.0),
        extra("blades"),
    ),
)


def spare_room() -> Shop:
    """With a little of everything kept."""
    shop = replace(_spare_room(), storage=STORAGE, budget=BUDGET)
    few = tuple(duty for duty in duties(shop, PAST) if duty.thing == "vac")
    page = Entry(id="entry-1", day=PAST, text="Turned the bench to the wall", thing="workbench")
    return replace(shop, upkeep=Upkeep(duties=few, bin=Bin(volume=0.03, emptied_on=PAST), journal=(page,)))


def spare_room_mended() -> Shop:
    """Its tools where “Hang these” puts them."""
    storage = Storage(units=UNITS, tools=tuple(tool(kind) for kind in TOOLS))
    shop = replace(_spare_room_mended(), storage=storage, budget=MENDED_BUDGET)
    hung, left = Answers(shop, Memory()).of(WallsAnswers).proposal()
    assert not left, left
    upkeep = Upkeep(duties=duties(shop, None), bin=Bin(volume=0.1), cuts=cabinet(0.018, 2.50, 1.25))
    homes = with_homes(shop.storage.tools, hung)
    return replace(shop, storage=replace(shop.storage, tools=homes), upkeep=upkeep)


def _spare_room() -> Shop:
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
        ducts=replace(ducts, stick=3.0, kerf=0.003),
        air=air,
        stock=Stock(length=1.0, width=0.12, thickness=0.02),
        hand_room=0.3,
        jobs=(
            job("glued-panel", "metric", per_month=3),
            job("sand-and-finish", "metric", per_month=2),
        ),
        power=POWER,
    )


def _spare_room_mended() -> Shop:
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
        interval(1, "mitre-saw", 5, 10, "bench-mitre-saw"),
        interval(2, "router-table", 30, 20, "router-table"),
        interval(3, "hand-work", 70, 45, "workbench", "none"),
    )
    air = Air(
        session=Session(minutes=150, work=work, cleaner_on=True, run_on=60),
        limit="eu-2023",
        ach_closed=0.4,
        ach_open=5.0,
    )
    jobs = (
        job("glued-panel", "metric", per_month=3),
        job("sand-and-finish", "metric", ("shape",), per_month=2),
    )
    return replace(
        _spare_room(),
        name="Spare room, mended",
        things=things,
        ducts=replace(ducts, stick=3.0, kerf=0.003),
        air=air,
        jobs=jobs,
        power=MENDED_POWER,
    )
