"""Wrinkles that carry words."""

from __future__ import annotations

from recipes.bench import Work, circle
from wrinkle.core.design.document.sources import FillSource, NoiseSource, WordsSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.picture.paths import rectangle


def liquid_title() -> Wrinkle:
    """A light crosses the frame, a ring opens, and a title comes to rest out of the water."""
    work = Work(
        "Liquid title",
        "A light crosses the frame and a title comes to rest behind it as if out of water; "
        "for openings and chapters.",
        "title",
        "colour",
        half=24,
    )
    title = work.words_slot("Title", "A word or two.", "TIDEWIND")
    texture = work.layer("Streaks", NoiseSource(), -19, 19, blend="overlay")
    for key, value in (("cell", (70.0, 4.0)), ("contrast", 70.0), ("complexity", 2.0)):
        work.put(texture, f"source.{key}", value)
    work.lane(texture, "source.evolution", (-19, 0.0), (19, 0.5))
    work.lane(texture, "opacity", (-19, 0.0, "gentle"), (-3, 45.0), (9, 45.0, "gentle"), (19, 0.0))
    colours = work.layer("Two colours", None, -20, 20)
    pale = work.effect(colours, "saturation")
    work.lane(colours, pale["saturation"], (-19, 100.0, "gentle"), (0, 45.0, "gentle"), (19, 100.0))
    tint = work.effect(
        colours,
        "colour_wash",
        form="radial",
        colour=(0.75, 0.42, 0.2),
        colour_2=(0.02, 0.2, 0.3),
        start=(0.5, 0.5),
        end=(1.05, 0.5),
    )
    work.peak(colours, tint["amount"], 62.0, "gentle", 19)
    ring = work.layer("Ring", FillSource(), -10, 16, blend="screen")
    work.put(ring, "source.colour", (0.95, 0.78, 0.55))
    work.put(ring, "edge_cover", "bare")
    work.round_mask(ring, circle(0.4), feather=7.0)
    work.round_mask(ring, circle(0.36), feather=7.0, combine="subtract")
    work.lane(ring, "scale", (-10, (4.0, 4.0), "brake"), (15, (150.0, 150.0)))
    work.lane(ring, "opacity", (-10, 0.0, "gentle"), (-4, 70.0, "gentle"), (14, 0.0))
    spark = work.layer("Light", FillSource(), -17, 10, blend="screen")
    work.put(spark, "source.colour", (1.0, 0.93, 0.8))
    work.put(spark, "edge_cover", "bare")
    work.round_mask(spark, circle(0.035), feather=6.0)
    glow = work.effect(spark, "glow", amount=260.0, radius=34.0, threshold=10.0)
    work.lane(spark, "position", (-17, (-0.85, 0.16), "gentle"), (9, (0.85, -0.16)))
    words = work.layer("Title", WordsSource(text="TIDEWIND", slot=title), -8, 20)
    work.put(words, "source.size", 15.0)
    work.put(words, "source.tracking", 0.8)
    work.lane(words, "opacity", (-8, 0.0, "gentle"), (0, 100.0), (13, 100.0, "gentle"), (19, 0.0))
    soft = work.effect(words, "gaussian_blur")
    work.lane(words, soft["radius"], (-8, 9.0, "gentle"), (4, 0.0))
    liquid = work.effect(words, "noise_warp", character="swirl", size=22.0, complexity=3.0)
    work.lane(words, liquid["amount"], (-8, 16.0, "gentle"), (9, 0.0))
    work.lane(words, liquid["evolution"], (-8, 0.0), (9, 0.3))
    shine = work.effect(words, "glow", radius=16.0, threshold=20.0)
    work.lane(words, shine["amount"], (-8, 220.0, "gentle"), (10, 0.0))
    swell = work.layer("Swell", None, -19, 19)
    bulge = work.effect(swell, "bulge", radius=62.0)
    work.peak(swell, bulge["amount"], 42.0, "gentle", 18)
    work.order("outgoing", "incoming", texture, colours, ring, spark, words, swell)
    work.directions("from the left", "from the right")
    work.dial("Liquid", "How far the letters flow at first.", (words, liquid["amount"]))
    work.dial("Title colour", "Of the letters.", (words, "source.fill"))
    work.dial("Two colours", "How strong the wash is.", (colours, tint["amount"]))
    work.dial("Light", "How bright what crosses is.", (spark, glow["amount"]))
    work.dial("Ring", "Whether the ring opens.", (ring, "visible"))
    work.dial("Swell", "How far all of it swells at the cut.", (swell, bulge["amount"]))
    return work.wrinkle


def two_weathers() -> Wrinkle:
    """Cold weather lies over the frame, rests, and slides off the warm one."""
    work = Work(
        "Two weathers",
        "The weather turns: a cold picture rests and slides off a warm one, each with its word; "
        "made for one clip on both sides, good for two.",
        "colour",
        "wipe",
        "title",
        half=24,
    )
    first = work.words_slot("First word", "Over the cold side.", "BEFORE")
    second = work.words_slot("Second word", "Over the warm side.", "AFTER")
    warm = work.lut("incoming", "late_gold.cube")
    work.lane("incoming", warm, (0, 100.0, "steady"), (12, 100.0, "gentle"), (19, 0.0))
    after = work.layer("Second word", WordsSource(text="AFTER", slot=second), 0, 20)
    before = work.layer("First word", WordsSource(text="BEFORE", slot=first), -17, 12)
    for words in (after, before):
        work.put(words, "source.size", 15.0)
        work.put(words, "source.tracking", 1.2)
    work.lane(before, "opacity", (-17, 0.0, "gentle"), (-11, 100.0))
    work.lane(after, "opacity", (13, 100.0, "gentle"), (19, 0.0))
    leaves = work.layer("Slides off", "outgoing", 0, 12)
    whole, gone = rectangle(-0.1, -0.1, 1.1, 1.1), rectangle(1.1, -0.1, 2.3, 1.1)
    cold, edges = [], []
    for side in ("outgoing", leaves):
        amount = work.lut(side, "cold_morning.cube")
        cold.append((side, amount))
        work.lane(side, amount, (-19, 0.0, "gentle"), (-9, 100.0))
    for side in (leaves, before):
        path = work.mask(side, whole, feather=0.6)
        work.lane(side, path, (0, whole, "gentle"), (11, gone))
        edges.append((side, path.replace("path", "feather")))
    work.order("outgoing", "incoming", after, leaves, before)
    work.directions("off to the right", "off to the left")
    work.dial("Cold", "How cold the first side is.", *cold)
    work.dial("Warm", "How golden the second side is.", ("incoming", warm))
    work.dial("Soft edge", "Of what slides off.", *edges)
    work.dial("Word colour", "Of both words.", (before, "source.fill"), (after, "source.fill"))
    work.dial("Words", "Whether there are words.", (before, "visible"), (after, "visible"))
    work.aside("words", "The second word only answers the first.", "second-word", "source.text")
    return work.wrinkle


RECIPES = {"liquid_title": liquid_title, "two_weathers": two_weathers}
"""By the folder of each."""
