"""Random movements in a preview: ``python -m fuzz.movements [SEED [SECONDS]]``.

What ``tests/core/picture/test_even_steps.py`` sees of a few, this sees of as many as there is time
for, and tells of the worst.
"""

from __future__ import annotations

import sys
import time

from tests.core.picture.movements import compared


def main() -> None:
    """Looks for as long as is said; a minute by default."""
    seed = int(sys.argv[1]) if sys.argv[1:] else 1
    end = time.monotonic() + (float(sys.argv[2]) if sys.argv[2:] else 60.0)
    found = []
    for apart in compared(seed):
        found.append(apart)
        if time.monotonic() > end:
            break
    print(f"{len(found)} movements of which looks were taken together; the worst, in levels:")
    for apart in sorted(found, reverse=True)[:5]:
        print(
            f"{apart.mean:.2f} in the mean, {apart.most:.0f} at most: {apart.looks} looks, "
            f"{apart.cover.value}{', cut' if apart.cut else ''}"
        )


if __name__ == "__main__":
    main()
