"""What the demo's scenes are painted with: washes, cloth, noise, kites, silhouettes.

All coordinates are those of a 1080 by 1920 frame; the canvas is scaled to the size that is drawn.
"""

from __future__ import annotations

import math
import random
from collections.abc import Iterable, Sequence
from functools import lru_cache
from itertools import pairwise

import skia

WIDTH, HEIGHT = 1080, 1920
Point = tuple[float, float]


def colour(code: str, alpha: float = 1.0) -> int:
    """The colour of ``#rrggbb`` with an alpha of 0…1."""
    red, green, blue = (int(code[i : i + 2], 16) for i in (1, 3, 5))
    return int(skia.ColorSetARGB(round(alpha * 255), red, green, blue))


def paint(code: str, alpha: float = 1.0, blur: float = 0.0, stroke: float = 0.0) -> skia.Paint:
    """A smooth flat paint; ``stroke`` above 0 draws lines of that width with round ends."""
    result = skia.Paint(Color=colour(code, alpha), AntiAlias=True)
    if blur:
        result.setMaskFilter(skia.MaskFilter.MakeBlur(skia.kNormal_BlurStyle, blur))
    if stroke:
        result.setStyle(skia.Paint.kStroke_Style)
        result.setStrokeWidth(stroke)
        result.setStrokeCap(skia.Paint.kRound_Cap)
        result.setStrokeJoin(skia.Paint.kRound_Join)
    return result


def wash(start: Point, end: Point, codes: Sequence[str], stops: Sequence[float]) -> skia.Paint:
    """A paint that changes along a line."""
    shader = skia.GradientShader.MakeLinear(
        [skia.Point(*start), skia.Point(*end)], [colour(c) for c in codes], list(stops)
    )
    return skia.Paint(Shader=shader, AntiAlias=True)


def glow(centre: Point, radius: float, code: str, alpha: float) -> skia.Paint:
    """A paint that fades from a centre to nothing and adds light."""
    shader = skia.GradientShader.MakeRadial(
        skia.Point(*centre), radius, [colour(code, alpha), colour(code, 0.0)]
    )
    return skia.Paint(Shader=shader, AntiAlias=True, BlendMode=skia.BlendMode.kScreen)


def backdrop(canvas: skia.Canvas, codes: Sequence[str], stops: Sequence[float]) -> None:
    """Fills the frame from top to bottom."""
    canvas.drawRect(frame(), wash((0, 0), (0, HEIGHT), codes, stops))


def frame() -> skia.Rect:
    """The whole frame and some margin for scenes that sway."""
    return skia.Rect(-200, -200, WIDTH + 200, HEIGHT + 200)


def texture(
    canvas: skia.Canvas, area: skia.Rect, grain: Point, alpha: float, seed: int, dark: bool = True
) -> None:
    """Uneven brightness, like paint on paper; ``grain`` is its coarseness across and down."""
    shader = _noise(grain, seed, dark).makeShader(
        skia.TileMode.kMirror, skia.TileMode.kMirror, skia.SamplingOptions(skia.FilterMode.kLinear)
    )
    canvas.drawRect(area, skia.Paint(Shader=shader, Alphaf=alpha, AntiAlias=True))


@lru_cache(maxsize=64)
def _noise(grain: Point, seed: int, dark: bool) -> skia.Image:
    """The noise is worked out once: it costs far more than laying it on each frame."""
    noise = skia.PerlinNoiseShader.MakeFractalNoise(1 / grain[0], 1 / grain[1], 4, float(seed))
    level = 0.0 if dark else 1.0
    to_alpha = [0, 0, 0, 0, level] * 3 + [2.6, 0, 0, 0, -0.95]
    surface = skia.Surface(WIDTH, HEIGHT)
    surface.getCanvas().drawPaint(
        skia.Paint(Shader=noise, ColorFilter=skia.ColorFilters.Matrix(to_alpha))
    )
    return surface.makeImageSnapshot()


def polygon(points: Iterable[Point]) -> skia.Path:
    """A closed path."""
    path = skia.Path()
    path.addPoly([skia.Point(*point) for point in points], True)
    return path


def smooth(points: Sequence[Point]) -> skia.Path:
    """An open curve through the middles between points."""
    path = skia.Path()
    path.moveTo(*points[0])
    for here, there in pairwise(points[1:]):
        path.quadTo(*here, (here[0] + there[0]) / 2, (here[1] + there[1]) / 2)
    path.lineTo(*points[-1])
    return path


def land(top: Sequence[Point]) -> skia.Path:
    """Everything below a curve."""
    path = smooth(top)
    path.lineTo(WIDTH + 300, HEIGHT + 300)
    path.lineTo(-300, HEIGHT + 300)
    path.close()
    return path


def kite(
    canvas: skia.Canvas,
    centre: Point,
    size: float,
    turn: float,
    codes: tuple[str, str, str],
    phase: float,
    haze: float = 0.0,
) -> None:
    """A diamond kite with a cross and a tail of bows; ``haze`` 0…1 fades it into the distance."""
    left, right, line = codes
    alpha = 1.0 - haze
    canvas.save()
    canvas.translate(*centre)
    canvas.rotate(turn)
    canvas.scale(size / 100, size / 100)
    top, bottom, wing = (0, -100), (0, 150), -20
    canvas.drawPath(polygon([top, (-80, wing), bottom]), paint(left, alpha))
    canvas.drawPath(polygon([top, (80, wing), bottom]), paint(right, alpha))
    canvas.drawPath(polygon([top, (80, wing), (0, wing)]), paint(left, alpha * 0.55))
    canvas.drawPath(polygon([(0, wing), (-80, wing), bottom]), paint(right, alpha * 0.35))
    canvas.drawLine(0, -100, 0, 150, paint(line, alpha * 0.7, stroke=3))
    canvas.drawLine(-80, wing, 80, wing, paint(line, alpha * 0.7, stroke=3))
    tail = [
        (math.sin(phase + i * 0.75) * (6 + 5.0 * i), 150 + i * 26 + 4 * math.cos(phase + i))
        for i in range(12)
    ]
    canvas.drawPath(smooth(tail), paint(line, alpha * 0.8, stroke=4))
    for i in range(2, 12, 2):
        x, y = tail[i]
        lean = 14 * math.sin(phase + i)
        canvas.drawPath(
            polygon([(x, y), (x - 20, y - 10 + lean / 3), (x - 20, y + 12 + lean / 3)]),
            paint(left, alpha),
        )
        canvas.drawPath(
            polygon([(x, y), (x + 20, y - 12 - lean / 3), (x + 20, y + 10 - lean / 3)]),
            paint(right, alpha),
        )
    canvas.restore()


def clouds(canvas: skia.Canvas, seed: int, drift: float, code: str, alpha: float) -> None:
    """Soft banks of cloud; ``drift`` moves near ones faster than far ones."""
    dice = random.Random(seed)
    for i in range(9):
        depth = 0.4 + 0.6 * i / 8
        x = (dice.uniform(0, 1700) + drift * depth) % 1700 - 300
        y = dice.uniform(60, 1500)
        size = dice.uniform(60, 150) * depth
        bank = _cloud_bank(seed * 100 + i, size, code, alpha)
        canvas.drawImage(bank, x - bank.width() / 2, y - bank.height() / 2, skia.SamplingOptions())


@lru_cache(maxsize=128)
def _cloud_bank(seed: int, size: float, code: str, alpha: float) -> skia.Image:
    dice = random.Random(seed)
    width, height = int(size * 8), int(size * 4)
    surface = skia.Surface(width, height)
    for _ in range(7):
        x = width / 2 + dice.uniform(-2.2, 2.2) * size
        y = height / 2 + dice.uniform(-0.4, 0.4) * size
        puff = skia.Rect.MakeXYWH(x - size, y - size * 0.42, size * 2 * dice.uniform(0.5, 1), size)
        density = alpha * dice.uniform(0.3, 0.8)
        surface.getCanvas().drawOval(puff, paint(code, density, blur=size * 0.25))
    return surface.makeImageSnapshot()


def person(canvas: skia.Canvas, foot: Point, height: float, code: str, lean: float) -> None:
    """A standing silhouette; ``lean`` bends it and lifts an arm."""
    x, y = foot
    head = height * 0.1
    body = paint(code)
    canvas.drawCircle(x + lean * 0.6, y - height + head, head, body)
    shoulder, hip = (x + lean * 0.5, y - height * 0.76), (x, y - height * 0.42)
    trunk = paint(code, stroke=height * 0.17)
    canvas.drawLine(*shoulder, *hip, trunk)
    legs = paint(code, stroke=height * 0.085)
    canvas.drawLine(*hip, x - height * 0.07, y, legs)
    canvas.drawLine(*hip, x + height * 0.08, y, legs)
    arms = paint(code, stroke=height * 0.06)
    hand = (shoulder[0] + height * 0.26, shoulder[1] - lean * 1.6)
    canvas.drawLine(shoulder[0], shoulder[1], *hand, arms)
    canvas.drawLine(shoulder[0], shoulder[1], shoulder[0] - height * 0.15, hip[1], arms)
