"""A page that is turned: it folds over along a line that crosses the picture."""

from __future__ import annotations

import math

import cv2
import numpy as np

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.motion.declaring import angle, number
from wrinkle.core.picture.image import Image, Light

_BEND = 0.3
"""How much lighter a page gets from its fold to its flat back, and how much darker below it."""


def page_turn(image: Image, values: Values, scene: Scene) -> Image:
    """What is left of a page that is turned over; at 100 % nothing.

    The fold runs across, from the corner to which the angle's arrow points back to the other one;
    what lies beyond it is turned over, and lies on the page like the mirror image of itself.
    """
    share = values.number("turned") / 100.0
    if share >= 1.0:
        return Image(np.zeros_like(image.pixels), image.light)
    degrees = math.radians(values.number("angle"))
    right, down = math.cos(degrees), math.sin(degrees)
    x0, y0 = scene.middle
    short = min(scene.width, scene.height)
    # From the corner that turns first to the one that turns last, along the arrow.
    half = abs(right) * scene.width / 2.0 + abs(down) * scene.height / 2.0
    fold = -half + 2.0 * half * share
    height, width = image.pixels.shape[:2]
    x = (np.arange(width, dtype=np.float32) + np.float32(0.5 - x0))[None, :]
    y = (np.arange(height, dtype=np.float32) + np.float32(0.5 - y0))[:, None]
    away = x * np.float32(right) + y * np.float32(down) - np.float32(fold)
    front = np.clip(away + np.float32(0.5), 0.0, 1.0)
    # The point of the page that lies here face down: the mirror image about the fold.
    mirrored_x = x - np.float32(2.0 * right) * away
    mirrored_y = y - np.float32(2.0 * down) * away
    wide, high = np.float32(scene.width / 2.0), np.float32(scene.height / 2.0)
    inside = np.minimum(wide - np.abs(mirrored_x), high - np.abs(mirrored_y))
    back = np.clip(inside + np.float32(0.5), 0.0, 1.0) * front
    reach = np.float32(values.number("bend") / 100.0 * short)
    round_ = np.clip(away / max(float(reach), 1.0), 0.0, 1.0)
    light = np.float32(1.0 - _BEND) + np.float32(_BEND) * np.sqrt(round_ * (2.0 - round_))
    through = np.float32(values.number("print_through") / 100.0)
    turned_print = cv2.remap(
        image.pixels,
        mirrored_x + np.float32(x0 - 0.5),
        mirrored_y + np.float32(y0 - 0.5),
        cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_REFLECT_101,
    )
    white = np.float32(values.number("white") / 100.0)
    dark = values.number("shadow") / 100.0
    # What is turned over throws its shadow on the page, and what is left of that on what is below.
    beside = np.maximum(-inside, 0.0) * (away > 0.0)
    near = np.float32(0.05 * short)
    shade = np.float32(1.0) - np.float32(0.5 * dark) * np.exp(-beside / near) * (
        np.float32(1.0) - back
    ) * (away > 0.0)
    below = np.exp(np.minimum(away, 0.0) / np.float32(0.09 * short)) * np.float32(
        min(0.75 * dark, 1.0)
    )
    shown = (front - back) * shade
    planes = []
    for own, mirrored in zip(cv2.split(image.pixels)[:3], cv2.split(turned_print)[:3], strict=True):
        paper = (white + through * (mirrored - white)) * light * back
        if not image.opaque:
            paper = paper * turned_print[..., 3]
        planes.append((own * shown + paper).astype(np.float32))
    alpha = image.pixels[..., 3] * (front - back) + turned_print[..., 3] * back
    begun = np.float32(min(share * 12.0, 1.0) * min((1.0 - share) * 12.0, 1.0))
    left = below * begun * (np.float32(1.0) - front)
    alpha = alpha + (left if image.opaque else left * image.pixels[..., 3])
    return Image(cv2.merge([*planes, np.minimum(alpha, 1.0).astype(np.float32)]), image.light)


EFFECTS = (
    Effect(
        "page_turn",
        "Page turn",
        "The picture is a page that folds over along a line and is turned.",
        Family.BREAK,
        Light.LINEAR,
        (
            number("turned", "Turned", "How far; 0 is the whole page, 100 nothing of it.", 0.0,
                   0.0, 100.0),
            angle("angle", "Angle", "Where the fold goes, clockwise from the level."),
            number("bend", "Bend", "How round the fold is, of the short side.", 22.0, 0.0, 200.0),
            number("white", "White", "How light its back is.", 80.0, 0.0, 100.0),
            number("print_through", "Print-through", "How much of the picture its back shows.",
                   16.0, 0.0, 100.0),
            number("shadow", "Shadow", "How dark it shades.", 100.0, 0.0, 200.0),
        ),
        page_turn,
        rests_by=("turned",),
        starts_with={"turned": 45.0, "angle": -150.0},
        ends_with={"turned": 100.0},
        words="fold curl book leaf paper",
    ),
)  # fmt: skip
