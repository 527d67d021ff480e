"""Opens the window."""

from __future__ import annotations

import argparse
from pathlib import Path

from wrinkle.cli.command import Command


def takes(parser: argparse.ArgumentParser) -> None:
    """A wrinkle or a timeline, and two clips, none of which is needed."""
    parser.add_argument("file", nargs="?", type=Path, help="a .wrinkle file, or a timeline (.otio)")
    parser.add_argument("--outgoing", type=Path, metavar="CLIP", help="the clip before the cut")
    parser.add_argument("--incoming", type=Path, metavar="CLIP", help="the clip after the cut")


def run(arguments: argparse.Namespace) -> int:
    """Runs until the window is closed."""
    from wrinkle.ui.start import start

    clips = {"outgoing": arguments.outgoing, "incoming": arguments.incoming}
    return start(arguments.file, {key: path for key, path in clips.items() if path is not None})


COMMAND = Command(
    "open", "open the window, with a wrinkle or a timeline if one is given", takes, run
)
