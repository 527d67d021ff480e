"""Lists the wrinkles there are."""

from __future__ import annotations

import argparse

from wrinkle import library
from wrinkle.cli.command import Command
from wrinkle.core.design.archive import read


def takes(parser: argparse.ArgumentParser) -> None:
    """Nothing."""


def run(arguments: argparse.Namespace) -> int:
    """Prints the names that ``render`` takes, one a line, with what each is."""
    for kind, found in (("shipped", library.shipped()), ("own", library.own())):
        for name, path in found.items():
            wrinkle = read(path).wrinkle
            count = len(wrinkle.frames)
            print(f"{name}\t{wrinkle.name}\t{count} frames at {wrinkle.frame_rate.label}\t{kind}")
    return 0


COMMAND = Command("list", "list the shipped wrinkles and your own, one a line", takes, run)
