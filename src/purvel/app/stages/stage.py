"""What the stages share: the desk, the bench, and tools that do nothing until a stage has one."""

from collections.abc import Callable

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QLayout, QMenu, QToolButton, QWidget

from purvel.app.desk import Desk
from purvel.app.plan.hands import Grip
from purvel.app.plan.prompt import Choice
from purvel.app.plan.sheet import Sheet
from purvel.app.reviewing import ReviewBench
from purvel.app.stages import Entry
from purvel.app.theme import LIGHT, Look
from purvel.app.widgets.fields import TextField
from purvel.app.widgets.flow import FlowRow
from purvel.review import Answers, Figures, Grade


class Stage(QObject):
    """One stage; `entry` is its place in the list."""

    tool_changed = Signal()

    entry: Entry
    takes_fixtures = False
    edge_lines = 0.6  # lines of lettering that the plan keeps free round the room

    def __init__(self, desk: Desk, bench: ReviewBench) -> None:
        super().__init__(desk)
        self.desk, self.bench = desk, bench
        self.look: Look = LIGHT
        self.pixels = 15
        self.strip = FlowRow()
        self.strip.setObjectName("strip")
        self.strip.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.row = self.strip.row
        self.instrument: QWidget = QWidget()

    @property
    def say(self) -> Figures:
        """Figures in the reader's units."""
        return Figures(self.desk.shown.units)

    def answers(self) -> Answers:
        """Answers that follow the hand."""
        return self.bench.quick()

    def trouble(self) -> dict[str, str]:
        """Edge colours of what a Stop or Mend of this stage is about."""
        found: dict[str, str] = {}
        for finding in self.bench.latest.of(self.entry.key):  # type: ignore[arg-type]
            if finding.grade <= Grade.MEND and finding.where.items:
                found.setdefault(finding.where.items[0], self.look.grade(finding.grade))
        return found

    # ---- for the plan

    def draw(self, sheet: Sheet) -> None:
        """Draws the stage's answer on the plan."""

    def empty_hint(self) -> str:
        """What to do where there is nothing to see yet."""
        return ""

    def tool_press(self, x: float, y: float) -> bool:
        """A click while a tool is held; False leaves it to picking and dragging."""
        return False

    def tool_move(self, x: float, y: float) -> None:
        """The pointer moved to a plan point."""

    def tool_key(self, key: int, shift: bool) -> bool:
        """A key while a tool is held."""
        return False

    def tool_lengths(self) -> list[Choice]:
        """What a length typed on the plan can be for the held tool."""
        return []

    def grip_at(self, x: float, y: float) -> Grip | None:
        """What only this stage can take hold of at a point."""
        return None

    def pickable(self) -> list[str]:
        """What N goes through."""
        return [thing.id for thing in self.desk.shop.things]

    def tool_hint(self) -> str:
        """What the held tool waits for."""
        return ""

    def tool_tray(self) -> QWidget | None:
        """The held tool's choices."""
        return None

    # ---- for the window

    def refresh(self) -> None:
        """The shop, its review, or what is picked changed."""

    def dress(self, look: Look, pixels: int) -> None:
        """Takes on a theme and a text size."""
        self.look, self.pixels = look, pixels

    def rebuild(self) -> None:
        """Makes controls that depend on units anew."""

    def commands(self) -> list[tuple[str, Callable[[], object]]]:
        """What Ctrl+K can find here."""
        return []

    def show_gate_set(self, gate_set: str | None) -> None:
        """Shows the gate choice that an open finding speaks of."""

    def begin(self) -> None:
        """Puts the keyboard where work begins in an empty shop."""

    def put_down(self) -> None:
        """Lets go of a held tool."""

    # ---- building strips

    def pair(self, text: str, widget: QWidget, row: QLayout | None = None) -> None:
        """A control with the small word before it in the strip, or in another row; the two stay together."""
        both = QWidget()
        inside = QHBoxLayout(both)
        inside.setContentsMargins(0, 0, 0, 0)
        inside.setSpacing(6)
        word = QLabel(text)
        word.setObjectName("small")
        inside.addWidget(word)
        inside.addWidget(widget)
        if isinstance(widget, TextField):
            widget.float_refusal()
        (self.row if row is None else row).addWidget(both)

    def menu_button(
        self, text: str, entries: list[tuple[str, Callable[[], object]]], groups: list[str] | None = None
    ) -> QToolButton:
        """A button that opens a menu of things to add, in a menu of its own for each of the `groups` that the
        entries belong to.
        """
        button = QToolButton()
        button.setText(f"{text} ▾")
        button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(button)
        menus = {group: menu.addMenu(group) for group in dict.fromkeys(groups or ())}
        for index, (label, act) in enumerate(entries):
            action = (menus[groups[index]] if groups else menu).addAction(label)
            action.triggered.connect(lambda _=False, do=act: do())
        button.setMenu(menu)
        return button
