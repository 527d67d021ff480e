"""Wrinkles that break the picture."""

from __future__ import annotations

from fractions import Fraction

from recipes.bench import Work
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.sources import WordsSource
from wrinkle.core.design.document.timing import Timing
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion.held_at import HeldAt


def signal_slip() -> Wrinkle:
    """A smear, and a very short shaken piece with a ghost of itself and split channels."""
    work = Work(
        "Signal slip",
        "The signal slips for a few frames and catches itself; for a cut that hurts a little.",
        "glitch",
    )
    smear = work.layer("Last frame", None, -1, 0)
    blur = work.effect(smear, "directional_blur", length=22.0, angle=12.0)
    shake = work.layer("Slip", None, 0, 6)
    work.lane(
        shake,
        "scale",
        (0, (128.0, 128.0), "hold"),
        (2, (116.0, 116.0), "hold"),
        (4, (107.0, 107.0), "brake"),
        (6, (100.0, 100.0)),
    )
    work.lane(
        shake,
        "position",
        (0, (0.05, -0.03), "hold"),
        (2, (-0.04, 0.02), "hold"),
        (4, (0.02, 0.01), "brake"),
        (6, (0.0, 0.0)),
    )
    split = work.effect(shake, "channel_split", angle=8.0)
    work.lane(shake, split["offset"], (0, 3.2, "brake"), (6, 0.0))
    ghost = work.layer("Ghost", "incoming", 0, 5, opacity=55.0, blend="screen")
    work.lane(
        ghost,
        "scale",
        (0, (132.0, 132.0), "hold"),
        (2, (120.0, 120.0), "hold"),
        (4, (112.0, 112.0)),
    )
    work.effect(
        ghost, "colour_key", amount=100.0, by_brightness=True, brightness=(0.0, 45.0), softness=20.0
    )
    work.effect(
        ghost,
        "tone_map",
        amount=100.0,
        dark=(0.0, 0.05, 0.1),
        middle=(0.0, 0.4, 0.5),
        light=(0.3, 1.0, 0.9),
    )
    work.order("outgoing", "incoming", smear, ghost, shake)
    for layer in (shake, ghost):
        work.change(layer, keeps=HeldAt.CUT)
    work.directions("to the right", "to the left")
    work.dial("Slip", "How hard it slips.", (shake, "position"), (shake, split["offset"]))
    work.dial("Smear", "Of the last frame before.", (smear, blur["length"]))
    work.dial("Ghost", "Whether there is a ghost.", (ghost, "visible"))
    work.blur_dial()
    return work.wrinkle


def triple_slide() -> Wrinkle:
    """Three panels of the next clip slide in from alternating sides, with flashes of stills."""
    work = Work(
        "Triple slide",
        "Three panels slide in from alternating sides on a flash of black and "
        "white; for fashion and lists.",
        "slide",
        "split",
    )
    work.span("outgoing", None, 9)
    work.span("incoming", 8, None)
    panels = []
    for number, side in enumerate((-1.4, 1.4, -1.4)):
        name = f"Panel {number + 1}"
        panel = work.panel(name, number, 3, side, -10 + 2 * number, 4 + number, 9)
        work.change(panel, timing=_STUTTERED)
        panels.append(panel)
    paper = work.group("On paper", *panels)
    work.span(paper, -10, 9)
    work.effect(paper, "ground", amount=55.0, size=0.5)
    grey = work.effect(paper, "black_and_white")
    work.lane(paper, grey["amount"], (2, 100.0, "gentle"), (8, 0.0))
    stills: list[str] = []
    for start in (-6, -2, 2):
        still = work.layer(f"Still {len(stills) + 1}", "incoming", start, start + 2, opacity=70.0)
        work.put(still, "blend", "plus-lighter")
        work.change(still, timing=_FROZEN)
        work.effect(still, "channel_outline", amount=100.0, width=0.5)
        stills.append(still)
    work.directions("from the left first", "from the right first")
    work.dial("How far", "From how far the panels come.", *((x, "position") for x in panels))
    work.dial("Stills", "Whether stills flash between.", *((x, "visible") for x in stills))
    work.dial("Still light", "How bright they are.", *((x, "opacity") for x in stills))
    work.blur_dial()
    work.aside("way", "The panels that leave and those that come go each their own way.")
    return work.wrinkle


def stutter() -> Wrinkle:
    """The clip stutters into the cut in larger and larger steps."""
    work = Work(
        "Stutter",
        "The clip stutters, each step nearer, into the cut; for a beat that builds.",
        "glitch",
        "zoom",
    )
    step = work.layer("Steps", None, -12, 8)
    sizes = (
        (-10, 104.0),
        (-8, 109.0),
        (-6, 115.0),
        (-4, 123.0),
        (-2, 134.0),
        (0, 128.0),
        (2, 114.0),
        (4, 105.0),
    )
    keys = [(-12, (100.0, 100.0), "hold"), *((n, (x, x), "hold") for n, x in sizes)]
    work.lane(step, "scale", *keys, (6, (100.0, 100.0)))
    split = work.effect(step, "channel_split")
    work.lane(
        step, split["scale"], (-12, 0.0, "hold"), (-6, 1.2, "hold"), (-2, 3.0, "brake"), (6, 0.0)
    )
    slices = work.effect(step, "slices", count=14.0, rate=15.0)
    work.lane(
        step, slices["amount"], (-4, 0.0, "hold"), (-2, 9.0, "hold"), (0, 5.0, "hold"), (3, 0.0)
    )
    work.only_as_made("as made")
    work.dial("Steps", "How far each step comes nearer.", (step, "scale"))
    work.dial("Split", "How far the channels part.", (step, split["scale"]))
    work.dial("Slices", "How far strips are shoved.", (step, slices["amount"]))
    work.seed_dial()
    return work.wrinkle


def broken_title() -> Wrinkle:
    """A title in four parts: cut in strips, turned over, split in colours, and at last clean."""
    work = Work(
        "Broken title",
        "A title breaks over the cut, flickers and comes together on the next clip; for chapters.",
        "title",
        "glitch",
        half=18,
    )
    work.words_slot("Title", "A word or two.", "NEXT")
    parts = {}
    for name, first, end in (
        ("Strips", -13, -7),
        ("Turned", -7, -3),
        ("Colours", -3, 3),
        ("Clean", 3, 16),
    ):
        source = WordsSource(text="NEXT", slot="words")
        part = work.layer(name, source, first, end, blend="lighten")
        work.put(part, "source.size", 27.0)
        parts[name] = part
    work.put(parts["Turned"], "motion_blur", False)
    slices = work.effect(parts["Strips"], "slices", count=70.0, share=80.0, rate=20.0)
    work.lane(parts["Strips"], slices["amount"], (-13, 70.0, "brake"), (-7, 16.0))
    work.lane(
        parts["Turned"],
        "scale",
        (-7, (-100.0, 100.0), "hold"),
        (-6, (112.0, 100.0), "hold"),
        (-5, (-106.0, 100.0), "hold"),
        (-4, (100.0, 100.0)),
    )
    split = work.effect(parts["Colours"], "channel_split", angle=4.0)
    work.lane(parts["Colours"], split["offset"], (-3, 9.0, "gentle"), (3, 0.6))
    rough = work.effect(parts["Colours"], "slices", count=90.0, share=45.0, rate=20.0)
    work.lane(parts["Colours"], rough["amount"], (-3, 14.0, "gentle"), (3, 0.0))
    glow = work.effect(parts["Clean"], "glow", radius=10.0)
    work.lane(parts["Clean"], glow["amount"], (3, 160.0, "brake"), (10, 0.0))
    work.lane(parts["Clean"], "opacity", (11, 100.0, "gentle"), (15, 0.0))
    hurt = work.layer("Hurt", None, -4, 4)
    torn = work.effect(hurt, "channel_split", angle=176.0)
    work.lane(hurt, torn["offset"], (-4, 0.0, "swell"), (0, 1.8, "gentle"), (4, 0.0))
    work.order("outgoing", "incoming", hurt, *parts.values())
    work.only_as_made("as made")
    work.dial("Strips", "How far the strips are shoved.", (parts["Strips"], slices["amount"]))
    work.dial("Colours", "How far they part.", (parts["Colours"], split["offset"]))
    work.dial("Glow", "Of the clean title.", (parts["Clean"], glow["amount"]))
    work.dial("Tear", "How far the picture tears at the cut.", (hurt, torn["offset"]))
    work.seed_dial()
    # Each part of the title is heard: the strips crackle, it turns, it tears, it lands.
    work.aside("words", "Torn letters are to leave the safe area.", "strips", "position")
    work.aside("words", "Split letters are to leave the safe area.", "colours", "position")
    return work.wrinkle


_STUTTERED = Timing(stutter=Setting(10.0))
_FROZEN = Timing(freeze=Fraction(1, 3))
RECIPES = {
    "signal_slip": signal_slip,
    "triple_slide": triple_slide,
    "stutter": stutter,
    "broken_title": broken_title,
}
