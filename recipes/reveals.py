"""Wrinkles that wipe, melt, cut apart or open."""

from __future__ import annotations

import math

from recipes.bench import ACTIVE, HALF, Work, circle
from wrinkle.core.design.document.sources import FillSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.picture.paths import polygon, rectangle


def _over(work: Work) -> None:
    """The outgoing clip lies over the incoming one for the whole window."""
    work.order("incoming", "outgoing")
    work.span("incoming", None, None)
    work.span("outgoing", None, None)


def _opening(work: Work, end: float) -> str:
    """The incoming clip as it opens: a layer of its own, until the whole clip takes its place."""
    work.span("outgoing", None, end)
    opening = work.layer("Opening", "incoming", -end, end)
    work.span("incoming", end, None)
    return opening


def luma_melt() -> Wrinkle:
    """The dark of the picture goes first, then all of it, until the next clip is left."""
    work = Work(
        "Luma melt",
        "The picture melts away by its own brightness and the next one is behind "
        "it; for skies and lights.",
        "matte",
        "wipe",
        half=18,
    )
    work.span("incoming", None, None)
    work.span("outgoing", None, -13)
    going = work.layer("Melts", "outgoing", -13, 14)
    melt = work.effect(going, "luma_reveal", softness=22.0, roughness=14.0)
    work.lane(going, melt["threshold"], (-13, 0.0, "gentle"), (13, 100.0))
    grade = work.effect(going, "curves")
    work.put(going, grade["all"], _STRAIGHT)
    work.lane(going, grade["all"], (-13, _STRAIGHT, "gentle"), (6, _HARD))
    pale = work.effect(going, "hue_shift")
    work.lane(going, pale["saturation"], (-13, 0.0, "gentle"), (6, -35.0))
    work.lane(going, pale["lightness"], (-13, 0.0, "gentle"), (6, 6.0))
    sharp = work.effect(going, "sharpen", radius=0.5)
    work.lane(going, sharp["amount"], (-13, 0.0, "gentle"), (4, 90.0))
    work.order("incoming", "outgoing", going)
    work.only_as_made("as made")
    work.dial("Softness", "How gradually it goes.", (going, melt["softness"]))
    work.dial("Roughness", "How torn the edge is.", (going, melt["roughness"]))
    work.dial("Bright first", "What is bright goes first.", (going, melt["invert"]))
    work.dial("Colour", "How much of it is left at last.", (going, pale["saturation"]))
    work.dial("Sharpness", "How hard its edges get.", (going, sharp["amount"]))
    return work.wrinkle


_STRAIGHT = polygon(((0.0, 0.0), (0.3, 0.3), (0.7, 0.7), (1.0, 1.0)))
_HARD = polygon(((0.0, 0.0), (0.3, 0.2), (0.7, 0.82), (1.0, 1.0)))


def rust_creep() -> Wrinkle:
    """Noise eats the picture, its edge glows like rust, and the camera leans in."""
    work = Work(
        "Rust creep",
        "Rust eats one clip and leaves the next; for time that passes.",
        "matte",
        "wipe",
        half=20,
    )
    _over(work)
    work.span("outgoing", None, 15)
    # The clip is eaten first, and a rusty copy under it a little later: between the two edges
    # lies the rust.
    rust = work.layer("Rust", "outgoing", -14, 15, blend="darken")
    eaten = {}
    for layer, start, end in (("outgoing", -14, 12), (rust, -12, 14)):
        creep = work.effect(layer, "noise_reveal", character="cloud", size=34.0, softness=9.0)
        work.lane(layer, creep["amount"], (start, 0.0, "gentle"), (end, 100.0))
        eaten[layer] = creep
    work.effect(rust, "saturation", saturation=35.0)
    work.effect(
        rust,
        "lift_gamma_gain",
        lift=(0.54, 0.45, 0.42),
        gamma=(0.6, 0.4, 0.34),
        gain=(0.7, 0.33, 0.16),
    )
    work.order("incoming", rust, "outgoing")
    push = work.layer("Camera")
    work.lane(
        push,
        "scale",
        (-14, (100.0, 100.0), "gentle"),
        (0, (106.0, 106.0), "gentle"),
        (14, (100.0, 100.0)),
    )
    work.directions("as made", "mirrored")
    for name, about, key in (
        ("Character", "What the noise is like.", "character"),
        ("Size", "Of the spots.", "size"),
        ("Softness", "How gradually it is eaten.", "softness"),
    ):
        work.dial(name, about, *((layer, creep[key]) for layer, creep in eaten.items()))
    work.dial("Rust", "How much of it there is.", (rust, "opacity"))
    work.dial("Push", "How far the camera leans in.", (push, "scale"))
    work.seed_dial()
    return work.wrinkle


def corner_split() -> Wrinkle:
    """The picture breaks along its diagonal; the halves wait, and leave to their corners."""
    work = Work(
        "Corner split",
        "The picture is cut along its diagonal, hesitates, and parts; for a "
        "reveal with a beat in it.",
        "split",
        "mask",
        half=18,
    )
    work.order("incoming", "outgoing")
    work.span("incoming", None, None)
    work.span("outgoing", None, -13)
    upper = work.layer("Upper half", "outgoing", -13, 14)
    lower = work.layer("Lower half", "outgoing", -13, 14)
    corner = polygon(((-1.0, -1.0), (2.0, -1.0), (-1.0, 2.0)))
    work.mask(upper, corner)
    work.mask(lower, corner, inverted=True)
    for half, way in ((upper, -1.0), (lower, 1.0)):
        ajar, gone = (0.05 * way, 0.05 * way), (1.0 * way, 1.0 * way)
        work.lane(
            half, "position", (-13, (0.0, 0.0), "snap"), (-6, ajar), (1, ajar, "rush"), (13, gone)
        )
    for half in (upper, lower):
        work.put(half, "edge_cover", "bare")
    work.directions("to the upper left", "to the upper right")
    work.dial("How far", "How far the halves go.", (upper, "position"), (lower, "position"))
    work.blur_dial()
    return work.wrinkle


def bar_sweep() -> Wrinkle:
    """A bar runs across, and the next clip follows on its edge."""
    work = Work(
        "Bar sweep",
        "A bar of light sweeps across and draws the next clip behind it; clean, "
        "for interviews and products.",
        "wipe",
        "mask",
        half=16,
    )
    opening = _opening(work, 12)
    edge = work.layer("Edge", FillSource(), -12, 12)
    path = work.mask(edge, rectangle(-0.5, -0.5, 0.5, 1.5), feather=0.15)
    work.put(edge, "rotation", 12.0)
    work.lane(edge, "position", (-ACTIVE, (-0.95, 0.0), "gentle"), (ACTIVE, (0.95, 0.0)))
    work.put(edge, "visible", False)
    bar = work.layer("Bar", FillSource(), -12, 12)
    work.put(bar, "source.colour", (0.95, 0.85, 0.66))
    work.mask(bar, rectangle(0.49, -0.5, 0.51, 1.5))
    work.change(bar, parent=edge)
    # Larger than the frame, so that it reaches across at any angle.
    work.put(edge, "scale", (300.0, 300.0))
    for drawn in (edge, bar):
        work.put(drawn, "edge_cover", "stretch")
    soft = work.layer("Soft copy", "incoming", -12, 12)
    blur = work.effect(soft, "gaussian_blur", radius=11.0)
    for behind in (soft, opening):
        work.matte(behind, edge)
    work.lane(opening, "opacity", (-4, 0.0, "gentle"), (10, 100.0))
    work.order("outgoing", edge, soft, opening, "incoming", bar)
    work.directions("from the left", "from the right")
    work.dial("Angle", "How far the bar leans.", (edge, "rotation"))
    work.dial("Colour", "Of the bar.", (bar, "source.colour"))
    work.dial("Soft edge", "Of the clip behind the bar.", (edge, path.replace("path", "feather")))
    work.dial("Soft copy", "How soft the clip is at first.", (soft, blur["radius"]))
    work.dial("Bar", "Whether there is a bar.", (bar, "visible"))
    work.blur_dial()
    return work.wrinkle


def iris() -> Wrinkle:
    """A round opening grows from the middle with a soft rim, and the picture with it."""
    work = Work(
        "Iris",
        "The next clip opens from a point in the middle; for arrivals.",
        "mask",
        "zoom",
        half=16,
    )
    opening = _opening(work, 12)
    point, wide = circle(0.001), circle(1.15)
    path = work.round_mask(opening, point, feather=5.0)
    work.lane(opening, path, (-ACTIVE, point, "gentle"), (ACTIVE, wide))
    work.lane(opening, "scale", (-ACTIVE, (140.0, 140.0), "gentle"), (ACTIVE, (100.0, 100.0)))
    work.lane("outgoing", "scale", (-ACTIVE, (100.0, 100.0), "gentle"), (ACTIVE, (118.0, 118.0)))
    work.only_as_made("from the middle")
    work.dial("Rim", "How soft the rim is.", (opening, path.replace("path", "feather")))
    work.dial("Zoom", "How far the new clip is nearer at first.", (opening, "scale"))
    work.blur_dial()
    work.aside(
        "pixels", "The next clip is seen enlarged only while the opening is small.", "opening"
    )
    return work.wrinkle


def blinds() -> Wrinkle:
    """Five slats of the next clip fold in one after the other, with gaps between them."""
    work = Work(
        "Blinds",
        "Slats of the next clip slide in one after the other; for lists and places.",
        "wipe",
        "slide",
        half=HALF,
    )
    work.span("outgoing", None, 10)
    count, layers = 5, []
    work.span("incoming", 9, None)
    for number in range(count):
        name, side = f"Slat {number + 1}", 1.5 if number % 2 == 0 else -1.5
        layers.append(work.panel(name, number, count, side, -ACTIVE + number, 4 + number, 10))
    work.directions("from the right first", "from the left first")
    work.dial("How far", "From how far they come.", *((slat, "position") for slat in layers))
    work.blur_dial()
    work.aside("way", "The slats leave, and what is behind them stands still.")
    return work.wrinkle


def clock_sweep() -> Wrinkle:
    """A hand sweeps once round the middle, and the next clip is behind it."""
    work = Work(
        "Clock sweep",
        "A hand sweeps once round the frame; for time and for lists.",
        "wipe",
        "mask",
        half=18,
    )
    opening = _opening(work, 14)
    path = work.mask(opening, _swept(0.0), feather=1.5)
    keys = [(-13 + 26 * n / _SLICES, _swept(n / _SLICES)) for n in range(_SLICES + 1)]
    work.lane(opening, path, *keys)
    # A hand is no thing that was filmed: it is drawn sharp, and softened by its edge alone.
    work.put(opening, "motion_blur", False)
    work.directions("clockwise", "counter-clockwise")
    work.dial("Soft edge", "Of the hand.", (opening, path.replace("path", "feather")))
    work.dial("Blur", "Whether the speed of the hand blurs it too.", (opening, "motion_blur"))
    return work.wrinkle


_SLICES = 15
"""An odd number: at the cut the hand is in the middle of a slice, and so goes on evenly."""


def _swept(share: float) -> tuple[float, ...]:
    """What a hand has swept over of a frame, from the top, clockwise: a fan of slices."""
    corners = [(0.5, 0.5)]
    for n in range(_SLICES + 1):
        turn = 2.0 * math.pi * min(n / _SLICES, share)
        corners.append((0.5 + math.sin(turn), 0.5 - math.cos(turn)))
    return polygon(corners)


RECIPES = {
    "luma_melt": luma_melt,
    "rust_creep": rust_creep,
    "corner_split": corner_split,
    "bar_sweep": bar_sweep,
    "iris": iris,
    "blinds": blinds,
    "clock_sweep": clock_sweep,
}
