"""Draws the clips and pictures that ship, so that nobody waits for them.

``python -m wrinkle.demo.shipping`` draws them anew after a change of the scenes, and writes down
what they look like: tests then see whether the files are still what the program draws.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from fractions import Fraction
from functools import partial
from multiprocessing import Pool
from pathlib import Path
from typing import Final

from wrinkle.core.picture.image import Size
from wrinkle.core.time.rate import FrameRate
from wrinkle.demo.clips import RATE, draw_clip, drawing_sum
from wrinkle.demo.extras import EXTRAS
from wrinkle.demo.kite_day import kite_day
from wrinkle.demo.scenes import SCENES
from wrinkle.files.whole import write_whole
from wrinkle.library.samples import DEMO, DEMO_CLIPS, DEMO_PIECE, SAMPLES
from wrinkle.timeline.files import write_piece
from wrinkle.timeline.piece_file import PieceFile

SUMS: Final = DEMO / "drawn.json"
"""What each scene looked like when the clips were drawn."""
_SMALL = Size(180, 320)
_OTHER_SHAPES: Final = {
    "dunes_60.mp4": ("dunes", Size(1280, 720), FrameRate(Fraction(60))),
    "pier_24.mp4": ("pier", Size(720, 720), FrameRate(Fraction(24))),
}
"""Scenes in another shape and rate: a landscape clip at 60 and a square one at 24."""


def drawings() -> dict[Path, Callable[[Path], None]]:
    """What draws each file."""
    found: dict[Path, Callable[[Path], None]] = {}
    for path, scene in zip(SAMPLES.values(), ("box_kite", "pier"), strict=True):
        found[path] = partial(draw_clip, name=scene, size=_SMALL, rate=RATE)
    for name, path in DEMO_CLIPS.items():
        found[path] = partial(draw_clip, name=name)
    for name, (scene, size, rate) in _OTHER_SHAPES.items():
        found[DEMO / name] = partial(draw_clip, name=scene, size=size, rate=rate, seconds=2.0)
    return found | {DEMO / name: draw for name, draw in EXTRAS.items()}


def main() -> None:
    """Draws all of them."""
    DEMO.mkdir(parents=True, exist_ok=True)
    with Pool(2) as pool:
        pool.starmap(_draw, drawings().items(), chunksize=1)
    sums = {name: drawing_sum(name) for name in SCENES}
    write_whole(SUMS, json.dumps(sums, indent=2).encode() + b"\n")
    write_piece(DEMO_PIECE, kite_day(), PieceFile())


def _draw(path: Path, draw: Callable[[Path], None]) -> None:
    draw(path)


if __name__ == "__main__":
    main()
