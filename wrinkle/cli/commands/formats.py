"""Lists what pictures and sound can be written as."""

from __future__ import annotations

import argparse

from wrinkle.cli.command import Command


def takes(parser: argparse.ArgumentParser) -> None:
    """Nothing."""


def run(arguments: argparse.Namespace) -> int:
    """A format a line, tabs between: name, ending, depths, alpha, sound, what it is for."""
    from wrinkle.media.output.formats import FORMATS

    for form in FORMATS.values():
        depths = ",".join(str(bits) for bits in form.depths)
        clear = ",".join(str(bits) for bits in form.clear)
        print(
            form.key, form.suffix, f"{depths} bit", f"alpha {clear} bit" if clear else "no alpha",
            form.sound or "silent", f"{form.label}: {form.about}", sep="\t",
        )  # fmt: skip
    return 0


COMMAND = Command("formats", "list what can be written, a format a line", takes, run)
