"""Wrinkles that wipe, melt, cut apart or open."""

from __future__ import annotations

import math

from recipes.bench import ACTIVE, HALF, Key, Work, circle
from wrinkle.core.design.document.sources import FillSource, ShapeSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.feels import FEELS
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
        half=20,
    )
    work.span("incoming", None, None)
    work.span("outgoing", None, -16)
    going = work.layer("Melts", "outgoing", -16, 18)
    soft = work.effect(going, "gaussian_blur")
    work.lane(going, soft["radius"], (-8, 0.0, "gentle"), (16, 1.6))
    melt = work.effect(going, "luma_reveal", softness=34.0, roughness=10.0)
    work.lane(going, melt["threshold"], (-16, 0.0, "gentle"), (17, 100.0))
    # Lights that are left for last would flare: they are held, and drained of colour.
    grade = work.effect(going, "curves")
    work.put(going, grade["all"], _STRAIGHT)
    work.lane(going, grade["all"], (-16, _STRAIGHT, "gentle"), (8, _HELD))
    pale = work.effect(going, "hue_shift")
    work.lane(going, pale["saturation"], (-16, 0.0, "gentle"), (8, -30.0))
    coming = work.effect("incoming", "exposure")
    work.lane("incoming", coming["stops"], (-16, -0.7, "gentle"), (12, 0.0))
    work.order("incoming", "outgoing", going)
    work.only_as_made("as made")
    work.dial("Softness", "How gradually it goes.", (going, melt["softness"]), ends=(8.0, 60.0))
    work.dial("Roughness", "How torn the edge is.", (going, melt["roughness"]), ends=(0.0, 45.0))
    work.dial("Bright first", "What is bright goes first.", (going, melt["invert"]))
    work.dial("Colour", "How much it loses at last.", (going, pale["saturation"]))
    work.dial("Dark", "How dark the next clip is at first.", ("incoming", coming["stops"]))
    return work.wrinkle


_STRAIGHT = polygon(((0.0, 0.0), (0.3, 0.3), (0.7, 0.7), (1.0, 1.0)))
_HELD = polygon(((0.0, 0.0), (0.3, 0.27), (0.7, 0.68), (1.0, 0.9)))


def torn_paper() -> Wrinkle:
    """The clip is a sheet that is torn down and pulled apart."""
    work = Work(
        "Torn paper",
        "The clip is torn down like a sheet and pulled apart in front of the next; for stories and "
        "breaks.",
        "matte",
        "wipe",
        half=20,
    )
    work.span("outgoing", None, -16)
    sheet = work.layer("Sheet", "outgoing", -16, 16)
    tear = work.effect(sheet, "torn_paper", seed=3.0)
    work.lane(sheet, tear["torn"], (-16, 0.0, "power(1.3, in)"), (15, 100.0))
    # A hand holds it: it gives a little before it tears, and the next clip lies deeper.
    work.lane(sheet, "rotation", (-16, 0.0, "gentle"), (-6, 0.5, "gentle"), (8, -1.0))
    # Weaker, it is not torn to its end: it fades then.
    work.lane(sheet, "opacity", (7, 100.0, "gentle"), (15, 0.0))
    for one in (sheet, "incoming"):
        work.put(one, "motion_blur", False)
    deep = work.effect("incoming", "exposure")
    work.lane("incoming", deep["stops"], (-16, -0.9, "gentle"), (14, 0.0))
    work.lane("incoming", "scale", (-16, (106.0, 106.0), "gentle"), (15, (100.0, 100.0)))
    work.span("incoming", -16, None)
    work.order("incoming", "outgoing", sheet)
    work.directions("as made", "mirrored")
    work.dial("Tilt", "How far the tear leans.", (sheet, tear["tilt"]), ends=(-45.0, 45.0))
    work.dial("Rough", "How far the tear strays.", (sheet, tear["rough"]), ends=(30.0, 220.0))
    work.dial("Curl", "How far the torn edges roll over.", (sheet, tear["curl"]), ends=(2.0, 20.0))
    work.dial("Rim", "How much of the white core is seen.", (sheet, tear["rim"]),
              ends=(0.0, 300.0))  # fmt: skip
    work.dial("Shadow", "How dark the sheet shades.", (sheet, tear["shadow"]), ends=(0.0, 150.0))
    work.seed_dial()
    return work.wrinkle


def rust_creep() -> Wrinkle:
    """Rust grows from the rim and from spots, and the clip falls through it in flakes."""
    work = Work(
        "Rust creep",
        "Rust eats one clip, flake by flake, and leaves the next; for time that passes.",
        "matte",
        "wipe",
        half=42,
    )
    _over(work)
    work.span("outgoing", None, 40)
    rust = work.effect("outgoing", "rust", seed=4.0)
    work.lane("outgoing", rust["eaten"], (-40, 0.0), (39, 100.0))
    work.directions("as made", "mirrored")
    work.dial("Spots", "From how many it spreads.", ("outgoing", rust["spots"]))
    work.dial("Flakes", "How many there are across.", ("outgoing", rust["plates"]))
    work.dial("Rust", "How far it runs ahead of the holes.", ("outgoing", rust["lead"]))
    work.dial("Colour", "Of the rust.", ("outgoing", rust["colour"]))
    work.dial("Glow", "Of the rim about each hole.", ("outgoing", rust["glow"]))
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
        half=15,
    )
    work.order("incoming", "outgoing")
    work.span("incoming", None, None)
    work.span("outgoing", None, -10)
    upper = work.layer("Upper half", "outgoing", -10, 13)
    lower = work.layer("Lower half", "outgoing", -10, 13)
    corner = polygon(((-1.0, -1.0), (2.0, -1.0), (-1.0, 2.0)))
    work.mask(upper, corner)
    work.mask(lower, corner, inverted=True)

    def parting(way: float) -> tuple[Key, ...]:
        # It tears away on the cut, as fast into that frame as out of it.
        ajar, torn, gone = ((far * way, far * way) for far in (0.04, 0.32, 1.02))
        return (
            (-10, (0.0, 0.0), "snap"), (-7, ajar), (-6, ajar, "power(2.4, in)"),
            (1, torn, "power(1.4, out)"), (11, gone),
        )  # fmt: skip

    for half, way in ((upper, -1.0), (lower, 1.0)):
        work.lane(half, "position", *parting(way))
        work.put(half, "edge_cover", "bare")
        # Weaker, they do not come out of the frame: they fade then.
        work.lane(half, "opacity", (8, 100.0, "gentle"), (13, 0.0))
    shade = work.effect("incoming", "exposure")
    work.lane("incoming", shade["stops"], (-10, -2.2, "gentle"), (12, 0.0))
    # The cut face of each half catches the light.
    light = work.layer("Edge light", FillSource(), -10, 13, blend="screen")
    work.put(light, "source.colour", (1.0, 0.95, 0.85))
    band = polygon(((1.6, -0.6), (1.6, -0.604), (-0.6, 1.596), (-0.6, 1.6)))
    work.mask(light, band, feather=0.7)
    work.put(light, "edge_cover", "bare")
    work.put(light, "motion_blur", False)
    work.lane(light, "position", *parting(-1.0))
    work.lane(light, "opacity", (-10, 0.0, "snap"), (-7, 80.0), (1, 80.0, "gentle"), (6, 0.0))
    work.order("incoming", "outgoing", upper, lower, light)
    work.shutter(240.0)
    work.directions("to the upper left", "to the upper right")
    work.dial(
        "How far ajar",
        "How far the halves part, and go.",
        *((x, "position") for x in (upper, lower, light)),
        ends=(90.0, 160.0),
    )
    work.dial("Shadow", "How dark the next clip is at first.", ("incoming", shade["stops"]))
    work.dial("Edge light", "How bright the cut face is.", (light, "opacity"), ends=(0.0, 120.0))
    work.blur_dial()
    return work.wrinkle


def bar_sweep() -> Wrinkle:
    """A bar of light runs across, and the next clip follows on its edge."""
    work = Work(
        "Bar sweep",
        "A bar of light sweeps across and draws the next clip behind it; "
        "for interviews and products.",
        "wipe",
        "mask",
        half=15,
    )
    opening = _opening(work, 12)
    slot = work.clip_slot_if_filled("Between", "A clip that is seen for a moment before the bar.")
    between = work.layer("Between", slot, -12, 12)
    edge = work.layer("Edge", FillSource(), -12, 12)
    ahead = work.layer("Edge ahead", FillSource(), -12, 12)
    path = work.mask(edge, rectangle(-0.5, -0.5, 0.5, 1.5), feather=0.15)
    work.mask(ahead, rectangle(-0.5, -0.5, 0.56, 1.5), feather=0.15)
    bar = work.layer("Bar", FillSource(), -12, 12, blend="plus-lighter")
    work.mask(bar, rectangle(0.4955, -0.5, 0.5045, 1.5), feather=0.25)
    light = work.layer("Light of the bar", FillSource(), -12, 12, blend="screen")
    work.mask(light, rectangle(0.49, -0.5, 0.51, 1.5), feather=5.0)
    for lit, colour in ((bar, (1.0, 0.96, 0.88)), (light, (0.95, 0.78, 0.5))):
        work.put(lit, "source.colour", colour)
        work.change(lit, parent=edge)
    work.put(light, "opacity", 70.0)
    work.change(ahead, parent=edge)
    work.put(edge, "rotation", 12.0)
    work.lane(edge, "position", (-ACTIVE, (-0.95, 0.0), "gentle"), (ACTIVE, (0.95, 0.0)))
    for hidden in (edge, ahead):
        work.put(hidden, "visible", False)
    # Larger than the frame, so that it reaches across at any angle.
    work.put(edge, "scale", (300.0, 300.0))
    for drawn in (edge, ahead, bar, light):
        work.put(drawn, "edge_cover", "stretch")
    work.put(light, "motion_blur", False)
    soft = work.layer("Soft copy", "incoming", -12, 12)
    blur = work.effect(soft, "gaussian_blur", radius=6.0)
    for behind in (soft, opening):
        work.matte(behind, edge)
    work.matte(between, ahead)
    work.lane(opening, "opacity", (-6, 0.0, "gentle"), (8, 100.0))
    work.order("outgoing", edge, ahead, between, soft, opening, "incoming", light, bar)
    work.directions("from the left", "from the right")
    work.dial("Angle", "How far the bar leans.", (edge, "rotation"), ends=(-25.0, 25.0))
    work.dial("Bar", "Its colour.", (bar, "source.colour"))
    work.dial("Light", "The colour of what it throws.", (light, "source.colour"))
    work.dial("Light falls", "How much of it.", (light, "opacity"))
    work.dial("Soft edge", "Of the clip behind the bar.",
              (edge, path.replace("path", "feather")), ends=(0.0, 4.0))  # fmt: skip
    work.dial("Soft copy", "How soft the clip is at first.", (soft, blur["radius"]),
              ends=(0.0, 14.0))  # fmt: skip
    return work.wrinkle


def iris() -> Wrinkle:
    """A round opening grows from the middle with a lit rim, over its own shadow."""
    work = Work(
        "Iris",
        "The next clip opens from a point in the middle; for arrivals.",
        "mask",
        "zoom",
        half=15,
    )
    opening = _opening(work, 12)
    point, wide = circle(0.001), circle(1.2)
    rim = work.round_mask(opening, point, feather=0.8)
    work.lane(opening, rim, (-ACTIVE, point, "gentle"), (ACTIVE, wide))
    work.lane(opening, "scale", (-ACTIVE, (128.0, 128.0), "gentle"), (ACTIVE, (100.0, 100.0)))
    work.lane("outgoing", "scale", (-ACTIVE, (100.0, 100.0), "gentle"), (ACTIVE, (118.0, 118.0)))
    dark = work.effect("outgoing", "exposure")
    work.lane("outgoing", dark["stops"], (-ACTIVE, 0.0, "gentle"), (ACTIVE, -1.2))
    shadow = work.layer("Shadow", None, -ACTIVE, 12)
    lies = work.effect(shadow, "exposure", stops=-1.8)
    cast = work.round_mask(shadow, point, feather=11.0, expansion=3.0)
    ring = work.layer("Rim", ShapeSource(), -ACTIVE, 12, blend="screen")
    for key, value in (
        ("filled", False),
        ("stroke", (1.0, 0.9, 0.74)),
        ("stroke_width", 0.9),
        ("keeps_form", True),
    ):
        work.put(ring, f"source.{key}", value)
    # The opening rides on a clip that shrinks: what goes with it is so much larger.
    frames = range(-ACTIVE, ACTIVE + 1, 2)
    seen = [(frame, _eased((frame + ACTIVE) / (2.0 * ACTIVE))) for frame in frames]
    sizes = [(frame, 0.001 + 1.199 * x, 1.28 - 0.28 * x) for frame, x in seen]
    for layer, path in ((shadow, cast), (ring, "source.path")):
        work.lane(layer, path, *((frame, circle(size * near)) for frame, size, near in sizes))
        work.put(layer, "edge_cover", "bare")
    # The edge is soft enough for its speed; a shutter would draw it nine times.
    for layer in (opening, shadow, ring):
        work.put(layer, "motion_blur", False)
    work.order("outgoing", shadow, opening, "incoming", ring)
    work.only_as_made("from the middle")
    work.dial("Soft edge", "How soft the rim is.", (opening, rim.replace("path", "feather")),
              ends=(0.0, 12.0))  # fmt: skip
    work.dial("Zoom", "How far the new clip is nearer at first.", (opening, "scale"))
    work.dial("Shadow", "How dark it lies on the clip behind.", (shadow, lies["stops"]),
              ends=(-3.0, 0.0))  # fmt: skip
    work.dial("Rim", "The colour of its light.", (ring, "source.stroke"))
    work.dial("Rim light", "Whether it catches the light.", (ring, "visible"))
    work.aside(
        "pixels", "The next clip is seen enlarged only while the opening is small.", "opening"
    )
    return work.wrinkle


def _eased(share: float) -> float:
    """How far a gentle motion has come at a share of its time."""
    return float(FEELS["gentle"].at(share))


def blinds() -> Wrinkle:
    """Six slats turn over one after the other, and the next clip is on their backs."""
    work = Work(
        "Blinds",
        "Slats turn over one after the other with the next clip on them; for lists and places.",
        "wipe",
        half=HALF,
    )
    work.span("outgoing", None, 12)
    work.span("incoming", 12, None)
    count, slats, lights = 6, [], []
    for number in range(count):
        first = -ACTIVE + 2 * number
        slat = work.layer(f"Slat {number + 1}", "incoming", first, 12)
        middle = (number + 0.5) / count
        work.mask(slat, rectangle(-0.5, number / count, 1.5, (number + 1) / count))
        work.put(slat, "anchor", (0.5, middle))
        work.put(slat, "camera", 200.0)
        work.put(slat, "edge_cover", "bare")
        work.put(slat, "motion_blur", False)
        work.lane(slat, "tilt", (first, (-88.0, 0.0), "brake"), (first + 11, (0.0, 0.0)))
        # It comes out of the dark into the light, and past the brightest of it.
        lit = work.effect(slat, "exposure")
        work.lane(
            slat,
            lit["stops"],
            (first, -1.8, "brake"),
            (first + 6, 0.34, "gentle"),
            (first + 12, 0.0),
        )
        slats.append(slat)
        lights.append((slat, lit["stops"]))
    work.order("outgoing", *slats, "incoming")
    work.directions("from above", "from below", Direction.UP_DOWN)
    work.dial("Turn", "From how far they turn.", *((slat, "tilt") for slat in slats),
              ends=(40.0, 100.0))  # fmt: skip
    work.dial("Light", "How much the light on them changes.", *lights)
    return work.wrinkle


def clock_sweep() -> Wrinkle:
    """A lit hand sweeps once round the middle, and the next clip is behind it."""
    work = Work(
        "Clock sweep",
        "A hand of light sweeps once round the frame; for time and for lists.",
        "wipe",
        "mask",
        half=18,
    )
    opening = _opening(work, 16)
    path = work.mask(opening, _swept(0.0), feather=2.5)
    # It sets off and arrives gently: the share of the turn on each of its slices.
    shares = [n / _SLICES for n in range(_SLICES + 1)]
    keys = [(15.0 * (-1.0 + 2.0 * _time_of(share)), share) for share in shares]
    work.lane(opening, path, *((time, _swept(share)) for time, share in keys))
    glow = work.layer("Light of the hand", FillSource(), -16, 16, blend="screen")
    hand = work.layer("Hand", FillSource(), -16, 16, blend="plus-lighter")
    drawn = {}
    for layer, colour, wide, feather in (
        (glow, (0.9, 0.66, 0.36), 0.05, 9.0),
        (hand, (1.0, 0.94, 0.82), 0.006, 0.5),
    ):
        work.put(layer, "source.colour", colour)
        work.put(layer, "edge_cover", "bare")
        own = work.mask(layer, _pointing(0.0, wide), feather=feather)
        work.lane(layer, own, *((time, _pointing(share, wide)) for time, share in keys))
        work.lane(
            layer, "opacity", (-15, 0.0, "gentle"), (-10, 85.0), (10, 85.0, "gentle"), (15, 0.0)
        )
        drawn[layer] = own
    # A hand is no thing that was filmed: it is drawn sharp, and softened by its edge alone.
    for layer in (opening, glow, hand):
        work.put(layer, "motion_blur", False)
    work.order("outgoing", opening, "incoming", glow, hand)
    work.directions("clockwise", "counter-clockwise")
    work.dial("Soft edge", "Behind the hand.", (opening, path.replace("path", "feather")),
              ends=(0.0, 9.0))  # fmt: skip
    work.dial("Hand", "How bright it is.", (hand, "opacity"), ends=(0.0, 115.0))
    work.dial("Light", "How much it throws.", (glow, "opacity"), ends=(0.0, 115.0))
    work.dial("Colour", "Of the light that it throws.", (glow, "source.colour"))
    return work.wrinkle


_SLICES = 15
"""An odd number: at the cut the hand is in the middle of a slice, and so goes on evenly."""


def _time_of(share: float) -> float:
    """When the hand is at a share of its turn, both 0…1: slower at its ends."""
    return 0.5 + math.asin(2.0 * share - 1.0) / math.pi


def _around(share: float) -> tuple[float, float]:
    """Where the hand points to, beyond the frame."""
    turn = 2.0 * math.pi * share
    return 0.5 + math.sin(turn), 0.5 - math.cos(turn)


def _pointing(share: float, wide: float) -> tuple[float, ...]:
    """The hand: from the middle, so wide at its end."""
    turn = 2.0 * math.pi * share
    x, y = _around(share)
    aside = wide * math.cos(turn), wide * math.sin(turn)
    return polygon(((0.5, 0.5), (x - aside[0], y - aside[1]), (x + aside[0], y + aside[1])))


def _swept(share: float) -> tuple[float, ...]:
    """What a hand has swept over of a frame, from the top, clockwise: a fan of slices."""
    corners = [(0.5, 0.5)]
    corners += [_around(min(n / _SLICES, share)) for n in range(_SLICES + 1)]
    return polygon(corners)


RECIPES = {
    "torn_paper": torn_paper,
    "luma_melt": luma_melt,
    "rust_creep": rust_creep,
    "corner_split": corner_split,
    "bar_sweep": bar_sweep,
    "iris": iris,
    "blinds": blinds,
    "clock_sweep": clock_sweep,
}
