"""What went wrong, in a file that never grows large."""

from __future__ import annotations

import logging
from contextlib import suppress
from logging.handlers import RotatingFileHandler
from pathlib import Path

from wrinkle.library.made_of import made_of
from wrinkle.library.own_files import own_state

_LARGEST, _KEPT = 256 << 10, 2
_FORM = "%(asctime)s %(levelname)s %(name)s: %(message)s"


def log_file() -> Path:
    """Where it is."""
    return own_state() / "wrinkle.log"


def begin_log() -> None:
    """From now on warnings and errors are written down; where that is not possible, on the screen.

    Several running programs write to the same file, each line whole.
    """
    logger = logging.getLogger("wrinkle")
    logger.setLevel(logging.WARNING)
    with suppress(OSError):
        log_file().parent.mkdir(parents=True, exist_ok=True)
        handler = _Saying(
            log_file(), maxBytes=_LARGEST, backupCount=_KEPT, encoding="utf-8", delay=True
        )
        handler.setFormatter(logging.Formatter(_FORM))
        logger.addHandler(handler)


class _Saying(RotatingFileHandler):
    """Says what runs before the first thing that goes wrong; most often nothing does."""

    _said = False

    def emit(self, record: logging.LogRecord) -> None:
        if not self._said:
            self._said = True
            began = "began: " + ", ".join(made_of())
            super().emit(logging.LogRecord(record.name, logging.INFO, "", 0, began, (), None))
        super().emit(record)
