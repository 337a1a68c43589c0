"""What the pieces of a run cost: its elbows, changes of size and gates by their coefficients, its wall."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from math import atan, cos, degrees, pi, radians, sin

from purvel.airflow.fittings import elbow_loss, size_change
from purvel.airflow.friction import HOSE_SLACK_SPREAD, slack_multiplier
from purvel.airflow.paths import STRAIGHT_ENOUGH, Vector, turn_between
from purvel.airflow.segments import Fitting, FittingKind, Friction
from purvel.catalogue import Elbow, elbows, inlines, materials
from purvel.shop import Run, Source, Thing
from purvel.shop.things import Facing

FACES: dict[Facing, Callable[[float], Vector]] = {
    "right": lambda turned: (cos(turned), sin(turned), 0.0),
    "away": lambda turned: (-sin(turned), cos(turned), 0.0),
    "left": lambda turned: (-cos(turned), -sin(turned), 0.0),
    "near": lambda turned: (sin(turned), -cos(turned), 0.0),
    "up": lambda _: (0.0, 0.0, 1.0),
    "down": lambda _: (0.0, 0.0, -1.0),
}
"""Which way a port faces on the plan when its thing is turned [rad]."""


def inlet_faces(thing: Thing, source: Source) -> Vector:
    """Which way a source's inlet faces, as a unit vector."""
    heading = radians(thing.angle + source.inlet_direction)
    return (cos(heading), sin(heading), 0.0)


def elbow_at(run: Run, faces: Vector, leaves: Vector, where: str) -> Iterator[Fitting]:
    """The elbow where a run leaves an inlet or a port another way than that one faces."""
    turn = turn_between(faces, leaves)
    if turn > STRAIGHT_ENOUGH:
        yield elbow_fitting(run, turn, f" {where}")


def elbow_of(run: Run) -> Elbow:
    """The elbows that a run is laid with."""
    return elbows()["hose-bend" if materials()[run.material].kind == "hose" else run.elbow]


def elbow_fitting(run: Run, turn: float, where: str = "") -> Fitting:
    """An elbow of a run for a turn [deg]."""
    elbow = elbow_of(run)
    made = fitting(run, "elbow", f"{elbow.name}, {turn:.0f}°{where}", elbow_loss(elbow.loss, turn))
    return replace(made, turn=turn)


def fitting(run: Run, kind: FittingKind, name: str, loss: float, section: float | None = None) -> Fitting:
    """A fitting of a run; its loss on the velocity pressure of `section` [m], the run's own where none is
    named.
    """
    at = section or run.diameter
    area = pi / 4 * run.diameter**2
    return Fitting(kind, name, loss * (area / (pi / 4 * at**2)) ** 2, at, loss)


def in_run(run: Run) -> Iterator[Fitting]:
    """What sits in a run: fittings of the catalogue, and what else its user says of it."""
    for key in run.inline:
        one = inlines().get(key)
        if one is not None:
            yield fitting(run, "own", one.name, one.loss)
    if run.loss > 0:
        yield fitting(run, "own", "What else is in it", run.loss)


def sagging(run: Run, length: float) -> Iterator[Fitting]:
    """The bends of a hose that sags between its hangers, over a length [m]: each span hangs as a parabola,
    whose ends slope by atan(4 sag / span), and turns by twice that in its middle and at its hanger.
    """
    material = materials()[run.material]
    if material.kind == "hose" and run.sag > 0:
        turn = 2 * degrees(atan(4 * run.sag / material.span))
        yield fitting(
            run,
            "own",
            f"Sag of {run.sag * 1000:.0f} mm",
            2 * length / material.span * elbow_loss(elbow_of(run).loss, turn),
        )


def size_changes(run: Run, upstream: float, downstream: float) -> Iterator[Fitting]:
    """The taper between two diameters [m], if they differ."""
    if abs(upstream - downstream) > 1e-6:
        loss, small = size_change(upstream, downstream), min(upstream, downstream)
        kind: FittingKind
        kind, name = ("reducer", "Reducer") if upstream > downstream else ("widening", "Widening")
        yield replace(fitting(run, kind, name, loss, small), wide=max(upstream, downstream))


def friction_of(run: Run) -> Friction:
    """How a run's wall slows the air, as it mostly is."""
    material = materials()[run.material]
    roughness = material.roughness if run.roughness is None else run.roughness
    if material.kind != "hose":
        return Friction(roughness)
    return Friction(roughness, slack_multiplier(run.diameter, run.slack))


def hose_bounds(run: Run) -> tuple[Friction, Friction]:
    """A hose's friction at either end of what is known of its roughness and of what slack does to it."""
    smooth, rough = (
        Friction(
            roughness if run.roughness is None else run.roughness,
            slack_multiplier(run.diameter, run.slack, share),
        )
        for roughness, share in zip(materials()[run.material].spread, HOSE_SLACK_SPREAD)
    )
    return smooth, rough
