"""What is reached for every day: pushes, zooms, blows, dissolves and dips."""

from __future__ import annotations

from recipes.bench import RATE, Key, Work, circle
from wrinkle.core.design.document.sources import FillSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.held_at import HeldAt
from wrinkle.core.picture.paths import ellipse, rectangle

_WHOLE = (100.0, 100.0)


def push_up() -> Wrinkle:
    """A whip upwards: the next clip adjoins below and stops with a small overshoot."""
    work = Work(
        "Push up",
        "The next clip whips in from below, edge to edge, and stops hard; for steps and lists.",
        "slide",
        half=13,
    )
    work.span("outgoing", None, 8)
    work.span("incoming", -10, None)
    # The one in front ends sharply; the one behind goes on under its edge.
    work.put("outgoing", "edge_cover", "bare")
    work.put("incoming", "edge_cover", "stretch")
    work.order("incoming", "outgoing")
    # Both halves at one speed where they meet, on the cut.
    for side, start in (("outgoing", 0.0), ("incoming", 1.0)):
        keys: list[Key] = [
            (-8, (0.0, start), "power(3, in)"),
            (0, (0.0, start - 0.544), "power(3, out)"),
            (7, (0.0, start - 1.02), "gentle"),
            (11, (0.0, start - 1.0)),
        ]
        work.lane(side, "position", *keys)
    # Weaker, it does not come out of the frame: it fades then.
    work.lane("outgoing", "opacity", (4, 100.0, "gentle"), (8, 0.0))
    seam, _ = work.patch("Seam", -8, 8, (0.0, 0.0, 0.0), rectangle(-0.3, 0.996, 1.3, 1.012),
                         "multiply", feather=2.4)  # fmt: skip
    work.lane(seam, "position", (-8, (0.0, 0.0), "power(3, in)"), (0, (0.0, -0.544),
              "power(3, out)"), (7, (0.0, -1.02)))  # fmt: skip
    work.lane(seam, "opacity", (-8, 0.0, "gentle"), (-4, 55.0, "steady"), (3, 55.0, "gentle"),
              (7, 0.0))  # fmt: skip
    work.order("incoming", "outgoing", seam)
    work.shutter(320.0)
    work.directions("upwards", "downwards", Direction.UP_DOWN)
    work.dial("Seam", "How dark the edge is between both clips.", (seam, "opacity"))
    work.blur_dial()
    return work.wrinkle


def zoom_through() -> Wrinkle:
    """The clip grows past the camera, and the next one comes out of its middle."""
    work = Work(
        "Zoom through",
        "The clip rushes past the camera and the next comes out of its middle; for arriving.",
        "zoom",
        half=14,
    )
    work.span("outgoing", None, 5)
    work.span("incoming", 12, None)
    work.lane(
        "outgoing", "scale",
        (-11, _WHOLE, "power(3, in)"), (0, (260.0, 260.0), "steady"), (5, (478.0, 478.0)),
    )  # fmt: skip
    coming = work.layer("Coming", "incoming", -4, 12)
    work.lane(
        coming, "scale",
        (-4, (22.0, 22.0), "steady"), (0, (64.0, 64.0), "power(2, out)"),
        (7.14, (101.5, 101.5), "gentle"), (12, _WHOLE),
    )  # fmt: skip
    # Its soft edge rides on the picture, so that nothing from beyond it is ever seen.
    within, beyond = ellipse(0.5, 0.5, 0.5, 0.5), ellipse(0.5, 0.5, 2.4, 2.4)
    edge = work.mask(coming, within, feather=34.0, expansion=-16.0)
    work.lane(coming, edge, (-4, within, "steady"), (0, within, "power(2, in)"), (5, beyond))
    # Weaker, it does not come out of the middle: it fades in then.
    work.lane(coming, "opacity", (-4, 0.0, "gentle"), (-2, 100.0))
    rays, streaks = (work.effect(side, "zoom_blur") for side in ("outgoing", coming))
    work.lane("outgoing", rays["amount"], (-11, 0.0, "power(3, in)"), (5, 110.0))
    work.lane(coming, streaks["amount"], (-4, 50.0, "gentle"), (1, 26.0, "brake"), (10, 0.0))
    for side in ("outgoing", coming):
        work.put(side, "motion_blur", False)
    work.order("outgoing", coming, "incoming")
    work.only_as_made("as made")
    work.dial("Depth", "How far the clip comes past.", ("outgoing", "scale"), ends=(40.0, 170.0))
    work.dial("Streaks", "How much both are drawn out to the rim.",
              ("outgoing", rays["amount"]), (coming, streaks["amount"]))  # fmt: skip
    return work.wrinkle


def zoom_back() -> Wrinkle:
    """The clip shrinks away into the middle of the next one, which comes to rest about it."""
    work = Work(
        "Zoom back",
        "The clip falls away into the middle of the next one; for leaving, and for the whole.",
        "zoom",
        half=14,
    )
    work.span("outgoing", None, -11)
    work.span("incoming", -9, None)
    going = work.layer("Falls away", "outgoing", -11, 4)
    work.lane(
        going, "scale",
        (-11, _WHOLE, "power(3, in)"), (-3, (76.0, 76.0), "power(2, in)"), (4, (24.0, 24.0)),
    )  # fmt: skip
    wide, small = circle(1.5), circle(0.03)
    edge = work.round_mask(going, wide, feather=14.0, expansion=-6.0)
    work.lane(going, edge, (-4, wide, "power(2, out)"), (4, small))
    # Weaker, it does not get small: it fades then.
    work.lane(going, "opacity", (0, 100.0, "gentle"), (4, 0.0))
    work.lane(
        "incoming", "scale",
        (-4, (346.0, 346.0), "steady"), (0, (205.0, 205.0), "power(3, out)"),
        (9, (99.0, 99.0), "gentle"), (12, _WHOLE),
    )  # fmt: skip
    rays, streaks = (work.effect(side, "zoom_blur") for side in (going, "incoming"))
    work.lane(going, rays["amount"], (-11, 0.0, "power(3, in)"), (-2, 30.0))
    work.lane("incoming", streaks["amount"], (-4, 38.0, "gentle"), (1, 30.0, "brake"), (10, 0.0))
    for side in (going, "incoming"):
        work.put(side, "motion_blur", False)
    work.order("incoming", "outgoing", going)
    work.only_as_made("as made")
    work.aside("pixels", "It comes from too near to be sharp, and is drawn out to the rim there.",
               "incoming")  # fmt: skip
    work.dial("Depth", "From how near the next clip comes.", ("incoming", "scale"),
              ends=(40.0, 160.0))  # fmt: skip
    work.dial("Streaks", "How much both are drawn out to the rim.",
              (going, rays["amount"]), ("incoming", streaks["amount"]))  # fmt: skip
    return work.wrinkle


def punch_in() -> Wrinkle:
    """On the cut the picture is a step nearer, swings past its size and rests."""
    work = Work(
        "Punch-in",
        "On the cut the next clip is a step nearer and springs to its size; for beats.",
        "zoom",
    )
    work.lengths(3, 16)
    work.lane(
        "incoming", "scale", (0, (124.0, 124.0), "spring(0.4, 2)"), (10, _WHOLE),
    )  # fmt: skip
    rays = work.effect("incoming", "zoom_blur")
    work.lane("incoming", rays["amount"], (0, 12.0, "brake"), (4, 0.0))
    blink = work.effect("incoming", "exposure")
    work.lane("incoming", blink["stops"], (0, 0.35, "brake"), (5, 0.0))
    work.only_as_made("as made")
    work.dial("Size", "How far it is a step nearer.", ("incoming", "scale"), ends=(30.0, 220.0))
    work.dial("Streaks", "How much it is drawn out on the cut.", ("incoming", rays["amount"]))
    work.dial("Blink", "How much light the step has.", ("incoming", blink["stops"]),
              ends=(0.0, 200.0))  # fmt: skip
    return work.wrinkle


def bouncing_slide() -> Wrinkle:
    """The next clip falls onto the cut, pushes this one out, bounces and settles."""
    work = Work(
        "Bouncing slide",
        "The next clip drops in, pushes the old one out and bounces to rest; for fun and food.",
        "slide",
    )
    work.lengths(11, 22)
    work.span("outgoing", None, 17)
    work.span("incoming", -9, None)
    work.put("outgoing", "edge_cover", "bare")
    work.put("incoming", "edge_cover", "mirror")
    work.order("incoming", "outgoing")
    # Free fall: each bounce lasts as long as its speed says, and the first hit is the cut.
    hops = ((0.0, 4.4, 0.13), (8.8, 11.0, 0.033), (13.2, 14.4, 0.009))
    coming: list[Key] = [(-9, (0.0, -1.0), "power(2, in)")]
    going: list[Key] = [(-9, (0.0, 0.0), "power(2, in)")]
    for hit, top, height in hops:
        for keys, home in ((coming, 0.0), (going, 1.0)):
            keys.append((hit, (0.0, home), "power(2, out)"))
            keys.append((top, (0.0, home - height), "power(2, in)"))
    work.lane("incoming", "position", *coming, (15.6, (0.0, 0.0)))
    work.lane("outgoing", "position", *going, (15.6, (0.0, 1.0)))
    # Weaker, it does not leave the frame: it fades then.
    work.lane("outgoing", "opacity", (0, 100.0, "steady"), (11, 100.0, "gentle"), (16, 0.0))
    seam, _ = work.patch("Seam", -9, 17, (0.0, 0.0, 0.0), rectangle(-0.3, -0.004, 1.3, 0.012),
                         "multiply", feather=2.2)  # fmt: skip
    work.lane(seam, "position", *going, (15.6, (0.0, 1.0)))
    work.lane(seam, "opacity", (-9, 0.0, "gentle"), (-5, 60.0, "steady"), (11, 60.0, "gentle"),
              (15, 0.0))  # fmt: skip
    blow = work.layer("Blow", None, -1, 12)
    work.lane(blow, "scale", (-1, _WHOLE, "hold"), (0, (100.0, 97.2), "spring(0.3, 2)"),
              (10, _WHOLE))  # fmt: skip
    work.put(blow, "anchor", (0.5, 1.0))
    work.put(blow, "motion_blur", False)
    work.put(blow, "edge_cover", "mirror")
    work.order("incoming", "outgoing", seam, blow)
    work.shutter(150.0)
    work.directions("from above", "from below", Direction.UP_DOWN)
    for layer in ("incoming", "outgoing", seam):
        work.aside(
            "seam", "It hits the ground on the cut: that is what a bounce is.", layer, "position"
        )
    work.aside("way", "It hits the ground on the cut.")
    work.dial("Squash", "How much it gives where it lands.", (blow, "scale"), ends=(0.0, 200.0))
    work.dial("Seam", "How dark the edge is that it pushes with.", (seam, "opacity"))
    work.blur_dial()
    return work.wrinkle


def soft_dissolve() -> Wrinkle:
    """The next clip comes up as light does, its lights before its darks."""
    work = Work(
        "Soft dissolve",
        "The next clip comes up as a second exposure does, its lights first; for calm and time.",
        "matte",
        "colour",
        half=20,
    )
    work.span("outgoing", None, 17)
    work.span("incoming", 16, None)
    coming = work.layer("Coming", "incoming", -17, 16, blend="as light")
    work.lane(
        coming, "opacity",
        (-17, 0.0, "power(2, in)"), (0, 52.0, "power(2, out)"), (16, 100.0),
    )  # fmt: skip
    tones = work.effect(coming, "luma_reveal", softness=100.0)
    work.lane(coming, tones["threshold"], (-17, 82.0, "gentle"), (10, 0.0))
    # As the old one pales it spreads a little, as light behind a veil.
    veil = work.effect("outgoing", "gaussian_blur")
    work.lane("outgoing", veil["radius"], (-12, 0.0, "gentle"), (14, 1.1))
    work.only_as_made("as made")
    work.dial("Lights first", "How much sooner bright parts come than dark ones.",
              (coming, tones["threshold"]), ends=(0.0, 120.0))  # fmt: skip
    work.dial("Darks first", "The other way round.", (coming, tones["invert"]))
    work.dial("Veil", "How soft the old clip gets.", ("outgoing", veil["radius"]),
              ends=(0.0, 300.0))  # fmt: skip
    return work.wrinkle


def impact() -> Wrinkle:
    """A blow on the cut: one white frame, and the camera swings to rest."""
    work = Work(
        "Impact",
        "A blow lands on the cut and the camera swings to rest; for drops, doors and punches.",
        "flash",
        "zoom",
    )
    work.lengths(6, 20)
    # It draws breath before it strikes.
    drawn = work.layer("Wind-up", None, -6, 0)
    work.lane(drawn, "scale", (-5, _WHOLE, "power(3, in)"), (0, (95.5, 95.5)))
    dim = work.effect(drawn, "exposure")
    work.lane(drawn, dim["stops"], (-5, 0.0, "power(2, in)"), (0, -0.45))
    struck = work.layer("Struck", None, 0, 19)
    blow = work.effect(
        struck, "blow", angle=78.0, frequency=6.5, damping=0.13, smear=0.018, seed=4.0, delay=-0.02
    )
    for key, peak in (("amount", 8.0), ("aside", 3.5), ("turn", 3.0), ("push", 11.0)):
        work.lane(struck, blow[key], (0, peak, "steady"), (8, peak, "gentle"), (18, 0.0))
    split = work.effect(struck, "channel_split", angle=78.0)
    work.lane(struck, split["offset"], (0, 1.2, "brake"), (7, 0.0))
    light = work.layer("One frame", None, 0, 4)
    spark = work.effect(light, "flash", colour=(1.0, 0.97, 0.92))
    work.lane(light, spark["amount"], (0, 88.0, "hold"), (1, 30.0, "brake"), (4, 0.0))
    work.only_as_made("as made")
    work.dial("Force", "How far the camera is thrown.",
              *((struck, blow[key]) for key in ("amount", "aside", "turn", "push")))  # fmt: skip
    work.dial("Swings", "How many in a second.", (struck, blow["frequency"]), ends=(2.5, 12.0))
    work.dial("Damping", "How soon the camera is at rest.", (struck, blow["damping"]),
              ends=(0.05, 0.8))  # fmt: skip
    work.dial(
        "Flash", "How bright the first frame is.", (light, spark["amount"]), ends=(0.0, 110.0)
    )
    work.seed_dial()
    return work.wrinkle


def dip_to_colour() -> Wrinkle:
    """Into a colour, held on the cut, and out of it."""
    work = Work(
        "Dip to a colour",
        "Into black, white or any colour and out of it again; for an end, a breath, a new day.",
        "colour",
        half=14,
    )
    into = work.layer("Into it", FillSource(), -12, 0)
    out = work.layer("Out of it", FillSource(), 0, None)
    for one in (into, out):
        work.put(one, "source.colour", (0.0, 0.0, 0.0))
    work.lane(into, "opacity", (-12, 0.0, "gentle"), (-3, 100.0))
    work.lane(out, "opacity", (3, 100.0, "gentle"), (12, 0.0))
    # A longer hold is no slower way out.
    work.keeps(out, HeldAt.LAST, "opacity")
    work.only_as_made("as made")
    work.dial("Colour", "What it dips into.", *((one, "source.colour") for one in (into, out)))
    work.length_dial("Hold", "How long the colour stays.", 0.1, 3.0, besides=8 / RATE)
    return work.wrinkle


RECIPES = {
    "push_up": push_up,
    "zoom_through": zoom_through,
    "zoom_back": zoom_back,
    "punch_in": punch_in,
    "bouncing_slide": bouncing_slide,
    "soft_dissolve": soft_dissolve,
    "impact": impact,
    "dip_to_colour": dip_to_colour,
}
