"""The suction walk: static suction from the room to the source along one hood's way, with what each piece
costs.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, Qt

from purvel.airflow.flows import GateSetFlow, HoodFlow
from purvel.airflow.segments import Layout
from purvel.app.plan.sheet import Sheet
from purvel.app.theme import Theme
from purvel.app.widgets.picture import Picture
from purvel.review import Figures
from purvel.shop import Shop
from purvel.shop.parts import name_of

Step = tuple[str, float]  # words, loss [Pa]
LEFT = int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
RIGHT = int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)


@dataclass(frozen=True, slots=True)
class Walk:
    """One hood's way in one choice of gates, in the shop that was reviewed."""

    shop: Shop
    layout: Layout
    flows: GateSetFlow
    hood: HoodFlow

    def steps(self) -> list[Step]:
        """What costs pressure on the way, in order."""
        found = [(f"hood of {name_of(self.shop, self.hood.thing)}", self.hood.entry_loss)]
        for index in self.layout.way(self.hood.segment):
            segment, part = self.layout.segments[index], self.flows.segments[index]
            run = name_of(self.shop, segment.run)
            what = "hose" if segment.role == "hose" else "pipe"
            found.append((run if what in run.lower() else f"{run}, {what}", part.friction_loss))
            if part.fittings_loss > 0.5:
                opened = self.flows.open_gates
                at_gate = "gate in part" if all(gate in opened for gate in segment.gates) else "shut gate"
                what = at_gate if part.shut_gate else "fittings"
                found.append((f"{run}, {what}", part.fittings_loss))
            if abs(part.junction_loss) > 0.5:
                found.append((f"{run}, joint", part.junction_loss))
        flows = self.flows
        for word, loss in (
            ("separator", flows.separator_loss),
            ("filter", flows.filter_loss),
            ("discharge", flows.discharge_loss),
        ):
            if loss > 0.5:
                found.append((word, loss))
        return found


class SuctionWalk(Picture):
    """The walk as bars one after another."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.walk: Walk | None = None
        self.setAccessibleName("Suction walk")

    def show_walk(self, walk: Walk | None) -> None:
        """Shows another way."""
        self.walk = walk
        self.update()

    def steps(self) -> list[Step]:
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
        most = max(3, int((self.height() - sheet.pixels * 2.4) / (sheet.pixels * 1.25)))
        self._bars(sheet, merged(self.walk.steps(), most), say)

    def _heading(self, sheet: Sheet, walk: Walk, say: Figures) -> None:
        name, shut = name_of(walk.shop, walk.hood.thing), "" if walk.hood.is_open else " (gate shut)"
        figures = f"{say.flow(walk.hood.flow)}, {say.pressure(walk.hood.static_suction)}"
        ways = (f"{name}: {figures} at the hood{shut}", f"{name}: {figures}{shut}", f"{figures}{shut}")
        sheet.heading(ways, sheet.palette.ink, self.width())

    def _bars(self, sheet: Sheet, rows: Sequence[Step], say: Figures) -> None:
        palette, painter, pixels = sheet.palette, sheet.painter, sheet.pixels
        total = sum(max(0.0, loss) for _, loss in rows)
        left = min(max(sheet.measure(word, 0.85) for word, _ in rows) + 16, self.width() * 0.56)
        figure = max(sheet.measure(say.pressure(loss), 0.85) for _, loss in rows) + 10
        scale = (self.width() - left - figure - 12) / max(total, 1e-6)
        high = min(pixels * 1.7, (self.height() - pixels * 2.2) / len(rows))
        x, y = left, pixels * 2.0
        painter.setPen(sheet.pen(palette.rule, 1))
        painter.drawLine(QPointF(left, y - 2), QPointF(left, y + high * len(rows)))
        for word, loss in rows:
            start, x = x, x + loss * scale
            gain = loss < 0
            painter.setPen(sheet.pen(palette.good if gain else palette.wood_edge, 1))
            painter.setBrush(sheet.brush(palette.good if gain else palette.wood, 0.4 if gain else 1.0))
            painter.drawRect(QRectF(min(start, x), y + high * 0.15, max(abs(loss) * scale, 1.5), high * 0.7))
            painter.setPen(sheet.pen(palette.pencil, 1, dashes=(2, 2)))
            painter.drawLine(QPointF(x, y + high * 0.5), QPointF(x, y + high * 1.2))
            painter.setFont(sheet.font(0.85))
            painter.setPen(sheet.pen(palette.ink))
            painter.drawText(QRectF(6, y, left - 12, high), RIGHT, sheet.shortened(word, left - 12, 0.85))
            painter.drawText(QRectF(max(start, x) + 6, y, figure + 20, high), LEFT, say.pressure(loss))
            y += high


def merged(steps: Sequence[Step], most: int) -> list[Step]:
    """The steps with neighbours put together until they fit, the cheapest first."""
    rows = [(word, loss, False) for word, loss in steps]
    while len(rows) > most:
        index = min(range(len(rows) - 1), key=lambda i: abs(rows[i][1]) + abs(rows[i + 1][1]))
        first, second = rows[index], rows[index + 1]
        dearer = first if abs(first[1]) >= abs(second[1]) else second
        rows[index : index + 2] = [(dearer[0], first[1] + second[1], True)]
    return [(f"{word} …" if several else word, loss) for word, loss, several in rows]
