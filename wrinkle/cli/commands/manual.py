"""Writes the manual as HTML pages, to be read in any browser."""

from __future__ import annotations

import argparse
from pathlib import Path

from wrinkle.cli.command import Command
from wrinkle.core.errors import InputError


def takes(parser: argparse.ArgumentParser) -> None:
    """Where to, and whether what is there may be replaced."""
    parser.add_argument("--output", required=True, type=Path, metavar="FOLDER",
                        help="a folder that does not exist yet, or is empty")  # fmt: skip
    parser.add_argument("--overwrite", action="store_true", help="replace pages that are there")


def run(arguments: argparse.Namespace) -> int:
    """Writes a page for each of the manual, with an index and the pictures."""
    from wrinkle.files.presence import is_folder, is_there, within
    from wrinkle.library.manual_html import manual_html

    folder: Path = arguments.output
    if is_there(folder) and not is_folder(folder):
        raise InputError(f"{folder} is a file; give a folder for the manual.")
    if is_folder(folder) and within(folder) and not arguments.overwrite:
        raise InputError(f"{folder} is not empty; add --overwrite, or give another folder.")
    manual_html(folder)
    print(folder / "index.html")
    return 0


COMMAND = Command("manual", "write the manual as HTML pages", takes, run)
