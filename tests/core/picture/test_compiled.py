"""The compiled passes give the same bytes as NumPy, and both the curve of IEC 61966-2-1."""

import tempfile
import unittest
from collections.abc import Iterator
from importlib import import_module
from pathlib import Path
from typing import Any
from unittest import mock

import colour
import numpy as np
from numpy.typing import NDArray

from tests.running.compiling import made_in
from wrinkle.core.picture import compiled
from wrinkle.core.picture.blending import BlendMode, blend
from wrinkle.core.picture.compositing import (
    covered,
    mixed,
    recoloured,
    source_over,
    straight,
    tinted,
)  # fmt: skip
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.exposure import brightened
from wrinkle.core.picture.grading import Balance, Levels, ThroughTable
from wrinkle.core.picture.image import Image, Light, from_bytes8
from wrinkle.core.picture.lab import lab, shifted
from wrinkle.core.picture.lut import Lut, looked_up
from wrinkle.core.picture.placement import IDENTITY, Pose, pose_matrix
from wrinkle.core.picture.resample import Plane, resample_masked

_DICE = np.random.default_rng(11)


def picture(light: Light, low: float = 0.0, high: float = 1.0) -> Image:
    """With pixels that are empty, full and between, and colours from low to high."""
    pixels = _DICE.uniform(low, high, (70, 37, 4)).astype(np.float32)
    pixels[..., 3] = np.clip(_DICE.uniform(-0.5, 1.5, (70, 37)), 0.0, 1.0)
    pixels[..., :3] *= pixels[..., 3:]
    return Image(pixels, light)


PICTURES = [
    picture(light, *reach)
    for light in Light
    for reach in ((0.0, 1.0), (-0.4, 1.3), (0.0, 15.0), (-40.0, 40.0))
]


# Few entries, so that neighbouring parts of a colour are often equal.
TABLE = Lut("made up", "made up", _DICE.random((3, 3, 3, 3), dtype=np.float32))


def results() -> Iterator[NDArray[Any]]:
    below = picture(Light.ENCODED)
    for image in [*PICTURES, Image(PICTURES[0].pixels[::-1, 3:], Light.LINEAR)]:
        for light in Light:
            yield image.in_light(light).pixels
        yield image.to_bytes8()
        yield from_bytes8(image.to_bytes8()[..., :3]).pixels
        if image.size == below.size:
            yield source_over(image, below, 1.0).pixels
            yield source_over(image, below, 0.37).pixels
            spare = Image(below.pixels.copy(), below.light)
            yield source_over(image, spare, 0.37, spare=True).pixels
            yield blend(image, below, BlendMode.SOFT_LIGHT).pixels
            yield blend(image, below, BlendMode.PLUS_LIGHTER, within=True).pixels
            yield blend(image, below, BlendMode.MULTIPLY, 0.37, within=True).pixels
            yield blend(below, image, BlendMode.SCREEN, 0.37).pixels
            yield blend(image, below, BlendMode.MULTIPLY, 0.37).pixels
            share = below.pixels[..., 3]
            yield mixed(image.pixels, 0.37, below.pixels, share)
            yield covered(image.pixels, share)
            yield tinted(image.pixels[5, 7], share)
            yield straight(image)
            yield recoloured(image, below.pixels[..., :3].copy()).pixels
            yield brightened(image, 3.7).pixels
            plane = Plane(below.pixels[..., 3], IDENTITY)
            moved = [pose_matrix(Pose(rotation=turn), image.size) for turn in (3.0, 9.0)]
            yield resample_masked(
                image, IDENTITY, moved, [plane], image.size, EdgeCover.MIRROR
            ).pixels
    for image in PICTURES[:2] + PICTURES[4:6]:
        yield looked_up(TABLE, image.pixels[..., :3])
        for one in (Balance((1.2, 0.9, 0.8)), Levels(TABLE.table[0, 0]), ThroughTable(TABLE, 0.6)):
            yield one(image.pixels[..., :3].copy())
        yield lab(image.pixels[..., :3])
        yield shifted(image.pixels, np.outer((0.5, 1.0, 1.5), (1.2, 1.0, 0.7)), np.eye(3) * 9.0)


class Passes(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.folder = made_in(Path(folder.name))

    def test_they_give_the_same_bytes_as_numpy_wherever_they_take_over(self) -> None:
        state = _DICE.bit_generator.state
        with mock.patch.object(compiled, "_loaded", None):
            slow = list(results())
        with mock.patch.object(compiled, "_loaded", None):
            compiled.load(self.folder)
            self.assertIsNotNone(compiled.passes())
            _DICE.bit_generator.state = state
            fast = list(results())
        self.assertEqual(len(slow), len(fast))
        for one, other in zip(slow, fast, strict=True):
            self.assertEqual(one.tobytes(), other.tobytes())

    def test_the_fast_curve_is_as_good_as_the_curve(self) -> None:
        # The curve as colour-science has it.
        for image, exact in (
            (PICTURES[2], colour.models.eotf_inverse_sRGB),
            (PICTURES[6], colour.models.eotf_sRGB),
        ):
            other = Light.ENCODED if image.light is Light.LINEAR else Light.LINEAR
            alpha = image.pixels[..., 3:].astype(np.float64)
            seen = alpha[..., 0] > 0.0
            colours = image.pixels[..., :3][seen] / alpha[seen]
            wanted = exact(colours)
            found = image.in_light(other).pixels[..., :3][seen] / alpha[seen]
            np.testing.assert_allclose(found, wanted, rtol=2e-6, atol=1e-6)

    def test_dust_has_no_colour_and_takes_nothing_else_along(self) -> None:
        # What rounding leaves of a pixel may be a thousand times as bright as white.
        image = picture(Light.LINEAR)
        dusty = image.pixels.copy()
        dusty[3, 4] = 2e-7, -1e-8, 3e-9, 1e-10
        clean = dusty.copy()
        clean[3, 4] = 0.0
        for loads in (False, True):
            with mock.patch.object(compiled, "_loaded", None):
                if loads:
                    compiled.load(self.folder)
                found, wanted = (
                    Image(pixels).in_light(Light.ENCODED).pixels[..., :3]
                    for pixels in (dusty, clean)
                )
                self.assertEqual(found.tobytes(), wanted.tobytes())

    def test_what_is_compiled_is_kept_in_the_folder(self) -> None:
        kept = {path.name.split("-")[0].split(".")[1] for path in self.folder.rglob("*.nbi")}
        names = set(vars(import_module("wrinkle.core.picture.passes"))["__all__"])
        self.assertLessEqual(names - {"compile_all"}, kept)

    def test_without_numba_all_goes_on(self) -> None:
        missing = mock.patch("importlib.import_module", side_effect=ImportError)
        with mock.patch.object(compiled, "_loaded", None), missing:
            compiled.load(Path("nowhere"))
            self.assertIsNone(compiled.passes())
