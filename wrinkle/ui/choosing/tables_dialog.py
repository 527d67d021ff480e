"""What a place draws along its frames, as tables beside it: typed into, copied, read aloud."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QModelIndex, Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.ui.shared.frame_table import FrameModel, FrameTableView
from wrinkle.ui.shared.plain_text import PlainLabel


class TablesDialog(QDialog):
    """One table at a time; it stays open while one works, and follows what is drawn.

    Args:
        models: gives those that there are now; asked for whenever the list is opened.
        parent: over which it stands.

    Signals:
        frameChosen: a row was chosen that has a frame.
    """

    frameChosen = pyqtSignal(int)

    def __init__(self, models: Callable[[], Sequence[FrameModel]], parent: QWidget) -> None:
        super().__init__(parent)
        self._models = models
        self._shown: list[FrameModel] = []
        self.setWindowTitle("Numbers")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.resize(460, 420)
        self.choice = QComboBox()
        self.choice.setAccessibleName("Which table")
        self.choice.activated.connect(self._show)
        self.view = FrameTableView()
        self.copy_button = QPushButton("Copy")
        self.copy_button.setToolTip("Puts the chosen rows, or all, on the clipboard (Ctrl+C)")
        self.copy_button.clicked.connect(self.view.copy)
        self.copy_button.setAutoDefault(False)
        self.nothing = PlainLabel("There is nothing to list yet.")
        self.nothing.setObjectName("quiet")
        head = QHBoxLayout()
        head.addWidget(self.choice, 1)
        head.addWidget(self.copy_button)
        column = QVBoxLayout(self)
        column.addLayout(head)
        column.addWidget(self.view, 1)
        column.addWidget(self.nothing)
        self.refresh()

    def refresh(self) -> None:
        """Other things are drawn: the table that is shown stays, where it is still there."""
        models = list(self._models())
        if models == self._shown:
            return
        before = self.choice.currentText()
        self._shown = models
        self.choice.clear()
        self.choice.addItems([model.name for model in models])
        names = [model.name for model in models]
        self._show(names.index(before) if before in names else 0)

    def _show(self, number: int) -> None:
        there = 0 <= number < len(self._shown)
        self.nothing.setVisible(not there)
        self.view.setVisible(there)
        if there:
            self.choice.setCurrentIndex(number)
            self.view.show_model(self._shown[number])
            chosen = self.view.selectionModel()
            if chosen is not None:
                chosen.currentRowChanged.connect(self._choose)

    def _choose(self, now: QModelIndex, before: QModelIndex) -> None:
        model = self.view.model()
        frame = model.frame_of(now.row()) if isinstance(model, FrameModel) else None
        if frame is not None:
            self.frameChosen.emit(frame)
