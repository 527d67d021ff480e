"""What writing costs: ``python -m benchmarks.export``.

Plain clips against decoding and encoding alone; a wrinkle with one worker, and with one a core.
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import av
import cv2
import numpy as np
from av.video.reformatter import Colorspace

from wrinkle import library
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture import compiled
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.store import Store
from wrinkle.core.time.rate import FrameRate
from wrinkle.library.films import opened_film
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.exporting.piece_video import film_output
from wrinkle.media.output.encoding import Encoding, encode
from wrinkle.media.output.output import Output, write_output
from wrinkle.media.output.rendition import Rendition

SIZE, SECONDS, RATE = Size(1080, 1920), 4, FrameRate.of(30)
_WRINKLE = "Spiral in"


def write_clip(path: Path, seed: int) -> Path:
    """Soft noise that moves."""
    dice = np.random.default_rng(seed)
    wide, high = SIZE.width + 240, SIZE.height + 240
    noise = cv2.GaussianBlur(dice.integers(0, 255, (high, wide, 3), np.uint8), (0, 0), 3)
    noise = cv2.normalize(noise, None, 0, 255, cv2.NORM_MINMAX)

    def frames() -> Iterator[av.VideoFrame]:
        for n in range(SECONDS * 30):
            part = np.ascontiguousarray(noise[n : n + SIZE.height, n : n + SIZE.width])
            frame = av.VideoFrame.from_ndarray(part, "rgb24")
            yield frame.reformat(format="yuv420p", dst_colorspace=Colorspace.ITU709)

    encode(path, _usual(), frames())
    return path


def _usual() -> Encoding:
    kind = Rendition()
    return Encoding(kind.form, kind.pixels, SIZE, RATE, kind.options())


def alone(clips: list[Path], path: Path) -> float:
    """Seconds that the library takes to decode and encode, threads and all."""

    def frames() -> Iterator[av.VideoFrame]:
        for clip in clips:
            with av.open(str(clip)) as container:
                container.streams.video[0].thread_type = "AUTO"
                yield from container.decode(video=0)

    start = time.perf_counter()
    encode(path, _usual(), frames())
    return time.perf_counter() - start


def ours(output: Output, workers: int) -> tuple[float, float]:
    """Seconds that we take, and the share of all cores that was busy."""
    jobs = Jobs(workers)
    start, used = time.perf_counter(), time.process_time()
    write_output(output, jobs, Job())
    took, used = time.perf_counter() - start, time.process_time() - used
    jobs.stop()
    return took, used / took / (os.cpu_count() or 1)


def main() -> int:
    """Prints what it measures."""
    compiled.load(library.compiled_folder())
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        clips = [write_clip(folder / f"{n}.mp4", n) for n in range(2)]
        parts = tuple(
            PieceClip(f"c{n}", x.stem, Media(str(x), x.name, Fraction(SECONDS), SIZE),
                      Fraction(1), Fraction(3))
            for n, x in enumerate(clips)
        )  # fmt: skip
        piece = Piece("Plain", SIZE, RATE, parts)

        def output(of: Piece, file: str, frames: range | None = None) -> Output:
            store = Store()
            film = opened_film(of, ClipPool(store), store, Quality.FINAL)
            return film_output(folder / file, film, frames=frames)

        whole = replace(piece, clips=tuple(replace(x, start=Fraction(0), end=Fraction(4))
                                           for x in parts))  # fmt: skip
        for _ in range(3):
            bare = alone(clips, folder / "alone.mp4")
            mine, _ = ours(output(whole, "ours.mp4"), os.cpu_count() or 1)
            print(f"plain clips: {mine / bare:5.2f} × decoding and encoding alone ({bare:.1f} s)")
        use = PieceUse(library.find(_WRINKLE))
        dressed = piece.with_clips(parts[0], replace(parts[1], entry=use))
        span = range(45, 75)
        one, _ = ours(output(dressed, "one.mp4", span), 1)
        all_, busy = ours(output(dressed, "all.mp4", span), os.cpu_count() or 1)
        print(f"{_WRINKLE}, {len(span)} frames: {all_ / one:5.2f} × with one worker ({one:.1f} s), "
              f"{busy:.0%} of the cores busy")  # fmt: skip
    return 0


if __name__ == "__main__":
    sys.exit(main())
