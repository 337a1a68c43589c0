"""Circuits as loaded bars for what runs together: the instrument of power."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QPointF, QRectF, QSignalBlocker
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QVBoxLayout, QWidget

from purvel.app.plan.sheet import Sheet
from purvel.app.theme import Theme
from purvel.app.widgets.flow import refilling
from purvel.app.widgets.names import NameBox
from purvel.app.widgets.picture import Picture
from purvel.app.widgets.scrolled import scrolled
from purvel.app.widgets.words import Words
from purvel.app.workspace import Workspace
from purvel.power.circuits import Loading
from purvel.review import Answers, Grade
from purvel.review.power.answers import PowerAnswers, Together
from purvel.review.power.rules import amps, consumer_name, load_grade, together_name
from purvel.shop.parts import name_of

ROW, TALL_ROW = 2.3, 2.9  # letters' heights that a circuit takes; with its name over its bar
NARROW = 34.0  # letters' sizes of width below which names stand over the bars
FULL = 1.30  # of the rating: how much load a bar has room for
PAPERS = ("wood", "storage", "metal")  # fills of neighbouring consumers, told apart by their edges too


class Bars(Picture):
    """A bar for each circuit, as long as what is on it against its breaker."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.setAccessibleName("Load of the circuits")
        self.answers: Answers | None = None
        self.one: Together | None = None

    def show_loads(self, answers: Answers, one: Together | None) -> None:
        """What is on each circuit while `one` runs."""
        self.answers, self.one = answers, one
        rows = len(answers.shop.power.circuits) if one is not None else 0
        self.setMinimumHeight(round((2.2 + self._row_height * rows) * self.theme.pixels) if rows else 60)
        self.update()

    @property
    def _is_narrow(self) -> bool:
        return self.width() < NARROW * self.theme.pixels

    @property
    def _row_height(self) -> float:
        return TALL_ROW if self._is_narrow else ROW

    def draw(self, sheet: Sheet) -> None:
        if self.answers is None or self.one is None or not self.answers.shop.power.circuits:
            self.say_nothing_yet(
                sheet, "Add circuits and outlets to see what each breaker carries when things run together."
            )
            return
        loads = self.answers.of(PowerAnswers).loads[self.one.key]
        self._head(sheet, self.answers, self.one, loads)
        shop, high = self.answers.shop, self._row_height * sheet.pixels
        names = max(sheet.measure(name_of(shop, load.circuit), bold=True) for load in loads)
        figures = max(sheet.measure(_figure(load), bold=True) for load in loads)
        left = 8.0 if self._is_narrow else min(names + 24, self.width() * 0.35)
        room = self.width() - left - (12.0 if self._is_narrow else figures + 20)
        for number, load in enumerate(loads):
            top = 2.2 * sheet.pixels + high * number
            self._row(sheet, self.answers, load, QRectF(left, top, room, high))

    def _head(self, sheet: Sheet, answers: Answers, one: Together, loads: list[Loading]) -> None:
        palette, what = sheet.palette, together_name(answers, one)
        tripping = [load for load in loads if load.trips]
        full = [load for load in loads if not load.holds]
        if tripping:
            words = f"{name_of(answers.shop, tripping[0].circuit)} trips"
        elif full:
            words = f"{name_of(answers.shop, full[0].circuit)} is too full for hours"
        else:
            words = "every breaker holds"
        colour = palette.grade(min((load_grade(load) for load in loads), default=Grade.GOOD))
        sheet.heading((f"{what} running: {words}", words), colour, self.width(), 1.1)

    def _row(self, sheet: Sheet, answers: Answers, load: Loading, box: QRectF) -> None:
        palette, name = sheet.palette, name_of(answers.shop, load.circuit)
        grade = load_grade(load)
        colour = palette.ink if grade == Grade.GOOD else palette.grade(grade)
        high = 1.25 * sheet.pixels
        bar = QRectF(box.left(), box.center().y() - high / 2, box.width(), high)
        if self._is_narrow:
            bar.moveBottom(box.bottom() - 4)
            line = box.top() + 0.75 * sheet.pixels
            width = sheet.measure(_figure(load), bold=True)
            name = sheet.shortened(name, box.width() - width - 12)
            sheet.text(QPointF(box.left(), line), name, palette.ink, bold=True, centre=False)
            sheet.text(QPointF(box.right() - width, line), _figure(load), colour, bold=True, centre=False)
        else:
            name = sheet.shortened(name, box.left() - 16)
            sheet.text(QPointF(8, bar.center().y()), name, palette.ink, bold=True, centre=False)
            figure = QPointF(bar.right() + 10, bar.center().y())
            sheet.text(figure, _figure(load), colour, bold=True, centre=False)
        self._bar(sheet, answers, load, bar)

    def _bar(self, sheet: Sheet, answers: Answers, load: Loading, bar: QRectF) -> None:
        palette, scale = sheet.palette, bar.width() / (FULL * load.rating)
        sheet.painter.setPen(sheet.pen(palette.rule, 1.0))
        sheet.painter.setBrush(sheet.brush(palette.paper))
        sheet.painter.drawRect(bar)
        self._segments(sheet, answers, load, bar, scale)
        for share, dashes in ((0.8, (3.0, 2.0)), (1.0, ())):
            x = bar.left() + share * load.rating * scale
            sheet.painter.setPen(sheet.pen(palette.ink, 2.2 if share == 1.0 else 1.4, dashes=dashes))
            sheet.painter.drawLine(QPointF(x, bar.top() - 3), QPointF(x, bar.bottom() + 3))

    def _segments(self, sheet: Sheet, answers: Answers, load: Loading, bar: QRectF, scale: float) -> None:
        palette, at = sheet.palette, bar.left()
        edge = palette.stop if load.trips else palette.wood_edge
        for number, one in enumerate(load.consumers):
            width = min(one.amps * scale, bar.right() - at)
            if width <= 0:
                break
            segment = QRectF(at, bar.top(), width, bar.height())
            sheet.painter.setPen(sheet.pen(edge, 1.6))
            sheet.painter.setBrush(sheet.brush(getattr(palette, PAPERS[number % len(PAPERS)])))
            sheet.painter.drawRect(segment)
            name = consumer_name(answers, one.id)
            text = f"{name} {amps(one.amps)}"
            text = text if sheet.measure(text, 0.75) < width - 8 else name
            if sheet.measure(text, 0.75) < width - 8:
                sheet.text(segment.center(), text, palette.ink, factor=0.75)
            at += width


def _figure(load: Loading) -> str:
    return f"{amps(load.amps)} of {amps(load.rating)}"


class CircuitBars(QWidget):
    """The bars, and beside them what runs along."""

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self.workspace, self.theme = workspace, theme
        self.bars = Bars(theme)
        self.along = QWidget()
        self.box = QVBoxLayout(self.along)
        self.box.setContentsMargins(8, 4, 8, 4)
        self.box.setSpacing(2)
        self.side = scrolled(self.along)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(scrolled(self.bars), 1)
        row.addWidget(self.side)
        self._built_for: tuple[object, ...] = ()
        self._ticks: dict[str, QCheckBox] = {}

    def show_power(self, answers: Answers, one: Together | None, choose: Callable[[str, bool], None]) -> None:
        """The bars for what runs, and a tick for everything that may run along."""
        shop = answers.shop
        able = [*answers.of(PowerAnswers).draws, *(one.id for one in shop.power.appliances)]
        named = tuple((item, name_of(shop, item)) for item in able)
        if (named, self.theme.pixels) != self._built_for:
            self._built_for = (named, self.theme.pixels)
            with refilling(self.box):
                self._fill(named, choose)
        for item, tick in self._ticks.items():
            with QSignalBlocker(tick):
                tick.setChecked(item in shop.power.along)
        self.side.setFixedWidth(min(round(self.theme.pixels * 13), round(self.width() * 0.36)))
        self.bars.show_loads(answers, one)

    def _fill(self, named: tuple[tuple[str, str], ...], choose: Callable[[str, bool], None]) -> None:
        head = Words("Runs along" if named else "Nothing here draws current yet.")
        head.setObjectName("caption")
        head.setWordWrap(True)
        self.box.addWidget(head)
        self._ticks = {}
        for item, name in named:
            tick = NameBox(name)
            tick.setAccessibleName(f"{name} runs along")
            tick.toggled.connect(partial(choose, item))
            self.box.addWidget(tick)
            self._ticks[item] = tick
        self.box.addStretch(1)
