"""Wrinkles that are led by what is drawn: strokes of a brush, a port that shuts."""

from __future__ import annotations

import math
from fractions import Fraction
from pathlib import Path
from tempfile import TemporaryDirectory

from recipes.bench import RATE, Work, oval
from wrinkle.core.design.document.sources import FillSource, NoiseSource, ShapeSource, WordsSource
from wrinkle.core.design.document.timing import Blink, Timing
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.paths import Outline, rectangle
from wrinkle.demo.brushes import HEIGHT, WIDTH
from wrinkle.demo.extras import strokes
from wrinkle.media.svg import read_svg


def brush_strokes() -> Wrinkle:
    """Three strokes of a brush paint the frame, and the next clip soaks through the paint."""
    work = Work(
        "Brush strokes",
        "Three strokes of a dry brush paint the frame and the next clip soaks through; "
        "for hands at work and for art.",
        "matte",
        "wipe",
        half=20,
    )
    work.span("outgoing", None, 14)
    work.span("incoming", 14, None)
    shapes = _strokes()
    painted, first = [], (-14, -10, -6)
    for (name, shape), start in zip(shapes, first, strict=True):
        stroke = work.layer(f"Stroke {name}", shape, start, 14)
        work.put(stroke, "edge_cover", "bare")
        # The strokes cross the frame whatever its shape.
        work.put(stroke, "source.keeps_form", False)
        work.put(stroke, "scale", (124.0, 150.0))
        # The mask stands in the stroke's own frame, and so rides on it wherever it is put.
        begun, done = rectangle(-0.6, -0.5, -0.1, 1.5), rectangle(-0.6, -0.5, 1.4, 1.5)
        path = work.mask(stroke, begun, feather=9.0)
        work.lane(stroke, path, (start, begun, "brake"), (start + 8, done))
        painted.append(stroke)
    upper, middle, lower = painted
    for stroke, turn, down in ((upper, -5.0, 0.07), (middle, 176.0, 0.0), (lower, -6.0, -0.08)):
        work.put(stroke, "rotation", turn)
        work.put(stroke, "position", (0.0, down))
    filled = []
    for number, (top, bottom) in enumerate(((-0.1, 0.36), (0.33, 0.67), (0.64, 1.1))):
        start = 1 + 2 * number
        block = work.layer(f"Clean-up {number + 1}", FillSource(), start, 14)
        begun, done = rectangle(-0.6, top, -0.2, bottom), rectangle(-0.6, top, 1.4, bottom)
        if number == 1:
            begun, done = rectangle(1.2, top, 1.6, bottom), rectangle(-0.4, top, 1.6, bottom)
        path = work.mask(block, begun, feather=6.0)
        work.lane(block, path, (start, begun, "brake"), (start + 7, done))
        filled.append(block)
    # What is drawn on is soft at its edge; a shutter would draw each edge nine times.
    for layer in (*painted, *filled):
        work.put(layer, "motion_blur", False)
    streaks = work.layer("Streaks", NoiseSource(), blend="multiply")
    for key, setting in (("cell", (150.0, 2.2)), ("contrast", 190.0), ("brightness", 12.0)):
        work.put(streaks, f"source.{key}", setting)
    work.put(streaks, "within", True)
    paint = work.group("Paint", *painted, *filled, streaks)
    colours = work.effect(
        paint,
        "tone_map",
        amount=100.0,
        dark=(0.03, 0.1, 0.16),
        middle=(0.78, 0.33, 0.12),
        light=(0.97, 0.87, 0.66),
        balance=45.0,
    )
    work.span(paint, -14, 14)
    bloom = work.layer("Soaks through", "incoming", -8, 14)
    work.matte(bloom, paint)
    work.lane(bloom, "opacity", (-8, 0.0, "gentle"), (9, 100.0))
    work.directions("from the left", "from the right")
    work.dial("Dark paint", "Pick it from the footage.", (paint, colours["dark"]))
    work.dial("Middle paint", "Pick it from the footage.", (paint, colours["middle"]))
    work.dial("Light paint", "Pick it from the footage.", (paint, colours["light"]))
    work.dial("Dry brush", "How streaky the paint is.", (streaks, "source.contrast"))
    work.seed_dial()
    return work.wrinkle


def _strokes() -> list[tuple[str, ShapeSource]]:
    """The demo's strokes, read as any SVG file of a user is."""
    with TemporaryDirectory() as folder:
        path = Path(folder) / "strokes.svg"
        strokes(path)
        return read_svg(path, Size(WIDTH, HEIGHT))


def porthole() -> Wrinkle:
    """A port shuts on one clip and opens on the next, which runs back before it runs on."""
    work = Work(
        "Porthole",
        "A port shuts and opens on another sea, with words behind what stands in it; "
        "for windows, eyes and shutters.",
        "mask",
        "zoom",
        "title",
        half=24,
    )
    sides = _both_sides(work)
    words = _words_behind(work)
    shutter = work.layer("Shutter", FillSource(), -17, 17)
    for key, value in (
        ("source.form", "linear"),
        ("source.colour", (0.05, 0.06, 0.065)),
        ("source.colour_2", (0.012, 0.014, 0.016)),
        ("edge_cover", "bare"),
        ("motion_blur", False),
    ):
        work.put(shutter, key, value)
    port = work.round_mask(shutter, _port(16), inverted=True, feather=12.0, expansion=-2.0)
    # One keyframe a frame, as a mask has that was followed: forward while the port shuts, and the
    # same outlines backward before it opens.
    work.lane(shutter, port, *((n, _port(abs(n))) for n in range(-16, 17)))
    strike = work.layer("Strike", None, -5, 6)
    smear = work.effect(strike, "directional_blur", length=14.0, angle=18.0)
    split = work.effect(strike, "channel_split", offset=1.8, angle=18.0)
    work.lane(strike, "opacity", (-5, 0.0, "swell"), (0, 100.0, "gentle"), (5, 0.0))
    back, subject = sides[2:]
    work.order("outgoing", "incoming", back, *words, subject, strike, shutter)
    work.directions("to the right", "to the left")
    work.dial("Rim", "How soft it is.", (shutter, port.replace("path", "feather")))
    work.dial("Shutter", "Its colour.", (shutter, "source.colour"))
    work.dial("Zoom", "How far both clips come nearer.", *((x, "scale") for x in sides))
    work.dial("Words", "Whether there are words.", *((x, "visible") for x in words))
    work.dial(
        "Strike", "How hard the blow is.", (strike, smear["length"]), (strike, split["offset"])
    )
    work.blur_dial()
    # The port falls shut on the cut; the clip that ran back goes on six frames later.
    work.aside("clipped", "Light through the port burns out on bright clips.")
    work.aside(
        "words", "The line is a shout, not to be read to its end.", "outlined", "source.text"
    )
    return work.wrinkle


def _both_sides(work: Work) -> list[str]:
    """Outgoing, incoming, its first frames in reverse, and what of it stands before the words.

    All have one grade, and each side comes nearer towards the cut by a curve of its own.
    """
    back = work.layer("Runs back", "incoming", 0, 6)
    # It reaches the sixth frame from behind, where the clip itself goes on.
    work.change(back, timing=Timing(reverse=True, slide=Fraction(12, RATE)))
    subject = work.layer("Before the words", "incoming", 6, 20)
    work.round_mask(subject, oval(0.5, 0.66, 0.17, 0.42), feather=8.0)
    sides = ["outgoing", "incoming", back, subject]
    for side in sides:
        before = side == "outgoing"
        near = (128.0, 128.0) if before else (136.0, 136.0)
        grade = work.effect(side, "tone")
        goals = ((grade["contrast"], 22.0), (grade["shadows"], -14.0))
        if before:
            work.lane(side, "scale", (-18, _WHOLE, "swell"), (0, near))
            for key, goal in goals:
                work.lane(side, key, (-18, 0.0, "gentle"), (-4, goal))
        else:
            work.lane(side, "scale", (0, near, "brake"), (18, _WHOLE))
            for key, goal in goals:
                work.lane(side, key, (4, goal, "gentle"), (18, 0.0))
    return sides


_WHOLE = (100.0, 100.0)


def _words_behind(work: Work) -> list[str]:
    """The same words outlined and filled, which slide apart word by word in a growing oval."""
    slot = work.words_slot("Words", "Two or three.", "THE OTHER SIDE")
    layers = []
    for name, first, way, down in (("Outlined", 2, -1.0, -0.2), ("Filled", 6, 1.0, -0.1)):
        words = work.layer(name, WordsSource(text="THE OTHER SIDE", slot=slot), first, 19)
        for key, value in (("size", 10.0), ("reveal_by", "word"), ("softness", 0.4)):
            work.put(words, f"source.{key}", value)
        work.lane(words, "source.reveal_to", (3, 0.0), (12, 100.0))
        slid, there, gone = (0.1 * way, down), (0.0, down), (-0.02 * way, down)
        work.lane(words, "position", (2, slid, "brake"), (13, there), (19, gone))
        small, wide = oval(0.5, 0.5, 0.02, 0.05), oval(0.5, 0.5, 0.9, 0.5)
        seen = work.round_mask(words, small, feather=10.0)
        work.lane(words, seen, (3, small, "brake"), (11, wide))
        work.lane(words, "opacity", (14, 100.0, "gentle"), (19, 0.0))
        layers.append(words)
    outlined, filled = layers
    work.put(outlined, "source.filled", False)
    work.put(outlined, "source.stroke", (0.98, 0.93, 0.82))
    work.put(outlined, "source.stroke_width", 0.7)
    work.change(filled, timing=Timing(blink=Blink(2, 1)))
    return layers


def _port(frame: int) -> Outline:
    """The port so many frames from the cut: shut at the cut, at last open beyond the frame."""
    beyond = max(frame - 1, 0)
    share = min(beyond / 15.0, 1.0)
    size = 0.001 + (0.07 + 1.45 * share if share else 0.0)
    # A little rounder and lower as it opens, as a port that is filmed by hand.
    return oval(0.5 + 0.01 * math.sin(beyond), 0.5 + 0.02 * (1.0 - share), size, size * 0.94)


RECIPES = {"brush_strokes": brush_strokes, "porthole": porthole}
"""By the folder of each."""
