"""All commands by key, and the parser that they make up. A new one is one more module here."""

from __future__ import annotations

import argparse

from wrinkle import __version__
from wrinkle.cli.command import Command
from wrinkle.cli.commands import (
    batch,
    cuts,
    demo,
    dress,
    examine,
    formats,
    frame,
    inspect,
    listing,
    measure,
    opening,
    piece,
    render,
    sheet,
    sound,
)
from wrinkle.core.registering import Registry

_MODULES = (
    opening, demo, listing, render, frame, sheet, inspect, piece, dress, cuts, sound, formats,
    examine, measure, batch,
)  # fmt: skip
COMMANDS: Registry[Command] = Registry("command", (module.COMMAND for module in _MODULES))


def build_parser() -> argparse.ArgumentParser:
    """The parser of the whole command line; each command answers ``--help``."""
    parser = argparse.ArgumentParser(
        prog="wrinkle",
        description="Design reusable transitions between clips and use them on every cut.",
    )
    parser.add_argument("--version", action="version", version=f"Wrinkle {__version__}")
    parsers = parser.add_subparsers(dest="command", metavar="COMMAND")
    for command in COMMANDS.values():
        about = command.about
        described = about[0].upper() + about[1:]
        command.takes(parsers.add_parser(command.key, help=about, description=described))
    return parser
