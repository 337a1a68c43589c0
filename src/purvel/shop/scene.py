"""Scenes: other states of the same shop.

In a scene movable things stand elsewhere, doors are open, the car is in.
"""

from dataclasses import dataclass
from typing import Annotated, Literal

from msgspec import Meta

from purvel.shop.fields import Coordinate, Degrees, Id, Length, Name

State = Literal["set up", "stowed", "folded", "hung", "put away"]
"""How a movable thing is in a scene: set up for work at its place, standing there without being worked at,
folded against its back, hung up, or not there.
"""


HUNG_AT = 1.5  # m above the floor, where nothing else is said


@dataclass(frozen=True, slots=True, kw_only=True)
class Pose:
    """Where one movable thing stands in a scene: the middle of its unfolded footprint, and how it is there;
    hung up, its base is `z` above the floor.
    """

    thing: Id
    x: Coordinate = 0.0
    y: Coordinate = 0.0
    angle: Degrees = 0.0
    state: State = "set up"
    z: Length = HUNG_AT


@dataclass(frozen=True, slots=True, kw_only=True)
class Scene:
    """A named state of the shop. What has no pose in it stands as drawn.

    `opened` are the openings that stand open, all others are shut; `parked` the parking bays that a car
    stands in. While it is `asleep` nobody works: nothing is fed, and no room to stand is asked for.
    """

    id: Id
    name: Name = ""
    poses: Annotated[tuple[Pose, ...], Meta(max_length=500)] = ()
    opened: Annotated[tuple[Id, ...], Meta(max_length=200)] = ()
    parked: Annotated[tuple[Id, ...], Meta(max_length=50)] = ()
    asleep: bool = False
