"""What is tried of the wrinkle on the Bench, as whoever reuses it would: nothing of it is saved."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.reuse.use import AS_MADE, Choices, plainest, possible
from wrinkle.ui.desk.wrinkle_document import WrinkleDocument


class Trial(QObject):
    """The choices that the pictures of the Bench show.

    Signals:
        changed: other choices.
    """

    changed = pyqtSignal()

    def __init__(self, document: WrinkleDocument) -> None:
        super().__init__()
        self._document = document
        self._choices = AS_MADE
        document.changed.connect(self._keep_valid)
        document.opened.connect(self._forget)

    @property
    def choices(self) -> Choices:
        """What is tried."""
        return self._choices

    def set_choices(self, choices: Choices) -> None:
        """Shows the wrinkle with other choices; with the values of old it is as made again."""
        choices = plainest(self._document.state, choices)
        if choices != self._choices:
            self._choices = choices
            self.changed.emit()

    def _keep_valid(self) -> None:
        """Dials that went, or cannot have their value any more, are at their default."""
        if self._choices != AS_MADE:
            self.set_choices(possible(self._document.state, self._choices))

    def _forget(self) -> None:
        self._choices = AS_MADE
