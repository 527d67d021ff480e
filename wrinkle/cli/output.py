"""What all commands that write a file say and refuse in the same words."""

from __future__ import annotations

import sys
from pathlib import Path

from wrinkle.core.errors import MediaError


def check_folder(output: Path) -> None:
    """Looks whether the folder of a file is there.

    Raises:
        MediaError: it is not; names it.
    """
    if not output.parent.is_dir():
        raise MediaError(
            f"{output} cannot be written: the folder {output.parent} does not exist; make it first."
        )


def tell(done: int, total: int, left: float) -> None:
    """Says how far it is, where somebody looks on."""
    if sys.stderr.isatty():
        print(f"\r{done} of {total} frames, {left:.0f} s left ", end="", file=sys.stderr)
