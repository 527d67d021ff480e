"""What settings there are. One declaration serves the window, the edits and the documents."""

from __future__ import annotations

from dataclasses import replace

from wrinkle.core.mask.coverage import Combine
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.setting_spec import SettingSpec, Unit
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.blending import BlendMode
from wrinkle.core.picture.fit import Fit
from wrinkle.core.picture.gradient import CORNER_COLOURS, IN_CORNERS, FillForm
from wrinkle.core.picture.lettering import Align, RevealBy
from wrinkle.core.picture.paths import rectangle
from wrinkle.core.picture.resample import EdgeCover
from wrinkle.core.picture.vector import Cap, Join


def _number(
    key: str,
    label: str,
    about: str,
    unit: Unit,
    neutral: Value,
    low: float,
    high: float,
    step: float = 1.0,
    mirror: Mirroring = Mirroring.NOTHING,
    soft: bool = False,
) -> SettingSpec:
    return SettingSpec(key, label, about, unit, neutral, low, high, step, mirror=mirror, soft=soft)


def _choice(key: str, label: str, about: str, neutral: Value, *choices: str) -> SettingSpec:
    return SettingSpec(key, label, about, Unit.NONE, neutral, 0.0, 1.0, 1.0, choices=choices)


def _corner(key: str, label: str, about: str, neutral: Value) -> SettingSpec:
    """A colour that stands in a corner, if colours do."""
    spec = _choice(key, label, about, neutral)
    return replace(spec, exchanged=CORNER_COLOURS[key], mirror_when=IN_CORNERS)


_TURNS = 360.0 * 1000


def _by_key(*specs: SettingSpec) -> dict[str, SettingSpec]:
    return {spec.key: spec for spec in specs}


PLACEMENT_SETTINGS = _by_key(
    SettingSpec(
        "position",
        "Position",
        "How far the picture is moved, in per cent of the frame's width and height.",
        Unit.FRAME_PART,
        (0.0, 0.0),
        -100.0,
        100.0,
        0.01,
        mirror=Mirroring.VECTOR,
    ),
    SettingSpec(
        "scale",
        "Scale",
        "The picture's width and height.",
        Unit.PER_CENT,
        (100.0, 100.0),
        -10000.0,
        10000.0,
        1.0,
        linked=True,
    ),
    SettingSpec(
        "rotation",
        "Rotation",
        "Turns the picture about its anchor, clockwise; 720° is two full turns.",
        Unit.DEGREES,
        0.0,
        -_TURNS,
        _TURNS,
        1.0,
        mirror=Mirroring.TURN,
    ),
    SettingSpec(
        "skew",
        "Skew",
        "Leans the picture along the skew axis.",
        Unit.DEGREES,
        0.0,
        -85.0,
        85.0,
        1.0,
        mirror=Mirroring.TURN,
    ),
    SettingSpec(
        "skew_axis",
        "Skew axis",
        "The direction along which skew moves the picture.",
        Unit.DEGREES,
        0.0,
        -_TURNS,
        _TURNS,
        1.0,
        mirror=Mirroring.TURN,
    ),
    SettingSpec(
        "anchor",
        "Anchor",
        "The point of the picture that scale, skew and rotation leave in place.",
        Unit.FRAME_PART,
        (0.5, 0.5),
        -100.0,
        100.0,
        0.01,
        mirror=Mirroring.POINT,
    ),
    SettingSpec(
        "tilt",
        "Tilt",
        "Turns the picture in depth, about its level and about its upright axis.",
        Unit.DEGREES,
        (0.0, 0.0),
        -_TURNS,
        _TURNS,
        1.0,
        mirror=Mirroring.TILT,
    ),
    SettingSpec(
        "camera",
        "Camera",
        "How far the camera is from a tilted picture, in per cent of the frame's short side.",
        Unit.PER_CENT,
        200.0,
        20.0,
        10000.0,
        5.0,
    ),
)

LAYER_SETTINGS = _by_key(
    SettingSpec(
        "opacity",
        "Opacity",
        "How much of what lies below is covered.",
        Unit.PER_CENT,
        100.0,
        0.0,
        100.0,
        1.0,
    ),
    _choice(
        "edge_cover",
        "Edge cover",
        "What is seen outside the moved picture.",
        EdgeCover.MIRROR.value,
        *(cover.value for cover in EdgeCover),
    ),
    _choice(
        "fit",
        "Fit",
        "How a clip of another shape fills the frame.",
        Fit.FILL.value,
        *(fit.value for fit in Fit),
    ),
    _choice("visible", "Shown", "Whether the layer is there.", True),
    _choice("motion_blur", "Motion blur", "Whether its movement is blurred.", True),
    _choice(
        "blend",
        "Blend",
        "How its colours meet those below.",
        BlendMode.NORMAL.value,
        *(mode.value for mode in BlendMode),
    ),
    _choice("within", "Only within", "Seen only where there is something below.", False),
    SettingSpec(
        "focus",
        "Focus point",
        "The point of a clip that stays in sight when it is cut to fill the frame.",
        Unit.FRAME_PART,
        (0.5, 0.5),
        0.0,
        1.0,
        0.01,
        mirror=Mirroring.POINT,
    ),
)

SETTINGS = {**PLACEMENT_SETTINGS, **LAYER_SETTINGS}
"""Those that every layer has, by their address."""

_KEEPS_FORM = _choice(
    "keeps_form", "Keeps its form", "In a frame of another shape a circle stays a circle.", False
)

MASK_SETTINGS = _by_key(
    SettingSpec(
        "path",
        "Path",
        "The outline of the mask.",
        Unit.NONE,
        rectangle(0.0, 0.0, 1.0, 1.0),
        -1000.0,
        1000.0,
        0.01,
        outline=True,
        mirror=Mirroring.OUTLINE,
    ),
    _choice(
        "combine",
        "Meets others",
        "How the mask meets those before it.",
        Combine.ADD.value,
        *(way.value for way in Combine),
    ),
    _choice("inverted", "Inverted", "What is outside the path is shown.", False),
    _number("feather", "Feather", "The width over which the edge fades.",
            Unit.SHORT_SIDE, 0.0, 0.0, 400.0, soft=True),
    _number("expansion", "Expansion", "How far the edge is moved out, or in below 0.",
            Unit.SHORT_SIDE, 0.0, -200.0, 200.0),
    _number("opacity", "Mask opacity", "How much of what the mask shows is seen.",
            Unit.PER_CENT, 100.0, 0.0, 100.0),
    _KEEPS_FORM,
)  # fmt: skip

_WHITE, _BLACK = (1.0, 1.0, 1.0), (0.0, 0.0, 0.0)

FILL_SETTINGS = _by_key(
    _choice("form", "Form", "How the colours lie in the frame.", FillForm.FLAT.value,
            *(form.value for form in FillForm)),
    _corner("colour", "Colour", "The first colour, mixed in linear light.", _WHITE),
    _corner("colour_2", "Colour 2", "At the end of a gradient, or in the upper right.", _BLACK),
    _corner("colour_3", "Colour 3", "In the lower left corner.", _BLACK),
    _corner("colour_4", "Colour 4", "In the lower right corner.", _BLACK),
    _number("start", "Start", "Where a gradient begins; the centre of a radial one.",
            Unit.FRAME_PART, (0.5, 0.0), -10.0, 10.0, 0.01, Mirroring.POINT),
    _number("end", "End", "Where a gradient ends; a point on the rim of a radial one.",
            Unit.FRAME_PART, (0.5, 1.0), -10.0, 10.0, 0.01, Mirroring.POINT),
)  # fmt: skip

_PAINT = (
    _choice("filled", "Filled", "Whether the inside is painted.", True),
    _choice("fill", "Fill", "The colour of the inside.", _WHITE),
    _choice("stroke", "Stroke", "The colour of the line.", _BLACK),
    _number("stroke_width", "Stroke width", "How wide the line is; 0 draws none.",
            Unit.SHORT_SIDE, 0.0, 0.0, 200.0, 0.5),
)  # fmt: skip

SHAPE_SETTINGS = _by_key(
    *_PAINT,
    SettingSpec("path", "Path", "The outline of the shape.", Unit.NONE,
                rectangle(0.25, 0.25, 0.75, 0.75), -1000.0, 1000.0, 0.01, outline=True,
                mirror=Mirroring.OUTLINE),
    _choice("cap", "Cap", "How an open line ends.", Cap.ROUND.value, *(x.value for x in Cap)),
    _choice("join", "Join", "How a line turns a corner.", Join.ROUND.value,
            *(x.value for x in Join)),
    _number("dash", "Dash", "The lengths of a dash and of the gap after it; 0 for a whole line.",
            Unit.SHORT_SIDE, (0.0, 0.0), 0.0, 400.0, 0.5),
    _number("draw_from", "Draw from", "Where the visible part of the line begins.",
            Unit.PER_CENT, 0.0, 0.0, 100.0),
    _number("draw_to", "Draw to", "Where the visible part of the line ends.",
            Unit.PER_CENT, 100.0, 0.0, 100.0),
    _KEEPS_FORM,
)  # fmt: skip

WORDS_SETTINGS = _by_key(
    *_PAINT,
    _number("size", "Size", "The height of the letters.", Unit.SHORT_SIDE, 12.0, 0.1, 400.0, 0.5),
    _number("line_spacing", "Line spacing", "From one base line to the next.",
            Unit.PER_CENT, 100.0, 0.0, 1000.0),
    _number("tracking", "Tracking", "Extra space after each letter.",
            Unit.SHORT_SIDE, 0.0, -50.0, 200.0, 0.1),
    replace(_choice("align", "Align", "How the lines stand to each other.", Align.CENTRE.value,
                    *(x.value for x in Align)), mirror=Mirroring.SIDES),
    _choice("reveal_by", "Reveal by", "What appears at a time.", RevealBy.LETTER.value,
            *(x.value for x in RevealBy)),
    _number("reveal_from", "Reveal from", "What comes before this part of the text is gone.",
            Unit.PER_CENT, 0.0, 0.0, 100.0),
    _number("reveal_to", "Reveal to", "The part of the text that has appeared.",
            Unit.PER_CENT, 100.0, 0.0, 100.0),
    _number("softness", "Softness", "How many letters, words or lines fade at a time.",
            Unit.NONE, 1.0, 0.05, 100.0, 0.25),
)  # fmt: skip

NOISE_SETTINGS = _by_key(
    _number("cell", "Cell", "Width and height of the largest spots.",
            Unit.SHORT_SIDE, (20.0, 20.0), 0.2, 1000.0),
    _number("complexity", "Complexity", "How many finer layers of noise are added.",
            Unit.NONE, 4.0, 1.0, 10.0, 0.5),
    _number("contrast", "Contrast", "How far light and dark lie apart.",
            Unit.PER_CENT, 100.0, 0.0, 1000.0, 5.0),
    _number("brightness", "Brightness", "Shifts all of it.", Unit.PER_CENT, 0.0,
            -200.0, 200.0, 5.0),
    _number("evolution", "Evolution", "Turns the noise on; after whole turns it comes back.",
            Unit.TURNS, 0.0, -1000.0, 1000.0, 0.1),
    _number("seed", "Seed", "Another one gives other noise.", Unit.NONE, 1.0, 0.0, 9999.0),
)  # fmt: skip

TIMING_SETTINGS = _by_key(
    _number("speed", "Speed", "How fast the clip runs; below 0 it runs backwards.",
            Unit.PER_CENT, 100.0, -10000.0, 10000.0, 5.0),
    _number("stutter", "Stutter", "Pictures a second that are held; 0 is off.",
            Unit.PER_SECOND, 0.0, 0.0, 240.0),
)  # fmt: skip
