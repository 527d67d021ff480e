"""What is written and as what: the left of the Export place."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

from msgspec.structs import replace as replaced
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLayout,
    QLineEdit,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.errors import InputError
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.running import windows
from wrinkle.core.sound.hears import Hears
from wrinkle.files.addresses import parse_address
from wrinkle.library.exports import FLAT, ExportItem
from wrinkle.library.ready_choices import ReadyChoice
from wrinkle.media.exporting.parts import What
from wrinkle.media.output.colour import COLOURS
from wrinkle.media.output.format import Into
from wrinkle.media.output.formats import FORMATS, USUAL_QUALITY
from wrinkle.timeline.piece_file import SUFFIX
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.export.bench_piece import bench_piece
from wrinkle.ui.export.making_items import Part, items_of, size_of
from wrinkle.ui.export.ready_menu import ReadyMenu
from wrinkle.ui.shared.plain_text import PlainForm, PlainLabel, tip
from wrinkle.ui.shared.timecode_field import TimecodeField
from wrinkle.ui.shared.value_field import FieldFormat, ValueField, number_of

PIECE, RANGE, WINDOWS, BENCH = "piece", "range", "windows", "bench"
OVERLAY, MATTE, WRINKLE = "overlay", "matte", "wrinkle"
_WHAT = (
    (PIECE, "The whole piece"),
    (RANGE, "A range of the piece"),
    (WINDOWS, "Each dressed cut as a clip of its own"),
    (FLAT, "A timeline with dressed cuts as clips"),
    (BENCH, "The wrinkle on the Bench, on its clips"),
    (OVERLAY, "What that wrinkle adds, with transparency"),
    (MATTE, "Where its incoming clip shows, as a matte"),
    (WRINKLE, "The wrinkle on the Bench, as a file"),
)
_OF_BENCH = (BENCH, OVERLAY, MATTE)
_AS_SHOWN = "as it is"
_SIZES = ("1080x1920", "1080x1080", "1080x1350", "1920x1080", "720x1280")
_RATES = ("24", "25", "29.97", "30", "50", "59.94", "60")
_QUALITY, _KBITS, _MEGABYTES = "quality", "kbit/s", "MB"
_HEARD = {Hears.BOTH: "clips and wrinkles", Hears.CLIPS: "the clips", Hears.WRINKLE: "the wrinkles",
          Hears.NONE: "nothing"}  # fmt: skip


class Choosing(QWidget):
    """Fields for what is written.

    Signals:
        changed: something else is chosen.
        faulted: one sentence on what was typed.
    """

    changed = pyqtSignal()
    faulted = pyqtSignal(str)

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.what, self.form = QComboBox(), QComboBox()
        self.ready = ReadyMenu(self.now)
        self.size_field, self.rate_field = _typed(_SIZES, "Size"), _typed(_RATES, "Frames a second")
        self.bits, self.large, self.hears = QComboBox(), QComboBox(), QComboBox()
        self.colour = QComboBox()
        self.first = TimecodeField("From", "The first frame that is written")
        self.last = TimecodeField("Up to", "The frame after the last one that is written")
        self.around = self._number("Seconds around", " s", 2)
        self.amount = self._number("How large", "", 1)
        self.on = QLineEdit()
        self.on.setPlaceholderText("this machine alone")
        self.on.setAccessibleName("Drawn by other machines")
        self.on.setToolTip(tip("HOST:PORT of a scheduler; './run workers --scheduler' starts one"))
        self.about = PlainLabel()
        self._lay_out()
        for key, word in _WHAT:
            self.what.addItem(word, key)
        for form in FORMATS.values():
            self.form.addItem(form.label, form.key)
        for word in (_QUALITY, _KBITS, _MEGABYTES):
            self.large.addItem(word)
        for hears, word in _HEARD.items():
            self.hears.addItem(word, hears)
        self.what.activated.connect(lambda: self.refresh())
        desk.stretch.changed.connect(self._follow)
        self.ready.taken.connect(self.take)
        self.ready.severalChanged.connect(self._show_several)
        self.ready.faulted.connect(self.faulted)
        self.form.activated.connect(lambda: self._show_form())
        self.large.activated.connect(self._show_large)
        for colour in COLOURS.values():
            self.colour.addItem(colour.label, colour.key)
        for box in (self.bits, self.colour, self.hears):
            box.activated.connect(lambda: self.changed.emit())
        for box in (self.size_field, self.rate_field):
            box.currentTextChanged.connect(lambda: self.changed.emit())
        for place, field in enumerate((self.first, self.last)):
            field.committed.connect(lambda frame, place=place: self._set_end(place, frame))
            field.faulted.connect(self.faulted)
        self.on.editingFinished.connect(lambda: self.changed.emit())
        self.amount.set_value(USUAL_QUALITY)
        self.around.set_value(0.5)
        self._show_form()

    def _lay_out(self) -> None:
        form = self.rows = PlainForm()
        form.setVerticalSpacing(6)
        self.ends = QWidget()
        ends = QHBoxLayout(self.ends)
        ends.setContentsMargins(0, 0, 0, 0)
        ends.addWidget(self.first)
        ends.addWidget(PlainLabel("to"))
        ends.addWidget(self.last)
        large = self._large = QHBoxLayout()
        large.addWidget(self.amount, 1)
        large.addWidget(self.large)
        for box, name in (
            (self.what, "What is written"), (self.form, "Format"),
            (self.bits, "Bits of a colour, or of a sample"), (self.large, "How large is said"),
            (self.hears, "What is heard"), (self.colour, "Colours"),
        ):  # fmt: skip
            box.setAccessibleName(name)
            box.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.large.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setObjectName("panel")
        self.about.setObjectName("quiet")
        self.about.setWordWrap(True)
        form.add("What", self.what)
        form.add("From, up to", self.ends)
        form.add("Clips around it", self.around)
        form.add("Made for", self.ready)
        form.add("Format", self.form)
        form.add("", self.about)
        form.add("Size", self.size_field)
        form.add("Frames a second", self.rate_field)
        form.add("Bits", self.bits)
        form.add("Colours", self.colour)
        form.add("How large", large)
        form.add("Heard", self.hears)
        form.add("Drawn by", self.on)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(form)

    def _number(self, name: str, suffix: str, decimals: int) -> ValueField:
        field = ValueField(FieldFormat(suffix=suffix, decimals=decimals, step=1.0))
        field.setAccessibleName(name)
        field.committed.connect(lambda value: self._take_number(field, value))
        field.faulted.connect(self.faulted)
        return field

    def _take_number(self, field: ValueField, value: object) -> None:
        field.set_value(max(number_of(value), 0.0))
        self.changed.emit()

    def refresh(self) -> None:
        """Shows what there is to be written."""
        piece = self._desk.piece.state
        of_a_piece = self.what.currentData() in (PIECE, RANGE)
        if of_a_piece and not piece.clips and bench_piece(self._desk, Fraction(0)) is not None:
            # There is no piece, but a wrinkle on its clips.
            self.what.setCurrentIndex(self.what.findData(BENCH))
        self._show_fields()
        frames = self._desk.stretch.frames
        for field, frame in ((self.first, frames.start), (self.last, frames.stop)):
            field.show_frames(frame, piece.rate)
        self.changed.emit()

    def set_range(self, first: int, end: int) -> None:
        """Chooses a range of the piece."""
        self._desk.stretch.take(first, end)
        self.what.setCurrentIndex(self.what.findData(RANGE))
        self.refresh()

    def _follow(self) -> None:
        """What is chosen on the map is what one wants to write."""
        all_, chosen = self._desk.stretch.is_all, self.what.currentData()
        if chosen in (PIECE, RANGE):
            self.what.setCurrentIndex(self.what.findData(PIECE if all_ else RANGE))
        self.refresh()

    def _set_end(self, place: int, frame: int) -> None:
        frames = self._desk.stretch.frames
        ends = (frame, frames.stop) if place == 0 else (frames.start, frame)
        self._desk.stretch.take(*ends)
        # A time beyond the piece is shown as what became of it.
        self.refresh()

    def take(self, ready: ReadyChoice) -> None:
        """Takes over a ready choice."""
        if self.form.findData(ready.form) < 0:
            self.faulted.emit(f"There is no format '{ready.form}' in this version.")
            return
        self.form.setCurrentIndex(self.form.findData(ready.form))
        self._show_form()
        size = ready.size
        shown = self._shown() if ready.smaller != 1.0 else None
        if size is None and shown is not None:
            size = size_of(ready, shown.size).label.replace("×", "x")
        self.size_field.setCurrentText(size or _AS_SHOWN)
        self.rate_field.setCurrentText(ready.rate or _AS_SHOWN)
        if ready.depth is not None:
            self.bits.setCurrentIndex(max(self.bits.findData(ready.depth), 0))
        self.colour.setCurrentIndex(max(self.colour.findData(ready.colour), 0))
        heard = [x for x in Hears if x.value == ready.hears]
        self.hears.setCurrentIndex(max(self.hears.findData(heard[0]) if heard else 0, 0))
        amounts = {_MEGABYTES: ready.megabytes,
                   _KBITS: ready.bits / 1000 if ready.bits is not None else None,
                   _QUALITY: ready.quality}  # fmt: skip
        said, amount = next((x, y) for x, y in amounts.items() if y is not None)
        self.large.setCurrentText(said)
        self.amount.set_value(amount)
        self.changed.emit()

    def _show_several(self) -> None:
        """The fields stand for one way alone; several have theirs."""
        self._show_fields()
        self.changed.emit()

    def _show_form(self) -> None:
        form = FORMATS[self.form.currentData()]
        self.bits.clear()
        for bits in form.depths:
            self.bits.addItem(f"{bits}", bits)
        self._show_fields()
        self.changed.emit()

    def _show_fields(self) -> None:
        """What it does not have is not asked about."""
        form, what = FORMATS[self.form.currentData()], self.what.currentData()
        pictures, one = not self.writes_wrinkle, not self.ready.several
        shown: dict[QWidget | QLayout, bool] = {
            self.ready: True,
            self.form: one,
            self.bits: one,
            self._large: one and form.quality is not None,
            self.colour: one and form.coloured,
            self.hears: one and bool(form.sound),
            self.size_field: one and form.into is not Into.SOUND,
            self.rate_field: one and form.into is not Into.SOUND,
            self.on: what != FLAT and form.into not in (Into.SOUND, Into.SHEET),
        }
        for field, visible in shown.items():
            self.rows.setRowVisible(field, visible and pictures)
        self.rows.setRowVisible(self.ends, what == RANGE)
        self.rows.setRowVisible(self.around, what in (WINDOWS, *_OF_BENCH))
        if self.writes_wrinkle:
            self.about.setText("All that it is and carries, to be used on any clips.")
        elif not one:
            self.about.setText("\n".join(x.name for x in self.ready.several))
        else:
            self.about.setText(f"{form.about[0].upper()}{form.about[1:]}.")

    def _show_large(self) -> None:
        usual = {_QUALITY: USUAL_QUALITY, _KBITS: 12_000.0, _MEGABYTES: 20.0}
        self.amount.set_value(usual[self.large.currentText()])
        self.changed.emit()

    # What comes of it

    def _shown(self) -> Piece | None:
        """The piece that is written: the open one, or the wrinkle on its two clips as one."""
        if self.what.currentData() in _OF_BENCH:
            around = Fraction(number_of(self.around.value)).limit_denominator(1000)
            return bench_piece(self._desk, around)
        piece = self._desk.piece.state
        return piece if piece.clips else None

    @property
    def name(self) -> str:
        """What the file would be called."""
        shown = self._shown()
        return shown.title if shown is not None else "export"

    @property
    def suffix(self) -> str:
        """How it would end; nothing for a folder."""
        if self.what.currentData() == FLAT:
            return SUFFIX
        form = FORMATS[self.form.currentData()]
        return "" if form.into is Into.FRAMES else form.suffix

    @property
    def writes_wrinkle(self) -> bool:
        """Whether it is a wrinkle that is written, and no pictures of it."""
        return bool(self.what.currentData() == WRINKLE)

    @property
    def pictures(self) -> bool:
        """Whether pictures are written, and not what is heard alone."""
        return FORMATS[self.form.currentData()].into is not Into.SOUND

    @property
    def has_something(self) -> bool:
        """Whether there is a piece, or a wrinkle with its clips, to write."""
        return self.writes_wrinkle or self._shown() is not None

    def items(self, path: Path) -> tuple[Piece, list[ExportItem]]:
        """What would be written to a file, or to several beside it.

        Raises:
            InputError: there is nothing to write, or something typed is not possible.
        """
        piece = self._shown()
        if piece is None:
            raise InputError(
                "There is nothing to write yet: put clips into the Cut list, or two on the Bench."
            )
        kind = self.what.currentData()
        what = kind if kind in (OVERLAY, MATTE, FLAT) else What.ALL.value
        choices = self.ready.several or (self.now(),)
        items = items_of(piece, self._parts(piece), choices, what, path)
        on = self.on.text().strip()
        if not on or kind == FLAT:
            return piece, items
        try:
            address = parse_address(on)
        except ValueError as fault:
            raise InputError(str(fault)) from None
        return piece, [replaced(item, on=address) for item in items]

    def now(self) -> ReadyChoice:
        """What the fields say."""
        size, rate = self.size_field.currentText(), self.rate_field.currentText()
        amount, said = number_of(self.amount.value), self.large.currentText()
        return ReadyChoice(
            "",
            self.form.currentData(),
            None if size == _AS_SHOWN else size,
            None if rate == _AS_SHOWN else rate,
            amount if said == _QUALITY else USUAL_QUALITY,
            self.bits.currentData(),
            round(amount * 1000) if said == _KBITS else None,
            amount if said == _MEGABYTES else None,
            self.colour.currentData(),
            self.hears.currentData().value,
        )

    def _parts(self, piece: Piece) -> list[Part]:
        """What is written, in words, with its first frame and the one after its last."""
        kind, whole = self.what.currentData(), piece.frame_count
        frames = self._desk.stretch.frames
        if kind == RANGE:
            return [(f"{piece.title}, a range", frames.start, frames.stop)]
        if kind != WINDOWS:
            return [(piece.title, 0, whole)]
        around = piece.rate.nearest_frame(Fraction(number_of(self.around.value)))
        found = [
            (
                f"{piece.title}, cut {piece.index(window.clip)}",
                max(window.first - around, 0),
                min(window.end + around, whole),
            )
            for window in windows(piece)
        ]
        if not found:
            raise InputError("No cut of the piece is dressed; put a wrinkle on one first.")
        return found


def _typed(words: tuple[str, ...], name: str) -> QComboBox:
    box = QComboBox()
    box.setEditable(True)
    box.setInsertPolicy(QComboBox.InsertPolicy.NoInsert)
    box.addItems((_AS_SHOWN, *words))
    box.setAccessibleName(name)
    box.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
    return box
