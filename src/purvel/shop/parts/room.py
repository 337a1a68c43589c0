"""What the room is made of, as parts."""

from dataclasses import replace

from purvel.shop.part import Part, Ref
from purvel.shop.room import Fixture, Opening, Slope, Wall
from purvel.shop.shop import Shop


def _put_walls(shop: Shop, walls: tuple[Wall, ...]) -> Shop:
    return replace(shop, room=replace(shop.room, walls=walls))


def _put_openings(shop: Shop, openings: tuple[Opening, ...]) -> Shop:
    return replace(shop, room=replace(shop.room, openings=openings))


def _put_fixtures(shop: Shop, fixtures: tuple[Fixture, ...]) -> Shop:
    return replace(shop, room=replace(shop.room, fixtures=fixtures))


def _put_slopes(shop: Shop, slopes: tuple[Slope, ...]) -> Shop:
    return replace(shop, room=replace(shop.room, ceiling=replace(shop.room.ceiling, slopes=slopes)))


def _fixture_name(_: Shop, fixture: Fixture) -> str:
    return "the car in its bay" if fixture.taken else fixture.name or fixture.id


def _opening_name(_: Shop, opening: Opening) -> str:
    what = "the window" if opening.kind == "window" else f"the {opening.kind} door"
    return f"{what} in wall {opening.wall}"


WALLS = Part(
    "wall", Wall, lambda shop: shop.room.walls, _put_walls, lambda _, wall: f"wall {wall.id}", unique=True
)


OPENINGS = Part(
    "opening",
    Opening,
    lambda shop: shop.room.openings,
    _put_openings,
    _opening_name,
    refs=(Ref("wall", lambda opening: (opening.wall,), lambda *_: None, "is in a wall"),),
    unique=True,
)


FIXTURES = Part(
    "fixture",
    Fixture,
    lambda shop: shop.room.fixtures,
    _put_fixtures,
    _fixture_name,
    unique=True,
)


SLOPES = Part(
    "slope",
    Slope,
    lambda shop: shop.room.ceiling.slopes,
    _put_slopes,
    lambda _, slope: f"the sloping ceiling at wall {slope.wall}",
    refs=(Ref("wall", lambda slope: (slope.wall,), lambda *_: None, "starts at a wall"),),
    pickable=False,
    id_of=lambda slope: f"slope/{slope.wall}",
    subject=lambda _: "A sloping ceiling",
)
