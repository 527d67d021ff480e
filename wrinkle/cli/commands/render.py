"""Renders a wrinkle to a video."""

from __future__ import annotations

import argparse
import sys
from fractions import Fraction

from wrinkle.cli.command import Command
from wrinkle.cli.output import take_level, take_output, take_sound
from wrinkle.cli.rendition_arguments import part_of, rendition_of, take_rendition
from wrinkle.cli.wrinkle_arguments import seconds, take_wrinkle


def takes(parser: argparse.ArgumentParser) -> None:
    """A wrinkle on its clips, how much of these around it, and the file."""
    take_wrinkle(parser)
    parser.add_argument(
        "--seconds-around",
        type=seconds,
        default=Fraction(0),
        metavar="S",
        help="how much of the plain clips is put before and after the window",
    )
    take_sound(parser)
    take_level(parser)
    take_rendition(parser)
    take_output(parser, "F.mp4|F.webm|F.mov|F.mkv|F.webp|F.gif|FOLDER")


def run(arguments: argparse.Namespace) -> int:
    """Writes the window, and the plain clips around it, as a video."""
    from wrinkle.cli.writing import write
    from wrinkle.core.sound.hears import Hears
    from wrinkle.media.exporting.export import ExportChoices
    from wrinkle.media.exporting.parts import held_clips
    from wrinkle.media.exporting.video import EXPORT

    what = ExportChoices(
        around=arguments.seconds_around,
        loudness=arguments.loudness,
        rendition=rendition_of(arguments),
        what=part_of(arguments),
    )
    shown, count = write(arguments, EXPORT, what, Hears(arguments.sound))
    rate = shown.wrinkle.frame_rate.label
    held = held_clips(shown.wrinkle) if arguments.what == "overlay" else ()
    if held:
        print(
            f"It holds the pictures of these clips where they are moved or changed: "
            f"{', '.join(held)}. Over other clips, render the wrinkle on them.",
            file=sys.stderr,
        )
    print(f"{arguments.output}: {count} frames, {shown.size.label}, {rate}")
    return 0


COMMAND = Command("render", "render a wrinkle over two clips", takes, run)
