"""What the stages share: one way to be shown, and tools that do nothing until a stage has one."""

from collections.abc import Callable, Sequence

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtWidgets import QMenu, QToolButton, QWidget

from purvel.app.plan.drag_handles import DragHandle
from purvel.app.plan.prompt import Choice
from purvel.app.plan.sheet import Sheet
from purvel.app.reviews import Reviews
from purvel.app.stages import Entry
from purvel.app.theme import Theme
from purvel.app.view import View
from purvel.app.widgets.flow import FlowRow
from purvel.app.workspace import Workspace
from purvel.review import Answers, Figures, Grade, Review
from purvel.shop import Shop


class Stage(QObject):
    """One stage; `entry` is its place in the list. What is shown comes in by `show` and by nothing else."""

    tool_changed = Signal()

    entry: Entry
    takes_fixtures = False
    edge_lines = 0.6  # lines of lettering that the plan keeps free round the room

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__(workspace)
        self.workspace, self.reviews, self.theme = workspace, reviews, theme
        self.shop, self.review, self.view = workspace.shown, reviews.latest, workspace.view.now
        self.strip = FlowRow()
        self.strip.setObjectName("strip")
        self.strip.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.row = self.strip.row
        self.instrument: QWidget = QWidget()
        self._built_for: tuple[object, ...] = ()

    def show(self, shop: Shop, review: Review, view: View) -> None:
        """Shows a shop as it is now, the latest review, which may be of an earlier one, and what is looked
        at.
        """
        self.shop, self.review, self.view = shop, review, view
        wanted = (shop.units, self.theme.pixels, self.theme.palette)
        if wanted != self._built_for:
            self._built_for = wanted
            self.rebuild()
        self.refresh()

    @property
    def say(self) -> Figures:
        """Figures in the reader's units."""
        return Figures(self.workspace.shown.units)

    def answers(self) -> Answers:
        """Answers that follow the hand."""
        return self.reviews.answers()

    def searched(self) -> Answers | None:
        """The answers of the long searches, where they are of what is shown."""
        review, workspace = self.review, self.workspace
        is_now = review.shop is workspace.shown_base and review.scene == workspace.view.now.scene
        return review.answers if is_now and review.is_whole and not self.reviews.is_stale else None

    def trouble(self) -> dict[str, str]:
        """Edge colours of what a Stop or Mend of this stage is about."""
        found: dict[str, str] = {}
        for finding in self.review.of(self.entry.key):
            if finding.grade <= Grade.MEND and finding.where.items:
                found.setdefault(finding.where.items[0], self.theme.palette.grade(finding.grade))
        return found

    # ---- for the plan

    def draw(self, sheet: Sheet) -> None:
        """Draws the stage's answer on the plan."""

    def seen_of_review(self) -> object:
        """What `draw` shows of a review that is behind the hand: while that is the same, a later one changes
        nothing of the drawing.
        """
        return self.trouble()

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

    def handle_at(self, x: float, y: float) -> DragHandle | None:
        """What only this stage can take hold of at a point."""
        return None

    def insert_at(self, x: float, y: float) -> bool:
        """Puts a corner into what lies at a plan point; False where nothing there has corners."""
        return False

    def take_out(self, x: float, y: float) -> bool:
        """Takes the corner at a plan point out of what is picked; False where there is none."""
        return False

    def pickable(self) -> list[str]:
        """What N goes through."""
        return [thing.id for thing in self.workspace.shop.things]

    def tool_hint(self) -> str:
        """What the held tool waits for."""
        return ""

    def tool_tray(self) -> QWidget | None:
        """The held tool's choices."""
        return None

    # ---- for the window

    def rebuild(self) -> None:
        """Makes controls that depend on units and on the size of text anew."""

    def refresh(self) -> None:
        """Shows in its controls and its instrument what `show` brought."""

    def commands(self) -> list[tuple[str, Callable[[], object]]]:
        """What Ctrl+K can find here."""
        return []

    def enter(self) -> None:
        """What the strip's main button does, for Enter on a choice beside it."""

    def begin(self) -> None:
        """Puts the keyboard where work begins in an empty shop."""

    def put_down(self) -> None:
        """Lets go of a held tool."""

    def finish(self) -> None:
        """Brings to its end what goes on behind, before the shop is left."""

    # ---- building strips

    def pair(self, text: str, widget: QWidget) -> None:
        """A control in the strip with the small word before it."""
        self.strip.add_pair(text, widget)

    def menu_button(
        self,
        text: str,
        entries: Sequence[tuple[str, Callable[[], object]]],
        groups: Sequence[str] | None = None,
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
            action = (menus[groups[index]] if groups else menu).addAction(
                label.replace("&", "&&")
            )  # else it marks a key
            action.triggered.connect(lambda _=False, do=act: do())
        button.setMenu(menu)
        return button
