"""Paper and cloth laid over the picture: grounds that are drawn, so that they fit any size."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.families.texture import lattice_noise
from wrinkle.core.effects.families.wash import blend_choice, laid
from wrinkle.core.effects.sampling import Field, grid
from wrinkle.core.motion.declaring import angle, choice, length, number, seed
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.picture.bands import in_bands
from wrinkle.core.picture.blending import BlendMode
from wrinkle.core.picture.channels import threefold
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.noise import Noise, noise_field
from wrinkle.core.picture.placement import rotation

_PAPER, _WEAVE = "paper", "weave"
_FINEST = 3.0
"""Pixels; finer threads are shown as their mean, which is even."""


@dataclass(frozen=True)
class _Ground:
    """What a ground depends on, in pixels.

    Attributes:
        kind: paper or weave.
        size: of the picture.
        scale: of a fibre's width, or half a thread's.
        turn: of the threads, in degrees.
        seed: another one gives another pattern.
        middle: about which the threads are turned.
    """

    kind: str
    size: Size
    scale: float
    turn: float
    seed: int
    middle: tuple[float, float]


def ground(image: Image, values: Values, scene: Scene) -> Image:
    """Paper or cloth over the picture, near white, by any blend mode."""
    wanted = _Ground(
        values.choice("ground"),
        image.size,
        values.number("size") * scene.unit,
        values.number("angle"),
        round(values.number("seed")),
        scene.middle,
    )
    depth = np.float32(values.number("relief") / 100.0)
    grey = np.clip(np.float32(0.86) + depth * _relief(wanted), 0.02, 1.0)
    return laid(image, threefold(grey.astype(np.float32, copy=False)), values)


@lru_cache(maxsize=2)
def _relief(wanted: _Ground) -> Field:
    """How the ground departs from even; it is the same in all frames."""
    return _paper(wanted) if wanted.kind == _PAPER else _woven(wanted)


def _paper(wanted: _Ground) -> Field:
    """Long fibres in two directions, clouds of thicker pulp, and a fine tooth; about -0.2…0.2."""
    cell = max(wanted.scale, 0.2)
    dice = np.random.default_rng(wanted.seed)

    def levels(across: float, down: float, share: float) -> Field:
        field = lattice_noise(wanted.size, (across * cell, down * cell), dice, soft=True)
        return field * np.float32(share)

    relief: Field = np.maximum(levels(9.0, 1.2, 0.035), levels(1.2, 9.0, 0.035))
    for across, share in ((14.0, 0.035), (5.0, 0.02), (1.0, 0.03)):
        relief += levels(across, across, share)
    return relief


def _woven(wanted: _Ground) -> Field:
    """Threads over and under each other, no two quite as thick; about -0.3…0.1."""
    thread = np.float32(max(2.0 * wanted.scale, 1e-3))
    turn = rotation(wanted.turn)
    cos, sin = np.float32(turn[0, 0]), np.float32(turn[1, 0])
    x, y = grid(wanted.size)
    x0, y0 = wanted.middle
    across, down = x - np.float32(x0), y - np.float32(y0)
    seen = np.float32(np.clip(thread / _FINEST - 1.0, 0.0, 1.0))
    half = np.float32(math.pi)

    def woven(field: Field, down: Field) -> Field:
        u = (across * cos + down * sin) / thread + np.float32(0.12) * field
        v = (down * cos - across * sin) / thread - np.float32(0.12) * field
        # Where one thread lies above, it is round across its width and sinks along its length.
        over = np.cos(half * u) * np.cos(half * v)
        lit = np.abs(np.sin(half * np.where(over > 0.0, u, v))) - np.float32(2.0 / math.pi)
        sunk = np.abs(over) - np.float32(0.4)
        relief = seen * (np.float32(0.3) * lit + np.float32(0.2) * sunk)
        return np.asarray(relief + np.float32(0.06) * field, np.float32)

    uneven = Noise((float(thread) * 6.0,) * 2, 2.0, seed=wanted.seed)
    return in_bands(woven, noise_field(uneven, wanted.size, (x0, y0)), down)


EFFECTS = (
    Effect(
        "ground",
        "Paper and weave",
        "The ground of paper or of woven cloth, over the picture.",
        Family.TEXTURE,
        Light.ENCODED,
        (
            number("amount", "Amount", "How much of it.", 0.0, 0.0, 100.0),
            blend_choice(BlendMode.MULTIPLY),
            choice("ground", "Ground", "What lies over the picture.", _PAPER, _PAPER, _WEAVE),
            length("size", "Size", "Of a fibre's width, or half a thread's.", 0.4, 0.1, 20.0, 0.1),
            number("relief", "Relief", "How deep it is.", 100.0, 0.0, 400.0),
            angle("angle", about="Of the threads.", mirror=Mirroring.TURN),
            seed(),
        ),
        ground,
        rests_by=("amount",),
        starts_with={"amount": 100.0},
        words="canvas linen sailcloth texture overlay fibre card",
    ),
)
