"""Blend modes: how the colour of a layer meets the colour below it.

Source: W3C Compositing and Blending Level 1, sections 5.1 (source-over), 5.2.6 (source-atop), 10
(blending); plus-lighter from its section on compositing operators. Everything but *as light*
happens in encoded colour, premultiplied. Skia draws the non-linear modes in 32-bit floats; their
values are clamped to 0…1 first, because the formulas mean colours a screen can show.
"""

from __future__ import annotations

from enum import Enum
from functools import partial

import cv2
import numpy as np

from wrinkle.core.picture.bands import in_bands
from wrinkle.core.picture.compiled import passes
from wrinkle.core.picture.compositing import over, source_over
from wrinkle.core.picture.image import Image, Light, Pixels


class BlendMode(Enum):
    """The blend modes; all but the last two are W3C's."""

    NORMAL = "normal"
    MULTIPLY = "multiply"
    SCREEN = "screen"
    OVERLAY = "overlay"
    DARKEN = "darken"
    LIGHTEN = "lighten"
    COLOR_DODGE = "color dodge"
    COLOR_BURN = "color burn"
    HARD_LIGHT = "hard light"
    SOFT_LIGHT = "soft light"
    DIFFERENCE = "difference"
    EXCLUSION = "exclusion"
    HUE = "hue"
    SATURATION = "saturation"
    COLOR = "color"
    LUMINOSITY = "luminosity"
    PLUS_LIGHTER = "plus-lighter"
    DIVIDE = "divide"
    AS_LIGHT = "as light"
    """Source-over of linear colours: as two exposures on one film are mixed."""


_LEAST = 1e-9
_WHOLE = np.float32(1.0)
_PRODUCTS = (BlendMode.MULTIPLY, BlendMode.SCREEN)
_IN_SKIA = {
    BlendMode.OVERLAY: "kOverlay",
    BlendMode.DARKEN: "kDarken",
    BlendMode.LIGHTEN: "kLighten",
    BlendMode.COLOR_DODGE: "kColorDodge",
    BlendMode.COLOR_BURN: "kColorBurn",
    BlendMode.HARD_LIGHT: "kHardLight",
    BlendMode.SOFT_LIGHT: "kSoftLight",
    BlendMode.DIFFERENCE: "kDifference",
    BlendMode.EXCLUSION: "kExclusion",
    BlendMode.HUE: "kHue",
    BlendMode.SATURATION: "kSaturation",
    BlendMode.COLOR: "kColor",
    BlendMode.LUMINOSITY: "kLuminosity",
}


def blend(
    above: Image,
    below: Image,
    mode: BlendMode = BlendMode.NORMAL,
    opacity: float = 1.0,
    within: bool = False,
    spare: bool = False,
) -> Image:
    """``above`` laid over ``below``.

    Args:
        above, below: pictures of the same size, in any state.
        mode: how their colours meet where both are.
        opacity: of ``above``, 0…1.
        within: ``above`` is seen only where there is something below (source-atop).
        spare: nobody else has the pixels of ``below``; they may be written over.

    Returns:
        One of the two where the other does not show; else an encoded image.
    """
    if opacity <= 0.0:
        return below
    within = within and not below.opaque
    if mode is BlendMode.AS_LIGHT:
        return _as_light(above, below, opacity, within)
    if mode is BlendMode.NORMAL and not within:
        return source_over(above, below, opacity, spare)
    front, back = (x.in_light(Light.ENCODED).pixels for x in (above, below))
    if mode in _PRODUCTS and not within:
        return Image(_product(front, back, mode, np.float32(opacity)), Light.ENCODED, below.opaque)
    met = partial(_met, mode=mode, opacity=np.float32(opacity), within=within)
    return Image(in_bands(met, front, back), Light.ENCODED, below.opaque)


def _met(front: Pixels, back: Pixels, mode: BlendMode, opacity: np.float32, within: bool) -> Pixels:
    if opacity < 1.0:
        front = front * opacity
    laid = _over(front, back, mode)
    return _atop(laid, front, back) if within else laid


def _as_light(above: Image, below: Image, opacity: float, within: bool) -> Image:
    if opacity >= 1.0 and above.opaque and not within:
        return above
    front, back = (_linear(x) for x in (above, below))
    front = front * np.float32(opacity)
    laid = in_bands(over, front, back)
    laid = _atop(laid, front, back) if within else laid
    return Image(laid, Light.LINEAR, below.opaque).in_light(Light.ENCODED)


def _linear(image: Image) -> Pixels:
    """Its linear pixels; what is all but nothing is nothing, as its colour is no number."""
    if not image.opaque:
        kept = np.where(image.pixels[..., 3:] > _LEAST, image.pixels, np.float32(0.0))
        image = Image(kept, image.light)
    return image.in_light(Light.LINEAR).pixels


def _over(front: Pixels, back: Pixels, mode: BlendMode) -> Pixels:
    if mode is BlendMode.NORMAL:
        return over(front, back)
    if mode is BlendMode.PLUS_LIGHTER:
        return np.asarray(np.minimum(front + back, 1.0), np.float32)
    if mode is BlendMode.DIVIDE:
        return _divided(front, back)
    if mode in _PRODUCTS:
        return _product(front, back, mode)
    return _drawn(_held(front), _held(back), mode)


def _product(front: Pixels, back: Pixels, mode: BlendMode, opacity: np.float32 = _WHOLE) -> Pixels:
    """Multiply or screen, of premultiplied pixels, of which the front is seen by an opacity.

    cs + cb − cs · cb, and cs · (1 − ab) + cb · (1 − as) + cs · cb: the general formula of W3C
    Compositing and Blending Level 1 with B(cb, cs) of each, which the product makes short.
    """
    screened, compiled = mode is BlendMode.SCREEN, passes()
    if compiled is None:
        return in_bands(partial(_product_in_numpy, opacity=opacity, screened=screened), front, back)
    found = np.empty(back.shape, np.float32)
    front, back = np.ascontiguousarray(front), np.ascontiguousarray(back)
    compiled.product(front, opacity, back, screened, np.float32(_LEAST), found)
    return found


def _product_in_numpy(front: Pixels, back: Pixels, opacity: np.float32, screened: bool) -> Pixels:
    front, back, one = _held(front * opacity), _held(back), np.float32(1.0)
    if screened:
        return np.asarray(front + back - front * back, np.float32)
    apart = front * (one - back[..., 3:]) + back * (one - front[..., 3:])
    return np.asarray(apart + front * back, np.float32)


def _held(pixels: Pixels) -> Pixels:
    """A copy with colours within 0 and alpha, as the formulas want them."""
    # Skia divides by alpha and colour; what is left of a product of tiny ones is nothing.
    compiled = passes()
    if compiled is not None:
        held = np.empty(pixels.shape, np.float32)
        compiled.hold(np.ascontiguousarray(pixels), np.float32(_LEAST), held)
        return held
    above: Pixels = cv2.threshold(pixels, _LEAST, 0.0, cv2.THRESH_TOZERO)[1]
    cv2.min(above, cv2.merge([above[..., 3]] * 4), above)
    return above


def _divided(front: Pixels, back: Pixels) -> Pixels:
    """B(cb, cs) = min(1, cb / cs): what is white above changes nothing. Common practice."""
    alpha_front, alpha_back = front[..., 3:], back[..., 3:]
    above = front * alpha_back
    below = back * alpha_front
    # Both are premultiplied by both alphas, which their quotient loses; 0 / 0 stays 0.
    white = (below > 0.0).astype(np.float32)
    quotient = np.divide(below, above, out=white, where=above > below)
    both = alpha_front * alpha_back
    one = np.float32(1.0)
    alone = front * (one - alpha_back) + back * (one - alpha_front)
    blended: Pixels = (alone + both * quotient).astype(np.float32)
    blended[..., 3] = (alpha_front + alpha_back - both)[..., 0]
    return blended


def _atop(laid: Pixels, front: Pixels, back: Pixels) -> Pixels:
    """From source-over to source-atop: the share of the front that lies on nothing goes out."""
    compiled = passes()
    if compiled is not None:
        kept = np.empty(back.shape, np.float32)
        compiled.atop(laid, np.ascontiguousarray(front), np.ascontiguousarray(back), kept)
        return kept
    left = back * (np.float32(1.0) - front[..., 3:])
    # What is laid over less what is left of the back is the front, alone and blended.
    mixture: Pixels = back[..., 3:] * (laid - left) + left
    mixture[..., 3] = back[..., 3]
    return mixture


def _drawn(front: Pixels, back: Pixels, mode: BlendMode) -> Pixels:
    """Draws ``front`` into ``back``, both held and contiguous."""
    import skia  # its start costs more than many sessions need

    height, width = front.shape[:2]
    kind = skia.ImageInfo.Make(
        width, height, skia.ColorType.kRGBA_F32_ColorType, skia.AlphaType.kPremul_AlphaType, None
    )
    surface = skia.Surface.MakeRasterDirect(kind, back, width * 16)
    picture = skia.Surface.MakeRasterDirect(kind, front, width * 16).makeImageSnapshot()
    paint = skia.Paint(BlendMode=getattr(skia.BlendMode, _IN_SKIA[mode]))
    surface.getCanvas().drawImage(picture, 0, 0, skia.SamplingOptions(), paint)
    return back
