"""Draws the small picture of a wrinkle that file managers show."""

from __future__ import annotations

import argparse
from pathlib import Path

from wrinkle.cli.command import Command

_USUAL = 256


def takes(parser: argparse.ArgumentParser) -> None:
    """A file, a picture, and how large it is."""
    parser.add_argument("file", type=Path, help="a .wrinkle file")
    parser.add_argument("output", type=Path, help="the PNG file; what is there is replaced")
    parser.add_argument("--size", type=int, default=_USUAL, metavar="PIXELS",
                        help="of the longer side, 256 where it is not said")  # fmt: skip


def run(arguments: argparse.Namespace) -> int:
    """Writes the picture."""
    from wrinkle.library.thumbnails import write_thumbnail

    write_thumbnail(arguments.file, arguments.output, arguments.size)
    return 0


COMMAND = Command("thumbnail", "draw the small picture of a .wrinkle file", takes, run)
