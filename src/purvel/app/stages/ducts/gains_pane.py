"""What one change would bring at the hood that is walked: a bar for each, that which brings most first."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt

from purvel.airflow.flows import GateSetFlow, HoodFlow, NetworkResult
from purvel.app.plan.sheet import Sheet
from purvel.app.theme import Theme
from purvel.app.widgets.picture import Picture
from purvel.review import Answers, Figures
from purvel.review.ducts.gains import Gain, gains
from purvel.shop.parts import name_of

RIGHT = int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
LEFT = int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)


class GainsPane(Picture):
    """Solved when it is seen."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self._solve: Callable[[], list[Gain]] | None = None
        self._found: list[Gain] = []
        self._say = Figures("metric")
        self.heading = ""
        self.setAccessibleName("What would bring more air")

    def show_hood(
        self,
        answers: Answers,
        network: NetworkResult | None,
        flows: GateSetFlow | None,
        hood: HoodFlow | None,
    ) -> None:
        """Shows changes for another hood."""
        self._found, self._solve, self.heading = [], None, ""
        self._say = say = Figures(answers.shop.units)
        if network is not None and flows is not None and hood is not None:
            self.heading = (
                f"{name_of(answers.shop, hood.thing)}: {say.flow(hood.flow)}; it would get more with"
            )
            self._solve = lambda: gains(answers, network, flows.id, hood, say)
        self.update()

    def found(self) -> list[Gain]:
        """What is shown; solved the first time that it is asked for."""
        if self._solve is not None:
            self._found, self._solve = self._solve(), None
        return self._found

    def draw(self, sheet: Sheet) -> None:
        rows = self.found()
        if not rows:
            self.say_nothing_yet(
                sheet, "What would bring more air at a hood appears here once a run leads from it."
            )
            return
        sheet.heading((self.heading,), sheet.palette.ink, self.width())
        palette, painter, pixels = sheet.palette, sheet.painter, sheet.pixels
        most = max(1, int((self.height() - pixels * 2.4) / (pixels * 1.5)))
        rows = rows[:most]
        left = min(max(sheet.measure(one.change, 0.85) for one in rows) + 16, self.width() * 0.62)
        figure = max(sheet.measure(self._word(one), 0.85) for one in rows) + 10
        scale = max(self.width() - left - figure - 16, 10.0) / max(max(abs(one.flow) for one in rows), 1e-9)
        high, y = pixels * 1.5, pixels * 2.0
        for one in rows:
            painter.setPen(sheet.pen(palette.wood_edge, 1))
            painter.setBrush(sheet.brush(palette.good if one.flow > 0 else palette.wood))
            painter.drawRect(QRectF(left, y + high * 0.2, max(abs(one.flow) * scale, 1.5), high * 0.6))
            painter.setFont(sheet.font(0.85))
            painter.setPen(sheet.pen(palette.ink))
            painter.drawText(
                QRectF(6, y, left - 12, high), RIGHT, sheet.shortened(one.change, left - 12, 0.85)
            )
            at = QRectF(left + abs(one.flow) * scale + 6, y, figure + 20, high)
            painter.drawText(at, LEFT, self._word(one))
            y += high
        painter.setPen(sheet.pen(palette.rule, 1))
        painter.drawLine(QPointF(left, pixels * 2.0 - 2), QPointF(left, y))

    def _word(self, one: Gain) -> str:
        return f"{'+' if one.flow >= 0 else '−'}{self._say.flow(abs(one.flow))}"
