"""The window: one shop, one plan in the middle, the order of the work along the side, findings on the right.

It puts the parts together and has one route by which they are shown: `refresh`.
"""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QSettings, Qt, QTimer
from PySide6.QtGui import QCloseEvent, QKeyEvent, QKeySequence, QShortcut
from PySide6.QtWidgets import (
    QApplication,
    QComboBox,
    QHBoxLayout,
    QPushButton,
    QSplitter,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from purvel.app import commands
from purvel.app.filing import Filing
from purvel.app.frame import Frame
from purvel.app.header import Actions, Header
from purvel.app.keeping import Keeper
from purvel.app.picked import Inspector
from purvel.app.plan.plan_view import PlanView
from purvel.app.rail import COMPACT_FROM, Rail, key_of
from purvel.app.reviews import Reviews
from purvel.app.stages import ENTRIES, Stages
from purvel.app.stages.stage import Stage
from purvel.app.theme import ink_all, inked, style_sheet
from purvel.app.widgets.finder import Finder
from purvel.app.widgets.findings import FindingsPanel
from purvel.app.widgets.notice import Notice
from purvel.app.widgets.scrolled import scrolled
from purvel.app.widgets.words import Words
from purvel.app.workspace import Workspace
from purvel.files import Document
from purvel.quantities.systems import System
from purvel.shop.edits import in_units


class Window(QWidget):
    """All that the frame holds; a window by itself where it has none."""

    def __init__(
        self, autosave: Path | None = None, settings: QSettings | None = None, frame: Frame | None = None
    ) -> None:
        settings = settings or (frame.settings if frame else QSettings())
        theme = frame.theme if frame else inked(settings)
        super().__init__(frame)
        self.settings, self.theme = settings, theme
        self.workspace = Workspace(self)
        self.view = self.workspace.view
        self.reviews = Reviews(self.workspace)
        self.notice = Notice()
        self.keeper = Keeper(self.workspace, autosave)
        self.filing = Filing(self, self.keeper, self.settings, autosave, self.notice.ask)
        self.stages = Stages(self._make_stage)
        self.plan = PlanView(self.workspace, self.reviews, self.theme)
        self.findings = FindingsPanel(self.workspace, self.reviews, self.theme)
        self.inspector = Inspector(self.workspace, self.theme)
        self.rail = Rail(self.theme)
        self._shown_stage: Stage | None = None
        self._holds_tool = False
        self._close_anyway = False
        self._build()
        self._connect()
        self.resize(1280, 800)
        self.setMinimumSize(900, 600)
        self._dress()

    # ---- building

    def _make_stage(self, make: type[Stage]) -> Stage:
        """A stage at its first showing, in its places."""
        stage = make(self.workspace, self.reviews, self.theme)
        self.strip_column.addWidget(stage.strip)
        self.instruments.addWidget(stage.instrument)
        stage.strip.setVisible(False)
        stage.tool_changed.connect(self._guide)
        stage.tool_changed.connect(self.plan.update)
        return stage

    def _build(self) -> None:
        self.setObjectName("backdrop")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        actions = Actions(self.find_anything, self.filing.print_binder, self.show_worst, self.switch_units)
        self.header = Header(self.workspace, self.reviews, self.theme, commands.menu(self), actions)
        outer.addWidget(self.header)
        middle = QHBoxLayout()
        middle.setContentsMargins(0, 0, 0, 0)
        middle.setSpacing(0)
        middle.addWidget(self.rail)
        self.across = _splitter(Qt.Orientation.Horizontal, (self._middle(), 1), (self._right(), 0))
        middle.addWidget(self.across, 1)
        outer.addLayout(middle, 1)
        self.notice.lie_over(self.plan, self.found_panel, self)
        self.finder = Finder(self, self.plan)

    def _middle(self) -> QWidget:
        """The strip, the plan, and below it the instrument."""
        top, strips, tray = QWidget(), QWidget(), QWidget()
        column = QVBoxLayout(top)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.strip_column = QVBoxLayout(strips)
        self.strip_column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(strips)
        column.addWidget(self.plan, 1)
        tray.setObjectName("tray")
        tray_box = QVBoxLayout(tray)
        tray_box.setContentsMargins(1, 1, 1, 1)
        self.instruments = QStackedWidget()
        tray_box.addWidget(self.instruments)
        self.upright = _splitter(Qt.Orientation.Vertical, (top, 5), (tray, 2))
        return self.upright

    def _right(self) -> QWidget:
        """The findings, what is picked."""
        self.right = QWidget()
        stack = QVBoxLayout(self.right)
        stack.setContentsMargins(0, 0, 0, 0)
        stack.setSpacing(0)
        self.found_caption = Words()
        self.findings.area = scrolled(self.findings)
        self.found_panel = _panel(self.found_caption, self.findings.area)
        self.picked_panel = _panel(Words("Picked"), scrolled(self.inspector))
        stack.addWidget(_splitter(Qt.Orientation.Vertical, (self.found_panel, 3), (self.picked_panel, 2)), 1)
        return self.right

    def _connect(self) -> None:
        self.filing.opened.connect(self._opened)
        self.filing.leaving.connect(self._finish)
        self.rail.chosen.connect(self.show_stage)
        self.plan.tool_used.connect(self._guide)
        self.workspace.said.connect(self.notice.say)
        self.reviews.failed.connect(self.notice.say)
        for signal in (self.workspace.changed, self.workspace.previewed, self.view.changed):
            signal.connect(self.refresh)
        self.keeper.saved.connect(self.refresh)
        self.reviews.reviewed.connect(self.refresh)
        self.reviews.went_stale.connect(self._went_stale)
        self.reviews.failed.connect(lambda _: self.refresh())
        self.theme.changed.connect(self._dress)
        for keys, act in commands.shortcuts(self):
            QShortcut(QKeySequence(keys), self).activated.connect(act)

    def _enter(self) -> None:
        """Enter presses the button that has the keyboard; on a choice in the strip, the strip's main one."""
        held = QApplication.focusWidget()
        if isinstance(held, QToolButton) and held.menu() is not None:
            held.showMenu()
        elif isinstance(held, QPushButton | QToolButton):
            held.click()
        elif isinstance(held, QComboBox) and self.stage.strip.isAncestorOf(held):
            self.stage.enter()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        text = event.text()
        entry = next((e for n, e in enumerate(ENTRIES, start=1) if text and key_of(n) == text), None)
        if entry is not None:
            self.show_stage(entry.key)
        elif text.lower() == "u":
            self.switch_units()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._enter()
        else:
            super().keyPressEvent(event)

    # ---- what is shown

    @property
    def stage(self) -> Stage:
        """The stage that is shown."""
        return self.stages[self.view.now.stage]

    def refresh(self) -> None:
        """The one route by which everything is shown: the shop in, its review and the view beside it."""
        shop, review, view = self.workspace.shown, self.reviews.latest, self.view.now
        stage = self.stage
        if stage is not self._shown_stage:
            self._change_stage(stage)
        self.header.show_shop(self.workspace.shop, review, view.scene)
        self.rail.show_review(review, view)
        stage.show(shop, review, view)
        self.plan.show_shop(shop, review, view, stage)
        self.findings.show_findings(review, view)
        self.inspector.show_picked(self.workspace.shop, view)
        self.picked_panel.setVisible(self.inspector.has_form)  # nothing picked, nothing shown
        self._entitle()
        self._guide()

    def _change_stage(self, stage: Stage) -> None:
        if self._shown_stage is not None:
            self._shown_stage.put_down()
            self.notice.say("")  # it was said of the other stage
        self._shown_stage = stage
        for made in self.stages.made():
            made.strip.setVisible(made is stage)
        self.instruments.setCurrentWidget(stage.instrument)
        self.found_caption.setText(stage.entry.record.question)

    def _went_stale(self) -> None:
        self.header.show_shop(self.workspace.shop, self.reviews.latest, self.view.now.scene)

    def _entitle(self) -> None:
        name, path = self.workspace.shop.name, self.keeper.path
        file = path.name if path else "not saved yet"
        changed = ", changed" if self.keeper.is_dirty and path else ""
        self.setWindowTitle(f"{name} ({file}{changed}) · Purvel")

    def _guide(self) -> None:
        """What the held tool waits for, or the first step where things stand already; the keyboard goes to
        the plan.
        """
        stage = self.stage
        hint = stage.tool_hint()
        if hint and not self._holds_tool:
            self.plan.setFocus()
        self._holds_tool = bool(hint)
        self.notice.guide(
            hint or (stage.empty_hint() if self.workspace.shown.things else ""), stage.tool_tray()
        )

    def _dress(self) -> None:
        """Takes on theme and text size."""
        pixels = self.theme.pixels
        ink_all(self.theme.palette, pixels)
        sheet = style_sheet(self.theme.palette, pixels)
        if self.window().styleSheet() != sheet:
            self.window().setStyleSheet(sheet)
        wide = min(round(pixels * 22), 380)
        self.right.setMinimumWidth(min(wide, 340))
        self.across.setSizes([max(400, self.width() - wide - 120), wide])
        tray = 0.28 if pixels <= COMPACT_FROM else 0.33
        self.upright.setSizes([round(self.height() * (0.9 - tray)), round(self.height() * tray)])
        self.refresh()

    def begin(self, document: Document | None, path: Path | None, refused: str = "") -> None:
        """Opens what the program was started with, else the last shop; says why it was `refused`."""
        self.take_focus()
        self.filing.begin(document, path, refused)

    def show_stage(self, key: str) -> None:
        """Goes to a stage."""
        self.view.look_at(stage=key, open_finding=None)

    def take_focus(self) -> None:
        """Puts the keyboard where the work begins: the first wall of an empty shop, else the plan."""
        if self.workspace.shop.room.walls:
            self.plan.setFocus()
        else:
            self.stage.begin()

    def _opened(self) -> None:
        self.stage.put_down()
        self.fit()
        self.take_focus()

    def fit(self) -> None:
        """Shows the whole room."""
        QTimer.singleShot(0, self.plan.fit)
        self.plan.fit()

    # ---- commands

    def switch_units(self) -> None:
        """The other system; lengths in the document stay what they are."""
        other: System = "metric" if self.workspace.shop.units == "imperial" else "imperial"
        self.workspace.apply(lambda shop: in_units(shop, other), "Switch units")

    def show_worst(self) -> None:
        """One list of all that is to mend, in the order to take it; what holds already where nothing is."""
        self.finder.begin(list(commands.to_mend(self)))

    def find_anything(self) -> None:
        """Ctrl+K."""
        self.finder.begin(list(commands.findable(self)))

    def help(self) -> None:
        """F1: the keys in one breath."""
        last = key_of(min(len(ENTRIES), 10))
        self.notice.say(
            f"1 to {last} change the stage (Alt with a field in use). N picks the next thing, arrows nudge it,"
            " Shift+arrows farther, R turns 90°, Shift+R 15°, = types its distance to a wall, Delete takes it"
            " away. F fits, Z looks at it, + and - zoom, Ctrl+arrows or the middle button move the paper. Ctrl+K"
            " finds anything."
        )

    # ---- closing

    def _lose_and_close(self) -> None:
        self._close_anyway = True
        self.window().close()

    def _finish(self) -> None:
        for made in self.stages.made():
            made.finish()

    def closeEvent(self, event: QCloseEvent) -> None:
        self._finish()
        if not self._close_anyway and not self.keeper.keep_now():
            event.ignore()
            sentence = "Your work could be kept nowhere: closing now would lose it."
            self.notice.ask(
                sentence, [("Save it", self.filing.save), ("Close and lose it", self._lose_and_close)]
            )
            return
        self.reviews.give_up()
        self.keeper.close()
        QApplication.processEvents()
        super().closeEvent(event)


def _splitter(direction: Qt.Orientation, *parts: tuple[QWidget, int]) -> QSplitter:
    """Parts side by side, with their shares of what room is left."""
    made = QSplitter(direction)
    for number, (widget, share) in enumerate(parts):
        made.addWidget(widget)
        made.setStretchFactor(number, share)
    made.setChildrenCollapsible(False)
    return made


def _panel(caption: Words, content: QWidget) -> QWidget:
    """A panel under a small heading."""
    panel = QWidget()
    column = QVBoxLayout(panel)
    column.setContentsMargins(0, 4, 4, 0)
    column.setSpacing(2)
    caption.setObjectName("caption")
    caption.setWordWrap(True)
    caption.setContentsMargins(8, 0, 0, 0)
    column.addWidget(caption)
    column.addWidget(content, 1)
    return panel
