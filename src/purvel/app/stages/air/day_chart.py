"""The day: dust in the room over the session, by size, with what was switched when, and the limit."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QResizeEvent, QShowEvent
from PySide6.QtWidgets import QVBoxLayout, QWidget

from purvel.app.plan.pens import text_size
from purvel.app.stages.air.day_key import GROUPS, DayKey, shade, style
from purvel.app.stages.air.helps_pane import HelpsPane
from purvel.app.stages.air.planner import Planner
from purvel.app.stages.air.rooms_pane import RoomsPane
from purvel.app.stages.air.wear_pane import WearPane
from purvel.app.theme import Theme
from purvel.app.view import View
from purvel.app.widgets.charts import ChartItems, chart_letters, make_plot, stepped
from purvel.app.widgets.panes import Pane, Panes
from purvel.app.widgets.scrolled import scrolled
from purvel.app.widgets.unbroken import unbroken
from purvel.app.widgets.when_seen import WhenSeen
from purvel.app.widgets.words import Words
from purvel.app.workspace import Workspace
from purvel.catalogue import limits
from purvel.libraries import Array, Indices, np
from purvel.quantities import format_number
from purvel.review import Review
from purvel.review.air.answers import AirAnswers
from purvel.review.air.days import Week, week_of
from purvel.roomair.day import Day
from purvel.roomair.stretches import BANDS
from purvel.shop import Shop

DAY, LOG = 1, 2  # panes
LOG_LEAST = 44.0  # letters' sizes: with less the log is shown alone
ROOM_FOR_KEY, ROOM_FOR_WORDS, ROOM_FOR_NAMES, ROOM_FOR_AXIS = 10, 34, 8, 11  # letters' sizes


class DayInstrument(QWidget):
    """The work of the session as a list, the course of the dust, and beside it the log of a monitor."""

    def __init__(self, workspace: Workspace, theme: Theme, log: QWidget) -> None:
        super().__init__()
        self.workspace, self.theme = workspace, theme
        self.plot: Any = None
        self._drawn: Any = None
        self.day: Day | None = None
        self.other: Day | None = None
        self.week: Week | None = None
        self.names: dict[str, str] = {}
        self.air = workspace.shop.air
        self.in_scene = False  # the day is always that of the shop as drawn
        self.planner = Planner(workspace, theme)
        picture = QWidget()
        self.side = QVBoxLayout(picture)
        self.side.setContentsMargins(0, 0, 0, 0)
        self.verdict = Words()
        self.verdict.setTextFormat(Qt.TextFormat.RichText)
        self.verdict.setWordWrap(True)
        self.verdict.setContentsMargins(8, 2, 8, 0)
        self.side.setSpacing(0)
        self.side.addWidget(self.verdict)
        self.key = DayKey(theme)
        self.side.addWidget(self.key)
        self.helps = HelpsPane(workspace)
        self._helps = WhenSeen(self.helps, self.helps.fill)
        self.rooms = RoomsPane(workspace)
        self._rooms = WhenSeen(self.rooms, self.rooms.fill)
        self.wear = WearPane(workspace)
        self._wear = WhenSeen(self.wear, self.wear.fill)
        panes = [
            Pane("Work", scrolled(self.planner), 30.0, 10),
            Pane("Day", picture, 34.0, 12),
            Pane("Log", log, LOG_LEAST, 12),
            Pane("Helps", self._helps, 40.0, 12),
            Pane("Rooms", self._rooms, 40.0, 12),
            Pane("Wear", self._wear, 44.0, 12),
        ]
        self.panes = Panes(theme, panes, chosen=DAY)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(self.panes)
        self._shown: tuple[object, ...] = ()

    def show_day(self, shop: Shop, review: Review, view: View) -> None:
        """Shows the reviewed day, with the work and the limit that it was reckoned for."""
        self._helps.show_these(review.answers)
        self._rooms.show_these(review.answers)
        self._wear.show_these(review.answers)
        answers = review.answers.of(AirAnswers)
        self.day, other = answers.day, answers.other
        self.other = None if other is None else other.day
        self.week = week_of(review.answers)
        self.air = review.answers.shop.air
        self.names = {one.id: one.name or one.id for one in self.air.rooms}
        last = self.air.session.minutes if self.day is None else self.day.shown_until
        self.planner.show_blocks(shop, last)
        work = (view.picked, self.theme.pixels)
        self.in_scene = review.scene is not None
        shown = (self.day, self.other, self.air, self.in_scene, self.theme.palette, self.isVisible(), *work)
        if shown == self._shown:
            return
        self._shown = shown
        self._redraw()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._say()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._redraw()

    def _redraw(self) -> None:
        self.key.show_day(self.day)
        self._say()
        if self.isVisible():
            self._draw(self.day)

    def _say(self) -> None:
        """The verdict; the key gives way where the chart would have no room."""
        self.key.setVisible(self.day is not None and self.height() > ROOM_FOR_KEY * self.theme.pixels)
        if self.day is None:
            self.verdict.setText("The course of the dust appears here once there is work in the session.")
            return
        low, central, high = (self.day.courses[band].personal_8h for band in BANDS)
        share = central / limits()[self.air.limit].value
        figures = [format_number(value) for value in (low, central, high)]
        what = " inhalable" if self.width() > ROOM_FOR_WORDS * self.theme.pixels else ""
        said = (
            f"<b>Breathed over 8 h: {figures[1]} mg/m³{what}</b> ({figures[0]} to {figures[2]}), {share:.0%} of the"
            " limit"
        )
        if self.height() <= ROOM_FOR_AXIS * self.theme.pixels:  # one line, for the chart's sake
            self.verdict.setText(unbroken(f"<b>{figures[1]} mg/m³ over 8 h</b>, {share:.0%} of the limit"))
            return
        if what:
            said += f"; the room {format_number(self.day.courses['central'].average_8h)}"
        said += self._others_said()
        drawn = ", as drawn" if self.in_scene else ""
        self.verdict.setText(unbroken(said) + drawn)

    def _others_said(self) -> str:
        """What day B comes to, and the week."""
        said = ""
        if self.other is not None:
            said += f"; day B {format_number(self.other.courses['central'].personal_8h)}"
        if self.week is not None and (self.other is not None or self.week.days != (2, 0)):
            days = f"{self.week.days[0]} of A" + (f" and {self.week.days[1]} of B" if self.other else "")
            said += f"; over a week with {days}, 40 h, {format_number(self.week.mean[1])}"
        return said

    def _draw(self, day: Day | None) -> None:
        if self.plot is None:
            self.plot = make_plot()
            self._drawn = ChartItems(self.plot)
            self.side.addWidget(self.plot, 1)
        is_high = self.height() > ROOM_FOR_AXIS * self.theme.pixels
        self._drawn.begin(self.theme, "minutes from the start" if is_high else "", "mg/m³")
        self.plot.setVisible(day is not None)
        if day is not None:
            self._draw_day(day)
        self._drawn.end()

    def _draw_day(self, day: Day) -> None:
        course, seen = day.courses["central"], np.flatnonzero(day.times <= day.shown_until)
        seen = self._told_apart(seen, course.total)
        times = day.times[seen]
        self._draw_sizes(times, course.by_size[seen], course.total[seen])
        highest = max(course.peak, self._draw_others(day, float(times[-1])))
        top = self._draw_limit(times, course.total[seen], stepped(max(highest * 1.35, 0.02)))
        self._draw_switching(day, float(times[-1]), top)
        self._name_work(float(times[-1]), top)
        self.plot.setXRange(0, float(times[-1]), padding=0)
        self.plot.setYRange(0, top, padding=0)

    def _told_apart(self, seen: Indices, total: Array) -> Indices:
        """No more of the times than there are dots across, but the one when there is most."""
        dots = np.linspace(0, len(seen) - 1, min(len(seen), max(2, self.plot.width()))).astype(int)
        return np.union1d(seen[dots], seen[total[seen].argmax()])

    def _draw_sizes(self, times: Array, by_size: Array, total: Array) -> None:
        import pyqtgraph as pg

        stacked = np.zeros(len(times))
        for name, members in GROUPS:
            above = stacked + by_size[:, list(members)].sum(axis=1)
            colour, pattern = style(self.theme.palette, name)
            self._drawn.area(f"{name}, filled", times, stacked, above, shade(colour, pattern))
            self._drawn.line(name, times, above, pen=pg.mkPen(colour, width=2))
            stacked = above
        self._drawn.line("total", times, total, pen=pg.mkPen(self.theme.palette.ink, width=2))

    def _draw_others(self, day: Day, end: float) -> float:
        """The rooms beyond, and the second day, each as a line with its name; returns their peak."""
        import pyqtgraph as pg

        lines = [
            (self.names.get(room, room), day.times, courses["central"].total, Qt.PenStyle.DotLine)
            for room, courses in day.rooms.items()
            if room
        ]
        if self.other is not None:
            lines.append(
                ("day B", self.other.times, self.other.courses["central"].total, Qt.PenStyle.DashLine)
            )
        peak = 0.0
        for number, (name, times, total, dashes) in enumerate(lines):
            seen = times <= end
            pen = pg.mkPen(self.theme.palette.ink, width=2, style=dashes)
            self._drawn.line(f"other {number}", times[seen], total[seen], pen=pen)
            at = int(np.argmax(total[seen]))
            spot = float(times[at]), float(total[at])
            self._drawn.letter(name, self.theme.palette.ink, *spot, (0.0, 1.0 - number % 2))
            peak = max(peak, float(total[at]))
        return peak

    def _draw_limit(self, times: Array, total: Array, top: float) -> float:
        """The limit's line where it is near the course; returns how high the chart goes."""
        import pyqtgraph as pg

        limit = limits()[self.air.limit].value
        if limit >= top * 1.5:
            return top
        top = max(top, limit * 1.25)
        pen = pg.mkPen(self.theme.palette.stop, width=2, style=Qt.PenStyle.DashLine)
        self._drawn.kept("limit", lambda: pg.InfiniteLine(angle=0, pen=pen)).setPos(limit)
        self._name_limit(limit, times, total, top)
        return top

    def _draw_switching(self, day: Day, end: float, top: float) -> None:
        """When there was work, when the cleaner ran, when the session ends."""
        import pyqtgraph as pg

        palette = self.theme.palette
        for number, stretch in enumerate(day.stretches):
            if stretch.intervals and stretch.start <= end:
                region = self._drawn.kept(f"work {number}", self._region)
                region.setRegion((stretch.start, stretch.end))
            if stretch.cleaner_on:
                span = (stretch.start, min(stretch.end, end))
                pen = pg.mkPen(palette.accent, width=5)
                self._drawn.line(f"cleaner {number}", span, (top * 0.012,) * 2, pen=pen)
        over = pg.mkPen(palette.pencil, style=Qt.PenStyle.DotLine)
        self._drawn.kept("over", lambda: pg.InfiniteLine(pen=over)).setPos(day.session_minutes)

    def _region(self) -> Any:
        import pyqtgraph as pg

        brush = pg.mkBrush(shade(self.theme.palette.wood, Qt.BrushStyle.SolidPattern, 70))
        made = pg.LinearRegionItem(movable=False, brush=brush, pen=pg.mkPen(self.theme.palette.rule))
        made.setZValue(-10)
        return made

    def _name_limit(self, limit: float, times: Array, total: Array, top: float) -> None:
        """What the line is, over its right or its left end: where it covers less of the course; under it
        where the chart ends before the words would.
        """
        text = f"8 h limit {limit:g} mg/m³"
        width, height = text_size(text, chart_letters(self.theme.pixels))
        chart = self.plot.getViewBox().rect()
        wide = (width + 12) / max(1.0, chart.width()) * float(times[-1])
        high = (height + 8) / max(1.0, chart.height()) * top
        foot = limit if limit + high <= top else limit - high
        covered = (total > foot) & (total < foot + high)
        is_right = covered[times > times[-1] - wide].sum() <= covered[times < wide].sum()
        corner = (1.0 if is_right else 0.0, 1.0 if foot == limit else 0.0)
        x = float(times[-1]) if is_right else 0.0
        self._drawn.letter(text, self.theme.palette.stop, x, limit, corner)

    def _name_work(self, end: float, top: float) -> None:
        """The intervals' names over the course, each in the first of two rows where it covers no other; none
        where they would cover the course.
        """
        if self.plot.height() < ROOM_FOR_NAMES * self.theme.pixels:
            return
        # min that a letter is wide
        letter = end / max(1.0, self.plot.width() - 60.0) * max(11.0, self.theme.pixels * 0.8) * 0.6
        free_from = [0.0, 0.0]
        for interval in self.air.session.work:
            row = next((row for row, start in enumerate(free_from) if start <= interval.start), None)
            if row is not None:
                y = top * (1.0 - 0.13 * row)
                self._drawn.letter(interval.name, self.theme.palette.ink, interval.start, y)
                free_from[row] = interval.start + letter * len(interval.name)
