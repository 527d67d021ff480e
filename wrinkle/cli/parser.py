"""What can be typed."""

from __future__ import annotations

import argparse
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from typing import TypeVar

from wrinkle import __version__
from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Size
from wrinkle.core.time.rate import FrameRate

Read = TypeVar("Read")


def build_parser() -> argparse.ArgumentParser:
    """The parser of the whole command line; each command answers ``--help``."""
    parser = argparse.ArgumentParser(
        prog="wrinkle",
        description="Design reusable transitions between clips and use them on every cut.",
    )
    parser.add_argument("--version", action="version", version=f"Wrinkle {__version__}")
    commands = parser.add_subparsers(dest="command", metavar="COMMAND")

    def command(name: str, about: str) -> argparse.ArgumentParser:
        return commands.add_parser(name, help=about, description=about[0].upper() + about[1:])

    opened = command("open", "open the window, with a wrinkle if one is given")
    opened.add_argument("wrinkle", nargs="?", type=Path, help="a .wrinkle file")
    opened.add_argument("--outgoing", type=Path, metavar="CLIP", help="the clip before the cut")
    opened.add_argument("--incoming", type=Path, metavar="CLIP", help="the clip after the cut")
    command("demo", "open the window with the demo piece, drawing its clips the first time")
    command("list", "list the shipped wrinkles and your own, one a line")

    render = command("render", "render a wrinkle over two clips to an MP4 file")
    _clips(render)
    _size_and_rate(render)
    render.add_argument(
        "--seconds-around",
        type=_seconds,
        default=Fraction(0),
        metavar="S",
        help="how much of the plain clips is put before and after the window",
    )
    render.add_argument("--output", type=Path, required=True, metavar="F.mp4")

    frame = command("frame", "render one frame to a PNG file")
    _clips(frame)
    _size_and_rate(frame)
    frame.add_argument(
        "--at", type=int, required=True, metavar="N", help="the frame from the cut, such as -3"
    )
    frame.add_argument("--output", type=Path, required=True, metavar="F.png")

    sheet = command("sheet", "put every frame of the window on one contact sheet (PNG)")
    _clips(sheet)
    _size_and_rate(sheet)
    sheet.add_argument("--output", type=Path, required=True, metavar="F.png")

    inspect = command("inspect", "tell what a wrinkle, a clip or a picture is")
    inspect.add_argument("file", type=Path)
    inspect.add_argument("--json", action="store_true", help="as JSON")
    return parser


def _clips(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("wrinkle", help="a path, or the name of a shipped or own wrinkle")
    for slot, side in (("outgoing", "before"), ("incoming", "after")):
        parser.add_argument(
            f"--{slot}", type=Path, required=True, metavar="CLIP", help=f"the clip {side} the cut"
        )
        parser.add_argument(
            f"--cut-{slot}",
            type=_seconds,
            metavar="S",
            help=f"the second of the {slot} clip that falls on the cut",
        )
    parser.add_argument(
        "--clip",
        type=_slot_clip,
        action="append",
        default=[],
        metavar="SLOT=CLIP",
        help="the clip of a further slot; may be given several times",
    )


def _size_and_rate(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--size", type=_size, metavar="WxH", help="by default that of the outgoing clip"
    )
    parser.add_argument(
        "--rate", type=_rate, metavar="R", help="frames per second, by default the outgoing clip's"
    )


def _slot_clip(text: str) -> tuple[str, Path]:
    slot, found, path = text.partition("=")
    if not (slot and found and path):
        raise argparse.ArgumentTypeError(f"'{text}' is not SLOT=CLIP, such as third=beach.mp4")
    return slot, Path(path)


def _size(text: str) -> Size:
    return _read(Size.parse, text)


def _rate(text: str) -> FrameRate:
    return _read(FrameRate.parse, text)


def _seconds(text: str) -> Fraction:
    try:
        seconds = Fraction(text)
    except (ValueError, ZeroDivisionError):
        seconds = Fraction(-1)
    if not 0 <= seconds <= 86400:
        raise argparse.ArgumentTypeError(f"'{text}' is not a number of seconds from 0 on")
    return seconds


def _read(reader: Callable[[str], Read], text: str) -> Read:
    try:
        return reader(text)
    except InputError as fault:
        raise argparse.ArgumentTypeError(str(fault)) from None
