"""Gradient noise: Perlin's improved noise, one lattice product for a whole picture.

Source: Perlin, "Improving Noise", 2002: the permutation, the twelve gradients and the fade curve.
In a picture all pixels of a row share their y, all of a column their x: with z fixed, the noise is
a sum over lattice nodes of products of a row window and a column window, which is a product of
matrices (checked against the scalar formula).
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Final

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.motion.direction import Direction
from wrinkle.core.picture.image import Image, Light, Size, mirrored
from wrinkle.core.picture.transfer import decode

Field = NDArray[np.float32]
"""float32 ``(H, W)``."""

EVOLUTION: Final = 4
"""The ``loop`` of all noise that a design sets: an evolution of 1 is as 0, and 0.25 is another."""

# The reference permutation, packed as hexadecimal bytes.
PERMUTATION = np.frombuffer(
    bytes.fromhex(
        "97a0895b5a0f830dc95f6035c2e907e18c24671e458e086325f0150a17be0694"
        "f778ea4b001ac53e5efcdbcb75230b2039b12158ed953857ae147d88aba844af"
        "4aa547868b301ba64d929ee7536fe57a3cd385e6dc695c29372ef528f4668f36"
        "41193fa101d85049d14c84bbd05912a9c8c4878274bc9f56a4646dc6adba0340"
        "34d9e2fa7c7b05ca2693767eff5255d4cfce3be32f103a11b6bd1c2adfb7aad5"
        "77f898022c9aa346dd99659ba72bac09811627fd13626c6e4f71e0e8b2b97068"
        "daf661e4fb22f2c1eed2900cbfb3a2f1513391ebf90eef6b31c0d61fb5c76a9d"
        "b854ccb07379322d7f0496fe8aeccd5dde72431d1848f38d80c34e42d73d9cb4"
    ),
    np.uint8,
)
_GRADIENTS = np.array(
    [
        (1, 1, 0), (-1, 1, 0), (1, -1, 0), (-1, -1, 0),
        (1, 0, 1), (-1, 0, 1), (1, 0, -1), (-1, 0, -1),
        (0, 1, 1), (0, -1, 1), (0, 1, -1), (0, -1, -1),
        (1, 1, 0), (0, -1, 1), (-1, 1, 0), (0, -1, -1),
    ],
    np.float32,
)  # fmt: skip
_SMALLEST_CELL = 2.0
_SEED_STEP = 37


@dataclass(frozen=True)
class Noise:
    """Several octaves of noise over a picture.

    Attributes:
        cell: width and height of a lattice cell of the first octave, in pixels.
        octaves: how many; each is half as large and ``gain`` times as strong as the one before.
        z: the depth in the noise; moving it evolves the picture. A whole number further on is
            another picture, ``loop`` further on the same one.
        gain: strength from octave to octave.
        seed: another one gives another picture.
        loop: the period of ``z``, 0 for 256.
    """

    cell: tuple[float, float]
    octaves: float = 1.0
    z: float = 0.0
    gain: float = 0.5
    seed: int = 0
    loop: int = 0


def noise_field(noise: Noise, size: Size, middle: tuple[float, float] | None = None) -> Field:
    """The noise over a frame, about -1…1, its lattice fixed in the frame's middle.

    Octaves whose cells would be smaller than two pixels are left out: they could only alias.

    Args:
        noise: what it looks like.
        size: of the result.
        middle: the pixel at which lattice coordinates are 0; by default the frame's middle.
    """
    x0, y0 = (size.width / 2.0, size.height / 2.0) if middle is None else middle
    total: Field = np.zeros((size.height, size.width), np.float32)
    norm = 0.0
    count = int(np.ceil(max(noise.octaves, 1.0)))
    for octave in range(count):
        share = min(max(noise.octaves, 1.0) - octave, 1.0) * noise.gain**octave
        norm += share
        width, height = (max(side, 1e-3) / 2.0**octave for side in noise.cell)
        if min(width, height) < _SMALLEST_CELL:
            continue
        x = (np.arange(size.width, dtype=np.float64) + 0.5 - x0) / width
        y = (np.arange(size.height, dtype=np.float64) + 0.5 - y0) / height
        period = noise.loop * 2**octave if noise.loop else 0
        z = noise.z * 2.0**octave
        total += np.float32(share) * perlin(x, y, z, noise.seed + octave * _SEED_STEP, period)
    return total / np.float32(norm)


@lru_cache(maxsize=2)
def still_noise_field(noise: Noise, size: Size, middle: tuple[float, float]) -> Field:
    """``noise_field`` of noise that does not evolve: of one frame after the other it is the same.

    Returns:
        A field that is shared; nobody writes into it.
    """
    found = noise_field(noise, size, middle)
    found.flags.writeable = False
    return found


def perlin(
    x: NDArray[np.float64], y: NDArray[np.float64], z: float, seed: int = 0, period: int = 0
) -> Field:
    """Improved Perlin noise ``(H, W)`` at each x ``(W,)`` and y ``(H,)``, in lattice units.

    Args:
        x, y: one-dimensional, in lattice units.
        z: the depth.
        seed: 0 is the reference; another one exchanges the permutation.
        period: after how many whole units z comes back; 0 for 256.
    """
    table = PERMUTATION.astype(np.int64)
    if seed:
        table = np.random.default_rng(seed).permutation(256)
    columns, rows = _Axis.of(x), _Axis.of(y)
    depth = int(np.floor(z))
    w = z - depth
    blend = (1.0 - _fade(np.float64(w)), _fade(np.float64(w)))
    value = np.zeros((3, len(rows.nodes), len(columns.nodes)))
    for corner in (0, 1):
        layer = (depth + corner) % (period or 256) & 255
        first = table[columns.nodes & 255][None, :]
        second = table[(first + rows.nodes[:, None]) & 255]
        gradient = _GRADIENTS[table[(second + layer) & 255] & 15]
        value[0] += blend[corner] * gradient[..., 0]
        value[1] += blend[corner] * gradient[..., 1]
        value[2] += blend[corner] * gradient[..., 2] * (w - corner)
    gx, gy, gz = (value[axis].astype(np.float32) for axis in range(3))
    field: Field = (rows.window @ gx) @ columns.offset.T
    field += (rows.offset @ gy + rows.window @ gz) @ columns.window.T
    return field


@dataclass(frozen=True)
class _Axis:
    """The lattice nodes along one axis and how much each counts at each pixel."""

    nodes: NDArray[np.int64]
    window: Field
    offset: Field

    @classmethod
    def of(cls, places: NDArray[np.float64]) -> _Axis:
        low = np.floor(places).astype(np.int64)
        nodes = np.arange(low.min(), low.max() + 2)
        window = np.zeros((len(places), len(nodes)), np.float32)
        offset = np.zeros_like(window)
        inside = places - low
        at = np.arange(len(places))
        for corner, share in ((0, 1.0 - _fade(inside)), (1, _fade(inside))):
            column = low + corner - nodes[0]
            window[at, column] = share
            offset[at, column] = share * (inside - corner)
        return cls(nodes, window, offset)


def _fade(t: NDArray[np.float64] | np.float64) -> NDArray[np.float64]:
    return np.asarray(t * t * t * (t * (t * 6.0 - 15.0) + 10.0))


@dataclass(frozen=True)
class GreyNoise:
    """Noise as a grey picture: 0.5 + brightness + contrast · noise, in encoded colour."""

    noise: Noise
    contrast: float
    brightness: float
    mirrored: Direction = Direction.AS_MADE

    def picture(self, size: Size) -> Image:
        """Its picture in a frame of a size, linear."""
        field = noise_field(self.noise, size)
        grey = np.clip(0.5 + self.brightness + self.contrast * field, 0.0, 1.0)
        pixels = np.repeat(grey.astype(np.float32)[..., None], 4, axis=2)
        pixels[..., 3] = 1.0
        pixels[..., :3] = decode(np.ascontiguousarray(pixels[..., :3]))
        return mirrored(Image(pixels, Light.LINEAR, opaque=True), self.mirrored)
