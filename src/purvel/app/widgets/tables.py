"""Tables to read."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QLocale, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHeaderView,
    QStyledItemDelegate,
    QTableWidget,
    QTableWidgetItem,
)

from purvel.app.widgets.unbroken import whole_units
from purvel.review.stage import Table


class PlainTable(QTableWidget):
    """A table whose columns share its width and whose cells wrap; nothing is entered in it."""

    def __init__(self, name: str, heads: Sequence[str] = ()) -> None:
        super().__init__(0, len(heads))
        self._is_whole = False
        self.setHorizontalHeaderLabels(list(heads))
        self.verticalHeader().hide()
        self.setAccessibleName(name)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setWordWrap(True)
        self.setItemDelegate(_WholeUnits(self))
        self.setTabKeyNavigation(False)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)

    def show_table(self, table: Table) -> None:
        """Shows its rows, as high as they need."""
        self.setColumnCount(len(table.heads))
        self.setHorizontalHeaderLabels(list(table.heads))
        self.setRowCount(len(table.rows))
        for row, cells in enumerate(table.rows):
            for column, text in enumerate(cells):
                self.setItem(row, column, cell(text))
        self.resizeRowsToContents()

    def as_high_as_it_is(self) -> None:
        """Has it show all its rows, for a place that scrolls as a whole."""
        self._is_whole = True
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._fit()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.resizeRowsToContents()  # cells wrap otherwise now
        if self._is_whole:
            self._fit()

    def _fit(self) -> None:
        rows = sum(self.rowHeight(row) for row in range(self.rowCount()))
        self.setFixedHeight(self.horizontalHeader().sizeHint().height() + rows + 2 * self.frameWidth())


class _WholeUnits(QStyledItemDelegate):
    """Shows what stands in a cell with its units whole."""

    def displayText(self, value: object, locale: QLocale | QLocale.Language) -> str:
        return whole_units(str(value))


def cell(text: str) -> QTableWidgetItem:
    """A cell to read."""
    item = QTableWidgetItem(text)
    item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
    return item
