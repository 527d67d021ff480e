"""Wrinkles that carry words."""

from __future__ import annotations

from recipes.bench import Work, circle
from wrinkle.core.design.document.sources import FillSource, ShapeSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.picture.faces import ShippedFace
from wrinkle.core.picture.paths import rectangle


def liquid_title() -> Wrinkle:
    """A light crosses the frame, a ring opens, and a title comes to rest out of the water."""
    work = Work(
        "Liquid title",
        "A light crosses the frame and a title comes to rest behind it as if out of water; "
        "for openings and chapters.",
        "title",
        "colour",
    )
    work.lengths(20, 44)
    title = work.words_slot("Title", "A word or two.", "Title")
    colours = work.layer("Two colours", None, -19, 42)
    # A soft light keeps the darks dark and the lights light: only what is between is tinted.
    tint = work.effect(
        colours,
        "colour_wash",
        blend="soft light",
        form="radial",
        colour=(0.95, 0.5, 0.2),
        colour_2=(0.01, 0.16, 0.3),
        start=(0.5, 0.5),
        end=(1.05, 0.5),
    )
    work.lane(
        colours, tint["amount"],
        (-18, 0.0, "gentle"), (0, 85.0, "gentle"), (28, 60.0, "gentle"), (41, 0.0),
    )  # fmt: skip
    ring = work.layer("Ring", ShapeSource(), -10, 16, blend="screen")
    for key, value in (
        ("filled", False),
        ("stroke", (0.95, 0.78, 0.55)),
        ("stroke_width", 1.2),
        ("keeps_form", True),
        ("path", circle(0.4)),
    ):
        work.put(ring, f"source.{key}", value)
    work.put(ring, "edge_cover", "bare")
    work.lane(ring, "scale", (-10, (4.0, 4.0), "brake"), (15, (260.0, 260.0)))
    work.lane(ring, "opacity", (-10, 0.0, "gentle"), (-4, 70.0, "gentle"), (14, 0.0))
    spark = work.layer("Light", FillSource(), -18, 13, blend="screen")
    work.put(spark, "source.colour", (1.0, 0.88, 0.68))
    work.put(spark, "edge_cover", "bare")
    work.put(spark, "motion_blur", False)
    work.round_mask(spark, circle(0.06), feather=22.0)
    glow = work.effect(spark, "glow", amount=180.0, radius=40.0, threshold=5.0)
    work.lane(spark, "position", (-17, (-0.95, 0.14), "gentle"), (12, (0.95, -0.14)))
    work.lane(
        spark, "scale", (-17, (160.0, 90.0), "gentle"), (-2, (520.0, 220.0), "gentle"),
        (12, (160.0, 90.0)),
    )  # fmt: skip
    words = work.words("Title", title, "Title", -9, 43, ShippedFace.SERIF, size=17.0, tracking=0.6)
    work.lane(words, "opacity", (-9, 0.0, "gentle"), (0, 100.0), (33, 100.0, "gentle"), (42, 0.0))
    soft = work.effect(words, "gaussian_blur")
    work.lane(words, soft["radius"], (-9, 8.0, "gentle"), (4, 0.0))
    liquid = work.effect(words, "noise_warp", character="swirl", size=22.0, complexity=3.0)
    work.lane(words, liquid["amount"], (-9, 15.0, "gentle"), (8, 0.0))
    work.lane(words, liquid["evolution"], (-9, 0.0), (8, 0.3))
    shade = work.shaded(words)
    shine = work.effect(words, "glow", radius=14.0, threshold=20.0)
    work.lane(words, shine["amount"], (-9, 200.0, "gentle"), (10, 30.0, "steady"), (33, 30.0))
    swell = work.layer("Swell", None, -15, 15)
    bulge = work.effect(swell, "bulge", radius=62.0)
    work.peak(swell, bulge["amount"], 36.0, "gentle", 13)
    work.order("outgoing", "incoming", colours, swell, ring, shade, words, spark)
    work.directions("from the left", "from the right")
    work.dial("Liquid", "How far the letters flow at first.", (words, liquid["amount"]),
              (shade, liquid["amount"]))  # fmt: skip
    work.dial("Title colour", "Of the letters.", (words, "source.fill"))
    work.title_dials(words, shade, largest=30.0)
    work.dial("Two colours", "How strong the wash is.", (colours, tint["amount"]),
              ends=(0.0, 117.0))  # fmt: skip
    work.dial("Light", "How bright what crosses is.", (spark, glow["amount"]), ends=(0.0, 400.0))
    work.dial("Swell", "How far all of it swells at the cut.", (swell, bulge["amount"]))
    return work.wrinkle


def two_weathers() -> Wrinkle:
    """Cold weather lies over the frame and slides off the warm one through the cut."""
    work = Work(
        "Two weathers",
        "The weather turns: a cold picture slides off a warm one, each with its word; "
        "for one clip on both sides, or for two.",
        "colour",
        "wipe",
        "title",
        half=37,
    )
    first = work.words_slot("First word", "Over the cold side.", "Before")
    second = work.words_slot("Second word", "Over the warm side.", "After")
    work.span("outgoing", None, -8)
    work.span("incoming", -8, None)
    warm = work.lut("incoming", "late_gold.cube")
    lifted = work.effect("incoming", "white_balance")
    glow = work.effect(
        "incoming", "glow", radius=24.0, threshold=55.0, tint=(1.0, 0.8, 0.55), hold=80.0
    )
    for key, most in ((warm, 85.0), (lifted["temperature"], 8.0), (glow["amount"], 8.0)):
        work.lane("incoming", key, (-8, most, "steady"), (18, most, "gentle"), (32, 0.0))
    leaves = work.layer("Slides off", "outgoing", -8, 9)
    cold, edges = [], []
    for side in ("outgoing", leaves):
        amount = work.lut(side, "cold_morning.cube")
        drained = work.effect(side, "saturation")
        work.lane(side, amount, (-33, 0.0, "gentle"), (-22, 100.0))
        work.lane(side, drained["saturation"], (-33, 100.0, "gentle"), (-22, 55.0))
        cold += [(side, amount), (side, drained["saturation"])]
    before = work.words("First word", first, "Before", -33, 9, ShippedFace.CONDENSED, size=17.0,
                        tracking=0.5)  # fmt: skip
    after = work.words("Second word", second, "After", -8, 33, ShippedFace.CONDENSED, size=17.0,
                       tracking=0.5)  # fmt: skip
    work.lane(before, "opacity", (-32, 0.0, "gentle"), (-27, 100.0))
    work.lane(after, "opacity", (26, 100.0, "gentle"), (32, 0.0))
    whole, gone = rectangle(-0.1, -0.1, 1.1, 1.1), rectangle(1.1, -0.1, 2.3, 1.1)
    shades = [work.shaded(x, 60.0) for x in (after, before)]
    for side in (leaves, before, shades[1]):
        path = work.mask(side, whole, feather=1.2)
        work.lane(side, path, (-8, whole, "gentle"), (8, gone))
        work.put(side, "motion_blur", False)
        edges.append((side, path.replace("path", "feather")))
    # Where it leaves, its edge catches the light of the warm side.
    light = work.layer("Edge light", FillSource(), -8, 9, blend="screen")
    work.put(light, "source.colour", (1.0, 0.78, 0.45))
    work.put(light, "motion_blur", False)
    work.put(light, "edge_cover", "bare")
    lit = work.mask(light, _band(whole[0]), feather=4.0)
    work.lane(light, lit, (-8, _band(-0.1), "gentle"), (8, _band(1.1)))
    work.order("outgoing", "incoming", shades[0], after, leaves, shades[1], before, light)
    work.directions("off to the right", "off to the left")
    work.dial("Cold", "How cold the first side is.", *cold)
    work.dial("Warm", "How golden the second side is.", ("incoming", warm),
              ("incoming", lifted["temperature"]), ends=(0.0, 100.0))  # fmt: skip
    work.dial("Soft edge", "Of what slides off.", *edges, ends=(0.0, 12.0))
    work.dial("Word colour", "Of both words.", (before, "source.fill"), (after, "source.fill"))
    work.title_dials(before, after, *shades, largest=30.0)
    work.dial(
        "Words", "Whether there are words.", *((x, "visible") for x in (before, after, *shades))
    )
    return work.wrinkle


def _band(x: float) -> tuple[float, ...]:
    """A thin line down the frame."""
    return rectangle(x - 0.003, -0.1, x + 0.003, 1.1)


RECIPES = {"liquid_title": liquid_title, "two_weathers": two_weathers}
"""By the folder of each."""
