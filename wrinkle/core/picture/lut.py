"""Colour tables: the .cube text format, one- and three-dimensional, and how they are read.

Source: the published .cube LUT specification 1.0: TITLE, DOMAIN_MIN, DOMAIN_MAX, LUT_1D_SIZE,
LUT_3D_SIZE, comments with #; in three dimensions red runs fastest.
"""

from __future__ import annotations

import hashlib
import math
from dataclasses import dataclass
from functools import cached_property, partial

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.errors import InputError
from wrinkle.core.picture.bands import Floats, in_bands

Colours = NDArray[np.float32]
"""float32 ``(H, W, 3)``, encoded."""

_LARGEST_1D, _LARGEST_3D = 65536, 256
_MOST_ROWS = 32_768


@dataclass(frozen=True, eq=False)
class Lut:
    """A colour table.

    Attributes:
        name: for messages.
        identity: differs between tables that give different colours.
        table: float32 ``(N, 3)``, or ``(N, N, N, 3)`` indexed by red, green and blue.
        low, high: the colours at its first and last entries.
    """

    name: str
    identity: str
    table: NDArray[np.float32]
    low: tuple[float, ...] = (0.0, 0.0, 0.0)
    high: tuple[float, ...] = (1.0, 1.0, 1.0)

    @cached_property
    def sheet(self) -> Floats:
        """A solid table as the picture that it is read from, made once."""
        return _sheet(self.table)


def parse_cube(name: str, content: bytes) -> Lut:
    """The table in the bytes of a .cube file.

    Raises:
        InputError: it is no such file; names the file and the line.
    """
    size, solid = 0, False
    low, high = (0.0, 0.0, 0.0), (1.0, 1.0, 1.0)
    rows: list[tuple[float, ...]] = []
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise InputError(f"{name} is no .cube file: it is not text.") from None
    for number, line in enumerate(text.splitlines(), 1):
        words = line.split("#")[0].split()
        if not words or words[0] == "TITLE":
            continue
        try:
            if words[0] in ("LUT_1D_SIZE", "LUT_3D_SIZE"):
                size, solid = int(words[1]), words[0] == "LUT_3D_SIZE"
            elif words[0] in ("DOMAIN_MIN", "DOMAIN_MAX"):
                triple = _triple(words[1:])
                low, high = (triple, high) if words[0] == "DOMAIN_MIN" else (low, triple)
            elif words[0][0].isalpha():
                continue
            else:
                rows.append(_triple(words))
        except (ValueError, IndexError):
            raise InputError(f"{name} cannot be read at line {number}: '{line.strip()}'.") from None
    if not 2 <= size <= (_LARGEST_3D if solid else _LARGEST_1D):
        raise InputError(f"{name} says no size that a table can have; use another .cube file.")
    wanted = size**3 if solid else size
    if len(rows) != wanted:
        raise InputError(f"{name} holds {len(rows)} colours, not the {wanted} of its size.")
    if any(a >= b for a, b in zip(low, high, strict=True)):
        raise InputError(f"The domain of {name} is empty; use another .cube file.")
    table = np.array(rows, np.float32)
    if not np.isfinite(table).all():
        raise InputError(f"{name} holds numbers that are not finite; use another .cube file.")
    if solid:
        # In the file red runs fastest: blue is the first axis.
        table = np.ascontiguousarray(table.reshape(size, size, size, 3).transpose(2, 1, 0, 3))
    return Lut(name, hashlib.sha256(content).hexdigest(), table, low, high)


def _triple(words: list[str]) -> tuple[float, float, float]:
    """Three numbers.

    Raises:
        ValueError: they are not.
    """
    red, green, blue = (float(word) for word in words)
    return red, green, blue


def looked_up(lut: Lut, colours: Colours, quick: bool = False) -> Colours:
    """The colours through a table; what lies outside its domain is held at its rim.

    Args:
        lut: the table. Three dimensions are read by tetrahedra.
        colours: encoded.
        quick: three dimensions are read trilinearly instead, which is twice as fast.
    """
    low, high = np.array(lut.low, np.float32), np.array(lut.high, np.float32)
    unit = not low.any() and bool((high == 1.0).all())
    if lut.table.ndim == 2:
        read = partial(_each_channel, lut.table)
    else:
        read = partial(_trilinear if quick else _tetrahedral, lut.sheet, len(lut.table))

    def graded(band: Colours) -> Colours:
        place = band if unit else (band - low) / (high - low)
        return read(np.clip(place, 0.0, 1.0))

    return in_bands(graded, colours)


def _sheet(table: Floats) -> Floats:
    """A solid table as a picture ``(…, …, 4)`` of its red layers, ``_across`` of them in a row.

    OpenCV reads pictures of four channels faster than of three, but none of 32768 rows.
    """
    size, across = len(table), _across(len(table))
    down = -(-size // across)
    layers = np.zeros((down * across, size, size, 4), np.float32)
    layers[:size, ..., :3] = table
    tiles = layers.reshape(down, across, size, size, 4).transpose(0, 2, 1, 3, 4)
    return np.ascontiguousarray(tiles).reshape(down * size, across * size, 4)


def _across(size: int) -> int:
    return 1 if size * size < _MOST_ROWS else math.isqrt(size - 1) + 1


def _tile(layer: Floats, size: int) -> tuple[Floats | float, Floats]:
    """Where a red layer begins on the sheet: x and y."""
    across = _across(size)
    if across == 1:
        return 0.0, layer * np.float32(size)
    row = np.floor(layer / np.float32(across))
    return (layer - row * np.float32(across)) * np.float32(size), row * np.float32(size)


def _each_channel(table: Floats, place: Colours) -> Colours:
    steps = np.linspace(0.0, 1.0, len(table))
    planes = [np.interp(place[..., c], steps, table[:, c]) for c in range(3)]
    return np.stack(planes, axis=-1).astype(np.float32)


def _tetrahedral(sheet: Floats, size: int, place: Colours) -> Colours:
    """From the black corner of a cell to its white one, along the channels by their size.

    The four corners on the way are read by warps that take the nearest entry of the sheet.
    """
    spot = cv2.split(place * np.float32(size - 1))
    red, green, blue = (np.minimum(np.floor(x), np.float32(size - 2)) for x in spot)
    parts = [x - cell for x, cell in zip(spot, (red, green, blue), strict=True)]
    largest = cv2.max(cv2.max(parts[0], parts[1]), parts[2])
    least = cv2.min(cv2.min(parts[0], parts[1]), parts[2])
    middle = parts[0] + parts[1] + parts[2] - largest - least
    # Of equal parts either may come first: the corner between them has no weight.
    red_first = parts[0] == largest
    green_first = (parts[1] == largest) & ~red_first
    blue_last = parts[2] == least
    green_last = (parts[1] == least) & ~blue_last
    everywhere = np.ones_like(red_first)
    mixed = np.zeros((*place.shape[:2], 4), np.float32)
    for weight, up_red, up_green, up_blue in (
        (np.float32(1.0) - largest, ~everywhere, ~everywhere, ~everywhere),
        (largest - middle, red_first, green_first, ~(red_first | green_first)),
        (middle - least, blue_last | green_last, ~green_last, ~blue_last),
        (least, everywhere, everywhere, everywhere),
    ):
        x, y = _tile(red + up_red, size)
        entries = cv2.remap(
            sheet,
            x + blue + up_blue,
            y + green + up_green,
            cv2.INTER_NEAREST,
            borderMode=cv2.BORDER_REPLICATE,
        )
        cv2.add(mixed, cv2.multiply(entries, cv2.merge([weight] * 4)), mixed)
    found: Colours = cv2.cvtColor(mixed, cv2.COLOR_RGBA2RGB)
    return found


def _trilinear(sheet: Floats, size: int, place: Colours) -> Colours:
    """Green and blue read by one warp within a layer of the sheet, red mixed from two layers."""
    red, green, blue = cv2.split(place * np.float32(size - 1))
    layer = np.minimum(np.floor(red), np.float32(size - 2))
    read = []
    for up in (1.0, 0.0):
        x, y = _tile(layer + np.float32(up), size)
        border = cv2.BORDER_REPLICATE
        read.append(cv2.remap(sheet, x + blue, y + green, cv2.INTER_LINEAR, borderMode=border))
    share = red - layer
    mixed = cv2.blendLinear(read[0], read[1], share, np.float32(1.0) - share)
    found: Colours = cv2.cvtColor(mixed, cv2.COLOR_RGBA2RGB)
    return found
