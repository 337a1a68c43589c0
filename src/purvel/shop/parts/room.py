"""What the room is made of, as parts."""

from dataclasses import replace

from purvel.shop.part import Part, Ref, one
from purvel.shop.room import Diagonal, Fixture, Joists, Opening, Slope, Spot, Wall, WallHeight
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


def _put_joists(shop: Shop, joists: tuple[Joists, ...]) -> Shop:
    ceiling = replace(shop.room.ceiling, joists=joists[0] if joists else None)
    return replace(shop, room=replace(shop.room, ceiling=ceiling))


JOISTS = Part(
    "joists",
    Joists,
    lambda shop: one(shop.room.ceiling.joists),
    _put_joists,
    lambda _, joists: f"the joists along wall {joists.wall}",
    refs=(Ref("wall", lambda joists: (joists.wall,), lambda *_: None, "lie along a wall"),),
    pickable=False,
    id_of=lambda joists: f"joists/{joists.wall}",
    subject=lambda _: "The ceiling's joists",
)


DIAGONALS = Part(
    "diagonal",
    Diagonal,
    lambda shop: shop.room.diagonals,
    lambda shop, items: replace(shop, room=replace(shop.room, diagonals=items)),
    lambda _, diagonal: f"the length from corner {diagonal.start} to corner {diagonal.end}",
    refs=(
        Ref(
            "wall", lambda diagonal: (diagonal.start, diagonal.end), lambda *_: None, "is read from a corner"
        ),
    ),
    unique=True,
    pickable=False,
)


def _without_corner(spot: Spot, corner: str) -> Spot | None:
    offsets = tuple(offset for offset in spot.offsets if offset.corner != corner)
    return replace(spot, offsets=offsets) if len(offsets) > 1 else None


SPOTS = Part(
    "spot",
    Spot,
    lambda shop: shop.room.spots,
    lambda shop, items: replace(shop, room=replace(shop.room, spots=items)),
    refs=(
        Ref(
            "wall",
            lambda spot: tuple(offset.corner for offset in spot.offsets),
            _without_corner,
            "is read from a corner",
        ),
    ),
    unique=True,
    pickable=False,
)


HEIGHTS = Part(
    "height",
    WallHeight,
    lambda shop: shop.room.heights,
    lambda shop, items: replace(shop, room=replace(shop.room, heights=items)),
    lambda _, height: f"the height read at wall {height.wall}",
    refs=(Ref("wall", lambda height: (height.wall,), lambda *_: None, "is read at a wall"),),
    unique=True,
    pickable=False,
)
