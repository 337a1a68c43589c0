"""What stands on the floor, as parts."""

from dataclasses import replace

from purvel.shop.ducts import PortRef
from purvel.shop.part import Part, Ref, one
from purvel.shop.shop import Shop
from purvel.shop.things import Thing


def _unplugged(thing: Thing, _: str) -> Thing:
    """It looks for another outlet."""
    return replace(thing, outlet=None)


def _walls_read(thing: Thing) -> tuple[str, ...]:
    return tuple(dict.fromkeys(one.wall for reading in thing.built for one in reading.distances))


def _unread(thing: Thing, wall: str) -> Thing:
    """Without the distances from a wall that is gone."""
    kept = (
        replace(reading, distances=tuple(one for one in reading.distances if one.wall != wall))
        for reading in thing.built
    )
    return replace(thing, built=tuple(one for one in kept if one.distances or one.angle is not None))


def _ports(shop: Shop) -> tuple[PortRef, ...]:
    return tuple(PortRef(thing=thing.id, port=port.id) for thing in shop.things for port in thing.ports)


def _put_ports(shop: Shop, ports: tuple[PortRef, ...]) -> Shop:
    """Ports that are left out are taken off their things."""
    kept = {port_id(ref.thing, ref.port) for ref in ports}
    things = (
        replace(thing, ports=tuple(port for port in thing.ports if port_id(thing.id, port.id) in kept))
        for thing in shop.things
    )
    return replace(shop, things=tuple(things))


def port_id(thing: str, port: str) -> str:
    """What tells a port from all others: ports have ids within their thing only."""
    return f"{thing}/{port}"


def _port_name(shop: Shop, ref: PortRef) -> str:
    thing = shop.thing(ref.thing)
    return f"{ref.thing if thing is None else thing.name or thing.id}, port {ref.port}"


THINGS = Part(
    "thing",
    Thing,
    lambda shop: shop.things,
    lambda shop, things: replace(shop, things=things),
    refs=(
        Ref("outlet", lambda thing: one(thing.outlet), _unplugged, "is plugged into an outlet"),
        Ref("wall", _walls_read, _unread, "was measured from a wall"),
    ),
    unique=True,
)


PORTS = Part(
    "port",
    PortRef,
    _ports,
    _put_ports,
    _port_name,
    pickable=False,
    id_of=lambda ref: port_id(ref.thing, ref.port),
    unique=True,
)
