"""Charts in the look of the drawing board."""

from collections.abc import Callable
from math import ceil, log10
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
        axis.showLabel(bool(text))
    plot.showGrid(x=True, y=True, alpha=0.15)


def stepped(top: float) -> float:
    """Where an axis ends that is to reach so far: one of twenty steps a decade, at which it stays while what
    it shows moves a little. To draw an axis anew takes long.
    """
    return float(10.0 ** (ceil(20 * log10(top)) / 20))


class ChartItems:
    """What is drawn in a chart. All of it has names and takes new figures, for to make an item takes long;
    between `begin` and `end` a chart is drawn anew, and what is not drawn then is taken away.
    """

    def __init__(self, plot: Any) -> None:
        self.plot = plot
        self._named: dict[object, Any] = {}
        self._lines: dict[object, tuple[Array, dict[str, Any]]] = {}  # as they were drawn last
        self._wanted = set[object]()
        self._theme: Theme | None = None
        self._dressed: tuple[object, ...] = ()

    def begin(self, theme: Theme, bottom: str, left: str) -> None:
        """Begins a drawing with these words at the axes; in another look all is made anew."""
        self._theme = theme
        self._wanted.clear()
        dressed = (theme.palette, theme.pixels, bottom, left)
        if dressed != self._dressed:
            self._dressed = dressed
            self.end()
            dress_plot(self.plot, theme, bottom, left)

    def kept(self, name: object, make: Callable[[], Any]) -> Any:
        """The item of this name, made if it is not there."""
        if name not in self._named:
            self._named[name] = item = make()
            self.plot.addItem(item)
        self._wanted.add(name)
        return self._named[name]

    def line(self, name: str, x: Any, y: Any, **look: Any) -> None:
        """A line, or points without one."""
        import pyqtgraph as pg

        item, before = self.kept(name, lambda: pg.PlotDataItem(name=name)), self._lines.get(name)
        if before is None or before[1] != look or not np.array_equal(before[0], (x, y)):
            item.setData(x, y, **look)
            self._lines[name] = np.array((x, y)), look

    def area(self, name: str, x: Array, low: Array, high: Array, brush: QBrush) -> None:
        """What lies between two lines, under all that is drawn as a line."""
        from pyqtgraph.functions import arrayToQPolygonF

        area = self.kept(("area", name), _area)
        area.setPolygon(arrayToQPolygonF(np.append(x, x[::-1]), np.append(low, high[::-1])))
        area.setBrush(brush)

    def letter(
        self, text: str, colour: str, x: float, y: float, anchor: tuple[float, float] = (0.0, 0.0)
    ) -> None:
        """Words at a place, which the anchor says where they have it."""
        assert self._theme is not None
        theme, number = self._theme, 0
        while (name := ("words", text, colour, anchor, number)) in self._wanted:
            number += 1
        self.kept(name, lambda: words(text, colour, theme, anchor)).setPos(x, y)

    def end(self) -> None:
        """Takes away what was not drawn this time."""
        for name in self._named.keys() - self._wanted:
            self.plot.removeItem(self._named.pop(name))
            self._lines.pop(name, None)


def _area() -> QGraphicsPolygonItem:
    made = QGraphicsPolygonItem()
    made.setPen(QPen(Qt.PenStyle.NoPen))
    made.setZValue(-5)
    return made


def words(text: str, colour: str, theme: Theme, anchor: tuple[float, float] = (0.0, 0.0)) -> Any:
    """Lettering in a chart, on a plate of paper."""
    import pyqtgraph as pg

    item = pg.TextItem(text, color=colour, anchor=anchor, fill=pg.mkBrush(QColor(theme.palette.sheet)))
    item.setFont(letters(chart_letters(theme.pixels)))
    return item
