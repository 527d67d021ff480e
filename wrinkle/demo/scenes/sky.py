"""A box kite close up, a rippling tail, the sky full of kites."""

from __future__ import annotations

import math
import random

import skia

from wrinkle.demo.brushes import (
    WIDTH,
    Point,
    backdrop,
    clouds,
    colour,
    frame,
    glow,
    kite,
    paint,
    polygon,
    smooth,
    texture,
    wash,
)

Corner = tuple[float, float, float]


def box_kite(canvas: skia.Canvas, time: float) -> None:
    """A box kite close up, turning against the sky."""
    backdrop(canvas, ["#2f78a8", "#6fb0cf", "#cfe4e4", "#f3e6cc"], [0.0, 0.45, 0.8, 1.0])
    clouds(canvas, 31, 80 * time, "#ffffff", 0.6)
    texture(canvas, frame(), (260, 190), 0.22, 12, dark=False)
    sway = (540 + 60 * math.sin(time * 0.9), 900 + 34 * math.cos(time * 1.3))
    line = [sway, (600, 1300), (720, 1650), (800, 2000)]
    canvas.drawPath(smooth(line), paint("#3b2c26", stroke=5))
    _box(canvas, sway, 36 + 52 * time, 24 + 8 * math.sin(time))
    kite(
        canvas,
        (180, 330 + 20 * math.sin(time * 2)),
        44,
        10,
        ("#d9503f", "#f7d88c", "#4a372c"),
        time * 6,
        0.35,
    )


def _box(canvas: skia.Canvas, centre: Point, turn: float, tilt: float) -> None:
    yaw, pitch = math.radians(turn), math.radians(tilt)

    def seen(corner: Corner) -> tuple[Point, float]:
        x, y, z = corner
        x, z = x * math.cos(yaw) + z * math.sin(yaw), z * math.cos(yaw) - x * math.sin(yaw)
        y, z = y * math.cos(pitch) - z * math.sin(pitch), z * math.cos(pitch) + y * math.sin(pitch)
        far = 1900 / (1900 + z)
        return (centre[0] + x * far, centre[1] + y * far), z

    half, reach, panel = 220.0, 480.0, 270.0
    sides = [(-half, -half), (half, -half), (half, half), (-half, half)]
    faces = []
    for index, (start, end) in enumerate(zip(sides, sides[1:] + sides[:1], strict=True)):
        for top in (-reach, reach - panel):
            corners = [
                (start[0], top, start[1]),
                (end[0], top, end[1]),
                (end[0], top + panel, end[1]),
                (start[0], top + panel, start[1]),
            ]
            ends = [seen(c) for c in corners]
            depth = sum(z for _, z in ends) / 4
            faces.append((depth, [point for point, _ in ends], index, top < 0))
    rods = [(seen((x, -reach - 30, z)), seen((x, reach + 30, z))) for x, z in sides]
    for depth, points, index, upper in sorted(faces, key=lambda face: -face[0]):
        light = 0.62 + 0.38 * (0.5 - depth / 900)
        base = ("#c8402f", "#f2c14e", "#2a6f73", "#f4ead6")[(index + (0 if upper else 2)) % 4]
        face = polygon(points)
        shade = skia.Paint(AntiAlias=True, Color=colour(base))
        canvas.drawPath(face, shade)
        canvas.save()
        canvas.clipPath(face, skia.ClipOp.kIntersect, True)
        (ax, ay), (bx, by), (cx, cy), (dx, dy) = points
        for i in range(1, 6):
            share = i / 6
            canvas.drawLine(
                ax + (bx - ax) * share,
                ay + (by - ay) * share,
                dx + (cx - dx) * share,
                dy + (cy - dy) * share,
                paint("#3a1d14", 0.14, stroke=14),
            )
        canvas.drawLine(ax, (ay + dy) / 2, bx, (by + cy) / 2, paint("#fff6e0", 0.5, stroke=12))
        texture(canvas, face.getBounds(), (5, 9), 0.22, 3 + index)
        canvas.drawPath(face, paint("#1c120d", max(0.0, 1 - light) * 0.75))
        canvas.restore()
        canvas.drawPath(face, paint("#3a2318", 0.55, stroke=3))
    for (head, z), (foot, _) in rods:
        canvas.drawLine(*head, *foot, paint("#4b2f1d", 0.95 if z < 60 else 0.35, stroke=9))


def tail(canvas: skia.Canvas, time: float) -> None:
    """A long ribbon tail rippling, fast."""
    backdrop(canvas, ["#123a5c", "#1f6a8c", "#59a6b5", "#bfdcd2"], [0.0, 0.4, 0.75, 1.0])
    clouds(canvas, 41, 420 * time, "#d8eef0", 0.42)
    canvas.drawRect(frame(), glow((900, 160), 900, "#fff2cc", 0.55))
    _ribbon(canvas, time * 0.8 + 3, 250, 62, ("#f0c35a", "#c25b3a"), 0.55)
    _ribbon(canvas, time, 560, 132, ("#d6402f", "#f7ead0"), 1.0)
    _ribbon(canvas, time * 1.2 + 1.4, 900, 44, ("#2a7a7d", "#f2d27a"), 0.8)
    texture(canvas, frame(), (6, 6), 0.14, 4)


def _ribbon(
    canvas: skia.Canvas, phase: float, x0: float, width: float, codes: tuple[str, str], near: float
) -> None:
    steps = 110
    spine = []
    for i in range(steps + 1):
        y = -160 + i * (2260 / steps)
        swing = 165 * math.sin(y * 0.0046 - phase * 7.5) + 46 * math.sin(y * 0.013 - phase * 12)
        grow = 0.35 + 0.65 * i / steps
        spine.append(
            (
                x0 + grow * swing,
                y,
            )
        )
    for i in range(steps):
        (ax, ay), (bx, by) = spine[i], spine[i + 1]
        slope = (bx - ax) / max(1.0, by - ay)
        fold = math.sin(ay * 0.011 - phase * 9.0)
        half = width * (0.42 + 0.58 * abs(fold))
        next_half = width * (0.42 + 0.58 * abs(math.sin(by * 0.011 - phase * 9.0)))
        lift = half * 0.3 * slope
        quad = polygon(
            [
                (ax - half, ay + lift),
                (ax + half, ay - lift),
                (bx + next_half, by - lift + 1.5),
                (bx - next_half, by + lift + 1.5),
            ]
        )
        canvas.drawPath(quad, paint(codes[(i // 5) % 2], 0.96 * near + 0.04))
        canvas.drawPath(quad, paint("#0c1a24" if fold < 0 else "#fff8e6", 0.30 * abs(fold)))
    for share in (-0.55, 0.0, 0.55):
        thread = [
            (x + share * width * (0.42 + 0.58 * abs(math.sin(y * 0.011 - phase * 9.0))), y)
            for x, y in spine
        ]
        canvas.drawPath(smooth(thread), paint("#2a1a14", 0.35, stroke=2.5))


def finale(canvas: skia.Canvas, time: float) -> None:
    """Many kites fill the sky."""
    backdrop(canvas, ["#1c6fa6", "#58a9cf", "#bfe0e2", "#ffeec9"], [0.0, 0.42, 0.78, 1.0])
    for i in range(11):
        angle = math.radians(-160 + i * 16 + 5 * time)
        ray = polygon(
            [
                (540, 2100),
                (540 + 3000 * math.cos(angle), 2100 + 3000 * math.sin(angle)),
                (540 + 3000 * math.cos(angle + 0.1), 2100 + 3000 * math.sin(angle + 0.1)),
            ]
        )
        canvas.drawPath(ray, paint("#fff6d8", 0.13))
    clouds(canvas, 51, 50 * time, "#ffffff", 0.5)
    palettes = (
        ("#d6402f", "#f7ead0"),
        ("#f2b63c", "#b93b2a"),
        ("#24777b", "#f2e2b8"),
        ("#8a3b5e", "#f4a259"),
        ("#2d4f8f", "#ffd57a"),
        ("#efe6d2", "#c8502f"),
    )
    dice = random.Random(17)
    flock = sorted(
        (dice.random() ** 1.4, dice.uniform(-80, WIDTH + 80), dice.uniform(-100, 1900), i)
        for i in range(58)
    )
    for near, x, y, i in flock:
        size = 18 + 118 * near
        sway = math.sin(time * (1.4 + near) + i)
        spot = (x + sway * (14 + 50 * near), y - time * (16 + 130 * near) + 150 * near)
        left, right = palettes[i % len(palettes)]
        haze = 0.5 * (1 - near)
        kite(
            canvas,
            spot,
            size,
            16 * sway + dice.uniform(-20, 20),
            (left, right, "#3c2a24"),
            time * 6 + i,
            haze,
        )
    canvas.drawRect(frame(), wash_over())


def wash_over() -> skia.Paint:
    """Warm light from below over everything."""
    over = wash((0, 1300), (0, 1920), ["#000000", "#5a3a10"], [0.0, 1.0])
    over.setBlendMode(skia.BlendMode.kScreen)
    return over
