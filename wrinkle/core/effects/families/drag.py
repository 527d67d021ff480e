"""Blocks of the picture that are dragged along by the motion of another clip."""

from __future__ import annotations

import math

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.families.texture import lattice_noise
from wrinkle.core.effects.sampling import Field
from wrinkle.core.motion.declaring import length, number, seed
from wrinkle.core.picture.image import Image, Light, Size

_ROWS = 288
"""In which motion is looked for: more find no more of it."""
_MOST = 20.0
"""By how much a slow motion is magnified at most."""
_CALM = 3.0
"""What flow makes up in even parts is held to so many times the usual way."""

Ways = NDArray[np.float32]
"""Right and down for each block, ``(rows, columns, 2)``."""


def block_drag(image: Image, values: Values, scene: Scene) -> Image:
    """Blocks lie where the other clip's motion has dragged them, and give way one after another."""
    assert scene.other is not None
    side = max(values.number("block") * scene.unit, 2.0)
    blocks = Size(max(math.ceil(scene.width / side), 1), max(math.ceil(scene.height / side), 1))
    dice = np.random.default_rng((round(values.number("seed")), 11))
    odd = dice.random((blocks.height, blocks.width), dtype=np.float32)
    share = values.number("cleared") / 100.0
    ranks = _order(blocks, values.number("scatter") / 100.0, dice)
    rows, columns = _cells(image.size, scene, side, blocks)
    pixels = image.pixels
    ways = _dragged(values, scene, blocks, odd)
    if ways is not None:
        height, width = pixels.shape[:2]
        moved = ways[rows[:, None], columns[None, :]]
        x = np.arange(width, dtype=np.float32)[None, :] - moved[..., 0]
        y = np.arange(height, dtype=np.float32)[:, None] - moved[..., 1]
        pixels = cv2.remap(pixels, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REFLECT_101)
        pixels = _leaked(pixels, values, scene, image, ways[..., :2], (rows, columns), blocks)
    if share <= 0.0:
        return Image(pixels, image.light, image.opaque)
    kept = (ranks >= share).astype(np.float32)[rows[:, None], columns[None, :]]
    return Image(cv2.multiply(pixels, cv2.merge([kept] * 4)), image.light)


def block_ways(earlier: Image, now: Image, blocks: Size) -> Ways:
    """How far each block has gone from one picture to the other, in heights of them.

    Dense flow by Kroeger and others, "Fast Optical Flow using Dense Inverse Search" (2016), as
    OpenCV has it; its mean in each block.
    """
    size = earlier.size
    rows = min(_ROWS, size.height)
    small = (max(round(size.width * rows / size.height), 16), max(rows, 16))
    greys = [
        cv2.resize(cv2.cvtColor(x.to_bytes8()[..., :3], cv2.COLOR_RGB2GRAY), small,
                   interpolation=cv2.INTER_AREA)
        for x in (earlier, now)
    ]  # fmt: skip
    flow = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_FAST)
    # From where it is now back to where it was: each block asks where its motion came from.
    back = flow.calc(greys[1], greys[0], None)
    mean = cv2.resize(back, tuple(blocks), interpolation=cv2.INTER_AREA)
    ways: Ways = -mean.reshape(blocks.height, blocks.width, 2) / np.float32(small[1])
    return ways


def _dragged(values: Values, scene: Scene, blocks: Size, odd: Field) -> Ways | None:
    """How far each block is dragged, in pixels; None where nothing is."""
    reach = values.number("drag") * scene.unit
    if reach <= 0.0 or scene.earlier is None or scene.other is None:
        return None
    ways = block_ways(scene.earlier, scene.other, blocks)
    far = np.hypot(ways[..., 0], ways[..., 1])
    usual = float(np.median(far))
    held = np.minimum(1.0, (_CALM * usual + 1e-4) / np.maximum(far, 1e-9))
    mean = float((far * held).mean())
    if mean < 1e-6:
        return None
    gain = min(reach / (mean * scene.height), _MOST)
    scramble = values.number("scramble") / 100.0
    uneven = 1.0 + scramble * (3.0 * odd * odd - 1.0)
    found: Ways = ways * (held * uneven * gain * scene.height)[..., None].astype(np.float32)
    return found


def _order(blocks: Size, scatter: float, dice: np.random.Generator) -> Field:
    """In which order the blocks give way, 0…1: in clusters, or scattered; each once."""
    white = dice.random((blocks.height, blocks.width), dtype=np.float32)
    part = max(blocks.width, blocks.height) * 0.3
    clouds = lattice_noise(blocks, (part, part), dice, soft=True)
    clouds = clouds + 0.5 * lattice_noise(blocks, (part / 2.0, part / 2.0), dice, soft=True)
    level = scatter * white * 3.0 + (1.0 - scatter) * clouds
    ranks = np.empty(level.size, np.float32)
    ranks[np.argsort(level, axis=None, kind="stable")] = (
        np.arange(level.size, dtype=np.float32) + np.float32(0.5)
    ) / np.float32(level.size)
    found: Field = ranks.reshape(level.shape)
    return found


def _cells(
    size: Size, scene: Scene, side: float, blocks: Size
) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """The row of blocks of each row of pixels, and the column of each column."""
    rows = ((np.arange(size.height) + 0.5 - scene.top) / side).astype(np.int64)
    columns = ((np.arange(size.width) + 0.5 - scene.left) / side).astype(np.int64)
    return np.clip(rows, 0, blocks.height - 1), np.clip(columns, 0, blocks.width - 1)


def _leaked(
    pixels: Field,
    values: Values,
    scene: Scene,
    image: Image,
    ways: Ways,
    cells: tuple[NDArray[np.int64], NDArray[np.int64]],
    blocks: Size,
) -> Field:
    """The other clip's fine detail comes through where blocks move: its edges in old colours."""
    leak = values.number("leak") / 100.0
    assert scene.other is not None
    if leak <= 0.0 or scene.other.size != image.size:
        return pixels
    new = scene.other.in_light(image.light).pixels
    low = cv2.resize(new, tuple(blocks), interpolation=cv2.INTER_AREA)
    wide = cv2.resize(low, tuple(image.size), interpolation=cv2.INTER_LINEAR)
    far = np.hypot(ways[..., 0], ways[..., 1]) / np.float32(max(scene.unit, 1e-6))
    strong = np.clip(far / np.float32(3.0), 0.0, 1.0) * np.float32(leak)
    rows, columns = cells
    share = strong[rows[:, None], columns[None, :]].astype(np.float32)
    detail = cv2.multiply(cv2.subtract(new, wide), cv2.merge([share] * 4))
    mixed: Field = np.maximum(pixels + detail, np.float32(0.0))
    mixed[..., 3] = pixels[..., 3]
    if not image.opaque:
        mixed[..., :3] *= (pixels[..., 3:] > 0.0).astype(np.float32)
    return mixed


EFFECTS = (
    Effect(
        "block_drag",
        "Block drag",
        "Blocks are dragged along by the motion of another layer, and give way one by one.",
        Family.BREAK,
        Light.LINEAR,
        (
            length("drag", "Drag", "How far blocks are dragged in the mean.", 0.0, 0.0, 200.0),
            number("cleared", "Cleared", "How many blocks have given way.", 0.0, 0.0, 100.0),
            length("block", "Block", "Its side.", 3.0, 0.5, 40.0),
            number("scramble", "Scramble", "How unevenly they follow the motion.", 70.0, 0.0,
                   100.0),
            number("scatter", "Scatter", "How singly they give way, and not in clusters.", 12.0,
                   0.0, 100.0),
            number("leak", "Leak", "How much of the other layer's detail comes through.", 50.0,
                   0.0, 200.0),
            seed(),
        ),
        block_drag,
        rests_by=("drag", "cleared"),
        starts_with={"drag": 14.0, "cleared": 25.0},
        ends_with={"cleared": 100.0},
        words="smear compression macroblock glitch motion vectors",
        needs_layer=True,
        looks_back=True,
    ),
)  # fmt: skip
