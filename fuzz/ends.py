"""Every shipped wrinkle at every end, in every shape: ``python -m fuzz.ends [NAME …]``.

What `tests/library/test_ends.py` sees for all dials at once, in one shape at a time, this sees for
each dial alone in all of them, and tells of each fault in a line.
"""

from __future__ import annotations

import sys

import msgspec

from tests.library.ends import at_ends
from tests.library.test_ends import faults
from tests.library.test_shipped import SHAPES
from wrinkle.core.reuse.use import Choices
from wrinkle.core.store import Store
from wrinkle.files import archive
from wrinkle.library import fonts, shipped
from wrinkle.media.assets import read_assets


def main() -> None:
    """Looks at each, or at those that are named."""
    store = Store(256 << 20)
    cases = wrong = 0
    for name, path in shipped().items():
        if sys.argv[1:] and name not in sys.argv[1:]:
            continue
        bundle = archive.read(path)
        carried = read_assets(bundle.assets, store).material(fonts())
        for choices in at_ends(bundle.wrinkle):
            for size in SHAPES:
                cases += 1
                for fault in faults(bundle, carried, size, 30, choices):
                    wrong += 1
                    print(f"{name} {size.label} {told(choices)}: {fault}")
    print(f"{cases} cases, {wrong} faults")


def told(choices: Choices) -> str:
    """What is chosen in another way than as made."""
    plain = Choices()
    fields = {key: getattr(choices, key) for key in ("dials", "direction", "strength", "softness")}
    other = {key: value for key, value in fields.items() if value != getattr(plain, key)}
    return msgspec.json.encode(other, enc_hook=str).decode()


if __name__ == "__main__":
    main()
