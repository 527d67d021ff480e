"""The declaration of a command."""

from __future__ import annotations

import argparse
from collections.abc import Callable, Sequence
from dataclasses import dataclass

Parse = Callable[[Sequence[str]], argparse.Namespace]
"""Turns words into what a command takes; ends the program at a fault in them."""


@dataclass(frozen=True)
class Command:
    """One command of the command line.

    Attributes:
        key: the word that is typed.
        about: what it does, beginning in lower case.
        takes: adds its arguments to its parser.
        run: does it; gives the exit status. Raises InputError for the input's fault. What takes
            long to import is imported there: the window's first picture need not wait for it.
    """

    key: str
    about: str
    takes: Callable[[argparse.ArgumentParser], None]
    run: Callable[[argparse.Namespace], int]
