"""What is said to the person in one line."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal


class Messages(QObject):
    """Where anything in the window says what happened.

    Signals:
        told: something was done.
        faulted: something was not possible; one sentence.
    """

    told = pyqtSignal(str)
    faulted = pyqtSignal(str)
