"""The one-car garage, mended: benches fold, the car comes in at night."""

from dataclasses import replace

from demo_shops.jobs import job
from demo_shops.money import buy, extra
from demo_shops.pieces import interval, thing, v
from demo_shops.power import circuit, light, outlet, overhead
from demo_shops.single_garage import AIR, DAY, FOLDING, NIGHT, single_garage, vac
from demo_shops.storage import tool, unit
from demo_shops.upkeep import duties
from purvel.review import Answers, Memory
from purvel.review.walls.answers import WallsAnswers
from purvel.shop import (
    Ducts,
    Gate,
    Join,
    PortRef,
    Pose,
    Run,
    Session,
    Shop,
)
from purvel.shop.money import Budget
from purvel.shop.power import Appliance, Power
from purvel.shop.storage import Storage
from purvel.shop.upkeep import Bin
from purvel.walls.hanging import with_homes

MENDED_THINGS = (
    replace(thing("workbench", "Wall bench", 3.00, 4.05, -90.0, **FOLDING), folded_depth=0.15),
    thing("bench-mitre-saw", "Mitre saw", 3.00, 2.05, -90.0, z=0.88, wheels=True),
    replace(
        thing("cabinet", "Saw stand", 3.00, 2.05, -90.0, width=1.40, depth=0.60, height=0.88),
        folded_depth=0.20,
    ),
    thing("bandsaw", "Bandsaw", 1.55, 4.60, wheels=True),
    thing("router-table", "Router table", 1.55, 2.10, -90.0, width=0.70, depth=0.50, wheels=True),
    thing("drill-press", "Drill press", 1.90, 6.25),
    thing("timber-rack", "Timber rack", 0.17, 2.60, 90.0, width=2.4, depth=0.30, settled=True),
    vac(2.80, 6.30, 0.0, 1.5),
    thing("box-cleaner", "Filter box", 3.00, 5.35),
)
MENDED_DUCTS = Ducts(
    stick=3.0,
    kerf=0.003,
    runs=(
        Run(
            id="manifold",
            name="Manifold",
            diameter=0.063,
            material="vac-hose",
            source="vac",
            points=(v(3.20, 6.30, 0.5), v(3.20, 6.30, 2.20), v(3.20, 2.60, 2.20)),
        ),
        Run(
            id="saw-drop",
            name="Mitre saw hose",
            diameter=0.05,
            material="vac-hose",
            joins=Join(run="manifold"),
            points=(v(3.20, 2.05, 1.60),),
            port=PortRef(thing="bench-mitre-saw", port="port"),
            gates=(Gate(id="saw-gate", name="Mitre gate", at=0.1),),
        ),
        Run(
            id="router-drop",
            name="Router hose",
            diameter=0.063,
            material="vac-hose",
            joins=Join(run="manifold", at=5.0, angle=45.0),
            points=(v(1.75, 2.30, 2.10),),
            port=PortRef(thing="router-table", port="fence"),
            gates=(Gate(id="router-gate", name="Router gate", at=0.1),),
        ),
    ),
    target="chips",
)


MENDED_WORK = (
    interval(1, "mitre-saw", 5, 10, "bench-mitre-saw"),
    interval(2, "router-table", 30, 20, "router-table"),
    interval(3, "random-orbit-sander", 75, 40, "workbench", "bag"),
)
MENDED_POWER = Power(
    service="230",
    circuits=(
        circuit(1, "Heater", 230, 16, "mm2-2-5"),
        circuit(2, "Bench wall", 230, 16, "mm2-2-5"),
        circuit(3, "Lights and back wall", 230, 16, "mm2-2-5"),
        circuit(4, "Ceiling", 230, 16, "mm2-2-5"),
    ),
    outlets=(
        outlet(1, "B", 2.60, 2),
        outlet(2, "B", 4.90, 2),
        outlet(3, "C", 0.40, 3),
        outlet(4, "C", 1.60, 3),
        overhead(5, 1.55, 2.10, 2.20, 4),
        overhead(6, 1.55, 4.60, 2.20, 4),
    ),
    appliances=(Appliance(id="heater", name="Fan heater", watts=1500.0, circuit="circuit-1"),),
    along=("vac", "heater", "box-cleaner"),
    luminaires=tuple(
        light(number, "long-batten", x, y, 2.50, 90.0)
        for number, (x, y) in enumerate(
            ((0.6, 1.5), (0.6, 3.4), (0.9, 5.4), (1.7, 2.3), (1.7, 4.6), (2.7, 1.9), (2.7, 3.9), (2.4, 5.8)),
            start=1,
        )
    ),
    lights="circuit-3",
)
UNITS = (
    unit("cleat", "cleat-b", "Cleat over the bench", "B", 3.30, 1.50, 1.62),
    unit("shelf", "shelf-d", "Shelf at the back", "D", 3.00, 1.60, 1.05, spans=3, depth=0.25),
    unit("cleat", "cleat-d", "Cleat at the back", "D", 3.00, 1.60, 1.70),
)
TOOLS = (
    "chisels", "mallet", "try-square", "dovetail-saw", "block-plane", "drill-driver", "push-sticks", "respirator",
    "first-aid", "screws-box", "glue", "quick-clamps",
)  # fmt: skip
MENDED_BUDGET = Budget(
    currency="€",
    start=400.0,
    monthly=90.0,
    items=(
        buy("bandsaw", "bandsaw", paid=640.0, paid_on="2026-05-04"),
        buy("box-cleaner", "box-cleaner", known="seen", low=110.0, high=140.0),
        extra("blades"),
    ),
)
MENDED_JOBS = (
    job("glued-panel", "metric", ("edge",), comes_from="car-door", per_month=2),
    job("sand-and-finish", "metric", ("shape",), per_month=2),
)
MENDED_NIGHT = replace(
    NIGHT,
    poses=(
        Pose(thing="workbench", x=3.00, y=4.05, angle=-90.0, state="folded"),
        Pose(thing="cabinet", x=3.00, y=2.05, angle=-90.0, state="folded"),
        Pose(thing="bench-mitre-saw", state="put away"),
        Pose(thing="bandsaw", x=1.65, y=5.50),
        Pose(thing="router-table", x=2.40, y=4.99, angle=-90.0),
    ),
)


def single_garage_mended() -> Shop:
    """Its tools where “Hang these” puts them."""
    shop = replace(
        single_garage(),
        name="One-car garage, mended",
        things=MENDED_THINGS,
        ducts=MENDED_DUCTS,
        air=replace(AIR, session=Session(minutes=150, work=MENDED_WORK, cleaner_on=True, run_on=60)),
        scenes=(MENDED_NIGHT, DAY),
        jobs=MENDED_JOBS,
        power=MENDED_POWER,
        storage=Storage(units=UNITS, tools=tuple(tool(kind) for kind in TOOLS)),
        budget=MENDED_BUDGET,
    )
    hung, left = Answers(shop, Memory()).of(WallsAnswers).proposal()
    assert not left, left
    upkeep = replace(shop.upkeep, duties=duties(shop, None), bin=Bin(volume=0.1), journal=())
    homes = with_homes(shop.storage.tools, hung)
    return replace(shop, storage=replace(shop.storage, tools=homes), upkeep=upkeep)
