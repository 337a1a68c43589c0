"""The day as blocks on its minutes: work, what is switched, what stands open, who is about. Blocks are
dragged, stretched at their ends, and moved by keys.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QSizePolicy

from purvel.app.plan.sheet import Sheet
from purvel.app.theme import Theme
from purvel.app.widgets.picture import Picture
from purvel.app.workspace import Workspace
from purvel.shop import Shop
from purvel.shop.edits import change, change_session
from purvel.shop.parts import find, name_of

ROW = 2.2  # letters' sizes that a row is high
NAMES = 5.5  # letters' sizes that names of rows are wide
EDGE = 7.0  # px at a block's end by which it is stretched
LEAST = 1.0  # min
MOST = 1440.0  # min
MOST_ROWS = 8
RIGHT = 10.0  # px beside the minutes
STEPS = (5, 10, 15, 30, 60, 120, 240, 480)  # min between the ruler's marks
STEP = 1.0  # min that a key moves, and to which a drag goes


@dataclass(frozen=True, slots=True)
class Block:
    """A piece of the day: its item, what kind of row it is in, its name, when it begins and how long it
    lasts [min].
    """

    item: str
    row: str
    name: str
    start: float
    minutes: float

    @property
    def end(self) -> float:
        """When it is over [min]."""
        return self.start + self.minutes


def blocks_of(shop: Shop) -> list[Block]:
    """All pieces of the day, row by row."""
    air = shop.air
    found = [Block(one.id, "Work", one.name, one.start, one.minutes) for one in air.session.work]
    for spell in air.session.spells:
        row, name = ("Doors", "open") if spell.thing is None else ("Cleaner", f"{spell.speed:.0%}")
        found.append(Block(spell.id, row, spell.name or name, spell.start, spell.minutes))
    for passage in air.passages:
        if passage.open == "part":
            found.append(
                Block(passage.id, "Doors", name_of(shop, passage.id), passage.start, passage.minutes)
            )
    found += [Block(one.id, "People", one.name or "somebody", one.start, one.minutes) for one in air.people]
    return found


class Planner(Picture):
    """The rows under the chart of the day, on its minutes."""

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__(theme)
        self.workspace = workspace
        self.last = self.session = 240.0  # min at the right end, of the session
        self.rows: list[tuple[str, list[Block]]] = []
        self._held: tuple[Block, str, float] | None = None
        self._session = 0.0  # min that the session lasted when a block was taken hold of
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName(
            "The day in blocks: up and down choose one, left and right move it, with Shift its end"
        )

    def show_blocks(self, shop: Shop, last: float) -> None:
        """The blocks of a shop, over minutes to `last`; no shorter while one is dragged."""
        self.rows = list(_in_rows(blocks_of(shop)))
        self.session = shop.air.session.minutes
        self.last = max(last, 1.0, self.last if self._held else 0.0)
        self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(200, round(self.theme.pixels * ROW * (len(self.rows) + 1)) + 4)

    def minimumSizeHint(self) -> QSize:
        return self.sizeHint()

    @property
    def _left(self) -> float:
        """Where the minutes begin [px]."""
        return NAMES * self.theme.pixels * 0.8

    @property
    def _per_minute(self) -> float:
        return max(self.width() - self._left - RIGHT, 1.0) / self.last

    def _box(self, row: int, block: Block) -> QRectF:
        high = self.theme.pixels * ROW
        x, wide = self._left + block.start * self._per_minute, block.minutes * self._per_minute
        return QRectF(x, (row + 1) * high + 2, max(wide, 3.0), high - 3)

    def _ruler(self, sheet: Sheet) -> None:
        """The minutes over the blocks, and where the session ends."""
        palette, high = sheet.palette, self.theme.pixels * ROW
        foot = high * (len(self.rows) + 1)
        room = sheet.size_of("1440 min", 0.75)[0] + 8
        step = next((one for one in STEPS if one * self._per_minute >= room), STEPS[-1])
        for number in range(int(self.last / step) + 1):
            x = self._left + number * step * self._per_minute
            sheet.painter.setPen(sheet.pen(palette.rule, 1))
            sheet.painter.drawLine(QPointF(x, high * 0.8), QPointF(x, foot))
            words = f"{number * step:.0f}" + (" min" if number == 0 else "")
            sheet.text(QPointF(max(x, self._left + 12), high * 0.4), words, palette.ink, factor=0.75)
        x = self._left + self.session * self._per_minute
        sheet.painter.setPen(sheet.pen(palette.pencil, 2, dashes=(2, 2)))
        sheet.painter.drawLine(QPointF(x, high * 0.8), QPointF(x, foot))

    def draw(self, sheet: Sheet) -> None:
        if not self.rows:
            self.say_nothing_yet(sheet, "No work in the session yet: “Add work”.")
            return
        self._ruler(sheet)
        palette, high = sheet.palette, self.theme.pixels * ROW
        colours = {
            "Work": palette.wood,
            "Cleaner": palette.accent,
            "Doors": palette.pencil,
            "People": palette.ink,
        }
        edges, shown = {"Work": palette.wood_edge}, ""
        for number, (name, blocks) in enumerate(self.rows):
            if name != shown:
                where = QPointF(6, (number + 1.5) * high)
                sheet.text(where, name, palette.ink, factor=0.8, centre=False)
            shown = name
            for block in blocks:
                box = self._box(number, block)
                is_picked = block.item == self.workspace.picked
                sheet.painter.setPen(
                    sheet.pen(
                        palette.accent if is_picked else edges.get(name, colours[name]),
                        3 if is_picked else 1.2,
                    )
                )
                sheet.painter.setBrush(sheet.brush(colours[name], 0.28))
                sheet.painter.drawRoundedRect(box, 3, 3)
                self._name(sheet, block, box)

    def _name(self, sheet: Sheet, block: Block, box: QRectF) -> None:
        """The block's name over its minutes, each as far as there is room."""
        metrics = QFontMetricsF(sheet.font(0.75))
        name = metrics.elidedText(block.name, Qt.TextElideMode.ElideRight, box.width() - 6)
        minutes = next(
            (
                words
                for words in (f"{block.minutes:.0f} min", f"{block.minutes:.0f}")
                if metrics.horizontalAdvance(words) + 4 < box.width()
            ),
            "",
        )
        upper, lower = (QPointF(box.center().x(), box.top() + share * box.height()) for share in (0.3, 0.72))
        sheet.text(upper, name if len(name) > 2 else "", sheet.palette.ink, factor=0.75)
        sheet.text(lower, minutes, sheet.palette.ink, factor=0.75)

    # ---- by the mouse

    def _at(self, where: QPointF) -> tuple[Block, str] | None:
        """The block at a point, and whether its start, its end or all of it is held there."""
        for number, (_, blocks) in enumerate(self.rows):
            for block in reversed(blocks):
                box = self._box(number, block)
                if box.adjusted(-2, 0, 2, 0).contains(where):
                    edge = min(EDGE, box.width() / 4)
                    if where.x() < box.left() + edge:
                        return block, "start"
                    return block, "end" if where.x() > box.right() - edge else "all"
        return None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        found = self._at(event.position())
        if found is None or event.button() != Qt.MouseButton.LeftButton:
            self._held = None
            return
        self._held = (*found, event.position().x())
        self._session = self.workspace.shop.air.session.minutes
        self.workspace.pick(found[0].item)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is None:
            found = self._at(event.position())
            ends = found is not None and found[1] != "all"
            shape = Qt.CursorShape.SizeHorCursor if ends else Qt.CursorShape.ArrowCursor
            self.setCursor(shape)
            return
        block, part, x = self._held
        self._change(block, part, round((event.position().x() - x) / self._per_minute / STEP) * STEP)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            self._held = None
            self.workspace.end_merge()

    def _change(self, block: Block, part: str, by: float) -> None:
        """Moves a block by some minutes from where it was, or one of its ends."""
        start, end = block.start, block.end
        if part == "all":
            start = min(max(0.0, start + by), MOST - 1.0)
            end = start + block.minutes
        elif part == "start":
            start = min(max(0.0, start + by), end - LEAST)
        else:
            end = max(start + LEAST, end + by)
        minutes = min(end - start, MOST)
        now = find(self.workspace.shop, block.item)
        if now is None or (now[1].start, now[1].minutes) == (start, minutes):
            return
        words = f"{'Move' if part == 'all' else 'Stretch'} {name_of(self.workspace.shop, block.item)}"

        def edit(shop: Shop) -> Shop:
            shop = change(shop, block.item, start=start, minutes=minutes)
            return change_session(shop, minutes=_needed(shop, self._session))

        self.workspace.apply(edit, words, merge=f"block {block.item}")

    # ---- by keys

    def keyPressEvent(self, event: QKeyEvent) -> None:
        flat = [block for _, blocks in self.rows for block in blocks]
        at = next((n for n, block in enumerate(flat) if block.item == self.workspace.picked), None)
        key = event.key()
        if key in (Qt.Key.Key_Up, Qt.Key.Key_Down) and flat:
            step = 1 if key == Qt.Key.Key_Down else -1
            self.workspace.pick(flat[0 if at is None else (at + step) % len(flat)].item)
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and at is not None:
            is_end = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            by = STEP if key == Qt.Key.Key_Right else -STEP
            if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
                by *= 10
            self._session = self.workspace.shop.air.session.minutes
            self._change(flat[at], "end" if is_end else "all", by)
        else:
            super().keyPressEvent(event)

    def focusOutEvent(self, event: object) -> None:
        self.workspace.end_merge()


def _in_rows(blocks: list[Block]) -> Iterator[tuple[str, list[Block]]]:
    """Blocks of a kind in as few rows as they need, so that none covers another; at most some rows."""
    made = 0
    for name in dict.fromkeys(block.row for block in blocks):
        rows: list[list[Block]] = []
        for block in sorted((one for one in blocks if one.row == name), key=lambda one: one.start):
            free = next((row for row in rows if row[-1].end <= block.start + 1e-9), None)
            if free is not None:
                free.append(block)
            elif made + len(rows) < MOST_ROWS or not rows:
                rows.append([block])
            else:
                rows[-1].append(block)
        made += len(rows)
        yield from ((name, row) for row in rows)


def _needed(shop: Shop, before: float) -> float:
    """How long the session has to be for its work, no shorter than it was [min]."""
    last = max((one.start + one.minutes for one in shop.air.session.work), default=0.0)
    return min(max(before, last), MOST)
