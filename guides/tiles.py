"""Makes the moving pictures of the wrinkles and looks that ship: ``python -m guides.tiles``."""

from __future__ import annotations

import sys
from fractions import Fraction

from wrinkle import library
from wrinkle.core.design.document.looks import Look
from wrinkle.core.jobs import Job
from wrinkle.core.picture import compiled
from wrinkle.core.picture.image import Bytes8
from wrinkle.core.render.look_on import look_on
from wrinkle.core.render.material import Filling
from wrinkle.core.store import Store
from wrinkle.files.whole import write_whole
from wrinkle.library.looks import shipped_looks
from wrinkle.library.picture_strips import strip_bytes
from wrinkle.library.samples import SAMPLES
from wrinkle.library.shelf import Shelves
from wrinkle.library.shipped_tiles import FOLDER, LOOK_SIZE, LOOK_STEPS, look_file
from wrinkle.library.tiles import Ground, drawn_tile
from wrinkle.media.clip import Clip

_QUALITY = 80
_AT = Fraction(1)


def sample_ground() -> Ground:
    """The clips on which they are shown."""
    clips = {slot: Clip(path) for slot, path in SAMPLES.items()}
    return Ground({slot: Filling(clip, clip.duration / 2) for slot, clip in clips.items()})


def look_pictures(look: Look) -> list[Bytes8]:
    """A look on a clip that ships, from rest on."""
    clip = Clip(SAMPLES["incoming"])
    ground = clip.image(clip.index_at(_AT), LOOK_SIZE)
    steps = (look_on(look, ground, step / LOOK_STEPS) for step in range(LOOK_STEPS))
    return [x.to_bytes8()[..., :3].copy() for x in steps]


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
    for look in shipped_looks():
        content = strip_bytes(look_pictures(look), _QUALITY)
        place = look_file(look.name)
        place.parent.mkdir(exist_ok=True)
        write_whole(place, content)
        total += len(content)
    print(f"{total / 1e6:.1f} MB in {FOLDER}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
