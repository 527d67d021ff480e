"""What is drawn along frames, as rows and columns: to be typed in, copied and read aloud.

Numbers stand without units and with a plain minus, as spreadsheets take them; heads have the units.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from PyQt6.QtCore import QAbstractTableModel, QEvent, QModelIndex, QObject, Qt
from PyQt6.QtGui import QGuiApplication, QKeyEvent, QKeySequence
from PyQt6.QtWidgets import QTableView

_NOWHERE = QModelIndex()


@dataclass(frozen=True)
class Column:
    """A column.

    Attributes:
        label: its head.
        read: what it says of a row.
        write: takes what was typed into it; gives whether it could. None where nothing is typed.
    """

    label: str
    read: Callable[[Any], str]
    write: Callable[[Any, str], bool] | None = None


class FrameModel(QAbstractTableModel):
    """Rows of anything, read by columns.

    Args:
        name: of the table.
        columns: from left to right.
        frame: gives the frame of a row, to which choosing it leads; None for none.
        gather: gives the rows, once somebody looks at them; until then nothing is gathered.
    """

    def __init__(
        self,
        name: str,
        columns: Sequence[Column],
        frame: Callable[[Any], int | None] = lambda row: None,
        gather: Callable[[], Sequence[Any]] = tuple,
        parent: QObject | None = None,
    ) -> None:
        super().__init__(parent)
        self.name = name
        self.columns = tuple(columns)
        self._frame = frame
        self._gather = gather
        self._watched = False
        self._rows: Sequence[Any] = ()

    @property
    def rows(self) -> Sequence[Any]:
        """What the rows are read from."""
        return self._rows

    def watch(self) -> None:
        """From now on somebody looks at it."""
        self._watched = True
        self.refresh()

    def refresh(self) -> None:
        """Something else is drawn."""
        if self._watched:
            self.show_rows(self._gather())

    def show_rows(self, rows: Sequence[Any], columns: Sequence[Column] | None = None) -> None:
        """Shows other rows, and on demand other columns."""
        count = len(self._rows), len(self.columns)
        self.columns = tuple(columns) if columns is not None else self.columns
        if (len(rows), len(self.columns)) == count and columns is None:
            self._rows = rows
            if rows:
                self.dataChanged.emit(
                    self.index(0, 0), self.index(len(rows) - 1, len(self.columns) - 1)
                )
            return
        self.beginResetModel()
        self._rows = rows
        self.endResetModel()

    def frame_of(self, row: int) -> int | None:
        """The frame of a row; None where it has none."""
        return self._frame(self._rows[row]) if 0 <= row < len(self._rows) else None

    def rowCount(self, parent: QModelIndex = _NOWHERE) -> int:
        """How many rows there are."""
        return 0 if parent.isValid() else len(self._rows)

    def columnCount(self, parent: QModelIndex = _NOWHERE) -> int:
        """How many columns there are."""
        return 0 if parent.isValid() else len(self.columns)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        """What a cell says."""
        wanted = (
            Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.EditRole,
            Qt.ItemDataRole.TextAlignmentRole,
        )  # fmt: skip
        if not index.isValid() or role not in wanted or index.row() >= len(self._rows):
            return None
        text = self.columns[index.column()].read(self._rows[index.row()])
        if role == Qt.ItemDataRole.TextAlignmentRole:
            number = text.lstrip("-").replace(".", "", 1).isdigit()
            side = Qt.AlignmentFlag.AlignRight if number else Qt.AlignmentFlag.AlignLeft
            return side | Qt.AlignmentFlag.AlignVCenter
        return text

    def headerData(
        self,
        section: int,
        orientation: Qt.Orientation,
        role: int = Qt.ItemDataRole.DisplayRole,
    ) -> Any:
        """The heads of the columns; rows are counted from 1."""
        if role != Qt.ItemDataRole.DisplayRole:
            return None
        across = orientation is Qt.Orientation.Horizontal
        return self.columns[section].label if across else str(section + 1)

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        """What can be typed into."""
        flags = super().flags(index)
        if index.isValid() and self.columns[index.column()].write is not None:
            flags |= Qt.ItemFlag.ItemIsEditable
        return flags

    def setData(self, index: QModelIndex, value: Any, role: int = Qt.ItemDataRole.EditRole) -> bool:
        """Takes what was typed into a cell."""
        write = self.columns[index.column()].write if index.isValid() else None
        if write is None or role != Qt.ItemDataRole.EditRole:
            return False
        return write(self._rows[index.row()], str(value))

    def text(self, rows: Sequence[int] | None = None) -> str:
        """Rows with the heads of their columns, as spreadsheets take them: tabs and line ends."""
        chosen = range(len(self._rows)) if rows is None else rows
        lines = [[column.label for column in self.columns]]
        lines += [[column.read(self._rows[row]) for column in self.columns] for row in chosen]
        return "\n".join("\t".join(x.replace("\t", " ") for x in line) for line in lines) + "\n"


class FrameTableView(QTableView):
    """Shows a model; Ctrl+C copies the chosen rows, or all."""

    def __init__(self) -> None:
        super().__init__()
        self.setSelectionBehavior(QTableView.SelectionBehavior.SelectRows)
        self.setAlternatingRowColors(False)
        self.setTabKeyNavigation(False)
        vertical, across = self.verticalHeader(), self.horizontalHeader()
        if vertical is not None:
            vertical.hide()
        if across is not None:
            across.setStretchLastSection(True)

    def show_model(self, model: FrameModel) -> None:
        """Shows another model."""
        model.watch()
        self.setModel(model)
        self.setAccessibleName(model.name)
        self.resizeColumnsToContents()

    def copy(self) -> str:
        """Puts the chosen rows, or all, on the clipboard; gives the text."""
        model, chosen = self.model(), self.selectionModel()
        if not isinstance(model, FrameModel):
            return ""
        rows = sorted({x.row() for x in chosen.selectedRows()}) if chosen is not None else []
        text = model.text(rows or None)
        clipboard = QGuiApplication.clipboard()
        if clipboard is not None:
            clipboard.setText(text)
        return text

    def event(self, event: QEvent | None) -> bool:
        """The key for copying is the table's, although the window has it as well."""
        if (
            isinstance(event, QKeyEvent)
            and event.type() == QEvent.Type.ShortcutOverride
            and event.matches(QKeySequence.StandardKey.Copy)
        ):
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.matches(QKeySequence.StandardKey.Copy):
            self.copy()
        else:
            super().keyPressEvent(event)
