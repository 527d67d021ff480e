"""Every shipped wrinkle at both ends of every dial, of strength and softness, in each direction.

The ends of all dials at once; ``python -m fuzz.ends`` goes to them one at a time, in every shape.
"""

import unittest
from fractions import Fraction
from functools import cache

import numpy as np
from msgspec.structs import replace

from tests.library.ends import at_joined_ends
from tests.library.test_shipped import SHAPES, clips
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Material
from wrinkle.core.render.showing import Showing
from wrinkle.core.reuse.use import Choices, Use, showing
from wrinkle.core.store import Store
from wrinkle.core.time.rate import FrameRate
from wrinkle.files import archive
from wrinkle.library import fonts, shipped
from wrinkle.media.assets import read_assets

_LONG = Fraction(10)
_STRIDE = 3
LEVELS = 8
"""Of 255: by how much the first frame that is not the plain clip may differ from it in the mean."""


def faults(bundle: Bundle, carried: Material, size: Size, rate: int, choices: Choices) -> list[str]:
    """What is wrong with one use: not at rest at an end, bare, or with a step where it begins."""
    at, fillings = FrameRate.of(rate), clips(size)
    shown = showing(Use(bundle.wrinkle, fillings, choices), carried, size, at, Quality.PREVIEW)
    wrinkle = shown.wrinkle
    first, last = wrinkle.first_frame, wrinkle.end_frame - 1
    found = []
    for frame in (first // 2, 0, last // 2):
        image = shown.image(frame)
        if not np.isfinite(image.pixels).all():
            found.append(f"frame {frame}: not a number")
        if float(image.pixels[..., 3].min()) <= 0.999:
            found.append(f"frame {frame}: bare")
    for frame in (first, last):
        if _changed(shown, frame).any():
            found.append(f"frame {frame}: not at rest")
    for frames in (range(first, -1), range(last, 0, -1)):
        frame = _first_changed(shown, frames)
        change = _changed(shown, frame).mean() if frame else 0.0
        if change > LEVELS:
            found.append(f"frame {frame}: begins or ends with a step of {change:.0f} levels")
    return found


def _first_changed(shown: Showing, frames: range) -> int:
    """The first one that is not the plain clip; 0 where there is none."""
    plain = frames.start
    for place in (*range(_STRIDE, len(frames), _STRIDE), len(frames) - 1):
        if _changed(shown, frames[place]).any():
            near = range(frames.index(plain) + 1, place + 1)
            return next(frames[x] for x in near if _changed(shown, frames[x]).any())
        plain = frames[place]
    return 0


def _changed(shown: Showing, frame: int) -> np.ndarray:
    """By how many levels each part of a frame differs from the plain clips."""
    return np.abs(shown.image(frame).to_bytes8().astype(int) - _plain(shown.size, frame))


@cache
def _plain(size: Size, frame: int) -> np.ndarray:
    cut = replace(plain_cut(), lead=_LONG, tail=_LONG)
    plain = showing(Use(cut, clips(size)), Material(), size, FrameRate.of(30), Quality.PREVIEW)
    return plain.image(frame).to_bytes8().astype(int)


class Ends(unittest.TestCase):
    def test_each_is_at_rest_and_whole_at_every_end(self) -> None:
        store = Store(64 << 20)
        for number, path in enumerate(shipped().values()):
            bundle = archive.read(path)
            carried = read_assets(bundle.assets, store).material(fonts())
            # What is no end of a dial is looked at with every second wrinkle.
            for place, choices in enumerate(at_joined_ends(bundle.wrinkle, number % 2, 2)):
                size = SHAPES[(number + place) % len(SHAPES)]
                with self.subTest(bundle.wrinkle.name, choices=choices, size=size.label):
                    self.assertEqual(faults(bundle, carried, size, 30, choices), [])
