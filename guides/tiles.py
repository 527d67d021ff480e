"""Makes the moving pictures of the wrinkles that ship: ``python -m guides.tiles``."""

from __future__ import annotations

import sys

from wrinkle import library
from wrinkle.core.jobs import Job
from wrinkle.core.picture import compiled
from wrinkle.core.render.material import Filling
from wrinkle.core.store import Store
from wrinkle.files.whole import write_whole
from wrinkle.library.picture_strips import strip_bytes
from wrinkle.library.samples import SAMPLES
from wrinkle.library.shelf import Shelves
from wrinkle.library.shipped_tiles import FOLDER
from wrinkle.library.tiles import Ground, drawn_tile
from wrinkle.media.clip import Clip

_QUALITY = 80


def sample_ground() -> Ground:
    """The clips on which they are shown."""
    clips = {slot: Clip(path) for slot, path in SAMPLES.items()}
    return Ground({slot: Filling(clip, clip.duration / 2) for slot, clip in clips.items()})


def main() -> int:
    """Writes one file for each, and tells how large all are."""
    compiled.load(library.compiled_folder())
    FOLDER.mkdir(exist_ok=True)
    ground, store, total = sample_ground(), Store(), 0
    for one in Shelves().all():
        if one.shipped and one.wrinkle is not None:
            content = strip_bytes(drawn_tile(one, ground, store, Job()), _QUALITY)
            write_whole(FOLDER / f"{one.path.stem}.jpg", content)
            total += len(content)
    print(f"{total / 1e6:.1f} MB in {FOLDER}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
