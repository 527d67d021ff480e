"""Wrinkles that are led by what is drawn: strokes of a brush, a port that shuts."""

from __future__ import annotations

from fractions import Fraction

from recipes.bench import RATE, Work
from wrinkle.core.design.document.timing import Timing
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.picture.faces import ShippedFace


def brush_strokes() -> Wrinkle:
    """Wet strokes of a wide brush lay the next clip on, in colours of both clips."""
    work = Work(
        "Brush strokes",
        "Wet strokes of a wide brush paint the next clip on, in colours of both; "
        "for hands at work and for art.",
        "matte",
        "wipe",
        half=20,
    )
    work.span("outgoing", None, 18)
    work.span("incoming", 18, None)
    painted = work.layer("Painted", "incoming", -18, 18)
    paint = work.effect(painted, "paint_strokes", angle=16.0, seed=3.0)
    work.lane(painted, paint["painted"], (-18, 0.0), (17, 100.0))
    work.order("outgoing", painted, "incoming")
    work.directions("from the left", "from the right")
    work.dial("Strokes", "How many cover the frame.", (painted, paint["strokes"]))
    work.dial("Dry brush", "How soon it runs out of paint.", (painted, paint["dry"]))
    work.dial("Settle", "How long the paint is seen.", (painted, paint["settle"]))
    work.dial("Own colour", "Instead of colours from both clips.", (painted, paint["own"]))
    work.dial("Colour", "If it has its own.", (painted, paint["colour"]))
    work.seed_dial()
    return work.wrinkle


def porthole() -> Wrinkle:
    """Blades shut over one clip with a strike and open on the next, and words stand in it."""
    work = Work(
        "Porthole",
        "Steel blades strike shut and open on another sea, with words behind what stands in it; "
        "for windows, eyes and shutters.",
        "mask",
        "zoom",
        "title",
    )
    work.lengths(18, 43)
    # The next clip runs back before it runs on.
    back = work.layer("Runs back", "incoming", 0, 6)
    # It reaches the sixth frame from behind, where the clip itself goes on.
    work.change(back, timing=Timing(reverse=True, slide=Fraction(12, RATE)))
    near = []
    for side, whole, size in (("outgoing", -16, 112.0), ("incoming", 20, 116.0), (back, 20, 116.0)):
        rest, large = (100.0, 100.0), (size, size)
        if whole < 0:
            work.lane(side, "scale", (whole, rest, "swell"), (0, large))
        else:
            work.lane(side, "scale", (0, large, "brake"), (whole, rest))
        near.append((side, "scale"))
    slot = work.words_slot("Words", "Two or three.", "Title")
    filled = work.words("Filled", slot, "Title", 5, 43, ShippedFace.SERIF, size=15.0, tracking=0.5)
    outlined = work.words("Outlined", slot, "Title", 3, 43, ShippedFace.SERIF, size=15.0,
                          tracking=0.5, filled=False, stroke=_PALE, stroke_width=0.22)  # fmt: skip
    for words, first, slid in ((filled, 5, 0.06), (outlined, 3, -0.1)):
        work.put(words, "source.reveal_by", "word")
        work.lane(words, "source.reveal_to", (first, 0.0), (first + 9, 100.0))
        work.lane(words, "position", (first, (slid, 0.0), "brake"), (first + 13, (0.0, 0.0)))
        work.lane(words, "opacity", (35, 100.0, "gentle"), (42, 0.0))
    work.put(filled, "source.fill", _PALE)
    shade = work.shaded(filled)
    cut_out = work.clip_slot_if_filled(
        "Subject", "What stands before the words, cut out of the next clip."
    )
    subject = work.layer("Before the words", cut_out, 3, 43)
    strike = work.layer("Strike", None, -3, 9)
    smear = work.effect(strike, "directional_blur", angle=18.0)
    split = work.effect(strike, "channel_split", angle=18.0)
    light = work.effect(strike, "exposure")
    for key, most in ((smear["length"], 5.0), (split["offset"], 1.6), (light["stops"], 1.1)):
        work.lane(strike, key, (-3, 0.0, "rush"), (-1, most, "brake"), (6, 0.0))
    work.jitter(strike, "position", 15.0, 4, (-2, 0.0, "rush"), (-1, 0.03, "brake"), (8, 0.0))
    shutter = work.layer("Shutter", None, -16, 17)
    blades = work.effect(shutter, "blades", angle=-60.0, twist=95.0)
    work.lane(
        shutter, blades["shut"], (-16, 0.0, "rush"), (-1, 100.0, "steady"), (1, 100.0, "brake"),
        (16, 0.0),
    )  # fmt: skip
    work.order("outgoing", "incoming", back, shade, filled, outlined, subject, shutter, strike)
    work.directions("to the right", "to the left")
    work.dial("Blades", "How many there are.", (shutter, blades["blades"]))
    work.dial("Metal", "Its colour.", (shutter, blades["colour"]))
    work.dial("Edge light", "How much their edges shine.", (shutter, blades["edge"]))
    work.dial(
        "Strike", "How hard they strike.", (strike, smear["length"]), (strike, split["offset"]),
        (strike, "position.jitter"), (strike, light["stops"]),
    )  # fmt: skip
    work.dial("Zoom", "How far both clips come nearer.", *near)
    work.title_dials(filled, outlined, shade, largest=30.0)
    work.dial("Words", "Whether there are words.",
              *((x, "visible") for x in (filled, outlined, shade)))  # fmt: skip
    return work.wrinkle


_PALE = (0.98, 0.93, 0.82)


RECIPES = {"brush_strokes": brush_strokes, "porthole": porthole}
"""By the folder of each."""
