"""The ferry's porthole, the workshop table."""

from __future__ import annotations

import math
import random
from functools import cache

import skia

from wrinkle.demo.brushes import (
    HEIGHT,
    WIDTH,
    backdrop,
    clouds,
    frame,
    glow,
    kite,
    paint,
    polygon,
    smooth,
    texture,
    wash,
)

_PORT = (540.0, 900.0)
_PORT_RADIUS = 360.0
_BEYOND = 200


def porthole(canvas: skia.Canvas, time: float) -> None:
    """A ferry porthole: its shutter opens and closes over the sea."""
    backdrop(canvas, ["#4b5a63", "#6c7c82", "#3c484f"], [0.0, 0.45, 1.0])
    texture(canvas, frame(), (90, 420), 0.5, 6)
    texture(canvas, frame(), (5, 5), 0.35, 7)
    for x in (90, 990):
        for i in range(15):
            _rivet(canvas, x, 60 + i * 132)
    canvas.drawLine(0, 1530, WIDTH, 1530, paint("#222b31", 0.7, stroke=10))
    canvas.drawLine(0, 1540, WIDTH, 1540, paint("#a9b8bd", 0.5, stroke=4))
    canvas.drawCircle(_PORT[0] + 12, _PORT[1] + 26, 470, paint("#12181c", 0.65, blur=28))
    ring = skia.Paint(
        AntiAlias=True,
        Shader=skia.GradientShader.MakeSweep(
            *_PORT,
            [
                skia.Color(214, 178, 106),
                skia.Color(122, 88, 42),
                skia.Color(240, 214, 150),
                skia.Color(110, 78, 38),
                skia.Color(214, 178, 106),
            ],
        ),
    )
    canvas.drawCircle(*_PORT, 462, ring)
    canvas.drawCircle(*_PORT, 462, paint("#3a2a12", 0.8, stroke=5))
    for i in range(12):
        angle = math.radians(i * 30 + 15)
        _rivet(canvas, _PORT[0] + 412 * math.cos(angle), _PORT[1] + 412 * math.sin(angle))
    canvas.save()
    opening = skia.Path()
    opening.addCircle(*_PORT, _PORT_RADIUS)
    canvas.clipPath(opening, skia.ClipOp.kIntersect, True)
    _sea(canvas, time)
    _shutter(canvas, shutter_opening(time))
    canvas.drawCircle(*_PORT, _PORT_RADIUS, paint("#0c1114", 0.55, blur=16, stroke=46))
    canvas.restore()
    canvas.drawCircle(*_PORT, _PORT_RADIUS, paint("#2a1e0e", stroke=10))


def shutter_opening(time: float) -> float:
    """How far the shutter is open, 0…1: opens in the first second, closes after two."""
    rising = min(1.0, max(0.0, (time - 0.2) / 0.7))
    falling = min(1.0, max(0.0, (time - 2.15) / 0.7))
    share = rising - falling
    return share * share * (3 - 2 * share)


def _sea(canvas: skia.Canvas, time: float) -> None:
    roll = 26 * math.sin(time * 1.7)
    canvas.drawRect(frame(), wash((0, 540), (0, 1000), ["#8fc7dc", "#f6e3bd"], [0.0, 1.0]))
    clouds(canvas, 61, 60 * time, "#ffffff", 0.6)
    kite(
        canvas,
        (640 + 40 * math.sin(time), 720),
        62,
        12 * math.sin(time * 2),
        ("#d6402f", "#f7ead0", "#3c2a24"),
        time * 6,
    )
    kite(
        canvas,
        (420, 800 + 20 * math.cos(time * 1.4)),
        40,
        -9,
        ("#24777b", "#f2d27a", "#3c2a24"),
        time * 7,
        0.2,
    )
    for layer, (code, top) in enumerate(
        (("#5b9db0", 930), ("#3b7f96", 985), ("#27647d", 1060), ("#184a61", 1150))
    ):
        swell = 14 + 10 * layer
        shift = time * (90 + 70 * layer)
        line = [
            (x, top + roll + swell * math.sin((x + shift) * 0.016 + layer * 2))
            for x in range(80, 1060, 30)
        ]
        canvas.drawPath(polygon([*line, (1060, 1400), (80, 1400)]), paint(code))
        canvas.drawPath(smooth(line), paint("#f4fbf8", 0.55, stroke=5 + layer * 2))
    texture(canvas, skia.Rect(150, 900, 930, 1300), (30, 6), 0.5, 9, dark=False)


def _shutter(canvas: skia.Canvas, opening: float) -> None:
    """Two half-discs of wood that part to left and right."""
    for side in (-1, 1):
        canvas.save()
        canvas.translate(side * opening * 380, 0)
        half = skia.Rect(
            _PORT[0] - 380 if side < 0 else _PORT[0], 500, _PORT[0] if side < 0 else 930, 1300
        )
        canvas.clipRect(half)
        canvas.drawRect(
            half, wash((160, 500), (900, 1300), ["#8a5a34", "#6b4022", "#4f2d18"], [0.0, 0.5, 1.0])
        )
        for i in range(7):
            x = half.left() + i * 58
            canvas.drawLine(x, 500, x, 1300, paint("#2c170b", 0.6, stroke=5))
        texture(canvas, half, (9, 150), 0.8, 13)
        edge = _PORT[0] - 9 * -side
        canvas.drawLine(edge, 500, edge, 1300, paint("#d9b46b", stroke=14))
        canvas.drawCircle(_PORT[0] + side * 70, _PORT[1], 20, paint("#e3c27a"))
        canvas.drawCircle(_PORT[0] + side * 70, _PORT[1], 20, paint("#5a3d18", stroke=4))
        canvas.restore()


def _rivet(canvas: skia.Canvas, x: float, y: float) -> None:
    canvas.drawCircle(x + 3, y + 5, 17, paint("#12181c", 0.6, blur=4))
    canvas.drawCircle(x, y, 16, paint("#7d6a48"))
    canvas.drawCircle(x - 4, y - 5, 6, paint("#f2e2b6", 0.8))


def workshop(canvas: skia.Canvas, time: float) -> None:
    """A table with cloth, scissors and a hand-painted fish kite."""
    canvas.save()
    canvas.translate(540, 960)
    canvas.rotate(-4 + 2.4 * time)
    canvas.scale(1.16 + 0.035 * time, 1.16 + 0.035 * time)
    canvas.translate(-540, -960)
    canvas.drawImage(_table(), -_BEYOND, -_BEYOND, skia.SamplingOptions(skia.FilterMode.kLinear))
    _cloth(canvas, time)
    _fish(canvas, time)
    _scissors(canvas, time)
    _spool(canvas, time)
    canvas.restore()
    canvas.drawRect(frame(), glow((220, 260), 1300, "#fff0cf", 0.28))


@cache
def _table() -> skia.Image:
    surface = skia.Surface(WIDTH + 2 * _BEYOND, HEIGHT + 2 * _BEYOND)
    canvas = surface.getCanvas()
    canvas.translate(_BEYOND, _BEYOND)
    canvas.drawRect(
        frame(), wash((0, 0), (WIDTH, HEIGHT), ["#b98553", "#9c6a3d", "#7d4f2b"], [0.0, 0.5, 1.0])
    )
    for i in range(6):
        x = -120 + i * 236
        canvas.drawLine(x, -200, x + 20, HEIGHT + 200, paint("#452714", 0.7, stroke=7))
        canvas.drawLine(x + 6, -200, x + 26, HEIGHT + 200, paint("#e0b682", 0.35, stroke=3))
    texture(canvas, frame(), (13, 230), 0.85, 14)
    texture(canvas, frame(), (4, 40), 0.4, 15)
    return surface.makeImageSnapshot()


def _cloth(canvas: skia.Canvas, time: float) -> None:
    breath = 10 * math.sin(time * 2.2)
    edge = [(-80, 1180), (300, 1120 + breath), (640, 1240 - breath), (1000, 1150), (1250, 1260)]
    cloth = smooth(edge)
    cloth.lineTo(1250, 2150)
    cloth.lineTo(-80, 2150)
    cloth.close()
    canvas.drawPath(cloth, paint("#20140c", 0.5, blur=22))
    canvas.drawPath(cloth, paint("#2b6d73"))
    canvas.save()
    canvas.clipPath(cloth, skia.ClipOp.kIntersect, True)
    for i in range(15):
        x = -100 + i * 96
        stripe = [(x + 16 * math.sin(y * 0.008 + i + time), y) for y in range(1050, 2150, 60)]
        canvas.drawPath(smooth(stripe), paint("#f0e2c2", 0.85, stroke=26))
    for i in range(4):
        fold = [(120 + 260 * i + 60 * math.sin(y * 0.004 + i), y) for y in range(1050, 2150, 90)]
        canvas.drawPath(smooth(fold), paint("#0d2a2e", 0.35, blur=18, stroke=46))
    texture(canvas, skia.Rect(-100, 1050, 1300, 2150), (4, 3), 0.3, 16)
    canvas.restore()


def _fish(canvas: skia.Canvas, time: float) -> None:
    canvas.save()
    canvas.translate(520, 690)
    canvas.rotate(-18 + 2.5 * math.sin(time * 2.4))
    body = skia.Path()
    body.moveTo(-340, 0)
    body.cubicTo(-240, -230, 120, -230, 260, -20)
    body.cubicTo(120, 210, -240, 220, -340, 0)
    flap = 40 * math.sin(time * 4)
    fin = polygon([(230, -20), (430, -190 + flap), (380, -10), (430, 170 + flap)])
    for path in (body, fin):
        canvas.save()
        canvas.translate(14, 26)
        canvas.drawPath(path, paint("#20140c", 0.5, blur=16))
        canvas.restore()
    canvas.drawPath(fin, paint("#c8402f"))
    for i in range(7):
        canvas.drawLine(250, -16 + i * 5, 415, -150 + flap + i * 48, paint("#f7d88c", stroke=6))
    canvas.drawPath(
        body, wash((-340, -180), (260, 180), ["#f2b63c", "#e0662f", "#b5342c"], [0.0, 0.55, 1.0])
    )
    canvas.save()
    canvas.clipPath(body, skia.ClipOp.kIntersect, True)
    dice = random.Random(8)
    for row in range(10):
        for column in range(9):
            x = -160 + column * 52 + (row % 2) * 26
            y = -210 + row * 46
            code = dice.choice(["#fbe7b4", "#f7c65c", "#c8402f", "#2a6f73"])
            canvas.drawArc(
                skia.Rect(x - 28, y - 26, x + 28, y + 26),
                20,
                150,
                False,
                paint(code, 0.9, stroke=7),
            )
    texture(canvas, skia.Rect(-360, -240, 440, 240), (26, 5), 0.4, 18)
    canvas.restore()
    canvas.drawPath(body, paint("#3a1d14", stroke=8))
    canvas.drawPath(fin, paint("#3a1d14", stroke=8))
    canvas.drawCircle(-232, -34, 44, paint("#fdf3d8"))
    canvas.drawCircle(-238, -30, 22, paint("#1f1410"))
    canvas.drawCircle(-246, -40, 7, paint("#ffffff"))
    canvas.drawLine(-300, 60, -215, 74, paint("#3a1d14", stroke=7))
    canvas.restore()


def _scissors(canvas: skia.Canvas, time: float) -> None:
    spread = 13 + 11 * math.sin(time * 5.0)
    canvas.save()
    canvas.translate(770 - 26 * time, 1330)
    canvas.rotate(-52)
    for side in (-1, 1):
        canvas.save()
        canvas.rotate(side * spread)
        blade = polygon([(-14, 0), (-6 * side, -330), (16, -10)])
        canvas.drawPath(blade, paint("#0f0b08", 0.4, blur=8))
        canvas.drawPath(blade, wash((-14, 0), (16, 0), ["#eef2f2", "#8d9799"], [0.0, 1.0]))
        canvas.drawLine(0, 0, -side * 46, 150, paint("#23282b", stroke=26))
        canvas.drawOval(
            skia.Rect.MakeXYWH(-side * 66 - 52, 140, 104, 150), paint("#a8332a", stroke=30)
        )
        canvas.restore()
    canvas.drawCircle(0, 0, 15, paint("#d8b163"))
    canvas.restore()


def _spool(canvas: skia.Canvas, time: float) -> None:
    thread = [
        (190, 1560),
        (330, 1480 + 20 * math.sin(time * 3)),
        (430, 1620),
        (610, 1540),
        (880, 1760),
    ]
    canvas.drawPath(smooth(thread), paint("#b3261e", stroke=6))
    canvas.drawOval(skia.Rect.MakeXYWH(98, 1490, 190, 190), paint("#160c07", 0.5, blur=14))
    canvas.drawCircle(190, 1570, 88, paint("#d9b07a"))
    canvas.drawCircle(190, 1570, 70, paint("#b3261e"))
    for i in range(9):
        canvas.drawCircle(190, 1570, 26 + i * 5.2, paint("#7d1510", 0.6, stroke=1.6))
    canvas.drawCircle(190, 1570, 22, paint("#5a3a1e"))
