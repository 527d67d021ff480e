"""Faults in what a person gave us. The message is one sentence that can be shown as it is."""

from __future__ import annotations

import unicodedata
from collections.abc import Callable, Iterator
from contextlib import contextmanager

_LONGEST = 600
"""Characters of a message; names in it can be of any length."""


def one_line(text: str) -> str:
    """Text from outside in one line, without terminal codes; of long text the middle is cut out."""
    shown = "".join(" " if unicodedata.category(x) in ("Cc", "Cf", "Cs") else x for x in text)
    if len(shown) > _LONGEST:
        half = _LONGEST // 2
        shown = f"{shown[:half]} … {shown[-half:]}"
    return " ".join(shown.split())


class InputError(ValueError):
    """A file or a value cannot be used; the message names it and the way out."""

    def __str__(self) -> str:
        return one_line(super().__str__())


class DocumentError(InputError):
    """A wrinkle file cannot be used."""


class MediaError(InputError):
    """A clip or a picture cannot be used."""


@contextmanager
def told_as(fault: Callable[[], InputError], anew: bool = False) -> Iterator[None]:
    """The door through which a stranger's file is read: whatever it brings about is a sentence.

    Args:
        fault: makes it; what is a sentence already stays as it is.
        anew: such a sentence is told in this way too.

    Raises:
        InputError: something could not be read.
    """
    try:
        yield
    except Cancelled:
        raise
    except Exception as found:
        if isinstance(found, InputError) and not anew:
            raise
        raise fault() from None


class Cancelled(Exception):  # noqa: N818 - not a fault: somebody asked to stop
    """Long work was stopped on request; nothing was left behind."""
