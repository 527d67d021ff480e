"""Libraries that decode pictures write what they think of a damaged one to standard error.

They do so past Python, in words that name no file; what there is to say we say ourselves.
"""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock

_STANDARD_ERROR = 2
_one_at_a_time = Lock()


@contextmanager
def unheard() -> Iterator[None]:
    """What is written to standard error meanwhile goes nowhere, whoever writes it."""
    with _one_at_a_time:
        try:
            kept = os.dup(_STANDARD_ERROR)
        except OSError:
            # There is no standard error.
            yield
            return
        nowhere = os.open(os.devnull, os.O_WRONLY | os.O_CLOEXEC)
        try:
            os.dup2(nowhere, _STANDARD_ERROR)
            yield
        finally:
            os.dup2(kept, _STANDARD_ERROR)
            os.close(kept)
            os.close(nowhere)
