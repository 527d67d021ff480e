"""Torn paper: the picture is a printed sheet that is torn in two and pulled away."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.families.texture import lattice_noise
from wrinkle.core.effects.sampling import Field
from wrinkle.core.motion.declaring import number, seed
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.ramps import eased, narrow, wandering

_TORN_BY, _PULLED_FROM, _GONE_BY = 0.6, 0.6, 0.97
"""The parts of the time in which the tear runs down, and in which both halves are pulled away."""
_LATER = 0.09
"""By how much the second half follows."""
_TINT = (1.0, 0.985, 0.95)
_PULLS = 26.0
"""The hand tears in pulls: so fast they follow each other."""
_FRINGE = 0.006
"""How ragged the torn rim of the white core is, of the short side."""

Rows = NDArray[np.float32]
"""A value for each row of the picture, ``(H, 1)``."""


class _Half(NamedTuple):
    """One half of the sheet.

    Attributes:
        away: how far each place is within what is seen of it, in short sides, ``(H, W)``.
        flap: how wide its back is that has rolled over, ``(H, 1)``.
        fringe: by how much the rim of that is ragged, ``(H, 1)``.
        right, down: how far it is moved, in short sides; ``right`` is ``(H, 1)``.
    """

    away: Field
    flap: Rows
    fringe: Rows
    right: Rows
    down: float


def torn_paper(image: Image, values: Values, scene: Scene) -> Image:
    """What is left of a sheet that is torn from the top and pulled apart; at 100 % nothing."""
    share = values.number("torn") / 100.0
    if share >= 1.0:
        return Image(np.zeros_like(image.pixels), image.light)
    short = min(scene.width, scene.height)
    height, width = image.pixels.shape[:2]
    x0, y0 = scene.middle
    x = ((np.arange(width) + 0.5 - x0) / short).astype(np.float32)[None, :]
    y = ((np.arange(height) + 0.5 - y0) / short).astype(np.float32)[:, None]
    left, right = (_half(values, scene, share, x, y, side) for side in (-1.0, 1.0))
    right_seen, left_seen = (
        np.clip(half.away * np.float32(short) + np.float32(0.5), 0.0, 1.0) for half in (right, left)
    )
    on_right = right_seen > left_seen
    # Where nothing is torn yet, both make up the whole.
    sheet = np.minimum(right_seen + left_seen, np.float32(1.0))
    back, light, shade = _back(values, left, right, on_right, short)
    back = (back * sheet).astype(np.float32)
    columns = np.where(on_right, right.right, left.right) * np.float32(-short)
    rows = np.where(on_right, np.float32(right.down), np.float32(left.down)) * np.float32(-short)
    columns += np.arange(width, dtype=np.float32)[None, :]
    rows += np.arange(height, dtype=np.float32)[:, None]
    printed = cv2.remap(
        image.pixels, columns, rows, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REFLECT_101
    )
    front = (sheet - back) * shade
    fibres = _fibres(image.size, scene.unit, round(values.number("seed")))
    paper = back * light * fibres * np.float32(values.number("white") / 100.0)
    if not image.opaque:
        paper *= printed[..., 3]
        sheet = sheet * printed[..., 3]
    shadow = _shadow(values, left, right, share) * (np.float32(1.0) - sheet)
    planes = [
        cv2.multiply(own, front) + paper * np.float32(tint)
        for own, tint in zip(cv2.split(printed)[:3], _TINT, strict=True)
    ]
    # The halves that are still there at the end go as what is at the very rim does.
    fade = np.float32(1.0 - eased(_GONE_BY, 1.0, share))
    alpha = sheet + (shadow * image.pixels[..., 3] if not image.opaque else shadow)
    return Image(cv2.merge([*planes, alpha]) * fade, image.light)


def _half(values: Values, scene: Scene, share: float, x: Field, y: Rows, side: float) -> _Half:
    """Where one half of the sheet is.

    Args:
        x, y: the places, in short sides from the middle of the frame.
        side: 1 for the right one, -1 for the left one.
    """
    short = min(scene.width, scene.height)
    tall, wide = scene.height / short / 2.0, scene.width / short / 2.0
    chosen = round(values.number("seed"))
    dice = np.random.default_rng((chosen, 3))
    first = 1.0 if dice.random() < 0.5 else -1.0
    begun = _PULLED_FROM + (0.0 if side == first else _LATER)
    pull = min(max((share - begun) / (_GONE_BY - begun), 0.0), 1.0) ** 1.8
    down = (0.1 if side == first else 0.22) * pull
    on_sheet = y - np.float32(down)
    run = min(share / _TORN_BY, 1.0)
    hand = 0.03 * math.sin(run * _PULLS) * max(0.0, min(1.0, 6.0 * run, 4.0 - 4.0 * run))
    ran = 0.5 * run + 0.5 * eased(0.0, 1.0, run)
    tip = -tall - 0.06 + (2.0 * tall + 0.4) * ran + hand * min(1.0, 6.0 * run)
    since = np.maximum(np.float32(tip) - on_sheet, 0.0)
    course, rough = _course(values, chosen, on_sheet)
    tilt = values.number("tilt") / 100.0
    far = wide + abs(tilt) * tall + 0.24
    opening = 0.1 * since**1.25 * (1.15 if side == first else 0.85) + pull * far * (
        1.0 + 0.1 * (1.0 - on_sheet / tall)
    )
    uneven = 1.0 + 0.35 * _wander(on_sheet * 2.4, chosen, 50 + int(side))
    widest = values.number("curl") / 100.0 * (1.0 if side == first else 0.7)
    flap = np.minimum(0.34 * since**1.1, widest) * uneven * np.minimum(since * 12.0, 1.0)
    torn = np.minimum(since * 40.0, 1.0)
    # The fold is smoother than the rim: paper bends in straight lines.
    edge = course + rough * torn * np.float32(0.3)
    away = np.float32(side) * (x - edge) - opening - flap
    fringe = np.float32(side) * rough * np.float32(0.7) + _FRINGE * _wander(
        on_sheet * 90.0, chosen, 70 + int(side)
    )
    return _Half(
        away.astype(np.float32),
        flap.astype(np.float32),
        (fringe * torn).astype(np.float32),
        (np.float32(side) * opening).astype(np.float32),
        down,
    )


def _course(values: Values, chosen: int, y: Rows) -> tuple[Rows, Rows]:
    """Where the tear runs at rows of the sheet, and how rough it is about that, ``(H, 1)`` each."""
    course = values.number("tilt") / 100.0 * y + 0.075 * _wander(y * 1.1, chosen, 20)
    rough = np.zeros_like(y)
    size, pace = 0.034 * values.number("rough") / 100.0, 3.0
    for octave in range(6):
        rough += np.float32(size) * _wander(y * pace, chosen, 30 + octave)
        size, pace = size * 0.52, pace * 2.2
    return course.astype(np.float32), rough.astype(np.float32)


def _wander(at: Rows, chosen: int, which: int) -> Rows:
    """Smooth chance along a line, about -1…1, one knot for each whole number."""
    knots = np.random.default_rng((chosen, which)).uniform(-1.0, 1.0, 512)
    return narrow(wandering(knots, at))


def _back(
    values: Values, left: _Half, right: _Half, on_right: NDArray[np.bool_], short: float
) -> tuple[Field, Field, Field]:
    """How much of each place is the white back, how light that is, and what it shades of the front.

    Light comes from the upper left: what bends towards the right lies in its own shade.
    """
    away = np.where(on_right, right.away, left.away)
    flap = np.where(on_right, right.flap, left.flap)
    fringe = np.where(on_right, right.fringe, left.fringe)
    width = values.number("rim") / 100.0 * 0.012
    # Even where nothing has rolled yet, the white core is seen beside the print.
    rolled = (flap > 1e-5).astype(np.float32)
    rim = (flap + np.float32(width)) * rolled + fringe
    back = np.clip((rim - away) * np.float32(short / 1.5) + np.float32(0.5), 0.0, 1.0) * rolled
    along = np.clip(away / np.maximum(flap, 1e-4), 0.0, 1.0)
    bend = np.sqrt(np.clip(along * (2.0 - along), 0.0, 1.0))
    lit = np.where(on_right, np.float32(0.42), np.float32(0.66))
    light = lit + (np.float32(1.0) - lit) * bend - np.float32(0.1) * along * along
    beyond = np.maximum(away - rim, 0.0)
    dark = np.float32(values.number("shadow") / 100.0 * 0.5) * np.minimum(flap * 12.0, 1.0)
    shade = np.float32(1.0) - dark * np.exp(beyond * np.float32(-1.0 / 0.028))
    return back.astype(np.float32), light.astype(np.float32), shade.astype(np.float32)


@lru_cache(maxsize=2)
def _fibres(size: Size, unit: float, chosen: int) -> Field:
    """How light unprinted paper is from place to place, about 1."""
    dice = np.random.default_rng((chosen, 90))
    cell = max(0.22 * unit, 0.3)
    found = np.ones((size.height, size.width), np.float32)
    for across, down, share in ((7.0, 1.2, 0.02), (1.2, 7.0, 0.02), (12.0, 12.0, 0.025)):
        found += np.float32(share) * lattice_noise(
            size, (across * cell, down * cell), dice, soft=True
        )
    return found


def _shadow(values: Values, left: _Half, right: _Half, share: float) -> Field:
    """What both halves shade of what lies below them, 0…1."""
    dark = values.number("shadow") / 100.0
    reach = 0.03 + 0.05 * share
    # The one on the right throws it to the left less far than the left one to the right.
    near = np.maximum(
        np.exp(np.minimum(left.away, 0.0) * np.float32(1.0 / reach)),
        np.exp(np.minimum(right.away, 0.0) * np.float32(1.6 / reach)) * np.float32(0.75),
    )
    opened = np.minimum((left.flap + right.flap) * np.float32(14.0), 1.0)
    found: Field = near * np.float32(0.72 * min(dark, 1.3)) * opened
    return np.minimum(found, 1.0)


EFFECTS = (
    Effect(
        "torn_paper",
        "Torn paper",
        "The picture is a printed sheet that is torn down and pulled away in two halves.",
        Family.BREAK,
        Light.LINEAR,
        (
            number("torn", "Torn", "How far; 0 is the whole sheet, 100 nothing of it.", 0.0, 0.0,
                   100.0),
            number("tilt", "Tilt", "How far the tear leans.", 12.0, -100.0, 100.0,
                   mirror=Mirroring.TURN),
            number("rough", "Rough", "How far the tear strays.", 100.0, 0.0, 400.0),
            number("rim", "Rim", "How much of the white core is seen.", 100.0, 0.0, 400.0),
            number("curl", "Curl", "How far the torn edge rolls over, of the short side.", 11.0,
                   0.0, 50.0),
            number("white", "White", "How light the paper is.", 84.0, 0.0, 100.0),
            number("shadow", "Shadow", "How dark what rolls over and what lies on top shade.",
                   100.0, 0.0, 200.0),
            seed(),
        ),
        torn_paper,
        rests_by=("torn",),
        starts_with={"torn": 48.0},
        ends_with={"torn": 100.0},
        words="tear rip sheet collage",
    ),
)  # fmt: skip
