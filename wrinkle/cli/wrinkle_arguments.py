"""What the commands that show a wrinkle take: which one, on which clips, in which size and rate."""

from __future__ import annotations

import argparse
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from typing import TYPE_CHECKING, TypeVar

from wrinkle.core.errors import InputError
from wrinkle.core.motion.direction import Direction
from wrinkle.core.picture.image import Size
from wrinkle.core.time.rate import FrameRate

if TYPE_CHECKING:
    from wrinkle.core.design.document.dials import DialValue
    from wrinkle.core.design.document.wrinkle import Wrinkle
    from wrinkle.core.reuse.use import Choices

Read = TypeVar("Read")


def take_wrinkle(parser: argparse.ArgumentParser) -> None:
    """The wrinkle, its clips and where they are cut, the size and the rate."""
    parser.add_argument("wrinkle", help="a path, or the name of a shipped or own wrinkle")
    for slot, side in (("outgoing", "before"), ("incoming", "after")):
        parser.add_argument(
            f"--{slot}", type=Path, required=True, metavar="CLIP", help=f"the clip {side} the cut"
        )
        parser.add_argument(
            f"--cut-{slot}",
            metavar="TIME",
            help=f"what of the {slot} clip falls on the cut: seconds, or a timecode of the clip",
        )
    parser.add_argument(
        "--fill",
        type=_pair,
        action="append",
        default=[],
        metavar="SLOT=FILE",
        help="what fills a further slot: a clip, a picture, or words; may be given several times",
    )
    take_choices(parser)
    take_frame(parser, "the outgoing clip")


def take_choices(parser: argparse.ArgumentParser) -> None:
    """What is chosen for a use: dials, direction, strength, softness, lengths."""
    parser.add_argument(
        "--dial",
        type=_pair,
        action="append",
        default=[],
        metavar="NAME=VALUE",
        help="the value of a dial; may be given several times",
    )
    parser.add_argument(
        "--direction",
        metavar="WAY",
        default=Direction.AS_MADE.value,
        help=f"one of {', '.join(x.value for x in Direction)}, or what the wrinkle calls it",
    )
    for what, about in (("strength", "how far it departs from rest"),
                        ("softness", "how soft its edges are")):  # fmt: skip
        parser.add_argument(
            f"--{what}", type=_per_cent, default=100.0, metavar="P", help=f"{about}, 0 to 200 %%"
        )
    for side in ("lead", "tail"):
        parser.add_argument(
            f"--{side}", type=seconds, metavar="S", help=f"the length of its {side} in seconds"
        )


def take_frame(parser: argparse.ArgumentParser, whose: str) -> None:
    """The size and the rate of what is written; by default those of what is named."""
    parser.add_argument("--size", type=_size, metavar="WxH", help=f"by default that of {whose}")
    parser.add_argument(
        "--rate", type=_rate, metavar="R", help=f"frames per second, by default those of {whose}"
    )


def choices_of(arguments: argparse.Namespace, wrinkle: Wrinkle) -> Choices:
    """What the arguments choose for a use of a wrinkle, but for its words.

    Raises:
        InputError: it has no such dial or direction, or it cannot be so.
    """
    from wrinkle.core.design.dials.driving import dial_of
    from wrinkle.core.reuse.use import Choices, direction_of

    dials: dict[str, DialValue] = {}
    for name, value in arguments.dial:
        dial = dial_of(wrinkle, name)
        dials[dial.id] = dial.checked(value)
    return Choices(
        lead=arguments.lead,
        tail=arguments.tail,
        dials=dials,
        direction=direction_of(wrinkle, arguments.direction),
        strength=arguments.strength,
        softness=arguments.softness,
    )


def seconds(text: str) -> Fraction:
    """A number of seconds.

    Raises:
        ArgumentTypeError: it is none, or below 0.
    """
    try:
        found = Fraction(text)
    except (ValueError, ZeroDivisionError):
        found = Fraction(-1)
    if not 0 <= found <= 86400:
        raise argparse.ArgumentTypeError(f"'{text}' is not a number of seconds from 0 on")
    return found


def _pair(text: str) -> tuple[str, str]:
    name, found, value = text.partition("=")
    if not (name and found and value):
        raise argparse.ArgumentTypeError(f"'{text}' is not a name and a value, such as much=50")
    return name, value


def _per_cent(text: str) -> float:
    try:
        return float(text.removesuffix("%"))
    except ValueError:
        raise argparse.ArgumentTypeError(f"'{text}' is no number of per cent") from None


def _size(text: str) -> Size:
    return _read(Size.parse, text)


def _rate(text: str) -> FrameRate:
    return _read(FrameRate.parse, text)


def _read(reader: Callable[[str], Read], text: str) -> Read:
    try:
        return reader(text)
    except InputError as fault:
        raise argparse.ArgumentTypeError(str(fault)) from None
