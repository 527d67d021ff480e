"""All frames on one picture."""

from __future__ import annotations

import math
from collections.abc import Iterable
from pathlib import Path

import numpy as np

from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Job
from wrinkle.core.picture.contact_sheet import contact_sheet
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.media.still import write_png

SHORT_SIDE = 180
"""Of a frame that is told apart on it, in pixels."""
_MOST_FRAMES = 600
"""Twenty seconds at 30 a second; all of them are held at once."""
_LONGEST = 32_000
"""Sides that programs for pictures still open."""


def columns_of(count: int, size: Size) -> int:
    """How many frames stand in a row, so that the sheet is about twice as wide as it is high."""
    return min(count, max(1, math.isqrt(count * 2 * size.height // size.width)))


def check_sheet(count: int, size: Size) -> None:
    """Looks whether so many frames of a size can stand on one picture.

    Raises:
        InputError: it would be too large to look at.
    """
    columns = columns_of(count, size)
    sides = columns * size.width, -(-count // columns) * size.height
    if count > _MOST_FRAMES:
        raise InputError(
            f"A contact sheet of {count} frames would be too large to look at; {_MOST_FRAMES} are "
            "the most."
        )
    if max(sides) > _LONGEST:
        small = size.scaled(SHORT_SIDE / min(size))
        raise InputError(
            f"A contact sheet of {count} frames of {size.label} would be {sides[0]}×{sides[1]}; "
            f"use {small.label} for a frame."
        )


def write_sheet(path: Path, pictures: Iterable[Bytes8], frames: range, job: Job) -> int:
    """Writes a PNG file, whole or not at all; gives the number of frames.

    Args:
        path: of the file.
        pictures: encoded RGBA ``(H, W, 4)``, in order.
        frames: their numbers; those around a cut begin below 0, and the cut is drawn then.
        job: told how far it is.

    Raises:
        MediaError: the place cannot be written to.
    """
    found: list[Bytes8] = []
    for picture in pictures:
        found.append(picture)
        job.report(len(found), len(frames))
    height, width = found[0].shape[:2]
    columns = columns_of(len(found), Size(width, height))
    sheet = contact_sheet(found, frames, columns, around_cut=frames.start < 0)
    write_png(path, np.ascontiguousarray(sheet), opaque=True)
    return len(found)
