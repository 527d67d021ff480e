"""What settings there are. One declaration serves the window, the edits and the documents."""

from __future__ import annotations

from dataclasses import replace

from wrinkle.core.mask.coverage import Combine
from wrinkle.core.motion.declaring import choice, number
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.setting_spec import OutlineSpec, PairSpec, SettingSpec, Unit
from wrinkle.core.motion.sound_run import SoundRun
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.blending import BlendMode
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.faces import ShippedFace
from wrinkle.core.picture.fit import Fit
from wrinkle.core.picture.gradient import CORNER_COLOURS, IN_CORNERS, FillForm
from wrinkle.core.picture.lettering import Align, RevealBy
from wrinkle.core.picture.paths import rectangle
from wrinkle.core.picture.vector import Cap, Join


def _corner(key: str, label: str, about: str, neutral: Value) -> SettingSpec:
    """A colour that stands in a corner, if colours do."""
    spec = choice(key, label, about, neutral)
    return replace(spec, exchanged=CORNER_COLOURS[key], mirror_when=IN_CORNERS)


_TURNS = 360.0 * 1000


def _by_key(*specs: SettingSpec) -> dict[str, SettingSpec]:
    return {spec.key: spec for spec in specs}


PLACEMENT_SETTINGS = _by_key(
    number(
        "position",
        "Position",
        "How far the picture is moved, in per cent of the frame's width and height.",
        (0.0, 0.0),
        -100.0,
        100.0,
        Unit.FRAME_PART,
        0.01,
        Mirroring.VECTOR,
    ),
    PairSpec(
        "scale",
        "Scale",
        "The picture's width and height.",
        (100.0, 100.0),
        -10000.0,
        10000.0,
        Unit.PER_CENT,
        1.0,
        linked=True,
    ),
    number(
        "rotation",
        "Rotation",
        "Turns the picture about its anchor, clockwise; 720° is two full turns.",
        0.0,
        -_TURNS,
        _TURNS,
        Unit.DEGREES,
        mirror=Mirroring.TURN,
    ),
    number(
        "skew",
        "Skew",
        "Leans the picture along the skew axis.",
        0.0,
        -85.0,
        85.0,
        Unit.DEGREES,
        mirror=Mirroring.TURN,
    ),
    number(
        "skew_axis",
        "Skew axis",
        "The direction along which skew moves the picture.",
        0.0,
        -_TURNS,
        _TURNS,
        Unit.DEGREES,
        mirror=Mirroring.TURN,
    ),
    number(
        "anchor",
        "Anchor",
        "The point of the picture that scale, skew and rotation leave in place.",
        (0.5, 0.5),
        -100.0,
        100.0,
        Unit.FRAME_PART,
        0.01,
        Mirroring.POINT,
    ),
    number(
        "tilt",
        "Tilt",
        "Turns the picture in depth, about its level and about its upright axis.",
        (0.0, 0.0),
        -_TURNS,
        _TURNS,
        Unit.DEGREES,
        mirror=Mirroring.TILT,
    ),
    number(
        "camera",
        "Camera",
        "How far the camera is from a tilted picture, in per cent of the frame's short side.",
        200.0,
        20.0,
        10000.0,
        Unit.PER_CENT,
        5.0,
    ),
)

LAYER_SETTINGS = _by_key(
    number("opacity", "Opacity", "How much of what lies below is covered.", 100.0, 0.0, 100.0),
    choice(
        "edge_cover",
        "Edge cover",
        "What is seen outside the moved picture.",
        EdgeCover.MIRROR.value,
        *(cover.value for cover in EdgeCover),
    ),
    choice(
        "fit",
        "Fit",
        "How a clip of another shape fills the frame.",
        Fit.FILL.value,
        *(fit.value for fit in Fit),
    ),
    choice("visible", "Shown", "Whether the layer is there.", True),
    choice("motion_blur", "Motion blur", "Whether its movement is blurred.", True),
    choice(
        "blend",
        "Blend",
        "How its colours meet those below.",
        BlendMode.NORMAL.value,
        *(mode.value for mode in BlendMode),
    ),
    choice("within", "Only within", "Seen only where there is something below.", False),
    number(
        "focus",
        "Focus point",
        "The point of a clip that stays in sight when it is cut to fill the frame.",
        (0.5, 0.5),
        0.0,
        1.0,
        Unit.FRAME_PART,
        0.01,
        Mirroring.POINT,
    ),
)

SETTINGS = {**PLACEMENT_SETTINGS, **LAYER_SETTINGS}
"""Those that every layer has, by their address."""

_KEEPS_FORM = choice(
    "keeps_form", "Keeps its form", "In a frame of another shape a circle stays a circle.", False
)

MASK_SETTINGS = _by_key(
    OutlineSpec(
        "path",
        "Path",
        "The outline of the mask.",
        rectangle(0.0, 0.0, 1.0, 1.0),
        -1000.0,
        1000.0,
        step=0.01,
        mirror=Mirroring.OUTLINE,
    ),
    choice(
        "combine",
        "Meets others",
        "How the mask meets those before it.",
        Combine.ADD.value,
        *(way.value for way in Combine),
    ),
    choice("inverted", "Inverted", "What is outside the path is shown.", False),
    number(
        "feather",
        "Feather",
        "The width over which the edge fades.",
        0.0,
        0.0,
        400.0,
        Unit.SHORT_SIDE,
        soft=True,
    ),
    number(
        "expansion",
        "Expansion",
        "How far the edge is moved out, or in below 0.",
        0.0,
        -200.0,
        200.0,
        Unit.SHORT_SIDE,
    ),
    number(
        "opacity", "Mask opacity", "How much of what the mask shows is seen.", 100.0, 0.0, 100.0
    ),
    _KEEPS_FORM,
)

_WHITE, _BLACK = (1.0, 1.0, 1.0), (0.0, 0.0, 0.0)

FILL_SETTINGS = _by_key(
    choice(
        "form",
        "Form",
        "How the colours lie in the frame.",
        FillForm.FLAT.value,
        *(form.value for form in FillForm),
    ),
    _corner("colour", "Colour", "The first colour, mixed in linear light.", _WHITE),
    _corner("colour_2", "Colour 2", "At the end of a gradient, or in the upper right.", _BLACK),
    _corner("colour_3", "Colour 3", "In the lower left corner.", _BLACK),
    _corner("colour_4", "Colour 4", "In the lower right corner.", _BLACK),
    number(
        "start",
        "Start",
        "Where a gradient begins; the centre of a radial one.",
        (0.5, 0.0),
        -10.0,
        10.0,
        Unit.FRAME_PART,
        0.01,
        Mirroring.POINT,
    ),
    number(
        "end",
        "End",
        "Where a gradient ends; a point on the rim of a radial one.",
        (0.5, 1.0),
        -10.0,
        10.0,
        Unit.FRAME_PART,
        0.01,
        Mirroring.POINT,
    ),
)

_PAINT = (
    choice("filled", "Filled", "Whether the inside is painted.", True),
    choice("fill", "Fill", "The colour of the inside.", _WHITE),
    choice("stroke", "Stroke", "The colour of the line.", _BLACK),
    number(
        "stroke_width",
        "Stroke width",
        "How wide the line is; 0 draws none.",
        0.0,
        0.0,
        200.0,
        Unit.SHORT_SIDE,
        0.5,
    ),
)

SHAPE_SETTINGS = _by_key(
    *_PAINT,
    OutlineSpec(
        "path",
        "Path",
        "The outline of the shape.",
        rectangle(0.25, 0.25, 0.75, 0.75),
        -1000.0,
        1000.0,
        step=0.01,
        mirror=Mirroring.OUTLINE,
    ),
    choice("cap", "Cap", "How an open line ends.", Cap.ROUND.value, *(x.value for x in Cap)),
    choice(
        "join", "Join", "How a line turns a corner.", Join.ROUND.value, *(x.value for x in Join)
    ),
    number(
        "dash",
        "Dash",
        "The lengths of a dash and of the gap after it; 0 for a whole line.",
        (0.0, 0.0),
        0.0,
        400.0,
        Unit.SHORT_SIDE,
        0.5,
    ),
    number("draw_from", "Draw from", "Where the visible part of the line begins.", 0.0, 0.0, 100.0),
    number("draw_to", "Draw to", "Where the visible part of the line ends.", 100.0, 0.0, 100.0),
    _KEEPS_FORM,
)

WORDS_SETTINGS = _by_key(
    *_PAINT,
    number("size", "Size", "The height of the letters.", 12.0, 0.1, 400.0, Unit.SHORT_SIDE, 0.5),
    choice(
        "face",
        "Face",
        "Which of the faces that ship; a font of the system goes before it.",
        ShippedFace.PLAIN.value,
        *(x.value for x in ShippedFace),
    ),
    number(
        "place",
        "Place",
        "Where the words stand in the room that the safe area leaves them: 0, 0 is the upper left.",
        (0.5, 0.5),
        0.0,
        1.0,
        Unit.FRAME_PART,
        0.01,
        Mirroring.POINT,
    ),
    choice(
        "keep_inside",
        "Keep inside",
        "Makes words smaller, and parts them into lines, so that none leaves the safe area.",
        False,
    ),
    number(
        "least",
        "Least size",
        "How small they may get before they go on more lines.",
        70.0,
        10.0,
        100.0,
    ),
    number("line_spacing", "Line spacing", "From one base line to the next.", 100.0, 0.0, 1000.0),
    number(
        "tracking",
        "Tracking",
        "Extra space after each letter.",
        0.0,
        -50.0,
        200.0,
        Unit.SHORT_SIDE,
        0.1,
    ),
    replace(
        choice(
            "align",
            "Align",
            "How the lines stand to each other.",
            Align.CENTRE.value,
            *(x.value for x in Align),
        ),
        mirror=Mirroring.SIDES,
    ),
    choice(
        "reveal_by",
        "Reveal by",
        "What appears at a time.",
        RevealBy.LETTER.value,
        *(x.value for x in RevealBy),
    ),
    number(
        "reveal_from",
        "Reveal from",
        "What comes before this part of the text is gone.",
        0.0,
        0.0,
        100.0,
    ),
    number("reveal_to", "Reveal to", "The part of the text that has appeared.", 100.0, 0.0, 100.0),
    number(
        "softness",
        "Softness",
        "How many letters, words or lines fade at a time.",
        1.0,
        0.05,
        100.0,
        Unit.NONE,
        0.25,
    ),
)

NOISE_SETTINGS = _by_key(
    number(
        "cell",
        "Cell",
        "Width and height of the largest spots.",
        (20.0, 20.0),
        0.2,
        1000.0,
        Unit.SHORT_SIDE,
    ),
    number(
        "complexity",
        "Complexity",
        "How many finer layers of noise are added.",
        4.0,
        1.0,
        10.0,
        Unit.NONE,
        0.5,
    ),
    number(
        "contrast",
        "Contrast",
        "How far light and dark lie apart.",
        100.0,
        0.0,
        1000.0,
        Unit.PER_CENT,
        5.0,
    ),
    number("brightness", "Brightness", "Shifts all of it.", 0.0, -200.0, 200.0, Unit.PER_CENT, 5.0),
    number(
        "evolution",
        "Evolution",
        "Turns the noise on; after whole turns it comes back.",
        0.0,
        -1000.0,
        1000.0,
        Unit.TURNS,
        0.1,
    ),
    number("seed", "Seed", "Another one gives other noise.", 1.0, 0.0, 9999.0, Unit.NONE),
)

TIMING_SETTINGS = _by_key(
    number(
        "speed",
        "Speed",
        "How fast the clip runs; below 0 it runs backwards.",
        100.0,
        -10000.0,
        10000.0,
        Unit.PER_CENT,
        5.0,
    ),
    number(
        "stutter",
        "Stutter",
        "Pictures a second that are held; 0 is off.",
        0.0,
        0.0,
        240.0,
        Unit.PER_SECOND,
    ),
    choice(
        "sound",
        "Its sound",
        "Whether the clip's own sound is heard as it was recorded, runs along with the pictures, "
        "higher where they are faster, or runs along at the same pitch.",
        SoundRun.AS_IT_WAS.value,
        *(run.value for run in SoundRun),
    ),
)
