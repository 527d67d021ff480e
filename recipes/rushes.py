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
    work.peak(rush, "scale", (112.0, 112.0))
    smear = work.effect(rush, "contour_smear", guide=2.5)
    work.lane(rush, smear["length"], (-9, 0.0, "swell"), (0, 9.0, "gentle"), (6, 0.0))
    bend = work.effect(rush, "lens_bend")
    work.lane(rush, bend["field"], (-ACTIVE, 0.0, "swell"), (0, 118.0, "gentle"), (6, 0.0))
    light = work.effect(rush, "exposure")
    work.lane(rush, light["stops"], (-9, 0.0, "swell"), (0, 1.5, "gentle"), (7, 0.0))
    work.jitter(rush, "position", 15.0, 3, (-10, 0.0, "gentle"), (-1, 0.035, "gentle"), (6, 0.0))
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
        half=24,
    )
    work.span("outgoing", None, -13)
    card = work.layer("Card", "outgoing", -13, 3)
    work.span("incoming", 8, None)
    behind = work.layer("Behind", "incoming", -13, 8)
    soft = work.effect(behind, "gaussian_blur", radius=14.0)
    dark = work.effect(behind, "exposure", stops=-2.2)
    work.lane(card, "scale", (-13, (100.0, 100.0), "gentle"), (3, (22.0, 22.0)))
    work.lane(card, "tilt", (-13, (0.0, 0.0), "gentle"), (3, (-18.0, 62.0)))
    work.lane(card, "position", (-12, (0.0, 0.0), "rush"), (3, (0.95, -0.4)))
    work.put(card, "camera", 240.0)
    work.put(card, "edge_cover", "bare")
    # What flies away is cut out of the clip; on the Bench the path is drawn about a subject.
    all_of_it, shape = rectangle(-0.05, -0.05, 1.05, 1.05), rectangle(0.1, 0.12, 0.9, 0.88)
    cut_out = work.mask(card, all_of_it, feather=1.5)
    work.lane(card, cut_out, (-13, all_of_it, "brake"), (-6, shape))
    rays = work.effect(card, "zoom_blur")
    work.lane(card, rays["amount"], (-9, 0.0, "gentle"), (3, 45.0))
    coming = work.layer("Coming", "incoming", -9, 8)
    work.lane(coming, "scale", (-9, (1.0, 1.0), "gentle"), (7, (100.0, 100.0)))
    work.lane(coming, "rotation", (-9, -540.0, "gentle"), (7, 0.0))
    work.put(coming, "edge_cover", "bare")
    small, wide = circle(0.46), circle(1.3)
    path = work.round_mask(coming, small, feather=12.0)
    work.lane(coming, path, (-1, small, "gentle"), (7, wide))
    # The spin blur is its motion blur: a turn this fast would take hundreds of samples.
    work.put(coming, "motion_blur", False)
    spin = work.effect(coming, "spin_blur")
    work.lane(coming, spin["angle"], (-9, 0.0, "gentle"), (-1, 34.0, "gentle"), (6, 0.0))
    landing = work.layer("Landing", None, 5, 20)
    glow = work.effect(landing, "glow", radius=24.0, threshold=45.0)
    work.lane(landing, glow["amount"], (5, 0.0, "gentle"), (8, 120.0, "gentle"), (19, 0.0))
    work.jitter(landing, "position", 14.0, 5, (6, 0.0, "gentle"), (8, 0.02, "gentle"), (19, 0.0))
    work.order("outgoing", behind, card, coming, "incoming", landing)
    work.directions("clockwise", "counter-clockwise")
    work.dial("Spin", "How far the next clip turns.", (coming, "rotation"))
    work.dial("Spin blur", "How much the turn is smeared.", (coming, spin["angle"]))
    work.dial("Landing", "How hard it lands.", (landing, "position.jitter"))
    work.dial("Glow", "Of the landing.", (landing, glow["amount"]))
    work.dial("Behind", "How dark it is behind.", (behind, dark["stops"]))
    work.dial("Haze", "How soft it is behind.", (behind, soft["radius"]))
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
    around = work.layer("Around", "outgoing", -12, 9)
    hole = work.round_mask(around, _pupil(0), feather=3.0, expansion=-0.5, inverted=True)
    # One keyframe a frame, as a mask has that was followed.
    work.lane(around, hole, *((n - 12, _pupil(n)) for n in range(9)))
    work.put(around, "edge_cover", "bare")
    work.lane(around, "scale", (-8, (100.0, 100.0), "rush"), (9, (1250.0, 1250.0)))
    # Inside the opening the clip runs at half its speed, and is framed anew.
    near = (150.0, 150.0)
    work.lane("incoming", "scale", (-6, near, "gentle"), (13, (100.0, 100.0)))
    work.lane("incoming", "position", (-6, (0.0, 0.06), "gentle"), (13, (0.0, 0.0)))
    work.speed("incoming", (-12, 50.0, "hold"), (0, 100.0))
    rush = work.layer("Rush", None, -6, 10)
    rays = work.effect(rush, "zoom_blur")
    work.lane(rush, rays["amount"], (-6, 0.0, "swell"), (2, 22.0, "gentle"), (9, 0.0))
    split = work.effect(rush, "channel_split")
    work.lane(rush, split["scale"], (-6, 0.0, "swell"), (2, 3.5, "gentle"), (9, 0.0))
    work.only_as_made("into the middle")
    work.dial("Rim", "How soft the opening is.", (around, hole.replace("path", "feather")))
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
