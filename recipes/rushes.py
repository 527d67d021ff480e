"""Wrinkles that rush into the picture or out of it."""

from __future__ import annotations

from fractions import Fraction
from itertools import pairwise

from recipes.bench import ACTIVE, RATE, Work, circle, oval
from wrinkle.core.design.document.timing import Timing
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.picture.paths import Outline, ellipse, rectangle


def lens_rush() -> Wrinkle:
    """Three held pictures under a lens that bends, shakes and lights up to the cut."""
    work = Work(
        "Lens rush",
        "The clip stops three times, each time deeper in a bending lens, and snaps into the next; "
        "for a drop in the music.",
        "glitch",
        "zoom",
    )
    held = [-ACTIVE, -7, -3, 0]
    for number, (first, end) in enumerate(pairwise(held)):
        layer = work.layer(f"Held {number + 1}", "outgoing", first, end)
        work.change(layer, timing=Timing(freeze=Fraction(first, RATE)))
    washes = {}
    for name, colour, x, y in (
        ("Warm wash", (0.95, 0.32, 0.1), 0.2, 0.3),
        ("Cold wash", (0.08, 0.4, 0.9), 0.8, 0.7),
    ):
        wash = work.layer(name, None, -8, 6)
        tint = work.effect(wash, "colour_wash", colour=colour, blend="color")
        work.mask(wash, ellipse(x, y, 0.42, 0.36), feather=45.0)
        work.lane(wash, tint["amount"], (-8, 0.0, "swell"), (0, 75.0, "gentle"), (6, 0.0))
        washes[wash] = tint["amount"]
    rush = work.layer("Rush")
    # Each held picture lies deeper in the lens than the one before.
    deeper = zip(held, (104.0, 112.0), strict=False)
    steps = [(first, (size, size), "hold") for first, size in deeper]
    work.lane(
        rush,
        "scale",
        (-12, (100.0, 100.0), "hold"),
        *steps,
        (-3, (122.0, 122.0), "swell"),
        (0, (128.0, 128.0), "gentle"),
        (8, (100.0, 100.0)),
    )
    smear = work.effect(rush, "contour_smear", guide=2.5)
    work.lane(rush, smear["length"], (-9, 0.0, "swell"), (0, 9.0, "gentle"), (6, 0.0))
    bend = work.effect(rush, "lens_bend")
    work.lane(
        rush, bend["field"],
        (-12, 0.0, "hold"), (-ACTIVE, 34.0, "hold"), (-7, 66.0, "hold"), (-3, 100.0, "swell"),
        (0, 122.0, "gentle"), (8, 0.0),
    )  # fmt: skip
    light = work.effect(rush, "exposure")
    work.lane(rush, light["stops"], (-9, 0.0, "swell"), (0, 1.5, "gentle"), (7, 0.0))
    work.jitter(
        rush, "position", 15.0, 3,
        (-12, 0.0, "hold"), (-ACTIVE, 0.008, "hold"), (-7, 0.02, "hold"), (-3, 0.038, "gentle"),
        (6, 0.0),
    )  # fmt: skip
    flash = work.layer("Flash", None, -2, 5)
    spark = work.effect(flash, "flash", colour=(1.0, 0.72, 0.5))
    work.lane(flash, spark["amount"], (-2, 0.0, "swell"), (0, 70.0, "gentle"), (4, 0.0))
    work.only_as_made("as made")
    work.dial("Violence", "How hard it shakes.", (rush, "position.jitter"))
    work.dial("Lens", "How far the lens bends.", (rush, bend["field"]))
    work.dial("Washes", "How strong the two colours are.", *washes.items())
    work.dial("Flash", "How bright the flash is.", (flash, spark["amount"]))
    work.seed_dial()
    work.aside("clipped", "The light of the rush peaks at the cut.")
    return work.wrinkle


def spiral_in() -> Wrinkle:
    """One clip flies off as a card, the next turns in from nothing and lands with a shake."""
    work = Work(
        "Spiral in",
        "The clip flies away as a card while the next spins in from far off and lands hard; "
        "for openings.",
        "turn",
        "zoom",
    )
    # It lands on the cut, where the beat is.
    work.lengths(24, 16)
    work.span("outgoing", None, -21)
    card = work.layer("Card", "outgoing", -21, -4)
    slot = work.clip_slot_if_filled("Subject", "What flies off, cut out of this clip, with nothing "
                                    "around it.")  # fmt: skip
    subject = work.layer("Subject", slot, -21, -4)
    work.change(subject, parent=card)
    work.span("incoming", 0, None)
    behind = work.layer("Behind", "incoming", -21, 0)
    soft = work.effect(behind, "gaussian_blur", radius=14.0)
    dark = work.effect(behind, "exposure", stops=-2.2)
    work.lane(
        card, "scale", (-21, (100.0, 100.0), "gentle"), (-11, (68.0, 68.0), "rush"),
        (-4, (26.0, 26.0)),
    )  # fmt: skip
    work.lane(card, "tilt", (-21, (0.0, 0.0), "gentle"), (-4, (-18.0, 68.0)))
    work.lane(card, "position", (-21, (0.0, 0.0), "rush"), (-4, (1.0, -0.42)))
    work.lane(card, "rotation", (-21, 0.0, "rush"), (-4, 24.0))
    work.put(card, "camera", 240.0)
    work.put(card, "edge_cover", "bare")
    work.put(subject, "edge_cover", "bare")
    all_of_it, shape = rectangle(-0.05, -0.05, 1.05, 1.05), rectangle(0.04, 0.06, 0.96, 0.94)
    cut_out = work.mask(card, all_of_it, feather=0.4)
    work.lane(card, cut_out, (-21, all_of_it, "brake"), (-15, shape))
    rays = work.effect(card, "zoom_blur")
    work.lane(card, rays["amount"], (-15, 0.0, "gentle"), (-4, 30.0))
    # It comes out from behind the card, and is over-sized for a moment before it lands.
    coming = work.layer("Coming", "incoming", -17, 0)
    work.lane(
        coming, "scale", (-17, (12.0, 12.0), "gentle"), (-3, (118.0, 118.0), "rush"),
        (0, (100.0, 100.0)),
    )  # fmt: skip
    work.lane(coming, "rotation", (-17, -540.0, "gentle"), (-2, 0.0))
    work.lane(coming, "position", (-17, (0.03, -0.02), "gentle"), (-10, (0.0, 0.0)))
    work.put(coming, "edge_cover", "bare")
    small, wide = circle(0.46), circle(1.3)
    path = work.round_mask(coming, small, feather=3.0)
    work.lane(coming, path, (-9, small, "gentle"), (-3, wide))
    # The spin blur is its motion blur: a turn this fast would take hundreds of samples.
    work.put(coming, "motion_blur", False)
    spin = work.effect(coming, "spin_blur")
    work.lane(coming, spin["angle"], (-17, 0.0, "gentle"), (-9, 34.0, "gentle"), (-2, 0.0))
    landing = work.layer("Landing", None, 0, 14)
    sizes = (
        (0, 107.0, "gentle"),
        (3, 101.2, "gentle"),
        (6, 103.2, "gentle"),
    )
    blow = [(n, (size, size), feel) for n, size, feel in sizes]
    work.lane(landing, "scale", *blow, (10, (100.0, 100.0)))
    glow = work.effect(landing, "glow", radius=24.0, threshold=45.0)
    work.lane(landing, glow["amount"], (0, 130.0, "gentle"), (12, 0.0))
    blink = work.effect(landing, "exposure")
    work.lane(landing, blink["stops"], (0, 0.7, "brake"), (5, 0.0))
    work.jitter(landing, "position", 14.0, 5, (0, 0.0, "gentle"), (1, 0.028, "brake"), (11, 0.0))
    work.order("outgoing", behind, coming, card, subject, "incoming", landing)
    work.directions("clockwise", "counter-clockwise")
    work.dial("Spin", "How far the next clip turns.", (coming, "rotation"))
    work.dial("Spin blur", "How much the turn is smeared.", (coming, spin["angle"]))
    work.dial("Landing", "How hard it lands.", (landing, "position.jitter"), (landing, "scale"))
    work.dial("Glow", "Of the landing.", (landing, glow["amount"]))
    work.dial("Behind", "How dark it is behind.", (behind, dark["stops"]), ends=(-5.0, 0.0))
    work.dial("Haze", "How soft it is behind.", (behind, soft["radius"]), ends=(0.0, 40.0))
    work.aside("clipped", "The glow of the landing burns out on bright clips.")
    return work.wrinkle


def iris_zoom() -> Wrinkle:
    """An opening in the middle of the picture, and a strong zoom through it."""
    work = Work(
        "Iris zoom",
        "The next clip looks through an opening in the middle, then all rushes into it; "
        "for eyes, wheels, windows.",
        "mask",
        "zoom",
        half=18,
    )
    work.span("outgoing", None, -12)
    work.span("incoming", -12, None)
    around = work.layer("Around", "outgoing", -12, 4)
    hole = work.round_mask(around, _pupil(0), feather=3.0, expansion=-0.5, inverted=True)
    # One keyframe a frame, as a mask has that was followed.
    work.lane(around, hole, *((n - 12, _pupil(n)) for n in range(9)))
    work.put(around, "edge_cover", "bare")
    # What is around and what is inside rush on together, fastest at the cut.
    work.lane(
        around, "scale", (-8, (100.0, 100.0), "rush"), (3, (640.0, 640.0))
    )  # fmt: skip
    work.lane(
        "incoming", "scale", (-8, (62.0, 62.0), "gentle"), (6, (120.0, 120.0), "gentle"),
        (15, (100.0, 100.0)),
    )  # fmt: skip
    # Weaker, it does not come past the frame: it fades then.
    work.lane(around, "opacity", (-1, 100.0, "gentle"), (4, 0.0))
    # The rim of the opening has a thickness, which lies in shadow.
    deep = work.layer("Depth", None, -12, 3)
    lies = work.effect(deep, "exposure", stops=-2.0)
    work.put(deep, "edge_cover", "bare")
    work.put(deep, "motion_blur", False)
    inner = work.round_mask(deep, _pupil(0), feather=5.0, expansion=-1.6, inverted=True)
    work.lane(deep, inner, *((n - 12, _pupil(n)) for n in range(9)))
    work.lane(
        deep, "scale", (-8, (100.0, 100.0), "rush"), (3, (640.0, 640.0))
    )  # fmt: skip
    rush = work.layer("Rush", None, -7, 9)
    rays = work.effect(rush, "zoom_blur")
    work.peak(rush, rays["amount"], 24.0, "swell", 7)
    split = work.effect(rush, "channel_split")
    work.peak(rush, split["scale"], 3.0, "swell", 6)
    work.order("outgoing", "incoming", deep, around, rush)
    work.only_as_made("into the middle")
    work.dial("Rim", "How soft the opening is.", (around, hole.replace("path", "feather")),
              ends=(0.0, 12.0))  # fmt: skip
    work.dial("Depth", "How dark its thickness is.", (deep, lies["stops"]), ends=(-4.0, 0.0))
    work.dial("Zoom", "How far the new clip is nearer at first.", ("incoming", "scale"))
    work.dial("Rays", "How much the rush is smeared.", (rush, rays["amount"]))
    work.dial("Split", "How far the channels part.", (rush, split["scale"]))
    work.blur_dial()
    work.aside(
        "pixels", "The next clip is seen enlarged only while the opening is small.", "incoming"
    )
    return work.wrinkle


def _pupil(frame: int) -> Outline:
    """An opening so many frames after it begins: quick at first, a little uneven."""
    size = 0.001 + 0.2 * (1.0 - (1.0 - frame / 8.0) ** 2)
    return oval(0.5, 0.5, size * (1.0 + 0.05 * (frame % 2)), size)


RECIPES = {"lens_rush": lens_rush, "spiral_in": spiral_in, "iris_zoom": iris_zoom}
