"""The session: the current document, what is selected, where the playhead is, and undo.

Views listen to its signals and never hold a copy of their own. Each setter normalises, returns if
nothing changes, stores, and announces last. A gesture (a drag) shows previews and ends in one
undo step, or in none if it is abandoned.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from fractions import Fraction
from pathlib import Path

from msgspec.structs import replace as replace_fields
from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle import library
from wrinkle.core.design import (
    archive,
    effect_edits,
    layer_edits,
    mask_edits,
    pins,
    slot_edits,
    wrinkle_edits,
)
from wrinkle.core.design.archive import Bundle
from wrinkle.core.design.document import Wrinkle, plain_cut
from wrinkle.core.design.history import History
from wrinkle.core.design.layer import Layer
from wrinkle.core.design.looks import Look, copied, look_of
from wrinkle.core.design.pins import Chosen, CopiedPins
from wrinkle.core.design.setting_ref import SettingRef
from wrinkle.core.design.sources import SlotSource
from wrinkle.core.errors import InputError
from wrinkle.core.motion.track import Side
from wrinkle.core.motion.values import parts
from wrinkle.core.picture.image import Size
from wrinkle.core.render.material import (
    Filling,
    Material,
    default_cut,
    drawn_cache,
)
from wrinkle.media.assets import Assets, read_assets
from wrinkle.media.clip import Clip
from wrinkle.ui.background import Background
from wrinkle.ui.picture_mode import PictureMode

PRE_ROLL = 6
"""Frames of the plain clips that the loop shows before and after the window."""


@dataclass(frozen=True)
class TriedClip:
    """A clip that the wrinkle is tried on, and its time that falls on the cut."""

    source: Clip
    cut: Fraction


@dataclass(frozen=True)
class Work:
    """What undo goes back to: the wrinkle, and the clips it is tried on, by slot."""

    wrinkle: Wrinkle
    clips: Mapping[str, TriedClip]


@dataclass(frozen=True)
class PinChoice:
    """The selected pin: a keyframe of a lane, on the side where it was picked."""

    ref: SettingRef
    index: int
    side: Side


class Session(QObject):
    """The one place of state in the window."""

    workChanged = pyqtSignal()
    selectionChanged = pyqtSignal()
    playheadChanged = pyqtSignal(int)
    viewChanged = pyqtSignal()
    fileChanged = pyqtSignal()
    opened = pyqtSignal()
    told = pyqtSignal(str)
    faulted = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self._history: History[Work] = History.starting(Work(plain_cut(), {}))
        self._preview: Work | None = None
        self._assets: dict[str, bytes] = {}
        self._read = Assets()
        self._saved = self._history.current.wrinkle
        self._path: Path | None = None
        self._layer = ""
        self._pin: PinChoice | None = None
        self._pins: frozenset[PinChoice] = frozenset()
        self._copied: CopiedPins | None = None
        self._playhead = 0
        self._motion_blur_shown = True
        self._plain_shown = False
        self._effects_hidden = False
        self._split = False
        self._speed_shown = False
        self._drawn = drawn_cache()
        self.mode = PictureMode(self)
        self.mode.changed.connect(self.selectionChanged)
        self.mode.pictureChanged.connect(self.viewChanged)
        self._copied_layer: Layer | None = None
        self._copied_chain: Look | None = None
        self.background = Background(self)
        self.background.failed.connect(self.faulted)
        self.thumbnails = Background(self)
        self._select_front()

    # What is there

    @property
    def work(self) -> Work:
        """The work as it is seen now, previews included."""
        return self._preview or self._history.current

    @property
    def wrinkle(self) -> Wrinkle:
        """The wrinkle as it is seen now."""
        return self.work.wrinkle

    @property
    def path(self) -> Path | None:
        """The file, if there is one yet."""
        return self._path

    @property
    def unsaved(self) -> bool:
        """Whether the wrinkle differs from its file."""
        return self._history.current.wrinkle != self._saved

    @property
    def undo_label(self) -> str | None:
        """The step that undo takes back."""
        return self._history.undo_label

    @property
    def redo_label(self) -> str | None:
        """The step that redo does again."""
        return self._history.redo_label

    @property
    def playhead(self) -> int:
        """The frame that is looked at, counted from the cut."""
        return self._playhead

    @property
    def time(self) -> Fraction:
        """The time of the playhead."""
        return self.wrinkle.frame_rate.seconds(self._playhead)

    @property
    def layer(self) -> str:
        """The id of the selected layer, empty if there is none."""
        return self._layer

    @property
    def pin(self) -> PinChoice | None:
        """The pin that was selected last: its numbers are shown."""
        return self._pin

    @property
    def pins(self) -> frozenset[PinChoice]:
        """All selected pins."""
        return self._pins

    @property
    def chosen(self) -> Chosen:
        """The keyframes of all selected pins, by setting."""
        found: dict[SettingRef, set[int]] = {}
        for pin in self._pins:
            found.setdefault(pin.ref, set()).add(pin.index)
        return {ref: frozenset(indices) for ref, indices in found.items()}

    @property
    def speed_shown(self) -> bool:
        """Whether the lanes show the speed of their values."""
        return self._speed_shown

    @property
    def plain_shown(self) -> bool:
        """Whether the plain cut is shown instead."""
        return self._plain_shown

    @property
    def copied_chain(self) -> Look | None:
        """The effects that can be pasted."""
        return self._copied_chain

    def copy_chain(self, layer: str) -> None:
        """Keeps the effects of a layer, so that they can be pasted to others."""
        chain = self.wrinkle.layer(layer).effects
        try:
            self._copied_chain = copied(chain, self._assets)
        except InputError as fault:
            self.faulted.emit(str(fault))
        else:
            self.told.emit(f"{len(chain)} effect{'s' if len(chain) != 1 else ''} copied.")

    def look_of(self, name: str, layer: str) -> Look:
        """The effects of a layer as a look.

        Raises:
            InputError: the name is empty, or there is no effect.
        """
        return look_of(name, self.wrinkle.layer(layer).effects, self._assets)

    def add_look(self, layer: str, look: Look) -> bool:
        """Adds a look or a copied chain to a layer, its colour tables to the document."""
        try:
            names = {name: self.keep_asset(name, given) for name, given in look.tables.items()}
        except InputError as fault:
            self.faulted.emit(str(fault))
            return False
        chain = [replace_fields(use, asset=names.get(use.asset, "")) for use in look.effects]
        return self.edit(look.name, lambda w: effect_edits.add_chain(w, layer, chain))

    @property
    def copied_layer(self) -> Layer | None:
        """The layer whose settings can be pasted."""
        return self._copied_layer

    def shown_wrinkle(self) -> Wrinkle:
        """The wrinkle as the pictures show it, with what is switched off for comparison."""
        wrinkle = self.wrinkle
        if self._plain_shown:
            layers = tuple(
                layer for layer in plain_cut().layers if isinstance(layer.source, SlotSource)
            )
            return layer_edits.with_layers(wrinkle, layers)
        if self._effects_hidden:
            wrinkle = effect_edits.without_effects(wrinkle)
        if self.mode.painting is not None:
            # What the brush would bring back must be seen.
            wrinkle = mask_edits.change_mask(wrinkle, *self.mode.painting, shown=False)
        return wrinkle if self._motion_blur_shown else wrinkle_edits.set_shutter(wrinkle, 0.0)

    @property
    def split(self) -> bool:
        """Whether a line in the picture splits it into before and after the effects."""
        return self._split

    def before_wrinkle(self) -> Wrinkle | None:
        """What lies on the other side of the split line; None while there is none."""
        if not self._split or self._plain_shown:
            return None
        return effect_edits.without_effects(self.shown_wrinkle())

    def material(self) -> Material:
        """What fills the slots now."""
        slots = {key: Filling(clip.source, clip.cut) for key, clip in self.work.clips.items()}
        read = self._read
        return Material(slots, read.pictures, read.luts, library.fonts(), self._drawn)

    def bundle(self) -> Bundle:
        """What a file holds: the wrinkle and the assets it needs."""
        wrinkle = self._history.current.wrinkle
        return Bundle(wrinkle, {name: self._assets[name] for name in wrinkle.assets()})

    # Edits

    def edit(self, label: str, change: Callable[[Wrinkle], Wrinkle]) -> bool:
        """One undo step on the wrinkle. A refused value is told; gives whether it was taken."""
        return self._step(label, lambda work: replace(work, wrinkle=change(work.wrinkle)))

    def preview(self, change: Callable[[Wrinkle], Wrinkle]) -> bool:
        """Shows what a gesture would do, starting from the state before it."""
        return self._show(lambda work: replace(work, wrinkle=change(work.wrinkle)))

    def preview_cut(self, slot: str, cut: Fraction) -> None:
        """Shows the clip of a slot cut at another time."""
        self._show(lambda work: _recut(work, slot, cut))

    def commit(self, label: str) -> None:
        """Makes what is previewed one undo step."""
        if self._preview is not None:
            work, self._preview = self._preview, None
            self._set_history(self._history.then(work, label))

    def abandon(self) -> None:
        """Goes back to the state before the gesture."""
        if self._preview is not None:
            self._preview = None
            self._announce_work()

    def undo(self) -> None:
        """Takes the last step back."""
        self._preview = None
        self._set_history(self._history.undone())

    def redo(self) -> None:
        """Does the next step again."""
        self._preview = None
        self._set_history(self._history.redone())

    def set_clip(self, slot: str, path: Path) -> bool:
        """Tries the wrinkle on another clip; gives whether the file could be read."""

        def with_clip(work: Work) -> Work:
            clip = Clip(path)
            wrinkle = work.wrinkle
            if not work.clips and wrinkle == plain_cut():
                # Nothing is designed yet: the first clip says what frame to design in.
                wrinkle = wrinkle_edits.set_frame(wrinkle, clip.facts.size, clip.facts.rate)
            tried = TriedClip(clip, default_cut(slot, clip, wrinkle))
            return Work(wrinkle, {**work.clips, slot: tried})

        return self._step(f"{slot} clip {path.stem}", with_clip)

    def add_clip(self, path: Path) -> str | None:
        """A further clip in a slot of its own, on a new layer in front; gives the layer's id."""
        made: list[str] = []

        def with_clip(work: Work) -> Work:
            clip = Clip(path)
            wrinkle, slot = slot_edits.add_slot(work.wrinkle)
            wrinkle = layer_edits.add_layer(wrinkle, path.stem, SlotSource(slot))
            made.append(wrinkle.layers[-1].id)
            tried = TriedClip(clip, default_cut(slot, clip, wrinkle))
            return Work(wrinkle, {**work.clips, slot: tried})

        return made[-1] if self._step(f"further clip {path.stem}", with_clip) else None

    @property
    def frame_size(self) -> Size:
        """The full size of the picture that is designed in."""
        return Size(*self.wrinkle.reference_size)

    def set_cut(self, slot: str, cut: Fraction) -> None:
        """Cuts the clip of a slot at another time."""
        self._step(f"cut of the {slot} clip", lambda work: _recut(work, slot, cut))

    def keep_asset(self, name: str, content: bytes) -> str:
        """Keeps a picture or a colour table with the document; gives the name it is called by.

        Raises:
            InputError: the bytes are neither.
        """
        read, given = self._read.with_asset(name, content), name
        stem, dot, ending = name.rpartition(".")
        number = 1
        while self._assets.get(name, content) != content:
            number += 1
            name = f"{stem}-{number}{dot}{ending}"
        self._assets[name] = content
        self._read = read if name == given else self._read.with_asset(name, content)
        return name

    def keep_file(self, path: Path) -> str | None:
        """Keeps a picture file or a colour table with the document.

        Gives the name it is called by; None where it cannot be read, which is told.
        """
        try:
            return self.keep_asset(path.name, path.read_bytes())
        except OSError as fault:
            self.faulted.emit(f"{path.name} cannot be opened: {fault.strerror}.")
        except InputError as fault:
            self.faulted.emit(str(fault))
        return None

    # Files

    def start_new(self) -> None:
        """A new wrinkle on the clips that are there."""
        self._begin(Bundle(plain_cut()), None)

    def open(self, path: Path) -> bool:
        """Opens a file; on a fault the open document stays untouched."""
        try:
            bundle = archive.read(path)
            self._begin(bundle, path)
        except InputError as fault:
            self.faulted.emit(str(fault))
            return False
        self.told.emit(f"{path.name} is open.")
        return True

    def open_copy(self, bundle: Bundle, clips: Mapping[str, Path] | None = None) -> None:
        """Opens a bundle as a new document, on given clips or on those that are there.

        Raises:
            InputError: a clip or an asset cannot be read.
        """
        tried = None
        if clips is not None:
            tried = {}
            for slot, path in clips.items():
                clip = Clip(path)
                tried[slot] = TriedClip(clip, default_cut(slot, clip, bundle.wrinkle))
        self._begin(bundle, None, tried)

    def save(self, path: Path) -> bool:
        """Saves to a file; gives whether it was written."""
        try:
            archive.write(path, self.bundle())
        except InputError as fault:
            self.faulted.emit(str(fault))
            return False
        self._path = path
        self._saved = self._history.current.wrinkle
        self.fileChanged.emit()
        self.told.emit(f"{path.name} is saved.")
        return True

    def discard_changes(self) -> None:
        """Gives the changes up: nothing asks for them to be saved any more."""
        self._saved = self._history.current.wrinkle
        self.fileChanged.emit()

    # Where one looks

    def set_playhead(self, frame: int, beyond: int = 0) -> None:
        """Moves the playhead, within the window and ``beyond`` frames around it."""
        frames = self.wrinkle.frames
        frame = min(max(frame, frames.start - beyond), frames.stop - 1 + beyond)
        if frame != self._playhead:
            self._playhead = frame
            self.playheadChanged.emit(frame)

    def select_layer(self, layer_id: str) -> None:
        """Selects a layer; its card unfolds and its lanes are shown."""
        if layer_id != self._layer:
            self._layer = layer_id
            self._pin, self._pins = None, frozenset()
            self.mode.end()
            self.selectionChanged.emit()

    def step(self, frames: int) -> None:
        """Moves the playhead; while steps are keyed the path goes along and is keyed there."""
        ref, before = self.mode.outline, self.time
        self.set_playhead(self._playhead + frames)
        if not (self.mode.steps_keyed and ref is not None and abs(frames) == 1):
            return
        setting, time = ref.of(self.wrinkle), self.time
        keys = setting.track.keys if setting.track is not None else ()
        if time != before and all(key.time != time for key in keys):
            carried = parts(setting.at(before))

            def keyed(wrinkle: Wrinkle) -> Wrinkle:
                wrinkle = mask_edits.set_path(wrinkle, ref, before, carried, True)
                return mask_edits.set_path(wrinkle, ref, time, carried, True)

            self.edit("path keyed", keyed)

    def copy_layer(self) -> None:
        """Keeps the selected layer, so that its settings can be pasted to others."""
        if self._layer:
            self._copied_layer = self.wrinkle.layer(self._layer)
            self.told.emit(f"{self._copied_layer.name} is copied.")

    def select_pin(self, pin: PinChoice | None) -> None:
        """Selects one pin, or none."""
        self.select_pins(frozenset() if pin is None else frozenset({pin}), pin)

    def select_pins(self, chosen: frozenset[PinChoice], shown: PinChoice | None = None) -> None:
        """Selects pins; the numbers of ``shown`` are shown, by default of one of them."""
        if shown is None and chosen:
            shown = self._pin if self._pin in chosen else next(iter(chosen))
        if (chosen, shown) != (self._pins, self._pin):
            self._pins, self._pin = chosen, shown
            self.selectionChanged.emit()

    def remove_pins(self) -> None:
        """Takes the selected pins out."""
        chosen = self.chosen
        if chosen:
            self.edit("pins removed", lambda w: pins.remove(w, chosen))

    def copy_pins(self) -> bool:
        """Keeps the selected pins for pasting; gives whether there were any."""
        try:
            self._copied = pins.copy(self.wrinkle, self.chosen)
        except InputError as fault:
            self.faulted.emit(str(fault))
            return False
        self.told.emit("The pins are copied.")
        return True

    def paste_pins(self) -> None:
        """Pastes at the playhead: onto the selected pin's lane, else onto the same settings."""
        copied, layer, time = self._copied, self._layer, self.time
        if copied is None or not layer:
            self.faulted.emit("There are no copied pins; select some and copy them first.")
            return
        onto = self._pin.ref.key if self._pin is not None else None
        self.edit("pins pasted", lambda w: pins.paste(w, copied, layer, time, onto))

    def show_motion_blur(self, shown: bool) -> None:
        """Shows the pictures with or without motion blur; the document is not touched."""
        if shown != self._motion_blur_shown:
            self._motion_blur_shown = shown
            self.viewChanged.emit()

    def show_speed(self, shown: bool) -> None:
        """Shows the speed of the values in the lanes."""
        if shown != self._speed_shown:
            self._speed_shown = shown
            self.selectionChanged.emit()

    def hide_effects(self, hidden: bool) -> None:
        """Shows the wrinkle without its effects, for comparison."""
        if hidden != self._effects_hidden:
            self._effects_hidden = hidden
            self.viewChanged.emit()

    def show_split(self, shown: bool) -> None:
        """Splits the picture by a line: before the effects at its left, after them at its right."""
        if shown != self._split:
            self._split = shown
            self.viewChanged.emit()

    def show_plain(self, shown: bool) -> None:
        """Shows the plain cut, for comparison."""
        if shown != self._plain_shown:
            self._plain_shown = shown
            self.viewChanged.emit()

    # Within

    def _step(self, label: str, change: Callable[[Work], Work]) -> bool:
        try:
            work = change(self._history.current)
        except InputError as fault:
            self._preview = None
            self._announce_work()
            self.faulted.emit(str(fault))
            return False
        self._preview = None
        self._set_history(self._history.then(work, label))
        return True

    def _show(self, change: Callable[[Work], Work]) -> bool:
        try:
            self._preview = change(self._history.current)
        except InputError as fault:
            self.faulted.emit(str(fault))
            return False
        self._announce_work()
        return True

    def _set_history(self, history: History[Work]) -> None:
        self._history = history
        self._announce_work()
        self.fileChanged.emit()

    def _announce_work(self) -> None:
        wrinkle = self.wrinkle
        if all(layer.id != self._layer for layer in wrinkle.layers):
            self._select_front()
            self.selectionChanged.emit()
        elif any(not _exists(wrinkle, pin) for pin in self._pins):
            left = frozenset(pin for pin in self._pins if _exists(wrinkle, pin))
            self._pin = None
            self.select_pins(left)
        self.mode.keep_valid(wrinkle)
        self.set_playhead(self._playhead, PRE_ROLL)
        self.workChanged.emit()

    def _begin(
        self, bundle: Bundle, path: Path | None, clips: Mapping[str, TriedClip] | None = None
    ) -> None:
        read = read_assets(bundle.assets)
        work = Work(bundle.wrinkle, self.work.clips if clips is None else clips)
        self._preview = None
        self._assets, self._read = dict(bundle.assets), read
        self._saved, self._path = bundle.wrinkle, path
        self._history = History.starting(work)
        self._playhead = 0
        self._select_front()
        self.opened.emit()
        self.selectionChanged.emit()
        self.playheadChanged.emit(0)
        self.workChanged.emit()
        self.fileChanged.emit()

    def _select_front(self) -> None:
        layers = self.wrinkle.layers
        self._layer = layers[-1].id if layers else ""
        self._pin, self._pins = None, frozenset()
        self.mode.end()


def _recut(work: Work, slot: str, cut: Fraction) -> Work:
    clip = work.clips[slot]
    cut = min(max(cut, Fraction(0)), clip.source.duration)
    return replace(work, clips={**work.clips, slot: replace(clip, cut=cut)})


def _exists(wrinkle: Wrinkle, pin: PinChoice) -> bool:
    if not pin.ref.exists(wrinkle):
        return False
    track = pin.ref.of(wrinkle).track
    return track is not None and pin.index < len(track.keys)
