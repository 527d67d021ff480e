"""What must hold for every effect: rest, range, size, borders, and an untouched input."""

import os
import unittest
from functools import cache

import cv2
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from wrinkle.core.effects.chain import ChainLink, after
from wrinkle.core.effects.effect import Effect, Scene, Values
from wrinkle.core.effects.registry import EFFECTS, effect, searched
from wrinkle.core.errors import InputError
from wrinkle.core.motion.setting_spec import ChoiceSpec, OutlineSpec, SettingSpec
from wrinkle.core.motion.values import Value, parts
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.gaussian import gaussian
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.lut import parse_cube
from wrinkle.core.picture.paths import polygon

SIZES = (Size(1, 1), Size(7, 5), Size(16, 9), Size(9, 16), Size(33, 58))
DRAWS = int(os.environ.get("WRINKLE_TEST_DRAWS", "8"))
"""For each effect; thousands of them are a search of some minutes."""
# What is about as fine as a pixel of the smaller picture.
FINE = {"tile": 540, "scan_lines": 540, "luma_reveal": 540, "channel_outline": 360, "rust": 360}
"""What smaller pictures do not hold: how wide they have to be."""
GRAINY = {
    "grain": 0.005,
    "ground": 0.005,
    "scan_lines": 0.006,
    "paint_strokes": 0.006,
    "rust": 0.006,
    "tape": 0.014,
    "film_gate": 0.012,
}

LUT = parse_cube(
    "swap.cube",
    b"LUT_3D_SIZE 2\n0 0 0\n0 1 0\n1 0 0\n1 1 0\n0 0 1\n0 1 1\n1 0 1\n1 1 1\n",
)
"""Red and green exchanged."""


def scene(size: Size, cover: EdgeCover = EdgeCover.MIRROR, time: float = 0.1) -> Scene:
    waves = np.ones((size.height, size.width, 4), np.float32)
    waves[..., :3] = 0.5 + 0.4 * np.sin(np.linspace(0, 9, size.width))[None, :, None]
    other = Image(waves, Light.ENCODED, True)
    return Scene.whole(size, time=time, frame=3, cover=cover, lut=LUT, other=other)


def picture(size: Size, one: Effect, seed: int, opaque: bool = True) -> Image:
    dice = np.random.default_rng(seed)
    pixels = dice.random((size.height, size.width, 4), dtype=np.float32)
    if opaque:
        pixels[..., 3] = 1.0
    else:
        pixels[..., 3] = np.where(pixels[..., 3] < 0.2, 0.0, pixels[..., 3])
        pixels[..., :3] *= pixels[..., 3:]
    return Image(pixels, one.light, opaque)


def smooth(size: Size, one: Effect) -> Image:
    """A picture of wide waves, which survive another size."""
    return Image(_wide_waves(size), one.light, True)


def detailed(size: Size, one: Effect) -> Image:
    """The same with waves of 24 pixels at the width of 540, so that a wrong length shows."""
    return Image(_fine_waves(size), one.light, True)


def _wide_waves(size: Size) -> np.ndarray:
    x = (np.arange(size.width) + 0.5)[None, :] / size.width
    y = (np.arange(size.height) + 0.5)[:, None] / size.height
    waves = [0.5 + 0.45 * np.sin(5 * x + k) * np.cos(4 * y - k) for k in range(3)]
    pixels = np.ones((size.height, size.width, 4), np.float32)
    pixels[..., :3] = np.stack(np.broadcast_arrays(*waves), axis=-1)
    return pixels


@cache
def _fine_waves(size: Size) -> np.ndarray:
    x = (np.arange(size.width) + 0.5)[None, :] / size.width
    y = (np.arange(size.height) + 0.5)[:, None] / size.width
    waves = 0.5 + 0.5 * np.sin(141.0 * x + 40.0 * np.sin(4.0 * y))
    pixels = _wide_waves(size)
    pixels[..., :3] *= (0.4 + 0.6 * waves)[..., None]
    return pixels


def values_of(spec: SettingSpec) -> st.SearchStrategy[Value]:
    """Any value in the hard range of a setting."""
    if isinstance(spec, OutlineSpec):
        points = st.lists(st.tuples(st.floats(0, 1), st.floats(0, 1)), min_size=2, max_size=6)
        return points.map(polygon)
    if isinstance(spec.neutral, bool):
        return st.booleans()
    if isinstance(spec, ChoiceSpec):
        return st.sampled_from(spec.choices)
    numbers = st.floats(spec.low, spec.high, allow_nan=False)
    if isinstance(spec.neutral, tuple):
        return st.tuples(*(numbers for _ in spec.neutral))
    return numbers


@st.composite
def uses(draw: st.DrawFn, one: Effect) -> tuple[Values, Image, Scene]:
    values = Values({spec.key: draw(values_of(spec)) for spec in one.settings})
    size = draw(st.sampled_from(SIZES))
    image = picture(size, one, draw(st.integers(0, 9)), draw(st.booleans()))
    cover = draw(st.sampled_from(list(EdgeCover)))
    return values, image, scene(size, cover, draw(st.floats(-2, 2, width=16)))


def extremes(one: Effect, dice: np.random.Generator) -> Values:
    """Each setting at one end of its hard range."""

    def end(spec: SettingSpec) -> Value:
        if isinstance(spec, OutlineSpec):
            return spec.neutral
        if isinstance(spec.neutral, bool):
            return bool(dice.integers(2))
        if isinstance(spec, ChoiceSpec):
            return spec.choices[dice.integers(len(spec.choices))]
        ends = [(spec.low, spec.high)[dice.integers(2)] for _ in parts(spec.neutral)]
        return tuple(ends) if isinstance(spec.neutral, tuple) else ends[0]

    return Values({spec.key: end(spec) for spec in one.settings})


def shown(one: Effect) -> Values:
    """The values with which an effect starts, so that it does something."""
    return Values({**one.neutral(), **one.starts_with})


class EveryEffect(unittest.TestCase):
    def test_any_value_gives_a_finite_picture_and_leaves_the_input(self) -> None:
        for one in EFFECTS.values():
            with self.subTest(one.key):
                draws = settings(deadline=None, max_examples=DRAWS)
                draws(given(st.just(one), uses(one))(self.hold))()

    def hold(self, one: Effect, use: tuple[Values, Image, Scene]) -> None:
        """What must hold for an effect on any picture."""
        values, image, around = use
        before = image.pixels.copy()
        result = one.applied(image, values, around)
        np.testing.assert_array_equal(image.pixels, before, one.key)
        self.assertEqual(result.pixels.shape, before.shape, one.key)
        self.assertEqual(result.pixels.dtype, np.float32, one.key)
        self.assertTrue(np.isfinite(result.pixels).all(), one.key)
        alpha = result.pixels[..., 3]
        self.assertGreaterEqual(float(alpha.min()), -1e-5, one.key)
        self.assertLessEqual(float(alpha.max()), 1.0 + 1e-4, one.key)
        if result.opaque:
            self.assertGreater(float(alpha.min()), 1.0 - 1e-4, one.key)

    def test_chains_of_the_extremes_stay_finite(self) -> None:
        dice = np.random.default_rng(6)
        keys = list(EFFECTS)
        for _ in range(DRAWS * 10):
            # One that makes colours as bright as they get stands before any others.
            chosen = ["lift_gamma_gain", *dice.choice(keys, 3)]
            around = scene(Size(9, 16), list(EdgeCover)[dice.integers(4)])
            chain = [ChainLink(one, extremes(one, dice), around) for one in map(effect, chosen)]
            result = after(picture(Size(9, 16), chain[0].effect, 1), chain)
            self.assertTrue(np.isfinite(result.pixels).all(), chosen)

    def test_at_rest_the_picture_is_the_same_to_the_bit_and_else_it_is_not(self) -> None:
        for one in EFFECTS.values():
            image = picture(Size(180, 320), one, 1)
            self.assertIs(one.applied(image, one.neutral(), scene(image.size)), image, one.key)
            self.assertFalse(one.resting(shown(one)), one.key)
            changed = one.applied(image, shown(one), scene(image.size))
            self.assertGreater(float(np.abs(changed.pixels - image.pixels).max()), 1e-3, one.key)

    def test_half_and_full_size_show_the_same(self) -> None:
        for one in EFFECTS.values():
            width = FINE.get(one.key, 270)
            small = Size(width, width * 16 // 9)
            big = small.scaled(2.0)
            low = one.applied(detailed(small, one), shown(one), scene(small)).pixels
            high = one.applied(detailed(big, one), shown(one), scene(big)).pixels
            shrunk = cv2.resize(high, tuple(small), interpolation=cv2.INTER_AREA)
            apart = float(np.abs(shrunk - low).mean())
            self.assertLess(apart, GRAINY.get(one.key, 0.003), one.key)

    def test_a_part_that_is_bare_stays_bare_under_colour_and_light(self) -> None:
        for one in EFFECTS.values():
            if one.family.value not in ("Colour", "Texture", "Reveal"):
                continue
            image = picture(Size(33, 58), one, 2, opaque=False)
            result = one.applied(image, shown(one), scene(image.size)).pixels
            bare = image.pixels[..., 3] == 0.0
            self.assertLess(float(np.abs(result[bare]).max()), 1e-6, one.key)

    def test_the_declarations_are_whole(self) -> None:
        labels = [one.label for one in EFFECTS.values()]
        self.assertEqual(len(labels), len(set(labels)))
        for one in EFFECTS.values():
            self.assertTrue(one.about.endswith("."), one.key)
            for spec in one.settings:
                spec.checked(spec.neutral)
                # It is the name of every setting's own random movement.
                self.assertNotEqual(spec.key, "jitter", one.key)
            for key, value in one.starts_with.items():
                one.spec(key).checked(value)
        with self.assertRaisesRegex(InputError, "no effect 'nothing'"):
            effect("nothing")
        self.assertEqual([one.key for one in searched("glitch strips")], ["slices"])
        self.assertEqual(len(searched("")), len(EFFECTS))


class Borders(unittest.TestCase):
    def test_a_blur_of_an_even_picture_changes_nothing_at_its_rim(self) -> None:
        for key in ("gaussian_blur", "directional_blur", "spin_blur", "zoom_blur", "lens_bend"):
            one = EFFECTS[key]
            even = Image(np.full((58, 33, 4), 1.0, np.float32), one.light, True)
            for cover in (EdgeCover.MIRROR, EdgeCover.REPEAT, EdgeCover.STRETCH):
                result = one.applied(even, shown(one), scene(Size(33, 58), cover))
                self.assertLess(float(np.abs(result.pixels - 1.0).max()), 1e-4, (key, cover))
            self.assertTrue(np.isfinite(gaussian(even.pixels, 3.0)).all())
