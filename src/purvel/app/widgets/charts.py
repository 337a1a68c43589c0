"""Charts in the look of the drawing board."""

from typing import Any

from PySide6.QtGui import QColor

from purvel.app.plan.sheet import letters
from purvel.app.theme import Theme


def chart_letters(pixels: int) -> int:
    """The size of letters in charts [px]."""
    return max(11, round(pixels * 0.8))


def make_plot() -> Any:
    """An empty chart without menus; the wheel scrolls the window, not the axes."""
    import pyqtgraph as pg

    pg.setConfigOptions(antialias=True)
    plot = pg.PlotWidget()
    plot.setMenuEnabled(False)
    plot.hideButtons()
    plot.setMouseEnabled(x=False, y=False)
    return plot


def dress_plot(plot: Any, theme: Theme, bottom: str, left: str) -> None:
    """Colours, lettering and axis words."""
    palette, pixels = theme.palette, theme.pixels
    plot.setBackground(palette.sheet)
    font = letters(chart_letters(pixels))
    for side, text in (("bottom", bottom), ("left", left)):
        axis = plot.getAxis(side)
        axis.enableAutoSIPrefix(False)
        axis.setPen(palette.pencil)
        axis.setTextPen(palette.ink)
        axis.setTickFont(font)
        axis.setStyle(hideOverlappingLabels=True)
        axis.setLabel(text, **{"color": palette.ink, "font-size": f"{max(11, round(pixels * 0.85))}px"})
    plot.showGrid(x=True, y=True, alpha=0.15)


def words(text: str, colour: str, theme: Theme, anchor: tuple[float, float] = (0.0, 0.0)) -> Any:
    """Lettering in a chart, on a plate of paper."""
    import pyqtgraph as pg

    item = pg.TextItem(text, color=colour, anchor=anchor, fill=pg.mkBrush(QColor(theme.palette.sheet)))
    item.setFont(letters(chart_letters(theme.pixels)))
    return item
