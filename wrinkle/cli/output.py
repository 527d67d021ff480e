"""What all commands that write a file take, say and refuse in the same words."""

from __future__ import annotations

import argparse
import math
import sys
from pathlib import Path

from wrinkle.core.sound.hears import Hears
from wrinkle.core.sound.levelling import LOUDEST, QUIETEST


def take_output(
    parser: argparse.ArgumentParser, endings: str, option: str = "--output", required: bool = True
) -> None:
    """The file that is written, and whether what is there may be replaced.

    Args:
        parser: of the command.
        endings: what is shown for the file, such as ``F.mp4``.
        option: what it is called.
        required: whether there is no way without it.
    """
    parser.add_argument(option, type=Path, required=required, metavar=endings)
    parser.add_argument(
        "--overwrite", action="store_true", help="replace what is there under that name"
    )


def take_sound(parser: argparse.ArgumentParser) -> None:
    """What is heard in a video."""
    parser.add_argument(
        "--sound",
        choices=[one.value for one in Hears],
        default=Hears.BOTH.value,
        help="what is heard: the sound of the clips, that of wrinkles, both, or nothing",
    )


def take_level(parser: argparse.ArgumentParser) -> None:
    """How loud it is made."""
    parser.add_argument(
        "--loudness",
        type=_loudness,
        metavar="LUFS",
        help="how loud it is made on the whole; no true peak is above -1 dBTP",
    )


def _loudness(word: str) -> float:
    try:
        found = float(word)
    except ValueError:
        found = math.nan
    if not QUIETEST <= found <= LOUDEST:
        raise argparse.ArgumentTypeError(
            f"'{word}' is no loudness; write LUFS within {QUIETEST:g} and {LOUDEST:g}, such as -14"
        )
    return found


def tell(done: int, total: int, left: float) -> None:
    """Says how far it is, where somebody looks on."""
    if sys.stderr.isatty():
        print(f"\r{done} of {total} frames, {left:.0f} s left ", end="", file=sys.stderr)
