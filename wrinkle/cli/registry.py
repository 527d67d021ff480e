"""All commands by key, and the parser that they make up. A new one is one more module here."""

from __future__ import annotations

import argparse
from collections.abc import Sequence

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
    manual,
    measure,
    opening,
    piece,
    render,
    sheet,
    sound,
    thumbnail,
    workers,
)
from wrinkle.cli.running import outcome
from wrinkle.core.registering import Registry

_MODULES = (
    opening, demo, listing, render, frame, sheet, inspect, piece, dress, cuts, sound, formats,
    examine, measure, workers, manual, thumbnail,
)  # fmt: skip


def parse(words: Sequence[str]) -> argparse.Namespace:
    """What a command takes, from its words; ends the program at a fault in them."""
    return build_parser().parse_args(words)


def does(arguments: argparse.Namespace) -> int:
    """Does a command and tells its fault; gives its exit status."""
    return outcome(COMMANDS[arguments.command], arguments)


COMMANDS: Registry[Command] = Registry(
    "command", (*(module.COMMAND for module in _MODULES), batch.command(parse, does))
)


class _Version(argparse.Action):
    """Says what runs here, a line each; it is asked for only where that is wanted."""

    def __call__(self, parser: argparse.ArgumentParser, *given: object) -> None:
        # Reading the versions takes time that no other command should wait for.
        from wrinkle.library.made_of import made_of

        parser.exit(message="\n".join(made_of()) + "\n")


def build_parser() -> argparse.ArgumentParser:
    """The parser of the whole command line; each command answers ``--help``."""
    parser = argparse.ArgumentParser(
        prog="wrinkle",
        description="Design reusable transitions between clips and use them on every cut.",
    )
    parser.add_argument(
        "--version", action=_Version, nargs=0, help="show the versions of the program and its parts"
    )
    parsers = parser.add_subparsers(dest="command", metavar="COMMAND")
    for command in COMMANDS.values():
        about = command.about
        described = about[0].upper() + about[1:]
        command.takes(parsers.add_parser(command.key, help=about, description=described))
    return parser
