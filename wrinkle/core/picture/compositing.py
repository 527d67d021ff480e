"""Laying one picture over another, and colours apart from their alpha."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.bands import bands, in_bands
from wrinkle.core.picture.channels import LEAST_ALPHA, threefold
from wrinkle.core.picture.compiled import passes
from wrinkle.core.picture.image import Image, Light, Pixels


def covered(pixels: Pixels, share: NDArray[np.float32]) -> Pixels:
    """Premultiplied pixels ``(H, W, 4)`` of which a share ``(H, W)`` is left."""
    compiled = passes()
    if compiled is None:
        left: Pixels = cv2.multiply(pixels, cv2.merge([share] * 4))
        return left
    result = np.empty(pixels.shape, np.float32)
    compiled.cover(np.ascontiguousarray(pixels), np.ascontiguousarray(share), result)
    return result


def tinted(colour: NDArray[np.float32], share: NDArray[np.float32]) -> Pixels:
    """A share ``(H, W)`` of one colour ``(4,)``, as pixels ``(H, W, 4)``."""
    compiled = passes()
    if compiled is None:
        return np.asarray(cv2.merge([share * part for part in colour]), np.float32)
    result = np.empty((*share.shape, 4), np.float32)
    compiled.tint(np.ascontiguousarray(colour), np.ascontiguousarray(share), result)
    return result


def mixed(front: Pixels, opacity: float, back: Pixels, share: NDArray[np.float32]) -> Pixels:
    """front · opacity + back · (1 − share), of pixels ``(H, W, 4)`` and a share ``(H, W)``."""
    compiled = passes()
    if compiled is None:
        return front * np.float32(opacity) + back * (np.float32(1.0) - share)[..., None]
    front, back = np.ascontiguousarray(front), np.ascontiguousarray(back)
    result = np.empty(back.shape, np.float32)
    compiled.mix(front, np.float32(opacity), back, np.ascontiguousarray(share), result)
    return result


def add_covered(total: Pixels, pixels: Pixels, share: NDArray[np.float32]) -> None:
    """Adds what ``covered`` gives to a total ``(H, W, 4)``, in place; all lie whole in memory."""
    compiled = passes()
    if compiled is None:
        total += covered(pixels, share)
    else:
        compiled.add_covered(total, pixels, share)


def straight(image: Image) -> NDArray[np.float32]:
    """Colours without their alpha, ``(H, W, 3)``; black where there is nothing."""
    if image.opaque:
        colours: NDArray[np.float32] = cv2.cvtColor(image.pixels, cv2.COLOR_RGBA2RGB)
        return colours
    compiled, shape = passes(), (*image.pixels.shape[:2], 3)
    if compiled is not None:
        result = np.empty(shape, np.float32)
        compiled.undress(np.ascontiguousarray(image.pixels), result)
        return result
    result = np.zeros(shape, np.float32)
    for rows in bands(image.pixels):
        band = image.pixels[rows]
        alpha = threefold(band[..., 3])
        np.divide(band[..., :3], alpha, out=result[rows], where=alpha > LEAST_ALPHA)
    return result


def recoloured(image: Image, colours: NDArray[np.float32], into: Pixels | None = None) -> Image:
    """The picture with other colours ``(H, W, 3)``, given without alpha; its alpha stays.

    Args:
        image: the picture.
        colours: its new colours.
        into: where the pixels are to stand; whole in memory.
    """
    compiled = passes()
    if not image.opaque and compiled is not None:
        dressed = np.empty(image.pixels.shape, np.float32) if into is None else into
        compiled.dress(np.ascontiguousarray(colours), np.ascontiguousarray(image.pixels), dressed)
        return Image(dressed, image.light, image.opaque)
    pixels: Pixels = cv2.cvtColor(colours, cv2.COLOR_RGB2RGBA, into)
    if not image.opaque:
        alpha = image.pixels[..., 3]
        pixels = cv2.multiply(pixels, cv2.merge([alpha] * 4), pixels)
        pixels[..., 3] = alpha
    return Image(pixels, image.light, image.opaque)


def over(front: Pixels, back: Pixels) -> Pixels:
    """front + back · (1 − alpha of the front), of premultiplied pixels ``(H, W, 4)``."""
    left = covered(back, np.float32(1.0) - front[..., 3])
    left += front
    return left


def source_over(above: Image, below: Image, opacity: float, spare: bool = False) -> Image:
    """``above`` over ``below``: above + below · (1 − alpha), premultiplied, in encoded colour.

    Args:
        above: the picture in front.
        below: the picture behind, of the same size.
        opacity: of ``above``, 0…1.
        spare: nobody else has the pixels of ``below``; they may be written over.

    Returns:
        One of the two where the other does not show, in the state it has; else an encoded image.

    Source: Porter and Duff 1984, the operator "over"; W3C Compositing and Blending Level 1,
    section 9.1.4, source-over.
    """
    if opacity <= 0.0:
        return below
    if opacity >= 1.0 and above.opaque:
        return above
    back = below.in_light(Light.ENCODED).pixels
    spare = spare or back is not below.pixels
    mixture = _encoded_over(above, back, np.float32(opacity), spare)
    return Image(mixture, Light.ENCODED, below.opaque)


def _encoded_over(above: Image, back: Pixels, opacity: np.float32, spare: bool) -> Pixels:
    compiled = passes()
    if compiled is None:
        front = above.in_light(Light.ENCODED).pixels
        mixture = in_bands(over, front if opacity >= 1.0 else front * opacity, back)
        if not spare:
            return mixture
        # As the compiled pass does, so that nothing hangs on which of them it is.
        np.copyto(back, mixture)
        return back
    back = np.ascontiguousarray(back)
    if above.light is Light.LINEAR and above.levels is None:
        front, result = np.ascontiguousarray(above.pixels), np.empty(back.shape, np.float32)
        if compiled.encode_over(front, opacity, back, result):
            return result
    front = np.ascontiguousarray(above.in_light(Light.ENCODED).pixels)
    if spare:
        compiled.lay_over(front, opacity, back)
        return back
    result = np.empty(back.shape, np.float32)
    compiled.over(front, opacity, back, result)
    return result
