"""Contour smear: the picture blurred along its own edges, as a brush would follow them.

The direction at each pixel is that of the structure tensor (Bigün and Granlund 1987); the mean is
taken along its streamlines (line integral convolution, Cabral and Leedom 1993).
"""

from __future__ import annotations

import math
from dataclasses import replace

import cv2
import numpy as np

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.sampling import Field, blurred, enlarged, halved
from wrinkle.core.motion.declaring import choice, length
from wrinkle.core.picture.channels import luma
from wrinkle.core.picture.edge_cover import BORDERS, EdgeCover
from wrinkle.core.picture.image import Image, Light

_STEP, _STEP_PREVIEW = 2.0, 3.0
_MOST_STEPS, _MOST_STEPS_PREVIEW = 40, 14
_HALVED_FROM = 64
_FACTOR = 2


def contour_smear(image: Image, values: Values, scene: Scene) -> Image:
    """The mean along streamlines of so many pixels, half of them on either side.

    A preview is smeared at half size and in longer steps: along the lines it is smooth anyway.
    """
    if not scene.preview or min(image.size) < _HALVED_FROM:
        return _smeared(image, values, scene)
    smeared = _smeared(halved(image), values, replace(scene, unit=scene.unit / 2.0))
    return enlarged(smeared, image.size)


def _smeared(image: Image, values: Values, scene: Scene) -> Image:
    height, width = image.pixels.shape[:2]
    reach = values.number("length") * scene.unit
    longest, most = (_STEP_PREVIEW, _MOST_STEPS_PREVIEW) if scene.preview else (_STEP, _MOST_STEPS)
    count = min(most, max(1, round(reach / 2.0 / longest)))
    step = reach / 2.0 / count
    along = values.choice("way") == "along"
    flow_x, flow_y = tangents(image, max(values.number("guide") * scene.unit, 0.5), along)
    rows, columns = flow_x.shape
    scale_x, scale_y = width / columns, height / rows
    border = BORDERS[scene.cover]
    total = image.pixels.copy()
    x0 = (np.arange(columns, dtype=np.float32) + np.float32(0.5))[None, :]
    y0 = (np.arange(rows, dtype=np.float32) + np.float32(0.5))[:, None]
    for side in (1.0, -1.0):
        x = np.broadcast_to(x0, (rows, columns)).copy()
        y = np.broadcast_to(y0, (rows, columns)).copy()
        dx, dy = flow_x * np.float32(side), flow_y * np.float32(side)
        for _ in range(count):
            x += dx * np.float32(step / scale_x)
            y += dy * np.float32(step / scale_y)
            near = (x - np.float32(0.5), y - np.float32(0.5))
            next_x = cv2.remap(flow_x, *near, cv2.INTER_NEAREST, borderMode=cv2.BORDER_REPLICATE)
            next_y = cv2.remap(flow_y, *near, cv2.INTER_NEAREST, borderMode=cv2.BORDER_REPLICATE)
            # A direction has no sign of its own: it goes on the way it came.
            turned = np.where(next_x * dx + next_y * dy < 0.0, np.float32(-1.0), np.float32(1.0))
            dx, dy = next_x * turned, next_y * turned
            to_x = cv2.resize(x * np.float32(scale_x), (width, height)) - np.float32(0.5)
            to_y = cv2.resize(y * np.float32(scale_y), (width, height)) - np.float32(0.5)
            one = cv2.remap(image.pixels, to_x, to_y, cv2.INTER_LINEAR, borderMode=border)
            cv2.add(total, one, total)
    mean = total * np.float32(1.0 / (2 * count + 1))
    bare = border == cv2.BORDER_CONSTANT
    return Image(mean, image.light, image.opaque and not bare)


def tangents(image: Image, smoothness: float, along: bool) -> tuple[Field, Field]:
    """The unit direction of the contours at about half size, or the one across them."""
    height, width = image.pixels.shape[:2]
    size = (max(1, math.ceil(width / _FACTOR)), max(1, math.ceil(height / _FACTOR)))
    small = cv2.resize(luma(image.pixels), size, interpolation=cv2.INTER_AREA)
    gx, gy = cv2.Scharr(small, -1, 1, 0), cv2.Scharr(small, -1, 0, 1)
    xx, yy, xy = (
        blurred(a * b, smoothness / _FACTOR, EdgeCover.MIRROR)
        for a, b in ((gx, gx), (gy, gy), (gx, gy))
    )
    angle: Field = np.float32(0.5) * np.arctan2(np.float32(2.0) * xy, xx - yy)
    if along:
        angle = angle + np.float32(math.pi / 2.0)
    return np.cos(angle).astype(np.float32), np.sin(angle).astype(np.float32)


EFFECTS = (
    Effect(
        "contour_smear",
        "Contour smear",
        "Smears along the picture's own edges, as a brush would.",
        Family.BLUR,
        Light.LINEAR,
        (
            length("length", "Length", "Of the smear.", 0.0, 0.0, 60.0),
            choice("way", "Way", "Along the edges, or across them.", "along", "along", "across"),
            length("guide", "Guide", "How smooth the directions are.", 1.5, 0.1, 40.0, 0.1),
        ),
        contour_smear,
        rests_by=("length",),
        starts_with={"length": 8.0},
        words="paint brush oil streak vector",
    ),
)
