"""Sixty things in an L-shaped room with two posts, a low slope and a system of twelve hoods: what is to be
quick with much in it.
"""

from dataclasses import replace
from functools import cache

from purvel.catalogue import make_thing
from purvel.shop import (
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
    Shop,
    Slope,
    Stock,
    Thing,
    Vertex,
    Wall,
)

_PORTED = (
    ("table-saw", "cabinet"),
    ("jointer", "chute"),
    ("planer", "hood"),
    ("bandsaw", "lower"),
    ("router-table", "box"),
    ("drum-sander", "cover"),
)
_MAIN_Y, _HIGH = 3.0, 2.35


def _room() -> Room:
    lengths = {"A": 12.0, "B": 9.0, "C": 7.0, "D": 3.0, "E": 5.0, "F": 6.0}
    walls = (
        Wall(id=name, length=length, turn=-90.0 if name == "D" else 90.0) for name, length in lengths.items()
    )
    post = Fixture(id="post-1", kind="post", name="Post", x=4.1, y=3.55, width=0.1, depth=0.1, top=2.7)
    return Room(
        walls=tuple(walls),
        openings=(
            Opening(
                id="door", kind="swing", wall="F", offset=0.9, width=0.9, head=2.0, entry=True, swing="out"
            ),
            Opening(id="car-door", kind="roll-up", wall="B", offset=2.4, width=2.4, head=2.1),
        ),
        fixtures=(post, replace(post, id="post-2", name="Second post", x=8.1)),
        ceiling=Ceiling(height=2.7, slopes=(Slope(wall="C", low=1.7, run=1.5),)),
    )


def _things() -> tuple[tuple[Thing, ...], tuple[Run, ...]]:
    made, runs = [make_thing("collector", "collector", 0.6, _MAIN_Y)], list[Run]()
    for k in range(12):
        kind, port = _PORTED[k % 6]
        x, y = 2.0 + 1.8 * (k % 6), 1.75 if k < 6 else 4.35
        made.append(make_thing(kind, f"machine-{k}", x, y, 0.0 if k < 6 else 180.0, f"Machine {k + 1}"))
        runs.append(
            Run(
                id=f"hose-{k}",
                name=f"Hose {k + 1}",
                diameter=0.1,
                material="ribbed-hose",
                slack=0.1,
                joins=Join(run="main", at=1.0 + x, angle=45.0),
                points=(Vertex(x=x + 0.3, y=_MAIN_Y + (y - _MAIN_Y) / 2, z=_HIGH),),
                port=PortRef(thing=f"machine-{k}", port=port),
                gates=(Gate(id=f"gate-{k}", name=f"Gate {k + 1}", at=0.4),),
            )
        )
    rows = ((0.35, 0.5, 12), (5.6, 0.6, 12), (6.9, 5.6, 6), (8.3, 5.6, 6))
    kinds = ("cabinet", "drill-press", "cabinet", "cabinet")
    for y, x0, count in rows:
        for k in range(count):
            name = f"along-{y:g}-{k}"
            made.append(make_thing(kinds[k % 4], name, x0 + k, y, 180.0 if y < 6 else 0.0, name))
    for k in range(11):
        made.append(make_thing("drill-press", f"small-{k}", 1.6 + 0.9 * k, 2.75, 0.0, f"Small {k + 1}"))
    return tuple(made), tuple(runs)


@cache
def crowded_shop() -> Shop:
    """The shop."""
    things, hoses = _things()
    source = things[0]
    main = Run(
        id="main",
        name="Main",
        diameter=0.2,
        source="collector",
        points=tuple(
            Vertex(x=x, y=_MAIN_Y, z=z) for x, z in ((source.x + 0.5, 0.65), (1.1, _HIGH), (11.6, _HIGH))
        ),
    )
    sets = tuple(GateSet(id=f"set-{k}", name=f"Choice {k + 1}", open=(f"gate-{k}",)) for k in range(12))
    return Shop(
        name="A crowd",
        units="metric",
        room=_room(),
        things=things,
        ducts=Ducts(runs=(main, *hoses), gate_sets=sets),
        stock=Stock(length=1.8, width=0.2, thickness=0.025),
        hand_room=0.5,
    )
