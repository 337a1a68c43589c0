"""What can be done from anywhere: in the menu, by keys and through the finder."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMenu, QPushButton

from purvel.app.grouped import copy_picked, group_commands, group_of, switch_fixed
from purvel.app.rail import key_of
from purvel.app.stages import ENTRIES, entry_of
from purvel.app.widgets.finder import Entry
from purvel.app.widgets.words import set_tip
from purvel.demo import NAMES, demo_bytes
from purvel.files import loads
from purvel.review import Finding
from purvel.review.finding import HURTS, Grade
from purvel.shop import Thing
from purvel.shop.parts import name_of

if TYPE_CHECKING:
    from purvel.app.window import Window

Command = tuple[str, Callable[[], object], str]  # words, what it does, keys


def commands(window: Window) -> list[list[Command]]:
    """What the menu and the finder both have, in groups."""
    filing, workspace, theme = window.filing, window.workspace, window.theme
    return [
        [
            ("New shop", filing.new, "Ctrl+N"),
            ("Open …", filing.open_dialog, "Ctrl+O"),
            ("Save", filing.save, "Ctrl+S"),
            ("Save as …", filing.save_as, "Ctrl+Shift+S"),
            ("Write drawing, list or binder …", filing.write_dialog, "Ctrl+E"),
            ("Take in a list (CSV) …", filing.take_in_dialog, "Ctrl+I"),
            ("Print the binder …", filing.print_binder, "Ctrl+P"),
        ],
        [
            ("Find anything", window.find_anything, "Ctrl+K"),
            ("Undo", workspace.undo, "Ctrl+Z"),
            ("Redo", workspace.redo, "Ctrl+Shift+Z"),
            ("Copy what is picked", partial(copy_picked, workspace), "Ctrl+D"),
        ],
        [
            ("Switch units", window.switch_units, ""),
            ("Larger text", theme.larger, "Ctrl++"),
            ("Smaller text", theme.smaller, "Ctrl+-"),
            ("Light or dark paper", theme.switch_paper, "Ctrl+L"),
        ],
        [("Close", window.close, "Ctrl+Q")],
    ]


def menu(window: Window) -> QMenu:
    """The shop menu; the shops that it lists are read when it is opened."""
    made = QMenu(window)
    files, *groups = commands(window)
    _add_group(window, made, files)
    lists = (("Opened lately", partial(_list_recent, window)), ("Demo shops", partial(_list_demos, window)))
    for title, fill in lists:
        shops = made.addMenu(title)
        shops.aboutToShow.connect(partial(fill, shops))
    for group in groups:
        made.addSeparator()
        _add_group(window, made, group)
    return made


def _add_group(window: Window, made: QMenu, group: Sequence[Command]) -> None:
    for label, act, keys in group:
        action = QAction(label, window)
        action.setShortcut(QKeySequence(keys))
        action.triggered.connect(lambda _=False, do=act: do())
        made.addAction(action)
        window.addAction(action)


def _list_recent(window: Window, shops: QMenu) -> None:
    """Anew each time: they change."""
    shops.setToolTipsVisible(True)  # two files may have one name
    shops.clear()
    for path in window.filing.recent():
        action = shops.addAction(path.stem)
        set_tip(action, str(path))
        action.triggered.connect(lambda _=False, p=path: window.filing.open_path(p))
    if shops.isEmpty():
        shops.addAction("None saved yet").setEnabled(False)


def _list_demos(window: Window, shops: QMenu) -> None:
    """Their names are in their files, which the first window does not wait for."""
    for name in () if shops.actions() else NAMES:
        action = shops.addAction(loads(demo_bytes(name)).shop.name)
        action.triggered.connect(lambda _=False, n=name: window.filing.open_demo(n))


def shortcuts(window: Window) -> Iterator[tuple[str, Callable[[], object]]]:
    """Keys besides those in the menu."""
    yield "Ctrl+Y", window.workspace.redo
    yield "Ctrl+=", window.theme.larger
    yield "F1", window.help
    for number, entry in enumerate(ENTRIES, start=1):
        if key_of(number):
            yield f"Alt+{key_of(number)}", partial(window.show_stage, entry.key)


def findable(window: Window) -> Iterator[Entry]:
    """Everything that Ctrl+K finds: stages and what they can do and pick, commands, findings."""
    for entry in ENTRIES:
        stage, title = window.stages[entry.key], entry.record.title
        yield f"Go to {title}", partial(window.show_stage, entry.key)
        for label, act in stage.commands():
            yield label, partial(_in_stage, window, entry.key, act)
        for item in stage.pickable():
            name = name_of(window.workspace.shop, item)
            yield (
                f"Pick {name} in {title}",
                partial(_in_stage, window, entry.key, partial(_pick, window, item)),
            )
    for group in commands(window):
        for label, act, _ in group:
            yield label, act
    yield from window.header.scene.commands()
    yield "Fit the room in the window", window.plan.fit
    yield "Measure between two points (M)", window.plan.measure
    yield "Write the plan in tiles to scale", partial(window.filing.write_as, "tiles.pdf")
    yield "Write paper cut-outs to scale", partial(window.filing.write_as, "cutouts.pdf")
    yield "Write patterns of hoods as large as life", partial(window.filing.write_as, "hoods.pdf")
    yield "Help (F1)", window.help
    yield from _of_picked(window)
    for finding in window.reviews.latest.findings:
        yield f"{finding.grade.word}: {finding.sentence}", partial(_reveal, window, finding)


def _of_picked(window: Window) -> Iterator[Entry]:
    """What can be done to what is picked: by keys on the plan, and by the buttons of its form."""
    workspace, plan = window.workspace, window.plan
    if group_of(workspace) or isinstance(workspace.picked_body, Thing):
        yield "Fix what is picked in place, or free it (L)", partial(switch_fixed, workspace)
    if group_of(workspace):
        yield from group_commands(workspace)
    elif workspace.picked is not None:
        name = name_of(workspace.shop, workspace.picked)
        for button in window.inspector.findChildren(QPushButton):
            if button.isEnabled() and button.text():
                yield f"{button.text()}: {name}", button.click
        if workspace.picked_body is not None:
            yield f"Turn {name} by 90° (R)", partial(plan.turn, 90.0)
            yield f"Turn {name} by 15° (Shift+R)", partial(plan.turn, 15.0)
            yield f"Type how far {name} is from a wall (=)", partial(plan.ask_length, "")
            yield f"Look at {name} from near (Z)", plan.look_at_picked


def to_mend(window: Window) -> Iterator[Entry]:
    """What is to mend in all stages: what can hurt first, then what cannot work, in the order of the work."""
    found = [one for one in window.reviews.latest.findings if one.grade <= Grade.MEND]
    for finding in sorted(found, key=lambda one: (one.grade, one.rule not in HURTS)):
        title = entry_of(finding.stage).record.title
        yield f"{finding.grade.word} · {title} · {finding.sentence}", partial(_reveal, window, finding)


def _in_stage(window: Window, key: str, act: Callable[[], object]) -> None:
    window.show_stage(key)
    act()


def _pick(window: Window, item: str) -> None:
    window.workspace.pick(item)
    window.plan.setFocus()


def _reveal(window: Window, finding: Finding) -> None:
    window.show_stage(finding.stage)
    window.findings.reveal(finding)
