"""How the sounds of two clips meet at a cut, as a row."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QSizePolicy, QWidget

from wrinkle.core.sound.joins import JOINS, MOST_FRAMES, STRAIGHT_JOIN, SoundJoin
from wrinkle.ui.shared.plain_text import tip
from wrinkle.ui.shared.value_field import FieldFormat, ValueField, number_of


class JoinField(QWidget):
    """A way, and by how many frames where that is chosen.

    Signals:
        chosen: another join.
        faulted: one sentence on what was typed.
    """

    chosen = pyqtSignal(object)
    faulted = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self._join = STRAIGHT_JOIN
        self.kind = QComboBox()
        self.kind.setAccessibleName("How the clips\u2019 sounds meet")
        self.kind.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        for one in JOINS.values():
            self.kind.addItem(one.label, one.key)
        self.kind.activated.connect(lambda: self._choose(SoundJoin(self._key, self._join.frames)))
        self.frames = ValueField(FieldFormat(suffix=" fr", decimals=0))
        self.frames.setAccessibleName("By how many frames")
        self.frames.describe("By how many frames the sound is early or late")
        self.frames.committed.connect(self._take_frames)
        self.frames.faulted.connect(self.faulted)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        row.addWidget(self.kind, 1)
        row.addWidget(self.frames)
        self.set_join(STRAIGHT_JOIN)

    @property
    def _key(self) -> str:
        return str(self.kind.currentData())

    def set_join(self, join: SoundJoin) -> None:
        """Shows a join."""
        self._join = join
        kind = JOINS[join.kind]
        self.kind.setCurrentIndex(self.kind.findData(join.kind))
        self.kind.setToolTip(tip(kind.about))
        self.frames.setVisible(kind.counted)
        self.frames.set_value(float(join.frames))

    def _take_frames(self, value: object) -> None:
        frames = min(max(round(number_of(value)), 0), MOST_FRAMES)
        self._choose(SoundJoin(self._join.kind, frames))

    def _choose(self, join: SoundJoin) -> None:
        self.set_join(join)
        self.chosen.emit(join)
