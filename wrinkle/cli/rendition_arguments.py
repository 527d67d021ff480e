"""The arguments that say as what a video is written."""

from __future__ import annotations

import argparse
from typing import TYPE_CHECKING

from wrinkle.core.errors import InputError

if TYPE_CHECKING:
    from wrinkle.media.exporting.parts import What
    from wrinkle.media.output.format import Format
    from wrinkle.media.output.rendition import Rendition

_USUAL = 75.0
_AS = {"frames": "FRAMES", "sound": "SOUND"}
"""What of it decides what becomes of it: words of the command line, and kinds of formats."""


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
        choices=("all", "overlay", "matte", *_AS),
        default="all",
        help="all of it, what it adds to the plain cut (with transparency), where the incoming "
        "clip shows, its frames as pictures in a folder, or what is heard alone",
    )
    parser.add_argument(
        "--colour",
        choices=("bt709", "srgb", "bt601", "p3"),
        default="bt709",
        help="what the values of a video stand for, and how it is tagged",
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


def part_of(arguments: argparse.Namespace) -> What:
    """Which of the pictures are written."""
    from wrinkle.media.exporting.parts import What

    said = vars(arguments).get("what", "all")
    return What.ALL if said in _AS else What(said)


def form_of(arguments: argparse.Namespace) -> Format:
    """The format in which it is written.

    Raises:
        InputError: there is no such one, or it does not go with what is written.
    """
    from wrinkle.media.output.formats import format_for

    given = vars(arguments)
    said = given.get("what", "all")
    form = format_for(arguments.output, given.get("format", "") or _usual_of(said, arguments))
    wanted = _AS.get(said)
    if wanted is not None and form.into.name != wanted:
        raise InputError(f"--what {said} and {form.label} do not go together; leave one out.")
    return form


def _usual_of(said: str, arguments: argparse.Namespace) -> str:
    """The format where none is named and the ending does not say it."""
    if vars(arguments).get("flatten"):
        return "h264"
    if said == "frames":
        return "png"
    return "wav" if said == "sound" and not arguments.output.suffix else ""


def rendition_of(arguments: argparse.Namespace) -> Rendition:
    """As what a video is written.

    Raises:
        InputError: there is no such format, or it cannot be so.
    """
    from wrinkle.media.output.colour import COLOURS
    from wrinkle.media.output.rendition import Rendition

    given = vars(arguments)
    bits = given.get("bitrate")
    return Rendition(
        form_of(arguments),
        given.get("depth"),
        given.get("alpha", False) or given.get("what") == "overlay",
        given.get("quality", _USUAL),
        bits * 1000 if bits is not None else None,
        given.get("megabytes"),
        COLOURS[given.get("colour", "bt709")],
    )
