"""A picture between two that follow each other, along the motion from one to the other.

Dense flow both ways by Kroeger and others, "Fast Optical Flow using Dense Inverse Search" (2016),
as OpenCV has it. Where both ways do not agree, or the colours do not, flow is guessing: there the
two pictures are mixed as they are.
"""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.compositing import covered, mixed
from wrinkle.core.picture.image import Bytes8, Image, Light
from wrinkle.core.picture.ramps import smoothstep

Field = NDArray[np.float32]

_ROWS = 288
"""In which motion is looked for: more find no more of it."""
_APART, _APART_OF = 0.4, 0.01
"""Squared pixels by which both ways may differ, and the share of their own squares that they may.
Sundaram, Brox and Keutzer, "Dense Point Trajectories by GPU-accelerated Large Displacement Optical
Flow" (2010)."""
_LEAST_SIDE = 32
"""Pixels; in a smaller picture there is no motion to look for."""
_UNLIKE = 18.0
"""Levels by which what is at both ends of a way may differ."""


def plain_between(before: Image, after: Image, share: float) -> Image:
    """Both pictures mixed as light, at a share 0…1 of the time from one to the other; linear."""
    first, last = (x.in_light(Light.LINEAR) for x in (before, after))
    pixels = cv2.addWeighted(first.pixels, 1.0 - share, last.pixels, share, 0.0)
    return Image(pixels, Light.LINEAR, first.opaque and last.opaque)


def in_between(before: Image, after: Image, share: float) -> Image:
    """The picture at a share 0…1 of the way from one to the other, of the same size; linear."""
    plain = plain_between(before, after, share)
    width, height = plain.size
    if min(height, width) < _LEAST_SIDE:
        return plain
    first, last = (x.in_light(Light.LINEAR) for x in (before, after))
    there, back, sure = _flows(before, after)
    scale = np.array([width / there.shape[1], height / there.shape[0]], np.float32)
    to_first, to_last = (
        cv2.resize(way * (scale * np.float32(part)), (width, height))
        for way, part in ((there, -share), (back, share - 1.0))
    )
    moved = cv2.addWeighted(
        _read(first.pixels, to_first), 1.0 - share, _read(last.pixels, to_last), share, 0.0
    )
    trusted = cv2.resize(sure, (width, height), interpolation=cv2.INTER_LINEAR)
    # What is sure is taken along its way, all else as a plain mix.
    kept = covered(moved, trusted)
    return Image(mixed(kept, 1.0, plain.pixels, trusted), Light.LINEAR, plain.opaque)


def _flows(before: Image, after: Image) -> tuple[Field, Field, Field]:
    """The way of each place there and back ``(h, w, 2)``, and how sure that is, 0…1."""
    width, height = before.size
    rows = min(_ROWS, height)
    small = (max(round(width * rows / height), 16), max(rows, 16))
    one, other = (_grey(x, small) for x in (before, after))
    flow = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_FAST)
    there, back = flow.calc(one, other, None), flow.calc(other, one, None)
    returned = there + _read(back, there)
    squares = (there * there).sum(axis=2) + (back * back).sum(axis=2)
    apart = (returned * returned).sum(axis=2) / (_APART_OF * squares + _APART)
    arrived = _read(other, there).astype(np.float32)
    unlike = np.abs(arrived - one.astype(np.float32)) / np.float32(_UNLIKE)
    sure = smoothstep(2.0 - apart) * smoothstep(2.0 - unlike)
    # Beside what is unsure it is unsure too, and it fades.
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (5, 5))
    soft: Field = cv2.GaussianBlur(cv2.erode(sure, kernel), (0, 0), 2.0)
    return there, back, soft


def _grey(image: Image, size: tuple[int, int]) -> Bytes8:
    pixels = cv2.resize(image.pixels, size, interpolation=cv2.INTER_AREA)
    small = Image(pixels, image.light, image.opaque).to_bytes8()
    return np.asarray(cv2.cvtColor(small[..., :3], cv2.COLOR_RGB2GRAY), np.uint8)


def _read(picture: NDArray[np.generic], way: Field) -> Field:
    """What stands where a way leads from each place."""
    height, width = way.shape[:2]
    x = way[..., 0] + np.arange(width, dtype=np.float32)[None, :]
    y = way[..., 1] + np.arange(height, dtype=np.float32)[:, None]
    found: Field = cv2.remap(picture, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REFLECT_101)
    return found
