"""Charts in the look of the drawing board."""

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QBrush, QColor, QPen
from PySide6.QtWidgets import QGraphicsPolygonItem

from purvel.app.plan.pens import letters
from purvel.app.theme import Theme
from purvel.libraries import Array, np


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


class Drawn:
    """What is drawn in a chart. Lines and areas have names and take new figures, for to make one takes long;
    between `begin` and `end` a chart is drawn anew, and what is not drawn then is taken away.
    """

    def __init__(self, plot: Any) -> None:
        self.plot = plot
        self._named: dict[str, Any] = {}
        self._wanted = set[str]()
        self._passing = list[Any]()
        self._dressed: tuple[object, ...] = ()

    def begin(self, theme: Theme, bottom: str, left: str) -> None:
        """Begins a drawing with these words at the axes."""
        for item in self._passing:
            self.plot.removeItem(item)
        self._passing.clear()
        self._wanted.clear()
        dressed = (theme.palette, theme.pixels, bottom, left)
        if dressed != self._dressed:
            self._dressed = dressed
            dress_plot(self.plot, theme, bottom, left)

    def line(self, name: str, x: Any, y: Any, **look: Any) -> None:
        """A line, or points without one."""
        if name not in self._named:
            self._named[name] = self.plot.plot(name=name)
        self._wanted.add(name)
        self._named[name].setData(x, y, **look)

    def area(self, name: str, x: Array, low: Array, high: Array, brush: QBrush) -> None:
        """What lies between two lines, under all that is drawn as a line."""
        from pyqtgraph.functions import arrayToQPolygonF

        if name not in self._named:
            self._named[name] = made = QGraphicsPolygonItem()
            made.setPen(QPen(Qt.PenStyle.NoPen))
            made.setZValue(-5)
            self.plot.addItem(made)
        self._wanted.add(name)
        corners = arrayToQPolygonF(np.append(x, x[::-1]), np.append(low, high[::-1]))
        self._named[name].setPolygon(corners)
        self._named[name].setBrush(brush)

    def add(self, item: Any) -> None:
        """Something that is made anew each time."""
        self.plot.addItem(item)
        self._passing.append(item)

    def end(self) -> None:
        """Takes away what was not drawn this time."""
        for name in self._named.keys() - self._wanted:
            self.plot.removeItem(self._named.pop(name))


def words(text: str, colour: str, theme: Theme, anchor: tuple[float, float] = (0.0, 0.0)) -> Any:
    """Lettering in a chart, on a plate of paper."""
    import pyqtgraph as pg

    item = pg.TextItem(text, color=colour, anchor=anchor, fill=pg.mkBrush(QColor(theme.palette.sheet)))
    item.setFont(letters(chart_letters(theme.pixels)))
    return item
