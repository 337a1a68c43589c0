"""Scenes and attachments, as parts."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from purvel.shop.attachment import Attachment
from purvel.shop.part import Part, Ref
from purvel.shop.scene import Scene


def _without_pose(scene: Scene, thing: str) -> Scene:
    return replace(scene, poses=tuple(pose for pose in scene.poses if pose.thing != thing))


def _without(field: str) -> Callable[[Scene, str], Scene]:
    """A scene without an id in one of its fields."""

    def drop(scene: Scene, gone: str) -> Scene:
        left: Any = tuple(one for one in getattr(scene, field) if one != gone)
        return replace(scene, **{field: left})

    return drop


SCENES = Part(
    "scene",
    Scene,
    lambda shop: shop.scenes,
    lambda shop, scenes: replace(shop, scenes=scenes),
    refs=(
        Ref("thing", lambda scene: tuple(pose.thing for pose in scene.poses), _without_pose, "poses a thing"),
        Ref("opening", lambda scene: scene.opened, _without("opened"), "opens a door or window"),
        Ref(
            "fixture",
            lambda scene: scene.parked,
            _without("parked"),
            "parks a car in a bay",
            lambda fixture: fixture.acts == "bay",
        ),
    ),
    unique=True,
)


ATTACHMENTS = Part(
    "attachment",
    Attachment,
    lambda shop: shop.attachments,
    lambda shop, attachments: replace(shop, attachments=attachments),
    pickable=False,
    unique=True,
)
