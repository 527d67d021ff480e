"""After a crash: the work that it left, to be brought back or thrown away."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.library.autosaves import LeftWork
from wrinkle.ui.safekeeping.kept_row import KeptRow, day_and_time
from wrinkle.ui.shared.plain_text import PlainLabel
from wrinkle.ui.shared.scrolled import Scrolled

_SURE = "Throw away for good"


class LeftWorkDialog(QDialog):
    """Offers what was left; whatever is not decided is offered again at the next start.

    Signals:
        wanted: a piece of work is to be brought back (LeftWork).
    """

    wanted = pyqtSignal(object)

    def __init__(self, left: Sequence[LeftWork], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Unsaved work")
        self.setMinimumWidth(620)
        said = PlainLabel(
            "Wrinkle ended before this work was saved. It is all here, with its steps and clips."
        )
        said.setWordWrap(True)
        rows, column = QWidget(), QVBoxLayout()
        rows.setObjectName("ground")
        rows.setLayout(column)
        self.rows = {work.folder: self._row(work) for work in left}
        for row in self.rows.values():
            column.addWidget(row)
        column.addStretch(1)
        scroll = Scrolled()
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setMinimumHeight(min(340, 108 * len(left)))
        scroll.setWidget(rows)
        later = QPushButton("Decide later")
        later.clicked.connect(self.reject)
        foot = QHBoxLayout()
        foot.addStretch(1)
        foot.addWidget(later)
        layout = QVBoxLayout(self)
        layout.addWidget(said)
        layout.addWidget(scroll, 1)
        layout.addLayout(foot)

    def _row(self, work: LeftWork) -> KeptRow:
        what = f"{work.kind}, {work.steps} step{'' if work.steps == 1 else 's'}"
        place = f"not yet saved in {work.path.name}" if work.path else "in no file yet"
        row = KeptRow(work.picture, work.name, f"{day_and_time(work.when)} · {what} · {place}")
        back, away = row.add_button("Bring back"), row.add_button("Throw away")
        back.setDefault(len(self.findChildren(KeptRow)) == 0)
        back.clicked.connect(lambda: self._bring_back(work))
        away.clicked.connect(lambda: self._throw_away(work, away))
        return row

    def _bring_back(self, work: LeftWork) -> None:
        self.accept()
        self.wanted.emit(work)

    def _throw_away(self, work: LeftWork, button: QPushButton) -> None:
        # What is thrown away here is nowhere else: it takes a second press.
        if button.text() != _SURE:
            button.setText(_SURE)
            return
        work.remove()
        row = self.rows.pop(work.folder)
        row.hide()
        row.deleteLater()
        if not self.rows:
            self.accept()
