"""Tape: what an analogue recorder does to a picture whose lock it loses."""

from __future__ import annotations

import math

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.sampling import Field
from wrinkle.core.motion.declaring import length, number, seed
from wrinkle.core.motion.setting_spec import Unit
from wrinkle.core.picture.channels import LUMA, luma
from wrinkle.core.picture.image import Image, Light
from wrinkle.core.picture.ramps import eased, wandering

_LINES = 480
"""Scanning lines in the height of the frame, whatever its pixels."""
_BLUE, _RED = 1.8556, 1.5748
"""Rec. ITU-R BT.709, section 3: colour differences are (B − Y) / 1.8556 and (R − Y) / 1.5748."""
_TORN = 60
"""Groups of lines that are torn aside together."""
_GAP = 0.055
"""Of the dark line between two pictures that roll, of the frame's height."""

Lines = NDArray[np.float32]
"""A value for each scanning line, ``(_LINES,)``."""


def tape(image: Image, values: Values, scene: Scene) -> Image:
    """The picture as it comes from a worn tape; at no strength it is the picture.

    Lines slide, the top bends, heads switch at the bottom, colour comes late and wide, light is
    soft and rings, there are noise and drop-outs; and the whole may roll.
    """
    strength = values.number("strength") / 100.0
    tick = math.floor(scene.time * max(values.number("rate"), 0.0) + 1e-6)
    dice = np.random.default_rng((round(values.number("seed")), tick + 1_000_000))
    slid, switching = _slid(values, strength, dice)
    height, width = image.pixels.shape[:2]
    # Where each row of the picture lies among the lines of the frame, and in the roll.
    rows = (np.arange(height) + 0.5 - scene.top) / max(scene.height, 1.0)
    rolled = values.number("roll") % 1.0
    from_row = rows + rolled * (1.0 + _GAP)
    dark = (rolled > 0.0) & (from_row >= 1.0) & (from_row < 1.0 + _GAP)
    from_row = np.where(from_row >= 1.0 + _GAP, from_row - (1.0 + _GAP), from_row)
    if rolled == 0.0:
        from_row = rows
    line = np.clip((rows * _LINES).astype(np.int64), 0, _LINES - 1)
    aside = slid[line] * scene.width
    down = (from_row * scene.height + scene.top - 0.5).astype(np.float32)
    light = _read(luma(image.pixels), aside, down)
    colour = _colour(image, aside, down, values.number("chroma") * scene.unit, strength)
    light = _softened(light, values.number("ring") / 100.0, strength, scene)
    grain = _grain(values, strength, switching, dice, (height, width), line, scene)
    # Bright parts of a video signal are the quietest.
    light += grain * (np.float32(1.15) - np.float32(0.75) * np.clip(light, 0.0, 1.0))
    pale = np.float32(1.0 - 0.35 * strength + 0.1 * strength * float(dice.uniform(-1.0, 1.0)))
    blue, red = (plane * pale for plane in cv2.split(colour))
    first = light + np.float32(_RED) * red
    third = light + np.float32(_BLUE) * blue
    second = (light - LUMA[0] * first - LUMA[2] * third) / LUMA[1]
    alpha = image.pixels[..., 3] if image.opaque else _read(image.pixels[..., 3], aside, down)
    planes = [np.maximum(plane, np.float32(0.0)) for plane in (first, second, third)]
    if not image.opaque:
        planes = [plane * (alpha > 0.0) for plane in planes]
    made = cv2.merge([*planes, alpha])
    made[dark, :, :3] = 0.0
    # The signal's own way through the recorder comes in with the strength.
    share = eased(0.0, 0.12, strength)
    if share < 1.0 and rolled == 0.0:
        made = cv2.addWeighted(image.pixels, 1.0 - share, made, share, 0.0)
    return Image(made, image.light, image.opaque)


def _slid(values: Values, strength: float, dice: np.random.Generator) -> tuple[Lines, Lines]:
    """How far each line is aside, in widths, and how far it lies in the band of the heads, 0…1."""
    y = (np.arange(_LINES) + 0.5) / _LINES
    wander = 0.5 * _wandering(dice, 6, y) + 0.3 * _wandering(dice, 40, y)
    wander += 0.35 * dice.uniform(-1.0, 1.0, _LINES)
    torn = np.maximum(_wandering(dice, 9, y) - 0.45, 0.0) * 7.0
    torn *= dice.uniform(-0.3, 1.7, _TORN)[(y * _TORN).astype(int)]
    jitter, skew = values.number("wander") / 100.0, values.number("skew") / 100.0
    aside = jitter * strength * (wander + torn * strength)
    aside += skew * strength * np.exp(-y / 0.05) * (0.8 + 0.4 * float(dice.uniform(-1.0, 1.0)))
    band = values.number("head") / 100.0 * min(2.0 * strength, 1.0)
    band *= 1.0 + 0.15 * float(dice.uniform(-1.0, 1.0))
    within = np.clip((y - (1.0 - band)) / max(band, 1e-6), 0.0, 1.0) if band > 0.0 else 0.0 * y
    push = 0.16 + 0.1 * float(dice.random()) + 0.05 * dice.uniform(-1.0, 1.0, _LINES)
    aside += within**0.7 * min(3.0 * strength, 1.0) * push
    return aside.astype(np.float32), within.astype(np.float32)


def _wandering(dice: np.random.Generator, knots: int, y: NDArray[np.float64]) -> Lines:
    """Smooth chance along the lines, -1…1, with so many knots."""
    return wandering(dice.uniform(-1.0, 1.0, knots + 2), y * knots)


def _read(plane: Field, aside: Field, down: Field) -> Field:
    """A plane read line by line, moved aside."""
    width = plane.shape[1]
    x = np.arange(width, dtype=np.float32)[None, :] - aside.astype(np.float32)[:, None]
    y = np.repeat(down[:, None], width, axis=1)
    found: Field = cv2.remap(plane, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REFLECT_101)
    return found


def _colour(image: Image, aside: Field, down: Field, late: float, strength: float) -> Field:
    """Both colour differences ``(H, W, 2)``: their band is narrow, so a quarter will do."""
    differences = np.zeros((2, 4), np.float32)
    differences[:, :3] = (np.eye(3, dtype=np.float32)[[2, 0]] - LUMA) / ((_BLUE,), (_RED,))
    height, width = image.pixels.shape[:2]
    size = max(width // 4, 1), max(height // 2, 1)
    small = cv2.resize(image.pixels, size, interpolation=cv2.INTER_AREA)
    small = cv2.transform(small, differences)
    wide = max(1, round(2.0 * late / 4.0 * min(1.5 * strength, 1.0))) | 1
    small = cv2.blur(small, (min(wide, 2 * size[0] - 1), 1))
    picked = np.clip(((np.arange(size[1]) + 0.5) * height / size[1]).astype(int), 0, height - 1)
    moved = _read(
        small,
        (aside[picked] + late * strength) * size[0] / width,
        ((down[picked] + 0.5) * size[1] / height - 0.5).astype(np.float32),
    )
    found: Field = cv2.resize(moved, (width, height), interpolation=cv2.INTER_LINEAR)
    return found


def _softened(light: Field, ring: float, strength: float, scene: Scene) -> Field:
    """Softer along the lines, with an echo behind each edge."""
    reach = max(3, round(scene.width * 0.007) | 1)
    reach = min(reach, 2 * light.shape[1] - 1)
    low = cv2.blur(light, (reach, 1))
    behind = np.array([[1.0, 0.0, 0.8 * reach], [0.0, 1.0, 0.0]])
    size = (light.shape[1], light.shape[0])
    before = cv2.warpAffine(low, behind, size, borderMode=cv2.BORDER_REPLICATE)
    share = 0.8 * min(strength, 1.0)
    soft = cv2.addWeighted(light, 1.0 - share, low, share, 0.0)
    found: Field = soft - np.float32(0.5 * ring * strength) * (low - before)
    return found


def _grain(
    values: Values,
    strength: float,
    switching: Lines,
    dice: np.random.Generator,
    shape: tuple[int, int],
    line: NDArray[np.int64],
    scene: Scene,
) -> Field:
    """Noise stretched along the lines, and drop-outs with a sharp head and a fading tail."""
    across = max(8, round(_LINES * scene.width / max(scene.height, 1.0)))
    across = min(across, 4 * _LINES)
    chance = dice.random((2, _LINES, across + 2), dtype=np.float32).sum(axis=0) - np.float32(1.0)
    noise = (chance[:, :-2] + chance[:, 1:-1] + chance[:, 2:]) * np.float32(0.8)
    y = (np.arange(_LINES) + 0.5) / _LINES
    loud = 1.0 + 4.0 * switching + 5.0 * np.maximum(_wandering(dice, 7, y) - 0.5, 0.0)
    noise *= (values.number("noise") / 100.0 * strength * loud).astype(np.float32)[:, None]
    count = values.number("drop_outs") * strength
    u = (np.arange(across, dtype=np.float32) + np.float32(0.5)) / np.float32(across)
    for _ in range(round(count * float(dice.uniform(0.65, 1.35)))):
        row = min(int(float(dice.random()) ** 0.8 * _LINES), _LINES - 1)
        start, long = dice.uniform(-0.1, 1.0), 0.03 + 0.25 * float(dice.random()) ** 3
        along = (u - np.float32(start)) / np.float32(long)
        bright = np.float32(dice.uniform(0.35, 0.95) * min(1.5 * strength, 1.0))
        inside = (along > 0.0) & (along < 1.0)
        streak = np.where(inside, bright * (1.0 - np.clip(along, 0.0, 1.0)) ** 0.6, 0.0)
        noise[row : row + 1 + int(dice.random() * 1.6)] += streak.astype(np.float32)
    height, width = shape
    frame_wide = max(round(scene.width), 1)
    stretched = cv2.resize(noise, (frame_wide, _LINES), interpolation=cv2.INTER_LINEAR)
    if height < _LINES and scene.height < _LINES:
        rows = max(round(scene.height), 1)
        stretched = cv2.resize(stretched, (frame_wide, rows), interpolation=cv2.INTER_AREA)
        line = np.clip(line * rows // _LINES, 0, rows - 1)
    columns = np.clip(np.arange(width) - round(scene.left), 0, frame_wide - 1)
    if width == frame_wide:
        found: Field = stretched[line]
    else:
        found = np.ascontiguousarray(stretched[line][:, columns])
    return found


EFFECTS = (
    Effect(
        "tape",
        "Tape",
        "A worn tape: lines slide, colour comes late, light rings, pictures roll.",
        Family.BREAK,
        Light.ENCODED,
        (
            number("strength", "Strength", "Of all of it.", 0.0, 0.0, 200.0),
            number("roll", "Roll", "How many whole pictures have rolled past.", 0.0, -100.0, 100.0,
                   Unit.TURNS, 0.05),
            number("wander", "Wander", "How far lines slide aside, of the width.", 0.9, 0.0, 20.0,
                   step=0.1),
            number("skew", "Bent top", "How far the uppermost lines are bent, of the width.", 3.5,
                   0.0, 40.0, step=0.5),
            number("head", "Heads", "How high the band is where the heads switch, of the height.",
                   3.5, 0.0, 40.0, step=0.5),
            length("chroma", "Late colour", "How far colour lags behind light.", 2.0, 0.0, 20.0),
            number("noise", "Noise", "How loud it is.", 8.0, 0.0, 100.0),
            number("drop_outs", "Drop-outs", "How many streaks there are in a picture.", 16.0, 0.0,
                   200.0, Unit.NONE),
            number("ring", "Echo", "How much light rings behind an edge.", 50.0, 0.0, 200.0),
            number("rate", "Rate", "How many times a second chance changes.", 30.0, 1.0, 120.0,
                   Unit.PER_SECOND),
            seed(),
        ),
        tape,
        rests_by=("strength", "roll"),
        starts_with={"strength": 80.0},
        words="analogue video retro noise glitch line tracking",
        timed=True,
        jumps=True,
    ),
)  # fmt: skip
