"""What is heard of a piece: each clip while it is seen, at its level, and the wrinkles' sounds."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.running import windows
from wrinkle.core.sound.mixing import SoundMix, mixed
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

_FADE = SAMPLE_RATE // 250
"""Samples at the ends of a clip that rise and fall: a wave that is cut off clicks."""


class SoundSource(Protocol):
    """The sound of a file at ``SAMPLE_RATE``."""

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on, silent where the file has none.

        Raises:
            MediaError: the sound cannot be read.
        """


@dataclass(frozen=True, eq=False)
class Heard:
    """The sound of a piece. A clip at another speed sounds higher or lower with it.

    Attributes:
        piece: what is heard.
        sounds: of its files that have one, by their path.
    """

    piece: Piece
    sounds: Mapping[str, SoundSource]

    @property
    def is_heard(self) -> bool:
        """Whether there is anything to hear."""
        return bool(self.sounds) or any(
            clip.entry is not None and clip.entry.wrinkle.sounds for clip in self.piece.clips[1:]
        )

    @property
    def count(self) -> int:
        """How many samples it has."""
        return self._place(self.piece.frame_count)

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on; silence outside the piece.

        Raises:
            MediaError: the sound of a file cannot be read.
        """
        found = np.zeros((count, 2), np.float32)
        starts = self.piece.starts
        for number, clip in enumerate(self.piece.clips):
            first, end = self._place(starts[number]), self._place(starts[number + 1])
            sound = self.sounds.get(clip.media.path)
            if sound is None or clip.stands or end <= start or first >= start + count:
                continue
            low, high = max(first, start), min(end, start + count)
            part = _part(clip, sound, low - first, high - low)
            part *= _level(clip) * _envelope(low - first, high - low, end - first)[:, np.newaxis]
            found[low - start : high - start] += part
        for place, mix in self._mixes:
            mix.add_to(found, place + mix.start - start)
        return np.clip(found, -1.0, 1.0)

    @cached_property
    def _mixes(self) -> list[tuple[int, SoundMix]]:
        """The sounds of the uses, each with the sample of its cut."""
        found = []
        for window in windows(self.piece):
            use = self.piece.clip(window.clip).entry
            if use is not None and use.wrinkle.sounds:
                found.append((self._place(window.cut), mixed(use.at(self.piece.rate))))
        return found

    def _place(self, frame: int) -> int:
        """The sample with which a frame begins."""
        return round(self.piece.rate.seconds(frame) * SAMPLE_RATE)


def _part(clip: PieceClip, sound: SoundSource, offset: int, count: int) -> Samples:
    """A stretch of a clip's sound, counted from where the clip begins."""
    start = round(clip.start * SAMPLE_RATE)
    if clip.speed == 1 and not clip.reverse:
        return sound.samples(start + offset, count)
    speed = float(clip.speed)
    # In the file's own samples, in the direction in which it runs.
    places = (offset + np.arange(count)) * speed
    if clip.reverse:
        places = float(clip.end * SAMPLE_RATE) - 1.0 - places
    else:
        places = places + float(clip.start * SAMPLE_RATE)
    first = math.floor(places.min())
    found = sound.samples(first, math.ceil(places.max()) - first + 2)
    whole = np.floor(places).astype(np.int64)
    share = (places - whole).astype(np.float32)[:, np.newaxis]
    whole -= first
    between: Samples = found[whole] * (1.0 - share) + found[whole + 1] * share
    return between


def _level(clip: PieceClip) -> np.float32:
    return np.float32(10.0 ** (clip.level / 20.0))


def _envelope(offset: int, count: int, whole: int) -> NDArray[np.float32]:
    """1, but at both ends of a clip."""
    fade = min(_FADE, whole // 2)
    if not fade:
        return np.ones(count, np.float32)
    places = offset + np.arange(count, dtype=np.float32)
    rising, falling = (places + 0.5) / fade, (whole - places - 0.5) / fade
    return np.clip(np.minimum(rising, falling), 0.0, 1.0).astype(np.float32)
