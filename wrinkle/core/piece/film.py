"""A piece as it is shown: all that any of its frames depends on."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from fractions import Fraction
from functools import cached_property

import numpy as np
from msgspec.structs import replace as replaced

from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.slots import GIVEN, INCOMING, OUTGOING
from wrinkle.core.design.document.sources import SlotSource
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits.layer_edits import with_layers
from wrinkle.core.picture.fit import Fit
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.heard import piece_heard
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.running import Paced, UseFrame, Windows, cuts_of, seen, windows
from wrinkle.core.render.compose import PLAINLY, Manner, draw
from wrinkle.core.render.material import Filling, FrameSource, Material
from wrinkle.core.render.planned import FramePlan
from wrinkle.core.render.showing import Showing
from wrinkle.core.reuse.use import filled
from wrinkle.core.sound.heard import Mix
from wrinkle.core.sound.hears import Hears
from wrinkle.core.store import Store

Carried = Callable[[Bundle], Material]
"""Gives what a wrinkle brings with it."""
_DUSK = 0.05
"""Linear light of a picture that is not there."""


class Missing:
    """Stands for a file that is not there, or not read yet: a dark picture of its shape."""

    def __init__(self, media: Media) -> None:
        self.name = media.name
        self.size = media.size or Size(1920, 1080)
        self.identity = f"missing:{self.size.label}"
        self.duration = media.duration

    def index_at(self, seconds: Fraction) -> int:
        """There is one picture."""
        return 0

    def following(self, seconds: Fraction) -> tuple[int, float] | None:
        """There is no next one."""
        return None

    def image(self, index: int, size: Size) -> Image:
        """The picture in a size."""
        pixels = np.full((size.height, size.width, 4), _DUSK, np.float32)
        pixels[..., 3] = 1.0
        return Image(pixels, Light.LINEAR, True)


@dataclass(frozen=True, eq=False)
class Film:
    """A piece in a size and quality. Safe to use from several threads.

    Attributes:
        piece: what is shown.
        sources: the pictures of its files, by their path; what is not there is dark.
        carried: gives what a wrinkle brings with it.
        store: where parts of pictures are kept.
        size: of the pictures.
        quality: how closely they are rendered.
        hears: what of it is heard.
        sounds: its files that are heard and not seen, by their path.
    """

    piece: Piece
    sources: Mapping[str, FrameSource]
    carried: Carried
    store: Store
    size: Size
    quality: Quality = Quality.FINAL
    hears: Hears = Hears.BOTH
    sounds: Mapping[str, object] = field(default_factory=dict)

    @cached_property
    def windows(self) -> Windows:
        """The windows of its uses."""
        return windows(self.piece)

    @cached_property
    def heard(self) -> Mix:
        """What is heard of it."""
        return self.heard_as(self.hears)

    def heard_as(self, hears: Hears) -> Mix:
        """What is heard of some of it."""
        files = {**self.sources, **self.sounds}
        return piece_heard(self.piece, files, hears, lambda bundle: self.carried(bundle).sounds)

    @property
    def frames(self) -> range:
        """The numbers of its frames."""
        return range(self.piece.frame_count)

    def resized(self, size: Size) -> Film:
        """The same in another size."""
        return replace(self, size=size)

    def at(self, frame: int) -> tuple[Showing, int]:
        """What shows a frame of the piece, and which of its frames it is.

        Raises:
            InputError: a wrinkle of the piece cannot be read.
        """
        what = seen(self.piece, frame, self.windows)
        if isinstance(what, UseFrame):
            return self.cut(what.clip), what.frame
        starts = self.piece.starts
        place = min(max(bisect_right(starts, frame) - 1, 0), len(self.piece.clips) - 1)
        return self._plain(self.piece.clips[place]), frame - starts[place]

    def plan(self, frame: int) -> FramePlan:
        """All that the picture of a frame depends on."""
        showing, own = self.at(frame)
        return showing.plan(own)

    def drawn(self, frame: int, plan: FramePlan, manner: Manner = PLAINLY) -> Image:
        """The picture of a frame, from its plan.

        Raises:
            MediaError: a source cannot be read.
        """
        return draw(plan, self.at(frame)[0].material, manner)

    def image(self, frame: int) -> Image:
        """The picture of a frame.

        Raises:
            InputError: a wrinkle of the piece cannot be read.
            MediaError: a source cannot be read.
        """
        return self.drawn(frame, self.plan(frame))

    def alone(self, frame: int) -> tuple[FrameSource, int] | None:
        """The source whose picture is all that a frame shows, untouched, and which picture it is.

        None where a wrinkle is seen, or the picture is scaled.
        """
        if self.is_costly(frame):
            return None
        showing, own = self.at(frame)
        filling = showing.material.slots[INCOMING.key]
        source = filling.source
        if source.size != self.size:
            return None
        index = source.index_at(filling.cut + self.piece.rate.seconds(own))
        return (source.source if isinstance(source, Paced) else source), index

    def is_costly(self, frame: int) -> bool:
        """Whether more than a plain clip is seen."""
        return self.windows.at(frame) is not None

    def is_beside(self, frame: int) -> bool:
        """No frame of a piece is less looked at than another."""
        return False

    def source(self, clip: PieceClip) -> FrameSource:
        """A clip's pictures in the time of the piece."""
        found = self.sources.get(clip.media.path)
        if found is None:
            found = Missing(clip.media)
        return found if clip.plain else Paced(found, clip)

    def cut(self, clip_id: str) -> Showing:
        """What is shown on the cut into a clip, with the clips on both sides in its slots.

        Raises:
            InputError: the wrinkle cannot be read, or something chosen is not possible.
        """
        found = self._showings.get(clip_id)
        if found is None:
            found = self._showings[clip_id] = self._dressed(clip_id)
        return found

    @cached_property
    def _showings(self) -> dict[str, Showing]:
        return {}

    def _dressed(self, clip_id: str) -> Showing:
        place = self.piece.index(clip_id)
        before, clip = self.piece.clips[place - 1], self.piece.clips[place]
        use = clip.entry
        wrinkle = use.at(self.piece.rate) if use is not None else self._plain_wrinkle
        wrinkle = fitted(wrinkle, {OUTGOING.key: before, INCOMING.key: clip})
        carried = self.carried(use.bundle) if use is not None else Material(store=self.store)
        fillings = {
            OUTGOING.key: Filling(self.source(before), cuts_of(self.piece, before)[1]),
            INCOMING.key: Filling(self.source(clip), cuts_of(self.piece, clip)[0]),
        }
        for slot, media in use.fillings.items() if use is not None else ():
            if wrinkle.slot(slot).moving:
                further = self.sources.get(media.path) or Missing(media)
                fillings[slot] = Filling(further, Fraction(0))
        slots = filled(wrinkle, fillings, carried)
        return Showing(wrinkle, replace(carried, slots=slots), self.size, self.quality)

    def _plain(self, clip: PieceClip) -> Showing:
        """A clip alone, which begins at frame 0."""
        key = f"plain {clip.id}"
        found = self._showings.get(key)
        if found is None:
            wrinkle = fitted(self._plain_wrinkle, {INCOMING.key: clip})
            filling = Filling(self.source(clip), cuts_of(self.piece, clip)[0])
            material = Material({INCOMING.key: filling}, store=self.store)
            found = Showing(wrinkle, material, self.size, self.quality)
            self._showings[key] = found
        return found

    @cached_property
    def _plain_wrinkle(self) -> Wrinkle:
        return replaced(plain_cut(), frame_rate=self.piece.rate)


def fitted(wrinkle: Wrinkle, clips: Mapping[str, PieceClip]) -> Wrinkle:
    """The wrinkle with clips that fill the frame as the piece says.

    A layer whose designer chose a fit or a focus keeps it.

    Args:
        wrinkle: a plain one.
        clips: those that have something to say, by the slot that they fill.
    """
    layers = []
    for layer in wrinkle.layers:
        source = layer.source
        if not isinstance(source, SlotSource) or source.slot not in GIVEN:
            layers.append(layer)
            continue
        clip = clips.get(source.slot)
        if clip is not None:
            if clip.fit is not Fit.FILL and layer.fit.rest == Fit.FILL.value:
                layer = replaced(layer, fit=replaced(layer.fit, rest=clip.fit.value))
            if clip.focus != (0.5, 0.5) and layer.focus.rest == (0.5, 0.5):
                layer = replaced(layer, focus=replaced(layer.focus, rest=clip.focus))
        layers.append(layer)
    return with_layers(wrinkle, tuple(layers))
