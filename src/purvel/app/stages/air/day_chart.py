"""The day: dust in the room over the session, by size, with what was switched when, and the limit."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QBrush, QColor, QPainter, QPaintEvent, QShowEvent
from PySide6.QtWidgets import QLabel, QSizePolicy, QVBoxLayout, QWidget

from purvel.app.desk import Desk
from purvel.app.plan.sheet import Sheet, text_size
from purvel.app.reviewing import ReviewBench
from purvel.app.theme import LIGHT, Look
from purvel.app.widgets.charts import chart_letters, dress_plot, make_plot, words
from purvel.app.widgets.fields import NameButton
from purvel.app.widgets.flow import refilling
from purvel.app.widgets.panes import Pane, Panes
from purvel.app.widgets.scrolled import scrolled
from purvel.app.widgets.unbroken import unbroken
from purvel.catalogue import limits
from purvel.libraries import Array, np
from purvel.quantities import format_number
from purvel.review.air.answers import AirAnswers
from purvel.roomair.day import BANDS, Day

ROOM_FOR_KEY, ROOM_FOR_WORDS, ROOM_FOR_NAMES = 10, 34, 8  # letters' sizes


class DayInstrument(QWidget):
    """The work of the session as a list, and the course of the dust."""

    def __init__(self, desk: Desk, bench: ReviewBench) -> None:
        super().__init__()
        self.desk, self.bench = desk, bench
        self.look, self.pixels = LIGHT, 15
        self.plot: Any = None
        self.work = QWidget()
        self.work_box = QVBoxLayout(self.work)
        self.work_box.setContentsMargins(8, 4, 8, 4)
        self.work_box.setSpacing(2)
        picture = QWidget()
        self.side = QVBoxLayout(picture)
        self.side.setContentsMargins(0, 0, 0, 0)
        self.verdict = QLabel()
        self.verdict.setWordWrap(True)
        self.verdict.setContentsMargins(8, 2, 8, 0)
        self.side.setSpacing(0)
        self.side.addWidget(self.verdict)
        self.key = _Key(self)
        self.side.addWidget(self.key)
        self.panes = Panes(
            [Pane("Work", scrolled(self.work), 13.0, 4), Pane("Day", picture, 18.0, 12)], chosen=1
        )
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(self.panes)
        self._shown: tuple[object, ...] = ()
        bench.reviewed.connect(self.refresh)
        desk.picked_changed.connect(self.refresh)

    def dress(self, look: Look, pixels: int) -> None:
        """Takes on a theme and a text size."""
        self.look, self.pixels = look, pixels
        self.panes.dress(pixels)
        self.key.updateGeometry()
        self.key.update()
        self._shown = ()
        self.refresh()

    def resizeEvent(self, event: object) -> None:
        self._say(self.bench.latest.answers.of(AirAnswers).day)

    def _show_key(self) -> None:
        """The key gives way where the chart would have no room."""
        self.key.setVisible(
            self.bench.latest.answers.of(AirAnswers).day is not None
            and self.height() > ROOM_FOR_KEY * self.pixels
        )

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.refresh()

    def refresh(self) -> None:
        """Shows the latest review."""
        day = self.bench.latest.answers.of(AirAnswers).day
        now = (
            day,
            self.desk.shop.air,
            self.desk.picked,
            self.desk.shop.units,
            self.look.name,
            self.pixels,
            self.isVisible(),
        )
        if (
            len(self._shown) == len(now)
            and all(a is b or a == b for a, b in zip(now[1:], self._shown[1:]))
            and self._shown[0] is day
        ):
            return
        self._shown = now
        with refilling(self.work_box):
            self._fill_work()
        self._say(day)
        if self.isVisible():
            self._draw(day)

    def _fill_work(self) -> None:
        spells = self.desk.shop.air.session.spells
        head = QLabel("Work of the session" if spells else "No work in the session yet: “Add work”.")
        head.setObjectName("caption")
        head.setWordWrap(True)
        self.work_box.addWidget(head)
        for spell in spells:
            button = NameButton(f"{spell.start:.0f}–{spell.start + spell.minutes:.0f} min\n{spell.name}")
            button.setObjectName("work")
            button.setCheckable(True)
            button.setChecked(spell.id == self.desk.picked)
            button.setToolTip(
                f"{spell.name}. Pick it to change its minutes, what it throws off and what its hood catches."
            )
            button.clicked.connect(lambda _=False, s=spell.id: self.desk.pick(s))
            self.work_box.addWidget(button)
        self.work_box.addStretch(1)

    def _say(self, day: Day | None) -> None:
        self._show_key()
        if day is None:
            self.verdict.setText("The course of the dust appears here once there is work in the session.")
            return
        low, central, high = (day.courses[band].average_8h for band in BANDS)
        share = central / limits()[self.desk.shop.air.limit].value
        figures = [format_number(value) for value in (low, central, high)]
        what = " inhalable" if self.width() > ROOM_FOR_WORDS * self.pixels else ""
        said = (
            f"<b>8 h average {figures[1]} mg/m³{what}</b> ({figures[0]} to {figures[2]}): {share:.0%} of the"
            " limit"
        )
        self.verdict.setText(unbroken(said))

    def _draw(self, day: Day | None) -> None:
        if self.plot is None:
            self.plot = make_plot()
            self.side.addWidget(self.plot, 1)
        import pyqtgraph as pg

        plot, look = self.plot, self.look
        plot.clear()
        dress_plot(plot, look, self.pixels, "minutes from the start", "mg/m³")
        plot.setVisible(day is not None)
        if day is None:
            return
        seen = day.times <= max(day.session_minutes, day.last_cut) + 45.0
        times, course = day.times[seen], day.courses["central"]
        top = max(course.peak * 1.4, 0.02)
        stacked = np.zeros(len(times))
        for name, members in GROUPS:
            above = stacked + course.by_size[seen][:, list(members)].sum(axis=1)
            low, high = pg.PlotDataItem(times, stacked), pg.PlotDataItem(times, above)
            colour, pattern = _style(look, name)
            plot.addItem(pg.FillBetweenItem(low, high, brush=pg.mkBrush(_shade(colour, pattern))))
            plot.plot(times, above, pen=pg.mkPen(colour, width=2))
            stacked = above
        plot.plot(times, course.total[seen], pen=pg.mkPen(look.ink, width=2))
        limit = limits()[self.desk.shop.air.limit].value
        if limit < top * 1.5:
            top = max(top, limit * 1.25)
            plot.addItem(
                pg.InfiniteLine(limit, angle=0, pen=pg.mkPen(look.stop, width=2, style=Qt.PenStyle.DashLine))
            )
            self._name_limit(plot, limit, times, course.total[seen], top)
        for stretch in day.stretches:
            if stretch.spells and stretch.start <= times[-1]:
                brush = pg.mkBrush(_shade(look.wood, Qt.BrushStyle.SolidPattern, 70))
                region = pg.LinearRegionItem(
                    (stretch.start, stretch.end), movable=False, brush=brush, pen=pg.mkPen(look.rule)
                )
                region.setZValue(-10)
                plot.addItem(region)
            if stretch.cleaner_on:
                plot.plot(
                    [stretch.start, min(stretch.end, float(times[-1]))],
                    [top * 0.012] * 2,
                    pen=pg.mkPen(look.accent, width=5),
                )
        self._name_work(plot, float(times[-1]), top)
        plot.addItem(
            pg.InfiniteLine(day.session_minutes, pen=pg.mkPen(look.pencil, style=Qt.PenStyle.DotLine))
        )
        plot.setXRange(0, float(times[-1]), padding=0)
        plot.setYRange(0, top, padding=0)

    def _name_limit(self, plot: Any, limit: float, times: Array, total: Array, top: float) -> None:
        """What the line is, over its right or its left end: where it covers less of the course."""
        text = f"8 h limit {limit:g} mg/m³"
        width, height = text_size(text, chart_letters(self.pixels))
        wide = (width + 12) / max(1.0, plot.width() - 4.0 * self.pixels) * float(times[-1])
        high = (height + 8) / max(1.0, plot.height() - 3.0 * self.pixels) * top
        covered = (total > limit) & (total < limit + high)
        is_right = covered[times > times[-1] - wide].sum() <= covered[times < wide].sum()
        label = words(text, self.look.stop, self.look, self.pixels, (1.0, 1.0) if is_right else (0.0, 1.0))
        label.setPos(float(times[-1]) if is_right else 0.0, limit)
        plot.addItem(label)

    def _name_work(self, plot: Any, end: float, top: float) -> None:
        """The spells' names over the course, each in the first of two rows where it covers no other; none
        where they would cover the course.
        """
        if plot.height() < ROOM_FOR_NAMES * self.pixels:
            return
        # min that a letter is wide
        letter = end / max(1.0, plot.width() - 60.0) * max(11.0, self.pixels * 0.8) * 0.6
        free_from = [0.0, 0.0]
        for spell in self.desk.shop.air.session.spells:
            row = next((row for row, start in enumerate(free_from) if start <= spell.start), None)
            if row is not None:
                label = words(spell.name, self.look.ink, self.look, self.pixels)
                label.setPos(spell.start, top * (1.0 - 0.13 * row))
                plot.addItem(label)
                free_from[row] = spell.start + letter * len(spell.name)


class _Key(QWidget):
    """What the patterns in the chart stand for."""

    def __init__(self, day: DayInstrument) -> None:
        super().__init__()
        self.day = day
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        rows = max(row for _, row in self._places()) + 1
        return QSize(200, round(self.day.pixels * 1.5 * rows))

    def resizeEvent(self, event: object) -> None:
        self.updateGeometry()

    def _places(self) -> list[tuple[float, int]]:
        """Where each entry begins [px] and in which row it stands."""
        found: list[tuple[float, int]] = []
        x, row = EDGE, 0
        for name in (*(name for name, _ in GROUPS), *self._lines()):
            wide = self._swatch() + text_size(name, round(FACTOR * self.day.pixels))[0]
            if x + wide > self.width() and x > EDGE:
                x, row = EDGE, row + 1
            found.append((x, row))
            x += wide + self.day.pixels
        return found

    def _lines(self) -> tuple[str, ...]:
        day = self.day.bench.latest.answers.of(AirAnswers).day
        return LINES if day is not None and any(one.cleaner_on for one in day.stretches) else LINES[:1]

    def _swatch(self) -> float:
        return 1.8 * FACTOR * self.day.pixels + 5.0

    def paintEvent(self, event: QPaintEvent) -> None:
        look, pixels = self.day.look, self.day.pixels
        painter = QPainter(self)
        sheet = Sheet(painter, look, 1.0, QPointF(0, 0), pixels)
        places, size = self._places(), pixels * FACTOR
        high = self.height() / (places[-1][1] + 1)
        for (x, row), (name, _) in zip(places, GROUPS):
            y = (row + 0.5) * high
            colour, pattern = _style(look, name)
            painter.setPen(sheet.pen(colour, 2))
            painter.setBrush(_shade(colour, pattern))
            painter.drawRect(QRectF(x, y - size / 2, size * 1.8, size))
            sheet.text(QPointF(x + self._swatch(), y), name, look.ink, factor=FACTOR, centre=False)
        for (x, row), name, colour, width in zip(
            places[len(GROUPS) :], self._lines(), (look.ink, look.accent), (2.5, 5.0)
        ):
            y = (row + 0.5) * high
            painter.setPen(sheet.pen(colour, width))
            painter.drawLine(QPointF(x, y), QPointF(x + size * 1.8, y))
            sheet.text(QPointF(x + self._swatch(), y), name, look.ink, factor=FACTOR, centre=False)
        painter.end()


FACTOR, EDGE = 0.85, 10.0  # of the text's size; px
LINES = ("all dust", "cleaner runs")
GROUPS: tuple[tuple[str, tuple[int, ...]], ...] = (
    ("under 2.5 µm", (0, 1)),
    ("2.5 to 10 µm", (2,)),
    ("over 10 µm", (3,)),
)


def _style(look: Look, name: str) -> tuple[str, Qt.BrushStyle]:
    return {
        "under 2.5 µm": (look.air_fine, Qt.BrushStyle.SolidPattern),
        "2.5 to 10 µm": (look.air_mid, Qt.BrushStyle.Dense3Pattern),
        "over 10 µm": (look.air_coarse, Qt.BrushStyle.BDiagPattern),
    }[name]


def _shade(colour: str, pattern: Qt.BrushStyle, alpha: int = 110) -> Any:
    shade = QColor(colour)
    shade.setAlpha(alpha)
    return QBrush(shade, pattern)
