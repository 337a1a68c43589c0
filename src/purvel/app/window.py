"""The window: one shop, one plan in the middle, the order of the work along the side, findings on the right."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QSettings, QSize, Qt, QTimer
from PySide6.QtGui import QAction, QCloseEvent, QKeySequence, QShortcut
from PySide6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QMenu,
    QPushButton,
    QSizePolicy,
    QSplitter,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from purvel.app.application import icon
from purvel.app.desk import Desk
from purvel.app.filing import Filing
from purvel.app.picked import Inspector
from purvel.app.plan.view import PlanView
from purvel.app.reviewing import ReviewBench
from purvel.app.stages import ENTRIES, Stages, number_of
from purvel.app.stages.stage import Stage
from purvel.app.theme import DARK, LIGHT, Look, style_sheet
from purvel.app.widgets.fields import text_field
from purvel.app.widgets.finder import Finder
from purvel.app.widgets.findings import FindingsPanel
from purvel.app.widgets.flow import FitRow
from purvel.app.widgets.notice import Notice
from purvel.app.widgets.scrolled import scrolled
from purvel.demo import NAMES, demo_bytes
from purvel.files import loads
from purvel.review import Grade
from purvel.review.finding import Where
from purvel.shop.edits import change_shop
from purvel.shop.parts import name_of

SMALLEST, LARGEST = 15, 24  # px of text
COMPACT_FROM = 19  # px of text above which the rail and the right side give room to the middle

Command = tuple[str, Callable[[], object], str]  # words, what it does, keys


class Window(QMainWindow):
    """The main window."""

    def __init__(self, autosave_folder: Path | None = None, settings: QSettings | None = None) -> None:
        super().__init__()
        self.settings = settings or QSettings()
        self.look: Look = DARK if self.settings.value("look", "light") == "dark" else LIGHT
        self.pixels = min(LARGEST, max(SMALLEST, int(str(self.settings.value("text", SMALLEST)))))
        self.desk = Desk(self, autosave_folder)
        self.bench = ReviewBench(self.desk)
        self.notice = Notice()
        self.filing = Filing(self, self.desk, self.settings, autosave_folder, self.notice.ask)
        self.stages = Stages(self._make_stage)
        self.plan = PlanView(self.desk, self.bench)
        self.findings = FindingsPanel(self.bench)
        self.inspector = Inspector(self.desk)
        self._units = self.desk.shop.units
        self._number = 0
        self._holds_tool = False
        self._build()
        self._connect()
        self._keys()
        self.resize(1280, 800)
        self.setMinimumSize(900, 600)
        self.dress()
        self.show_stage(0)
        self._reviewed()

    # ---- building

    def _make_stage(self, make: type[Stage]) -> Stage:
        """A stage at its first showing, dressed and in its places."""
        stage = make(self.desk, self.bench)
        self.strip_column.addWidget(stage.strip)
        self.instruments.addWidget(stage.instrument)
        stage.strip.setVisible(False)
        stage.dress(self.look, self.pixels)
        stage.rebuild()
        stage.tool_changed.connect(self._guide)
        stage.tool_changed.connect(self.plan.update)
        return stage

    def _build(self) -> None:
        desk = QWidget()
        desk.setObjectName("desk")
        outer = QVBoxLayout(desk)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        outer.addWidget(self._header())
        middle = QHBoxLayout()
        middle.setContentsMargins(0, 0, 0, 0)
        middle.setSpacing(0)
        middle.addWidget(self._rail())
        self.instruments = QStackedWidget()
        top = QWidget()
        column = QVBoxLayout(top)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        strips = QWidget()
        self.strip_column = QVBoxLayout(strips)
        self.strip_column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(strips)
        column.addWidget(self.plan, 1)
        tray = QWidget()
        tray.setObjectName("tray")
        tray_box = QVBoxLayout(tray)
        tray_box.setContentsMargins(1, 1, 1, 1)
        tray_box.addWidget(self.instruments)
        self.upright = QSplitter(Qt.Orientation.Vertical)
        self.upright.addWidget(top)
        self.upright.addWidget(tray)
        self.upright.setStretchFactor(0, 5)
        self.upright.setStretchFactor(1, 2)
        self.upright.setChildrenCollapsible(False)
        self.across = QSplitter(Qt.Orientation.Horizontal)
        self.across.addWidget(self.upright)
        self.across.addWidget(self._right())
        self.across.setStretchFactor(0, 1)
        self.across.setStretchFactor(1, 0)
        self.across.setChildrenCollapsible(False)
        middle.addWidget(self.across, 1)
        outer.addLayout(middle, 1)
        self.setCentralWidget(desk)
        self.finder = Finder(desk)

    def _header(self) -> QWidget:
        header = FitRow(8)
        header.setObjectName("header")
        header.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        row = header.row
        self.menu_button = QToolButton()
        self.menu_button.setText("☰")
        self.menu_button.setAccessibleName("Shop menu")
        self.menu_button.setToolTip("Open, save, print, demo shops")
        self.menu_button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.menu_button.setMenu(self._menu())
        row.addWidget(self.menu_button)
        self.name = text_field("Name of the shop")
        self.name.entered.connect(
            lambda value: self.desk.apply(lambda shop: change_shop(shop, name=str(value)), "Name the shop")
        )
        self.name.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        row.addWidget(self.name)
        self.units_button = self._header_button(
            "", self.switch_units, "Switch between feet and inches and millimetres (U)"
        )
        row.addWidget(self.units_button)
        self.undo_button = self._header_button("Undo", self.desk.undo, "Ctrl+Z")
        self.redo_button = self._header_button("Redo", self.desk.redo, "Ctrl+Shift+Z")
        row.addWidget(self.undo_button)
        row.addWidget(self.redo_button)
        self.mend = self._header_button("", self.show_worst, "Go to the worst finding")
        row.addWidget(self.mend)
        row.addWidget(self._header_button("Find", self.find, "Ctrl+K"))
        row.addWidget(self._header_button("Print", self.filing.print_binder, "Ctrl+P: a binder as PDF"))
        row.addWidget(
            self._header_button("A+", lambda: self.set_text(self.pixels + 3), "Larger text (Ctrl++)")
        )
        row.addWidget(
            self._header_button("A−", lambda: self.set_text(self.pixels - 3), "Smaller text (Ctrl+-)")
        )
        return header

    def _header_button(self, text: str, act: Callable[[], object], tip: str) -> QPushButton:
        button = QPushButton(text)
        button.setToolTip(tip)
        button.clicked.connect(lambda: act())
        return button

    def _commands(self) -> list[list[Command]]:
        """What the menu and the finder both have, in groups."""
        return [
            [
                ("New shop", self.filing.new, "Ctrl+N"),
                ("Open …", self.filing.open_dialog, "Ctrl+O"),
                ("Save", self.filing.save, "Ctrl+S"),
                ("Save as …", self.filing.save_as, "Ctrl+Shift+S"),
                ("Write drawing, list or binder …", self.filing.write_dialog, "Ctrl+E"),
                ("Print the binder …", self.filing.print_binder, "Ctrl+P"),
            ],
            [
                ("Find anything", self.find, "Ctrl+K"),
                ("Undo", self.desk.undo, "Ctrl+Z"),
                ("Redo", self.desk.redo, "Ctrl+Shift+Z"),
            ],
            [
                ("Switch units", self.switch_units, ""),
                ("Larger text", lambda: self.set_text(self.pixels + 3), "Ctrl++"),
                ("Smaller text", lambda: self.set_text(self.pixels - 3), "Ctrl+-"),
                ("Light or dark paper", self.switch_look, "Ctrl+L"),
            ],
            [("Close", self.close, "Ctrl+Q")],
        ]

    def _menu(self) -> QMenu:
        menu = QMenu(self)
        files, *groups = self._commands()
        self._add_group(menu, files)
        for title, fill in (("Opened lately", self._list_recent), ("Demo shops", self._list_demos)):
            shops = menu.addMenu(title)
            shops.aboutToShow.connect(lambda of=shops, do=fill: do(of))
        for group in groups:
            menu.addSeparator()
            self._add_group(menu, group)
        return menu

    def _add_group(self, menu: QMenu, group: list[Command]) -> None:
        for label, act, keys in group:
            action = QAction(label, self)
            action.setShortcut(QKeySequence(keys))
            action.triggered.connect(lambda _=False, do=act: do())
            menu.addAction(action)
            self.addAction(action)

    def _list_recent(self, menu: QMenu) -> None:
        """Anew each time: they change."""
        menu.setToolTipsVisible(True)  # two files may have one name
        menu.clear()
        for path in self.filing.recent():
            action = menu.addAction(path.stem)
            action.setToolTip(str(path))
            action.triggered.connect(lambda _=False, p=path: self.filing.open_path(p))
        if menu.isEmpty():
            menu.addAction("None saved yet").setEnabled(False)

    def _list_demos(self, menu: QMenu) -> None:
        """Their names are in their files, which the first window does not wait for."""
        for name in () if menu.actions() else NAMES:
            menu.addAction(loads(demo_bytes(name)).name).triggered.connect(
                lambda _=False, n=name: self.filing.open_demo(n)
            )

    def _rail(self) -> QWidget:
        rail = QWidget()
        rail.setObjectName("rail")
        column = QVBoxLayout(rail)
        column.setContentsMargins(6, 8, 6, 8)
        column.setSpacing(6)
        self.rail: list[QToolButton] = []
        for number, stage in enumerate(ENTRIES):
            button = QToolButton()
            button.setText(f"{number + 1} {stage.record.title}")
            button.setObjectName("stage")
            button.setCheckable(True)
            button.setToolTip(f"{stage.record.question}  (key {number + 1})")
            button.clicked.connect(lambda _=False, n=number: self.show_stage(n))
            column.addWidget(button)
            self.rail.append(button)
        column.addStretch(1)
        return rail

    def _right(self) -> QWidget:
        side = QWidget()
        stack = QVBoxLayout(side)
        stack.setContentsMargins(0, 0, 0, 0)
        stack.setSpacing(0)
        stack.addWidget(self.notice)
        right = QSplitter(Qt.Orientation.Vertical)
        right.setChildrenCollapsible(False)
        self.found_caption, picked_caption = QLabel(), QLabel("Picked")
        for label, widget in ((self.found_caption, self.findings), (picked_caption, self.inspector)):
            panel = QWidget()
            column = QVBoxLayout(panel)
            column.setContentsMargins(0, 4, 4, 0)
            column.setSpacing(2)
            label.setObjectName("caption")
            label.setWordWrap(True)
            label.setContentsMargins(8, 0, 0, 0)
            column.addWidget(label)
            scroll = scrolled(widget)
            if widget is self.findings:
                self.findings.area = scroll
            column.addWidget(scroll, 1)
            right.addWidget(panel)
        right.setStretchFactor(0, 3)
        right.setStretchFactor(1, 2)
        stack.addWidget(right, 1)
        self.right = side
        return side

    def _connect(self) -> None:
        self.filing.opened.connect(self._opened)
        self.desk.changed.connect(self._changed)
        self.plan.tool_used.connect(self._guide)
        self.desk.said.connect(self.notice.say)
        self.desk.picked_changed.connect(self._picked)
        self.findings.pointed.connect(self._point_at)
        self.bench.reviewed.connect(self._reviewed)
        self.bench.went_stale.connect(self._stale)
        self.bench.failed.connect(self._failed)

    def _keys(self) -> None:
        def key(keys: str, act: Callable[[], object]) -> None:
            shortcut = QShortcut(QKeySequence(keys), self)
            shortcut.activated.connect(act)

        key("Ctrl+Y", self.desk.redo)
        key("Ctrl+=", lambda: self.set_text(self.pixels + 3))
        key("F1", self.help)
        for number in range(len(ENTRIES)):
            key(f"Alt+{number + 1}", lambda n=number: self.show_stage(n))

    def keyPressEvent(self, event: object) -> None:
        text = event.text()  # type: ignore[attr-defined]
        if text.isdigit() and 1 <= int(text) <= len(ENTRIES):
            self.show_stage(int(text) - 1)
        elif text.lower() == "u":
            self.switch_units()
        else:
            super().keyPressEvent(event)  # type: ignore[arg-type]

    # ---- what is shown

    @property
    def stage(self) -> Stage:
        """The stage that is shown."""
        return self.stages[self._number]

    def show_stage(self, number: int) -> None:
        """Goes to a stage."""
        self.stage.put_down()
        if number != self._number:
            self.notice.say("")  # it was said of the other stage
        self._number = number
        chosen = self.stage
        for index, button in enumerate(self.rail):
            button.setChecked(index == number)
        for stage in self.stages.made():
            stage.strip.setVisible(stage is chosen)
        self.instruments.setCurrentWidget(chosen.instrument)
        self.plan.stage = self.stage
        self.findings.show_stage(self.stage.entry.key)
        self.found_caption.setText(self.stage.entry.record.question)
        self.stage.refresh()
        self._guide()
        self.plan.fit_again()

    def take_focus(self) -> None:
        """Puts the keyboard where the work begins: the first wall of an empty shop, else the plan."""
        if self.desk.shop.room.walls:
            self.plan.setFocus()
        else:
            self.stage.begin()

    def _point_at(self, where: Where | None, just_opened: bool) -> None:
        """Plan and instrument show what the open finding speaks of; later choices of the user's own are left
        alone.
        """
        self.plan.point_at(where)
        if where is not None and just_opened:
            self.stage.show_gate_set(where.gate_set)

    def _opened(self) -> None:
        self.stage.put_down()
        self.fit()
        self.take_focus()

    def fit(self) -> None:
        """Shows the whole room."""
        QTimer.singleShot(0, self.plan.fit)
        self.plan.fit()

    def dress(self) -> None:
        """Takes on theme and text size."""
        self.setStyleSheet(style_sheet(self.look, self.pixels))
        for stage in self.stages.made():
            stage.dress(self.look, self.pixels)
            stage.rebuild()
        for button, stage in zip(self.rail, ENTRIES):
            button.setIcon(icon(stage.key, self.look.wood_edge, self.look.accent, self.look.accent_text))
            button.setIconSize(QSize(round(self.pixels * 1.3), round(self.pixels * 1.3)))
            compact = self.pixels > COMPACT_FROM
            button.setToolButtonStyle(
                Qt.ToolButtonStyle.ToolButtonTextUnderIcon
                if compact
                else Qt.ToolButtonStyle.ToolButtonTextBesideIcon
            )
            # room for the count, so that the plan does not shift under the hand
            button.setFixedWidth(round(self.pixels * (6.7 if compact else 9.4)))
        self.plan.look, self.plan.pixels = self.look, self.pixels
        self.findings.look, self.findings.pixels = self.look, self.pixels
        self.name.line.setFixedWidth(self.pixels * 15 - max(0, self.pixels - 17) * 12)
        wide = min(round(self.pixels * 22), 380)
        self.right.setMinimumWidth(min(wide, 340))
        self.across.setSizes([max(400, self.width() - wide - 120), wide])
        tray = 0.28 if self.pixels <= COMPACT_FROM else 0.33
        self.upright.setSizes([round(self.height() * (0.9 - tray)), round(self.height() * tray)])
        self.findings.refresh()
        self.inspector.rebuild()
        self._changed()
        self.plan.update()

    def set_text(self, pixels: int) -> None:
        """Another text size."""
        self.pixels = min(LARGEST, max(SMALLEST, pixels))
        self.settings.setValue("text", self.pixels)
        self.dress()

    def switch_look(self) -> None:
        """Light or dark."""
        self.look = DARK if self.look is LIGHT else LIGHT
        self.settings.setValue("look", self.look.name)
        self.dress()

    def switch_units(self) -> None:
        """The other system; lengths in the document stay what they are."""
        other = "metric" if self.desk.shop.units == "imperial" else "imperial"
        self.desk.apply(lambda shop: change_shop(shop, units=other), "Switch units")

    def _changed(self) -> None:
        shop = self.desk.shop
        if shop.units != self._units:
            self._units = shop.units
            for stage in self.stages.made():
                stage.rebuild()
            self.inspector.rebuild()
        self.name.show_value(shop.name)
        self.units_button.setText("ft-in → mm" if shop.units == "imperial" else "mm → ft-in")
        self.undo_button.setEnabled(bool(self.desk.undo_label))
        self.redo_button.setEnabled(bool(self.desk.redo_label))
        self.undo_button.setToolTip(
            f"Undo: {self.desk.undo_label} (Ctrl+Z)" if self.desk.undo_label else "Nothing to undo"
        )
        self.redo_button.setToolTip(
            f"Redo: {self.desk.redo_label} (Ctrl+Shift+Z)" if self.desk.redo_label else "Nothing to redo"
        )
        file = self.desk.path.name if self.desk.path else "not saved yet"
        self.setWindowTitle(
            f"{shop.name} ({file}{', changed' if self.desk.is_dirty and self.desk.path else ''}) · Purvel"
        )
        self.stage.refresh()
        self._guide()

    def _guide(self) -> None:
        hint, stage = self.stage.tool_hint(), self.stage
        if hint and not self._holds_tool:
            self.plan.setFocus()
        self._holds_tool = bool(hint)
        self.notice.guide(hint or (stage.empty_hint() if self.desk.shown.things else ""), stage.tool_tray())

    def _picked(self) -> None:
        self.stage.refresh()

    def _stale(self) -> None:
        self.mend.setText("checking …")

    def _failed(self, sentence: str) -> None:
        self.mend.setText("not checked")
        self.notice.say(sentence)

    def _reviewed(self) -> None:
        count = self.bench.latest.to_mend()
        none = "nothing to mend" if self.bench.latest.findings else "nothing to check yet"
        self.mend.setText(f"{count} to mend" if count else none)
        for number, (button, stage) in enumerate(zip(self.rail, ENTRIES)):
            bad = sum(one.grade <= Grade.MEND for one in self.bench.latest.of(stage.key))  # type: ignore[arg-type]
            button.setText(f"{number + 1} {stage.record.title}{f' ({bad})' if bad else ''}")
            button.setAccessibleName(f"{stage.record.title}, {bad} to mend")
        self.stage.refresh()

    def show_worst(self) -> None:
        """Opens the worst finding where it belongs."""
        findings = self.bench.latest.findings
        if findings:
            self.show_stage(number_of(findings[0].stage))
            self.findings.reveal(findings[0].key)
            if findings[0].where.items:
                self.desk.pick(findings[0].where.items[0])

    # ---- commands

    def find(self) -> None:
        """Ctrl+K."""
        entries: list[tuple[str, Callable[[], object]]] = []
        for number, stage in enumerate(self.stages[index] for index in range(len(ENTRIES))):
            entries.append((f"Go to {stage.entry.record.title}", lambda n=number: self.show_stage(n)))
            for label, act in stage.commands():
                entries.append((label, lambda n=number, do=act: (self.show_stage(n), do())))
            for item in stage.pickable():
                label = f"Pick {name_of(self.desk.shop, item)} in {stage.entry.record.title}"
                entries.append(
                    (
                        label,
                        lambda n=number, i=item: (
                            self.show_stage(n),
                            self.desk.pick(i),
                            self.plan.setFocus(),
                        ),
                    )
                )
        entries += [(label, act) for group in self._commands() for label, act, _ in group]
        entries.append(("Fit the room in the window", self.plan.fit))
        for finding in self.bench.latest.findings:
            number = number_of(finding.stage)
            entries.append(
                (
                    f"{finding.grade.word}: {finding.sentence}",
                    lambda n=number, k=finding.key: (self.show_stage(n), self.findings.reveal(k)),
                )
            )
        self.finder.begin(entries)

    def help(self) -> None:
        """F1: the keys in one breath."""
        self.notice.say(
            "1 to 4 change the stage (Alt with a field in use). N picks the next thing, arrows nudge it,"
            " Shift+arrows farther, R turns 90°, Shift+R 15°, = types its distance to a wall, Delete takes it"
            " away. F fits, Z looks at it, + and - zoom, Ctrl+arrows or the middle button move the paper."
            " Ctrl+K finds anything."
        )

    # ---- closing

    def closeEvent(self, event: QCloseEvent) -> None:
        self.bench.give_up()
        self.desk.close()
        QApplication.processEvents()
        super().closeEvent(event)
