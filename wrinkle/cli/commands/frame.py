"""Renders one frame of a wrinkle."""

from __future__ import annotations

import argparse

from wrinkle.cli.command import Command
from wrinkle.cli.output import take_output
from wrinkle.cli.wrinkle_arguments import take_wrinkle


def takes(parser: argparse.ArgumentParser) -> None:
    """A wrinkle on its clips, the frame, and the file."""
    take_wrinkle(parser)
    parser.add_argument(
        "--at", type=int, required=True, metavar="N", help="the frame from the cut, such as -3"
    )
    take_output(parser, "F.png")


def run(arguments: argparse.Namespace) -> int:
    """Writes one frame as a picture."""
    from wrinkle.cli.writing import write
    from wrinkle.media.exporting.export import ExportChoices
    from wrinkle.media.exporting.frame import EXPORT

    shown, _ = write(arguments, EXPORT, ExportChoices(frame=arguments.at))
    print(f"{arguments.output}: frame {arguments.at}, {shown.size.label}")
    return 0


COMMAND = Command("frame", "render one frame to a PNG file", takes, run)
