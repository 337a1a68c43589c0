"""A monitor's log over its time, with the stretches that are marked in it."""

from __future__ import annotations

from functools import partial
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtGui import QResizeEvent, QShowEvent
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QVBoxLayout, QWidget

from purvel.app.signals import Event
from purvel.app.stages.air.log_drawn import draw_band, draw_course, draw_events
from purvel.app.theme import Theme
from purvel.app.widgets.charts import dress_plot, make_plot, words
from purvel.app.widgets.fields import ChoiceField
from purvel.app.widgets.flow import clear, refilling
from purvel.app.widgets.names import NameButton
from purvel.app.widgets.scrolled import scrolled
from purvel.app.widgets.words import Words, set_tip
from purvel.app.workspace import Workspace
from purvel.libraries import np
from purvel.review import Answers, Review
from purvel.review.air.log_answers import LogAnswers
from purvel.review.air.played import Course, over_log
from purvel.review.figures import Figures
from purvel.roomair.laid_over import envelope
from purvel.roomair.log_kinds import UNITS
from purvel.shop.air import LogEvent, LogStretch, LogUnit
from purvel.shop.edits import change_air, put
from purvel.shop.parts import name_of

ROOM_FOR_WORDS, ROOM_FOR_LIST = 40, 30  # letters' sizes across
ROOM_FOR_NAMES, ROOM_FOR_AXIS = 17, 9  # and up
NOTHING = "No log yet: “Log ▾” imports a particle monitor's CSV, or records from a monitor."


Span = tuple[str, float, float]  # a stretch, from and to [s]


class LogPane(QWidget):
    """The log that is looked at; `dragged` tells where the ends of the picked stretch were put."""

    _dragged = Signal(object)

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self.workspace, self.theme = workspace, theme
        self.dragged: Event[Span] = Event(self._dragged)
        self.log: str | None = None  # attachment that is looked at
        self.live = ""  # what a recording says
        self.plot: Any = None
        self.logs: LogAnswers | None = None
        self._shown: tuple[object, ...] = ()
        self.events: list[LogEvent] = []
        self.units: tuple[LogUnit, ...] = ()
        self.course: Course | None = None
        self.said = Words(NOTHING)
        self.said.setWordWrap(True)
        head = QWidget()
        self.head = QHBoxLayout(head)
        self.head.setContentsMargins(8, 2, 8, 2)
        self.choosers = QHBoxLayout()
        self.menu: QWidget | None = None
        self.head.addLayout(self.choosers)
        self.over = QCheckBox("Day over it")
        set_tip(self.over, "Lays the simulated day over the log, where it follows it best.")
        self.over.toggled.connect(lambda _: self.workspace.view.changed.emit())
        self.head.addWidget(self.over)
        self.head.addWidget(self.said, 1)
        self.marks = QWidget()
        self.marks_box = QVBoxLayout(self.marks)
        self.marks_box.setContentsMargins(8, 0, 4, 4)
        self.marks_box.setSpacing(2)
        self.list = scrolled(self.marks)
        self.row = QHBoxLayout()
        self.row.setContentsMargins(0, 0, 0, 0)
        self.row.setSpacing(0)
        self.row.addWidget(self.list, 2)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(head)
        column.addLayout(self.row, 1)

    def set_menu(self, menu: QWidget) -> None:
        """The button that brings in and marks logs."""
        if self.menu is not None:
            self.menu.hide()
            self.menu.deleteLater()
        self.menu = menu
        self.head.insertWidget(0, menu)

    # ---- what comes in

    def show_log(self, answers: Answers, review: Review, picked: str | None) -> None:
        """The log as it is, with what the review says of its stretches."""
        if not self.isVisible():
            return
        logs = answers.of(LogAnswers)
        self.logs = logs
        stretch = next((one for one in answers.base.air.stretches if one.id == picked), None)
        if stretch is not None:
            self.log = stretch.log
        if self.log not in logs.logs:
            self.log = next(iter(logs.logs), None)
        is_now = review.is_whole and review.answers.base is answers.base
        decays = self._decays(review) if is_now else {}
        air, palette = answers.base.air, self.theme.palette
        self.units = air.log_units
        self.events = [one for one in air.events if one.log == self.log]
        self.course = over_log(answers, self.log) if self.over.isChecked() and self.log else None
        names = tuple((key, name_of(answers.base, key)) for key in logs.logs)
        log = logs.logs.get(self.log or "")
        shown = (
            log,
            names,
            air.stretches,
            air.channel,
            picked,
            decays,
            palette,
            self.theme.pixels,
            self.live,
            air.events,
            air.log_units,
            self.over.isChecked(),
            self.course and self.course[2],
        )
        if shown == self._shown:
            return
        if (*shown[:2], *shown[3:4], shown[10:11]) != (
            *self._shown[:2],
            *self._shown[3:4],
            self._shown[10:11],
        ):
            self._choose_from(names)
        self._shown = shown
        self._say(answers)
        self._fit()
        with refilling(self.marks_box):
            self._list(picked, decays)
        self._draw(picked)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit()
        if self.isVisible() and self.logs is not None:
            self._draw(self.workspace.picked)

    def _fit(self) -> None:
        """What there is no room for gives way to the chart."""
        letters = self.width() / self.theme.pixels
        has_log = self.log is not None
        self.said.setVisible(letters > ROOM_FOR_WORDS or not has_log)
        self.list.setVisible(letters > ROOM_FOR_LIST and has_log)

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.workspace.view.changed.emit()  # shown at last: what it shows is worked out now

    @staticmethod
    def _decays(review: Review) -> dict[str, str]:
        found = {}
        for finding in review.of("air"):
            if finding.rule == "log-decay" and "rate" in finding.figures:
                rate, low, high = (finding.figures[key] for key in ("rate", "low", "high"))
                found[finding.about[0]] = f"falls {rate:.1f}/h ({low:.1f}–{high:.1f})"
            elif finding.rule == "log-decay":
                found[finding.about[0]] = "cannot tell"
        return found

    def _say(self, answers: Answers) -> None:
        logs, log = self.logs, None if self.logs is None else self.logs.logs.get(self.log or "")
        unread = [] if logs is None else list(logs.unread)
        if log is None or logs is None or self.log is None:
            why = f"{name_of(answers.base, unread[0])} cannot be read. " if unread else ""
            self.said.setText(self.live or why + NOTHING)
            return
        about = (
            f"{name_of(answers.base, self.log)}: {log.minutes:.0f} min from {log.begun:%d %b %Y %H:%M},"
            f" {len(log.seconds):,} readings"
        )
        self.said.setText(
            f"{self.live or about}. {self._of_day()}Not held against a limit: it is read for decays and ratios."
        )

    def _of_day(self) -> str:
        """How the simulated day goes with the log."""
        if not self.over.isChecked():
            return ""
        if self.course is None:
            return "No simulated day is told in it. "
        place = self.course[2]
        return f"The day begins at minute {place.at / 60:.0f}; it shows {place.times:.2g} times what that expects. "

    def _choose_from(self, names: tuple[tuple[str, str], ...]) -> None:
        """Choosers for the log and its channel, where there is a choice."""
        clear(self.choosers)
        if self.logs is None or self.log is None:
            return
        if len(names) > 1:
            chooser: ChoiceField[str] = ChoiceField("Log that is looked at", names, widest=18)
            chooser.show_value(self.log)
            chooser.entered.connect(self._other_log)
            self.choosers.addWidget(chooser)
        channels = [(one.name, one.name) for one in self.logs.logs[self.log].channels]
        if len(channels) > 1:
            column: ChoiceField[str] = ChoiceField("Column of the log", channels, widest=18)
            column.show_value(self.logs.channel(self.log).name)
            column.entered.connect(self._other_channel)
            self.choosers.addWidget(column)
        shown = self.logs.channel(self.log)
        if not shown.is_sure or any(one.log == self.log and one.column == shown.name for one in self.units):
            unit: ChoiceField[str] = ChoiceField(
                "Unit of this column, which its name does not tell", [(one, one) for one in UNITS[shown.kind]]
            )
            unit.show_value(shown.written)
            unit.entered.connect(self._other_unit)
            self.choosers.addWidget(unit)

    def _other_log(self, log: str) -> None:
        self.log = log
        self.workspace.pick(None)
        self.workspace.view.changed.emit()

    def _other_channel(self, channel: str) -> None:
        self.workspace.apply(lambda shop: change_air(shop, channel=channel), "Look at another column")

    def _other_unit(self, unit: str) -> None:
        if self.logs is not None and self.log is not None:
            told = LogUnit(log=self.log, column=self.logs.channel(self.log).name, unit=unit)
            self.workspace.apply(lambda shop: put(shop, told), "Tell a column's unit")

    # ---- the list and the chart

    def _mine(self) -> list[LogStretch]:
        return [] if self.logs is None else [one for one in self.logs.stretches if one.log == self.log]

    def _list(self, picked: str | None, decays: dict[str, str]) -> None:
        assert self.logs is not None
        if self.log is not None and not self._mine():
            hint = Words("“Log ▾” marks the background, work, and how it decays.")
            hint.setObjectName("small")
            hint.setWordWrap(True)
            self.marks_box.addWidget(hint)
        for one in self._mine():
            found = self.logs.summary(one)
            figure = (
                decays.get(one.id, "…")
                if one.shows == "decay"
                else f"mean {Figures.reading(found.mean)}, peak {Figures.reading(found.peak)}"
            )
            if not found.readings:
                figure = "no readings"
            button = NameButton(
                f"{one.start / 60:.0f}–{one.end / 60:.0f} min · {one.name or one.shows}\n{figure}"
            )
            button.setObjectName("work")
            button.setCheckable(True)
            button.setChecked(one.id == picked)
            set_tip(
                button,
                f"{one.name or one.shows}: {figure}. Pick it to say what was done, and to move its ends.",
            )
            button.clicked.connect(partial(self._pick, one.id))
            self.marks_box.addWidget(button)
        for event in self.events:
            button = NameButton(f"{event.at / 60:.1f} min · {event.name or 'event'}")
            button.setObjectName("work")
            button.setCheckable(True)
            button.setChecked(event.id == picked)
            button.clicked.connect(partial(self._pick, event.id))
            self.marks_box.addWidget(button)
        self.marks_box.addStretch(1)

    def _pick(self, stretch: str, _: bool = False) -> None:
        self.workspace.pick(stretch)

    def _draw(self, picked: str | None) -> None:
        import pyqtgraph as pg

        if self.plot is None:
            self.plot = make_plot()
            self.row.addWidget(self.plot, 5)
        self.plot.clear()
        self.plot.setVisible(self.log is not None)
        if self.logs is None or self.log is None:
            return
        log, channel = self.logs.logs[self.log], self.logs.channel(self.log)
        palette = self.theme.palette
        lines = self.height() / self.theme.pixels
        left = channel.name if lines > ROOM_FOR_NAMES else ""
        dress_plot(self.plot, self.theme, "minutes of the log" if lines > ROOM_FOR_AXIS else "", left)
        seconds, values = envelope(log.seconds, channel.values, max(self.plot.width(), 200))
        wide = (
            1.5 if len(values) == len(channel.values) else 1.0
        )  # what goes to and fro at every pixel is slow
        self.plot.plot(
            seconds / 60.0,
            values,
            pen=pg.mkPen(palette.ink, width=wide),
            connect="finite",
            antialias=wide > 1.0,
        )
        seen = channel.values[np.isfinite(channel.values)]
        top = float(seen.max()) * 1.3 if len(seen) and seen.max() > 0 else 1.0
        letter = log.minutes / max(1.0, self.plot.width() - 5.0 * self.theme.pixels) * self.theme.pixels * 0.5
        free_from = 0.0  # where the next name may begin [min]
        for one in sorted(self._mine(), key=lambda mine: mine.start):
            self._mark(one, one.id == picked)
            has_room = self.height() > ROOM_FOR_NAMES * self.theme.pixels and one.start / 60 >= free_from
            if has_room or one.id == picked:
                name = words(one.name or one.shows, palette.ink, self.theme)
                name.setPos(one.start / 60, top)
                self.plot.addItem(name)
                free_from = one.start / 60 + letter * len(one.name or one.shows)
        named = self.height() > ROOM_FOR_NAMES * self.theme.pixels
        draw_events(self.plot, self.theme, self.events, top if named else 0.0)
        if self.over.isChecked() and self.course is not None:
            draw_course(self.plot, self.theme, self.course, float(log.seconds[-1]))
        self.plot.setXRange(0, log.minutes, padding=0)
        self.plot.setYRange(min(0.0, float(seen.min())) if len(seen) else 0.0, top, padding=0)

    def _mark(self, one: LogStretch, is_picked: bool) -> None:
        """A stretch as a band; the picked one's ends can be taken hold of."""
        band = draw_band(self.plot, self.theme, one, is_picked)
        if is_picked:
            band.sigRegionChangeFinished.connect(partial(self._let_go, one.id))

    def _let_go(self, stretch: str, band: Any) -> None:
        start, end = sorted(band.getRegion())
        self.dragged.emit((stretch, max(0.0, start * 60.0), max(0.0, end * 60.0)))
