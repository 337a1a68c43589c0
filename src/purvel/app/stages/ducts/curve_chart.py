"""The source's curve and the working points of the gate sets. pyqtgraph is loaded when the chart is first
shown.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QVBoxLayout, QWidget

from purvel.app.plan.sheet import letters, shortened, text_size
from purvel.app.theme import LIGHT, Look
from purvel.app.widgets.charts import chart_letters, dress_plot, make_plot, words
from purvel.libraries import np
from purvel.quantities import convert, units_for

if TYPE_CHECKING:
    from purvel.app.stages.ducts.instrument import DuctInstrument

SYMBOLS = ("o", "s", "t", "d", "+", "x", "star", "p")


class CurveChart(QWidget):
    """Pressure over flow."""

    def __init__(self, instrument: DuctInstrument) -> None:
        super().__init__()
        self.instrument = instrument
        self.look: Look = LIGHT
        self.pixels = 15
        self.plot: Any = None
        self.setAccessibleName("Curve and working points")
        self.box = QVBoxLayout(self)
        self.box.setContentsMargins(0, 0, 4, 0)

    def dress(self, look: Look, pixels: int) -> None:
        """Takes on a theme and a text size."""
        self.look, self.pixels = look, pixels

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.refresh()

    def resizeEvent(self, event: object) -> None:
        self.refresh()  # the name finds its place anew

    def refresh(self) -> None:
        """Draws the latest review."""
        if not self.isVisible():
            return
        network = self.instrument.network
        if network is None:
            if self.plot is not None:
                self.plot.hide()
            return
        if self.plot is None:
            self.plot = make_plot()
            self.box.addWidget(self.plot)
        self.plot.clear()
        units = units_for(self.instrument.desk.shown.units)
        dress_plot(
            self.plot,
            self.look,
            self.pixels,
            f"flow, {units.flow.label}",
            f"pressure, {units.pressure.label}",
        )
        self.plot.show()
        import pyqtgraph as pg

        from purvel.airflow.sources import SourceCurve

        curve = SourceCurve(network.layout.source)
        flow = np.linspace(0.0, curve.free_flow, 80)
        pressure, _ = curve.total_pressure(flow, np.array(network.air.density))
        x = [convert(float(q), units.flow) for q in flow]
        y = [max(0.0, convert(float(p), units.pressure)) for p in pressure]
        self.plot.plot(x, y, pen=pg.mkPen(self.look.ink, width=2))
        chosen = self.instrument.flow()
        for index, one in enumerate(network.sets):
            is_chosen = chosen is not None and one.id == chosen.id
            at = ([convert(one.flow, units.flow)], [convert(one.source_pressure, units.pressure)])
            brush = pg.mkBrush(self.look.accent if is_chosen else self.look.sheet)
            self.plot.plot(
                *at,
                pen=None,
                symbol=SYMBOLS[index % len(SYMBOLS)],
                symbolSize=14 if is_chosen else 9,
                symbolBrush=brush,
                symbolPen=self.look.ink,
            )
        widest, highest = 1.02 * max(x), 1.15 * max(y)
        if chosen is not None:
            spot = (convert(chosen.flow, units.flow), convert(chosen.source_pressure, units.pressure))
            called = self.instrument.name_of(chosen)
            anchor = self._anchor(called, spot[0] / widest)
            name = (
                called
                if anchor
                else shortened(called, letters(chart_letters(self.pixels)), self._room() - 12)
            )
            label = words(name, self.look.accent, self.look, self.pixels, anchor or (1.0, 0.0))
            label.setPos(*(spot if anchor else (widest, highest)))
            self.plot.addItem(label)
        self.plot.setYRange(0, highest, padding=0)
        self.plot.setXRange(0, widest, padding=0)

    def _anchor(self, name: str, share: float) -> tuple[float, float] | None:
        """Where a name hangs on its point: under the curve to the left, above it to the right; None where
        neither side has room for it.
        """
        wide = text_size(name, chart_letters(self.pixels))[0] + 12
        if wide < share * self._room():
            return 1.06, -0.2
        if wide < (1 - share) * self._room():
            return -0.06, 1.2
        return None

    def _room(self) -> float:
        """The width between the axis and the right end [px]."""
        return max(60.0, self.width() - 4.0 * self.pixels)
