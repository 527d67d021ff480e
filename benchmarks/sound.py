"""What sound costs, as a share of the time for which it plays: ``python -m benchmarks.sound``."""

from __future__ import annotations

import resource
import sys
import tempfile
import time
from dataclasses import replace
from pathlib import Path

import numpy as np

from tests.core.sound.test_beats import drums
from tests.media.sounds import murmur, write_sound
from tests.media.test_sound import write_sounding
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece import dressing, edits
from wrinkle.core.piece.bed import Bed
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.sound import resampling
from wrinkle.core.sound.beats import beats_of
from wrinkle.core.sound.heard import Fixed, SoundSource
from wrinkle.core.sound.levelling import levelled
from wrinkle.core.sound.loudness import measured
from wrinkle.core.store import Store
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.core.time.rate import FrameRate
from wrinkle.library.films import opened_film
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.pieces import read_heard
from wrinkle.timeline.uses import shipped_bundle

_BLOCK = SAMPLE_RATE // 10


def share(sound: SoundSource, seconds: float) -> str:
    """The cost of playing it in blocks, as a share of one core."""
    start = time.process_time()
    for place in range(0, round(seconds * SAMPLE_RATE), _BLOCK):
        sound.samples(place, _BLOCK)
    return f"{(time.process_time() - start) / seconds:6.2%} of a core"


def main() -> int:
    """Prints what it measures."""
    resampling.load()
    with tempfile.TemporaryDirectory() as name:
        folder, store = Path(name), Store()
        clips = [write_sounding(folder / f"{n}.mp4", "aac", 48_000) for n in range(8)]
        tune = write_sound(folder / "tune.m4a", "aac", 48_000, "mp4", samples=murmur(48_000, 60.0))
        pool = ClipPool(store)
        media = [read_heard(path, pool, store)[0] for path in clips]
        piece = edits.add_clips(Piece(rate=FrameRate.of(30)), 0, media)
        piece = dressing.on_every(piece, PieceUse(shipped_bundle("porthole")))
        for number, clip in enumerate(piece.clips[:3]):
            piece = edits.change(piece, clip.id, speed=(2, 3, 1)[number] / piece.clips[0].speed)
        bed = Bed(read_heard(tune, pool, store)[0])
        seconds = float(piece.rate.seconds(piece.frame_count))
        for words, one in (("the piece", piece), ("with music", replace(piece, bed=bed))):
            film = opened_film(one, ClipPool(Store()), Store(), Quality.PREVIEW)
            start = time.perf_counter()
            film.heard.samples(0, SAMPLE_RATE // 40)
            first = (time.perf_counter() - start) * 1e3
            print(f"{words:16} first block {first:5.1f} ms, {share(film.heard, seconds)}")
        heard = opened_film(replace(piece, bed=bed), pool, store, Quality.PREVIEW).heard
        start = time.process_time()
        measured(heard)
        print(f"loudness         {(time.process_time() - start) / seconds:6.2%} of its time")
        start = time.process_time()
        levelled(heard)
        print(f"made loud        {(time.process_time() - start) / seconds:6.2%} of its time")
        samples, _ = drums(120.0, swung=False)
        start = time.process_time()
        beats_of(Fixed(samples), len(samples))
        print(f"beats            {(time.process_time() - start) / 20.0:6.2%} of its time")
        # A plain pass in the same run: what all of it is to be held against.
        block = np.zeros((SAMPLE_RATE, 2), np.float32)
        start = time.process_time()
        for _ in range(100):
            np.fft.irfft(np.fft.rfft(block, axis=0), axis=0)
        print(f"FFT there and back of a second: {(time.process_time() - start) / 100.0:6.2%}")
    most = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss >> 10
    print(f"memory at most {most} MiB")
    return 0


if __name__ == "__main__":
    sys.exit(main())
