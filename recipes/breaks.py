"""Wrinkles that break the picture."""

from __future__ import annotations

from fractions import Fraction

from recipes.bench import Work
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.sources import FillSource
from wrinkle.core.design.document.timing import Timing
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import effect_edits
from wrinkle.core.motion.held_at import HeldAt
from wrinkle.core.picture.faces import ShippedFace
from wrinkle.core.picture.paths import rectangle


def signal_slip() -> Wrinkle:
    """A smear, and a very short shaken piece with a ghost of itself and split channels."""
    work = Work(
        "Signal slip",
        "The signal slips for a few frames and catches itself; for a cut that hurts a little.",
        "glitch",
    )
    work.lengths(4, 15)
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
    torn = work.effect(shake, "slices", count=11.0, share=55.0, rate=15.0)
    work.lane(shake, torn["amount"], (0, 9.0, "hold"), (2, 5.0, "hold"), (4, 0.0))
    ghost = work.layer("Ghost", "incoming", 0, 5, blend="screen")
    work.lane(ghost, "opacity", (0, 55.0, "gentle"), (5, 0.0))
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
    work.dial("Smear", "Of the last frame before.", (smear, blur["length"]), ends=(0.0, 45.0))
    work.dial("Tear", "How far strips are shoved.", (shake, torn["amount"]))
    work.dial("Ghost", "Whether there is a ghost.", (ghost, "visible"))
    work.seed_dial()
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
    panels, shades = [], []
    for number, side in enumerate((-1.4, 1.4, -1.4)):
        name = f"Panel {number + 1}"
        # What slides lies above what is there: its edge throws a shadow.
        top, bottom = number / 3.0, (number + 1) / 3.0
        shade = work.layer(f"Shade {number + 1}", FillSource(), -10 + 2 * number, 9)
        work.put(shade, "source.colour", (0.0, 0.0, 0.0))
        work.put(shade, "edge_cover", "bare")
        work.put(shade, "motion_blur", False)
        work.mask(shade, rectangle(-0.02, top, 1.02, bottom), feather=7.0, expansion=1.0)
        first = -10 + 2 * number
        keys = (first, 0.0, "gentle"), (first + 3, 65.0), (0, 65.0, "gentle"), (8, 0.0)
        work.lane(shade, "opacity", *keys)
        panel = work.panel(name, number, 3, side, -10 + 2 * number, 4 + number, 9)
        work.change(panel, timing=_STUTTERED)
        work.change(shade, parent=panel)
        panels.append(panel)
        shades.append(shade)
    paper = work.group("On paper", *shades, *panels)
    work.span(paper, -10, 9)
    ground = work.effect(paper, "ground", size=0.5)
    work.lane(paper, ground["amount"], (1, 55.0, "gentle"), (8, 0.0))
    grey = work.effect(paper, "black_and_white")
    work.lane(paper, grey["amount"], (2, 100.0, "gentle"), (8, 0.0))
    stills: list[str] = []
    for start in (-6, -2, 2):
        still = work.layer(f"Still {len(stills) + 1}", "incoming", start, start + 2, opacity=85.0)
        work.put(still, "blend", "plus-lighter")
        work.change(still, timing=_FROZEN)
        work.effect(still, "channel_outline", amount=100.0, width=0.5)
        light = work.effect(still, "exposure")
        work.lane(still, light["stops"], (start, 0.8, "brake"), (start + 2, -0.6))
        stills.append(still)
    work.directions("from the left first", "from the right first")
    work.dial("How far", "From how far the panels come.", *((x, "position") for x in panels),
              ends=(75.0, 200.0))  # fmt: skip
    work.dial("Stills", "Whether stills flash between.", *((x, "visible") for x in stills))
    work.dial("Still light", "How bright they are.", *((x, "opacity") for x in stills))
    work.blur_dial()
    work.aside("way", "The panels that leave and those that come go each their own way.")
    return work.wrinkle


def stutter() -> Wrinkle:
    """The clip stutters into the cut in larger and shorter steps, and the next one catches it."""
    work = Work(
        "Stutter",
        "The clip stutters, each step nearer and sooner, into the cut; for a beat that builds.",
        "glitch",
        "zoom",
    )
    work.lengths(20, 9)
    step = work.layer("Steps", None, -17, 0)
    # The steps come sooner and sooner, as a drum roll does.
    sizes = ((-16, 105.0), (-12, 111.0), (-8, 118.0), (-5, 127.0), (-3, 138.0), (-1, 152.0))
    work.lane(step, "scale", (-17, _WHOLE, "hold"), *((n, (x, x), "hold") for n, x in sizes))
    aside = ((-16, -0.012), (-12, 0.016), (-8, -0.022), (-5, 0.028), (-3, -0.034), (-1, 0.04))
    spots = ((n, (x, x * 0.4), "hold") for n, x in aside)
    work.lane(step, "position", (-17, (0.0, 0.0), "hold"), *spots)
    split = work.effect(step, "channel_split")
    parted = (-17, 0.0, "hold"), (-8, 1.0, "hold"), (-3, 2.4, "hold"), (-1, 4.0, "hold")
    work.lane(step, split["scale"], *parted)
    slices = work.effect(step, "slices", count=14.0, rate=15.0)
    shoved = (-17, 0.0, "hold"), (-5, 4.0, "hold"), (-3, 9.0, "hold"), (-1, 14.0, "hold")
    work.lane(step, slices["amount"], *shoved)
    caught = work.layer("Caught", None, 0, 8)
    work.lane(caught, "scale", (0, (124.0, 124.0), "brake"), (7, _WHOLE))
    light = work.effect(caught, "exposure")
    work.lane(caught, light["stops"], (0, 0.34, "gentle"), (5, 0.0))
    # The clip itself halts with each step.
    halts = work.layer("Halts", "outgoing", -17, 0)
    work.change(halts, timing=_STUTTERED)
    work.span("outgoing", None, -17)
    work.order("outgoing", "incoming", halts, step, caught)
    work.only_as_made("as made")
    work.dial("Steps", "How far each step comes nearer.", (step, "scale"), (caught, "scale"))
    work.dial("Shove", "How far each step goes aside.", (step, "position"))
    work.dial("Split", "How far the channels part.", (step, split["scale"]))
    work.dial("Slices", "How far strips are shoved.", (step, slices["amount"]))
    work.dial("Light", "How bright the next clip is caught.", (caught, light["stops"]))
    work.seed_dial()
    return work.wrinkle


def broken_title() -> Wrinkle:
    """A title in four parts: cut in strips, turned over, split in colours, and at last clean."""
    work = Work(
        "Broken title",
        "A title breaks over the cut, flickers and comes together on the next clip; for chapters.",
        "title",
        "glitch",
    )
    work.lengths(17, 38)
    slot = work.words_slot("Title", "A word or two.", "Title")
    parts = {}
    for name, first, end in (
        ("Strips", -13, -7),
        ("Turned", -7, -3),
        ("Colours", -3, 3),
        ("Clean", 3, 37),
    ):
        part = work.words(name, slot, "Title", first, end, ShippedFace.CONDENSED, size=26.0)
        work.put(part, "source.tracking", 0.4)
        parts[name] = part
    work.lane(parts["Strips"], "opacity", (-13, 0.0, "gentle"), (-10, 100.0))
    work.put(parts["Turned"], "motion_blur", False)
    work.lane(parts["Clean"], "opacity", (29, 100.0, "gentle"), (36, 0.0))
    shade = work.shaded(parts["Clean"], 55.0)
    slices = work.effect(parts["Strips"], "slices", count=70.0, share=80.0, rate=20.0)
    work.lane(parts["Strips"], slices["amount"], (-13, 60.0, "brake"), (-7, 12.0))
    work.lane(
        parts["Turned"],
        "scale",
        (-7, (-100.0, 100.0), "hold"),
        (-6, (106.0, 100.0), "hold"),
        (-5, (-103.0, 100.0), "hold"),
        (-4, (100.0, 100.0)),
    )
    split = work.effect(parts["Colours"], "channel_split", angle=4.0)
    work.lane(parts["Colours"], split["offset"], (-3, 7.0, "gentle"), (3, 0.6))
    rough = work.effect(parts["Colours"], "slices", count=90.0, share=45.0, rate=20.0)
    work.lane(parts["Colours"], rough["amount"], (-3, 12.0, "gentle"), (3, 0.0))
    glow = work.effect(parts["Clean"], "glow", radius=12.0, threshold=10.0)
    work.lane(parts["Clean"], glow["amount"], (3, 220.0, "brake"), (11, 45.0))
    # What breaks the letters breaks the picture as well.
    hurt = work.layer("Hurt", None, -7, 6)
    torn = work.effect(hurt, "channel_split", angle=176.0)
    work.lane(hurt, torn["offset"], (-7, 0.0, "swell"), (0, 2.2, "gentle"), (5, 0.0))
    shoved = work.effect(hurt, "slices", count=13.0, share=45.0, rate=15.0)
    work.lane(
        hurt, shoved["amount"],
        (-7, 0.0, "hold"), (-6, 5.0, "hold"), (-3, 11.0, "hold"), (0, 8.0, "hold"), (3, 0.0),
    )  # fmt: skip
    lines = work.effect(hurt, "scan_lines")
    work.lane(hurt, lines["amount"], (-7, 0.0, "gentle"), (0, 45.0, "gentle"), (5, 0.0))
    work.order("outgoing", "incoming", hurt, shade, *parts.values())
    work.only_as_made("as made")
    words = tuple(parts.values())
    work.dial("Strips", "How far the strips are shoved.", (parts["Strips"], slices["amount"]))
    work.dial("Tear", "How far the picture tears at the cut.", (hurt, torn["offset"]),
              (hurt, shoved["amount"]))  # fmt: skip
    work.dial("Glow", "Of the clean title.", (parts["Clean"], glow["amount"]))
    work.dial("Title colour", "Of the letters.", *((x, "source.fill") for x in words))
    work.title_dials(*words, shade, largest=36.0)
    work.seed_dial()
    return work.wrinkle


_WHOLE = (100.0, 100.0)
_STUTTERED = Timing(stutter=Setting(10.0))
_FROZEN = Timing(freeze=Fraction(1, 3))


def tape_noise() -> Wrinkle:
    """A tape loses its lock at the cut and rolls over to the next clip."""
    work = Work(
        "Tape noise",
        "The tape loses its lock, rolls, and finds the next clip; for memories and music.",
        "glitch",
    )
    work.lengths(15, 18)
    # Two halves: a whole roll is begun before the cut, and ends after it.
    losing, finding = work.layer("Losing", None, -12, 0), work.layer("Finding", None, 0, 14)
    halves = []
    for half, strength, roll in (
        (losing, ((-12, 0.0, "gentle"), (-6, 45.0, "power(2, in)"), (0, 125.0)),
         ((-5, 0.0, "power(3, in)"), (0, 0.42))),
        (finding, ((0, 125.0, "power(2, out)"), (6, 45.0, "gentle"), (14, 0.0)),
         ((0, -0.58, "power(3, out)"), (7, 0.0))),
    ):  # fmt: skip
        signal = work.effect(half, "tape", wander=1.3)
        work.lane(half, signal["strength"], *strength)
        work.lane(half, signal["roll"], *roll)
        halves.append((half, signal))
    work.only_as_made("as made")
    for name, about, key, ends in (
        ("Strength", "Of all of it.", "strength", (20.0, 140.0)),
        ("Late colour", "How far colour lags behind light.", "chroma", (0.0, 5.0)),
        ("Heads", "How high the torn band at the bottom is.", "head", (0.0, 12.0)),
        ("Drop-outs", "How many bright streaks there are.", "drop_outs", (0.0, 50.0)),
        ("Noise", "How loud it is.", "noise", (0.0, 20.0)),
    ):
        work.dial(name, about, *((half, signal[key]) for half, signal in halves), ends=ends)
    work.seed_dial()
    return work.wrinkle


def film_slip() -> Wrinkle:
    """The film loses its registration, runs past the gate, burns, and the next picture stands."""
    work = Work(
        "Film slip",
        "The film slips in the gate, frame lines and holes run past, and the next clip stands; for "
        "chapters and the past.",
        "glitch",
        "slide",
    )
    work.lengths(15, 18)
    gate = work.layer("Gate", None, -12, 14)
    film = work.effect(gate, "film_gate")
    for key, most in (("weave", 0.55), ("flicker", 14.0), ("dust", 14.0), ("scratches", 2.5)):
        work.lane(gate, film[key], (-12, 0.0, "gentle"), (-7, most, "steady"),
                  (6, most, "gentle"), (14, 0.0))  # fmt: skip
    # What runs before the cut and what runs after it, each from where the picture stands.
    slips, runs = [], (
        ("Slips", -8, 0, ((-8, 0.0, "power(4, in)"), (0, 0.9)),
         ((-8, 0.0, "gentle"), (0, 13.0))),
        ("Stands", 0, 12, ((0, -1.3, "power(3, out)"), (8, -0.1, "gentle"), (11, 0.0)),
         ((0, 13.0, "gentle"), (9, 0.0))),
    )  # fmt: skip
    for name, start, end, run, strip in runs:
        slip = work.layer(name, None, start, end)
        moved = work.effect(slip, "film_gate")
        work.lane(slip, moved["run"], *run)
        work.lane(slip, moved["strip"], *strip)
        slips.append((slip, moved))
    smear = work.effect(gate, "directional_blur", angle=90.0)
    work.lane(gate, smear["length"], (-5, 0.0, "gentle"), (0, 8.0, "gentle"), (6, 0.0))
    # It burns where the lamp stood on it: from outside, just before it tears away.
    burn = work.effect("outgoing", "noise_reveal", character="cloud", size=26.0, softness=5.0,
                       edge=7.0, edge_colour=(1.0, 0.36, 0.06), edge_amount=100.0)  # fmt: skip
    work.lane("outgoing", burn["amount"], (-6, 0.0, "power(2, in)"), (0, 46.0))
    lamp = work.layer("Lamp", FillSource(), -6, 0)
    work.put(lamp, "source.colour", (0.8, 0.62, 0.36))
    work.order(lamp, "outgoing", "incoming", *(slip for slip, _ in slips), gate)
    work.only_as_made("as made")
    work.dial("Run", "How far the film runs.", *((slip, moved["run"]) for slip, moved in slips),
              ends=(0.0, 150.0))  # fmt: skip
    work.dial("Burn", "How far it burns.", ("outgoing", burn["amount"]), ends=(0.0, 150.0))
    work.dial("Strip", "How much of its edge is seen.",
              *((slip, moved["strip"]) for slip, moved in slips), ends=(0.0, 180.0))  # fmt: skip
    work.dial("Dust", "How many specks there are.", (gate, film["dust"]), ends=(0.0, 300.0))
    work.dial("Scratches", "How many there are.", (gate, film["scratches"]), ends=(0.0, 300.0))
    work.seed_dial()
    return work.wrinkle


def smeared_blocks() -> Wrinkle:
    """The next clip's motion drags blocks of the old one, which give way until none is left."""
    work = Work(
        "Smeared blocks",
        "The motion of the next clip drags blocks of the old one until they give way; for music "
        "and dances.",
        "glitch",
        "matte",
    )
    work.lengths(18, 14)
    guide = work.layer("Its motion", "incoming", -14, 11)
    work.put(guide, "visible", False)
    held = work.layer("Dragged", "outgoing", -14, 11)
    work.change(held, timing=Timing(freeze=Fraction(-14, 30)))
    drag = work.effect(held, "block_drag", scramble=80.0, leak=55.0)
    use = drag["drag"].split(".")[1].split(":")[0]
    work.wrinkle = effect_edits.change_effect(work.wrinkle, held, use, layer=guide)
    work.lane(held, drag["drag"], (-14, 0.0, "power(1.6, in)"), (11, 46.0))
    work.lane(held, drag["cleared"], (-9, 0.0, "gentle"), (0, 48.0, "gentle"), (10, 100.0))
    # Weaker, blocks stay: they fade then.
    work.lane(held, "opacity", (4, 100.0, "gentle"), (11, 0.0))
    work.span("outgoing", None, -14)
    work.span("incoming", -14, None)
    work.order("outgoing", "incoming", guide, held)
    work.only_as_made("as made")
    work.dial("Drag", "How far blocks are dragged.", (held, drag["drag"]), ends=(0.0, 250.0))
    work.dial("Block", "How large they are.", (held, drag["block"]), ends=(1.2, 9.0))
    work.dial("Scramble", "How unevenly they follow.", (held, drag["scramble"]))
    work.dial("Scatter", "How singly they give way.", (held, drag["scatter"]))
    work.dial("Leak", "How much of the next clip's detail comes through.", (held, drag["leak"]),
              ends=(0.0, 130.0))  # fmt: skip
    work.seed_dial()
    return work.wrinkle


RECIPES = {
    "smeared_blocks": smeared_blocks,
    "tape_noise": tape_noise,
    "film_slip": film_slip,
    "signal_slip": signal_slip,
    "triple_slide": triple_slide,
    "stutter": stutter,
    "broken_title": broken_title,
}
