"""Wrinkles of light and colour."""

from __future__ import annotations

from msgspec.structs import replace

from recipes.bench import ACTIVE, Work, oval
from wrinkle.core.design.document.looks import Look
from wrinkle.core.design.document.sources import FillSource
from wrinkle.core.design.document.wrinkle import Wrinkle


def bright_haze() -> Wrinkle:
    """The darks rise first, then all of it, until the frame is even white; and back again."""
    work = Work(
        "Bright haze",
        "Light swells until the clip is white, and clears on the next; for memories and mornings.",
        "flash",
        "colour",
        half=17,
    )
    reach = 14
    haze = work.layer("Haze")
    blur = work.effect(haze, "gaussian_blur")
    work.peak(haze, blur["radius"], 5.0, "gentle", reach)
    glow = work.effect(haze, "glow", radius=34.0, threshold=30.0, tint=(1.0, 0.96, 0.88))
    work.peak(haze, glow["amount"], 150.0, "gentle", reach)
    # Haze is light between the eye and the thing: it fills the darks before it takes the lights.
    lift = work.effect(haze, "tone")
    work.peak(haze, lift["blacks"], 70.0, "gentle", reach)
    work.peak(haze, lift["contrast"], -45.0, "gentle", reach)
    gold = work.lut(haze, "late_gold.cube")
    work.peak(haze, gold, 70.0, "gentle", reach)
    white = work.layer("White")
    veil = work.effect(white, "flash", colour=(1.0, 0.975, 0.93))
    work.lane(
        white,
        veil["amount"],
        (-11, 0.0, "gentle"),
        (-1, 96.0, "steady"),
        (1, 96.0, "gentle"),
        (12, 0.0),
    )
    # Faster, then slow into the cut; what is gained before is lost again, so that the clip is
    # where it was at either end.
    for side, way in (("outgoing", -1), ("incoming", 1)):
        keys = ((ACTIVE, 100.0), (ACTIVE / 2, 140.0), (0, 20.0))
        work.speed(side, *((way * frame, speed) for frame, speed in keys[:: way * -1]))
    work.only_as_made("as made")
    work.dial("White", "How much of the picture it takes.", (white, veil["amount"]),
              ends=(40.0, 104.0))  # fmt: skip
    work.dial("Colour", "Of the haze.", (white, veil["colour"]))
    work.dial("Glow", "How much the lights spread.", (haze, glow["amount"]))
    work.dial("Blur", "How soft it gets.", (haze, blur["radius"]))
    work.dial("Look", "How golden it gets.", (haze, gold), ends=(0.0, 140.0))
    return work.wrinkle


def look_back() -> Wrinkle:
    """A flash of the camera, after which the next clip is remembered in other colours."""
    work = Work(
        "Look back",
        "A flash, and the next clip begins in the colours of a memory; for a look back.",
        "flash",
        "colour",
    )
    work.lengths(4, 42)
    tint = work.layer("Memory", None, 0, None)
    ways = work.effect(tint, "three_way", low_hue=205.0, middle_hue=38.0, high_hue=36.0)
    for part, amount in (("low", 44.0), ("middle", 40.0), ("high", 34.0)):
        work.lane(tint, ways[f"{part}_amount"], (0, amount, "steady"), (26, amount, "gentle"),
                  (40, 0.0))  # fmt: skip
    glow = work.effect(tint, "glow", tint=(1.0, 0.78, 0.5), radius=22.0, threshold=55.0)
    work.lane(
        tint, glow["amount"], (0, 90.0, "gentle"), (12, 45.0, "steady"), (26, 45.0, "gentle"),
        (40, 0.0),
    )  # fmt: skip
    corner = work.effect(tint, "vignette", size=100.0, feather=120.0, colour=(0.05, 0.025, 0.0))
    work.lane(tint, corner["amount"], (0, 50.0, "steady"), (26, 50.0, "gentle"), (40, 0.0))
    # A flash is light, not paint: it lifts what is bright first, and is white at the cut alone.
    flash = work.layer("Flash", None, -2, 7)
    light = work.effect(flash, "exposure")
    work.lane(flash, light["stops"], (-2, 0.0, "swell"), (0, 3.2, "gentle"), (6, 0.0))
    white = work.effect(flash, "flash", colour=(1.0, 0.97, 0.9))
    work.lane(flash, white["amount"], (-2, 0.0, "swell"), (0, 97.0, "gentle"), (6, 0.0))
    work.only_as_made("as made")
    work.dial("Flash", "How bright the flash is.", (flash, white["amount"]),
              (flash, light["stops"]), ends=(0.0, 103.0))  # fmt: skip
    work.dial(
        "Memory",
        "How strange the colours are.",
        (tint, ways["low_amount"]),
        (tint, ways["middle_amount"]),
        (tint, ways["high_amount"]),
    )
    work.length_dial("Memory lasts", "How long until the clip is itself.", 1.0, 4.0)
    work.dial("Glow", "How much the lights spread.", (tint, glow["amount"]))
    work.dial("Glow colour", "Of the lights that spread.", (tint, glow["tint"]))
    work.aside("clipped", "The flash is white at the cut: that is what it is.")
    return work.wrinkle


def looks() -> tuple[Look, ...]:
    """What *Look back* is made of, each part under a name of its own for other clips."""
    wrinkle = look_back()
    balance, glow, _ = next(x for x in wrinkle.layers if x.name == "Memory").effects
    return (
        Look("Warm memory", (replace(balance, id="e1"),)),
        Look("Amber afterglow", (replace(glow, id="e1"),)),
    )


def light_burn() -> Wrinkle:
    """Warm light crosses the frame, covers all of it at the cut, and leaves on the other side."""
    work = Work(
        "Light burn",
        "Warm light runs across the frame and burns it out at the cut; for summer and film.",
        "flash",
        half=17,
    )
    reach = 14
    veil = work.layer("Veil")
    wash = work.effect(veil, "colour_wash", blend="multiply", colour=(1.0, 0.5, 0.16))
    work.peak(veil, wash["amount"], 85.0, "gentle", reach)
    # Bodies that run at their own speed: an orange one, and the hot core in it.
    core = {}
    for name, colour, size, first, width in (
        ("Orange", (1.0, 0.36, 0.06), 0.62, -12, 22.0),
        ("Core", (1.0, 0.88, 0.62), 0.4, -10, 18.0),
    ):
        body = work.layer(name, FillSource(), first, -first, blend="screen")
        work.put(body, "source.colour", colour)
        work.put(body, "edge_cover", "bare")
        work.put(body, "motion_blur", False)
        half = size / 2.0
        work.mask(body, oval(0.5, 0.5, half, 1.5), feather=width * 2.0)
        work.put(body, "rotation", 14.0)
        away = 0.85 + half
        work.lane(
            body, "opacity", (first, 0.0, "gentle"), (first + 5, 100.0),
            (-first - 5, 100.0, "gentle"), (-first, 0.0),
        )  # fmt: skip
        work.lane(
            body, "position", (first, (away, 0.05), "gentle"), (0, (0.0, 0.0), "gentle"),
            (-first, (-away, -0.05)),
        )  # fmt: skip
        work.lane(
            body, "scale", (first, (100.0, 100.0), "swell"), (0, (230.0, 230.0), "gentle"),
            (-first, (100.0, 100.0)),
        )  # fmt: skip
        core[name] = body
    burn = work.layer("Burn")
    leak = work.effect(burn, "light_leak", size=90.0, colour=(1.0, 0.7, 0.35))
    work.peak(burn, leak["amount"], 70.0, "gentle", reach)
    work.lane(burn, leak["evolution"], (-reach, 0.0), (reach, 0.35))
    light = work.effect(burn, "flash", colour=(1.0, 0.9, 0.68))
    work.lane(burn, light["amount"], (-5, 0.0, "swell"), (0, 94.0, "gentle"), (7, 0.0))
    work.order("outgoing", "incoming", veil, *core.values(), burn)
    work.directions("from the right", "from the left")
    work.dial("Burn", "How strong the light is.", (burn, leak["amount"]),
              *((body, "opacity") for body in core.values()), ends=(30.0, 140.0))  # fmt: skip
    work.dial("Cover", "How much it takes at the cut.", (burn, light["amount"]),
              ends=(0.0, 106.0))  # fmt: skip
    work.dial("Colour", "Of the light.", (core["Orange"], "source.colour"))
    work.dial("Core", "Where it is hottest.", (core["Core"], "source.colour"))
    work.dial("Veil", "How warm all of it gets.", (veil, wash["amount"]), ends=(0.0, 115.0))
    work.seed_dial()
    return work.wrinkle


def colour_pulse() -> Wrinkle:
    """One colour floods the clip up to the cut, another one drains off the next."""
    work = Work(
        "Colour pulse",
        "One colour floods up to the cut, another drains off the next clip; for a drop.",
        "flash",
        "colour",
        half=12,
    )
    tints = {}
    for side, first, end, dark, light in (
        ("Before", -9, 0, (0.62, 0.02, 0.16), (1.0, 0.2, 0.36)),
        ("After", 0, 11, (0.02, 0.12, 0.5), (0.2, 0.62, 1.0)),
    ):
        pulse = work.layer(side, None, first, end)
        # In a gel the lights are the colour; over it, the darks glow with it.
        gel = work.effect(pulse, "colour_wash", blend="multiply", colour=light)
        flood = work.effect(pulse, "colour_wash", blend="screen", colour=dark)
        for one, most in ((gel, 100.0), (flood, 85.0)):
            if end == 0:
                work.lane(pulse, one["amount"], (first, 0.0, "swell"), (0, most))
            else:
                work.lane(pulse, one["amount"], (0, most, "brake"), (end - 1, 0.0))
        tints[side] = (pulse, gel, flood)
    push = work.layer("Push")
    work.lane(
        push, "scale", (-9, (100.0, 100.0), "swell"), (0, (113.0, 113.0), "gentle"),
        (10, (100.0, 100.0)),
    )  # fmt: skip
    work.order("outgoing", "incoming", *(x[0] for x in tints.values()), push)
    work.only_as_made("as made")
    for name, side in (("First colour", "Before"), ("Second colour", "After")):
        layer, gel, _ = tints[side]
        work.dial(name, f"{side} the cut.", (layer, gel["colour"]))
    work.dial(
        "Colour",
        "How strong both are.",
        *((layer, x["amount"]) for layer, gel, flood in tints.values() for x in (gel, flood)),
        ends=(0.0, 100.0),
    )
    work.dial("Push", "How far the picture comes nearer.", (push, "scale"))
    work.blur_dial()
    return work.wrinkle


RECIPES = {
    "bright_haze": bright_haze,
    "look_back": look_back,
    "light_burn": light_burn,
    "colour_pulse": colour_pulse,
}
