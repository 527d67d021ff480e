"""Draws the demo's clips to files; the same program always gives the same pictures."""

from __future__ import annotations

import hashlib
import json
import multiprocessing
import os
import time
from collections.abc import Callable, Iterator
from fractions import Fraction
from pathlib import Path
from threading import Thread

import cv2
import numpy as np
import skia

from wrinkle.core.errors import InputError, MediaError
from wrinkle.core.files import read_whole, write_whole
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.core.time.rate import FrameRate
from wrinkle.demo.brushes import HEIGHT, WIDTH
from wrinkle.demo.extras import EXTRAS
from wrinkle.demo.scenes import SCENES
from wrinkle.media.clip_file import read_index
from wrinkle.media.video_file import write_video

FULL_SIZE = Size(WIDTH, HEIGHT)
RATE = FrameRate(Fraction(30))
SECONDS = 3.2
EDITION = 2
"""Counts up whenever the pictures change, so that old files are not taken for new ones."""
OTHER_SHAPES = {
    "dunes_60": ("dunes", Size(1280, 720), 60),
    "pier_24": ("pier", Size(720, 720), 24),
}
"""Scenes in another shape and rate: a landscape clip at 60 and a square one at 24."""
_SUMS, _LARGEST_SUMS = "sums.json", 1 << 20
# Keeps each clip of 3.2 seconds under 3 MB.
_MOST_BITS = 6_500_000
_GRAINS = 6
_MIDDLE_GRAIN = 8


def draw_scene(name: str, time: float, size: Size) -> Bytes8:
    """One instant of a scene as RGB ``(H, W, 3)``, without grain."""
    surface = skia.Surface(size.width, size.height)
    canvas = surface.getCanvas()
    factor = max(size.width / WIDTH, size.height / HEIGHT)
    canvas.translate(size.width / 2, size.height / 2)
    canvas.scale(factor, factor)
    canvas.translate(-WIDTH / 2, -HEIGHT / 2)
    SCENES[name](canvas, time)
    pixels: Bytes8 = surface.toarray(colorType=skia.kRGBA_8888_ColorType)
    return np.ascontiguousarray(pixels[..., :3])


def draw_clip(
    path: Path, name: str, size: Size = FULL_SIZE, rate: FrameRate = RATE, seconds: float = SECONDS
) -> None:
    """Draws a scene to an MP4 file, with a little grain."""
    count = rate.nearest_frame(Fraction(seconds))
    write_video(
        path,
        _frames(name, size, rate, count),
        size,
        rate,
        crf=24,
        most_bits=_MOST_BITS,
    )


def make_clips(folder: Path, told: Callable[[int, int], None]) -> list[Path]:
    """The eight clips of the demo in ``folder``; they and its other files are made if missing.

    Args:
        folder: made if it does not exist.
        told: called with the number of files done and wanted.

    Raises:
        InputError: they cannot be written; names the folder.
    """
    try:
        folder.mkdir(parents=True, exist_ok=True)
        sums = _known_sums(folder)
        missing = [name for name in file_names() if not _whole(folder / name, sums.get(name))]
        if missing:
            told(0, len(missing))
            # Whatever ends this ends the drawing: the pool's own end does not wait.
            with multiprocessing.Pool(2, _end_with, (os.getpid(),)) as pool:
                paths = [folder / name for name in missing]
                for done, _ in enumerate(pool.imap_unordered(_make, paths), 1):
                    told(done, len(missing))
        if missing or set(sums) != set(file_names()):
            found = {name: _sum(folder / name) for name in file_names()}
            write_whole(folder / _SUMS, json.dumps(found, indent=2).encode())
    except OSError as fault:
        raise InputError(
            f"The demo's clips cannot be drawn in {folder}: {fault.strerror}; make room there, or "
            "set XDG_CACHE_HOME to another folder."
        ) from None
    return [folder / f"{name}.mp4" for name in SCENES]


def file_names() -> list[str]:
    """The names of all files of the demo."""
    return [*(f"{name}.mp4" for name in (*SCENES, *OTHER_SHAPES)), *EXTRAS]


def _known_sums(folder: Path) -> dict[str, str]:
    """What the files were when they were drawn, by their names."""
    try:
        found = json.loads(read_whole(folder / _SUMS, _LARGEST_SUMS))
    except (OSError, ValueError):
        return {}
    return found if isinstance(found, dict) else {}


def _sum(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "blake2b").hexdigest()


def _whole(path: Path, known: str | None) -> bool:
    """Whether a file is what was drawn; where that is not known, whether it can be read."""
    if not path.exists():
        return False
    if known is not None:
        return _sum(path) == known
    if path.suffix != ".mp4":
        return path.stat().st_size > 0
    try:
        return not read_index(path).facts.notes
    except MediaError:
        return False


def _end_with(parent: int) -> None:
    """Ends this process as soon as the one that made it is gone."""

    def watch() -> None:
        while os.getppid() == parent:
            time.sleep(0.2)
        os._exit(1)

    Thread(target=watch, daemon=True).start()


def _make(path: Path) -> None:
    if path.name in EXTRAS:
        EXTRAS[path.name](path)
    elif path.stem in OTHER_SHAPES:
        scene, size, rate = OTHER_SHAPES[path.stem]
        draw_clip(path, scene, size, FrameRate.of(rate), 2.0)
    else:
        draw_clip(path, path.stem)


def _frames(name: str, size: Size, rate: FrameRate, count: int) -> Iterator[Bytes8]:
    dice = np.random.default_rng(sum(name.encode()))
    shape = (size.height, size.width, 1)
    grains = []
    for _ in range(_GRAINS):
        grain = np.clip(dice.normal(_MIDDLE_GRAIN, 2.2, shape), 0, 2 * _MIDDLE_GRAIN)
        grains.append(np.repeat(grain.astype(np.uint8), 3, axis=2))
    for number in range(count):
        pixels = draw_scene(name, float(rate.seconds(number)), size)
        darker = cv2.subtract(pixels, (_MIDDLE_GRAIN,) * 4)
        yield cv2.add(darker, grains[number % _GRAINS])
