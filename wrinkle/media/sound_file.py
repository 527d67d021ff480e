"""A file that is heard and not seen."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import av

from wrinkle.core.errors import MediaError, told_as
from wrinkle.core.store import Store
from wrinkle.media.clip import identity_of
from wrinkle.media.container import opened_any
from wrinkle.media.sound import Sound

_MICROSECONDS = 1_000_000
LONGEST = 24 * 3600
"""Seconds: what says that it lasts longer lies."""


class SoundFile:
    """A file of sound, or a video of which only the sound is wanted.

    Attributes:
        name: the file's name.
        duration: in seconds.
    """

    def __init__(self, path: Path, duration: Fraction, sounds: tuple[Sound, ...]) -> None:
        self.name = path.name
        self.duration = duration
        self._sounds = sounds

    @classmethod
    def read(cls, path: Path, store: Store | None = None) -> SoundFile:
        """What a file is.

        Raises:
            MediaError: it has no sound that can be read; names it and the way out.
        """
        identity = identity_of(path)

        def unreadable() -> MediaError:
            return MediaError(
                f"{path.name} cannot be read as a sound; it is damaged, cut short or of another "
                "kind. Use a whole copy, or convert it to WAV or FLAC."
            )

        # Whoever opens files speaks of videos.
        with told_as(unreadable, anew=True):
            opened = opened_any(path)
        with told_as(unreadable), opened as container:
            tracks = container.streams.audio
            if not tracks:
                raise MediaError(f"{path.name} has no sound in it; choose another file.")
            begins = Fraction(container.start_time or 0, _MICROSECONDS)
            duration = _duration(container)
        zero = max(begins, Fraction(0))
        sounds = tuple(Sound(path, zero, number, identity, store) for number in range(len(tracks)))
        # What cannot be decoded at all is told now, and not when it is to be heard.
        sounds[0].samples(0, 1)
        return cls(path, duration, sounds)

    @property
    def sounds(self) -> int:
        """How many sounds it has."""
        return len(self._sounds)

    def sound(self, track: int = 0) -> Sound | None:
        """One of its sounds, sample 0 where the file begins; None where there is none."""
        return self._sounds[track] if 0 <= track < len(self._sounds) else None


def _duration(container: av.container.InputContainer) -> Fraction:
    """How long a file is; counted where its header says nothing that can be true."""
    said = Fraction(container.duration or 0, _MICROSECONDS)
    stream = container.streams.audio[0]
    base = stream.time_base or Fraction(1, 1000)
    if 0 < said <= LONGEST and container.format.name not in _GUESSED:
        return said
    first, end = None, Fraction(0)
    for packet in container.demux(stream):
        if packet.pts is None:
            continue
        first = packet.pts * base if first is None else first
        end = max(end, (packet.pts + (packet.duration or 0)) * base)
    if first is None or end <= first:
        raise ValueError("there is nothing in it")
    return Fraction(min(end - first, LONGEST))


_GUESSED = frozenset({"mp3", "aac"})
"""Kinds whose length is guessed from that of the file."""
