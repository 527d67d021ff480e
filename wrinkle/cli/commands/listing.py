"""Lists the wrinkles there are."""

from __future__ import annotations

import argparse
import sys

from wrinkle import library
from wrinkle.cli.command import Command
from wrinkle.core.design.archive import read
from wrinkle.core.errors import InputError


def takes(parser: argparse.ArgumentParser) -> None:
    """Nothing."""


def run(arguments: argparse.Namespace) -> int:
    """Prints the names that ``render`` takes, one a line, with what each is."""
    for kind, found in (("shipped", library.shipped()), ("own", library.own())):
        for name, path in found.items():
            try:
                wrinkle = read(path).wrinkle
            except InputError as fault:
                # The others are listed all the same.
                print(fault, file=sys.stderr)
                continue
            count = len(wrinkle.frames)
            print(f"{name}\t{wrinkle.name}\t{count} frames at {wrinkle.frame_rate.label}\t{kind}")
    return 0


COMMAND = Command("list", "list the shipped wrinkles and your own, one a line", takes, run)
