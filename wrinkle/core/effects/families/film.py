"""Film: a projector whose gate does not hold the picture."""

from __future__ import annotations

import math

import cv2
import numpy as np

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.sampling import Field, grid
from wrinkle.core.motion.declaring import length, number, seed
from wrinkle.core.motion.setting_spec import Unit
from wrinkle.core.picture.image import Image, Light

_PITCH = 1.07
"""From picture to picture on the strip, in heights of the frame: a dark line lies between."""
_HOLES_A_PICTURE = 4
_HOLE = (0.055, 0.1)
"""Half the width and half the height of a perforation, in heights of a picture over 4."""
_SCRATCH_LIVES = 0.4
"""Seconds for which a scratch is in the same place, about."""
_ENLARGED = 4.2
"""By how many weaves the picture is enlarged, so that its edge is not seen."""


def film_gate(image: Image, values: Values, scene: Scene) -> Image:
    """The picture as it stands in a worn projector; without any of it, it is the picture.

    It weaves with each frame, runs through with its frame lines and perforations, flickers, and is
    scratched and dusty.
    """
    rate = max(values.number("rate"), 0.1)
    tick = math.floor(scene.time * rate + 1e-6)
    chosen = round(values.number("seed"))
    dice = np.random.default_rng((chosen, tick + 1_000_000))
    pixels, shade = _run_through(image, values, scene, _weave(values, scene, chosen, dice))
    flicker = values.number("flicker") / 100.0
    shade *= np.float32(1.0 + flicker * float(dice.uniform(-0.5, 0.5)))
    dirt = _dirt(image, values, scene, chosen, dice)
    lit = None
    if dirt is not None:
        dark, lit = dirt
        shade = shade * (np.float32(1.0) - dark)
    whole = np.ones(pixels.shape[:2], np.float32)
    shade = np.ascontiguousarray(np.broadcast_to(shade, whole.shape))
    pixels = cv2.multiply(pixels, cv2.merge([shade, shade, shade, whole]))
    if lit is not None:
        # What is scratched off lets the lamp through.
        lamp = np.float32(0.85) * lit
        if not image.opaque:
            lamp *= pixels[..., 3]
        pixels = cv2.add(pixels, cv2.merge([lamp, lamp, lamp, np.zeros_like(lamp)]))
    return Image(pixels, image.light, image.opaque)


def _weave(
    values: Values, scene: Scene, chosen: int, dice: np.random.Generator
) -> tuple[float, float, float]:
    """How far the picture is aside and down, in pixels, and how much it is enlarged."""
    reach = values.number("weave") * scene.unit
    if reach == 0.0:
        return 0.0, 0.0, 1.0
    phases = np.random.default_rng((chosen, 7)).uniform(0.0, 2.0 * math.pi, 4)
    slow = [
        0.6 * math.sin(2.0 * math.pi * 2.1 * scene.time + phases[k])
        + 0.4 * math.sin(2.0 * math.pi * 3.3 * scene.time + phases[k + 1])
        for k in (0, 2)
    ]
    right, down = (reach * (one + 0.25 * float(dice.uniform(-1.0, 1.0))) for one in slow)
    return right, down, 1.0 + _ENLARGED * reach / max(scene.height, 1.0)


def _run_through(
    image: Image, values: Values, scene: Scene, weave: tuple[float, float, float]
) -> tuple[Field, Field]:
    """The strip of equal pictures as it lies in the gate, and how light each row of it is."""
    run, aside = values.number("run"), values.number("strip") * scene.unit
    right, down, size = weave
    x, y = grid(image.size)
    x0, y0 = scene.middle
    # Along the strip, from the top of the picture that stood in the gate at first.
    along = (y - np.float32(y0 + down)) / np.float32(size) + np.float32(y0 - scene.top)
    along = along / np.float32(max(scene.height, 1.0)) + np.float32(run * _PITCH)
    within = along - np.floor(along / np.float32(_PITCH)) * np.float32(_PITCH)
    across = (x - np.float32(x0 + right + aside)) / np.float32(size) + np.float32(x0)
    rows = within * np.float32(scene.height) + np.float32(scene.top)
    plain = run == 0.0 and aside == 0.0
    if plain:
        rows = (y - np.float32(y0 + down)) / np.float32(size) + np.float32(y0)
    shape = image.pixels.shape[:2]
    found: Field = cv2.remap(
        image.pixels,
        np.ascontiguousarray(np.broadcast_to(across - np.float32(0.5), shape), np.float32),
        np.ascontiguousarray(np.broadcast_to(rows - np.float32(0.5), shape), np.float32),
        cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_REFLECT_101,
    )
    light = np.ones((shape[0], 1), np.float32)
    if plain:
        return found, light
    line = (np.abs(within - np.float32(0.5)) - np.float32(0.5)) * np.float32(scene.height / 1.5)
    light -= np.clip(line, 0.0, 1.0) * np.float32(0.985)
    edge = min(max(math.ceil(scene.left + aside + right) + 2, 0), shape[1])
    if aside > 0.0 and edge > 0:
        _perforate(found[:, :edge], across[:, :edge], along, scene)
        light = np.where(across < scene.left, np.float32(1.0), light)
    return found, light


def _perforate(pixels: Field, across: Field, along: Field, scene: Scene) -> None:
    """The edge of the strip beside the picture, with its holes, in place."""
    height = max(scene.height, 1.0)
    edge = (np.float32(scene.left) - across) / np.float32(height)
    beyond = np.clip(edge * np.float32(height / 1.5), 0.0, 1.0)
    pitch = np.float32(_PITCH / _HOLES_A_PICTURE)
    phase = (along / pitch - np.floor(along / pitch) - np.float32(0.5)) * pitch
    half_wide, half_high = (np.float32(x * 0.5) for x in _HOLE)
    middle = np.float32(0.055)
    # A rectangle with round corners: the distance from it.
    round_by = np.float32(0.012)
    right = np.maximum(np.abs(edge - middle) - (half_wide - round_by), 0.0)
    high = np.maximum(np.abs(phase) - (half_high - round_by), 0.0)
    away = np.hypot(right, high) - round_by
    hole = np.clip(np.float32(0.5) - away * np.float32(height / 1.2), 0.0, 1.0)
    shade = np.float32(0.012) + hole * np.float32(0.95)
    alpha = pixels[..., 3]
    for channel, tint in enumerate((1.0, 0.93, 0.8)):
        own = pixels[..., channel]
        own += beyond * (shade * np.float32(tint) * alpha - own)


def _dirt(
    image: Image, values: Values, scene: Scene, chosen: int, dice: np.random.Generator
) -> tuple[Field, Field] | None:
    """What dust takes away, and what scratches let through, ``(H, W)`` each, 0…1."""
    dust, scratches = values.number("dust"), values.number("scratches")
    if dust <= 0.0 and scratches <= 0.0:
        return None
    height, width = image.pixels.shape[:2]
    dark, bright = np.zeros((height, width), np.float32), np.zeros((height, width), np.float32)
    unit = scene.unit
    for _ in range(int(dice.poisson(dust))):
        middle = scene.left + dice.random() * scene.width, scene.top + dice.random() * scene.height
        long, turn = unit * float(dice.gamma(1.5, 0.5)), dice.uniform(0.0, math.pi)
        bend = dice.uniform(-1.5, 1.5)
        angles = turn + bend * np.linspace(-0.5, 0.5, 7)
        steps = np.stack([np.cos(angles), np.sin(angles)], axis=1) * long / 3.0
        points = np.cumsum(steps, axis=0) - steps.sum(axis=0) / 2.0 + middle
        target = bright if dice.random() < 0.2 else dark
        _line(target, points, max(unit * float(dice.uniform(0.1, 0.35)), 0.5), 0.85)
    life = math.floor(scene.time / _SCRATCH_LIVES)
    held = np.random.default_rng((chosen, 31, life + 1_000_000))
    age = scene.time / _SCRATCH_LIVES - life
    for _ in range(int(held.poisson(scratches))):
        place, wander, phase = held.random(), held.uniform(0.2, 1.0), held.uniform(0.0, 6.3)
        strong = held.uniform(0.15, 0.6) * math.sin(math.pi * age) ** 0.5
        x = scene.left + place * scene.width + unit * wander * math.sin(6.3 * age + phase)
        jog = unit * 0.15 * dice.uniform(-1.0, 1.0, 5)
        points = np.stack([x + jog, np.linspace(-2.0, height + 2.0, 5)], axis=1)
        _line(bright, points, max(unit * 0.09, 0.4), strong)
    return np.minimum(dark, 1.0), np.minimum(bright, 1.0)


def _line(into: Field, points: Field, thick: float, strong: float) -> None:
    """A soft line so many pixels thick, drawn as far as it is there."""
    finer = 16
    size = max(1, round(thick))
    share = strong * min(1.0, thick)
    drawn = np.rint((points - 0.5) * finer).astype(np.int32)
    cv2.polylines(into, [drawn.reshape(-1, 1, 2)], False, share, size, cv2.LINE_AA, 4)


EFFECTS = (
    Effect(
        "film_gate",
        "Film gate",
        "A worn projector: the picture weaves, slips past with its frame lines, and is scratched.",
        Family.BREAK,
        Light.LINEAR,
        (
            number("run", "Run", "How many pictures have run past the gate.", 0.0, -200.0, 200.0,
                   Unit.TURNS, 0.05),
            length("strip", "Strip", "How far the strip lies aside, so that its holes are seen.",
                   0.0, 0.0, 60.0),
            length("weave", "Weave", "How far the picture wanders in the gate.", 0.0, 0.0, 10.0,
                   0.1),
            number("flicker", "Flicker", "How much the lamp changes.", 0.0, 0.0, 100.0),
            number("dust", "Dust", "How many specks are in a picture.", 0.0, 0.0, 400.0,
                   Unit.NONE),
            number("scratches", "Scratches", "How many there are at a time.", 0.0, 0.0, 60.0,
                   Unit.NONE),
            number("rate", "Rate", "How many pictures stand in the gate in a second.", 24.0, 1.0,
                   120.0, Unit.PER_SECOND),
            seed(),
        ),
        film_gate,
        rests_by=("run", "strip", "weave", "flicker", "dust", "scratches"),
        starts_with={"weave": 0.4, "flicker": 18.0, "dust": 9.0, "scratches": 2.0, "run": 0.2},
        words="projector cinema old dust scratch perforation sprocket registration",
        timed=True,
        jumps=True,
    ),
)  # fmt: skip
