"""The moving pictures of tiles: a wrinkle's frames side by side in one JPEG file, kept on disk.

They are made through the same frames as all else, and kept by what they show: the wrinkle, what it
carries, and the clips that it is shown on.
"""

from __future__ import annotations

import hashlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from wrinkle import library
from wrinkle.core.design.document.coding import encode
from wrinkle.core.design.document.slots import OUTGOING
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Job
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Filling
from wrinkle.core.reuse.use import AS_MADE, Choices, Use, showing
from wrinkle.core.store import Store
from wrinkle.library.picture_strips import keep_strip, read_strip
from wrinkle.library.shelf import Shelved
from wrinkle.media.assets import read_assets

EDITION = 1
"""Another one where tiles are to be made anew."""
STEPS_A_SECOND = 15
_FEWEST, _MOST = 6, 30
_AROUND = 3
"""Plain frames before and after the window."""
LONGEST_SIDE = 150
_QUALITY = 88


@dataclass(frozen=True)
class Ground:
    """The clips on which tiles are shown, with the size of their pictures.

    Attributes:
        fillings: those clips.
        shipped: they are those that ship, as the pictures that ship show them.
    """

    fillings: Mapping[str, Filling]
    shipped: bool = False

    @property
    def size(self) -> Size:
        """Of a tile's picture."""
        clip = self.fillings[OUTGOING.key].source.size
        return clip.scaled(LONGEST_SIDE / max(clip))

    @property
    def identity(self) -> str:
        """Differs between grounds that give other pictures."""
        return "".join(
            f"{key} {filling.source.identity} {filling.cut} "
            for key, filling in sorted(self.fillings.items())
        )


def tile_strip(
    one: Shelved, ground: Ground, store: Store, job: Job, choices: Choices = AS_MADE
) -> list[Bytes8]:
    """The pictures of a tile in the order of time, each ``(H, W, 3)``, from disk or made now.

    Raises:
        Cancelled: nobody wants them any more.
        InputError: the wrinkle cannot be shown.
        MediaError: a clip cannot be read.
    """
    if one.wrinkle is None:
        raise InputError(one.fault)
    path = _place(one, one.wrinkle, ground, choices)
    kept = read_strip(path, ground.size)
    if kept is None:
        kept = drawn_tile(one, ground, store, job, choices)
        keep_strip(path, kept, _QUALITY)
    return kept


def first_of_tile(one: Shelved, ground: Ground, store: Store, job: Job) -> list[Bytes8]:
    """What can be shown of a tile soon: all of its pictures where they are kept, or one.

    Raises:
        Cancelled, InputError, MediaError: as for ``tile_strip``.
    """
    if one.wrinkle is None:
        raise InputError(one.fault)
    kept = read_strip(_place(one, one.wrinkle, ground, AS_MADE), ground.size)
    return kept if kept is not None else drawn_tile(one, ground, store, job, frames=(0,))


def steps_of(wrinkle: Wrinkle) -> list[int]:
    """The frames that a tile shows, counted from the cut: so many a second, at its own pace."""
    seconds = wrinkle.lead + wrinkle.tail
    count = min(max(round(seconds * STEPS_A_SECOND), _FEWEST), _MOST)
    first, end = wrinkle.first_frame, wrinkle.end_frame
    inside = [first + round((end - 1 - first) * n / (count - 1)) for n in range(count)]
    before = [first - n for n in range(_AROUND, 0, -1)]
    return [*before, *inside, *(end - 1 + n for n in range(1, _AROUND + 1))]


def _place(one: Shelved, wrinkle: Wrinkle, ground: Ground, choices: Choices) -> Path:
    state = str(one.state) if wrinkle.assets() else ""
    told = f"{EDITION} {state} {ground.identity} {ground.size} {choices}"
    name = hashlib.sha256(encode(wrinkle) + told.encode()).hexdigest()[:40]
    return library.cache_folder() / "tiles" / f"{name}.jpg"


def drawn_tile(
    one: Shelved,
    ground: Ground,
    store: Store,
    job: Job,
    choices: Choices = AS_MADE,
    frames: Sequence[int] = (),
) -> list[Bytes8]:
    """The pictures of a tile, drawn now.

    Args:
        one: the wrinkle.
        ground: the clips it is shown on.
        store: where parts of pictures are kept.
        job: asked before each of them whether it is still wanted.
        choices: what it is shown with.
        frames: which of its frames; by default those of ``steps_of``.

    Raises:
        Cancelled, InputError, MediaError: as for ``tile_strip``.
    """
    wrinkle = one.wrinkle
    if wrinkle is None:
        raise InputError(one.fault)
    carried = read_assets(one.bundle().assets, store).material(library.fonts())
    use = Use(wrinkle, ground.fillings, choices)
    shown = showing(use, carried, ground.size, wrinkle.frame_rate, Quality.PREVIEW)
    found = []
    for frame in frames or steps_of(shown.wrinkle):
        job.check()
        found.append(np.ascontiguousarray(shown.image(frame).to_bytes8()[..., :3]))
    return found
