"""Dawn over dunes, the pier with its crowd, the lighthouse at night."""

from __future__ import annotations

import math
import random

import skia

from wrinkle.demo.brushes import (
    HEIGHT,
    WIDTH,
    backdrop,
    clouds,
    frame,
    glow,
    kite,
    land,
    paint,
    person,
    polygon,
    smooth,
    texture,
    wash,
)


def dunes(canvas: skia.Canvas, time: float) -> None:
    """Dawn over dunes; grass moves, small kites far off."""
    backdrop(canvas, ["#7fa6bf", "#f2c9a0", "#f7b27a", "#e98f5e"], [0.0, 0.33, 0.5, 0.62])
    sun = (700.0, 860.0 - 14 * time)
    clouds(canvas, 11, 26 * time, "#fff0dc", 0.5)
    canvas.drawRect(frame(), glow(sun, 900, "#ffd9a0", 0.9))
    canvas.drawCircle(*sun, 92, paint("#fff3d6"))
    for x, y, size, codes in (
        (250, 420, 34, ("#b5442e", "#e7b04a", "#4d3226")),
        (480, 560, 24, ("#2f6f73", "#f0e3c4", "#4d3226")),
        (820, 360, 29, ("#7b3b52", "#e98f5e", "#4d3226")),
    ):
        sway = 30 * math.sin(time * 1.1 + x)
        kite(canvas, (x + sway, y - 22 * time), size, sway / 2, codes, time * 5 + x, haze=0.25)
    canvas.drawRect(skia.Rect(-200, 930, WIDTH + 200, 1120), paint("#5d8a93"))
    _glitter(canvas, 940, 1100, time, "#ffe6bd")
    _dune(canvas, 1050, 46, 0.006, 25 * time, ("#e8b57d", "#b97a4c"), 3)
    _dune(canvas, 1230, 70, 0.0043, 48 * time, ("#dd9c62", "#9a5f3c"), 5)
    _dune(canvas, 1480, 90, 0.0034, 90 * time, ("#c98650", "#6d4230"), 7)
    _grass(canvas, time)


def _dune(
    canvas: skia.Canvas,
    top: float,
    swing: float,
    pace: float,
    drift: float,
    codes: tuple[str, str],
    seed: int,
) -> None:
    ridge = [
        (x, top + swing * math.sin((x + drift) * pace + seed) + 18 * math.sin((x + drift) * 0.013))
        for x in range(-320, WIDTH + 360, 40)
    ]
    path = land(ridge)
    canvas.drawPath(path, wash((200, top - 90), (700, top + 620), codes, [0.0, 1.0]))
    canvas.save()
    canvas.clipPath(path, skia.ClipOp.kIntersect, True)
    canvas.translate(-drift, 0)
    for row in range(26):
        y = top + 26 + row * (13 + seed * 1.3)
        line = [(x, y + 7 * math.sin(x * 0.021 + row * 0.8)) for x in range(-320, 1900, 60)]
        canvas.drawPath(smooth(line), paint(codes[1], 0.22, stroke=3 + seed / 3))
    area = skia.Rect(-320, top - 120, 1900, HEIGHT + 120)
    texture(canvas, area, (7, 5), 0.22, seed)
    canvas.restore()


def _grass(canvas: skia.Canvas, time: float) -> None:
    dice = random.Random(4)
    for i in range(190):
        x = dice.uniform(-60, WIDTH + 60)
        length = dice.uniform(160, 430)
        root = HEIGHT + 40 - dice.uniform(0, 90)
        gust = math.sin(time * 2.6 + x * 0.006) + 0.4 * math.sin(time * 6.1 + i)
        tip = (x + 60 + 70 * gust + dice.uniform(-60, 60), root - length)
        code = dice.choice(["#40331f", "#5d4a24", "#7a6030", "#2c2718"])
        blade = skia.Path()
        blade.moveTo(x - 5, root)
        blade.quadTo(x - 4, root - length * 0.6, *tip)
        blade.quadTo(x + 7, root - length * 0.55, x + 6, root)
        canvas.drawPath(blade, paint(code))


def _glitter(canvas: skia.Canvas, top: float, bottom: float, time: float, code: str) -> None:
    dice = random.Random(9)
    for _ in range(260):
        x, y = dice.uniform(0, WIDTH), dice.uniform(top, bottom)
        shine = math.sin(time * dice.uniform(3, 8) + dice.uniform(0, 6.3))
        if shine > 0.1:
            width = dice.uniform(8, 46) * (0.4 + (y - top) / (bottom - top))
            canvas.drawLine(x, y, x + width, y, paint(code, 0.65 * shine, stroke=3))


def pier(canvas: skia.Canvas, time: float) -> None:
    """A pier at dusk with a crowd of silhouettes and flags."""
    backdrop(canvas, ["#243a5e", "#4e5f86", "#c98a86", "#f0b183"], [0.0, 0.3, 0.5, 0.62])
    clouds(canvas, 21, 34 * time, "#f4c3a4", 0.32)
    kite(
        canvas,
        (300 + 40 * math.sin(time), 380),
        92,
        12 * math.sin(time * 1.3),
        ("#d9503f", "#f3cf7a", "#2a2035"),
        time * 6,
    )
    kite(
        canvas,
        (780, 560 + 30 * math.cos(time * 1.2)),
        60,
        -14 + 9 * math.sin(time * 1.6),
        ("#2d7f83", "#efe3cf", "#2a2035"),
        time * 7,
        0.1,
    )
    canvas.drawRect(
        skia.Rect(-200, 1160, WIDTH + 200, HEIGHT + 200),
        wash((0, 1160), (0, HEIGHT), ["#b07c86", "#3b4a6b", "#182440"], [0.0, 0.35, 1.0]),
    )
    _glitter(canvas, 1170, 1880, time, "#ffd2a8")
    slide = -46 * time
    dark, darker = "#1b1b2e", "#10101f"
    canvas.save()
    canvas.translate(slide, 0)
    for i in range(9):
        x = -80.0 + i * 190
        canvas.drawLine(x, 1390, x - 14, 1760, paint(dark, stroke=22))
        canvas.drawLine(x, 1440, x + 190, 1640, paint(dark, 0.8, stroke=9))
    canvas.drawRect(skia.Rect(-200, 1350, 1700, 1412), paint(dark))
    for i in range(52):
        canvas.drawLine(-200 + i * 36, 1352, -196 + i * 36, 1410, paint("#3a3650", 0.6, stroke=3))
    dice = random.Random(6)
    for i in range(34):
        x = -120.0 + i * 46 + dice.uniform(-12, 12)
        height = dice.uniform(150, 235)
        lean = 12 * math.sin(time * dice.uniform(2, 5) + i)
        person(canvas, (x, 1354), height, dark if i % 2 else darker, lean)
    for i, code in enumerate(("#d9503f", "#f3cf7a", "#2d7f83", "#efe3cf", "#7b3b52")):
        _flag(canvas, 60.0 + i * 300, 1350, code, time + i)
    canvas.restore()
    canvas.drawRect(skia.Rect(-200, 1700, WIDTH + 200, 1725), paint(darker))
    for i in range(7):
        x = -40 + i * 210 - (110 * time) % 210
        canvas.drawLine(x, 1700, x, HEIGHT + 60, paint(darker, stroke=26))
    texture(canvas, frame(), (5, 5), 0.16, 8)


def _flag(canvas: skia.Canvas, x: float, foot: float, code: str, phase: float) -> None:
    top = foot - 560
    canvas.drawLine(x, foot, x, top, paint("#10101f", stroke=9))
    upper = [(x + i * 16, top + 5 + i * 1.2 * math.sin(phase * 7 - i * 0.6)) for i in range(14)]
    lower = [(px, py + 118 - i * 3.4) for i, (px, py) in enumerate(upper)]
    canvas.drawPath(polygon(upper + lower[::-1]), paint(code))
    middle = [(px, py + 46 - i) for i, (px, py) in enumerate(upper)]
    low = [(px, py + 26) for px, py in middle]
    canvas.drawPath(polygon(middle + low[::-1]), paint("#fff6e2", 0.75))
    for i in range(1, 13, 3):
        canvas.drawLine(*upper[i], *lower[i], paint("#10101f", 0.16, stroke=10))


def lighthouse(canvas: skia.Canvas, time: float) -> None:
    """Night; the lamp sweeps, kites with lanterns."""
    backdrop(canvas, ["#070d20", "#12213f", "#24406a", "#35567c"], [0.0, 0.4, 0.62, 0.7])
    dice = random.Random(3)
    for _ in range(240):
        x, y = dice.uniform(0, WIDTH), dice.uniform(0, 1200)
        twinkle = 0.5 + 0.5 * math.sin(time * dice.uniform(1, 5) + dice.uniform(0, 6))
        canvas.drawCircle(x, y, dice.uniform(0.8, 2.6), paint("#eef4ff", 0.25 + 0.6 * twinkle))
    lamp = (400.0, 690.0)
    turn = time * 96.0
    for offset in (0.0, 180.0):
        angle = math.radians(turn + offset)
        reach = 1500 * math.cos(angle)
        width = 60 + 260 * abs(math.sin(angle))
        beam = polygon(
            [lamp, (lamp[0] + reach, lamp[1] - width), (lamp[0] + reach, lamp[1] + width)]
        )
        ray = glow(lamp, 1450, "#fff1c0", 0.72)
        ray.setMaskFilter(skia.MaskFilter.MakeBlur(skia.kNormal_BlurStyle, 26))
        canvas.drawPath(beam, ray)
    canvas.drawRect(
        skia.Rect(-200, 1330, WIDTH + 200, HEIGHT + 200),
        wash((0, 1330), (0, HEIGHT), ["#2c4b70", "#0a1328"], [0.0, 1.0]),
    )
    _glitter(canvas, 1340, 1880, time, "#cfe0ff")
    rock = [
        (x, 1370 + 60 * math.sin(x * 0.011) - 120 * math.exp(-(((x - 400) / 260) ** 2)))
        for x in range(-300, 1400, 50)
    ]
    canvas.drawPath(land(rock), wash((0, 1250), (0, 1900), ["#1d2740", "#05080f"], [0.0, 1.0]))
    texture(canvas, skia.Rect(-200, 1230, WIDTH + 200, HEIGHT + 100), (16, 9), 0.5, 2)
    tower = polygon([(345, 790), (455, 790), (492, 1330), (308, 1330)])
    canvas.drawPath(
        tower, wash((300, 0), (500, 0), ["#f2ead8", "#cbbfa6", "#6d6a6a"], [0.0, 0.4, 1.0])
    )
    canvas.save()
    canvas.clipPath(tower, skia.ClipOp.kIntersect, True)
    for y in (880, 1060, 1240):
        canvas.drawRect(skia.Rect(280, y, 520, y + 76), paint("#a83a2f", 0.92))
    texture(canvas, skia.Rect(280, 760, 520, 1340), (9, 14), 0.4, 5)
    canvas.restore()
    canvas.drawRect(skia.Rect(325, 764, 475, 794), paint("#26303f"))
    canvas.drawRect(skia.Rect(360, 630, 440, 764), paint("#3a4658"))
    canvas.drawPath(polygon([(346, 632), (454, 632), (400, 560)]), paint("#a83a2f"))
    blaze = 0.55 + 0.45 * abs(math.sin(math.radians(turn)))
    canvas.drawCircle(*lamp, 30, paint("#fffbe8"))
    canvas.drawCircle(*lamp, 330, glow(lamp, 330, "#fff3c8", blaze))
    for i, code in enumerate(("#ffb454", "#ff7f5c", "#ffe08a", "#8fd3ff", "#ff9d6e")):
        x = 120 + i * 225 + 46 * math.sin(time * 0.9 + i)
        y = 300 + 130 * math.sin(i * 2.2) + 40 * math.cos(time + i) + (240 if i > 2 else 0)
        canvas.drawCircle(x, y, 190, glow((x, y), 190, code, 0.75))
        kite(canvas, (x, y), 58, 14 * math.sin(time + i), (code, "#fff4dc", "#3a2c2a"), time * 5)
