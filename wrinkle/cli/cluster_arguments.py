"""The arguments that name other machines, or processes, that draw."""

from __future__ import annotations

import argparse

from wrinkle.files.addresses import MOST_PORT, parse_address

_MOST = 256


def take_elsewhere(parser: argparse.ArgumentParser) -> None:
    """Who draws the frames."""
    where = parser.add_mutually_exclusive_group()
    where.add_argument(
        "--on",
        type=parse_address,
        metavar="HOST:PORT",
        help="let the machines of a cluster draw the frames ('workers' starts one)",
    )
    where.add_argument(
        "--processes",
        type=count,
        metavar="N",
        help="draw the frames in so many processes of this machine, instead of threads",
    )


def port(word: str) -> int:
    """A port, as typed; 0 for any that is free.

    Raises:
        argparse.ArgumentTypeError: it is none.
    """
    if not word.isdecimal() or int(word) > MOST_PORT:
        raise argparse.ArgumentTypeError(f"'{word}' is no port; use 0 to {MOST_PORT}")
    return int(word)


def count(word: str) -> int:
    """A number of processes, as typed.

    Raises:
        argparse.ArgumentTypeError: it is none that is possible.
    """
    if not word.isdecimal() or not 1 <= int(word) <= _MOST:
        raise argparse.ArgumentTypeError(f"'{word}' is no number of processes; use 1 to {_MOST}")
    return int(word)
