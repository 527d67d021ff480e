"""Paint: strokes of a brush lay the picture on, wet at first."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.sampling import Field
from wrinkle.core.motion.declaring import angle, choice, number, seed
from wrinkle.core.motion.setting_spec import Unit
from wrinkle.core.picture.brushwork import WAY, BrushStroke, Brushwork, strokes
from wrinkle.core.picture.image import Image, Light
from wrinkle.core.picture.ramps import eased, least_jerk
from wrinkle.core.picture.relief import facing

_HAND_AWAY = 0.87
"""The share of the whole after which the last stroke is drawn and only gaps are left."""
_OVERLAP = 1.1
_SHARP = 3.2
"""Of the edge of paint, in coverage for one of load."""
_GRID = 24
"""Cells on a side of the small pictures from which colours are taken."""
_PURER = 1.7
"""Common practice: paint is purer than what is photographed."""
Colours = NDArray[np.float32]


def paint_strokes(image: Image, values: Values, scene: Scene) -> Image:
    """The picture as far as it is painted: at 0 % nothing, at 100 % all of it."""
    share = values.number("painted") / 100.0
    if share <= 0.0:
        return Image(np.zeros_like(image.pixels), image.light)
    work = Brushwork(
        image.size,
        scene.middle,
        (scene.width, scene.height),
        max(round(values.number("strokes")), 1),
        values.number("angle"),
        values.number("curve") / 100.0,
        values.number("bristles"),
        values.number("dry") / 100.0,
        round(values.number("seed")),
    )
    drawn = strokes(work)
    canvas = _Canvas(image, values, scene, share)
    for number_, stroke in enumerate(drawn):
        canvas.draw(stroke, number_, len(drawn))
    return canvas.picture(work.ways)


class _Canvas:
    """What is painted so far: how much of the picture, and the wet paint over it."""

    def __init__(self, image: Image, values: Values, scene: Scene, share: float) -> None:
        self._image, self._values, self._share = image, values, share
        shape = image.pixels.shape[:2]
        self._coverage, self._height = np.zeros(shape, np.float32), np.zeros(shape, np.float32)
        # Red, green, blue, and how much of it: planes of their own take half the time.
        self._paint = [np.zeros(shape, np.float32) for _ in range(4)]
        self._wet_rows = [shape[0], 0]
        self._short = 100.0 * scene.unit
        late = min(max((share - 0.66) / 0.33, 0.0), 1.0)
        self._growth = 1.1 * late**1.4 + 1.6 * late**4 + 5.0 * late**14
        self._wet = values.number("wet") / 100.0 * (1.0 - eased(0.89, 0.99, share))
        self._settling = max(values.number("settle") / 100.0, 1e-3)
        self._here = _small(image)
        below = scene.other
        self._below = self._here if below is None else _small(below.in_light(Light.LINEAR))

    def draw(self, stroke: BrushStroke, number_: int, count: int) -> None:
        """One more stroke, as far as the hand has come."""
        lasts = _HAND_AWAY / count * _OVERLAP
        begins = number_ * (_HAND_AWAY - lasts) / max(count - 1, 1)
        passed = (self._share - begins) / lasts
        if passed <= 0.0:
            return
        filled = 0.5 * min(max((passed - 1.0) * 0.4, 0.0), 1.4) + self._growth
        level = cv2.add(stroke.load, filled)
        if passed < 1.0:
            front = least_jerk(passed) * WAY
            level = cv2.min(level, cv2.addWeighted(stroke.along, -22.0, stroke.along, 0.0,
                                                   22.0 * front))  # fmt: skip
        covered = cv2.addWeighted(level, _SHARP, level, 0.0, 0.5)
        np.clip(covered, 0.0, 1.0, out=covered)
        part = self._coverage[stroke.rows]
        part += covered - covered * part
        pace = lasts / self._settling
        # When the brush passed long ago, nothing of its paint is left to be seen.
        wetting = self._wet > 0.0 and 3.0 + pace - passed * pace > 0.0
        if not wetting and not self._overlaps(stroke.rows):
            return
        height = self._height[stroke.rows]
        cv2.accumulateProduct(cv2.subtract(stroke.thick, height), covered, height)
        kept = cv2.subtract(1.0, covered)
        *under, amount = (plane[stroke.rows] for plane in self._paint)
        for plane in (*under, amount):
            plane *= kept
        if not wetting:
            return
        wet = cv2.addWeighted(stroke.passed, pace, stroke.settles, 0.8, 1.9 - passed * pace)
        np.clip(wet, 0.0, 1.0, out=wet)
        wet *= covered
        wet *= np.float32(self._wet)
        amount += wet
        colours = np.transpose(self._colours(stroke, number_)).tolist()
        for plane, (first, second, third) in zip(under, colours, strict=True):
            colour = cv2.addWeighted(stroke.mix, second - first, stroke.mix, 0.0, first)
            away = cv2.addWeighted(colour, -1.0, colour, 0.0, third)
            cv2.accumulateProduct(away, stroke.mix_2, colour)
            cv2.accumulateProduct(colour, wet, plane)
        first_row, end = self._wet_rows
        self._wet_rows = [min(first_row, stroke.rows.start), max(end, stroke.rows.stop)]

    def _overlaps(self, rows: slice) -> bool:
        return bool(rows.start < self._wet_rows[1] and rows.stop > self._wet_rows[0])

    def _colours(self, stroke: BrushStroke, number_: int) -> Colours:
        """Three linear colours ``(3, 3)``: of both clips in turn, and of its own."""
        begins, middle, ends = stroke.middle_line
        turns = (
            ((self._here, begins), (self._here, ends), (self._below, middle)),
            ((self._below, begins), (self._here, middle), (self._below, ends)),
        )
        found = np.array([_pure(*one) for one in turns[number_ % 2]], np.float32)
        own = [self._values.colour(key) for key in ("colour", "colour_2", "colour_3")]
        own = own[number_ % 3 :] + own[: number_ % 3]
        share = np.float32(self._values.number("own") / 100.0)
        mixed: Colours = found + (np.array(own, np.float32) - found) * share
        return mixed

    def picture(self, ways: tuple[float, float]) -> Image:
        """The picture where it is painted, with wet paint and its relief over it.

        Args:
            ways: 1 where light comes from the left, and from above, else -1.
        """
        coverage = self._coverage
        *planes, alpha = (cv2.multiply(x, coverage) for x in cv2.split(self._image.pixels))
        first, end = self._wet_rows
        if end > first:
            self._shine(planes, slice(max(first - 2, 0), end + 2), ways)
        return Image(cv2.merge([*planes, alpha]), self._image.light)

    def _shine(self, planes: list[Field], rows: slice, ways: tuple[float, float]) -> None:
        """Lays the wet paint of some rows over the picture, into its planes."""
        wet = self._paint[3][rows]
        gloss = self._values.number("gloss") / 100.0
        slope = facing(self._height[rows], self._short, 2.8, ways)
        shine = cv2.addWeighted(slope, 1.6, slope, 0.0, -0.42)
        np.clip(shine, 0.0, 1.0, out=shine)
        shine *= shine
        shine *= wet
        np.clip(slope, -0.5, 0.36, out=slope)
        shade = cv2.multiply(slope, wet, scale=1.2 * gloss)
        # Relief is seen while paint is wet; paint lies only where the picture is.
        dried = cv2.multiply(cv2.subtract(1.0, wet), cv2.addWeighted(shade, 0.5, shade, 0.0, 1.0))
        shade += np.float32(1.0)
        for own, paint in zip(planes, self._paint, strict=False):
            over = cv2.multiply(paint[rows], shade)
            over = cv2.addWeighted(over, 1.0, shine, 0.6 * gloss, 0.0)
            part = own[rows]
            cv2.multiply(part, dried, part)
            if not self._image.opaque:
                over = cv2.multiply(over, self._image.pixels[rows, :, 3].copy())
            cv2.add(part, over, part)


def _small(image: Image) -> Field:
    """The colours of a picture in a few cells, ``(24, 24, 3)``, linear and within 0…1."""
    small = cv2.resize(image.pixels, (_GRID, _GRID), interpolation=cv2.INTER_AREA)
    colours: Field = small[..., :3] / np.maximum(small[..., 3:], np.float32(1e-3))
    return np.clip(colours, 0.0, 1.0)


def _pure(small: Field, spot: tuple[float, float]) -> Field:
    """The purest colour about a spot: a mean, so that it changes as slowly as the clip does."""
    x, y = (min(max(place, 0.0), 1.0) * _GRID for place in spot)
    places = np.arange(_GRID, dtype=np.float32) + np.float32(0.5)
    near = np.exp(-(((places - x)[None, :] ** 2 + (places - y)[:, None] ** 2) / (2.0 * 5.0**2)))
    most, least = small.max(axis=-1), small.min(axis=-1)
    weight = near * ((most - least) ** 2 + np.float32(1e-4))
    mean = (small * weight[..., None]).sum(axis=(0, 1)) / weight.sum()
    grey = mean.mean()
    pure = np.clip(grey + (mean - grey) * np.float32(_PURER), 0.0, 1.0)
    # Paint is seldom as dark as a shadow or as light as a sky.
    level = pure.mean()
    held: Field = pure * np.float32(min(max(level, 0.05), 0.5) / max(level, 1e-4))
    return np.clip(held, 0.0, 1.0)


EFFECTS = (
    Effect(
        "paint_strokes",
        "Paint strokes",
        "Strokes of a wide brush lay the picture on, in wet paint that settles into it.",
        Family.REVEAL,
        Light.LINEAR,
        (
            number("painted", "Painted", "How much; 0 is nothing, 100 all of it.", 100.0,
                   0.0, 100.0),
            number("strokes", "Strokes", "How many cover the frame.", 4.0, 1.0, 9.0, Unit.NONE),
            angle("angle", "Direction", "Of the first stroke; each other one runs back."),
            number("curve", "Curve", "How far the arm bends them.", 80.0, 0.0, 150.0),
            number("bristles", "Bristles", "Across half a stroke.", 34.0, 8.0, 80.0, Unit.NONE),
            number("dry", "Dry", "How soon a stroke runs out of paint.", 80.0, 0.0, 150.0),
            number("wet", "Wet", "How much of the paint's own colour is seen.", 100.0, 0.0, 100.0),
            number("settle", "Settle", "How long until it is the picture, of the whole time.",
                   10.0, 1.0, 60.0),
            number("gloss", "Gloss", "Light on the relief of wet paint.", 100.0, 0.0, 200.0),
            number("own", "Own colours", "Instead of colours from both clips.", 0.0, 0.0, 100.0),
            choice("colour", "Colour", "Of its own.", (0.62, 0.12, 0.05)),
            choice("colour_2", "Second colour", "Of its own.", (0.85, 0.5, 0.12)),
            choice("colour_3", "Third colour", "Of its own.", (0.06, 0.2, 0.34)),
            seed(),
        ),
        paint_strokes,
        rests_by=("painted",),
        starts_with={"painted": 55.0, "angle": 14.0},
        ends_with={"painted": 0.0},
        palette=("colour", "colour_2", "colour_3"),
        sees_below=True,
        words="brush bristle oil acrylic wipe",
    ),
)  # fmt: skip
