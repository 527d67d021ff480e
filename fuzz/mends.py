"""Every shipped wrinkle examined, and every mend on broken copies of it: ``python -m fuzz.mends``.

What ``tests/core/measure/test_checks.py`` does for some, this does for all, or for those that are
named; it takes about a quarter of an hour.
"""

from __future__ import annotations

import sys
import time

from tests.core.measure.broken import BREAKAGES, mended, subject_of
from wrinkle import library
from wrinkle.core.examine.examined import Examined
from wrinkle.core.picture import compiled
from wrinkle.files import archive


def main() -> None:
    """Tells of each mend that does harm or cannot be done."""
    compiled.load(library.compiled_folder())
    counts = {"right": 0, "refused": 0, "wrong": 0}
    began = time.monotonic()
    for name, path in library.shipped().items():
        if sys.argv[1:] and name not in sys.argv[1:]:
            continue
        bundle = archive.read(path)
        for finding in Examined.of(subject_of(bundle)).open:
            print(f"{name}, as it ships: {finding.sentence}", flush=True)
        for breakage in BREAKAGES:
            for mend, wrong in mended(bundle, breakage):
                kind = "right" if not wrong else "refused" if wrong[:7] == "refused" else "wrong"
                counts[kind] += 1
                if wrong:
                    print(f"{name}, {breakage}, {mend}: {wrong}", flush=True)
    print(f"{counts}, {time.monotonic() - began:.0f} s")


if __name__ == "__main__":
    main()
