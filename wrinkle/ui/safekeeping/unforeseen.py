"""Errors that nobody foresaw, from whatever thread: written down, told once, and work goes on."""

from __future__ import annotations

import logging
import sys
import threading
from types import TracebackType

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.library.made_of import made_of

_log = logging.getLogger("wrinkle.unforeseen")
_SENTENCE = "Something went wrong inside Wrinkle ({kind}); your work is kept, and goes on."


class Unforeseen(QObject):
    """Catches what nothing else catches, and watches what is logged as an error.

    Signals:
        told: one sentence on an error that nothing else tells of.
        details: all that is known of an error, to be copied.
    """

    told = pyqtSignal(str)
    details = pyqtSignal(str)

    def begin(self) -> None:
        """From now on nothing ends the program, or a thread, without a word."""
        self._handler = _Watch(self)
        logging.getLogger("wrinkle").addHandler(self._handler)
        sys.excepthook = self._catch
        threading.excepthook = lambda caught: self._catch(
            caught.exc_type, caught.exc_value, caught.exc_traceback
        )

    def end(self) -> None:
        """Errors end the program again."""
        sys.excepthook, threading.excepthook = sys.__excepthook__, threading.__excepthook__
        logging.getLogger("wrinkle").removeHandler(self._handler)

    def _catch(
        self,
        kind: type[BaseException],
        fault: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        if issubclass(kind, KeyboardInterrupt):
            sys.__excepthook__(kind, fault or kind(), trace)
            return
        _log.error("an error that nobody foresaw", exc_info=(kind, fault or kind(), trace))
        self.told.emit(_SENTENCE.format(kind=kind.__name__))


class _Watch(logging.Handler):
    def __init__(self, owner: Unforeseen) -> None:
        super().__init__(logging.ERROR)
        self._owner = owner

    def emit(self, record: logging.LogRecord) -> None:
        self._owner.details.emit("\n".join((self.format(record), *made_of())))
