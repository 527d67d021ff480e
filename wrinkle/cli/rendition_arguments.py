"""The arguments that say as what a video is written."""

from __future__ import annotations

import argparse
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from wrinkle.media.output.rendition import Rendition

_USUAL = 75.0


def take_rendition(parser: argparse.ArgumentParser) -> None:
    """Format, depth, transparency, and how large it may be."""
    parser.add_argument(
        "--format",
        default="",
        metavar="NAME",
        help="as what it is written; without it what the ending says ('formats' lists them)",
    )
    parser.add_argument("--depth", type=int, metavar="BITS", help="bits of a colour")
    parser.add_argument("--alpha", action="store_true", help="what is clear stays so")
    parser.add_argument(
        "--what",
        choices=("all", "overlay", "matte"),
        default="all",
        help="all of it, what it adds to the plain cut (with transparency), or where the incoming "
        "clip shows",
    )
    large = parser.add_mutually_exclusive_group()
    large.add_argument(
        "--quality",
        type=float,
        default=_USUAL,
        metavar="Q",
        help=f"0 to 100; it means about the same in every format ({_USUAL:g})",
    )
    large.add_argument("--bitrate", type=int, metavar="KBITS", help="kbit a second of pictures")
    large.add_argument("--megabytes", type=float, metavar="MB", help="how large it may be at most")


def rendition_of(arguments: argparse.Namespace) -> Rendition:
    """As what a video is written.

    Raises:
        InputError: there is no such format, or it cannot be so.
    """
    from wrinkle.media.output.formats import format_for
    from wrinkle.media.output.rendition import Rendition

    given = vars(arguments)
    form = format_for(arguments.output, given.get("format", ""))
    bits = given.get("bitrate")
    return Rendition(
        form,
        given.get("depth"),
        given.get("alpha", False) or given.get("what") == "overlay",
        given.get("quality", _USUAL),
        bits * 1000 if bits is not None else None,
        given.get("megabytes"),
    )
