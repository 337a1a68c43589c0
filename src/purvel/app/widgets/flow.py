"""Layouts that are filled anew, and a row that breaks into more rows where it is too long for its place."""

from collections.abc import Iterator
from contextlib import contextmanager

from PySide6.QtCore import QEvent, QRect, QSize, Qt
from PySide6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QHBoxLayout,
    QLayout,
    QLayoutItem,
    QWidget,
)

from purvel.app.widgets.fields import TextField
from purvel.app.widgets.words import Words


def clear(layout: QLayout) -> None:
    """Takes all widgets out of a layout and lets them go; hidden at once, so that nothing of them stays on
    the screen.
    """
    while (item := layout.takeAt(0)) is not None:
        if (widget := item.widget()) is not None:
            let_go(widget)


def let_go(widget: QWidget) -> None:
    """Hides a widget at once, and has it deleted."""
    held = QApplication.focusWidget()
    if held is not None and (held is widget or widget.isAncestorOf(held)):
        held.clearFocus()  # else Qt looks for another to take it, and scrolls there
    widget.hide()
    widget.setParent(None)
    widget.deleteLater()


@contextmanager
def refilling(layout: QLayout, *, same: bool = True) -> Iterator[None]:
    """Clears a layout that is about to be filled again.

    Where it is for the `same` thing, the control called as the one that had the keyboard has it then.
    """
    panel, held = layout.parentWidget(), QApplication.focusWidget()
    again = (
        _called(held) if same and held is not None and panel is not None and panel.isAncestorOf(held) else ""
    )
    clear(layout)
    yield
    if again and panel is not None:
        found = next(
            (one for one in panel.findChildren(QWidget) if _called(one) == again and one.focusPolicy()), None
        )
        if found is not None:
            found.setFocus()
    if panel is not None and panel.isVisible():
        lay_out_now(panel, panel)


def lay_out_now(panel: QWidget, *filled: QWidget) -> None:
    """Shows what was put into parts of a panel, and gives the panel the height that it then needs, before
    anything of it is painted.
    """
    for one in filled:
        for part in (one, *one.findChildren(QWidget)):
            was_told = part.testAttribute(Qt.WidgetAttribute.WA_WState_ExplicitShowHide)
            if not was_told and not part.isWindow():  # a list that drops down is a window, and stays shut
                part.show()  # Qt would only show it after this pass
    layout = panel.layout()
    assert layout is not None  # it holds what was put in
    layout.activate()
    QApplication.sendEvent(panel, QEvent(QEvent.Type.LayoutRequest))


def _called(widget: QWidget) -> str:
    return widget.accessibleName() or (widget.text() if isinstance(widget, QAbstractButton) else "")


class FlowLayout(QLayout):
    """Lays widgets out left to right and wraps, so that nothing is clipped at large text."""

    def __init__(self, parent: QWidget | None = None, spacing: int = 6) -> None:
        super().__init__(parent)
        self._items: list[QLayoutItem] = []
        self.setContentsMargins(6, 4, 6, 4)
        self._gap = spacing

    def addItem(self, item: QLayoutItem) -> None:
        self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._arrange(QRect(0, 0, width, 0), dry=True)

    def setGeometry(self, rect: QRect) -> None:
        super().setGeometry(rect)
        self._arrange(rect, dry=False)

    def sizeHint(self) -> QSize:
        return self.minimumSize()

    def minimumSize(self) -> QSize:
        size = QSize()
        for item in self._items:
            size = size.expandedTo(item.minimumSize())
        margins = self.contentsMargins()
        return size + QSize(margins.left() + margins.right(), margins.top() + margins.bottom())

    def _arrange(self, rect: QRect, *, dry: bool) -> int:
        margins = self.contentsMargins()
        left, y, right = rect.x() + margins.left(), rect.y() + margins.top(), rect.right() - margins.right()
        rows: list[list[QLayoutItem]] = [[]]
        x = left
        for item in (one for one in self._items if not one.isEmpty()):
            if x + item.sizeHint().width() > right and rows[-1]:
                rows.append([])
                x = left
            rows[-1].append(item)
            x += item.sizeHint().width() + self._gap
        for row in rows:
            high = max((item.sizeHint().height() for item in row), default=0)
            x = left
            for item in row if not dry else ():
                hint = item.sizeHint()
                item.setGeometry(
                    QRect(x, y + (high - hint.height()) // 2, min(hint.width(), right - x + 1), hint.height())
                )
                x += hint.width() + self._gap
            y += high + self._gap
        return y - self._gap + margins.bottom() - rect.y()


class FlowRow(QWidget):
    """A row of controls that wraps and always has the height that it then needs."""

    def __init__(self) -> None:
        super().__init__()
        self.row = FlowLayout(self)

    def add_pair(self, text: str, widget: QWidget) -> None:
        """A control with the small word before it; the two stay together."""
        both = QWidget()
        inside = QHBoxLayout(both)
        inside.setContentsMargins(0, 0, 0, 0)
        inside.setSpacing(6)
        word = Words(text)
        word.setObjectName("small")
        inside.addWidget(word)
        inside.addWidget(widget)
        if isinstance(widget, TextField):
            widget.float_refusal()
        self.row.addWidget(both)

    def event(self, event: QEvent) -> bool:
        done = super().event(event)
        if event.type() in (QEvent.Type.Resize, QEvent.Type.LayoutRequest, QEvent.Type.Show):
            self.setMinimumHeight(self.row.heightForWidth(self.width()))
        return done


class FitRow(QWidget):
    """A row that never wraps: where it grows too long, what was added last is left out."""

    def __init__(self, spacing: int) -> None:
        super().__init__()
        self.row = QHBoxLayout(self)
        self.row.setContentsMargins(6, 4, 6, 4)
        self.row.setSpacing(spacing)
        self.row.setAlignment(Qt.AlignmentFlag.AlignLeft)
        self.setMinimumWidth(100)

    def event(self, event: QEvent) -> bool:
        done = super().event(event)
        if event.type() in (QEvent.Type.Resize, QEvent.Type.LayoutRequest, QEvent.Type.Show):
            self._fit()
        return done

    def _fit(self) -> None:
        margins = self.row.contentsMargins()
        room = self.width() - margins.left() - margins.right()
        for index in range(self.row.count()):
            item = self.row.itemAt(index)
            widget = item.widget() if item is not None else None
            if widget is not None:
                wide = max(widget.sizeHint().width(), widget.minimumWidth())
                room -= wide + (self.row.spacing() if index else 0)
                widget.setVisible(room >= 0)


def beside(*widgets: QWidget) -> QWidget:
    """Widgets side by side; words as wide as they are, the others share what is left."""
    row = QWidget()
    line = QHBoxLayout(row)
    line.setContentsMargins(0, 0, 0, 0)
    for widget in widgets:
        line.addWidget(widget, 0 if isinstance(widget, Words) else 1)
    return row
