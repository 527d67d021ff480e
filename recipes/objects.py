"""Things in front of the camera: who passes, prints that fall, boxes that turn, letters."""

from __future__ import annotations

from fractions import Fraction

from recipes.bench import Key, Work
from wrinkle.core.design.document.sources import FillSource
from wrinkle.core.design.document.timing import Timing
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion.sound_run import SoundRun
from wrinkle.core.picture.faces import ShippedFace
from wrinkle.core.picture.paths import Outline, polygon, rectangle

_WHOLE = (100.0, 100.0)


def passing_object() -> Wrinkle:
    """Somebody passes close to the camera, and leaves the next clip behind."""
    work = Work(
        "Passing object",
        "Something dark passes close to the camera and leaves the next clip behind it; for streets "
        "and walks.",
        "wipe",
    )
    work.lengths(17, 15)
    slot = work.clip_slot_if_filled("Object", "What passes, cut out of this clip, with nothing "
                                    "around it.")  # fmt: skip
    work.span("outgoing", None, 13)
    work.span("incoming", 12, None)
    coming = work.layer("Behind it", "incoming", -14, 12)
    # The edge of the next clip runs behind the middle of what passes.
    edge = work.mask(coming, rectangle(1.6, -1.0, 4.0, 2.0), feather=5.0)
    work.lane(coming, edge, (-10, rectangle(1.6, -1.0, 4.0, 2.0), "steady"),
              (8, rectangle(-0.6, -1.0, 1.8, 2.0)))  # fmt: skip
    passing: list[Key] = [(-10, (1.3, 0.0), "steady"), (8, (-1.3, 0.0))]
    body = work.layer("Who passes", FillSource(), -14, 12)
    for key, value in (
        ("form", "linear"),
        ("colour", (0.004, 0.004, 0.005)),
        ("colour_2", (0.022, 0.019, 0.017)),
        ("start", (0.3, 0.5)),
        ("end", (0.72, 0.45)),
    ):
        work.put(body, f"source.{key}", value)
    work.put(body, "edge_cover", "bare")
    work.round_mask(body, _BODY, feather=6.5)
    work.put(body, "scale", (150.0, 150.0))
    work.put(body, "anchor", (0.5, 0.2))
    work.lane(body, "position", *passing)
    # What is so near is soft: its smear is one with that, and costs little so.
    for one in (coming, body):
        work.put(one, "motion_blur", False)
    smear = work.effect(body, "directional_blur", angle=0.0)
    work.lane(body, smear["length"], (-10, 0.0), (-9, 9.0, "steady"), (7, 9.0), (8, 0.0))
    # It walks: a step up and down, and a little lean.
    work.lane(body, "rotation", (-10, -2.5, "gentle"), (0, 2.0, "gentle"), (8, -2.0))
    own = work.layer("Own object", slot, -14, 12)
    work.put(own, "edge_cover", "bare")
    work.put(own, "scale", (135.0, 135.0))
    near = work.effect(own, "gaussian_blur", radius=1.4)
    work.lane(own, "position", *passing)
    # Close to the lens, it takes light from everything.
    dim = work.layer("Its shade", None, -14, 12)
    shade = work.effect(dim, "exposure")
    work.lane(dim, shade["stops"], (-10, 0.0, "gentle"), (0, -0.55, "gentle"), (8, 0.0))
    # Weaker, nothing passes: it fades in and out then.
    for one in (coming, body, own):
        away = 100.0 if one == coming else 0.0
        work.lane(one, "opacity", (-14, 0.0, "gentle"), (-8, 100.0), (6, 100.0, "gentle"),
                  (12, away))  # fmt: skip
    work.order("outgoing", coming, "incoming", dim, body, own)
    work.shutter(260.0)
    work.directions("to the left", "to the right")
    # One's own object may leave the edge open above it, which is all but unseen if it is soft.
    feather = edge.replace(".path", ".feather")
    work.dial("Silhouette", "Whether the one that ships is seen.", (body, "visible"),
              (coming, feather))  # fmt: skip
    work.gives("Silhouette", coming, feather, 34.0, 5.0)
    work.dial("Colour", "Of what passes.", (body, "source.colour"))
    work.dial("Shade", "How much light it takes.", (dim, shade["stops"]), ends=(0.0, 250.0))
    work.dial("Near", "How soft one's own object is.", (own, near["radius"]), ends=(0.0, 6.0))
    work.blur_dial()
    return work.wrinkle


_BODY: Outline = polygon(
    (
        (0.12, 1.2), (0.1, 0.62), (0.16, 0.44), (0.28, 0.35), (0.35, 0.31), (0.33, 0.22),
        (0.36, 0.1), (0.46, 0.03), (0.57, 0.04), (0.65, 0.12), (0.66, 0.23), (0.62, 0.31),
        (0.7, 0.35), (0.83, 0.42), (0.92, 0.56), (0.95, 0.8), (0.96, 1.2),
    )
)  # fmt: skip
"""Head and shoulders, close by and out of focus."""


def photo_stack() -> Wrinkle:
    """Prints fall on each other; the last one becomes the clip."""
    work = Work(
        "Photo stack",
        "Prints with a white rim drop on the clip, and the last one grows into the next; for "
        "memories and lists.",
        "split",
        "zoom",
    )
    work.lengths(36, 16)
    work.span("outgoing", None, 11)
    work.span("incoming", 10, None)
    behind = work.layer("Behind", None, -34, 11)
    soft, dark = work.effect(behind, "gaussian_blur"), work.effect(behind, "exposure")
    work.lane(behind, soft["radius"], (-34, 0.0, "gentle"), (-23, 3.0))
    work.lane(behind, dark["stops"], (-34, 0.0, "gentle"), (-23, -1.1))
    order, papers, lands_at = [], [], []
    shown = (
        ("outgoing", -28, Fraction(-1, 2), (-0.03, -0.06), -8.0),
        ("incoming", -17, Fraction(3, 2), (0.05, 0.05), 6.0),
        ("incoming", -6, None, (0.0, 0.0), -3.0),
    )
    for number, (side, lands, frozen, spot, lean) in enumerate(shown, 1):
        start = lands - 6
        paper = work.layer(f"Paper {number}", FillSource(), start, 11)
        work.put(paper, "source.colour", (0.86, 0.85, 0.82))
        photo = work.layer(f"Photo {number}", side, start, 11)
        if frozen is not None:
            work.change(photo, timing=Timing(freeze=frozen))
        inner = rectangle(0.035, 0.02, 0.965, 0.93)
        rim = work.mask(photo, inner)
        work.put(photo, "edge_cover", "bare")
        one = work.group(f"Print {number}", paper, photo)
        work.span(one, start, 11)
        work.put(one, "edge_cover", "bare")
        home = (62.0, 62.0) if frozen is not None else (70.0, 70.0)
        near = (home[0] * 1.3, home[1] * 1.3)
        sizes: list[Key] = [(start, near, "power(2, in)"), (lands, home)]
        turns: list[Key] = [(start, lean * 3.0, "power(2, in)"), (lands, lean)]
        above = (spot[0] * 3.0, -1.05)
        work.lane(one, "position", (start, above, "brake"), (lands, spot))
        if frozen is None:
            # The last one grows until its photo is the clip, to the pixel.
            sizes += [(-1, home, "gentle"), (10, _WHOLE)]
            turns += [(-1, lean, "gentle"), (9, 0.0)]
            work.lane(photo, rim, (1, inner, "gentle"), (9, rectangle(-0.05, -0.05, 1.05, 1.05)))
        work.lane(one, "scale", *sizes)
        work.lane(one, "rotation", *turns)
        # Weaker, it does not fall: it fades in then.
        work.lane(
            one, "opacity", (start, 0.0, "gentle"), (start + (6 if number == 1 else 2), 100.0)
        )
        shade, _ = work.patch(f"Shade {number}", start, 11, (0.0, 0.0, 0.0),
                              rectangle(0.01, 0.012, 1.01, 1.012), feather=9.0)  # fmt: skip
        work.change(shade, parent=one)
        work.lane(
            shade, "opacity",
            (start, 0.0, "gentle"), (lands, 50.0, "gentle"), (0, 60.0, "gentle"), (4, 0.0),
        )  # fmt: skip
        order += [shade, paper, photo, one]
        papers.append(paper)
        lands_at.append(lands)
    blow = work.layer("Landing", None, -29, 0)
    nudges: list[Key] = []
    for lands in lands_at:
        nudges += [(lands - 1, (0.0, 0.0), "hold"), (lands, (0.0, 0.006), "brake"),
                   (lands + 4, (0.0, 0.0), "hold")]  # fmt: skip
    work.lane(blow, "position", *nudges)
    work.order("outgoing", behind, *order, blow, "incoming")
    work.shutter(120.0)
    work.directions("as made", "mirrored")
    work.dial("Paper", "The colour of the prints.", *((x, "source.colour") for x in papers))
    work.dial("Behind", "How dark it is behind them.", (behind, dark["stops"]), ends=(0.0, 200.0))
    work.dial("Haze", "How soft it is behind them.", (behind, soft["radius"]), ends=(0.0, 250.0))
    work.blur_dial()
    return work.wrinkle


def letters_window() -> Wrinkle:
    """The next clip is seen through a word, which grows until it is all."""
    work = Work(
        "Letters as a window",
        "A word opens on the next clip and grows until it is all there is; for places and names.",
        "title",
        "matte",
    )
    work.lengths(38, 14)
    word = work.words_slot("Word", "One short word; heavy letters show the most.", "TITLE")
    work.span("outgoing", None, 11)
    work.span("incoming", 10, None)
    dim = work.layer("Dimmed", None, -32, 11)
    dark, soft = work.effect(dim, "exposure"), work.effect(dim, "gaussian_blur")
    work.lane(dim, dark["stops"], (-32, 0.0, "gentle"), (-25, -1.6, "steady"), (2, -1.6, "gentle"),
              (11, -0.6))  # fmt: skip
    work.lane(dim, soft["radius"], (-32, 0.0, "gentle"), (-25, 1.6))
    rim = work.words("Rim", word, "TITLE", -32, 9, ShippedFace.CONDENSED, size=30.0, tracking=0.4)
    shape = work.words(
        "Word", word, "TITLE", -32, 11, ShippedFace.CONDENSED, size=30.0, tracking=0.4
    )
    for one in (rim, shape):
        work.lane(
            one, "scale", (-32, (80.0, 80.0), "overshoot"), (-25, _WHOLE, "steady"),
            (-2, _WHOLE, "power(4, in)"), (10, (2600.0, 2600.0)),
        )  # fmt: skip
        work.lane(one, "opacity", (-32, 0.0, "gentle"), (-28, 100.0))
        work.put(one, "motion_blur", False)
    # The outline grows faster than the letters, so that no counter is left in the end.
    work.put(rim, "source.fill", (1.0, 0.98, 0.94))
    work.put(rim, "source.stroke", (1.0, 0.98, 0.94))
    work.put(rim, "source.stroke_width", 0.7)
    work.put(shape, "visible", False)
    window = work.layer("Through it", "incoming", -32, 11)
    work.matte(window, shape)
    work.lane(window, "scale", (-32, (128.0, 128.0), "gentle"), (10, _WHOLE))
    whole = work.layer("All of it", "incoming", 3, 11)
    work.lane(whole, "opacity", (3, 0.0, "gentle"), (10, 100.0))
    work.order("outgoing", dim, rim, shape, window, whole, "incoming")
    work.only_as_made("as made")
    work.title_dials(rim, shape, largest=44.0)
    work.dial("Rim", "How wide the light rim of the letters is.", (rim, "source.stroke_width"),
              ends=(0.0, 2.0))  # fmt: skip
    read = "The word is a window: it is read by what is seen through it, and grows beyond all."
    for address in ("source.text", "position"):
        work.aside("words", read, rim, address)
    work.dial("Behind", "How dark it is behind the word.", (dim, dark["stops"]), ends=(0.0, 180.0))
    return work.wrinkle


def box_turn() -> Wrinkle:
    """Both clips are faces of a box that turns by a corner."""
    work = Work(
        "Fold",
        "Both clips are faces of a box, which turns to the next one; for rooms and chapters.",
        "turn",
        half=15,
    )
    reach = 12
    room = work.layer("Room", FillSource(), -reach, reach)
    for key, value in (
        ("form", "radial"),
        ("colour", (0.06, 0.06, 0.065)),
        ("colour_2", (0.004, 0.004, 0.006)),
        ("start", (0.5, 0.5)),
        ("end", (1.15, 0.5)),
    ):
        work.put(room, f"source.{key}", value)
    work.span("outgoing", None, 6)
    work.span("incoming", -6, None)
    # The corner that both faces share runs across; each leans away from the eye behind it.
    faces = (("outgoing", 1.0, 0.0, -90.0, -1.9), ("incoming", 0.0, 90.0, 0.0, -1.9))
    shades = []
    for side, hinge, first, last, darkest in faces:
        work.put(side, "anchor", (hinge, 0.5))
        work.put(side, "camera", 320.0)
        work.put(side, "edge_cover", "bare")
        turn: list[Key] = []
        place: list[Key] = []
        for frame, share, feel in _TURN:
            corner = 1.0 - share
            place.append((frame, (corner - hinge, 0.0), feel))
            turn.append((frame, (0.0, first + (last - first) * share), feel))
        work.lane(side, "position", *place)
        work.lane(side, "tilt", *turn)
        dark = work.effect(side, "exposure")
        start, end = (0.0, darkest) if side == "outgoing" else (darkest, 0.0)
        work.lane(side, dark["stops"], *((frame, start + (end - start) * share, feel)
                                         for frame, share, feel in _TURN))  # fmt: skip
        shades.append((side, dark["stops"]))
    # Weaker, the box does not turn: the next face fades in then.
    work.lane("incoming", "opacity", (-6, 0.0, "gentle"), (-2, 100.0))
    work.order(room, "outgoing", "incoming")
    work.shutter(200.0)
    work.directions("to the left", "to the right")
    work.dial("Light", "How much darker a face gets that turns away.", *shades)
    work.dial("Room", "The colour of what is behind.", (room, "source.colour"))
    work.blur_dial()
    return work.wrinkle


def door() -> Wrinkle:
    """The clip swings open like a door, and the next one stands in the room behind."""
    work = Work(
        "Door",
        "The clip swings open like a door on the next one; for arriving and for secrets.",
        "turn",
        half=16,
    )
    work.span("outgoing", None, -13)
    leaf = work.layer("Leaf", "outgoing", -13, 13)
    work.put(leaf, "anchor", (0.0, 0.5))
    work.put(leaf, "camera", 260.0)
    work.put(leaf, "edge_cover", "bare")
    work.lane(leaf, "tilt", (-13, (0.0, 0.0), "gentle"), (12, (0.0, 89.5)))
    dark = work.effect(leaf, "exposure")
    work.lane(leaf, dark["stops"], (-13, 0.0, "gentle"), (10, -1.7))
    # Weaker, it does not open: it fades then.
    work.lane(leaf, "opacity", (8, 100.0, "gentle"), (13, 0.0))
    work.span("incoming", -13, None)
    lit = work.effect("incoming", "exposure")
    work.lane("incoming", lit["stops"], (-13, -1.8, "gentle"), (12, 0.0))
    work.lane("incoming", "scale", (-13, (107.0, 107.0), "gentle"), (12, _WHOLE))
    fallen, edge = work.patch("Shade", -13, 11, (0.0, 0.0, 0.0),
                              rectangle(-0.6, -0.4, 1.02, 1.4), "multiply",
                              feather=16.0)  # fmt: skip
    work.lane(fallen, edge, (-13, rectangle(-0.6, -0.4, 1.02, 1.4), "swell"),
              (10, rectangle(-0.6, -0.4, -0.2, 1.4)))  # fmt: skip
    work.lane(fallen, "opacity", (-13, 0.0, "gentle"), (0, 66.0, "gentle"), (11, 0.0))
    work.order("incoming", fallen, "outgoing", leaf)
    work.shutter(180.0)
    work.directions("hinged on the left", "hinged on the right")
    work.dial("Light", "How much darker the leaf gets.", (leaf, dark["stops"]), ends=(0.0, 200.0))
    work.dial("Room", "How dark it is behind at first.", ("incoming", lit["stops"]),
              ends=(0.0, 180.0))  # fmt: skip
    work.dial("Shadow", "How dark the leaf shades.", (fallen, "opacity"), ends=(0.0, 150.0))
    work.blur_dial()
    return work.wrinkle


def page_turn() -> Wrinkle:
    """The clip is a page that is turned over onto itself, and the next one lies below."""
    work = Work(
        "Page turn",
        "The clip is turned like a page, from its lower corner; for diaries, recipes and steps.",
        "turn",
        "wipe",
        half=19,
    )
    work.span("outgoing", None, -15)
    leaf = work.layer("Page", "outgoing", -15, 15)
    page = work.effect(leaf, "page_turn", angle=-148.0)
    work.lane(leaf, page["turned"], (-15, 0.0, "gentle"), (14, 100.0))
    # Weaker, it is not turned to its end: it fades then.
    work.lane(leaf, "opacity", (7, 100.0, "gentle"), (15, 0.0))
    work.span("incoming", -15, None)
    deep = work.effect("incoming", "exposure")
    work.lane("incoming", deep["stops"], (-15, -0.6, "gentle"), (12, 0.0))
    work.order("incoming", "outgoing", leaf)
    work.directions("from the right", "from the left")
    work.dial("Bend", "How round the fold is.", (leaf, page["bend"]), ends=(6.0, 60.0))
    work.dial("Print-through", "How much of the picture the back shows.",
              (leaf, page["print_through"]), ends=(0.0, 60.0))  # fmt: skip
    work.dial("White", "How light its back is.", (leaf, page["white"]), ends=(30.0, 100.0))
    work.dial("Shadow", "How dark it shades.", (leaf, page["shadow"]), ends=(0.0, 150.0))
    return work.wrinkle


_TURN: tuple[tuple[float, float, str], ...] = (
    (-12, 0.0, "power(3, in)"),
    (0, 0.5, "power(3, out)"),
    (12, 1.0, "steady"),
)


def speed_ramp() -> Wrinkle:
    """Both clips' time runs fast into the cut and out of it."""
    work = Work(
        "Speed ramp",
        "Time runs away into the cut and slows out of it; for walks, drives and crowds.",
        "zoom",
        "colour",
    )
    work.lengths(16, 16)
    # Before it is fast it is slow, so that the clips are where they were at either end: the slow
    # part is as slow as the areas under both eases ask for.
    fast = 330.0
    slow = (1200.0 - 3.0 * fast) / 9.0
    for side, way in (("outgoing", -1), ("incoming", 1)):
        keys = [(15 * way, 100.0), (9 * way, slow), (0, fast)]
        eases = ("gentle", "power(2, in)") if way < 0 else ("power(2, out)", "gentle")
        placed = keys if way < 0 else keys[::-1]
        work.change(side, timing=Timing(along_motion=True))
        work.speed(side, *((n, x, ease) for (n, x), ease in zip(placed, (*eases, "steady"),
                                                               strict=True)))  # fmt: skip
        work.put(side, "timing.sound", SoundRun.ALONG.value)
    rush = work.layer("Rush", None, -11, 11)
    rays = work.effect(rush, "zoom_blur")
    work.peak(rush, rays["amount"], 12.0, "gentle", 10)
    work.peak(rush, "scale", (112.0, 112.0), "gentle", 10)
    split = work.effect(rush, "channel_split")
    work.peak(rush, split["offset"], 0.8, "gentle", 8)
    work.only_as_made("as made")
    work.dial("Split", "How far red and blue part at the cut.", (rush, split["offset"]))
    work.dial("Rush", "How much it is drawn out at the cut.", (rush, rays["amount"]),
              (rush, "scale"))  # fmt: skip
    work.dial("Clips' sound", "Whether it runs along with the pictures, and at its pitch.",
              *((side, "timing.sound") for side in ("outgoing", "incoming")))  # fmt: skip
    return work.wrinkle


RECIPES = {
    "passing_object": passing_object,
    "photo_stack": photo_stack,
    "letters_window": letters_window,
    "fold": box_turn,
    "door": door,
    "page_turn": page_turn,
    "speed_ramp": speed_ramp,
}
