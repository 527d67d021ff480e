"""Wrinkles that are led by a clip of something else: ink in water, fog from the sea."""

from __future__ import annotations

from recipes.bench import Work
from wrinkle.core.design.document.masking import MatteBy
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import effect_edits


def ink_bloom() -> Wrinkle:
    """The next clip stands where drops of ink soak through paper."""
    work = Work(
        "Ink bloom",
        "The next clip soaks in where drops of ink bleed through paper; for stories and memories.",
        "matte",
        "wipe",
        half=23,
    )
    work.span("outgoing", None, 19)
    work.span("incoming", 19, None)
    soaked = work.layer("Soaks in", "incoming", -19, 19)
    ink = work.effect(soaked, "wet_ink", seed=4.0)
    work.lane(soaked, ink["soaked"], (-19, 0.0), (18, 100.0))
    work.order("outgoing", soaked, "incoming")
    work.directions("as made", "mirrored")
    work.dial("Drops", "How many fall.", (soaked, ink["drops"]))
    work.dial("Fingers", "How far it runs along the fibres.", (soaked, ink["fingers"]))
    work.dial("Ink", "How dark it is.", (soaked, ink["density"]))
    work.dial("Colour", "Of the ink.", (soaked, ink["colour"]))
    work.dial("Paper", "How much of it is seen.", (soaked, ink["paper"]))
    work.seed_dial()
    return work.wrinkle


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
    heat = work.effect(air, "ripple", wavelength=15.0, speed=1.3)
    work.peak(air, heat["amount"], 0.6, "gentle", 18)
    trembling = work.effect(air, "flicker", rate=9.0)
    work.peak(air, trembling["amount"], 0.15, "gentle", 18)
    grade = work.layer("Grade")
    # The air lifts what is dark.
    air_light = work.effect(grade, "lift_gamma_gain")
    work.peak(grade, air_light["lift"], (0.55, 0.56, 0.575), "gentle", 18)
    work.peak(grade, air_light["gain"], (0.475, 0.47, 0.455), "gentle", 18)
    grey = work.effect(grade, "saturation")
    work.peak(grade, grey["saturation"], 76.0, "gentle", 18)
    cold = work.effect(grade, "white_balance")
    work.peak(grade, cold["temperature"], -18.0, "gentle", 18)
    fog = work.layer("Fog", slot, blend="screen")
    # It comes nearer all the time.
    work.lane(fog, "scale", (-19, (108.0, 108.0), "steady"), (19, (124.0, 124.0)))
    work.put(fog, "motion_blur", False)
    work.lane(fog, "opacity", (-19, 0.0, "gentle"), (0, 100.0, "gentle"), (19, 0.0))
    work.order("outgoing", "incoming", shape, cover, guide, air, fog, grade)
    work.directions("as made", "mirrored")
    work.dial("Fog", "How thick it gets.", (fog, "opacity"))
    work.dial("Push", "How far the fog shoves the picture.", (air, shift["across"]))
    work.dial(
        "Heat", "How much the air trembles.", (air, heat["amount"]), (air, trembling["amount"])
    )
    work.dial("Edge", "How sharply the next clip comes through.", (shape, hard["contrast"]))
    work.dial("Cold", "How grey and blue it gets.", (grade, cold["temperature"]),
              (grade, grey["saturation"]))  # fmt: skip
    work.blur_dial()
    return work.wrinkle


RECIPES = {"ink_bloom": ink_bloom, "sea_fog": sea_fog}
