"""What is done to things that are picked, one or several together."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import partial
from math import cos, radians, sin

from purvel.app.workspace import Workspace
from purvel.shop import Fixture, Shop, Thing
from purvel.shop.edits import change, fresh_id, move_thing, put, remove
from purvel.shop.parts import item_of, name_of
from purvel.space.grouping import Edge, Way, aligned, spaced
from purvel.space.traverse import Point

_ALIGN: tuple[tuple[str, Edge], ...] = (
    ("Left edges", "left"),
    ("Right edges", "right"),
    ("Upper edges", "top"),
    ("Lower edges", "bottom"),
    ("In a column", "middle across"),
    ("In a row", "middle up"),
)
_BESIDE = 0.1  # m between a thing and its copy


def group_of(workspace: Workspace) -> list[Thing]:
    """The things that are picked together; none where fewer than two are."""
    ids = dict.fromkeys((*(one for one in (workspace.picked,) if one), *workspace.view.now.also))
    found = [thing for one in ids if (thing := workspace.shop.thing(one)) is not None]
    return found if len(found) > 1 else []


Command = tuple[str, Callable[[], object]]


def placings(workspace: Workspace) -> list[Command]:
    found: list[Command] = [(words, partial(align, workspace, edge)) for words, edge in _ALIGN]
    return [
        *found,
        ("Evenly across", partial(space, workspace, "across")),
        ("Evenly up", partial(space, workspace, "up")),
    ]


def group_commands(workspace: Workspace) -> list[Command]:
    """What the finder offers where several things are picked."""
    found = [(f"Set in line what is picked: {words.lower()}", act) for words, act in placings(workspace)]
    return [*found, ("Take all that is picked away", partial(take_all_away, workspace))]


def align(workspace: Workspace, edge: Edge) -> None:
    """Sets the picked things in line."""
    _place(workspace, aligned(_loose(workspace), edge), "Align")


def space(workspace: Workspace, way: Way) -> None:
    """Sets the picked things evenly apart."""
    things = _loose(workspace)
    if len(things) < 3:
        workspace.said.emit("To be spaced evenly at least three things have to be picked.")
        return
    _place(workspace, spaced(things, way), "Space evenly")


def shift(shop: Shop, things: Sequence[Thing], dx: float, dy: float) -> Shop:
    """The shop with all of these moved by as much."""
    for thing in things:
        shop = move_thing(shop, thing.id, thing.x + dx, thing.y + dy)
    return shop


def switch_fixed(workspace: Workspace) -> None:
    """Fixes what is picked where it is, or frees it if all of it is fixed."""
    picked = group_of(workspace) or [one for one in (workspace.picked_body,) if isinstance(one, Thing)]
    if not picked:
        return
    on = not all(one.settled for one in picked)

    def edit(shop: Shop) -> Shop:
        for one in picked:
            shop = change(shop, one.id, settled=on)
        return shop

    workspace.apply(edit, "Fix in place" if on else "Free to move")
    names = ", ".join(one.name or one.id for one in picked)
    workspace.said.emit(f"{names}: {'fixed in place' if on else 'free to move'}.")


def is_held(workspace: Workspace, item: Thing | Fixture) -> bool:
    """Whether something is fixed in its place; that is said."""
    if not isinstance(item, Thing) or not item.settled:
        return False
    workspace.said.emit(f"{item.name or item.id} is fixed: L frees it.")
    return True


def copy_picked(workspace: Workspace) -> None:
    """A copy beside each picked thing or fixture; the copies are picked then."""
    items: list[Thing | Fixture] = [*group_of(workspace)]
    if not items and workspace.picked_body is not None:
        items = [workspace.picked_body]
    if not items:
        workspace.said.emit("Pick a thing first: then Ctrl+D copies it.")
        return
    shop, made = workspace.shop, list[str]()
    for one in items:
        name = _free_name(shop, one.name or one.id)
        copy_id, (x, y) = fresh_id(shop, one.kind.replace(" ", "-")), _to_the_right(one)
        copy: Thing | Fixture = replace(one, id=copy_id, name=name, x=x, y=y)
        if isinstance(copy, Thing):
            copy = replace(copy, settled=False, built=(), trial_since=None)
        shop = put(shop, copy)
        made.append(copy_id)
    after = shop
    workspace.apply(lambda _: after, f"Copy {name_of(workspace.shop, items[0].id)}")
    workspace.view.look_at(picked=made[0], also=tuple(made[1:]))


def _to_the_right(one: Thing | Fixture) -> Point:
    """Where something as wide stands at its right."""
    turn, by = radians(one.angle), one.width + _BESIDE
    return round(one.x + by * cos(turn), 6), round(one.y + by * sin(turn), 6)


def _free_name(shop: Shop, name: str) -> str:
    names = {one.name for one in shop.things} | {one.name for one in shop.room.fixtures}
    number = 2
    while f"{name} {number}" in names:
        number += 1
    return f"{name} {number}"


def take_all_away(workspace: Workspace) -> None:
    """Takes all that are picked together away, in one step."""
    things = group_of(workspace)

    def edit(shop: Shop) -> Shop:
        for thing in things:
            if item_of(shop, thing.id) is not None:
                shop = remove(shop, thing.id)
        return shop

    workspace.view.look_at(picked=None, also=())
    workspace.apply(edit, f"Take {len(things)} things away")
    workspace.said.emit(f"{len(things)} things went. Ctrl+Z brings them back.")


def _loose(workspace: Workspace) -> list[Thing]:
    """Those that are not fixed."""
    return [one for one in group_of(workspace) if not one.settled]


def _place(workspace: Workspace, places: dict[str, Point], label: str) -> None:
    def edit(shop: Shop) -> Shop:
        for thing, (x, y) in places.items():
            shop = move_thing(shop, thing, x, y)
        return shop

    workspace.apply(edit, label)
