"""Opens the window with the demo piece."""

from __future__ import annotations

import argparse

from wrinkle.cli.command import Command


def takes(parser: argparse.ArgumentParser) -> None:
    """Nothing."""


def run(arguments: argparse.Namespace) -> int:
    """Runs until the window is closed."""
    from wrinkle.ui.start import start_demo

    return start_demo()


COMMAND = Command("demo", "open the window with the demo piece", takes, run)
