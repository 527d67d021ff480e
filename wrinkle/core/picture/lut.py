"""Colour tables: the .cube text format, one- and three-dimensional, and how they are read.

Source: the published .cube LUT specification 1.0: TITLE, DOMAIN_MIN, DOMAIN_MAX, LUT_1D_SIZE,
LUT_3D_SIZE, comments with #; in three dimensions red runs fastest.
"""

from __future__ import annotations

import hashlib
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.errors import InputError
from wrinkle.core.picture.bands import Floats
from wrinkle.core.picture.compiled import passes

Colours = NDArray[np.float32]
"""float32 ``(H, W, 3)``, encoded."""

_LARGEST_1D, _LARGEST_3D = 65_536, 65
"""Entries of a side: 65 is the finest that grading programs write, and takes a second to read."""
_FAR, _NARROWEST = 1e6, 1e-5
"""Of a domain; how narrow it may be is a share of its numbers: some steps of single precision."""
LARGEST_CUBE = 24 << 20
"""Bytes of a .cube file; one of 65³ with nine digits has 9 million."""


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


def parse_cube(name: str, content: bytes) -> Lut:
    """The table in the bytes of a .cube file.

    Raises:
        InputError: it is no such file; names the file and the line.
    """
    size, solid = 0, False
    low, high = (0.0, 0.0, 0.0), (1.0, 1.0, 1.0)
    rows: list[tuple[float, ...]] = []
    if len(content) > LARGEST_CUBE:
        raise InputError(f"{name} is larger than any colour table; use another .cube file.")
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
                if not 2 <= size <= (_LARGEST_3D if solid else _LARGEST_1D):
                    raise InputError(f"{name} says no size that a table here can have: {size}.")
            elif words[0] in ("DOMAIN_MIN", "DOMAIN_MAX"):
                triple = _triple(words[1:])
                low, high = (triple, high) if words[0] == "DOMAIN_MIN" else (low, triple)
            elif words[0][0].isalpha():
                continue
            else:
                rows.append(_triple(words))
        except InputError:
            raise
        except (ValueError, IndexError):
            raise InputError(
                f"{name} cannot be read at line {number}: '{line.strip()[:60]}'."
            ) from None
        if len(rows) > _LARGEST_3D**3:
            raise InputError(f"{name} holds more colours than a table can have.")
    if not size:
        raise InputError(f"{name} says no size that a table can have; use another .cube file.")
    wanted = size**3 if solid else size
    if len(rows) != wanted:
        raise InputError(f"{name} holds {len(rows)} colours, not the {wanted} of its size.")
    wide = all(
        -_FAR < a < b < _FAR and b - a > _NARROWEST * max(1.0, abs(a), abs(b))
        for a, b in zip(low, high, strict=True)
    )
    if not wide:
        raise InputError(f"The domain of {name} is none; use another .cube file.")
    colours = np.array(rows)
    if not (np.abs(colours) < _FAR).all():
        raise InputError(f"{name} holds numbers that are no colours; use another .cube file.")
    table = colours.astype(np.float32)
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


def looked_up(lut: Lut, colours: Colours, into: Colours | None = None) -> Colours:
    """The colours through a table; what lies outside its domain is held at its rim.

    Args:
        lut: the table. Three dimensions are read by tetrahedra.
        colours: encoded.
        into: where the result may stand, ``colours`` themselves perhaps; it is returned in any
            case.
    """
    low, high = np.array(lut.low, np.float32), np.array(lut.high, np.float32)
    places = np.ascontiguousarray(colours)
    if low.any() or (high != 1.0).any():
        places = (places - low) / (high - low)
    if into is None:
        into = np.empty(places.shape, np.float32)
    if lut.table.ndim == 2:
        into[:] = places
        return through_levels(np.ascontiguousarray(lut.table.T), into)
    return _tetrahedral(np.ascontiguousarray(lut.table), places, into)


def through_levels(tables: Floats, colours: Colours) -> Colours:
    """Each channel, held within 0…1, through its own table; straight between the entries.

    Args:
        tables: ``(3, N)``, in even steps from 0 to 1.
        colours: ``(H, W, 3)``; the result may stand in it.
    """
    twice = np.concatenate((tables, tables[:, -1:]), axis=1)
    compiled = passes()
    if compiled is not None:
        colours = np.ascontiguousarray(colours)
        compiled.through_levels(colours, twice)
        return colours
    return np.stack([in_table(colours[..., c], twice[c]) for c in range(3)], axis=-1)


def in_table(values: Floats, table: Floats) -> Floats:
    """Values, held within 0…1, by a table of even steps whose last entry stands twice.

    Step for step as in the compiled passes, in whatever shape.
    """
    spot = np.fmin(np.fmax(values, np.float32(0.0)), np.float32(1.0)) * np.float32(len(table) - 2)
    index = spot.astype(np.int32)
    low = table[index]
    found: Floats = low + (table[index + 1] - low) * (spot - index.astype(np.float32))
    return found


def _tetrahedral(table: Floats, place: Colours, into: Colours) -> Colours:
    """From the black corner of a cell to its white one, along the channels by their size."""
    compiled = passes()
    if compiled is not None:
        compiled.through_solid(place, table, into)
        return into
    # Step for step as in the compiled pass.
    size = len(table)
    held = np.fmin(np.fmax(place, np.float32(0.0)), np.float32(1.0))
    spot = held * np.float32(size - 1)
    cell = np.minimum(spot.astype(np.int32), size - 2)
    red, green, blue = cv2.split(spot - cell.astype(np.float32))
    most, least = cv2.max(cv2.max(red, green), blue), cv2.min(cv2.min(red, green), blue)
    between = cv2.max(cv2.min(red, green), cv2.min(cv2.max(red, green), blue))
    # Of equal parts either may come first: the corner between them has no weight.
    red_first = red == most
    green_first = (green == most) & ~red_first
    blue_last = blue == least
    green_last = (green == least) & ~blue_last
    steps = np.array((size * size, size, 1), np.int32)
    corner = cell @ steps
    first = np.where(red_first, steps[0], np.where(green_first, steps[1], steps[2]))
    left_out = np.where(blue_last, steps[2], np.where(green_last, steps[1], steps[0]))
    entries = table.reshape(-1, 3)
    mixed = np.zeros(place.shape, np.float32)
    for weight, index in (
        (np.float32(1.0) - most, corner),
        (most - between, corner + first),
        (between - least, corner + steps.sum() - left_out),
        (least, corner + steps.sum()),
    ):
        mixed += np.take(entries, index, axis=0) * weight[..., None]
    return mixed
