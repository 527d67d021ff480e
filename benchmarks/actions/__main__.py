"""Counts the actions of each piece, and writes ``docs/actions.md``."""

from __future__ import annotations

import os
import sys
import tempfile
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from benchmarks.actions.building import Built, built
from benchmarks.actions.everyday import EVERYDAY
from benchmarks.actions.pieces import PIECES, Piece
from tests.ui.window_case import application
from wrinkle.files import archive
from wrinkle.library import shipped

PAGE = Path(__file__).parents[2] / "docs" / "actions.md"
_HEAD = """# Actions

Written by `python -m benchmarks.actions`, which builds each piece (P) and each wrinkle for every
day (E) at the window, from a new document to the last value; a test holds the two together. A
press, a drag, a key and a typed value are one action each; what is chosen in a menu, in a list, or
in a chooser of colours or of files is two. Scrolling is not counted. What is built is the structure
of the piece with values of its own, not the shipped wrinkle to the last number; what of a piece is
not built is said. The clip before the cut of P13 and P19 is the demo's, with a port in it.

Before anything is shaped by hand, what is built should be at rest on the first and on the last
frame of its window; where it is not (by more than one level), the frame is given.

| Piece | Actions | Goal | Layers, effects, masks, lanes | Not at rest | Not built |
|---|---|---|---|---|---|
"""


def line(piece: Piece, done: Built) -> str:
    """A piece as a line of the table."""
    name = archive.read(shipped()[piece.name]).wrinkle.name
    missed = " (missed)" if done.count > piece.goal else ""
    moves = ", ".join(f"{frame:+d}".replace("-", "−") for frame in done.moves_at)
    return (
        f"| {piece.number} {name} | {done.count}{missed} | {piece.goal} | {done.what} | {moves} | "
        f"{piece.lacks} |"
    )


def main() -> None:
    """Builds all, or those that are named."""
    application()
    lines = []
    for piece in (*PIECES, *EVERYDAY):
        if sys.argv[1:] and piece.name not in sys.argv[1:]:
            continue
        with tempfile.TemporaryDirectory() as folder:
            done = built(piece, Path(folder))
        lines.append(line(piece, done))
        print(lines[-1], *done.faults)
    if not sys.argv[1:]:
        PAGE.write_text(_HEAD + "\n".join(lines) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
