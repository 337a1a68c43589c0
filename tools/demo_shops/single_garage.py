"""A one-car garage in which the car sleeps: benches at the wall, a vac with a separator on a manifold."""

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
    Separator,
    Session,
    Shop,
    Stock,
    Thing,
    Wall,
)
from purvel.shop.money import Budget
from purvel.shop.power import Appliance, Power
from purvel.shop.storage import Storage
from purvel.shop.upkeep import Bin, Entry, Upkeep

ROOM = Room(
    walls=(
        Wall(id="A", length=3.30),
        Wall(id="B", length=6.60, stud_spacing=0.60, first_stud=0.60),
        Wall(id="C", length=3.30, stud_spacing=0.60, first_stud=0.60),
        Wall(id="D", length=6.60, stud_spacing=0.60, first_stud=0.60),
    ),
    openings=(
        Opening(id="car-door", kind="roll-up", wall="A", offset=0.40, width=2.50, head=2.10, headroom=0.25),
        Opening(
            id="house-door",
            kind="swing",
            wall="D",
            offset=0.35,
            width=0.85,
            head=2.00,
            hinge="end",
            entry=True,
        ),
        Opening(id="window", kind="window", wall="C", offset=1.15, width=1.00, head=2.10, sill=1.20),
    ),
    fixtures=(
        Fixture(
            id="bay",
            kind="parking bay",
            name="the car's bay",
            x=1.55,
            y=2.35,
            width=1.90,
            depth=4.30,
            top=1.55,
        ),
        Fixture(
            id="panel",
            kind="panel",
            stands="wall",
            name="Consumer unit",
            x=0.06,
            y=4.95,
            angle=-90,
            width=0.35,
            depth=0.12,
            bottom=1.40,
            top=1.90,
        ),
    ),
    ceiling=Ceiling(height=2.55),
)
STOCK = Stock(length=1.5, width=0.15, thickness=0.025)
FOLDING = {"width": 1.60, "depth": 0.60, "height": 0.88, "work_height": 0.88}


def vac(x: float, y: float, angle: float, loss: float) -> Thing:
    """A vac that sucks through a separator."""
    made = thing("vac", "Vac and separator", x, y, angle)
    assert made.source is not None
    separator = Separator(kind="cyclone", inlet_diameter=0.05, loss=loss)
    return replace(made, source=replace(made.source, separator=separator), wheels=True)


THINGS = (
    thing("workbench", "Wall bench", 3.00, 3.30, -90.0, **FOLDING),
    thing("bench-mitre-saw", "Mitre saw", 3.00, 1.40, -90.0, z=0.88),
    replace(
        thing("cabinet", "Saw stand", 3.00, 1.40, -90.0, width=1.40, depth=0.60, height=0.88),
        folded_depth=0.20,
    ),
    thing("bandsaw", "Bandsaw", 1.00, 4.30),
    thing("router-table", "Router table", 2.62, 5.75, 0.0, width=0.70, depth=0.50, wheels=True),
    thing("drill-press", "Drill press", 1.95, 6.25),
    thing("timber-rack", "Timber rack", 0.17, 3.20, 90.0, width=2.4, depth=0.30, settled=True),
    vac(1.25, 6.25, 0.0, 2.5),
)
DUCTS = Ducts(
    stick=3.0,
    kerf=0.003,
    runs=(
        Run(
            id="manifold",
            name="Manifold",
            diameter=0.10,
            material="sewer-pipe",
            elbow="short-turn",
            source="vac",
            points=(
                v(1.60, 6.25, 0.5),
                v(1.60, 6.48, 0.5),
                v(1.60, 6.48, 2.20),
                v(3.20, 6.48, 2.20),
                v(3.20, 1.9, 2.20),
            ),
        ),
        Run(
            id="saw-drop",
            name="Mitre saw hose",
            diameter=0.05,
            material="vac-hose",
            joins=Join(run="manifold"),
            points=(v(3.20, 1.80, 1.60),),
            port=PortRef(thing="bench-mitre-saw", port="port"),
            gates=(Gate(id="saw-gate", name="Mitre gate", at=0.1),),
        ),
        Run(
            id="router-drop",
            name="Router hose",
            diameter=0.05,
            material="vac-hose",
            joins=Join(run="manifold", at=2.9, angle=90.0),
            points=(v(2.3, 6.10, 1.40),),
            port=PortRef(thing="router-table", port="fence"),
            gates=(Gate(id="router-gate", name="Router gate", at=0.1),),
        ),
    ),
    gate_sets=(GateSet(id="set-both", name="Both gates open", open=("saw-gate", "router-gate")),),
    target="chips",
)
WORK = (
    interval(1, "mitre-saw", 5, 10, "bench-mitre-saw"),
    interval(2, "bandsaw", 20, 15, "bandsaw", "bandsaw-two"),
    interval(3, "router-table", 45, 20, "router-table"),
    interval(4, "random-orbit-sander", 75, 40, "workbench", "bag"),
)
AIR = Air(
    session=Session(minutes=150, work=WORK, cleaner_on=False, run_on=0),
    limit="uk-hardwood-2020",
    ach_closed=0.8,
    ach_open=10.0,
)
NIGHT = Scene(
    id="night",
    name="Night: car in",
    poses=(
        Pose(thing="router-table", x=2.62, y=5.75),
        Pose(thing="cabinet", x=3.00, y=1.40, angle=-90.0, state="folded"),
    ),
    parked=("bay",),
    asleep=True,
)
DAY = Scene(id="day", name="Day: car out, door open", opened=("car-door",))
POWER = Power(
    service="230",
    circuits=(circuit(1, "Garage", 230, 16, "mm2-1-5", residual=False),),
    outlets=(outlet(1, "D", 5.90, 1, 0.30), outlet(2, "B", 2.40, 1, 1.15)),
    appliances=(Appliance(id="heater", name="Fan heater", watts=2000.0, circuit="circuit-1"),),
    along=("vac", "heater"),
    luminaires=(light(1, "bulb", 1.65, 3.30, 2.50),),
    lights="circuit-1",
)
STORAGE = Storage(
    units=(
        unit(
            "shelf",
            "shelf-b",
            "Shelf over the bench",
            "B",
            2.60,
            1.60,
            2.15,
            material="particleboard",
            depth=0.35,
        ),
        unit("cleat", "cleat-c", "Cleat at the back", "C", 0.10, 0.95, 1.75, per_stud=1, lining=0.0125),
    ),
    tools=(
        tool("finish-cans", "shelf-b", 0.10),
        tool("screws-box", "shelf-b", 0.60),
        tool("bar-clamps", "cleat-c", 0.05),
        tool("mallet"),
        tool("chisels"),
        tool("drill-driver"),
        tool("push-sticks"),
        tool("respirator"),
        tool("first-aid"),
    ),
)
BUDGET = Budget(
    currency="€",
    start=250.0,
    monthly=90.0,
    items=(
        buy("drum-sander"),
        buy("bandsaw", "bandsaw"),
        buy("box-cleaner"),
        extra("blades"),
    ),
)
JOBS = (
    job("glued-panel", "metric", comes_from="car-door", per_month=2),
    job("sand-and-finish", "metric", per_month=2),
)


def single_garage() -> Shop:
    shop = Shop(
        name="One-car garage",
        units="metric",
        room=ROOM,
        things=THINGS,
        ducts=DUCTS,
        air=AIR,
        scenes=(NIGHT, DAY),
        jobs=JOBS,
        power=POWER,
        storage=STORAGE,
        budget=BUDGET,
        stock=STOCK,
        hand_room=0.3,
    )
    few = tuple(duty for duty in duties(shop, PAST) if duty.thing in ("vac", "bandsaw"))
    entry = Entry(
        id="entry-1", day=PAST, text="Hung the manifold", why="the hose lay in the way", thing="vac"
    )
    upkeep = Upkeep(
        duties=few, bin=Bin(volume=0.02, emptied_on=PAST), journal=(entry,), cuts=cabinet(0.018, 2.50, 1.25)
    )
    return replace(shop, upkeep=upkeep)
