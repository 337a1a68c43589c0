"""A page of the binder that a stage draws."""

from collections.abc import Callable
from dataclasses import dataclass

from purvel.app.plan.sheet import Sheet
from purvel.review import Answers


@dataclass(frozen=True, slots=True)
class Page:
    """A drawing of the plan: whether there is anything to draw, the line above it, and how it is drawn."""

    wanted: Callable[[Answers], bool]
    headline: Callable[[Answers], str]
    draw: Callable[[Sheet, Answers], None]
