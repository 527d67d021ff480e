"""What is heard of the file of a sound: which file, from where to where, and how it runs."""

from __future__ import annotations

from fractions import Fraction
from functools import partial

from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QToolButton, QVBoxLayout, QWidget

from wrinkle.core.design.document.sounds import FileFit, WrinkleSound
from wrinkle.core.design.edits import slot_edits, sound_edits
from wrinkle.core.reuse.hearing import in_slots
from wrinkle.core.sound.filed import hit_in
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.shared.drops import SOUND_FILTER
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.shared.setting_row import NAME_WIDTH
from wrinkle.ui.shared.value_field import FieldFormat, ValueField, number_of
from wrinkle.ui.text_size import Extent, keep

_TIMES = (
    ("hit", "Hit at", "What is heard on the hit, in seconds of the file"),
    ("start", "From", "Where it begins, in seconds of the file"),
    ("end", "Up to", "Where it ends, in seconds of the file"),
    ("rise", "Fades in", "How long it fades in, in seconds"),
    ("fall", "Fades out", "How long it fades out, in seconds"),
)


class FileRows(QWidget):
    """Shows and edits what is heard of one file."""

    def __init__(self, desk: Supplying, sound: WrinkleSound) -> None:
        super().__init__()
        self._desk, self._id, self._slot = desk, sound.id, sound.slot
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        self.file = QPushButton()
        self.file.setAccessibleName(f"File of {sound.name}")
        self.file.clicked.connect(self._ask_file)
        column.addLayout(named("File", "What stands in until reuse fills the slot", self.file))
        self.times: dict[str, ValueField] = {}
        self.found = QToolButton()
        self.found.setText("Find")
        self.found.setToolTip(tip("Take the strongest onset again"))
        self.found.clicked.connect(lambda: self._change("hit found", hit=None))
        for key, name, about in _TIMES:
            field = self.times[key] = ValueField(FieldFormat(suffix=" s", decimals=3, step=0.01))
            field.setAccessibleName(f"{name}, {sound.name}")
            field.describe(about)
            field.changing.connect(partial(self._take, key, False))
            field.committed.connect(partial(self._take, key, True))
            field.abandoned.connect(desk.document.abandon)
            field.faulted.connect(desk.messages.faulted)
            beside = (self.found,) if key == "hit" else ()
            column.addLayout(named(name, about, field, *beside))
        self.fit = QComboBox()
        self.fit.setAccessibleName(f"How {sound.name} becomes as long as it is to be")
        for way in FileFit:
            self.fit.addItem(way.value, way)
        self.fit.activated.connect(lambda at: self._change("fit", fit=self.fit.itemData(at)))
        self.backwards = QToolButton()
        self.backwards.setText("Backwards")
        self.backwards.setCheckable(True)
        self.backwards.setObjectName("toggle")
        self.backwards.clicked.connect(lambda on: self._change("backwards", backwards=on))
        about = "Whole, cut to its length, or stretched to it at the same pitch"
        column.addLayout(named("Runs", about, self.fit, self.backwards))

    def show_sound(self, sound: WrinkleSound) -> None:
        """Shows its values."""
        document = self._desk.document
        wrinkle, use = document.state, sound.file
        self.file.setText(wrinkle.slot(self._slot).stand_in or "Choose…")
        filled = in_slots(wrinkle, {}, document.read.heard).get(self._slot)
        length = filled.count / SAMPLE_RATE if filled is not None else 0.0
        hit = hit_in(filled, use) / SAMPLE_RATE if filled is not None else 0.0
        shown = {
            "hit": hit,
            "start": float(use.start or 0),
            "end": length if use.end is None else float(use.end),
            "rise": float(use.rise or 0),
            "fall": float(use.fall or 0),
        }
        for key, value in shown.items():
            self.times[key].set_value(value)
        self.found.setEnabled(use.hit is not None)
        self.fit.setCurrentIndex(self.fit.findData(use.fit))
        self.backwards.setChecked(use.backwards)

    def _take(self, key: str, done: bool, value: object) -> None:
        time = Fraction(max(number_of(value), 0.0)).limit_denominator(SAMPLE_RATE)
        self._desk.document.pull(
            f"{key} of the file",
            lambda w: sound_edits.change_file(w, self._id, **{key: time}),
            done,
        )

    def _change(self, step: str, **fields: object) -> None:
        self._desk.document.edit(step, lambda w: sound_edits.change_file(w, self._id, **fields))

    def _ask_file(self) -> None:
        desk = self._desk
        path = desk.asking.file(self, "A file of sound", "music", SOUND_FILTER)
        asset = desk.document.keep_file(path) if path is not None else None
        if path is not None and asset is not None:
            desk.document.edit(path.name, lambda w: slot_edits.stands_in(w, self._slot, asset))


def named(name: str, about: str, *fields: QWidget) -> QHBoxLayout:
    """A line of fields with a name before them; the first one takes the room."""
    label = PlainLabel(name)
    keep(label, Extent.WIDTH, NAME_WIDTH)
    label.setToolTip(tip(about))
    line = QHBoxLayout()
    line.setSpacing(4)
    line.addWidget(label)
    for place, field in enumerate(fields):
        line.addWidget(field, 0 if place else 1)
    return line
