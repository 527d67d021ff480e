"""What a layer shows, as rows of its card: colours, path, words, noise, fit."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QColor, QFocusEvent
from PyQt6.QtWidgets import (
    QMenu,
    QPlainTextEdit,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design.document.address import Address, Part
from wrinkle.core.design.document.dials import TEXT
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting import settings_in
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.slot_kinds import Fills
from wrinkle.core.design.document.slots import GIVEN, Unfilled, called
from wrinkle.core.design.document.sources import (
    FillSource,
    PictureSource,
    ShapeSource,
    SlotSource,
    WordsSource,
)
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import lane_edits, layer_edits, slot_edits
from wrinkle.core.design.edits.mask_edits import path_ref
from wrinkle.core.errors import InputError
from wrinkle.core.measure.colour_sets import word_sets
from wrinkle.core.motion.track import Side
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.faces import system_fonts
from wrinkle.core.picture.gradient import FillForm
from wrinkle.files.whole import read_whole
from wrinkle.media.stand_in import LARGEST_STAND_IN
from wrinkle.ui.bench.sections.colour_set_menu import add_sets
from wrinkle.ui.bench.sections.dial_menu import dial_menu
from wrinkle.ui.bench.sections.layer_row import LayerRow
from wrinkle.ui.bench.sections.plain_rows import PlainRow, choice_row, toggle_row
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.pictures.clip_pictures import ClipPictures
from wrinkle.ui.pictures.source_strip import SourceStrip
from wrinkle.ui.shared.colour_field import linear_colour
from wrinkle.ui.shared.drops import CLIP_FILTER
from wrinkle.ui.shared.hanging_menu import hang_menu

_TEXT_HEIGHT = 56
_OUTLINE = 0.4
"""Per cent of the short side."""
_SHOWN_BY_FORM = {
    FillForm.FLAT: {"form", "colour"},
    FillForm.LINEAR: {"form", "colour", "colour_2", "start", "end"},
    FillForm.RADIAL: {"form", "colour", "colour_2", "start", "end"},
    FillForm.CORNERS: {"form", "colour", "colour_2", "colour_3", "colour_4"},
}


class _Words(QPlainTextEdit):
    left = pyqtSignal()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.left.emit()


class SourceSection(QWidget):
    """The rows of a layer's source; empty for a treatment or a group."""

    def __init__(self, desk: Supplying, layer: Layer, clip_pictures: ClipPictures) -> None:
        super().__init__()
        self._desk = desk
        self._layer = layer.id
        self._clip_pictures = clip_pictures
        self.strip: SourceStrip | None = None
        self.keep_button: QToolButton | None = None
        self.rows: list[LayerRow] = []
        self.dial_button = QToolButton(self)
        self.dial_button.setVisible(isinstance(layer.source, WordsSource))
        self._plain: list[PlainRow] = []
        self.words: _Words | None = None
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(4)
        source = layer.source
        if isinstance(source, WordsSource):
            self._add_words()
        if isinstance(source, ShapeSource):
            self._add_shape()
        if isinstance(source, SlotSource):
            self._add_clip(source.slot)
            if source.slot not in GIVEN:
                self._add_strip(source.slot)
        for name in settings_in(source):
            if name != "path":
                self._add(Address.of(Part.SOURCE, name))
        if isinstance(source, SlotSource | PictureSource):
            self._add("fit")
            self._add("focus")

    def refresh(self, layer: Layer) -> None:
        """Shows the layer's state."""
        for row in self.rows:
            row.refresh()
        for plain in self._plain:
            plain.refresh(layer)
        source = layer.source
        if isinstance(source, WordsSource) and self.words is not None:
            self._show_words(self.words, source.text)
        if isinstance(source, FillSource):
            shown = _SHOWN_BY_FORM[FillForm(source.form.at(self._desk.looking.time))]
            for row in self.rows:
                name = row.ref.address.name
                row.setVisible(name in shown or name not in settings_in(source))

    def _show_words(self, words: QPlainTextEdit, text: str) -> None:
        if not words.hasFocus() and words.toPlainText() != text:
            words.setPlainText(text)

    def _add(self, key: str) -> None:
        row = LayerRow(self._desk, SettingRef(self._layer, key))
        self.rows.append(row)
        self._column.addWidget(row)

    def _add_plain(self, row: PlainRow) -> None:
        self._plain.append(row)
        self._column.addWidget(row)

    def _add_words(self) -> None:
        words = _Words()
        words.setFixedHeight(_TEXT_HEIGHT)
        words.setTabChangesFocus(True)
        words.setAccessibleName("Words of the title")
        words.setToolTip("What the title says; Enter begins a new line")
        words.textChanged.connect(self._show_typed)
        words.left.connect(self._take_typed)
        self.words = words
        self._column.addWidget(words)
        self.dial_button.setText("Offer the words…")
        self.dial_button.setObjectName("plain")
        self.dial_button.setToolTip("To whoever reuses the wrinkle, as a dial")
        self.dial_button.clicked.connect(self._ask_dial)
        self._column.addWidget(self.dial_button)
        self.colours_button = QToolButton()
        self.colours_button.setObjectName("plain")
        self.colours_button.setText("Colours from the clips")
        self.colours_button.setToolTip("A fill and an outline that are read on anything")
        menu = QMenu(self)
        menu.aboutToShow.connect(lambda: self.fill_sets(menu))
        hang_menu(self.colours_button, menu)
        self._column.addWidget(self.colours_button)
        self._add_slot(Fills.WORDS, "none: these words")
        fonts = [("by its face (shipped)", ""), *((name, name) for name in system_fonts())]
        self._add_plain(
            choice_row(
                "Font",
                "A font of the system, or one that ships: Face says which.",
                fonts,
                lambda layer: getattr(layer.source, "font", ""),
                lambda font: self._change("font", font=font),
            )
        )
        self._add_plain(
            toggle_row(
                "Weight",
                "The heavier cut of the font.",
                "Heavy",
                lambda layer: bool(getattr(layer.source, "bold", False)),
                lambda on: self._change("weight", bold=on),
            )
        )

    def fill_sets(self, menu: QMenu) -> None:
        """Fills and outlines for the words, from the clips."""
        menu.clear()
        add_sets(menu, word_sets(self._desk.clip_colours.found), self._take_set)

    def _take_set(self, colours: Sequence[QColor]) -> None:
        """A fill with its outline; an outline of some width, where there was none."""
        fill, stroke = map(linear_colour, colours)
        time = self._desk.looking.time

        def change(wrinkle: Wrinkle) -> Wrinkle:
            values: dict[str, Value] = {"filled": True, "fill": fill, "stroke": stroke}
            width = SettingRef(self._layer, Address.of(Part.SOURCE, "stroke_width"))
            if width.of(wrinkle).still and not width.of(wrinkle).rest:
                values["stroke_width"] = _OUTLINE
            for name, value in values.items():
                ref = SettingRef(self._layer, Address.of(Part.SOURCE, name))
                wrinkle = lane_edits.set_value(wrinkle, ref, time, value)
            return wrinkle

        self._desk.document.edit("colours of the words", change)

    def _add_clip(self, slot: str) -> None:
        """The clip that fills the slot; a press exchanges it."""
        desk = self._desk
        button = QToolButton()
        button.setObjectName("plain")
        button.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)

        def choose() -> None:
            words = f"Choose the {called(desk.document.state.slots, slot)}"
            path = desk.asking.file(self, words, "clip", CLIP_FILTER)
            if path is not None:
                desk.tried.try_clip(slot, path)

        def show(layer: Layer) -> None:
            tried = desk.tried.clips.get(slot)
            button.setText(tried.source.name if tried is not None else "Choose…")

        button.clicked.connect(choose)
        self._add_slot(Fills.PICTURES, "")
        self._add_plain(
            PlainRow("Clip", "What fills the slot; press to exchange it", button).reads(show)
        )

    def _add_strip(self, slot: str) -> None:
        """The strip of a further clip, on which its time against the cut is slid."""
        tried = self._desk.tried
        strip = self.strip = SourceStrip(Side.INCOMING, self._clip_pictures)
        strip.setAccessibleName(f"Cut of the clip in {slot}")
        strip.sliding.connect(lambda seconds: tried.preview_cut(slot, seconds))
        strip.slid.connect(lambda seconds: tried.set_cut(slot, seconds))
        strip.abandoned.connect(tried.abandon)
        self._column.addWidget(strip)
        keep = self.keep_button = QToolButton()
        keep.setText("Keep it as the stand-in")
        keep.setToolTip("The clip goes with the wrinkle, and fills the slot until reuse does")
        keep.setObjectName("plain")
        keep.clicked.connect(partial(self._keep_stand_in, slot))
        self._column.addWidget(keep)
        tried.changed.connect(self._show_strip)
        self._show_strip()

    def _show_strip(self) -> None:
        wrinkle, strip = self._desk.document.state, self.strip
        layer = next((x for x in wrinkle.layers if x.id == self._layer), None)
        if strip is not None and layer is not None and isinstance(layer.source, SlotSource):
            clip = self._desk.tried.clips.get(layer.source.slot)
            window = (wrinkle.lead, wrinkle.tail)
            strip.show_clip(clip, window, wrinkle.frame_rate.seconds(1))
            strip.setVisible(clip is not None)
            if self.keep_button is not None:
                self.keep_button.setVisible(clip is not None)

    def _keep_stand_in(self, slot: str) -> None:
        """The clip that is tried goes with the wrinkle from now on, cut where it is cut now."""
        desk = self._desk
        tried = desk.tried.clips.get(slot)
        path = tried.path if tried is not None else None
        if tried is None or path is None:
            desk.messages.faulted.emit("Only a clip that runs as its file does can be carried.")
            return
        cut = tried.cut

        def keep(content: bytes | str) -> None:
            if isinstance(content, str):
                desk.messages.faulted.emit(content)
                return
            try:
                asset = desk.document.keep_asset(path.name, content)
            except InputError as fault:
                desk.messages.faulted.emit(str(fault))
                return
            desk.document.edit(
                "stand-in",
                lambda w: slot_edits.change_slot(
                    w, slot, stand_in=asset, stand_in_cut=cut, unfilled=Unfilled.STAND_IN
                ),
            )

        desk.workers.asked.put(lambda job: _content_of(path), keep)

    def _add_slot(self, fills: Fills, nothing: str) -> None:
        """The slot whose filling is shown."""

        def slots(layer: Layer) -> list[tuple[str, object]]:
            found = [x for x in self._desk.document.state.slots if x.fills is fills]
            own: list[tuple[str, object]] = [(nothing, "")] if nothing else []
            return [*own, *((slot.label, slot.key) for slot in found)]

        self._add_plain(
            choice_row(
                "Slot",
                "What reuse fills; slots are made in File, What it is.",
                slots,
                lambda layer: getattr(layer.source, "slot", ""),
                lambda slot: self._change("slot", slot=slot),
            )
        )

    def _ask_dial(self) -> None:
        menu = dial_menu(self._desk, self._layer, TEXT, self)
        button = self.dial_button
        menu.popup(button.mapToGlobal(button.rect().bottomLeft()))

    def _add_shape(self) -> None:
        ref = path_ref(self._layer, None)
        button = QToolButton()
        button.setText("Edit on the picture")
        button.setCheckable(True)
        button.setObjectName("toggle")
        button.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        mode = self._desk.looking.mode
        button.clicked.connect(lambda on: mode.select_outline(ref if on else None))
        row = PlainRow("Outline", "Its points and handles are dragged on the picture.", button)
        self._add_plain(row.reads(lambda layer: button.setChecked(mode.outline == ref)))
        path = LayerRow(self._desk, ref)
        self.rows.append(path)
        self._column.addWidget(path)

    def _typed(self) -> str | None:
        source = self._desk.document.state.layer(self._layer).source
        text = self.words.toPlainText() if self.words is not None else ""
        return text if isinstance(source, WordsSource) and text != source.text else None

    def _show_typed(self) -> None:
        text = self._typed()
        if text is not None and self.words is not None and self.words.hasFocus():
            self._desk.document.preview(lambda w: _with_source(w, self._layer, text=text))

    def _take_typed(self) -> None:
        self._desk.document.edit("words")

    def _change(self, label: str, **fields: object) -> None:
        self._desk.document.edit(label, lambda w: _with_source(w, self._layer, **fields))


def _content_of(path: Path) -> bytes | str:
    """The bytes of a file, or one sentence on why there are none."""
    try:
        return read_whole(path, LARGEST_STAND_IN)
    except InputError as fault:
        return str(fault)
    except OSError as fault:
        return f"{path.name} cannot be kept: {fault.strerror}."


def _with_source(wrinkle: Wrinkle, layer_id: str, **fields: object) -> Wrinkle:
    source = replace(wrinkle.layer(layer_id).source, **fields)
    return layer_edits.change_layer(wrinkle, layer_id, source=source)
