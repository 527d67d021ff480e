"""Puts the frames of a wrinkle on a contact sheet."""

from __future__ import annotations

import argparse

from wrinkle.cli.command import Command
from wrinkle.cli.output import take_output
from wrinkle.cli.wrinkle_arguments import take_wrinkle

_WIDE, _LEAST, _MOST = 360, 16, 8192
"""Pixels: enough to judge an edge by, and what makes sense at all."""


def takes(parser: argparse.ArgumentParser) -> None:
    """A wrinkle on its clips, and the file."""
    take_wrinkle(parser)
    take_output(parser, "F.png")
    parser.add_argument(
        "--width", type=_width, default=_WIDE, metavar="PIXELS",
        help=f"of each picture (default {_WIDE}), at most that of the frame",
    )  # fmt: skip


def run(arguments: argparse.Namespace) -> int:
    """Writes the contact sheet."""
    from wrinkle.cli.writing import write
    from wrinkle.media.exporting.export import ExportChoices
    from wrinkle.media.exporting.sheet import EXPORT

    _, count = write(arguments, EXPORT, ExportChoices(width=arguments.width))
    print(f"{arguments.output}: {count} frames")
    return 0


def _width(text: str) -> int:
    if not text.isascii() or not text.isdigit() or not _LEAST <= int(text) <= _MOST:
        raise argparse.ArgumentTypeError(
            f"'{text}' is no width; give whole pixels from {_LEAST} to {_MOST}"
        )
    return int(text)


COMMAND = Command("sheet", "put every frame of the window on one contact sheet (PNG)", takes, run)
