"""Vector raster: outlines to coverage and to painted pictures, through Skia."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import Enum
from typing import Any

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.motion.direction import Direction
from wrinkle.core.picture.image import Image, Light, Size, mirrored
from wrinkle.core.picture.paths import Outline, Polyline, knots

Coverage = NDArray[np.float32]
"""float32 ``(H, W)``, 0…1."""


class Cap(Enum):
    """How an open stroke ends (SVG 1.1, stroke-linecap)."""

    BUTT = "butt"
    ROUND = "round"
    SQUARE = "square"


class Join(Enum):
    """How a stroke turns a corner (SVG 1.1, stroke-linejoin)."""

    MITER = "miter"
    ROUND = "round"
    BEVEL = "bevel"


@dataclass(frozen=True)
class Contour:
    """One piece of a drawing.

    Attributes:
        outline: in pixels.
        closed: whether its end meets its start.
    """

    outline: Outline
    closed: bool = True


@dataclass(frozen=True)
class Stroke:
    """How a line is drawn.

    Attributes:
        width: in pixels, above 0.
        colour: linear red, green and blue.
        cap, join: its ends and corners.
        dash: the lengths of a dash and of the gap after it, in pixels; none where the dash is 0.
        start, end: the visible part of its length, 0…1.
    """

    width: float
    colour: tuple[float, ...]
    cap: Cap = Cap.ROUND
    join: Join = Join.ROUND
    dash: tuple[float, float] = (0.0, 0.0)
    start: float = 0.0
    end: float = 1.0


@dataclass(frozen=True)
class Drawing:
    """Contours with fill and stroke.

    Attributes:
        contours: what overlaps an odd number of times is inside (even-odd rule).
        fill: linear colour, or None.
        stroke: the line around, or None; it is drawn over the fill.
        mirrored: what of the picture is exchanged after it was drawn.
    """

    contours: tuple[Contour, ...]
    fill: tuple[float, ...] | None
    stroke: Stroke | None
    mirrored: Direction = Direction.AS_MADE

    def picture(self, size: Size) -> Image:
        """Its picture in a frame of a size."""
        return painted(self, size)


def coverage(shapes: Sequence[Polyline], size: Size, grow: float = 0.0) -> Coverage:
    """How much of each pixel lies inside closed shapes (even-odd), 0…1.

    Args:
        shapes: corners in pixels; edges are anti-aliased.
        size: of the result.
        grow: by how many pixels the edge is moved outward, or inward if negative, along the
            edge's normal with rounded corners.
    """
    import skia

    values = np.zeros((size.height, size.width), np.uint8)
    path = skia.Path()
    path.setFillType(skia.PathFillType.kEvenOdd)
    for corners in shapes:
        path.addPoly([skia.Point(float(x), float(y)) for x, y in corners], True)
    kind = skia.ImageInfo.MakeA8(size.width, size.height)
    canvas = skia.Surface.MakeRasterDirect(kind, values, size.width).getCanvas()
    canvas.drawPath(path, skia.Paint(AntiAlias=True))
    if grow:
        canvas.drawPath(
            path,
            skia.Paint(
                AntiAlias=True,
                Style=skia.Paint.kStroke_Style,
                StrokeWidth=2.0 * abs(grow),
                StrokeJoin=skia.Paint.kRound_Join,
                BlendMode=skia.BlendMode.kSrcOver if grow > 0.0 else skia.BlendMode.kDstOut,
            ),
        )
    return np.multiply(values, np.float32(1.0 / 255.0), dtype=np.float32)


def painted(drawing: Drawing, size: Size) -> Image:
    """A drawing on nothing: a linear image."""
    import skia

    path = skia.Path()
    path.setFillType(skia.PathFillType.kEvenOdd)
    for contour in drawing.contours:
        trace(path, contour)
    pixels = np.zeros((size.height, size.width, 4), np.float32)
    canvas = canvas_on(pixels)
    if drawing.fill is not None:
        canvas.drawPath(path, colour_paint(drawing.fill))
    stroke = drawing.stroke
    if stroke is not None and stroke.width > 0.0 and stroke.end > stroke.start:
        canvas.drawPath(path, stroke_paint(stroke))
    return mirrored(Image(pixels, Light.LINEAR), drawing.mirrored)


def trace(path: Any, contour: Contour) -> None:
    """Adds a contour to a Skia path."""
    points = knots(contour.outline)
    path.moveTo(points[0].x, points[0].y)
    following = [*points[1:], points[0]] if contour.closed else points[1:]
    for start, end in zip(points, following, strict=False):
        path.cubicTo(
            start.x + start.out_x,
            start.y + start.out_y,
            end.x + end.in_x,
            end.y + end.in_y,
            end.x,
            end.y,
        )
    if contour.closed:
        path.close()


def stroke_paint(stroke: Stroke) -> Any:
    """The Skia paint of a stroke; with a visible part before the dashes."""
    import skia

    paint = colour_paint(stroke.colour)
    paint.setStyle(skia.Paint.kStroke_Style)
    paint.setStrokeWidth(stroke.width)
    paint.setStrokeCap(getattr(skia.Paint, f"k{stroke.cap.value.title()}_Cap"))
    paint.setStrokeJoin(getattr(skia.Paint, f"k{stroke.join.value.title()}_Join"))
    effect = None
    if stroke.dash[0] > 0.0:
        effect = skia.DashPathEffect.Make([stroke.dash[0], max(stroke.dash[1], 0.01)], 0.0)
    if (stroke.start, stroke.end) != (0.0, 1.0):
        part = skia.TrimPathEffect.Make(max(stroke.start, 0.0), min(stroke.end, 1.0))
        effect = part if effect is None else skia.PathEffect.MakeCompose(effect, part)
    if effect is not None:
        paint.setPathEffect(effect)
    return paint


def canvas_on(pixels: NDArray[np.float32]) -> Any:
    """A Skia canvas that draws linear colours into float32 ``(H, W, 4)`` premultiplied pixels."""
    import skia

    height, width = pixels.shape[:2]
    # Without a colour space Skia takes the numbers as they are: linear in, linear out.
    kind = skia.ImageInfo.Make(
        width, height, skia.ColorType.kRGBA_F32_ColorType, skia.AlphaType.kPremul_AlphaType, None
    )
    return skia.Surface.MakeRasterDirect(kind, pixels, width * 16).getCanvas()


def colour_paint(colour: Sequence[float], opacity: float = 1.0) -> Any:
    """The Skia paint that fills with a linear colour."""
    import skia

    red, green, blue = (float(part) for part in colour)
    paint = skia.Paint(skia.Color4f(red, green, blue, opacity))
    paint.setAntiAlias(True)
    return paint
