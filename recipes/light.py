"""Wrinkles of light and colour."""

from __future__ import annotations

from msgspec.structs import replace

from recipes.bench import ACTIVE, Work
from wrinkle.core.design.document.looks import Look
from wrinkle.core.design.document.wrinkle import Wrinkle


def bright_haze() -> Wrinkle:
    """Glow and blur rise until all is white, and fall again on the next clip."""
    work = Work(
        "Bright haze",
        "Light swells until the clip is white, and clears on the next; for memories and mornings.",
        "flash",
        "colour",
    )
    haze = work.layer("Haze")
    blur = work.effect(haze, "gaussian_blur")
    work.peak(haze, blur["radius"], 7.0, "gentle")
    glow = work.effect(haze, "glow", radius=38.0, threshold=20.0)
    work.peak(haze, glow["amount"], 200.0)
    rim = work.effect(haze, "vignette", colour=(1.0, 0.98, 0.94), feather=130.0)
    work.peak(haze, rim["amount"], 100.0, reach=6)
    work.peak(haze, rim["size"], 30.0, reach=6)
    light = work.effect(haze, "exposure")
    work.peak(haze, light["stops"], 1.1, reach=8)
    gold = work.lut(haze, "late_gold.cube")
    work.peak(haze, gold, 80.0, "gentle")
    grain = work.effect(haze, "grain", size=0.35)
    work.peak(haze, grain["amount"], 26.0, "gentle")
    # Faster, then slow into the cut; what is gained before is lost again, so that the clip is
    # where it was at either end.
    for side, way in (("outgoing", -1), ("incoming", 1)):
        keys = ((ACTIVE, 100.0), (ACTIVE / 2, 140.0), (0, 20.0))
        work.speed(side, *((way * frame, speed) for frame, speed in keys[:: way * -1]))
    work.only_as_made("as made")
    work.dial("Light", "How bright it gets.", (haze, light["stops"]), (haze, glow["amount"]))
    work.dial("Blur", "How soft it gets.", (haze, blur["radius"]))
    work.dial("Look", "How golden it gets.", (haze, gold))
    work.dial("Grain", "How much film grain there is.", (haze, grain["amount"]))
    work.aside("clipped", "The haze is to burn out around the cut: that hides it.")
    return work.wrinkle


def look_back() -> Wrinkle:
    """A flash, after which the next clip is remembered in other colours until it is itself."""
    work = Work(
        "Look back",
        "A flash, and the next clip begins in the colours of a memory; for a look back.",
        "flash",
        "colour",
    )
    tint = work.layer("Memory", None, 0, None)
    ways = work.effect(tint, "three_way", low_hue=205.0, middle_hue=38.0, high_hue=44.0)
    for part, amount in (("low", 46.0), ("middle", 30.0), ("high", 52.0)):
        work.lane(tint, ways[f"{part}_amount"], (0, amount, "gentle"), (ACTIVE, 0.0))
    glow = work.effect(tint, "glow", tint=(1.0, 0.78, 0.5), radius=26.0, threshold=45.0)
    work.lane(tint, glow["amount"], (0, 140.0, "gentle"), (ACTIVE, 0.0))
    flash = work.layer("Flash")
    white = work.effect(flash, "flash", colour=(1.0, 0.95, 0.86))
    work.lane(flash, white["amount"], (-4, 0.0, "swell"), (0, 92.0, "gentle"), (9, 0.0))
    work.only_as_made("as made")
    work.dial("Flash", "How bright the flash is.", (flash, white["amount"]))
    work.dial("Flash colour", "Of the flash.", (flash, white["colour"]))
    work.dial(
        "Memory",
        "How strange the colours are at first.",
        (tint, ways["low_amount"]),
        (tint, ways["middle_amount"]),
        (tint, ways["high_amount"]),
    )
    work.dial("Glow", "How much the lights spread.", (tint, glow["amount"]))
    work.dial("Glow colour", "Of the lights that spread.", (tint, glow["tint"]))
    work.aside("clipped", "The light that looks back is to burn out on bright clips.")
    return work.wrinkle


def looks() -> tuple[Look, ...]:
    """What *Look back* is made of, each part under a name of its own for other clips."""
    wrinkle = look_back()
    balance, glow = next(x for x in wrinkle.layers if x.name == "Memory").effects
    return (
        Look("Warm memory", (replace(balance, id="e1"),)),
        Look("Amber afterglow", (replace(glow, id="e1"),)),
    )


def light_burn() -> Wrinkle:
    """Warm light runs in from the side, burns out at the cut and leaves on the other side."""
    work = Work(
        "Light burn",
        "Warm light runs across the frame and burns it out at the cut; for summer and film.",
        "flash",
        "wipe",
    )
    burn = work.layer("Burn")
    leak = work.effect(burn, "light_leak", size=110.0)
    work.peak(burn, leak["amount"], 100.0)
    work.lane(
        burn, leak["reach"], (-ACTIVE, -60.0, "gentle"), (0, 125.0, "gentle"), (ACTIVE, -60.0)
    )
    work.lane(burn, leak["evolution"], (-ACTIVE, 0.0), (ACTIVE, 0.3))
    light = work.effect(burn, "exposure")
    work.peak(burn, light["stops"], 0.7, reach=5)
    work.directions("from the right", "from the left")
    work.dial("Burn", "How strong the light is.", (burn, leak["amount"]))
    work.dial("Colour", "Where it is brightest.", (burn, leak["colour"]))
    work.dial("Rim", "The colour of its rim.", (burn, leak["rim"]))
    work.seed_dial()
    work.aside("clipped", "The burn hides the cut by losing all detail there.")
    return work.wrinkle


def colour_pulse() -> Wrinkle:
    """Three short washes of colour, slow enough for the flash limit."""
    work = Work(
        "Colour pulse",
        "A pulse of two colours across the cut, no faster than eyes may be asked; for a drop.",
        "flash",
        "colour",
    )
    pulse = work.layer("Pulse")
    first = work.effect(pulse, "colour_wash", blend="screen", colour=(0.9, 0.08, 0.25))
    work.lane(pulse, first["amount"], (-9, 0.0, "rush"), (-2, 85.0, "brake"), (4, 0.0))
    second = work.effect(pulse, "colour_wash", blend="screen", colour=(0.05, 0.35, 0.9))
    work.lane(pulse, second["amount"], (-4, 0.0, "rush"), (2, 85.0, "brake"), (9, 0.0))
    work.peak(pulse, "scale", (112.0, 112.0), "snap", 9)
    work.only_as_made("as made")
    work.dial("First colour", "Before the cut.", (pulse, first["colour"]))
    work.dial("Second colour", "After the cut.", (pulse, second["colour"]))
    work.dial("Colour", "How strong both are.", (pulse, first["amount"]), (pulse, second["amount"]))
    work.dial("Push", "How far the picture jumps nearer.", (pulse, "scale"))
    for amount in (first["amount"], second["amount"]):
        work.aside("jumps", "The pulses are single frames of colour on purpose.", pulse, amount)
    return work.wrinkle


RECIPES = {
    "bright_haze": bright_haze,
    "look_back": look_back,
    "light_burn": light_burn,
    "colour_pulse": colour_pulse,
}
