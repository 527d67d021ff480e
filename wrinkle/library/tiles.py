"""The moving pictures of tiles: a wrinkle's frames side by side in one JPEG file, kept on disk.

They are made through the same frames as all else, and kept by what they show: the wrinkle, what it
carries, and the clips that it is shown on.
"""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path

import cv2
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
from wrinkle.files.whole import read_whole, write_whole
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
_LARGEST_FILE = 8 << 20


@dataclass(frozen=True)
class Ground:
    """The clips on which tiles are shown, with the size of their pictures."""

    fillings: Mapping[str, Filling]

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
    path = library.cache_folder() / "tiles" / f"{_key(one, one.wrinkle, ground, choices)}.jpg"
    kept = _read(path, ground.size)
    if kept is not None:
        return kept
    made = _made(one, one.wrinkle, ground, store, job, choices)
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        done, content = cv2.imencode(
            ".jpg", np.concatenate(made, axis=1)[..., ::-1], (cv2.IMWRITE_JPEG_QUALITY, _QUALITY)
        )
        if done:
            write_whole(path, content.tobytes())
    except OSError:
        # Without room on the disk they are made again next time.
        pass
    return made


def steps_of(wrinkle: Wrinkle) -> list[int]:
    """The frames that a tile shows, counted from the cut: so many a second, at its own pace."""
    seconds = wrinkle.lead + wrinkle.tail
    count = min(max(round(seconds * STEPS_A_SECOND), _FEWEST), _MOST)
    first, end = wrinkle.first_frame, wrinkle.end_frame
    inside = [first + round((end - 1 - first) * n / (count - 1)) for n in range(count)]
    before = [first - n for n in range(_AROUND, 0, -1)]
    return [*before, *inside, *(end - 1 + n for n in range(1, _AROUND + 1))]


def _key(one: Shelved, wrinkle: Wrinkle, ground: Ground, choices: Choices) -> str:
    state = str(one.state) if wrinkle.assets() else ""
    told = f"{EDITION} {state} {ground.identity} {ground.size} {choices}"
    return hashlib.sha256(encode(wrinkle) + told.encode()).hexdigest()[:40]


def _made(
    one: Shelved, wrinkle: Wrinkle, ground: Ground, store: Store, job: Job, choices: Choices
) -> list[Bytes8]:
    carried = read_assets(one.bundle().assets, store).material(library.fonts())
    use = Use(wrinkle, ground.fillings, choices)
    shown = showing(use, carried, ground.size, wrinkle.frame_rate, Quality.PREVIEW)
    found = []
    for frame in steps_of(shown.wrinkle):
        job.check()
        found.append(np.ascontiguousarray(shown.image(frame).to_bytes8()[..., :3]))
    return found


def _read(path: Path, size: Size) -> list[Bytes8] | None:
    """What is kept; None where there is nothing, or it is damaged."""
    try:
        content = read_whole(path, _LARGEST_FILE)
    except OSError:
        return None
    whole = cv2.imdecode(np.frombuffer(content, np.uint8), cv2.IMREAD_COLOR)
    if whole is None or whole.shape[0] != size.height or whole.shape[1] % size.width:
        return None
    pixels = np.ascontiguousarray(whole[..., ::-1])
    return [
        np.ascontiguousarray(pixels[:, left : left + size.width])
        for left in range(0, pixels.shape[1], size.width)
    ]
