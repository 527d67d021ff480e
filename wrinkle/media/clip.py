"""A clip: the pictures of a video file by exact number."""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

from av.video.frame import VideoFrame

from wrinkle.core.errors import MediaError, told_as
from wrinkle.core.picture.image import Bytes8, Image, Size, from_bytes8
from wrinkle.core.store import Store
from wrinkle.media.clip_file import ClipFacts, read_index
from wrinkle.media.colours import converted, is_usual
from wrinkle.media.decoder import Decoded, Decoder, own_copy
from wrinkle.media.sound import Sound

# Frames passed on the way to the one that was asked for are kept as they are: stepping back
# finds them, and only what is seen is converted.
_KEPT_ON_THE_WAY = 40
_KEPT_ALONE = 384 << 20


class Clip:
    """Pictures of a video file. Safe to use from several threads.

    Args:
        path: of the file.
        store: where decoded pictures are kept; by default one of the clip's own.
        used: told before the file is read for a picture.

    Raises:
        MediaError: the file is no video that can be read; names the file and the way out.
    """

    def __init__(
        self,
        path: Path,
        store: Store | None = None,
        used: Callable[[Clip], None] | None = None,
    ) -> None:
        self._path = path
        self._store = store if store is not None else Store(_KEPT_ALONE)
        self._used = used
        self._identity = identity_of(path)
        self._index = read_index(path)
        # Two places in the file: who looks for thumbnails does not make the other one jump about.
        zero, store = self._index.times[0] * self._index.base, self._store
        tracks = range(self.facts.sounds)
        self._sounds = [Sound(path, zero, track, self._identity, store) for track in tracks]
        self._main, self._aside = Decoder(path, self._index), Decoder(path, self._index)

    @property
    def path(self) -> Path:
        """The file."""
        return self._path

    @property
    def name(self) -> str:
        """The file's name without its ending."""
        return self._path.stem

    @property
    def identity(self) -> str:
        """The file with its state."""
        return self._identity

    @property
    def facts(self) -> ClipFacts:
        """What the file is."""
        return self._index.facts

    @property
    def size(self) -> Size:
        """As it is to be seen: turned and with square pixels."""
        return self.facts.size

    @property
    def duration(self) -> Fraction:
        """In seconds, the last frame's length included."""
        return self.facts.duration

    @property
    def sounds(self) -> int:
        """How many sounds the file has."""
        return len(self._sounds)

    def sound(self, track: int = 0) -> Sound | None:
        """One of the clip's sounds, its sample 0 at the first picture; None where there is none."""
        return self._sounds[track] if 0 <= track < len(self._sounds) else None

    @property
    def is_open(self) -> bool:
        """Whether it holds the file open."""
        return self._main.is_open or self._aside.is_open

    def index_at(self, seconds: Fraction) -> int:
        """The frame shown at a time from the start, clamped to the first and the last."""
        times = self._index.times
        # Half a unit of tolerance: times in the file are rounded to whole units.
        time = times[0] + math.floor(seconds / self._index.base + Fraction(1, 2))
        return min(max(bisect_right(times, time) - 1, 0), len(times) - 1)

    def following(self, seconds: Fraction) -> tuple[int, float] | None:
        """The frame after the one at a time, and how far the time is on its way to it."""
        times, index = self._index.times, self.index_at(seconds)
        if index + 1 >= len(times):
            return None
        start, end = times[index] - times[0], times[index + 1] - times[0]
        share = float((seconds / self._index.base - start) / (end - start))
        return (index + 1, min(share, 1.0)) if share > 1e-3 else None

    def image(self, index: int, size: Size) -> Image:
        """Frame ``index`` scaled to ``size``, linear.

        Raises:
            MediaError: the frame cannot be decoded.
        """
        return from_bytes8(self.bytes8(index, size))

    def bytes8(self, index: int, size: Size, aside: bool = False) -> Bytes8:
        """Frame ``index`` at ``size``: encoded 8-bit ``(H, W, 3)``, or ``(H, W, 4)`` straight.

        Args:
            index: clamped to the first and the last.
            size: of the picture.
            aside: for a look elsewhere in the clip, which is not going to go on from there.

        Raises:
            MediaError: the frame cannot be decoded.
        """
        index = min(max(index, 0), len(self._index.times) - 1)
        found = self._kept(index, size)
        if found is not None:
            return found
        if self._used is not None:
            self._used(self)
        decoder = self._aside if aside else self._main
        with decoder.lock:
            found = self._kept(index, size)
            if found is not None:
                return found
            return self._converted(self._reached(decoder, index), index, size)

    def as_decoded(self, index: int) -> VideoFrame | None:
        """Frame ``index`` as the file has it; None where it stands or is coloured otherwise.

        It is the same object each time: who changes it has a copy made before.

        Raises:
            MediaError: the frame cannot be decoded.
        """
        if not self._index.orientation.is_upright:
            return None
        index = min(max(index, 0), len(self._index.times) - 1)
        found = self._store.part((self._identity, index))
        if not isinstance(found, Decoded):
            if self._used is not None:
                self._used(self)
            with self._main.lock:
                found = self._store.part((self._identity, index))
                if not isinstance(found, Decoded):
                    found = self._reached(self._main, index)
        usual = is_usual(found.frame) and (found.frame.width, found.frame.height) == self.size
        return found.frame if usual else None

    def close(self) -> None:
        """Lets go of the file until the next use."""
        self._main.close()
        self._aside.close()

    def _kept(self, index: int, size: Size) -> Bytes8 | None:
        found: Bytes8 | None = self._store.part((self._identity, index, size))  # type: ignore[assignment]
        if found is not None:
            return found
        decoded = self._store.part((self._identity, index))
        return self._converted(decoded, index, size) if isinstance(decoded, Decoded) else None

    def _converted(self, decoded: Decoded, index: int, size: Size) -> Bytes8:
        picture = converted(decoded.frame, size, self._index.orientation)
        self._store.keep_part((self._identity, index, size), picture)
        return picture

    def _reached(self, decoder: Decoder, index: int) -> Decoded:
        """Decodes up to a frame; its lock is held."""

        def unreadable() -> MediaError:
            return MediaError(
                f"Frame {index} of {self._path.name} cannot be read; use a whole copy of the file."
            )

        with told_as(unreadable):
            for number, frame in decoder.until(index):
                if number >= index - _KEPT_ON_THE_WAY:
                    decoded = Decoded(own_copy(frame))
                    self._store.keep_part((self._identity, number), decoded)
                    if number == index:
                        return decoded
        raise unreadable()


def identity_of(path: Path) -> str:
    """A file with its state: another one once the file was changed.

    Raises:
        MediaError: there is no such file.
    """
    try:
        status = path.stat()
        return f"{path.resolve()}:{status.st_mtime_ns}:{status.st_size}"
    except OSError as fault:
        reason = "there is no such file" if isinstance(fault, FileNotFoundError) else fault.strerror
        raise MediaError(f"{path.name} cannot be opened: {reason}.") from None
