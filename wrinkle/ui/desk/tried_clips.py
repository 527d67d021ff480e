"""The clips that the wrinkle on the Bench is tried on, with undo of their own."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import partial
from pathlib import Path
from types import MappingProxyType

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.design.document.slots import called
from wrinkle.core.design.document.sources import SlotSource
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import layer_edits, slot_edits, wrinkle_edits
from wrinkle.core.render.material import Filling, FrameSource, default_cut
from wrinkle.core.time.rate import FrameRate
from wrinkle.media.clip import Clip
from wrinkle.ui.desk.editing import Editing, StepOrder
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.workers import Workers
from wrinkle.ui.desk.wrinkle_document import WrinkleDocument


@dataclass(frozen=True)
class TriedClip:
    """A clip that a wrinkle is tried on, and its time that falls on the cut."""

    source: FrameSource
    cut: Fraction

    @property
    def path(self) -> Path | None:
        """The file, where it is one by itself and runs as it does."""
        return self.source.path if isinstance(self.source, Clip) else None

    @property
    def rate(self) -> FrameRate | None:
        """The rate of the file, where it is one by itself."""
        return self.source.facts.rate if isinstance(self.source, Clip) else None

    def cut_at(self, seconds: Fraction) -> TriedClip:
        """The clip cut at another time, within it."""
        return replace(self, cut=min(max(seconds, Fraction(0)), self.source.duration))


Clips = Mapping[str, TriedClip]
Then = Callable[[Wrinkle, str], tuple[Wrinkle, str]]
"""What is done with a new layer: gives the wrinkle, and the layer that is selected."""
_NONE: Clips = MappingProxyType({})


class TriedClips(QObject):
    """By slot. Files are read in the background.

    Signals:
        changed: other clips, other cuts, or another one is being read.
        added: a further clip has come with a layer of its own; the layer's id.
    """

    changed = pyqtSignal()
    added = pyqtSignal(str)

    def __init__(
        self, document: WrinkleDocument, steps: StepOrder, workers: Workers, messages: Messages
    ) -> None:
        super().__init__()
        self._document = document
        self._steps = steps
        self._workers = workers
        self._editing: Editing[Clips] = Editing(_NONE, steps, messages)
        self._editing.changed.connect(self.changed)
        self._reading: set[str] = set()
        self._messages = messages
        self._openings = 0
        document.opened.connect(self._opened)

    @property
    def clips(self) -> Clips:
        """The clips as they are seen now, previews included."""
        return self._editing.state

    def fillings(self) -> dict[str, Filling]:
        """What fills the slots."""
        return {key: Filling(clip.source, clip.cut) for key, clip in self.clips.items()}

    def reading(self, slot: str) -> bool:
        """Whether the clip of a slot is being read."""
        return slot in self._reading

    def try_clip(self, slot: str, path: Path) -> None:
        """Tries the wrinkle on another clip; a file that cannot be read is told."""
        self._reading.add(slot)
        self.changed.emit()
        self._workers.read_clip(
            path, lambda clip: self._take(slot, clip), lambda fault: self._fail(slot, fault)
        )

    def begin(
        self, clips: Mapping[str, Path], cuts: Mapping[str, Fraction] = MappingProxyType({})
    ) -> None:
        """Tries the wrinkle on other clips, which is no step that undo takes back.

        Args:
            clips: by slot.
            cuts: their times that fall on the cut, where they are known.
        """
        for slot, path in clips.items():
            self._reading.add(slot)
            self._workers.read_clip(
                path,
                partial(self._begin_with, slot, cuts.get(slot)),
                partial(self._fail, slot),
            )
        self.changed.emit()

    def show(self, clips: Clips) -> None:
        """Tries the wrinkle on clips that are read already, which is no step either."""
        self._reading.clear()
        self._editing.begin(MappingProxyType(dict(clips)))

    def add_clip(self, path: Path, then: Then | None = None) -> None:
        """A further clip in a slot of its own, on a new layer in front.

        Args:
            path: of the clip.
            then: what else is done in the same step: gives the wrinkle and the layer to select.
        """
        opening = self._openings

        def came(clip: Clip) -> None:
            # The wrinkle that it was meant for may have been closed meanwhile.
            if opening == self._openings:
                self._add(then, clip)

        self._workers.read_clip(path, came, self._messages.faulted.emit)

    def set_cut(self, slot: str, cut: Fraction) -> None:
        """Cuts the clip of a slot at another time."""
        words = f"cut of the {called(self._document.state.slots, slot)}"
        self._editing.edit(words, lambda clips: _with(clips, slot, clips[slot].cut_at(cut)))

    def preview_cut(self, slot: str, cut: Fraction) -> None:
        """Shows the clip of a slot cut at another time."""
        self._editing.preview(lambda clips: _with(clips, slot, clips[slot].cut_at(cut)))

    def abandon(self) -> None:
        """Goes back to the cut before the gesture."""
        self._editing.abandon()

    def _opened(self) -> None:
        self._openings += 1

    def _fail(self, slot: str, sentence: str) -> None:
        self._reading.discard(slot)
        self.changed.emit()
        self._messages.faulted.emit(sentence)

    def _begin_with(self, slot: str, cut: Fraction | None, clip: Clip) -> None:
        self._reading.discard(slot)
        tried = TriedClip(clip, default_cut(slot, clip, self._document.state))
        if cut is not None:
            tried = tried.cut_at(cut)
        self._editing.begin(_with(self._editing.committed, slot, tried))

    def _take(self, slot: str, clip: Clip) -> None:
        self._reading.discard(slot)
        label = f"{called(self._document.state.slots, slot)} {clip.name}"
        with self._steps.together():
            untouched = not self.clips and self._document.state == plain_cut()
            if untouched and self._document.frame_follows:
                # Nothing is designed yet: the first clip says what frame to design in.
                facts = clip.facts
                self._document.edit(
                    label, lambda w: wrinkle_edits.set_frame(w, facts.size, facts.rate)
                )
            tried = TriedClip(clip, default_cut(slot, clip, self._document.state))
            self._editing.edit(label, lambda clips: _with(clips, slot, tried))

    def _add(self, then: Then | None, clip: Clip) -> None:
        made: list[tuple[str, str]] = []

        def with_layer(wrinkle: Wrinkle) -> Wrinkle:
            wrinkle, slot = slot_edits.add_slot(wrinkle)
            wrinkle = layer_edits.add_layer(wrinkle, clip.name, SlotSource(slot))
            layer = wrinkle.layers[-1].id
            if then is not None:
                wrinkle, layer = then(wrinkle, layer)
            made.append((slot, layer))
            return wrinkle

        label = f"further clip {clip.name}"
        with self._steps.together():
            if not self._document.edit(label, with_layer):
                return
            slot, layer = made[-1]
            tried = TriedClip(clip, default_cut(slot, clip, self._document.state))
            self._editing.edit(label, lambda clips: _with(clips, slot, tried))
        self.added.emit(layer)


def _with(clips: Clips, slot: str, tried: TriedClip) -> Clips:
    return MappingProxyType({**clips, slot: tried})
