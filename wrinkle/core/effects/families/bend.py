"""Effects that bend the picture: each reads it at other places."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.sampling import Field, grid, read, shrunk
from wrinkle.core.motion.declaring import angle, choice, evolution, length, number, seed, spot
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.setting_spec import Unit
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.noise import EVOLUTION, Noise, noise_field

_STRONGEST = 179.0


def lens_bend(image: Image, values: Values, scene: Scene) -> Image:
    """A wide lens: with the half field of view a, a point at r is read at tan(r a) / tan(a).

    The corners stay; below 0 the inverse, atan(r tan(a)) / a, which undoes it exactly. Source: the
    equidistant against the rectilinear projection.
    """
    field = min(max(values.number("field"), -_STRONGEST), _STRONGEST)
    half = max(math.radians(abs(field)) / 2.0, 1e-4)
    x0, y0 = scene.spot(values.pair("centre"))
    x, y = grid(image.size)
    across, down = x - np.float32(x0), y - np.float32(y0)
    corner = math.hypot(scene.width, scene.height) / 2.0
    radius = np.hypot(across, down) / np.float32(corner)
    if field > 0.0:
        # Beyond the corner the tangent would soon be endless: it goes on straight.
        inside = np.minimum(radius, 1.0)
        bent = np.tan(inside * half) / math.tan(half) + np.maximum(radius - 1.0, 0.0)
    else:
        bent = np.arctan(radius * math.tan(half)) / half
    factor = (bent / np.maximum(radius, 1e-6)).astype(np.float32)
    return read(image, across * factor + np.float32(x0), down * factor + np.float32(y0), scene)


def bulge(image: Image, values: Values, scene: Scene) -> Image:
    """Inside a circle, what is at r is read at r (1 - amount (1 - r²)²): smooth at the rim."""
    amount = values.number("amount") / 100.0
    radius = max(values.number("radius") * scene.unit, 1e-3)
    x0, y0 = scene.spot(values.pair("centre"))
    x, y = grid(image.size)
    across, down = x - np.float32(x0), y - np.float32(y0)
    near = np.float32(1.0) - (across**2 + down**2) / np.float32(radius**2)
    rest: Field = np.clip(near, 0.0, 1.0).astype(np.float32)
    factor = np.float32(1.0) - np.float32(amount) * rest * rest
    return read(image, across * factor + np.float32(x0), down * factor + np.float32(y0), scene)


def ripple(image: Image, values: Values, scene: Scene) -> Image:
    """Waves: along a direction, or in circles about a centre; they run on with time."""
    reach = values.number("amount") * scene.unit
    wave = max(values.number("wavelength") * scene.unit, 0.5)
    phase = 2.0 * math.pi * values.number("speed") * scene.time
    x0, y0 = scene.spot(values.pair("centre"))
    x, y = grid(image.size)
    across, down = x - np.float32(x0), y - np.float32(y0)
    fade = np.ones((1, 1), np.float32)
    if values.choice("form") == "circles":
        radius = np.hypot(across, down)
        turn = radius * np.float32(2.0 * math.pi / wave) - np.float32(phase)
        falloff = values.number("falloff")
        if falloff > 0.0:
            far = np.float32(math.hypot(scene.width, scene.height) / 2.0)
            fade = np.exp(-np.float32(falloff / 25.0) * radius / far).astype(np.float32)
        shift = np.float32(reach) * np.sin(turn) * fade / np.maximum(radius, 1.0)
        return read(image, x + across * shift, y + down * shift, scene)
    way = math.radians(values.number("angle"))
    cos, sin = math.cos(way), math.sin(way)
    along = across * np.float32(cos) + down * np.float32(sin)
    shift = np.float32(reach) * np.sin(along * np.float32(2 * math.pi / wave) - np.float32(phase))
    return read(image, x - shift * np.float32(sin), y + shift * np.float32(cos), scene)


def noise_warp(image: Image, values: Values, scene: Scene) -> Image:
    """Each pixel is read some way off, by noise: rough (two fields) or swirl (around one).

    The swirl follows the contours of one noise, so that nothing is squeezed (no divergence).
    """
    reach = values.number("amount") * scene.unit
    cell = max(values.number("size") * scene.unit, 1.0)
    octaves = values.number("complexity")
    z = values.number("evolution") * EVOLUTION
    number_ = round(values.number("seed"))
    size = image.size
    middle = scene.middle

    def field(which: int, gain: float = 0.5) -> Field:
        seed = number_ * 2 + which + 1
        return noise_field(Noise((cell, cell), octaves, z, gain, seed, EVOLUTION), size, middle)

    if values.choice("character") == "swirl":
        # Slopes double from octave to octave: so each takes half of what the one before does.
        around = np.pad(field(0, 0.25), 1, mode="edge")
        potential: Field = around * np.float32(cell / 2.0)
        dx = potential[2:, 1:-1] - potential[:-2, 1:-1]
        dy = potential[1:-1, :-2] - potential[1:-1, 2:]
    else:
        dx, dy = field(0) * np.float32(2.0), field(1) * np.float32(2.0)
    x, y = grid(image.size)
    to_x: Field = x + np.float32(reach) * dx
    to_y: Field = y + np.float32(reach) * dy
    return read(image, to_x, to_y, scene)


def tile(image: Image, values: Values, scene: Scene) -> Image:
    """The frame's picture small, side by side; every other one mirrored on request."""
    columns, rows = max(values.number("columns"), 0.01), max(values.number("rows"), 0.01)
    shift = values.pair("phase")
    x, y = grid(image.size)
    across = (x - np.float32(scene.left)) / np.float32(scene.width)
    down = (y - np.float32(scene.top)) / np.float32(scene.height)
    # The middle of the frame is the middle of a tile, whatever their number.
    u = (across - 0.5) * np.float32(columns) + 0.5 + np.float32(shift[0])
    v = (down - 0.5) * np.float32(rows) + 0.5 + np.float32(shift[1])
    mirrored = values.on("mirror")
    x_map = _folded(u, mirrored) * np.float32(scene.width) + np.float32(scene.left)
    y_map = _folded(v, mirrored) * np.float32(scene.height) + np.float32(scene.top)
    small = _of_a_tile(image, columns, rows)
    x_map *= np.float32(small.size.width / image.size.width)
    y_map *= np.float32(small.size.height / image.size.height)
    return read(small, x_map, y_map, scene)


def _of_a_tile(image: Image, columns: float, rows: float) -> Image:
    """The picture so much smaller that a tile is read pixel by pixel."""
    width, height = image.size
    size = Size(max(1, round(width / max(columns, 1.0))), max(1, round(height / max(rows, 1.0))))
    return image if size == image.size else shrunk(image, size)


def flip(image: Image, values: Values, scene: Scene) -> Image:
    """The frame's picture mirrored left to right, upside down, or both."""
    x, y = grid(image.size)
    if values.on("across"):
        x = np.float32(2.0 * scene.left + scene.width) - x
    if values.on("down"):
        y = np.float32(2.0 * scene.top + scene.height) - y
    return read(image, x, y, scene)


def _folded(u: Field, mirrored: bool) -> Field:
    if not mirrored:
        return u - np.floor(u)
    turned = np.mod(u, 2.0)
    return np.minimum(turned, 2.0 - turned)


EFFECTS = (
    Effect(
        "lens_bend",
        "Lens bend",
        "Bends the picture as a very wide lens does, or back.",
        Family.BEND,
        Light.LINEAR,
        (
            number("field", "Field of view", "Above 0 it bends in, below 0 out.", 0.0,
                   -170.0, 170.0, Unit.DEGREES),
            spot(),
        ),
        lens_bend,
        rests_by=("field",),
        starts_with={"field": 90.0},
        words="fisheye barrel rush wide distortion",
    ),
    Effect(
        "bulge",
        "Bulge",
        "Swells what is inside a circle, or pinches it.",
        Family.BEND,
        Light.LINEAR,
        (
            number("amount", "Amount", "Above 0 it swells, below 0 it pinches.", 0.0,
                   -300.0, 100.0),
            length("radius", "Radius", "Of the circle.", 45.0, 0.1, 1000.0, 1.0),
            spot(),
        ),
        bulge,
        rests_by=("amount",),
        starts_with={"amount": 60.0},
        words="pinch swell magnify bubble",
    ),
    Effect(
        "ripple",
        "Ripple",
        "Waves run through the picture.",
        Family.BEND,
        Light.LINEAR,
        (
            replace(length("amount", "Amount", "How far the waves push.", 0.0, -100.0, 100.0,
                           mirror=Mirroring.TURN), mirror_when=("form", "waves")),
            choice("form", "Form", "Straight waves, or circles about the centre.", "waves",
                   "waves", "circles"),
            length("wavelength", "Wavelength", "From crest to crest.", 15.0, 0.5, 1000.0),
            angle("angle", about="The direction in which straight waves run."),
            number("speed", "Speed", "Waves that pass in a second.", 2.0, -60.0, 60.0,
                   Unit.PER_SECOND, 0.1),
            number("falloff", "Falloff", "How soon circles fade.", 0.0, 0.0, 400.0),
            spot(),
        ),
        ripple,
        rests_by=("amount",),
        starts_with={"amount": 2.0},
        words="water wave heat haze wobble",
        timed=True,
    ),
    Effect(
        "noise_warp",
        "Noise warp",
        "Churns the picture like a liquid.",
        Family.BEND,
        Light.LINEAR,
        (
            length("amount", "Amount", "How far the picture is pushed.", 0.0, -200.0, 200.0),
            choice("character", "Character", "Rough tears, swirl turns.", "rough",
                   "rough", "swirl"),
            length("size", "Size", "Of the largest eddies.", 30.0, 1.0, 1000.0),
            number("complexity", "Complexity", "How many finer layers.", 2.0, 1.0, 8.0,
                   Unit.NONE, 0.5),
            evolution(),
            seed(),
        ),
        noise_warp,
        rests_by=("amount",),
        starts_with={"amount": 8.0},
        words="liquid turbulence water heat melt",
    ),
    Effect(
        "tile",
        "Tile",
        "Repeats the picture in rows and columns.",
        Family.BEND,
        Light.LINEAR,
        (
            number("columns", "Columns", "How many side by side.", 1.0, 0.1, 50.0, Unit.NONE, 0.1),
            number("rows", "Rows", "How many over each other.", 1.0, 0.1, 50.0, Unit.NONE, 0.1),
            choice("mirror", "Mirror", "Every other one is mirrored.", True),
            number("phase", "Phase", "Moves the pattern, in tiles.", (0.0, 0.0), -100.0, 100.0,
                   Unit.NONE, 0.05, Mirroring.VECTOR),
        ),
        tile,
        rests_by=("columns", "rows", "phase"),
        starts_with={"columns": 3.0, "rows": 3.0},
        words="repeat mirror kaleidoscope grid copies",
    ),
    Effect(
        "flip",
        "Flip",
        "Mirrors the picture left to right or upside down.",
        Family.BEND,
        Light.LINEAR,
        (
            choice("across", "Left to right", "Mirrors left and right.", False),
            choice("down", "Upside down", "Mirrors up and down.", False),
        ),
        flip,
        starts_with={"across": True},
        words="mirror reverse",
    ),
)  # fmt: skip
