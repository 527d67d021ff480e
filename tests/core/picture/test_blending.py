"""Blend modes against the published formulas, written out here without our code."""

import unittest
from collections.abc import Callable

import colour
import numpy as np

from wrinkle.core.picture.blending import BlendMode, blend
from wrinkle.core.picture.image import Image, Light

Colours = np.ndarray


def _soft_light(back: Colours, front: Colours) -> Colours:
    curve = np.where(back <= 0.25, ((16 * back - 12) * back + 4) * back, np.sqrt(back))
    low = back - (1 - 2 * front) * back * (1 - back)
    return np.where(front <= 0.5, low, back + (2 * front - 1) * (curve - back))


def _hard_light(back: Colours, front: Colours) -> Colours:
    screened = back + (2 * front - 1) - back * (2 * front - 1)
    return np.where(front <= 0.5, back * 2 * front, screened)


def _dodge(back: Colours, front: Colours) -> Colours:
    with np.errstate(divide="ignore", invalid="ignore"):
        some = np.minimum(1.0, back / (1.0 - front))
    return np.where(back == 0.0, 0.0, np.where(front >= 1.0, 1.0, some))


def _burn(back: Colours, front: Colours) -> Colours:
    with np.errstate(divide="ignore", invalid="ignore"):
        some = 1.0 - np.minimum(1.0, (1.0 - back) / front)
    return np.where(back >= 1.0, 1.0, np.where(front <= 0.0, 0.0, some))


def _lum(c: Colours) -> Colours:
    return (c @ np.array([0.3, 0.59, 0.11]))[..., None]


def _sat(c: Colours) -> Colours:
    return c.max(-1, keepdims=True) - c.min(-1, keepdims=True)


def _with_lum(c: Colours, lum: Colours) -> Colours:
    c = c + lum - _lum(c)
    lum, low, high = _lum(c), c.min(-1, keepdims=True), c.max(-1, keepdims=True)
    with np.errstate(divide="ignore", invalid="ignore"):
        c = np.where(low < 0.0, lum + (c - lum) * lum / (lum - low), c)
        return np.where(high > 1.0, lum + (c - lum) * (1.0 - lum) / (high - lum), c)


def _with_sat(c: Colours, sat: Colours) -> Colours:
    low, span = c.min(-1, keepdims=True), _sat(c)
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.where(span > 0.0, (c - low) / span * sat, 0.0)


# W3C Compositing and Blending Level 1, section 10: B(Cb, Cs); divide is common practice.
FORMULAS: dict[BlendMode, Callable[[Colours, Colours], Colours]] = {
    BlendMode.MULTIPLY: lambda b, s: b * s,
    BlendMode.SCREEN: lambda b, s: b + s - b * s,
    BlendMode.OVERLAY: lambda b, s: _hard_light(s, b),
    BlendMode.DARKEN: np.minimum,
    BlendMode.LIGHTEN: np.maximum,
    BlendMode.COLOR_DODGE: _dodge,
    BlendMode.COLOR_BURN: _burn,
    BlendMode.HARD_LIGHT: _hard_light,
    BlendMode.SOFT_LIGHT: _soft_light,
    BlendMode.DIFFERENCE: lambda b, s: abs(b - s),
    BlendMode.EXCLUSION: lambda b, s: b + s - 2 * b * s,
    BlendMode.HUE: lambda b, s: _with_lum(_with_sat(s, _sat(b)), _lum(b)),
    BlendMode.SATURATION: lambda b, s: _with_lum(_with_sat(b, _sat(s)), _lum(b)),
    BlendMode.COLOR: lambda b, s: _with_lum(s, _lum(b)),
    BlendMode.LUMINOSITY: lambda b, s: _with_lum(b, _lum(s)),
    BlendMode.DIVIDE: lambda b, s: np.where(
        b <= 0.0, 0.0, np.where(s <= b, 1.0, b / np.maximum(s, 1e-30))
    ),
}


def encoded(seed: int, alpha: float | None = None) -> Image:
    """Random premultiplied pixels with alpha 0 and 1 among them."""
    dice = np.random.default_rng(seed)
    pixels = dice.random((40, 30, 4)).astype(np.float32)
    pixels[:5, :, 3], pixels[5:10, :, 3] = 0.0, 1.0
    pixels[:, :3, :3] = 0.0
    pixels[:, 3:6, :3] = 1.0
    if alpha is not None:
        pixels[..., 3] = alpha
    pixels[..., :3] *= pixels[..., 3:]
    return Image(pixels, Light.ENCODED, alpha == 1.0)


def composed(back: Image, front: Image, mode: BlendMode, opacity: float) -> Colours:
    """W3C section 5.1 with blending: co = cs as (1-ab) + cb ab (1-as) + as ab B(cb, cs)."""
    cb, ab = back.pixels[..., :3].astype(float), back.pixels[..., 3:].astype(float)
    cs, a_s = front.pixels[..., :3].astype(float), front.pixels[..., 3:].astype(float)
    cs, a_s = cs * opacity, a_s * opacity
    with np.errstate(divide="ignore", invalid="ignore"):
        b = np.where(ab > 0, cb / ab, 0.0)
        s = np.where(a_s > 0, cs / a_s, 0.0)
    mixed = cs * (1 - ab) + cb * (1 - a_s) + a_s * ab * FORMULAS[mode](b, s)
    return np.concatenate([mixed, a_s + ab - a_s * ab], axis=-1)


class Blending(unittest.TestCase):
    def test_every_mode_is_the_published_formula(self) -> None:
        back, front = encoded(1), encoded(2)
        for mode in FORMULAS:
            for opacity in (1.0, 0.4):
                with self.subTest(mode.value, opacity=opacity):
                    found = blend(front, back, mode, opacity).pixels
                    wanted = composed(back, front, mode, opacity)
                    # Divide jumps where the colours are equal; its quotient is 1 on both sides.
                    self.assertLess(float(np.abs(found - wanted).max()), 2e-5)

    def test_as_light_is_source_over_of_linear_colours(self) -> None:
        # W3C Compositing and Blending Level 1, section 5.1, on colours decoded by colour-science.
        back, front = encoded(5, 1.0), encoded(6, 1.0)
        for opacity in (1.0, 0.35):
            found = blend(front, back, BlendMode.AS_LIGHT, opacity).in_light(Light.ENCODED).pixels
            one, other = (colour.models.eotf_sRGB(x.pixels[..., :3]) for x in (front, back))
            mixture = colour.models.eotf_inverse_sRGB(one * opacity + other * (1.0 - opacity))
            np.testing.assert_allclose(found[..., :3], mixture, atol=4e-6)
        nothing = Image(np.zeros_like(front.pixels), Light.ENCODED)
        only = blend(nothing, back, BlendMode.AS_LIGHT).in_light(Light.ENCODED)
        np.testing.assert_allclose(only.pixels, back.pixels, atol=4e-6)

    def test_plus_lighter_adds_and_stops_at_one(self) -> None:
        back, front = encoded(3), encoded(4)
        found = blend(front, back, BlendMode.PLUS_LIGHTER).pixels
        np.testing.assert_allclose(found, np.minimum(back.pixels + front.pixels, 1.0), atol=1e-7)

    def test_only_within_is_source_atop(self) -> None:
        # W3C Compositing, section 9.1.9: co = cs as ab + cb ab (1 - as), alpha = ab.
        back, front = encoded(5), encoded(6)
        found = blend(front, back, BlendMode.NORMAL, 1.0, within=True).pixels
        cs, ab, a_s = front.pixels, back.pixels[..., 3:], front.pixels[..., 3:]
        np.testing.assert_allclose(found, cs * ab + back.pixels * (1 - a_s), atol=1e-6)

    def test_an_opaque_ground_stays_opaque_and_nothing_over_it_changes_nothing(self) -> None:
        ground, nothing = encoded(7, 1.0), encoded(8, 0.0)
        for mode in BlendMode:
            mixed = blend(nothing, ground, mode)
            self.assertTrue(mixed.opaque)
            np.testing.assert_allclose(mixed.pixels, ground.pixels, atol=1e-6, err_msg=mode.value)

    def test_light_above_one_is_clamped_where_the_formula_means_colours(self) -> None:
        bright = Image(np.full((4, 4, 4), 3.0, np.float32), Light.ENCODED)
        bright.pixels[..., 3] = 1.0
        for mode in FORMULAS:
            found = blend(bright, bright, mode).pixels
            self.assertTrue(np.isfinite(found).all() and found.min() >= -1e-6, mode.value)
            self.assertLessEqual(float(found.max()), 1.0 + 1e-6, mode.value)

    def test_what_is_all_but_nothing_stays_a_number(self) -> None:
        levels = np.array([0.0, 1e-45, 1e-44, 1e-40, 1e-38, 1e-20, 1e-2, 0.5, 1.0], np.float32)
        drawn = np.random.default_rng(9).integers(0, len(levels), (2, 96, 96, 4))
        front, back = (Image(pixels, Light.ENCODED) for pixels in levels[drawn])
        for mode in BlendMode:
            found = blend(front, back, mode).pixels
            self.assertTrue(np.isfinite(found).all(), mode.value)
