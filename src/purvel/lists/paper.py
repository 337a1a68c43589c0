"""Paper: scales, the sheets that a plan takes, and how cut-outs lie on them."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import ceil
from typing import Literal

from purvel.quantities.systems import System
from purvel.shop import Thing
from purvel.space.ground import footprint, standing_zone

Paper = Literal["A4", "Letter"]
OVERLAP = 0.010  # m on paper that neighbouring tiles share
SCALES: dict[System, tuple[tuple[float, str], ...]] = {
    "metric": tuple((ratio, f"1:{ratio:g}") for ratio in (5.0, 10.0, 20.0, 25.0, 50.0, 100.0, 200.0, 500.0)),
    "imperial": (
        (8.0, "1 1/2 in to the foot"),
        (12.0, "1 in to the foot"),
        (24.0, "1/2 in to the foot"),
        (48.0, "1/4 in to the foot"),
        (96.0, "1/8 in to the foot"),
        (192.0, "1/16 in to the foot"),
        (480.0, "1 in to 40 ft"),
    ),
}
"""Scales that a rule has, the largest first, and what they are called."""

USUAL: dict[System, float] = {"metric": 20.0, "imperial": 24.0}
"""How many times smaller than life a drawing is where nobody asks for another scale."""


class ScaleError(Exception):
    """A scale at which nothing can be printed. The message is one plain sentence."""


@dataclass(frozen=True, slots=True)
class OnPaper:
    """The paper, and how many times smaller than life."""

    paper: Paper
    ratio: float

    def name(self, system: System) -> str:
        """What the scale is called."""
        return next((name for ratio, name in SCALES[system] if ratio == self.ratio), f"1:{self.ratio:g}")


def on_paper(stem: str, system: System) -> OnPaper:
    """Paper and scale as a file's name asks for them (“tiles-letter-1to10”); else A4 and 1:20, or Letter and
    half an inch to the foot.

    Raises ScaleError for a scale of less than 1:2 or more than 1:200.
    """
    low = stem.lower()
    paper: Paper = "Letter" if "letter" in low or (system == "imperial" and "a4" not in low) else "A4"
    asked = re.search(r"(?<!\d)1(?:to|:)(\d+(?:\.\d+)?)", low)
    ratio = float(asked.group(1)) if asked else USUAL[system]
    if not 2.0 <= ratio <= 200.0:
        raise ScaleError(f"1:{ratio:g} is no scale for paper: ask for one from 1:2 to 1:200.")
    return OnPaper(paper, ratio)


@dataclass(frozen=True, slots=True)
class Tile:
    """One sheet of several: its name (rows by letters), and the plan point [m] of its upper left corner."""

    name: str
    left: float
    top: float


def tiles(bounds: tuple[float, float, float, float], ratio: float, width: float, height: float) -> list[Tile]:
    """The sheets that a plan takes, row by row from its upper left corner: `width` by `height` [m] of paper
    each, of which a strip of `OVERLAP` lies on the next.
    """
    x0, y0, x1, y1 = bounds
    wide, high = ((size - OVERLAP) * ratio for size in (width, height))
    across, down = max(1, ceil((x1 - x0) / wide)), max(1, ceil((y1 - y0) / high))
    shared = OVERLAP * ratio / 2
    return [
        Tile(
            f"{chr(ord('A') + row % 26)}{column + 1}",
            x0 + column * wide - shared,
            y1 - row * high + shared,
        )
        for row in range(down)
        for column in range(across)
    ]


def laid_out(things: tuple[Thing, ...], room: tuple[float, float], gap: float) -> Iterator[list[Thing]]:
    """The things side by side in rows, the deepest first, page by page, y down from 0 [m]."""
    page, x, y, deep = list[Thing](), 0.0, 0.0, 0.0
    for thing in sorted(
        (replace(one, angle=0.0, x=0.0, y=0.0) for one in things), key=lambda one: -box_of(one)[3]
    ):
        left, top, wide, high = box_of(thing)
        if wide > room[0] and high <= room[0] and wide <= room[1]:
            thing = replace(thing, angle=90.0)
            left, top, wide, high = box_of(thing)
        if wide > room[0] or high > room[1]:
            raise ScaleError(
                f"{thing.name or thing.id} is larger than the paper at this scale: ask for a smaller one."
            )
        if x + wide > room[0]:
            x, y, deep = 0.0, y + deep + gap, 0.0
        if y + high > room[1] and page:
            yield page
            page, x, y, deep = [], 0.0, 0.0, 0.0
        page.append(replace(thing, x=x - left, y=-y - top))
        x, deep = x + wide + gap, max(deep, high)
    if page:
        yield page


def box_of(thing: Thing) -> tuple[float, float, float, float]:
    """Left and top of a thing with its standing room, against its own middle, width and height [m]."""
    corners = [*footprint(thing).tolist()]
    zone = standing_zone(thing)
    corners += [] if zone is None else zone.tolist()
    xs, ys = [x - thing.x for x, _ in corners], [y - thing.y for _, y in corners]
    return min(xs), max(ys), max(xs) - min(xs), max(ys) - min(ys)
