"""Writes the manual page and the completions of the shells from the command line itself.

.venv/bin/python -m guides.shell
"""

from __future__ import annotations

import re

import shtab
from argparse_manpage.manpage import Manpage

from wrinkle import __version__
from wrinkle.cli.registry import build_parser
from wrinkle.files.whole import write_whole
from wrinkle.library import FOLDER

SHELL = FOLDER / "shell"
_DAY = re.compile(r'^(\.TH \S+ "?1"?) "[^"]*"', re.MULTILINE)


def manual_page() -> str:
    """``man wrinkle``, in roff; without a day, so that it is the same tomorrow."""
    parser = build_parser()
    page = Manpage(parser)
    page.manual_section = 1
    data = {
        "project_name": "wrinkle",
        "version": __version__,
        "long_description": (
            "Wrinkle designs reusable transitions between clips (wrinkles) and uses them on every "
            "cut. Without a word it opens the window. The manual is in the window (F1); "
            "'wrinkle manual --output FOLDER' writes it as HTML pages."
        ),
    }
    for key, value in data.items():
        setattr(page, key, value)
    text = _DAY.sub(r'\1 ""', str(page)).replace("Generated Python Manual", "Wrinkle")
    return text.replace(
        ".SH NAME\nwrinkle", ".SH NAME\nwrinkle \\- design transitions between clips"
    )


def completion(shell: str) -> str:
    """The completion of a shell: ``bash`` or ``zsh``."""
    return str(shtab.complete(build_parser(), shell))


def files() -> dict[str, str]:
    """All of them, by their names."""
    return {
        "wrinkle.1": manual_page(),
        "wrinkle.bash": completion("bash"),
        "wrinkle.zsh": completion("zsh"),
    }


def main() -> None:
    """Writes them."""
    SHELL.mkdir(exist_ok=True)
    for name, text in files().items():
        write_whole(SHELL / name, text.encode())


if __name__ == "__main__":
    main()
