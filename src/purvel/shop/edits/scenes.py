"""Edits of scenes: a new one, a copy, how a thing is in one."""

from dataclasses import replace

from purvel.shop.edits.parts import fresh_id, put
from purvel.shop.scene import Pose, Scene, State
from purvel.shop.scenes import scene_of
from purvel.shop.shop import Shop


def new_scene(shop: Shop, name: str) -> tuple[Shop, str]:
    """The shop with a scene more that is as drawn, and the scene's id."""
    opened = tuple(opening.id for opening in shop.room.openings if opening.is_open)
    parked = tuple(fixture.id for fixture in shop.room.fixtures if fixture.taken)
    scene = Scene(id=fresh_id(shop, "scene"), name=name, opened=opened, parked=parked)
    return put(shop, scene), scene.id


def copy_scene(shop: Shop, scene_id: str, name: str) -> tuple[Shop, str]:
    """The shop with a copy of a scene, and the copy's id."""
    scene = scene_of(shop, scene_id)
    if scene is None:
        return new_scene(shop, name)
    copy = replace(scene, id=fresh_id(shop, "scene"), name=name)
    return put(shop, copy), copy.id


def set_state(shop: Shop, scene_id: str, thing_id: str, state: State) -> Shop:
    """How a movable thing is in a scene, at the place that it has there."""
    scene, thing = scene_of(shop, scene_id), shop.thing(thing_id)
    pose = next((one for one in scene.poses if one.thing == thing_id), None) if scene else None
    if scene is None or (pose is None and thing is None):
        return shop
    if pose is None:
        assert thing is not None
        pose = Pose(thing=thing_id, x=thing.x, y=thing.y, angle=thing.angle)
    others = tuple(one for one in scene.poses if one.thing != thing_id)
    return put(shop, replace(scene, poses=(*others, replace(pose, state=state))))
