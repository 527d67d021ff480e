"""What is looked at on the Bench: the frame, the layer, its pins, and what is switched off."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import SlotSource
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import effect_edits, layer_edits, mask_edits, wrinkle_edits
from wrinkle.core.design.edits.isolating import isolated
from wrinkle.core.design.edits.keyframes import Chosen
from wrinkle.core.motion.track import Side
from wrinkle.core.motion.values import parts
from wrinkle.ui.desk.kept_versions import KeptVersions
from wrinkle.ui.desk.picture_mode import PictureMode
from wrinkle.ui.desk.wrinkle_document import WrinkleDocument

PRE_ROLL = 6
"""Frames of the plain clips that the loop shows before and after the window."""


@dataclass(frozen=True)
class PinChoice:
    """The selected pin: a keyframe of a lane, on the side where it was picked."""

    ref: SettingRef
    index: int
    side: Side


class Looking(QObject):
    """What is seen of a document; nothing of it is saved or undone.

    Signals:
        selectionChanged: another layer or other pins, or another way in which lanes are shown.
        playheadChanged: the frame that is looked at.
        playheadRested: it stands on a frame; while it plays, only at the end.
        viewChanged: the pictures have to be shown anew.
        tracesChanged: other traces stand under the lanes.
        soundShownChanged: the rows of what is heard come or go, or others are
            listened to.
        scopesShownChanged: the scopes beside the picture come or go.
    """

    selectionChanged = pyqtSignal()
    playheadChanged = pyqtSignal(int)
    playheadRested = pyqtSignal()
    viewChanged = pyqtSignal()
    tracesChanged = pyqtSignal()
    soundShownChanged = pyqtSignal()
    scopesShownChanged = pyqtSignal()

    def __init__(self, document: WrinkleDocument) -> None:
        super().__init__()
        self._document = document
        self._layer = ""
        self._pin: PinChoice | None = None
        self._pins: frozenset[PinChoice] = frozenset()
        self._playhead = 0
        self._playing = False
        self._motion_blur_shown = True
        self._plain_shown = False
        self._effects_hidden = False
        self._split = False
        self._speed_shown = self._scopes_shown = False
        self._traces: frozenset[str] = frozenset()
        self._sound_shown, self._alone = False, ""
        self._muted: frozenset[str] = frozenset()
        self._kept_shown = self._layer_alone = False
        self.kept = KeptVersions()
        """Versions to compare with."""
        self.kept.changed.connect(self.viewChanged)
        document.opened.connect(self.kept.forget_all)
        self.mode = PictureMode(self)
        self.mode.changed.connect(self.selectionChanged)
        self.mode.pictureChanged.connect(self.viewChanged)
        document.changed.connect(self._keep_valid)
        document.opened.connect(self._forget)
        self._select_front()

    # The frame

    @property
    def playhead(self) -> int:
        """The frame that is looked at, counted from the cut."""
        return self._playhead

    @property
    def time(self) -> Fraction:
        """The time of the playhead."""
        return self._document.state.frame_rate.seconds(self._playhead)

    def set_playhead(self, frame: int, beyond: int = 0) -> None:
        """Moves the playhead, within the window and ``beyond`` frames around it."""
        frames = self._document.state.frames
        frame = min(max(frame, frames.start - beyond), frames.stop - 1 + beyond)
        if frame != self._playhead:
            self._playhead = frame
            self.playheadChanged.emit(frame)
            if not self._playing:
                self.playheadRested.emit()

    @property
    def playing(self) -> bool:
        """Whether the playhead moves by itself: then only what moves with it is shown anew."""
        return self._playing

    def set_playing(self, playing: bool) -> None:
        """The playhead begins to move by itself, or comes to rest."""
        if playing != self._playing:
            self._playing = playing
            if not playing:
                self.playheadRested.emit()

    def step(self, frames: int) -> None:
        """Moves the playhead; while steps are keyed the path goes along and is keyed there."""
        ref, before = self.mode.outline, self.time
        self.set_playhead(self._playhead + frames)
        if not (self.mode.steps_keyed and ref is not None and abs(frames) == 1):
            return
        setting, time = ref.of(self._document.state), self.time
        keys = setting.track.keys if setting.track is not None else ()
        if time != before and all(key.time != time for key in keys):
            carried = parts(setting.at(before))

            def keyed(wrinkle: Wrinkle) -> Wrinkle:
                wrinkle = mask_edits.set_path(wrinkle, ref, before, carried, True)
                return mask_edits.set_path(wrinkle, ref, time, carried, True)

            self._document.edit("path keyed", keyed)

    @property
    def scopes_shown(self) -> bool:
        """Whether scopes stand beside the picture."""
        return self._scopes_shown

    def show_scopes(self, shown: bool) -> None:
        """Shows them, or hides them."""
        if shown != self._scopes_shown:
            self._scopes_shown = shown
            self.scopesShownChanged.emit()

    # The layer and its pins

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

    def select_layer(self, layer_id: str) -> None:
        """Selects a layer; its card unfolds and its lanes are shown."""
        if layer_id != self._layer:
            self._layer = layer_id
            self._pin, self._pins = None, frozenset()
            self.mode.end()
            self.selectionChanged.emit()
            if self._layer_alone:
                self.viewChanged.emit()

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

    # What is switched on

    @property
    def speed_shown(self) -> bool:
        """Whether the lanes show the speed of their values."""
        return self._speed_shown

    @property
    def plain_shown(self) -> bool:
        """Whether the plain cut is shown instead."""
        return self._plain_shown

    @property
    def split(self) -> bool:
        """Whether a line in the picture splits it into before and after the effects."""
        return self._split

    @property
    def motion_blur_shown(self) -> bool:
        """Whether the pictures are shown with motion blur."""
        return self._motion_blur_shown

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

    @property
    def traces(self) -> frozenset[str]:
        """The keys of the traces that stand under the lanes."""
        return self._traces

    def show_trace(self, key: str, shown: bool) -> None:
        """Shows a trace under the lanes, or no longer."""
        traces = self._traces | {key} if shown else self._traces - {key}
        if traces != self._traces:
            self._traces = traces
            self.tracesChanged.emit()

    @property
    def sound_shown(self) -> bool:
        """Whether what is heard stands under the lanes."""
        return self._sound_shown

    def show_sound(self, shown: bool) -> None:
        """Shows what is heard under the lanes, or no longer."""
        if shown != self._sound_shown:
            self._sound_shown = shown
            self.soundShownChanged.emit()

    @property
    def alone(self) -> str:
        """The id of the sound that is heard alone; empty where all is heard."""
        return self._alone

    def hear_alone(self, sound_id: str) -> None:
        """Lets one sound be heard alone, or all again."""
        if sound_id != self._alone:
            self._alone = sound_id
            self.soundShownChanged.emit()

    @property
    def muted(self) -> frozenset[str]:
        """The ids of the sounds that are not listened to now; the wrinkle has them all the same."""
        return self._muted

    def mute(self, sound_id: str, muted: bool) -> None:
        """Listens to a sound no longer, or again."""
        found = self._muted | {sound_id} if muted else self._muted - {sound_id}
        if found != self._muted:
            self._muted = found
            self.soundShownChanged.emit()

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

    def show_kept(self, shown: bool) -> None:
        """Shows the version that is compared with."""
        if shown != self._kept_shown and (self.kept.chosen is not None or not shown):
            self._kept_shown = shown
            self.viewChanged.emit()

    @property
    def layer_alone(self) -> bool:
        """Whether the selected layer is shown without the others."""
        return self._layer_alone

    def show_layer_alone(self, alone: bool) -> None:
        """Shows the selected layer without the others, or all of them."""
        if alone != self._layer_alone:
            self._layer_alone = alone
            self.viewChanged.emit()

    def shown_wrinkle(self) -> Wrinkle:
        """The wrinkle as the pictures show it, with what is switched off for comparison."""
        kept = self.kept.chosen
        wrinkle = self._document.state
        if self._kept_shown and kept is not None:
            wrinkle = kept.wrinkle
        if self._plain_shown:
            layers = tuple(
                layer for layer in plain_cut().layers if isinstance(layer.source, SlotSource)
            )
            return layer_edits.with_layers(wrinkle, layers)
        if self._layer_alone and any(x.id == self._layer for x in wrinkle.layers):
            wrinkle = isolated(wrinkle, self._layer)
        if self._effects_hidden:
            wrinkle = effect_edits.without_effects(wrinkle)
        if self.mode.painting is not None:
            # What the brush would bring back must be seen.
            wrinkle = mask_edits.change_mask(wrinkle, *self.mode.painting, shown=False)
        return wrinkle if self._motion_blur_shown else wrinkle_edits.set_shutter(wrinkle, 0.0)

    def before_wrinkle(self) -> Wrinkle | None:
        """What lies on the other side of the split line; None while there is none."""
        if not self._split or self._plain_shown:
            return None
        kept = self.kept.chosen
        return effect_edits.without_effects(self.shown_wrinkle()) if kept is None else kept.wrinkle

    # Within

    def _keep_valid(self) -> None:
        """Whatever is looked at is still there."""
        wrinkle = self._document.state
        if all(layer.id != self._layer for layer in wrinkle.layers):
            self._select_front()
            self.selectionChanged.emit()
        elif any(not _exists(wrinkle, pin) for pin in self._pins):
            left = frozenset(pin for pin in self._pins if _exists(wrinkle, pin))
            self._pin = None
            self.select_pins(left)
        self.mode.keep_valid(wrinkle)
        self.set_playhead(self._playhead, PRE_ROLL)

    def _forget(self) -> None:
        """Another document comes: its front layer is selected, and its cut looked at."""
        self._layer = ""
        self._pin, self._pins = None, frozenset()
        self.mode.end()
        self._playhead = 0
        self._alone, self._muted = "", frozenset()
        self._layer_alone = False

    def _select_front(self) -> None:
        layers = self._document.state.layers
        self._layer = layers[-1].id if layers else ""
        self._pin, self._pins = None, frozenset()
        self.mode.end()


def _exists(wrinkle: Wrinkle, pin: PinChoice) -> bool:
    if not pin.ref.exists(wrinkle):
        return False
    track = pin.ref.of(wrinkle).track
    return track is not None and pin.index < len(track.keys)
