"""What was found: about what, how much of it is open, and the findings or why there are none."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QProgressBar, QVBoxLayout, QWidget

from wrinkle.ui.checks.finding_list import FindingList
from wrinkle.ui.checks.item import Item
from wrinkle.ui.checks.mender import Mender
from wrinkle.ui.checks.passed_list import PassedList
from wrinkle.ui.checks.scope import Scope
from wrinkle.ui.place import WorksOn
from wrinkle.ui.shared.empty_state import EmptyState
from wrinkle.ui.shared.panel import as_panel
from wrinkle.ui.shared.plain_text import PlainLabel

_NOTHING = (
    "Choose two clips on the Bench, and it is measured here what is not right yet at their cut."
)
_NO_CUTS = "No cut of the piece is dressed yet; what is put on one is measured here."


class FoundPanel(QWidget):
    """The findings of what is examined.

    Args:
        scope: what is examined.
        mender: whether a mend is being worked out is said.

    Signals:
        scopeChosen: something else is to be examined (``WorksOn``).
        placeWanted: the key of the place in which there can be made something to examine.
        counted: what is said of them is something else.
    """

    scopeChosen = pyqtSignal(object)
    placeWanted = pyqtSignal(str)
    counted = pyqtSignal()

    def __init__(self, scope: Scope, mender: Mender) -> None:
        super().__init__()
        self._scope, self._mender = scope, mender
        self._progress = (0, 0)
        self.choice = QComboBox()
        self.choice.setAccessibleName("What is examined")
        self.choice.addItem("The wrinkle on the Bench", WorksOn.WRINKLE)
        self.choice.addItem("All cuts of the piece", WorksOn.PIECE)
        self._count = PlainLabel()
        self._count.setObjectName("quiet")
        self.list = FindingList()
        self.empty = EmptyState()
        self.bench_button = self.empty.add("Choose clips on the Bench")
        self.cuts_button = self.empty.add("Dress cuts in the Cut list")
        self.passed = PassedList()
        self.bar = QProgressBar()
        self.bar.setTextVisible(False)
        self.bar.setFixedHeight(14)
        self.bar.setAccessibleName("Frames measured")
        self._filler = QWidget()
        self._lay_out()
        self.choice.activated.connect(
            lambda index: self.scopeChosen.emit(self.choice.itemData(index))
        )
        self.bench_button.clicked.connect(lambda: self.placeWanted.emit("bench"))
        self.cuts_button.clicked.connect(lambda: self.placeWanted.emit("cutlist"))
        mender.workingChanged.connect(lambda: self._show_counts(scope.items))

    def _lay_out(self) -> None:
        as_panel(self)
        heading = PlainLabel("Checks")
        heading.setObjectName("heading")
        top = QHBoxLayout()
        top.setContentsMargins(16, 8, 12, 8)
        top.setSpacing(8)
        top.addWidget(heading)
        top.addStretch(1)
        top.addWidget(self.choice)
        counts = QHBoxLayout()
        counts.setContentsMargins(16, 0, 12, 8)
        counts.addWidget(self._count)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(top)
        column.addLayout(counts)
        column.addWidget(self.bar)
        column.addWidget(self.empty)
        column.addWidget(self.passed, 1)
        column.addWidget(self._filler, 1)
        column.addWidget(self.list, 1)

    @property
    def words(self) -> str:
        """What was found, in short."""
        return self._count.text()

    def show_scope(self) -> None:
        """Something else is examined."""
        self.choice.setCurrentIndex(self.choice.findData(self._scope.about))
        self.list.choose(None)

    def show_items(self, items: Sequence[Item]) -> None:
        """Shows all that was found, or why there is nothing."""
        scope = self._scope
        examined = scope.examined
        clean = not items and not scope.measuring and bool(examined)
        self.list.show_items(items)
        self.list.setVisible(bool(items))
        self.passed.setVisible(clean)
        if clean:
            self.passed.show_examined(examined)
        self._filler.setVisible(not items and not clean)
        self.empty.setVisible(not items)
        words = self._empty_words()
        self.empty.words.setText(words)
        self.bench_button.setVisible(words == _NOTHING)
        self.cuts_button.setVisible(words == _NO_CUTS)
        self._show_counts(items)

    def show_progress(self, done: int, total: int) -> None:
        """So many frames of so many are measured."""
        self._progress = done, total
        if self.isVisible():
            self._show_counts(self._scope.items)

    def _empty_words(self) -> str:
        scope = self._scope
        if scope.about is WorksOn.PIECE and not scope.keys:
            return _NO_CUTS
        if scope.measuring:
            return "It is being measured…"
        if not scope.examined:
            return _NOTHING
        return "Nothing is wrong here: every check was made, and none found anything."

    def _show_counts(self, items: Sequence[Item]) -> None:
        open_ = sum(not x.reason for x in items)
        aside = len(items) - open_
        measuring, (done, total) = self._scope.measuring, self._progress
        words = [f"{open_} open"]
        if aside:
            words.append(f"{aside} set aside")
        if measuring:
            words.append(f"measuring {done} of {total} frames" if total else "measuring")
        elif self._scope.examined:
            count = len(self._scope.keys)
            words.append(f"{count} cut{'s' if count != 1 else ''} examined")
        else:
            words = ["nothing examined"]
        if self._mender.working:
            words.append("working out a mend")
        self.bar.setVisible(measuring)
        if measuring:
            self.bar.setMaximum(total)
            self.bar.setValue(done)
        self._count.setText(" · ".join(words))
        self.counted.emit()
