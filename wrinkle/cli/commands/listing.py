"""Lists the wrinkles there are."""

from __future__ import annotations

import argparse
import sys

from wrinkle import library
from wrinkle.cli.command import Command
from wrinkle.core.errors import InputError
from wrinkle.core.reuse.use import directions_of
from wrinkle.files.archive import read


def takes(parser: argparse.ArgumentParser) -> None:
    """Nothing."""


def run(arguments: argparse.Namespace) -> int:
    """Prints the names that ``render`` takes, one a line, with what each is and can do."""
    for kind, found in (("shipped", library.shipped()), ("own", library.own())):
        for name, path in found.items():
            try:
                wrinkle = read(path).wrinkle
            except InputError as fault:
                # The others are listed all the same.
                print(fault, file=sys.stderr)
                continue
            length = f"{len(wrinkle.frames)} frames at {wrinkle.frame_rate.label}"
            facts = {
                "kinds": wrinkle.tags,
                "directions": [x.value for x in directions_of(wrinkle)],
                "dials": [dial.name for dial in wrinkle.dials],
            }
            told = [f"{key}: {', '.join(words)}" for key, words in facts.items() if words]
            print("\t".join((name, wrinkle.name, length, kind, *told)))
    return 0


COMMAND = Command("list", "list the shipped wrinkles and your own, one a line", takes, run)
