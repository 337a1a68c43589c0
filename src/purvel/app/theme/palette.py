"""The colours of the drawing board, on light and on dark paper.

Text contrast is at least 4.5:1, lines that carry meaning at least 3:1 (tested).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

if TYPE_CHECKING:  # the frame is painted in these colours before findings are loaded
    from purvel.review.finding import Grade


@dataclass(frozen=True, slots=True)
class Palette:
    """The colours of one paper, as #rrggbb. `name` is light or dark."""

    name: str
    backdrop: str
    paper: str
    sheet: str
    rule: str
    ink: str
    pencil: str
    wall: str
    wood: str
    wood_edge: str
    storage: str
    metal: str
    accent: str
    accent_text: str
    good: str
    watch: str
    mend: str
    stop: str
    air_fine: str
    air_mid: str
    air_coarse: str

    def grade(self, grade: Grade) -> str:
        """The colour of a grade, which are in this order; its word and shape go with it."""
        return (self.stop, self.mend, self.watch, self.good)[grade]


LIGHT = Palette(
    name="light",
    backdrop="#e9e2d3",
    paper="#f8f4ea",
    sheet="#fffdf7",
    rule="#d8cfbb",
    ink="#262421",
    pencil="#625d53",
    wall="#3a3733",
    wood="#ecd6ab",
    wood_edge="#7d5a26",
    storage="#dccbb0",
    metal="#cfd3d2",
    accent="#9a3d12",
    accent_text="#ffffff",
    good="#1f6b4f",
    watch="#5a5f1f",
    mend="#995200",
    stop="#a3161b",
    air_fine="#4b4a8f",
    air_mid="#2c6f86",
    air_coarse="#8a6a3b",
)
DARK = Palette(
    name="dark",
    backdrop="#191816",
    paper="#23211e",
    sheet="#2b2925",
    rule="#46423b",
    ink="#f1ece1",
    pencil="#b8b0a1",
    wall="#d8d0c0",
    wood="#5d4a2c",
    wood_edge="#d9b77c",
    storage="#4a4234",
    metal="#4a5050",
    accent="#f0935f",
    accent_text="#1d1206",
    good="#6fd0a5",
    watch="#cbd06a",
    mend="#f2ab4c",
    stop="#ff8b83",
    air_fine="#a9a8f0",
    air_mid="#7cc7df",
    air_coarse="#d9b77c",
)
