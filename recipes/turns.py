"""Wrinkles that turn, kick, squeeze or flip."""

from __future__ import annotations

from recipes.bench import ACTIVE, Work
from wrinkle.core.design.document.sources import FillSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion.direction import Direction


def half_turn() -> Wrinkle:
    """Half a turn into the cut and half a turn out of it, with a spin blur that follows."""
    work = Work(
        "Half turn",
        "One clip spins away and the next spins in, the same way round; for a "
        "change of place on a beat.",
        "turn",
    )
    turn = work.layer("Turn")
    work.carry_on(turn, "rotation", 180.0, "rush")
    work.peak(turn, "scale", (132.0, 132.0))
    blur = work.effect(turn, "spin_blur")
    work.peak(turn, blur["angle"], 16.0, reach=7)
    work.directions("clockwise", "counter-clockwise")
    work.dial("How far", "How far it turns on each side.", (turn, "rotation"))
    work.dial("Spin blur", "How much the turn is smeared.", (turn, blur["angle"]))
    work.blur_dial()
    return work.wrinkle


def full_turn() -> Wrinkle:
    """A whole turn with a zoom and a short crossfade in its middle, lit from within."""
    work = Work(
        "Full turn",
        "A whole turn through a short crossfade, with a breath of zoom and glow; "
        "for two clips of one mood.",
        "turn",
        "zoom",
    )
    work.span("outgoing", None, 3)
    work.span("incoming", -3, None)
    work.lane("incoming", "opacity", (-3, 0.0, "gentle"), (3, 100.0))
    turn = work.layer("Turn")
    work.carry_on(turn, "rotation", 180.0, "rush")
    work.peak(turn, "scale", (150.0, 150.0), "gentle")
    glow = work.effect(turn, "glow", radius=24.0, threshold=55.0)
    work.peak(turn, glow["amount"], 90.0, "gentle")
    corner = work.effect(turn, "vignette", size=95.0, colour=(0.05, 0.02, 0.0))
    work.peak(turn, corner["amount"], 55.0, "gentle")
    tint = work.effect(
        turn,
        "colour_wash",
        blend="soft light",
        form="corners",
        colour=(0.9, 0.35, 0.1),
        colour_2=(0.15, 0.3, 0.5),
        colour_3=(0.15, 0.3, 0.5),
        colour_4=(0.9, 0.35, 0.1),
    )
    work.peak(turn, tint["amount"], 50.0, "gentle")
    work.directions("clockwise", "counter-clockwise")
    work.dial("Zoom", "How far it comes nearer in the middle.", (turn, "scale"))
    work.dial("Glow", "How much the lights spread.", (turn, glow["amount"]))
    work.dial("Corners", "How dark the corners get.", (turn, corner["amount"]))
    work.dial("Tint", "How much colour comes in from them.", (turn, tint["amount"]))
    work.blur_dial()
    return work.wrinkle


def skew_kick() -> Wrinkle:
    """The new clip lands leaning and over-sized, and comes to rest at once, then slowly."""
    work = Work(
        "Skew kick",
        "The new clip lands crooked and too large, lit for an instant, and "
        "straightens; for a hard beat.",
        "zoom",
        "flash",
    )
    kick = work.layer("Kick", None, 0, None)
    for key, start in (("skew", 24.0), ("skew_axis", 35.0), ("scale", (142.0, 142.0))):
        rest = work.wrinkle.layer(kick).setting(key).rest
        work.lane(kick, key, (0, start, "brake"), (ACTIVE - 1, rest))
    light = work.effect(kick, "exposure")
    work.lane(kick, light["stops"], (0, 1.6, "brake"), (5, 0.0))
    work.shutter(320.0)
    work.directions("leans to the right", "leans to the left")
    work.dial("Kick", "How hard it lands.", (kick, "skew"), (kick, "skew_axis"))
    work.dial("Size", "How far it is too large at first.", (kick, "scale"))
    work.dial("Light", "How bright the first instant is.", (kick, light["stops"]))
    work.blur_dial()
    work.aside("clipped", "The kick flashes for a moment.")
    return work.wrinkle


def squeeze() -> Wrinkle:
    """The picture is pressed to a line and springs open again as the other one."""
    work = Work(
        "Squeeze",
        "The clip is pressed flat and springs open as the next one; light-hearted.",
        "zoom",
        "slide",
    )
    press = work.layer("Press", None, None, 0)
    work.lane(press, "scale", (-ACTIVE, (100.0, 100.0), "rush"), (0, (4.0, 118.0)))
    spring = work.layer("Spring", None, 0, None)
    work.lane(spring, "scale", (0, (4.0, 118.0), "overshoot"), (ACTIVE - 1, (100.0, 100.0)))
    blur = work.effect(press, "directional_blur")
    work.lane(press, blur["length"], (-6, 0.0, "rush"), (0, 14.0))
    after = work.effect(spring, "directional_blur")
    work.lane(spring, after["length"], (0, 14.0, "brake"), (5, 0.0))
    work.only_as_made("as made")
    work.dial(
        "Smear",
        "How much the motion is smeared.",
        (press, blur["length"]),
        (spring, after["length"]),
    )
    work.blur_dial()
    return work.wrinkle


def card_flip() -> Wrinkle:
    """The frame turns over in depth like a card whose back is the next clip."""
    work = Work(
        "Card flip",
        "The frame turns over like a card with the next clip on its back; for before and after.",
        "turn",
    )
    table = work.layer("Table", FillSource(), -ACTIVE, ACTIVE)
    work.put(table, "source.colour", (0.012, 0.012, 0.014))
    work.order(table, "outgoing", "incoming")
    shade = {}
    for side, start, end in (("outgoing", -ACTIVE, 0), ("incoming", 0, ACTIVE)):
        away, flat = (0.0, 89.0 if side == "outgoing" else -89.0), (0.0, 0.0)
        small, whole = (84.0, 84.0), (100.0, 100.0)
        first, last, feel = (flat, away, "rush") if start else (away, flat, "brake")
        work.lane(side, "tilt", (start, first, feel), (end, last))
        sizes = (whole, small) if start else (small, whole)
        work.lane(side, "scale", (start, sizes[0], "gentle"), (end, sizes[1]))
        work.put(side, "camera", 260.0)
        work.put(side, "edge_cover", "bare")
        dark = work.effect(side, "exposure")
        stops = (0.0, -1.3) if start else (-1.3, 0.0)
        work.lane(side, dark["stops"], (start, stops[0], feel), (end, stops[1]))
        shade[side] = dark["stops"]
    work.directions("to the right", "to the left")
    work.dial("Shade", "How dark it gets on edge.", *shade.items())
    work.dial("Table", "The colour of what is behind.", (table, "source.colour"))
    work.blur_dial()
    return work.wrinkle


def long_push() -> Wrinkle:
    """Both clips run past in one direction, mirrored at their edges, and brake."""
    work = Work(
        "Long push",
        "The picture runs past itself and the next one stops where it was; for speed.",
        "slide",
    )
    push = work.layer("Push")
    work.carry_on(push, "position", (-2.0, 0.0), "rush")
    blur = work.effect(push, "directional_blur")
    work.peak(push, blur["length"], 20.0, reach=7)
    work.directions("to the left", "to the right", Direction.LEFT_RIGHT)
    work.dial("How far", "How many pictures run past.", (push, "position"))
    work.dial("Smear", "How much the speed smears.", (push, blur["length"]))
    work.blur_dial()
    return work.wrinkle


RECIPES = {
    "half_turn": half_turn,
    "full_turn": full_turn,
    "skew_kick": skew_kick,
    "squeeze": squeeze,
    "card_flip": card_flip,
    "long_push": long_push,
}
