"""Wrinkles that are led by a clip of something else: ink in water, fog from the sea."""

from __future__ import annotations

from recipes.bench import Work
from wrinkle.core.design.document.masking import MatteBy
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.timing import Timing
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import effect_edits
from wrinkle.core.picture.paths import polygon


def ink_bloom() -> Wrinkle:
    """The next clip soaks in where ink spreads, on paper, under a dark rim."""
    work = Work(
        "Ink bloom",
        "The next clip soaks in where ink spreads on paper; for stories and memories.",
        "matte",
        "wipe",
        half=18,
    )
    work.span("outgoing", None, 14)
    work.span("incoming", 14, None)
    slot = work.clip_slot("Ink", "Dark that spreads over light.", "ink.mp4", 0.75)
    blot = work.layer("Blot", slot, -14, 14)
    work.change(blot, timing=Timing(speed=Setting(170.0)))
    work.put(blot, "visible", False)
    # Whatever clip is in the slot: all light at first, all dark at last.
    work.effect(blot, "tone", contrast=75.0, blacks=-60.0)
    level = work.effect(blot, "exposure")
    work.lane(
        blot,
        level["stops"],
        (-14, 8.0, "brake"),
        (-9, 0.0, "steady"),
        (8, 0.0, "rush"),
        (13, -14.0),
    )
    bloom = work.layer("Bloom", "incoming", -14, 14)
    work.matte(bloom, blot, MatteBy.BRIGHTNESS, inverted=True)
    curves = work.effect(bloom, "curves")
    for channel, low, high in (("red", 0.2, 0.8), ("green", 0.19, 0.76), ("blue", 0.26, 0.66)):
        bent = polygon(((0.0, 0.0), (0.25, low), (0.75, high), (1.0, 1.0)))
        work.put(bloom, curves[channel], _PLAIN)
        work.lane(bloom, curves[channel], (-14, bent, "steady"), (0, bent, "gentle"), (13, _PLAIN))
    paper = work.layer("Paper", None, -13, 13)
    ground = work.effect(paper, "ground", blend="divide", size=0.5, relief=160.0)
    work.lane(
        paper,
        ground["amount"],
        (-13, 0.0, "gentle"),
        (-6, 85.0, "steady"),
        (5, 85.0, "gentle"),
        (13, 0.0),
    )
    rim = work.layer("Rim")
    dark = work.effect(
        rim, "vignette", colour=(0.02, 0.015, 0.01), feather=170.0, size=95.0, noise=45.0
    )
    work.peak(rim, dark["amount"], 75.0, "gentle", 13)
    work.order("outgoing", "incoming", blot, bloom, paper, rim)
    work.directions("as made", "mirrored")
    work.dial("Paper", "How much of the paper is seen.", (paper, ground["amount"]))
    work.dial("Rim", "How dark the rim is.", (rim, dark["amount"]))
    work.dial("Ink", "How fast it spreads.", (blot, "timing.speed"))
    work.seed_dial()
    return work.wrinkle


_PLAIN = polygon(((0.0, 0.0), (0.25, 0.25), (0.75, 0.75), (1.0, 1.0)))


def sea_fog() -> Wrinkle:
    """Fog rolls over the scene, and another one is there when it clears."""
    work = Work(
        "Sea fog",
        "Fog rolls in, the air trembles, and it clears on the next clip; for landscapes.",
        "matte",
        "colour",
        half=24,
    )
    work.span("outgoing", None, 14)
    work.span("incoming", 13, None)
    slot = work.clip_slot("Fog", "Light that drifts over black.", "fog.mp4", 1.2)
    shape = work.layer("Where it is thick", slot, -14, 13)
    work.put(shape, "visible", False)
    rise = work.effect(shape, "exposure")
    work.lane(shape, rise["stops"], (-14, -12.0, "brake"), (0, 0.0, "rush"), (13, 12.0))
    hard = work.effect(shape, "tone", contrast=70.0)
    cover = work.layer("Clearing", "incoming", -14, 13)
    work.matte(cover, shape, MatteBy.BRIGHTNESS)
    air = work.layer("Air")
    guide = work.layer("Push", slot)
    work.put(guide, "visible", False)
    shift = work.effect(air, "displace", soften=4.0)
    use = shift["across"].split(".")[1].split(":")[0]
    work.wrinkle = effect_edits.change_effect(work.wrinkle, air, use, layer=guide)
    for key, goal in (("across", 6.0), ("down", 4.0)):
        work.peak(air, shift[key], goal, "gentle", 18)
    heat = work.effect(air, "ripple", wavelength=9.0, speed=2.5)
    work.peak(air, heat["amount"], 0.6, "gentle", 18)
    trembling = work.effect(air, "flicker", rate=9.0)
    work.peak(air, trembling["amount"], 0.15, "gentle", 18)
    tone = work.effect(air, "tone")
    work.peak(air, tone["contrast"], -35.0, "gentle", 18)
    work.peak(air, tone["blacks"], 30.0, "gentle", 18)
    fog = work.layer("Fog", slot, blend="screen")
    work.put(fog, "scale", (112.0, 112.0))
    work.lane(fog, "opacity", (-19, 0.0, "gentle"), (0, 100.0, "gentle"), (19, 0.0))
    match = work.effect(fog, "colour_match", lightness=25.0)
    work.put(fog, match["amount"], 70.0)
    work.peak(air, "scale", (107.0, 107.0), "gentle", 18)
    grade = work.layer("Grade")
    cold = work.effect(grade, "colour_wash", colour=(0.55, 0.68, 0.8), blend="color")
    work.peak(grade, cold["amount"], 35.0, "gentle", 19)
    work.order("outgoing", "incoming", shape, cover, guide, air, fog, grade)
    work.directions("as made", "mirrored")
    work.dial("Fog", "How thick it gets.", (fog, "opacity"))
    work.dial("Push", "How far the fog shoves the picture.", (air, shift["across"]))
    work.dial(
        "Heat", "How much the air trembles.", (air, heat["amount"]), (air, trembling["amount"])
    )
    work.dial("Edge", "How sharply the next clip comes through.", (shape, hard["contrast"]))
    work.dial("Cold", "How grey and blue it gets.", (grade, cold["amount"]))
    work.blur_dial()
    return work.wrinkle


RECIPES = {"ink_bloom": ink_bloom, "sea_fog": sea_fog}
