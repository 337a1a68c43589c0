"""A page of the binder that a stage draws."""

from collections.abc import Callable
from dataclasses import dataclass

from purvel.app.plan.sheet import Sheet
from purvel.review import Answers


@dataclass(frozen=True, slots=True)
class Page:
    """A drawing: whether there is anything to draw, the line above it, how it is drawn, and from where to
    where it reaches (left, bottom, right, top [m]; None: the room's plan).
    """

    wanted: Callable[[Answers], bool]
    headline: Callable[[Answers], str]
    draw: Callable[[Sheet, Answers], None]
    bounds: Callable[[Answers], tuple[float, float, float, float]] | None = None
    is_plan: bool = False  # whether it may stand for the plan in a drawing of its own
    has_scale: bool = True  # of lengths: a chart has none, and is as large as there is room
