"""A wrinkle over two clips as a video file or as pictures."""

from __future__ import annotations

import math
import os
from collections.abc import Generator
from contextlib import closing
from fractions import Fraction
from pathlib import Path

import numpy as np

from wrinkle.core.design.archive import Bundle
from wrinkle.core.design.document import OUTGOING, Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.picture.contact_sheet import contact_sheet
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.compose import render
from wrinkle.core.render.material import Filling, FrameSource, Material, default_cut
from wrinkle.core.render.sequence import in_order
from wrinkle.library import fonts
from wrinkle.media.assets import read_assets
from wrinkle.media.video_file import Progress, check_video_size, write_video

_SHEET_SHORT_SIDE = 180


def material_for(
    bundle: Bundle,
    sources: dict[str, FrameSource],
    cuts: dict[str, Fraction],
) -> Material:
    """The sources in their slots and the bundle's pictures, with a fitting cut where none is given.

    Raises:
        MediaError: an asset is no picture.
        InputError: a cut lies outside its clip.
    """
    slots = {}
    for key, source in sources.items():
        cut = cuts.get(key)
        if cut is None:
            cut = default_cut(key, source, bundle.wrinkle)
        if not 0 <= cut <= source.duration:
            raise InputError(
                f"The cut of {source.name} must lie within 0 and {float(source.duration):.3g} "
                f"seconds, not {float(cut):.3g}."
            )
        slots[key] = Filling(source, cut)
    read = read_assets(bundle.assets)
    return Material(slots, read.pictures, read.luts, fonts())


def output_size(material: Material) -> Size:
    """The size of the outgoing clip, one pixel larger where a side is odd."""
    size = material.slots[OUTGOING.key].source.size
    return Size(size.width + size.width % 2, size.height + size.height % 2)


def frames_with_surroundings(wrinkle: Wrinkle, seconds: Fraction) -> range:
    """The window's frames and those of ``seconds`` of the plain clips on each side."""
    around = math.ceil(seconds * wrinkle.frame_rate.per_second)
    return range(wrinkle.first_frame - around, wrinkle.end_frame + around)


def rendered(
    wrinkle: Wrinkle, material: Material, frames: range, size: Size
) -> Generator[Bytes8, None, None]:
    """The frames in order at final quality, encoded 8-bit RGBA, one frame per processor."""

    def one(frame: int) -> Bytes8:
        return render(wrinkle, material, frame, size, Quality.FINAL).to_bytes8()

    return in_order(one, frames, os.cpu_count() or 1)


def write_wrinkle_video(
    path: Path,
    wrinkle: Wrinkle,
    material: Material,
    size: Size,
    around: Fraction,
    progress: Progress,
) -> int:
    """Writes the wrinkle's window, with ``around`` seconds of plain clip on each side, as MP4.

    Returns:
        The number of frames.

    Raises:
        InputError: the size is not possible.
        MediaError: a clip cannot be read or the file cannot be written.
        Cancelled: ``progress`` raised it.
    """
    check_video_size(size)
    frames = frames_with_surroundings(wrinkle, around)
    with closing(rendered(wrinkle, material, frames, size)) as pictures:
        return write_video(path, pictures, size, wrinkle.frame_rate, progress)


def wrinkle_sheet(wrinkle: Wrinkle, material: Material, size: Size) -> Bytes8:
    """Every frame of the window on one contact sheet, RGB ``(H, W, 3)``."""
    small = size.scaled(Fraction(_SHEET_SHORT_SIDE, min(size)))
    frames = wrinkle.frames
    columns = min(len(frames), max(1, math.isqrt(len(frames) * 2 * small.height // small.width)))
    with closing(rendered(wrinkle, material, frames, small)) as pictures:
        return np.ascontiguousarray(contact_sheet(list(pictures), frames, columns))
