"""The suction walk drawn: static suction from the room to the source along one hood's way, with what each
piece costs; against another walk where one is chosen.
"""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from purvel.airflow.flows import NetworkResult
from purvel.app.plan.sheet import Sheet
from purvel.app.theme import Theme
from purvel.app.widgets.fields import ChoiceField
from purvel.app.widgets.flow import FlowRow
from purvel.app.widgets.picture import Picture
from purvel.app.widgets.words import set_tip
from purvel.review import Answers, Figures
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.walks import Row, Walk, in_choice, merged, rows
from purvel.shop.parts import name_of

LEFT = int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
RIGHT = int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
_ALONE, _KEPT = "", "kept"


class SuctionWalk(Picture):
    """The walk as bars one after another; the other walk's bars in outline below its own."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.walk: Walk | None = None
        self.other: Walk | None = None
        self.setAccessibleName("Suction walk")

    def show_walk(self, walk: Walk | None, other: Walk | None = None) -> None:
        """Shows another way."""
        self.walk, self.other = walk, other
        self.update()

    def steps(self) -> list[tuple[str, float]]:
        """What is shown, none where there is no way."""
        return [] if self.walk is None else self.walk.steps()

    def draw(self, sheet: Sheet) -> None:
        if self.walk is None:
            self.say_nothing_yet(
                sheet, "The suction walk appears here once a run leads from a machine to a source."
            )
            return
        say = Figures(self.walk.shop.units)
        self._heading(sheet, self.walk, say)
        high = sheet.pixels * (1.25 if self.other is None else 1.7)
        most = max(3, int((self.height() - sheet.pixels * 2.4) / high))
        self._bars(sheet, merged(rows(self.walk, self.other), most), say)

    def _heading(self, sheet: Sheet, walk: Walk, say: Figures) -> None:
        name, shut = name_of(walk.shop, walk.hood.thing), "" if walk.hood.is_open else " (gate shut)"
        figures = f"{say.flow(walk.hood.flow)}, {say.pressure(walk.hood.static_suction)}"
        if self.other is not None:
            against = f"{say.flow(self.other.hood.flow)}, {say.pressure(self.other.hood.static_suction)}"
            ways = (
                f"{name}: {figures}; outlined {against}",
                f"{figures}; outlined {against}",
                f"{figures} | {against}",
            )
        else:
            ways = (f"{name}: {figures} at the hood{shut}", f"{name}: {figures}{shut}", f"{figures}{shut}")
        sheet.heading(ways, sheet.palette.ink, self.width())

    def _bars(self, sheet: Sheet, shown: Sequence[Row], say: Figures) -> None:
        palette, painter, pixels = sheet.palette, sheet.painter, sheet.pixels
        both = self.other is not None
        total = max(
            sum(max(0.0, one.loss or 0.0) for one in shown), sum(max(0.0, one.other or 0.0) for one in shown)
        )
        left = min(max(sheet.measure(one.what, 0.85) for one in shown) + 16, self.width() * 0.5)
        figure = max(sheet.measure(_figures(one, say, both), 0.85) for one in shown) + 10
        scale = (self.width() - left - figure - 12) / max(total, 1e-6)
        high = min(pixels * (2.2 if both else 1.7), (self.height() - pixels * 2.2) / len(shown))
        here = there = left
        y = pixels * 2.0
        painter.setPen(sheet.pen(palette.rule, 1))
        painter.drawLine(QPointF(left, y - 2), QPointF(left, y + high * len(shown)))
        for one in shown:
            share = 0.4 if both else 0.7
            end = here + (one.loss or 0.0) * scale
            self._bar(sheet, (here, end), (y + high * 0.15, high * share), one.loss, is_filled=True)
            far = end
            if both:
                after = there + (one.other or 0.0) * scale
                self._bar(sheet, (there, after), (y + high * 0.55, high * 0.3), one.other, is_filled=False)
                far, there = max(end, after), after
            painter.setFont(sheet.font(0.85))
            painter.setPen(sheet.pen(palette.ink))
            painter.drawText(QRectF(6, y, left - 12, high), RIGHT, sheet.shortened(one.what, left - 12, 0.85))
            at = min(max(here, far) + 6, self.width() - figure)
            painter.drawText(QRectF(at, y, figure + 20, high), LEFT, _figures(one, say, both))
            here = end
            y += high

    def _bar(
        self,
        sheet: Sheet,
        across: tuple[float, float],
        down: tuple[float, float],
        loss: float | None,
        *,
        is_filled: bool,
    ) -> None:
        if loss is None:
            return
        palette, painter = sheet.palette, sheet.painter
        (start, end), (y, high) = across, down
        gain = loss < 0
        painter.setPen(sheet.pen(palette.good if gain else palette.wood_edge, 1))
        wood = sheet.brush(palette.good if gain else palette.wood, 0.4 if gain else 1.0)
        painter.setBrush(wood if is_filled else Qt.BrushStyle.NoBrush)
        painter.drawRect(QRectF(min(start, end), y, max(abs(end - start), 1.5), high))
        if is_filled:
            painter.setPen(sheet.pen(palette.pencil, 1, dashes=(2, 2)))
            painter.drawLine(QPointF(end, y + high * 0.5), QPointF(end, y + high * 1.5))


def _figures(one: Row, say: Figures, both: bool) -> str:
    if not both:
        return "–" if one.loss is None else say.pressure(one.loss)
    pair = (one.loss, one.other)  # their unit stands in the heading
    return " | ".join("–" if loss is None else say.pressure(loss).partition(" ")[0] for loss in pair)


class WalkPane(QWidget):
    """The walk, and what it is held against: another choice of gates, or a walk that was kept before a
    change.
    """

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.walk = SuctionWalk(theme)
        self._now: Walk | None = None
        self._network: NetworkResult | None = None
        self.kept: Walk | None = None
        self._others: list[tuple[str, str]] = []  # choices of gates, with what they are called
        self.against: ChoiceField[str] = ChoiceField(
            "What the walk is held against", [(_ALONE, "held against nothing")], widest=24
        )
        self.against.entered.connect(lambda _: self._show())
        self.keep = QPushButton("Keep")
        set_tip(self.keep, "Keeps this walk, to hold what comes of a change against it.")
        self.keep.clicked.connect(self._keep)
        self.row = FlowRow()
        self.row.row.addWidget(self.against)
        self.row.row.addWidget(self.keep)
        box = QVBoxLayout(self)
        box.setContentsMargins(4, 0, 4, 0)
        box.setSpacing(0)
        box.addWidget(self.row)
        box.addWidget(self.walk, 1)

    def show_walk(self, answers: Answers, network: NetworkResult | None, walk: Walk | None) -> None:
        """Shows another way, against what is chosen as far as there is such."""
        self._now, self._network = walk, network
        names = answers.of(DuctAnswers).choice_name
        others = (
            [one.id for one in network.sets if walk is not None and one.id != walk.flows.id]
            if network
            else []
        )
        self._others = [(choice, f"against “{names(choice)}”") for choice in others]
        self.row.setVisible(walk is not None)
        self._offer(self.against.value)

    def _offer(self, chosen: str | None) -> None:
        choices = [(_ALONE, "held against nothing")]
        if self.kept is not None:
            choices.append((_KEPT, f"against the kept one: {name_of(self.kept.shop, self.kept.hood.thing)}"))
        choices += self._others
        self.against.show_choices(choices)
        self.against.show_value(chosen if chosen in dict(choices) else _ALONE)
        self._show()

    def _show(self) -> None:
        chosen, other = self.against.value, None
        if chosen == _KEPT:
            other = self.kept
        elif chosen and self._now is not None and self._network is not None:
            other = in_choice(self._now, self._network, chosen)
        self.walk.show_walk(self._now, other)

    def _keep(self) -> None:
        self.kept = self._now
        self._offer(_KEPT)
