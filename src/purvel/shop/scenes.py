"""The shop as it stands in a scene, and edits made there carried back into the document.

Engines never learn of scenes: they get the shop that `in_scene` gives.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import fields, is_dataclass, replace
from math import cos, radians, sin
from typing import Any, TypeVar

from purvel.shop.ducts import Run
from purvel.shop.parts import without_lost
from purvel.shop.room import Fixture, Opening
from purvel.shop.scene import HUNG_AT, Pose, Scene
from purvel.shop.shop import Shop
from purvel.shop.things import Thing

T = TypeVar("T")


def scene_of(shop: Shop, scene_id: str | None) -> Scene | None:
    """The scene with this id; None where it is not there, and for the shop as drawn."""
    return next((scene for scene in shop.scenes if scene.id == scene_id), None)


def in_scene(shop: Shop, scene_id: str | None) -> Shop:
    """The shop as it stands in a scene: things at their poses, doors open or shut, bays taken or free.

    What is put away is left out. The shop itself where there is no such scene.
    """
    scene = scene_of(shop, scene_id)
    if scene is None:
        return shop
    poses = {pose.thing: pose for pose in scene.poses}
    standing = (posed(thing, poses.get(thing.id)) for thing in shop.things)
    things = tuple(_at_rest(thing) if scene.asleep else thing for thing in standing if thing is not None)
    openings = _all_same(shop.room.openings, [_opened(opening, scene) for opening in shop.room.openings])
    fixtures = _all_same(shop.room.fixtures, [_taken(fixture, scene) for fixture in shop.room.fixtures])
    room = shop.room
    if openings is not room.openings or fixtures is not room.fixtures:
        room = replace(room, openings=openings, fixtures=fixtures)
    return replace(shop, things=_all_same(shop.things, things), room=room)


def _all_same(before: tuple[T, ...], after: Sequence[T]) -> tuple[T, ...]:
    """The very tuple that there was, if nothing in it changed."""
    same = len(before) == len(after) and all(old is new for old, new in zip(before, after))
    return before if same else tuple(after)


def _opened(opening: Opening, scene: Scene) -> Opening:
    is_open = opening.id in scene.opened
    return opening if opening.is_open == is_open else replace(opening, is_open=is_open)


def _taken(fixture: Fixture, scene: Scene) -> Fixture:
    taken = fixture.id in scene.parked
    return fixture if fixture.taken == taken else replace(fixture, taken=taken)


def posed(thing: Thing, pose: Pose | None) -> Thing | None:
    """A thing at its pose; None where it is put away."""
    if pose is None or not thing.is_movable:
        return thing
    if pose.state == "put away":
        return None
    there = replace(thing, x=pose.x, y=pose.y, angle=pose.angle)
    if pose.state == "hung" and thing.hung:
        return replace(_at_rest(there), z=pose.z)
    if pose.state == "stowed":
        return _at_rest(there)
    if pose.state != "folded" or thing.folded_depth is None:
        return there
    dx, dy = _back(there, thing.folded_depth)
    depth = thing.folded_depth
    return replace(
        there, x=there.x + dx, y=there.y + dy, depth=depth, feed=None, stand=None, work_height=None
    )


def _at_rest(thing: Thing) -> Thing:
    """A thing that nobody works at."""
    return thing if thing.feed is None and thing.stand is None else replace(thing, feed=None, stand=None)


def is_asleep(shop: Shop, scene_id: str | None) -> bool:
    """Whether nobody works in a scene."""
    scene = scene_of(shop, scene_id)
    return scene is not None and scene.asleep


def _back(thing: Thing, folded_depth: float) -> tuple[float, float]:
    """How far the middle moves when a thing folds against its back [m]."""
    by = (thing.depth - folded_depth) / 2
    return -sin(radians(thing.angle)) * by, cos(radians(thing.angle)) * by


# ---- edits made in a scene


def carried_back(shop: Shop, scene_id: str | None, before: Shop, after: Shop) -> Shop:
    """The document after an edit that was made to the shop as it stood in a scene.

    What moved of movable things, doors and bays is kept in the scene; all other changes are made in the
    document, and what the scene hid stays as it was.
    """
    scene = scene_of(shop, scene_id)
    if scene is None:
        return after
    before = without_lost(before)  # as edits do: what refers to a thing that is put away is no change
    before, after = _without_loose_ends(shop, before, before), _without_loose_ends(shop, before, after)
    then = {thing.id: thing for thing in before.things}
    doors = {opening.id: opening for opening in before.room.openings}
    bays = {fixture.id: fixture for fixture in before.room.fixtures}
    things = tuple(_unmoved(thing, then.get(thing.id)) for thing in after.things)
    openings = tuple(_as_it_was(one, doors.get(one.id), "is_open") for one in after.room.openings)
    fixtures = tuple(_as_it_was(one, bays.get(one.id), "taken") for one in after.room.fixtures)
    room = replace(after.room, openings=openings, fixtures=fixtures)
    merged: Shop = _merged(shop, before, replace(after, things=things, room=room))
    # what let go in the scene of a thing that was taken away there still refers to it in the document
    return without_lost(_with_scene(merged, scene_id, before, after))


def _without_loose_ends(shop: Shop, before: Shop, edited: Shop) -> Shop:
    """Without the points at which runs end that let go in the scene: they are not the document's."""
    drawn = {run.id: run for run in shop.ducts.runs}
    then = {run.id: run for run in before.ducts.runs}
    runs = tuple(_hooked(run, drawn.get(run.id), then.get(run.id)) for run in edited.ducts.runs)
    return replace(edited, ducts=replace(edited.ducts, runs=runs))


def _hooked(run: Run, drawn: Run | None, then: Run | None) -> Run:
    if drawn is None or then is None or drawn.port is None or then.port is not None or run.port is not None:
        return run
    end_is_gone = len(run.points) < len(then.points) and run.points[-1:] != then.points[-1:]
    return run if end_is_gone else replace(run, points=run.points[:-1])


def _pose_changed(thing: Thing, then: Thing | None) -> bool:
    return then is not None and (thing.x, thing.y, thing.angle) != (then.x, then.y, then.angle)


def _unmoved(thing: Thing, then: Thing | None) -> Thing:
    """A movable thing where it stood: its move is the scene's."""
    if then is None or not thing.is_movable or not _pose_changed(thing, then):
        return thing
    return replace(thing, x=then.x, y=then.y, angle=then.angle)


def _as_it_was(item: T, then: T | None, field: str) -> T:
    return item if then is None else replace(item, **{field: getattr(then, field)})  # type: ignore[type-var]


def _with_scene(shop: Shop, scene_id: str | None, before: Shop, after: Shop) -> Shop:
    scene = scene_of(shop, scene_id)
    if scene is None:  # the edit took the scene away
        return shop
    poses = {pose.thing: pose for pose in scene.poses}
    drawn = {thing.id: thing for thing in shop.things}
    then = {thing.id: thing for thing in before.things}
    for thing in after.things:
        if thing.is_movable and _pose_changed(thing, then.get(thing.id)) and thing.id in drawn:
            poses[thing.id] = _new_pose(thing, drawn[thing.id], poses.get(thing.id))
    changed = replace(
        scene,
        poses=tuple(poses.values()),
        opened=_switched(scene.opened, before.room.openings, after.room.openings, "is_open"),
        parked=_switched(scene.parked, before.room.fixtures, after.room.fixtures, "taken"),
    )
    if changed == scene:
        return shop
    return replace(shop, scenes=tuple(changed if one.id == scene.id else one for one in shop.scenes))


def _new_pose(thing: Thing, drawn: Thing, pose: Pose | None) -> Pose:
    """The pose that puts a thing where it stands now."""
    state = pose.state if pose is not None else "set up"
    x, y = thing.x, thing.y
    if state == "folded" and drawn.folded_depth is not None:
        dx, dy = _back(replace(drawn, angle=thing.angle), drawn.folded_depth)
        x, y = x - dx, y - dy
    z = thing.z if state == "hung" else HUNG_AT
    return Pose(thing=thing.id, x=x, y=y, angle=thing.angle, state=state, z=z)


def _switched(
    ids: tuple[str, ...], before: Sequence[Opening | Fixture], after: Sequence[Opening | Fixture], field: str
) -> tuple[str, ...]:
    """The ids with those added that were switched on and those taken out that were switched off."""
    then = {item.id: getattr(item, field) for item in before}
    found = list(ids)
    for item in after:
        now = getattr(item, field)
        if item.id in then and then[item.id] != now:
            found = [one for one in found if one != item.id] + ([item.id] if now else [])
    return tuple(found)


def _merged(base: Any, before: Any, after: Any) -> Any:
    """`base` with what changed from `before` to `after`: field by field, and item by item where items have
    ids.
    """
    if after is before or after == before:
        return base
    if is_dataclass(after) and type(after) is type(before) is type(base):
        changes = {
            field.name: _merged(
                getattr(base, field.name), getattr(before, field.name), getattr(after, field.name)
            )
            for field in fields(after)
        }
        return replace(base, **changes)  # type: ignore[type-var]
    if isinstance(after, tuple) and all(isinstance(one, str) for one in (*base, *before, *after)):
        hidden = [one for one in base if one not in before]  # ids of what is not there in the scene
        return (*after, *(one for one in hidden if one not in after))
    if isinstance(after, tuple) and _have_ids(base) and _have_ids(before) and _have_ids(after):
        return _merged_items(_by_id(base), _by_id(before), after)
    return after


def _have_ids(items: object) -> bool:
    return isinstance(items, tuple) and all(hasattr(item, "id") for item in items)


def _by_id(items: tuple[Any, ...]) -> dict[str, Any]:
    return {item.id: item for item in items}


def _merged_items(
    base: Mapping[str, Any], before: Mapping[str, Any], after: tuple[Any, ...]
) -> tuple[Any, ...]:
    """Items in the order that they have now; those that the scene hid stay behind what they stood behind."""
    merged = [
        _merged(base[item.id], before[item.id], item) if item.id in base and item.id in before else item
        for item in after
    ]
    ids = list(base)
    for number, item_id in enumerate(ids):
        if item_id not in before:
            there = [item.id for item in merged]
            behind = next((one for one in reversed(ids[:number]) if one in there), None)
            merged.insert(0 if behind is None else there.index(behind) + 1, base[item_id])
    return tuple(merged)


def moved_everywhere(before: Shop, after: Shop) -> list[Thing]:
    """What an edit moved that cannot be moved from scene to scene."""
    then = {thing.id: thing for thing in before.things}
    return [
        thing for thing in after.things if not thing.is_movable and _pose_changed(thing, then.get(thing.id))
    ]
