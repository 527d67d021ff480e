"""Wrinkles that turn, kick, squeeze or flip."""

from __future__ import annotations

from recipes.bench import Work
from wrinkle.core.design.document.sources import FillSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.track import IncomingHalf
from wrinkle.core.picture.paths import rectangle


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


def smooth_turn() -> Wrinkle:
    """A quarter turn out of the first clip, a quarter turn into the second, one motion."""
    work = Work(
        "Smooth turn",
        "A quarter turn out of one clip and into the next, in one motion; for walks and rooms.",
        "turn",
        half=13,
    )
    turn = work.layer("Turn")
    work.carry_on(turn, "rotation", 90.0, "rush")
    work.peak(turn, "scale", (128.0, 128.0), "gentle")
    work.shutter(240.0)
    work.directions("clockwise", "counter-clockwise")
    work.dial("How far", "How far it turns on each side of the cut.", (turn, "rotation"))
    work.dial("Zoom", "How far it comes nearer in the middle.", (turn, "scale"))
    work.blur_dial()
    return work.wrinkle


def full_turn() -> Wrinkle:
    """Three quarters of a turn away, faster and faster, and the last one in with the next clip."""
    work = Work(
        "Full turn",
        "A whole turn: three quarters of it away, the last one in with the next clip, both glowing "
        "through each other; for two clips of one mood.",
        "turn",
        "zoom",
    )
    work.lengths(16, 10)
    work.span("outgoing", None, 1)
    work.span("incoming", -1, None)
    work.lane("incoming", "opacity", (-1, 0.0, "gentle"), (1, 100.0))
    # Nearly as fast out of the cut as into it: a third of the way in half of the time.
    away, back = work.layer("Away", None, None, 0), work.layer("Back", None, 0, None)
    whole, near = (100.0, 100.0), (150.0, 150.0)
    work.lane(away, "rotation", (-15, 0.0, "power(4, in)"), (0, 270.0))
    work.lane(back, "rotation", (0, -90.0, "brake"), (7, 0.0))
    work.lane(away, "scale", (-15, whole, "rush"), (0, near))
    work.lane(back, "scale", (0, near, "brake"), (8, whole))
    smear = [work.effect(turn, "spin_blur")["angle"] for turn in (away, back)]
    work.lane(away, smear[0], (-11, 0.0, "gentle"), (0, 44.0))
    work.lane(back, smear[1], (0, 44.0, "gentle"), (8, 0.0))
    light = work.layer("Light")
    glow = work.effect(light, "glow", radius=24.0, threshold=75.0, tint=(1.0, 0.82, 0.6))
    work.lane(light, glow["amount"], (-6, 0.0, "gentle"), (0, 45.0, "gentle"), (6, 0.0))
    corner = work.effect(light, "vignette", size=95.0, colour=(0.05, 0.02, 0.0))
    work.lane(light, corner["amount"], (-12, 0.0, "gentle"), (0, 55.0, "gentle"), (8, 0.0))
    work.directions("clockwise", "counter-clockwise")
    work.dial("Zoom", "How far it comes nearer.", (away, "scale"), (back, "scale"))
    work.dial("Spin blur", "How much it is smeared.", (away, smear[0]), (back, smear[1]))
    work.dial("Glow", "How much the lights spread.", (light, glow["amount"]), ends=(0.0, 800.0))
    work.dial("Glow colour", "Of the lights that spread.", (light, glow["tint"]))
    work.dial("Corners", "How dark the corners get.", (light, corner["amount"]))
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
    work.lengths(5, 15)
    wind = work.layer("Winds up", None, -4, 0)
    work.lane(wind, "scale", (-3, (100.0, 100.0), "rush"), (0, (108.0, 108.0)))
    kick = work.layer("Kick", None, 0, None)
    for key, start in (("skew", 22.0), ("skew_axis", 35.0), ("scale", (142.0, 142.0))):
        rest = work.wrinkle.layer(kick).setting(key).rest
        work.lane(kick, key, (0, start, "brake"), (12, rest))
    work.lane(kick, "rotation", (0, -3.0, "brake"), (4, 1.2, "gentle"), (9, 0.0))
    light = work.effect(kick, "exposure")
    work.lane(kick, light["stops"], (0, 0.34, "brake"), (4, 0.0))
    split = work.effect(kick, "channel_split", angle=20.0)
    work.lane(kick, split["offset"], (0, 1.4, "brake"), (5, 0.0))
    work.shutter(320.0)
    work.directions("leans to the right", "leans to the left")
    work.dial("Kick", "How hard it lands.", (kick, "skew"), (kick, "skew_axis"), (kick, "rotation"))
    work.dial("Size", "How far it is too large at first.", (kick, "scale"), (wind, "scale"))
    work.dial("Light", "How bright the first instant is.", (kick, light["stops"]))
    work.dial("Split", "How far its colours part.", (kick, split["offset"]))
    work.blur_dial()
    return work.wrinkle


def squeeze() -> Wrinkle:
    """One clip is pressed flat against the side by the next, which springs into the frame."""
    work = Work(
        "Squeeze",
        "The next clip presses this one flat against the side and springs open; for a light heart.",
        "zoom",
        "slide",
        half=19,
    )
    work.span("outgoing", None, 12)
    work.span("incoming", -12, None)
    # Each is held by its own side of the frame; where one ends, the other begins.
    work.put("outgoing", "anchor", (0.0, 0.5))
    work.put("incoming", "anchor", (1.0, 0.5))
    work.put("outgoing", "edge_cover", "bare")
    work.put("incoming", "edge_cover", "stretch")
    flat, half, whole = (0.5, 100.0), (50.0, 100.0), (100.0, 100.0)
    work.lane("outgoing", "scale", (-11, whole, "rush"), (0, half, "brake"), (11, flat))
    work.lane(
        "incoming",
        "scale",
        (-11, flat, "rush"),
        (0, half, "brake"),
        (12, (103.0, 100.0), "gentle"),
        (14, whole),
    )
    # Weaker, it is not pressed flat: it fades then.
    work.lane("outgoing", "opacity", (7, 100.0, "gentle"), (12, 0.0))
    edge, _ = work.patch("Edge light", -11, 12, (0.9, 0.86, 0.78),
                         rectangle(-0.004, -0.2, 0.004, 1.2), "screen", feather=0.8)  # fmt: skip
    work.lane(
        edge, "position", (-11, (1.0, 0.0), "rush"), (0, (0.5, 0.0), "brake"), (11, (-0.01, 0.0))
    )
    work.lane(edge, "opacity", (-11, 0.0, "gentle"), (-4, 55.0), (3, 55.0, "gentle"), (7, 0.0))
    work.shutter(300.0)
    work.order("incoming", "outgoing", edge)
    work.directions("to the left", "to the right")
    work.dial("Edge light", "Where they press on each other.", (edge, "opacity"), ends=(0.0, 180.0))
    work.blur_dial()
    return work.wrinkle


def card_flip() -> Wrinkle:
    """The frame turns over in depth like a card whose back is the next clip."""
    work = Work(
        "Card flip",
        "The frame turns over like a card with the next clip on its back; for before and after.",
        "turn",
        half=16,
    )
    reach = 13
    table = work.layer("Table", FillSource(), -reach, reach)
    for key, value in (
        ("form", "radial"),
        ("colour", (0.075, 0.07, 0.066)),
        ("colour_2", (0.008, 0.008, 0.01)),
        ("start", (0.5, 0.42)),
        ("end", (1.2, 0.42)),
    ):
        work.put(table, f"source.{key}", value)
    # What lies on the table is as wide as the card is seen, and softer where that is higher.
    shadow = work.layer("Shadow", None, -reach, reach)
    work.mask(shadow, rectangle(0.02, 0.02, 0.98, 0.98), feather=14.0)
    work.put(shadow, "edge_cover", "bare")
    lies = work.effect(shadow, "exposure", stops=-2.6)
    work.order(table, shadow, "outgoing", "incoming")
    shade = {}
    for side, start, end in (("outgoing", -reach, 0), ("incoming", 0, reach)):
        away, flat = (0.0, 89.0 if side == "outgoing" else -89.0), (0.0, 0.0)
        small, whole = (80.0, 80.0), (100.0, 100.0)
        first, last, feel = (flat, away, "rush") if start else (away, flat, "brake")
        work.lane(side, "tilt", (start, first, feel), (end, last))
        sizes = (whole, small) if start else (small, whole)
        work.lane(side, "scale", (start, sizes[0], "gentle"), (end, sizes[1]))
        work.put(side, "camera", 260.0)
        work.put(side, "edge_cover", "bare")
        dark = work.effect(side, "exposure")
        # One face turns from the light, the other one comes into it.
        if start:
            work.lane(side, dark["stops"], (start, 0.0, feel), (end, -1.6))
        else:
            work.lane(side, dark["stops"], (0, 0.9, "brake"), (5, 0.25, "gentle"), (end, 0.0))
        shade[side] = dark["stops"]
    work.shutter(220.0)
    work.directions("to the right", "to the left")
    work.dial("Shade", "How much the light changes on it.", *shade.items())
    work.dial("Table", "The colour of what is behind.", (table, "source.colour"))
    work.dial("Shadow", "How dark it lies on the table.", (shadow, lies["stops"]), ends=(-4.0, 0.0))
    work.blur_dial()
    return work.wrinkle


def plain_push() -> Wrinkle:
    """The next clip pushes this one out of the frame; they adjoin."""
    work = Work(
        "Plain push",
        "The next clip pushes this one out, edge to edge; for anything, as often as needed.",
        "slide",
        half=14,
    )
    work.span("outgoing", None, 11)
    work.span("incoming", -11, None)
    # The one in front ends sharply; the one behind goes on under its edge, so that no line of
    # nothing is seen between them.
    work.put("outgoing", "edge_cover", "bare")
    work.put("incoming", "edge_cover", "stretch")
    work.order("incoming", "outgoing")
    for side, start in (("outgoing", 0.0), ("incoming", 1.0)):
        places = (start, 0.0), (start - 0.5, 0.0), (start - 1.0, 0.0)
        work.lane(side, "position", (-10, places[0], "rush"), (0, places[1], "brake"),
                  (10, places[2]))  # fmt: skip
    # Weaker, it does not come out of the frame: it fades then.
    work.lane("outgoing", "opacity", (6, 100.0, "gentle"), (11, 0.0))
    work.shutter(300.0)
    work.directions("to the left", "to the right")
    work.blur_dial()
    return work.wrinkle


def long_push() -> Wrinkle:
    """Both clips run past in one direction, mirrored at their edges, and brake."""
    work = Work(
        "Long push",
        "The picture runs past itself and the next one stops where it was; for speed.",
        "slide",
        half=14,
    )
    push = work.layer("Push")
    work.carry_on(push, "position", (-2.0, 0.0), "rush")
    blur = work.effect(push, "directional_blur")
    # Smeared before the first mirrored edge comes into the frame.
    work.lane(
        push,
        blur["length"],
        (-12, 0.0, "gentle"),
        (-4, 52.0, "gentle"),
        (0, 60.0),
        half=IncomingHalf.RETURN,
    )
    work.peak(push, "scale", (108.0, 108.0), "gentle", 9)
    work.shutter(300.0)
    work.directions("to the left", "to the right", Direction.LEFT_RIGHT)
    work.dial("How far", "How many pictures run past.", (push, "position"))
    work.dial("Smear", "How much the speed smears.", (push, blur["length"]))
    work.blur_dial()
    return work.wrinkle


RECIPES = {
    "half_turn": half_turn,
    "smooth_turn": smooth_turn,
    "full_turn": full_turn,
    "skew_kick": skew_kick,
    "squeeze": squeeze,
    "card_flip": card_flip,
    "plain_push": plain_push,
    "long_push": long_push,
}
