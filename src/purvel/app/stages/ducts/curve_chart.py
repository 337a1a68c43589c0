"""The source's curve and the working points of the gate sets. pyqtgraph is loaded when the chart is first
shown.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QResizeEvent, QShowEvent
from PySide6.QtWidgets import QVBoxLayout, QWidget

from purvel.airflow.flows import GateSetFlow, NetworkResult
from purvel.app.plan.pens import letters, shortened, text_size
from purvel.app.theme import Theme
from purvel.app.widgets.charts import ChartItems, chart_letters, make_plot
from purvel.libraries import np
from purvel.quantities import Units, convert, units_for
from purvel.review import Answers
from purvel.review.ducts.answers import DuctAnswers

SYMBOLS = ("o", "s", "t", "d", "+", "x", "star", "p")


class CurveChart(QWidget):
    """Pressure over flow, all of one review; grey while a newer one is under way."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.plot: Any = None
        self.network: NetworkResult | None = None
        self.answers: Answers | None = None
        self.chosen: GateSetFlow | None = None
        self.called = ""
        self.units = units_for("imperial")
        self.is_stale = False
        self._shown: tuple[object, ...] = ()  # what the chart shows, and the network that it is of
        self._of: NetworkResult | None = None
        self._drawn: Any = None
        self.setAccessibleName("Curve and working points")
        self.box = QVBoxLayout(self)
        self.box.setContentsMargins(0, 0, 4, 0)

    def show_points(
        self, answers: Answers, network: NetworkResult | None, chosen: GateSetFlow | None, *, is_stale: bool
    ) -> None:
        """Shows a system's curve with the chosen working point marked by its name."""
        self.network, self.chosen, self.is_stale = network, chosen, is_stale
        self.answers = answers
        self.called = "" if chosen is None else answers.of(DuctAnswers).choice_name(chosen.id)
        self.units = units_for(answers.shop.units)
        self._redraw()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._redraw()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._redraw()  # the name finds its place anew

    def _redraw(self) -> None:
        """Draws what it does not show yet, if it is seen."""
        shown = (
            (self.called, self.units.system, self.is_stale),
            (self.theme.pixels, self.theme.palette, self.width()),
        )
        if not self.isVisible() or (shown == self._shown and self.network is self._of):
            return
        self._shown, self._of = shown, self.network
        if self.network is None:
            if self.plot is not None:
                self.plot.hide()
            return
        if self.plot is None:
            self.plot = make_plot()
            self._drawn = ChartItems(self.plot)
            self.box.addWidget(self.plot)
        units = self.units
        self._drawn.begin(self.theme, f"flow, {units.flow.label}", f"pressure, {units.pressure.label}")
        self.plot.show()
        widest, highest = self._draw_curve(self.network, units)
        self._draw_sets(self.network, units)
        if self.chosen is not None:
            self._name_chosen(self.chosen, units, widest, highest)
        self._drawn.end()
        self.plot.setYRange(0, highest, padding=0)
        self.plot.setXRange(0, widest, padding=0)

    def _draw_curve(self, network: NetworkResult, units: Units) -> tuple[float, float]:
        """The curve, dashed about it the band that is known of it; returns how far the axes go."""
        import pyqtgraph as pg

        from purvel.airflow.sources import Scale, SourceCurve, band_of

        source = network.layout.source
        curve, widest, highest = SourceCurve(source), 0.0, 0.0
        ink = self.theme.palette.pencil if self.is_stale else self.theme.palette.ink
        ends = {**dict(zip(("least", "most"), band_of(source) or ())), "curve": Scale()}
        for name, end in ends.items():
            flow = np.linspace(0.0, curve.free_flow * end.flow, 80)
            pressure, _ = curve.total_pressure(flow, np.array(network.air.density), (end.pressure, end.flow))
            x = flow * convert(1.0, units.flow)
            y = np.maximum(pressure, 0.0) * convert(1.0, units.pressure)
            is_central = name == "curve"
            style = Qt.PenStyle.SolidLine if is_central else Qt.PenStyle.DashLine
            self._drawn.line(name, x, y, pen=pg.mkPen(ink, width=2 if is_central else 1, style=style))
            widest, highest = max(widest, float(x.max())), max(highest, float(y.max()))
        return 1.02 * widest, 1.15 * highest

    def _loaded(self, network: NetworkResult) -> list[tuple[float, float]]:
        """Where the choices work with the filter clogged: flow and pressure; none without a filter."""
        if self.answers is None or all(source.filter is None for _, source in network.layout.sources):
            return []
        clogged = self.answers.of(DuctAnswers).at_filter(network, "clogged")
        return [(one.flow, one.source_pressure) for one in clogged.sets if one.converged]

    def _draw_sets(self, network: NetworkResult, units: Units) -> None:
        import pyqtgraph as pg

        palette = self.theme.palette
        loaded = [] if self.is_stale else self._loaded(network)
        if loaded:
            self._drawn.letter("× filter clogged", palette.pencil, 0.0, 0.0, (0.0, 1.0))
        cross: dict[str, Any] = {
            "symbol": "x",
            "symbolSize": 6,
            "symbolBrush": None,
            "symbolPen": palette.pencil,
        }
        self._drawn.line("clogged", *_points(loaded, units), pen=None, **cross)
        symbols = {flows.id: SYMBOLS[index % len(SYMBOLS)] for index, flows in enumerate(network.sets)}
        chosen = [flows for flows in network.sets if self.chosen is not None and flows.id == self.chosen.id]
        for name, sets, size, fill in (
            ("choices", [flows for flows in network.sets if flows not in chosen], 9, palette.sheet),
            ("chosen", chosen, 14, palette.accent),
        ):
            self._drawn.line(
                name,
                *_points([(flows.flow, flows.source_pressure) for flows in sets], units),
                pen=None,
                symbol=[symbols[flows.id] for flows in sets] or "o",
                symbolSize=size,
                symbolBrush=pg.mkBrush(fill),
                symbolPen=palette.ink,
            )

    def _name_chosen(self, chosen: GateSetFlow, units: Units, widest: float, highest: float) -> None:
        spot = (convert(chosen.flow, units.flow), convert(chosen.source_pressure, units.pressure))
        anchor = self._anchor(self.called, spot[0] / widest)
        name = self.called
        if anchor is None:
            name = shortened(name, letters(chart_letters(self.theme.pixels)), self._room() - 12)
        x, y = spot if anchor else (widest, highest)
        self._drawn.letter(name, self.theme.palette.accent, x, y, anchor or (1.0, 0.0))

    def _anchor(self, name: str, share: float) -> tuple[float, float] | None:
        """Where a name hangs on its point: under the curve to the left, above it to the right; None where
        neither side has room for it.
        """
        wide = text_size(name, chart_letters(self.theme.pixels))[0] + 12
        if wide < share * self._room():
            return 1.06, -0.2
        if wide < (1 - share) * self._room():
            return -0.06, 1.2
        return None

    def _room(self) -> float:
        """The width between the axis and the right end [px]."""
        return max(60.0, self.width() - 4.0 * self.theme.pixels)


def _points(found: Sequence[tuple[float, float]], units: Units) -> tuple[list[float], list[float]]:
    """Flows and pressures as they are shown."""
    x = [convert(flow, units.flow) for flow, _ in found]
    return x, [convert(pressure, units.pressure) for _, pressure in found]
