"""One port at the end of one hose on a source, wherever both stand."""

from __future__ import annotations

from dataclasses import dataclass, replace

from purvel.airflow.air import AirState
from purvel.airflow.layout import layouts
from purvel.airflow.network import solve
from purvel.airflow.segments import Leaks
from purvel.shop import Ducts, Port, PortRef, Run, Source, Thing

BENDS = 1.1  # [-], loss of two bends in a hose that lies as it falls: 0.55 each [trade practice]
HUNG = 0.1  # share by which hose hangs shorter than stretched [choice]
NARROW = 0.063  # m: narrower hose is a vac's [trade practice]


@dataclass(frozen=True, slots=True)
class OnHose:
    """Flow [m3/s], speed in the hose [m/s] and static suction behind the port [Pa]."""

    flow: float
    speed: float
    suction: float


def on_hose(source: Source, port: Port, length: float, size: float, air: AirState) -> OnHose:
    """What a port gets at the end of a hose of so many metres and a bore [m] on a source: solved as any other
    system, with the loss of two bends and hanging a little shorter than it is long.
    """
    at_end = replace(port, x=0.0, y=0.0, z=source.inlet_z, faces=None)
    facing = replace(source, inlet_x=length, inlet_y=0.0, inlet_direction=180.0)
    mover = Thing(id="source", kind="source", width=0.5, depth=0.5, height=1.0, source=facing)
    machine = Thing(id="machine", kind="machine", width=0.5, depth=0.5, height=1.0, ports=(at_end,))
    run = Run(
        id="hose",
        diameter=size,
        material="vac-hose" if size < NARROW else "ribbed-hose",
        slack=HUNG,
        loss=BENDS,
        source="source",
        port=PortRef(thing="machine", port=port.id),
    )
    (layout,) = layouts(Ducts(runs=(run,)), (mover, machine))
    one = solve(layout, [("open", ())], air, Leaks(0.0)).sets[0]
    return OnHose(one.hoods[0].flow, abs(one.segments[0].speed), one.hoods[0].static_suction)
