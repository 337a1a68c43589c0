"""What the demo shops are built from."""

from dataclasses import replace

from purvel.catalogue import captures, make_thing, operations
from purvel.shop import Thing, Vertex, WorkInterval


def v(x: float, y: float, z: float) -> Vertex:
    """A corner of a run [m]."""
    return Vertex(x=x, y=y, z=z)


def interval(
    number: int,
    operation: str,
    start: float,
    minutes: float,
    thing: str | None = None,
    hood: str = "as drawn",
) -> WorkInterval:
    one = operations()[operation]
    return WorkInterval(
        id=f"spell-{number}",
        name=one.name,
        operation=operation,
        thing=thing,
        start=start,
        minutes=minutes,
        emission=one.band,
        capture=captures()["none" if hood == "as drawn" else hood].share,
        cutting=one.cutting,
        hood=hood,
    )


def thing(kind: str, name: str, x: float, y: float, angle: float = 0.0, **changes: object) -> Thing:
    return replace(make_thing(kind, kind, x, y, angle, name), **changes)
