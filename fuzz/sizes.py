"""Every shipped wrinkle in every shape, rate, length and strength: ``python -m fuzz.sizes``.

What `tests/library/test_shipped.py` sees of some, in turn, this sees of all, and at 2160×3840
besides; it takes some minutes.
"""

from __future__ import annotations

import sys
import time

from tests.library.test_shipped import Shipped
from wrinkle.core.picture.image import Size
from wrinkle.core.reuse.use import Choices
from wrinkle.core.store import Store
from wrinkle.files import archive
from wrinkle.library import fonts, shipped
from wrinkle.media.assets import read_assets

LARGEST = Size(2160, 3840)


def main() -> None:
    """Looks at each, or at those that are named; a fault is raised."""
    case = Shipped()
    for name, path in shipped().items():
        if sys.argv[1:] and name not in sys.argv[1:]:
            continue
        began = time.monotonic()
        bundle = archive.read(path)
        carried = read_assets(bundle.assets, Store(1 << 30)).material(fonts())
        for use in case.every_use(bundle):
            case.look(bundle, carried, *use)
        rate = round(bundle.wrinkle.frame_rate.per_second)
        case.look(bundle, carried, LARGEST, rate, Choices())
        print(f"{name}: right at {LARGEST.label}, {time.monotonic() - began:.0f} s")


if __name__ == "__main__":
    main()
