"""Edits: pure functions from one shop to the next.

What an edit takes away, it also takes out of everything that refers to it.
"""

from collections.abc import Callable, Iterable
from dataclasses import replace
from typing import Any, TypeVar

from purvel.shop.air import Session, Spell
from purvel.shop.ducts import GateSet, Run
from purvel.shop.room import Fixture, Opening, Slope, Wall
from purvel.shop.shop import Shop
from purvel.shop.things import Thing

Edit = Callable[[Shop], Shop]
_Item = TypeVar("_Item", Wall, Opening, Fixture, Thing, Run, GateSet, Spell)


def fresh_id(shop: Shop, stem: str) -> str:
    """An id that nothing in the shop has yet: stem-1, stem-2 …"""
    taken = set(_all_ids(shop))
    number = 1
    while f"{stem}-{number}" in taken:
        number += 1
    return f"{stem}-{number}"


def fresh_wall_id(shop: Shop) -> str:
    """A, B, C … as walls are called on a sketch."""
    taken = set(_all_ids(shop))
    letters = [chr(65 + k) for k in range(26)]
    return next(name for name in [*letters, *(a + b for a in letters for b in letters)] if name not in taken)


def _all_ids(shop: Shop) -> Iterable[str]:
    room, ducts = shop.room, shop.ducts
    for group in (
        room.walls,
        room.openings,
        room.fixtures,
        shop.things,
        ducts.runs,
        ducts.gate_sets,
        shop.air.session.spells,
    ):
        yield from (item.id for item in group)
    yield from (gate.id for run in ducts.runs for gate in run.gates)


def _put(items: tuple[_Item, ...], item: _Item) -> tuple[_Item, ...]:
    if any(old.id == item.id for old in items):
        return tuple(item if old.id == item.id else old for old in items)
    return items + (item,)  # noqa: RUF005  # mypy cannot type the unpacked form


def _drop(items: tuple[_Item, ...], item_id: str) -> tuple[_Item, ...]:
    return tuple(item for item in items if item.id != item_id)


# ---- room --------------------------------------------------------------------------------------------------
# --------------------------


def put_wall(shop: Shop, wall: Wall) -> Shop:
    """The wall changed in place, or added after the last."""
    return replace(shop, room=replace(shop.room, walls=_put(shop.room.walls, wall)))


def split_wall(shop: Shop, wall_id: str, new_id: str, at: float) -> Shop:
    """A wall made two in line, the second with a new id, `at` metres from its start; openings stay where they
    are. Nothing else changes shape.
    """
    room = shop.room
    index = next(number for number, wall in enumerate(room.walls) if wall.id == wall_id)
    whole = room.walls[index]
    halves = (replace(whole, length=at, turn=0.0), replace(whole, id=new_id, length=whole.length - at))
    openings = tuple(
        replace(one, wall=new_id, offset=one.offset - at) if one.wall == wall_id and one.offset >= at else one
        for one in room.openings
    )
    slopes = tuple(
        piece
        for slope in room.ceiling.slopes
        for piece in ((slope, replace(slope, wall=new_id)) if slope.wall == wall_id else (slope,))
    )
    walls = (*room.walls[:index], *halves, *room.walls[index + 1 :])
    return change_room(shop, walls=walls, openings=openings, ceiling=replace(room.ceiling, slopes=slopes))


def remove_wall(shop: Shop, wall_id: str) -> Shop:
    """The wall gone, with the openings and ceiling slopes that were in it."""
    room = shop.room
    ceiling = replace(
        room.ceiling, slopes=tuple(slope for slope in room.ceiling.slopes if slope.wall != wall_id)
    )
    openings = tuple(opening for opening in room.openings if opening.wall != wall_id)
    return replace(
        shop, room=replace(room, walls=_drop(room.walls, wall_id), openings=openings, ceiling=ceiling)
    )


def slope_ceiling(shop: Shop, wall_id: str, slope: Slope | None) -> Shop:
    """The ceiling sloping down to a wall, or not sloping there any more."""
    ceiling = shop.room.ceiling
    others = tuple(one for one in ceiling.slopes if one.wall != wall_id)
    return change_room(shop, ceiling=replace(ceiling, slopes=others if slope is None else (*others, slope)))


def put_opening(shop: Shop, opening: Opening) -> Shop:
    """The opening changed, or added."""
    return replace(shop, room=replace(shop.room, openings=_put(shop.room.openings, opening)))


def put_fixture(shop: Shop, fixture: Fixture) -> Shop:
    """The fixture changed, or added."""
    return replace(shop, room=replace(shop.room, fixtures=_put(shop.room.fixtures, fixture)))


def change_room(shop: Shop, **changes: Any) -> Shop:
    """Fields of the room changed."""
    return replace(shop, room=replace(shop.room, **changes))


# ---- things ------------------------------------------------------------------------------------------------
# --------------------------


def put_thing(shop: Shop, thing: Thing) -> Shop:
    """The thing changed, or added."""
    return replace(shop, things=_put(shop.things, thing))


def move_thing(shop: Shop, thing_id: str, x: float, y: float, angle: float | None = None) -> Shop:
    """The thing set down at (x, y) [m], turned to `angle` [deg] if given."""
    return replace(
        shop,
        things=tuple(_moved(thing, x, y, angle) if thing.id == thing_id else thing for thing in shop.things),
    )


def _moved(thing: Thing, x: float, y: float, angle: float | None) -> Thing:
    return replace(thing, x=x, y=y, angle=thing.angle if angle is None else angle % 360)


def change_thing(shop: Shop, thing_id: str, **changes: Any) -> Shop:
    """Fields of one thing changed."""
    return replace(
        shop,
        things=tuple(replace(thing, **changes) if thing.id == thing_id else thing for thing in shop.things),
    )


def _remove_thing(shop: Shop, thing_id: str) -> Shop:
    runs = tuple(_let_go(run, thing_id) for run in shop.ducts.runs)
    spells = tuple(
        replace(spell, thing=None) if spell.thing == thing_id else spell for spell in shop.air.session.spells
    )
    shop = replace(shop, things=_drop(shop.things, thing_id), ducts=replace(shop.ducts, runs=runs))
    return change_session(shop, spells=spells)


def _let_go(run: Run, thing_id: str) -> Run:
    if run.port is not None and run.port.thing == thing_id:
        run = replace(run, port=None)
    return replace(run, source=None) if run.source == thing_id else run


# ---- ducts -------------------------------------------------------------------------------------------------
# --------------------------


def put_run(shop: Shop, run: Run) -> Shop:
    """The run changed, or added."""
    return replace(shop, ducts=replace(shop.ducts, runs=_put(shop.ducts.runs, run)))


def put_gate_set(shop: Shop, gate_set: GateSet) -> Shop:
    """The gate set changed, or added."""
    return replace(shop, ducts=replace(shop.ducts, gate_sets=_put(shop.ducts.gate_sets, gate_set)))


def change_run(shop: Shop, run_id: str, **changes: Any) -> Shop:
    """Fields of one run changed; gates that are gone leave the gate sets."""
    runs = tuple(replace(run, **changes) if run.id == run_id else run for run in shop.ducts.runs)
    return _without_lost_gates(replace(shop, ducts=replace(shop.ducts, runs=runs)))


def _remove_run(shop: Shop, run_id: str) -> Shop:
    gone = {run_id}
    while more := {run.id for run in shop.ducts.runs if run.joins and run.joins.run in gone} - gone:
        gone |= more
    runs = tuple(run for run in shop.ducts.runs if run.id not in gone)
    return _without_lost_gates(replace(shop, ducts=replace(shop.ducts, runs=runs)))


def _without_lost_gates(shop: Shop) -> Shop:
    gates = {gate.id for run in shop.ducts.runs for gate in run.gates}
    sets = tuple(
        replace(one, open=tuple(gate for gate in one.open if gate in gates)) for one in shop.ducts.gate_sets
    )
    return replace(shop, ducts=replace(shop.ducts, gate_sets=tuple(one for one in sets if one.open)))


def change_ducts(shop: Shop, **changes: Any) -> Shop:
    """Fields of the duct system changed."""
    return replace(shop, ducts=replace(shop.ducts, **changes))


# ---- air ---------------------------------------------------------------------------------------------------
# --------------------------


def change_air(shop: Shop, **changes: Any) -> Shop:
    """Fields of the air changed."""
    return replace(shop, air=replace(shop.air, **changes))


def change_session(shop: Shop, **changes: Any) -> Shop:
    """Fields of the session changed."""
    session: Session = replace(shop.air.session, **changes)
    return change_air(shop, session=session)


def put_spell(shop: Shop, spell: Spell) -> Shop:
    """The spell changed, or added; spells stay in order of time."""
    spells = sorted(_put(shop.air.session.spells, spell), key=lambda one: one.start)
    return change_session(shop, spells=tuple(spells))


# ---- anything ----------------------------------------------------------------------------------------------
# --------------------------


def remove(shop: Shop, item_id: str) -> Shop:
    """Whatever has this id gone, with all that hangs on it. An id that nothing has changes nothing."""
    if any(wall.id == item_id for wall in shop.room.walls):
        return remove_wall(shop, item_id)
    if any(run.id == item_id for run in shop.ducts.runs):
        return _remove_run(shop, item_id)
    if any(thing.id == item_id for thing in shop.things):
        return _remove_thing(shop, item_id)
    if any(spell.id == item_id for spell in shop.air.session.spells):
        return change_session(shop, spells=_drop(shop.air.session.spells, item_id))
    if any(one.id == item_id for one in shop.ducts.gate_sets):
        return change_ducts(shop, gate_sets=_drop(shop.ducts.gate_sets, item_id))
    for run in shop.ducts.runs:
        if any(gate.id == item_id for gate in run.gates):
            return change_run(shop, run.id, gates=tuple(gate for gate in run.gates if gate.id != item_id))
    return change_room(
        shop, openings=_drop(shop.room.openings, item_id), fixtures=_drop(shop.room.fixtures, item_id)
    )


def change_shop(shop: Shop, **changes: Any) -> Shop:
    """Fields of the shop itself changed."""
    return replace(shop, **changes)
