"""Measuring on the plan: how far it is from point to point, with the legs across and up."""

from __future__ import annotations

from math import atan2, degrees, hypot

from purvel.app.plan.sheet import Sheet
from purvel.quantities import format_length
from purvel.quantities.systems import System
from purvel.space.traverse import Point

_NEAR = 8.0  # px: a corner this near is taken


class Measuring:
    """A tape that is laid from point to point while it is on; corners near the hand are taken."""

    def __init__(self) -> None:
        self.on = False
        self.points: list[Point] = []

    def switch(self) -> None:
        """On, or off with what was measured."""
        self.on = not self.on
        self.points = []

    def press(self, x: float, y: float, corners: list[Point], scale: float) -> None:
        """A point more; a third begins anew."""
        if len(self.points) == 2:
            self.points = []
        self.points.append(taken(x, y, corners, _NEAR / scale))

    def draw(self, sheet: Sheet, pointer: Point | None, system: System) -> None:
        """What is measured, or being measured up to the hand."""
        ends = self.points if len(self.points) == 2 or pointer is None else [*self.points, pointer]
        if not self.on or len(ends) < 2 or ends[0] == ends[1]:
            return
        sheet.dimension(ends[0], ends[1], told(ends[0], ends[1], system), sheet.palette.accent)


def taken(x: float, y: float, corners: list[Point], reach: float) -> Point:
    """The corner nearest to a point, if one is within reach; else the point."""
    near = min(corners, key=lambda corner: hypot(corner[0] - x, corner[1] - y), default=None)
    return near if near is not None and hypot(near[0] - x, near[1] - y) <= reach else (x, y)


def told(a: Point, b: Point, system: System) -> str:
    """How far it is, across and up, and in which direction."""
    dx, dy = b[0] - a[0], b[1] - a[1]
    far = format_length(hypot(dx, dy), system)
    legs = f"{format_length(abs(dx), system)} across, {format_length(abs(dy), system)} up"
    return f"{far}  ({legs}, {degrees(atan2(dy, dx)) % 360:.1f}°)"
