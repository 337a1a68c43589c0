"""What is drawn over the course of a log: marked stretches, events, the simulated day."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PySide6.QtCore import Qt

from purvel.app.stages.air.day_key import shade
from purvel.app.theme import Palette, Theme
from purvel.app.widgets.charts import words
from purvel.review.air.played import Course
from purvel.shop.air import LogEvent, LogStretch


def tone(palette: Palette, shows: str) -> tuple[str, Qt.BrushStyle]:
    """Colour and pattern of a stretch by what it shows."""
    return {
        "background": (palette.pencil, Qt.BrushStyle.Dense6Pattern),
        "work": (palette.wood_edge, Qt.BrushStyle.SolidPattern),
        "decay": (palette.air_mid, Qt.BrushStyle.BDiagPattern),
        "zero": (palette.pencil, Qt.BrushStyle.HorPattern),
        "source": (palette.air_coarse, Qt.BrushStyle.Dense5Pattern),
    }[shows]


def draw_band(plot: Any, theme: Theme, one: LogStretch, is_picked: bool) -> Any:
    """A stretch as a band, which the picked one's ends can be taken hold of."""
    import pyqtgraph as pg

    colour, pattern = tone(theme.palette, one.shows)
    edge = pg.mkPen(theme.palette.accent if is_picked else colour, width=3 if is_picked else 1)
    band = pg.LinearRegionItem(
        (one.start / 60, one.end / 60),
        movable=is_picked,
        brush=pg.mkBrush(shade(colour, pattern, 60)),
        pen=edge,
    )
    band.setZValue(5 if is_picked else -10)
    plot.addItem(band)
    return band


def draw_events(plot: Any, theme: Theme, events: Sequence[LogEvent], top: float) -> None:
    """What was noted, as lines; with their words where the chart goes up to `top`."""
    import pyqtgraph as pg

    for number, event in enumerate(events):
        pen = pg.mkPen(theme.palette.accent, width=1.5, style=Qt.PenStyle.DashLine)
        plot.addItem(pg.InfiniteLine(event.at / 60, pen=pen))
        if top > 0:
            label = words(event.name or "event", theme.palette.accent, theme, (0.0, 1.0))
            label.setPos(event.at / 60, top * (0.12 + 0.1 * (number % 3)))
            plot.addItem(label)


def draw_course(plot: Any, theme: Theme, course: Course, end: float) -> None:
    """The simulated day where it lies in a log that ends at `end` [s]."""
    import pyqtgraph as pg

    clock, expected, place = course
    pen = pg.mkPen(theme.palette.air_mid, width=2.5, style=Qt.PenStyle.DashLine)
    inside = (clock + place.at >= 0) & (clock + place.at <= end)
    plot.plot((clock[inside] + place.at) / 60.0, place.level + place.times * expected[inside], pen=pen)
