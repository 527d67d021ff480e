"""Effects that break the picture: split channels, slices, blocks, scan lines, outline."""

from __future__ import annotations

import math

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.sampling import Field, blurred, grid, read
from wrinkle.core.motion.declaring import angle, choice, length, number, seed
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.setting_spec import SettingSpec, Unit
from wrinkle.core.picture.bands import in_bands
from wrinkle.core.picture.edge_cover import BORDERS
from wrinkle.core.picture.image import Image, Light, Pixels
from wrinkle.core.picture.placement import rotation, scaling, translation

_CHANNELS = ("red", "green", "blue")
_THINNEST = 0.6
"""Pixels; a thinner line would not be seen."""
_HALF = translation(0.5, 0.5)
_HALF_BACK = translation(-0.5, -0.5)


def channel_split(image: Image, values: Values, scene: Scene) -> Image:
    """Red and blue moved apart about green, and each channel by itself; alpha covers all three."""
    way = math.radians(values.number("angle"))
    reach = values.number("offset") * scene.unit
    dx, dy = reach * math.cos(way), reach * math.sin(way)
    grow, turn = values.number("scale") / 100.0, values.number("rotation")
    x0, y0 = scene.middle
    share = _split_share(image, scene, values.number("falloff") / 100.0)
    planes = [np.ascontiguousarray(image.pixels[..., channel]) for channel in range(4)]
    result = np.empty_like(image.pixels)
    alphas: list[Field] = []
    for channel, name in enumerate(_CHANNELS):
        side = 1.0 - channel
        right, down = (part * scene.unit for part in values.pair(name))
        factor = max((1.0 + grow * side) * values.number(f"{name}_scale") / 100.0, 1e-3)
        matrix = (
            translation(x0 + dx * side + right, y0 + dy * side + down)
            @ rotation(turn * side + values.number(f"{name}_turn"))
            @ scaling(factor, factor)
            @ translation(-x0, -y0)
        )
        parts = (planes[channel], *(() if image.opaque else (planes[3],)))
        if not np.array_equal(matrix, np.eye(3)):
            parts = tuple(_warped(plane, matrix, scene, share) for plane in parts)
        result[..., channel] = parts[0]
        alphas += parts[1:]
    result[..., 3] = np.maximum.reduce(alphas) if alphas else 1.0
    return Image(result, image.light, image.opaque)


def _split_share(image: Image, scene: Scene, falloff: float) -> Field | None:
    """How much of the split each pixel has, less towards the middle; None where all have all."""
    if falloff <= 0.0:
        return None
    # Light through the rim of a lens is split most.
    width, height = image.size
    x0, y0 = scene.middle
    x = np.arange(width, dtype=np.float32)[None, :]
    y = np.arange(height, dtype=np.float32)[:, None]
    far = math.hypot(scene.width, scene.height) / 2.0
    radius = np.hypot(x - x0, y - y0) / far
    share: Field = (1.0 - falloff + falloff * np.minimum(radius, 2.0)).astype(np.float32)
    return share


def _warped(plane: Field, matrix: NDArray[np.float64], scene: Scene, share: Field | None) -> Field:
    inverse = _HALF_BACK @ np.linalg.inv(matrix) @ _HALF
    height, width = plane.shape
    border = BORDERS[scene.cover]
    if share is None:
        flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
        moved: Field = cv2.warpAffine(
            plane, inverse[:2], (width, height), flags=flags, borderMode=border
        )
        return moved
    x = np.arange(width, dtype=np.float32)[None, :]
    y = np.arange(height, dtype=np.float32)[:, None]
    (a, b, c), (d, e, f) = inverse[:2].astype(np.float32)
    to_x = x + (a * x + b * y + c - x) * share
    to_y = y + (d * x + e * y + f - y) * share
    read_: Field = cv2.remap(plane, to_x, to_y, cv2.INTER_LINEAR, borderMode=border)
    return read_


def slices(image: Image, values: Values, scene: Scene) -> Image:
    """Strips shoved along by seeded amounts, stepped so many times a second."""
    count = max(1, round(values.number("count")))
    reach = values.number("amount") * scene.unit
    share = values.number("share") / 100.0
    across = values.choice("direction") == "sideways"
    x, y = grid(image.size)
    start, side = (scene.top, scene.height) if across else (scene.left, scene.width)
    place = ((y if across else x) - np.float32(start)) / np.float32(side)
    strip = np.floor(place * count).astype(np.int64)
    dice = _dice(values, scene)
    offsets = dice.uniform(-1.0, 1.0, count)
    offsets[dice.random(count) >= share] = 0.0
    shift = (offsets[np.clip(strip, 0, count - 1)] * reach).astype(np.float32)
    if across:
        return read(image, x + shift, y, scene)
    return read(image, x, y + shift, scene)


def block_shuffle(image: Image, values: Values, scene: Scene) -> Image:
    """Some blocks of a grid show another block of it."""
    columns, rows = (max(1, round(n)) for n in values.pair("grid"))
    share = values.number("amount") / 100.0
    dice = _dice(values, scene)
    total = columns * rows
    chosen = np.flatnonzero(dice.random(total) < share)
    source = np.arange(total)
    source[chosen] = dice.integers(0, total, len(chosen))
    x, y = grid(image.size)
    column = np.floor((x[0] - np.float32(scene.left)) / np.float32(scene.width) * columns)
    row = np.floor((y[:, 0] - np.float32(scene.top)) / np.float32(scene.height) * rows)
    # How far each block looks; around them a rim of blocks that stay.
    shifts = np.zeros((2, rows + 2, columns + 2), np.float32)
    own, goal = np.divmod(np.arange(total), columns), np.divmod(source, columns)
    for shift, side, axis in zip(
        shifts, (scene.width / columns, scene.height / rows), (1, 0), strict=True
    ):
        shift[1:-1, 1:-1] = ((goal[axis] - own[axis]) * side).reshape(rows, columns)
    at_row = np.clip(row + 1, 0, rows + 1).astype(np.int64)
    at_column = np.clip(column + 1, 0, columns + 1).astype(np.int64)
    dx, dy = (np.take(np.take(shift, at_column, axis=1), at_row, axis=0) for shift in shifts)
    return read(image, x + dx, y + dy, scene)


def scan_lines(image: Image, values: Values, scene: Scene) -> Image:
    """Dark lines over the picture, as smooth as the pixels allow; they can roll."""
    amount = values.number("amount") / 100.0
    period = max(values.number("spacing") * scene.unit, 1e-3)
    _, y = grid(image.size)
    roll = values.number("speed") * scene.time
    # Counted from the middle of the frame: upside down they are the same lines.
    turn = (y - np.float32(scene.middle[1])) / np.float32(period) - np.float32(roll)
    # A wave finer than two pixels is its mean: the lines fade instead of beating.
    seen = float(np.clip(period / 2.0 - 1.0, 0.0, 1.0))
    dark = 1.0 - amount * (0.5 + 0.5 * seen * np.cos(2.0 * math.pi * turn))
    pixels = image.pixels * dark[..., None].astype(np.float32)
    pixels[..., 3] = image.pixels[..., 3]
    return Image(pixels, image.light, image.opaque)


def channel_outline(image: Image, values: Values, scene: Scene) -> Image:
    """The edges of each channel in its own colour, mixed with the picture."""
    amount = np.float32(values.number("amount") / 100.0)
    strength = np.float32(values.number("strength") / 25.0)
    width = max(values.number("width") * scene.unit, _THINNEST)

    def outlined(pixels: Pixels, soft: Pixels) -> Pixels:
        edges = np.abs(pixels - soft) * strength
        if not image.opaque:
            edges = cv2.min(edges, cv2.merge([pixels[..., 3]] * 4))
        edges = pixels + (edges - pixels) * amount
        edges[..., 3] = pixels[..., 3]
        return np.asarray(edges, np.float32)

    soft = blurred(image.pixels, width, scene.cover)
    return Image(in_bands(outlined, image.pixels, soft), image.light, image.opaque)


def _dice(values: Values, scene: Scene) -> np.random.Generator:
    """Seeded anew with each step of the pattern: the same at any frame rate."""
    rate = values.number("rate")
    step = math.floor(scene.time * rate + 1e-6) if rate > 0.0 else 0
    return np.random.default_rng((round(values.number("seed")), step + (1 << 30)))


_RATE = number("rate", "Rate", "New patterns in a second; 0 keeps one.", 12.0, 0.0, 240.0,
               Unit.PER_SECOND)  # fmt: skip


def _own_channel(name: str) -> tuple[SettingSpec, ...]:
    label = name.title()
    return (
        length(name, label, f"{label} alone, right and down.", (0.0, 0.0), -100.0, 100.0, 0.1,
               Mirroring.VECTOR),
        number(f"{name}_scale", f"{label} scale", f"{label} alone.", 100.0, 1.0, 1000.0, step=0.5),
        number(f"{name}_turn", f"{label} turn", f"{label} alone.", 0.0, -3600.0, 3600.0,
               Unit.DEGREES, 0.1, Mirroring.TURN),
    )  # fmt: skip


EFFECTS = (
    Effect(
        "channel_split",
        "Channel split",
        "Pulls red and blue apart.",
        Family.BREAK,
        Light.LINEAR,
        (
            length("offset", "Offset", "How far red moves one way and blue the other.", 0.0,
                   -100.0, 100.0, 0.1),
            angle("angle"),
            number("scale", "Scale", "How much larger red is, and smaller blue.", 0.0,
                   -90.0, 90.0, step=0.1),
            number("rotation", "Rotation", "How far red turns one way and blue the other.", 0.0,
                   -180.0, 180.0, Unit.DEGREES, 0.1, Mirroring.TURN),
            number("falloff", "Falloff", "The middle is split less.", 0.0, 0.0, 100.0),
            *(setting for name in _CHANNELS for setting in _own_channel(name)),
        ),
        channel_split,
        rests_by=("offset", "scale", "rotation", *(
            f"{name}{part}" for name in _CHANNELS for part in ("", "_scale", "_turn"))),
        starts_with={"offset": 1.0},
        words="rgb chromatic aberration glitch fringe",
    ),
    Effect(
        "slices",
        "Slices",
        "Cuts the picture into strips and shoves them.",
        Family.BREAK,
        Light.LINEAR,
        (
            length("amount", "Amount", "How far strips are shoved at most.", 0.0, -400.0, 400.0,
                   mirror=Mirroring.TURN),
            number("count", "Count", "How many strips.", 12.0, 1.0, 500.0, Unit.NONE),
            number("share", "Share", "How many of them are shoved.", 60.0, 0.0, 100.0),
            choice("direction", "Direction", "Along which way.", "sideways", "sideways", "upright"),
            _RATE,
            seed(),
        ),
        slices,
        rests_by=("amount",),
        starts_with={"amount": 12.0},
        words="glitch strips tear digital",
        timed=True,
    ),
    Effect(
        "block_shuffle",
        "Block shuffle",
        "Blocks of the picture change places.",
        Family.BREAK,
        Light.LINEAR,
        (
            number("amount", "Amount", "How many blocks are exchanged.", 0.0, 0.0, 100.0),
            number("grid", "Grid", "Columns and rows.", (9.0, 16.0), 1.0, 200.0, Unit.NONE),
            _RATE,
            seed(),
        ),
        block_shuffle,
        rests_by=("amount",),
        starts_with={"amount": 30.0},
        words="glitch mosaic digital blocks",
        timed=True,
    ),
    Effect(
        "scan_lines",
        "Scan lines",
        "Fine dark lines across the picture.",
        Family.BREAK,
        Light.LINEAR,
        (
            number("amount", "Amount", "How dark the lines are.", 0.0, 0.0, 100.0),
            length("spacing", "Spacing", "From line to line.", 0.8, 0.1, 100.0, 0.1),
            number("speed", "Speed", "Lines that pass in a second.", 0.0, -600.0, 600.0,
                   Unit.PER_SECOND, mirror=Mirroring.UPRIGHT),
        ),
        scan_lines,
        rests_by=("amount",),
        starts_with={"amount": 50.0},
        words="screen monitor television signal",
        timed=True,
    ),
    Effect(
        "channel_outline",
        "Channel outline",
        "Draws the edges of each channel in its colour.",
        Family.BREAK,
        Light.ENCODED,
        (
            number("amount", "Amount", "From the picture to its outline.", 0.0, 0.0, 100.0),
            length("width", "Width", "Of the lines.", 0.6, 0.02, 20.0, 0.1),
            number("strength", "Strength", "How bright lines are.", 100.0, 0.0, 1000.0, step=5.0),
        ),
        channel_outline,
        rests_by=("amount",),
        starts_with={"amount": 100.0},
        words="edges neon drawing lines",
    ),
)  # fmt: skip
