"""A wrinkle as one small picture, for file managers."""

from __future__ import annotations

from pathlib import Path

from wrinkle import library
from wrinkle.core.design.document.slots import OUTGOING
from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Bytes8
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Filling, default_cut
from wrinkle.core.reuse.use import Use, showing
from wrinkle.core.store import Store
from wrinkle.files.archive import read
from wrinkle.library.samples import SAMPLES
from wrinkle.media.assets import read_assets
from wrinkle.media.clip import Clip
from wrinkle.media.still import write_png

SMALLEST, LARGEST = 16, 1024
_BEFORE_CUT = 5
"""The frame is this part of the lead before the cut: both clips, or what hides them, are seen."""


def thumbnail(path: Path, side: int) -> Bytes8:
    """A frame of a wrinkle on the clips that ship, ``(H, W, 4)``.

    Args:
        path: the wrinkle's file.
        side: of the longer side, in pixels.

    Raises:
        InputError: it cannot be read, or the size is not possible.
    """
    if not SMALLEST <= side <= LARGEST:
        raise InputError(f"A size of {side} is not possible; take {SMALLEST} to {LARGEST}.")
    bundle = read(path)
    wrinkle = bundle.wrinkle
    fillings = {}
    for slot, clip_path in SAMPLES.items():
        clip = Clip(clip_path)
        fillings[slot] = Filling(clip, default_cut(slot, clip, wrinkle))
    carried = read_assets(bundle.assets, Store()).material(library.fonts())
    size = fillings[OUTGOING.key].source.size.within(side)
    shown = showing(Use(wrinkle, fillings), carried, size, wrinkle.frame_rate, Quality.PREVIEW)
    picture: Bytes8 = shown.image(wrinkle.first_frame // _BEFORE_CUT).to_bytes8()
    return picture


def write_thumbnail(path: Path, output: Path, side: int) -> None:
    """Writes that as a PNG file, over what is there: file managers ask for it so.

    Raises:
        InputError: as ``thumbnail``; or it cannot be written.
    """
    write_png(output, thumbnail(path, side), opaque=False)
