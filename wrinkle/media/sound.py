"""The sound of a file, by the number of its samples.

It is decoded in blocks, each the same however it is come to. Where a file says exactly when its
samples are heard, a block is entered a little before it begins; else what is before is decoded too.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Generator, Iterator
from contextlib import suppress
from fractions import Fraction
from pathlib import Path
from threading import Lock
from weakref import ref

import av
import numpy as np
from av.audio.frame import AudioFrame
from av.audio.resampler import AudioResampler
from av.audio.stream import AudioStream
from av.container.input import InputContainer

from wrinkle.core.errors import MediaError, told_as
from wrinkle.core.sound.blocks import joined
from wrinkle.core.store import Store
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples
from wrinkle.media.container import opened_any

_SIDES = 2
_BLOCK = 2 * SAMPLE_RATE
_BEFORE = 1
"""Seconds that are decoded before a block: packings need some time until they are right."""
_EARLIER = Fraction(1, 4)
"""Seconds by which a file is entered before that."""
_GAP = Fraction(1, 50)
"""Seconds by which times may stray before they are believed: less are rounded times."""
_ROUGH = frozenset({"mp3", "aac", "mp2", "ac3"})
"""Kinds of files without an index: where they are entered is a guess."""
_KEPT_ALONE = 64 << 20
_LOUDEST = 8.0
_SLOWEST, _FASTEST = 1_000, 768_000
"""Samples a second: what says something else is damaged."""
_MOST_OPEN = 8
"""Files that are kept open to be read on."""


class Sound:
    """Sound as samples of one rate, two channels, whatever the file has. Thread-safe.

    The file is open only while samples are read; where it has to be decoded from its beginning, it
    stays open among the last few.

    Args:
        path: of the file.
        zero: the file's time, in seconds, of sample 0.
        track: which of its sounds.
        identity: differs between states of the file; by default only its path.
        store: where decoded blocks are kept; by default one of its own.
    """

    def __init__(
        self,
        path: Path,
        zero: Fraction = Fraction(0),
        track: int = 0,
        identity: str = "",
        store: Store | None = None,
    ) -> None:
        self._path = path
        self._zero = round(zero * SAMPLE_RATE)
        self._track = track
        self._identity = identity or str(path)
        self._store = store if store is not None else Store(_KEPT_ALONE)
        self._lock = Lock()
        self._run: Generator[tuple[int, Samples], None, None] | None = None
        self._next = 0
        self._exact = True

    def samples(self, start: int, count: int) -> Samples:
        """So many samples ``(count, 2)`` from one on; there is silence where the file has none.

        Args:
            start: may be below 0.
            count: how many.

        Raises:
            MediaError: the sound cannot be read.
        """
        with told_as(self._unreadable, anew=True):
            return joined(self._block, _BLOCK, start + self._zero, count)

    def _unreadable(self) -> MediaError:
        return MediaError(
            f"The sound of {self._path.name} cannot be read; use a whole copy of the file."
        )

    def _block(self, number: int) -> Samples:
        key = (self._identity, "sound", self._track, number)
        found = self._store.part(key)
        if found is None:
            with self._lock:
                found = self._store.part(key)
                if found is None:
                    found = self._decoded(number)
                    self._store.keep_part(key, found)
        return np.asarray(found, np.float32)

    def _decoded(self, number: int) -> Samples:
        if self._exact:
            with opened_any(self._path) as container:
                stream = _stream(container, self._track)
                # Known once it was looked at, so that others are not opened only to be asked.
                self._exact = _is_exact(container, stream)
                if self._exact:
                    return _entered(container, stream, number)
        return self._come_to(number)

    def _come_to(self, number: int) -> Samples:
        """A block of a file that is decoded from its beginning; those on the way are kept."""
        if self._run is None or self._next > number:
            self._leave()
            self._run, self._next = _all_blocks(self._path, self._track), min(number, 0)
        _OPEN.use(self)
        for place, block in self._run:
            self._next = place + 1
            if place == number:
                return block
            self._store.keep_part((self._identity, "sound", self._track, place), block)
            if place > number:
                break
        else:
            self._run = None
        return np.zeros((_BLOCK, _SIDES), np.float32)

    def leave(self) -> bool:
        """Lets go of a file that is kept open to go on from there, unless it is just being read."""
        if not self._lock.acquire(blocking=False):
            return False
        try:
            self._leave()
        finally:
            self._lock.release()
        return True

    def _leave(self) -> None:
        if self._run is not None:
            self._run.close()
            self._run = None


class _Open:
    """Sounds that keep their file open to go on from where they are: only the last few."""

    def __init__(self) -> None:
        self._sounds: OrderedDict[int, ref[Sound]] = OrderedDict()
        self._lock = Lock()

    def use(self, sound: Sound) -> None:
        """Notes that one is used; those that were not for longest let go."""
        with self._lock:
            self._sounds.pop(id(sound), None)
            self._sounds[id(sound)] = ref(sound)
            idle = list(self._sounds.items())[: max(len(self._sounds) - _MOST_OPEN, 0)]
        for key, held in idle:
            other = held()
            if other is None or other.leave():
                with self._lock:
                    self._sounds.pop(key, None)


_OPEN = _Open()


def _stream(container: InputContainer, track: int) -> AudioStream:
    return container.streams.audio[track]


def _is_exact(container: InputContainer, stream: AudioStream) -> bool:
    """Whether a file says to the sample when what it holds is heard, wherever it is entered."""
    base = stream.time_base
    if base is None:
        raise ValueError("the sound has no time")
    # Matroska's times are rounded to thousandths.
    return base * stream.rate <= 1 and container.format.name not in _ROUGH


def _entered(container: InputContainer, stream: AudioStream, number: int) -> Samples:
    """A block, entered at a whole second before it."""
    second = number * _BLOCK // SAMPLE_RATE - _BEFORE
    base = stream.time_base
    assert base is not None
    with suppress(av.FFmpegError):
        # Where nothing lies before, it begins with what there is.
        container.seek(max(0, int((second - _EARLIER) / base)), stream=stream)
    first = number * _BLOCK
    found: Samples = np.zeros((_BLOCK, _SIDES), np.float32)
    for place, part in _resampled(container, stream, second):
        low, high = max(place, first), min(place + len(part), first + _BLOCK)
        if low < high:
            found[low - first : high - first] = part[low - place : high - place]
        if place >= first + _BLOCK:
            break
    return _playable(found)


def _all_blocks(path: Path, track: int) -> Generator[tuple[int, Samples], None, None]:
    """All blocks of a file in order, with their numbers."""
    with opened_any(path) as container:
        stream = _stream(container, track)
        number, block = None, np.zeros((_BLOCK, _SIDES), np.float32)
        for place, part in _resampled(container, stream, None):
            done = 0
            while done < len(part):
                here = (place + done) // _BLOCK
                if number is not None and here > number:
                    yield number, _playable(block)
                    block = np.zeros((_BLOCK, _SIDES), np.float32)
                number = here
                low = place + done - number * _BLOCK
                count = min(len(part) - done, _BLOCK - low)
                block[low : low + count] = part[done : done + count]
                done += count
        if number is not None:
            yield number, _playable(block)


class _Resampling:
    """Samples of one rate made into those of ours, from where they begin.

    Args:
        rate: of the samples that go in.
        first: the place of the first one, in theirs.
    """

    def __init__(self, rate: int, first: int) -> None:
        self._rate = rate
        self._resampler = AudioResampler("flt", "stereo", SAMPLE_RATE)
        self._place = round(Fraction(first * SAMPLE_RATE, rate))

    def put(self, samples: Samples) -> Iterator[tuple[int, Samples]]:
        """What comes out for more samples, each with the place of its first one, in ours."""
        if self._rate == SAMPLE_RATE or not len(samples):
            yield self._place, samples
            self._place += len(samples)
            return
        frame = AudioFrame.from_ndarray(samples.reshape(1, -1), "flt", "stereo")
        frame.sample_rate = self._rate
        yield from self._come(self._resampler.resample(frame))

    def end(self) -> Iterator[tuple[int, Samples]]:
        """What comes out at last."""
        if self._rate != SAMPLE_RATE:
            yield from self._come(self._resampler.resample(None))

    def _come(self, frames: list[AudioFrame]) -> Iterator[tuple[int, Samples]]:
        for frame in frames:
            yield self._place, _stereo(frame)
            self._place += frame.samples


def _resampled(
    container: InputContainer, stream: AudioStream, second: int | None
) -> Iterator[tuple[int, Samples]]:
    """The samples from a second of the file's time on, with the place of the first one of each.

    Args:
        container, stream: as they stand.
        second: what is before it is left out, to the sample: so what comes is always the same;
            None for all there is.
    """
    now: _Resampling | None = None
    for begins, samples, rate, new in _in_two_channels(container, stream):
        if new and now is not None:
            # What was heard until then comes out first.
            yield from now.end()
            now = None
        left_out = 0
        if now is None:
            left_out = max(second * rate - begins, 0) if second is not None else 0
            if left_out >= len(samples):
                continue
            now = _Resampling(rate, begins + left_out)
        yield from now.put(samples[left_out:])
    if now is not None:
        yield from now.end()


def _in_two_channels(
    container: InputContainer, stream: AudioStream
) -> Iterator[tuple[int, Samples, int, bool]]:
    """The samples as they are decoded: their place in the file's own rate, and that rate.

    At last whether something is missing before them, times begin anew, or the rate is another.
    """
    base = stream.time_base
    assert base is not None
    due = rate = 0
    mixer: AudioResampler | None = None
    for frame in container.decode(stream):
        new = mixer is None or frame.sample_rate != rate
        if new:
            rate = frame.sample_rate
            if not _SLOWEST <= rate <= _FASTEST:
                # Whoever resamples would need more for its filter than there is.
                raise ValueError(f"{rate} samples a second")
            # Only the channels change here, so that each frame comes out as long as it was.
            mixer = AudioResampler("flt", "stereo", rate)
        begins = due if frame.pts is None else _rounded(frame.pts * base.numerator * rate, base)
        if not new and abs(begins - due) <= _GAP * rate:
            begins = due
        else:
            new = True
        due = begins + frame.samples
        assert mixer is not None
        for part in mixer.resample(frame):
            yield begins, _stereo(part), rate, new
            begins, new = begins + part.samples, False


def _rounded(number: int, base: Fraction) -> int:
    """A whole number of the parts that a time base has, as a whole number."""
    return (2 * number + base.denominator) // (2 * base.denominator)


def _stereo(frame: AudioFrame) -> Samples:
    found: Samples = np.asarray(frame.to_ndarray(), np.float32).reshape(-1, _SIDES)
    return found


def _playable(block: Samples) -> Samples:
    """Files can hold what is no number, and what no speaker can play."""
    whole = np.nan_to_num(block, copy=False, nan=0.0, posinf=_LOUDEST, neginf=-_LOUDEST)
    return np.clip(whole, -_LOUDEST, _LOUDEST, out=whole)
