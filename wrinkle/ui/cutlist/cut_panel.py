"""The chosen cut: its two clips and where they are cut, its wrinkle and what is chosen of it."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from fractions import Fraction
from functools import partial

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design.document.slot_kinds import Fills
from wrinkle.core.design.document.slots import GIVEN, Slot
from wrinkle.core.errors import InputError
from wrinkle.core.motion.track import Side
from wrinkle.core.piece import edits
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.film import Missing
from wrinkle.core.piece.making_room import make_room
from wrinkle.core.piece.running import Paced, cuts_of
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.render.material import Filling
from wrinkle.ui.choosing.use_controls import UseControls
from wrinkle.ui.cutlist.dresser import Dresser
from wrinkle.ui.cutlist.piece_looking import PieceLooking
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.pictures.clip_pictures import ClipPictures
from wrinkle.ui.pictures.source_strip import SourceStrip
from wrinkle.ui.shared.asking_files import Asking
from wrinkle.ui.shared.drops import CLIP_FILTER, SOUND_FILTER
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.flow_row import FlowRow
from wrinkle.ui.shared.plain_text import PlainForm, PlainLabel, tip


class CutPanel(QWidget):
    """What can be done at one cut.

    Signals:
        benchWanted: the wrinkle is to be opened on the Bench, on these two clips.
        faulted: one sentence on what was typed.
    """

    benchWanted = pyqtSignal()
    faulted = pyqtSignal(str)

    def __init__(
        self,
        document: PieceDocument,
        looking: PieceLooking,
        dresser: Dresser,
        pictures: ClipPictures,
        asking: Asking,
    ) -> None:
        super().__init__()
        self._asking = asking
        self._document = document
        self._looking = looking
        self._dresser = dresser
        self._controlled: PieceUse | None = None
        self.name, self.sides = ElidedLabel(), ElidedLabel()
        self.name.setObjectName("heading")
        self.sides.setObjectName("quiet")
        self.room = QPushButton()
        self.fault = PlainLabel()
        self.fault.setObjectName("fault")
        self.fault.setWordWrap(True)
        self.bench = self._button("Open on the Bench", self.benchWanted.emit)
        self.same = self._button("Same on every cut like this", dresser.same_on_all_like_it)
        self.same.setToolTip(
            tip("Every cut with this wrinkle has it with the same dials, lengths and direction")
        )
        self.off = self._button("Take off", dresser.take_off)
        self.outgoing = SourceStrip(Side.OUTGOING, pictures)
        self.incoming = SourceStrip(Side.INCOMING, pictures)
        self.out_words, self.in_words = PlainLabel(), PlainLabel()
        self.earlier, self.later = self._step("Earlier", -1), self._step("Later", 1)
        self.controls = UseControls()
        self.controls.changing.connect(lambda: dresser.choose(self.controls.choices, done=False))
        self.controls.changed.connect(lambda: dresser.choose(self.controls.choices, done=True))
        self.controls.faulted.connect(self.faulted)
        self.slots = PlainForm()
        self.slots.setVerticalSpacing(6)
        self._lay_out()
        for strip, side in ((self.outgoing, Side.OUTGOING), (self.incoming, Side.INCOMING)):
            strip.sliding.connect(partial(self._slide, side, False))
            strip.slid.connect(partial(self._slide, side, True))
            strip.abandoned.connect(document.abandon)

    def _button(self, text: str, act: Callable[[], object]) -> QPushButton:
        button = QPushButton(text)
        button.clicked.connect(lambda: act())
        return button

    def _step(self, word: str, frames: int) -> QToolButton:
        button = QToolButton()
        button.setText(word)
        button.setObjectName("plain")
        button.setAutoRepeat(True)
        button.setToolTip(
            tip(f"The cut comes a frame {word.lower()}: one clip gets longer, the other shorter")
        )
        button.clicked.connect(lambda: self._slip(frames))
        return button

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 8, 12, 8)
        column.setSpacing(6)
        top = QHBoxLayout()
        top.setSpacing(12)
        top.addWidget(self.name)
        top.addWidget(self.sides, 1)
        column.addLayout(top)
        does = FlowRow()
        for button in (self.bench, self.same, self.off):
            does.addWidget(button)
        column.addLayout(does)
        column.addWidget(self.fault)
        column.addWidget(self.room, 0, Qt.AlignmentFlag.AlignLeft)
        grid = QGridLayout()
        grid.setSpacing(4)
        grid.addWidget(self.outgoing, 0, 0)
        grid.addWidget(self.incoming, 0, 1)
        for place, words in enumerate((self.out_words, self.in_words)):
            words.setObjectName("quiet")
            words.setWordWrap(True)
            row = QHBoxLayout()
            row.addWidget(words, 1)
            grid.addLayout(row, 1, place)
        column.addLayout(grid)
        moves = QHBoxLayout()
        moves.addWidget(PlainLabel("The cut itself"))
        moves.addWidget(self.earlier)
        moves.addWidget(self.later)
        moves.addStretch(1)
        column.addLayout(moves)
        column.addWidget(self.controls)
        column.addLayout(self.slots)
        column.addStretch(1)

    def _show_room(self, piece: Piece, clip_id: str) -> None:
        """Where handles are too short, trimming makes room: it is told what that costs."""
        try:
            made = make_room(piece, [clip_id])
        except InputError:
            self.room.hide()
            return
        self.room.setVisible(True)
        self.room.setToolTip(tip(made.words(piece)))

    def show_cut(self, faults: tuple[str, ...]) -> None:
        """Shows the chosen cut as it is now."""
        piece, clip = self._document.state, self._looking.cut
        if clip is None:
            return
        place = piece.index(clip.id)
        before, use = piece.clips[place - 1], clip.entry
        count = len(self._looking.cuts)
        self.name.setText(use.wrinkle.name if use is not None else "Plain cut")
        more = f" · {count} cuts chosen" if count > 1 else ""
        self.sides.setText(f"{before.name} → {clip.name}{more}")
        self.fault.setText(" ".join(faults))
        self.fault.setVisible(bool(faults))
        self._show_room(piece, clip.id)
        self._show_sources(piece, before, clip)
        for widget in (self.controls, self.bench, self.same, self.off):
            widget.setVisible(use is not None)
        if use is not None:
            self.controls.set_rate(piece.rate)
            self.controls.show_wrinkle(use.wrinkle)
            self.controls.set_choices(use.choices)
        if use is not self._controlled:
            self._controlled = use
            self._show_slots(use)

    def _show_sources(self, piece: Piece, before: PieceClip, clip: PieceClip) -> None:
        reach = (0, 0)
        # What is not possible is said above.
        with suppress(InputError):
            if clip.entry is not None:
                found = clip.entry.reach(piece.rate)
                reach = found.lead, found.tail
        step = piece.rate.seconds(1)
        lead, tail = (piece.rate.seconds(frames) for frames in reach)
        for strip, one, cut in (
            (self.outgoing, before, cuts_of(piece, before)[1]),
            (self.incoming, clip, cuts_of(piece, clip)[0]),
        ):
            source = self._document.media.sources.get(one.media.path)
            there = source is not None and not one.stands
            shown = Paced(source or Missing(one.media), one) if not one.plain else source
            strip.show_clip(Filling(shown, cut) if there and shown else None, (lead, tail), step)
        rate = piece.rate
        self.out_words.setText(_spare(before, before.spare(rate)[1], "after"))
        self.in_words.setText(_spare(clip, clip.spare(rate)[0], "before"))

    def _show_slots(self, use: PieceUse | None) -> None:
        while self.slots.rowCount():
            self.slots.removeRow(0)
        for slot in use.wrinkle.slots if use is not None else ():
            if slot.key in GIVEN or slot.fills is Fills.WORDS or use is None:
                continue
            filled = use.fillings.get(slot.key)
            button = QPushButton(filled.name if filled is not None else slot.unfilled.value)
            button.setToolTip(tip(slot.about or f"Choose what is {_sensed(slot)} there"))
            button.setAccessibleName(slot.label)
            button.clicked.connect(partial(self._ask_filling, slot))
            self.slots.add(slot.label, button)

    def _ask_filling(self, slot: Slot) -> None:
        heard = slot.fills is Fills.SOUND
        kind, filters = ("music", SOUND_FILTER) if heard else ("clip", CLIP_FILTER)
        path = self._asking.file(self, f"Choose: {slot.label}", kind, filters)
        if path is not None:
            self._document.fill_slot(self._looking.cuts, slot.key, path, heard)

    def _slide(self, side: Side, done: bool, seconds: Fraction) -> None:
        """Another time of one of the clips falls on the cut: that clip gets longer or shorter."""
        piece, clip = self._document.committed, self._looking.cut
        if clip is None:
            return
        place = piece.index(clip.id)
        one = piece.clips[place - 1] if side is Side.OUTGOING else piece.clips[place]
        cut = cuts_of(piece, one)[1 if side is Side.OUTGOING else 0]
        frames = piece.rate.nearest_frame(seconds - cut)
        moved = (0, frames) if side is Side.OUTGOING else (frames, 0)

        def change(found: Piece) -> Piece:
            return edits.trim(found, one.id, *moved)

        if not done:
            self._document.preview(change)
        elif frames:
            self._document.edit("cut of a clip", change)
        else:
            self._document.abandon()

    def _slip(self, frames: int) -> None:
        clip = self._looking.cut
        if clip is not None:
            self._document.edit("cut moved", lambda piece: edits.slip_cut(piece, clip.id, frames))


def _sensed(slot: Slot) -> str:
    return "heard" if slot.fills is Fills.SOUND else "seen"


def _spare(clip: PieceClip, frames: int, where: str) -> str:
    if clip.stands:
        return f"{clip.name} stands still"
    return f"{frames} frames to spare {where} it"
