"""When a layer is there and how its clip runs, as rows of its card."""

from __future__ import annotations

from fractions import Fraction
from functools import partial

from msgspec.structs import replace
from PyQt6.QtWidgets import QHBoxLayout, QSizePolicy, QToolButton, QVBoxLayout, QWidget

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import SlotSource
from wrinkle.core.design.document.timing import Beyond, Blink
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import lane_shapes, layer_edits, time_edits
from wrinkle.core.errors import InputError
from wrinkle.core.motion.held_at import HeldAt
from wrinkle.ui.bench.sections.layer_row import LayerRow
from wrinkle.ui.bench.sections.plain_rows import PlainRow, choice_row, number_row, toggle_row
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.plain_text import tip
from wrinkle.ui.shared.value_field import FieldFormat

_FRAMES = FieldFormat(suffix=" fr", decimals=2)


LENGTHS: list[tuple[str, HeldAt | None]] = [
    ("stretches", None),
    *((f"keeps it, held at the {held.value}", held) for held in HeldAt),
]
"""What becomes of the length of a layer or a lane, in words."""


class TimeSection(QWidget):
    """Span, split and blink for every layer; speed, freeze and the rest where there is a clip."""

    def __init__(self, desk: Designing, layer: Layer) -> None:
        super().__init__()
        self._desk = desk
        self._layer = layer.id
        self.rows: list[LayerRow] = []
        self.plain: dict[str, PlainRow] = {}
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(4)
        self._add_span()
        self._add_keeps()
        if isinstance(layer.source, SlotSource):
            self._add_clip()
        self._add_blink()

    def refresh(self, layer: Layer) -> None:
        """Shows the layer's state."""
        for row in self.rows:
            row.refresh()
        for plain in self.plain.values():
            plain.refresh(layer)

    @property
    def _rate(self) -> Fraction:
        return self._desk.document.state.frame_rate.per_second

    def _add(self, row: PlainRow) -> None:
        self.plain[row.field.accessibleName()] = row
        self._column.addWidget(row)

    def _add_span(self) -> None:
        def frames(which: str, layer: Layer) -> float:
            wrinkle = self._desk.document.state
            own = getattr(layer.span, which)
            tied = -wrinkle.lead if which == "start" else wrinkle.tail
            return float((tied if own is None else own) * self._rate)

        def write(which: str, frame: float, preview: bool) -> None:
            time = Fraction(frame).limit_denominator(1000) / self._rate

            def change(wrinkle: Wrinkle) -> Wrinkle:
                span = wrinkle.layer(self._layer).span
                ends = {"start": span.start, "end": span.end, which: time}
                return lane_shapes.set_span(wrinkle, self._layer, ends["start"], ends["end"])

            if preview:
                self._desk.document.preview(change)
            else:
                self._desk.document.edit(f"{which} of a layer", change)

        for name, which, about in (
            ("From frame", "start", "The first frame of the layer, counted from the cut."),
            ("To frame", "end", "The frame after its last one; also dragged on the strip."),
        ):
            self._add(
                number_row(
                    name,
                    about,
                    _FRAMES,
                    partial(frames, which),
                    partial(write, which),
                    self._desk.document.abandon,
                )
            )
        buttons = QWidget()
        line = QHBoxLayout(buttons)
        line.setContentsMargins(0, 0, 0, 0)
        for word, act, about in (
            ("Split here", self._split, "Two layers from one, at the playhead"),
            ("Freeze here", self._freeze, "The layer stands still from the playhead on"),
        ):
            button = QToolButton()
            button.setText(word)
            button.setToolTip(tip(about))
            button.setObjectName("plain")
            button.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
            button.clicked.connect(act)
            line.addWidget(button, 1)
        self._column.addWidget(buttons)

    def _add_keeps(self) -> None:
        def keep(held: object) -> None:
            self._desk.document.edit(
                "length of a layer",
                lambda w: layer_edits.change_layer(w, self._layer, keeps=held),
            )

        self._add(
            choice_row(
                "Length",
                "Whether it stretches, with all that it holds, when a use is longer or shorter.",
                LENGTHS,
                lambda layer: layer.keeps,
                keep,
            )
        )

    def _add_clip(self) -> None:
        for key in ("timing.speed", "timing.sound", "timing.stutter"):
            row = LayerRow(self._desk, SettingRef(self._layer, key))
            self.rows.append(row)
            self._column.addWidget(row)
        self._add_frames("Slide", "Shows the clip so many frames later in itself.", "slide")
        self._add(
            toggle_row(
                "Direction",
                "The clip runs backwards through what falls on the cut.",
                "Reverse",
                lambda layer: layer.timing.reverse,
                lambda on: self._set(False, reverse=on),
            )
        )
        self._add_frames(
            "Freeze frame",
            "The frame of the clip that is held, counted from its cut; typed or dragged.",
            "freeze",
        )
        self._add(
            toggle_row(
                "Freeze",
                "The clip stands still.",
                "Frozen",
                lambda layer: layer.timing.freeze is not None,
                self._set_frozen,
            )
        )
        self._add(
            choice_row(
                "Handles end",
                "What is seen where the clip has no more pictures.",
                [
                    ("hold the last picture", Beyond.HOLD),
                    ("loop", Beyond.LOOP),
                    ("nothing", Beyond.NOTHING),
                ],
                lambda layer: layer.timing.beyond,
                lambda beyond: self._set(False, beyond=beyond),
            )
        )
        self._add(
            toggle_row(
                "In between",
                "Pictures between two of the clip's own are mixed from both.",
                "Blend frames",
                lambda layer: layer.timing.frame_blending,
                lambda on: self._set(False, frame_blending=on),
            )
        )
        self._add(
            toggle_row(
                "By motion",
                "Pictures between two of the clip's own are taken along the motion from one to the "
                "other, where that is sure.",
                "Along the motion",
                lambda layer: layer.timing.along_motion,
                lambda on: self._set(False, along_motion=on),
            )
        )

    def _add_frames(self, name: str, about: str, key: str) -> None:
        """A row for a time of the layer's timing, in frames."""

        def write(value: float, preview: bool) -> None:
            time = Fraction(value).limit_denominator(1000) / self._rate
            self._set(preview, **{key: time})

        self._add(
            number_row(
                name,
                about,
                _FRAMES,
                lambda layer: float((getattr(layer.timing, key) or Fraction(0)) * self._rate),
                write,
                self._desk.document.abandon,
            )
        )

    def _add_blink(self) -> None:
        self._add(
            toggle_row(
                "Blink",
                "Some frames shown, some hidden, and again.",
                "Blinks",
                lambda layer: layer.timing.blink is not None,
                lambda on: self._set(False, blink=Blink() if on else None),
            )
        )
        for name, which in (("Shown for", "shown"), ("Hidden for", "hidden")):
            self._add(
                number_row(
                    name,
                    "Frames of the blink's pattern.",
                    FieldFormat(suffix=" fr", decimals=0),
                    partial(_blink_frames, which),
                    partial(self._set_blink, which),
                    self._desk.document.abandon,
                )
            )

    def _set_blink(self, which: str, value: float, preview: bool) -> None:
        blink = self._desk.document.state.layer(self._layer).timing.blink or Blink()
        try:
            self._set(preview, blink=replace(blink, **{which: round(value)}))
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))

    def _set_frozen(self, on: bool) -> None:
        time = self._desk.looking.time
        if on:
            label = "freeze"
            self._desk.document.edit(label, lambda w: time_edits.freeze_layer(w, self._layer, time))
        else:
            self._set(False, freeze=None)

    def _set(self, preview: bool, **fields: object) -> None:
        def change(wrinkle: Wrinkle) -> Wrinkle:
            return time_edits.set_timing(wrinkle, self._layer, **fields)

        if preview:
            self._desk.document.preview(change)
        else:
            self._desk.document.edit(f"{next(iter(fields)).replace('_', ' ')} of a layer", change)

    def _split(self) -> None:
        split_here(self._desk, self._layer)

    def _freeze(self) -> None:
        freeze_here(self._desk, self._layer)


def _blink_frames(which: str, layer: Layer) -> float:
    return float(getattr(layer.timing.blink or Blink(), which))


def split_here(desk: Designing, layer: str) -> None:
    """Splits a layer at the playhead and selects the later part."""
    time = desk.looking.time
    if desk.document.edit("split", lambda w: time_edits.split_layer(w, layer, time)[0]):
        _select_later(desk, layer)


def freeze_here(desk: Designing, layer: str) -> None:
    """Lets a layer stand still from the playhead on, and selects the still part."""
    time = desk.looking.time
    before = len(desk.document.state.layers)
    done = desk.document.edit("freeze here", lambda w: time_edits.freeze_from(w, layer, time)[0])
    if done and len(desk.document.state.layers) > before:
        _select_later(desk, layer)


def _select_later(desk: Designing, layer: str) -> None:
    ids = [x.id for x in desk.document.state.layers]
    desk.looking.select_layer(ids[ids.index(layer) + 1])
