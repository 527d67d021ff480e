"""What will be heard is worked out before anybody presses: sound begins at once then."""

from __future__ import annotations

from collections.abc import Iterable
from contextlib import suppress

from PyQt6.QtCore import QObject, QTimer

from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Job, Jobs, Urgency, WorkLine
from wrinkle.core.sound.heard import Mix
from wrinkle.ui.pictures.sound_player import SoundPlayer

_REST_MS = 150
"""After the last edit: a drag makes many, and nobody listens to those between."""


class HeardAhead(QObject):
    """Reads through what a player would play, in the background.

    Sounds that follow the picture are the reason: how it moves is seen in pictures that have to be
    drawn first, once for each wrinkle.

    Args:
        sound: the player.
        jobs: who reads.
    """

    def __init__(self, sound: SoundPlayer, jobs: Jobs, parent: QObject) -> None:
        super().__init__(parent)
        self._sound = sound
        self._spans: tuple[range, ...] = ()
        # What is wrong with a sound is said when it is to be heard.
        self._line = WorkLine(jobs, Urgency.LOOKED_AT, "Nothing is heard yet", lambda told: None)
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(_REST_MS)
        self._rest.timeout.connect(self._begin)

    def expect(self, spans: Iterable[range]) -> None:
        """What the player would play has changed.

        Args:
            spans: of its samples, that are worked out.
        """
        self._spans = tuple(spans)
        self._line.drop()
        self._rest.start()

    def close(self) -> None:
        """Nothing is read any more."""
        self._rest.stop()
        self._line.close()

    def _begin(self) -> None:
        heard, spans = self._sound.heard, self._spans
        if heard is not None and spans:
            self._line.put(lambda job: _read(heard, spans, job), lambda nothing: None)


def _read(heard: Mix, spans: Iterable[range], job: Job) -> None:
    for span in spans:
        job.check()
        with suppress(InputError):
            heard.samples(span.start, len(span))
