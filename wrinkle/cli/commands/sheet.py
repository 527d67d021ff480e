"""Puts the frames of a wrinkle on a contact sheet."""

from __future__ import annotations

import argparse

from wrinkle.cli.command import Command
from wrinkle.cli.output import take_output
from wrinkle.cli.wrinkle_arguments import take_wrinkle


def takes(parser: argparse.ArgumentParser) -> None:
    """A wrinkle on its clips, and the file."""
    take_wrinkle(parser)
    take_output(parser, "F.png")


def run(arguments: argparse.Namespace) -> int:
    """Writes the contact sheet."""
    from wrinkle.cli.writing import write
    from wrinkle.media.exporting.export import ExportChoices
    from wrinkle.media.exporting.sheet import EXPORT

    _, count = write(arguments, EXPORT, ExportChoices())
    print(f"{arguments.output}: {count} frames")
    return 0


COMMAND = Command("sheet", "put every frame of the window on one contact sheet (PNG)", takes, run)
