"""What is heard on the Bench: the wrinkle as it is tried, with its clips, or one of its sounds."""

from __future__ import annotations

from contextlib import suppress
from functools import partial

from msgspec.structs import replace as replaced
from PyQt6.QtCore import QObject

from wrinkle.core.design.document.driven import standing
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.reuse.hearing import hearing
from wrinkle.core.reuse.use import Use, possible
from wrinkle.core.sound.heard import Mix
from wrinkle.core.sound.hears import Hears
from wrinkle.core.synthesis.samples import sample_at
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.pictures.heard_ahead import HeardAhead
from wrinkle.ui.pictures.sound_player import SoundPlayer


class BenchSound:
    """Plays what is designed, and works it out before anybody presses.

    Args:
        desk: whose wrinkle is heard.
        parent: who owns what plays.

    Attributes:
        player: plays it.
    """

    def __init__(self, desk: Desk, parent: QObject) -> None:
        self._desk = desk
        self.player = SoundPlayer(desk.output(), desk.sound, parent)
        self._ahead = HeardAhead(self.player, desk.workers.jobs, parent)

    def expect(self, wrinkle: Wrinkle, frames: range) -> None:
        """Something else is to be heard from now on.

        Args:
            wrinkle: that is shown.
            frames: in which it plays.
        """
        looking = self._desk.looking
        self.player.set_heard(partial(self._heard, wrinkle, frames, looking.alone, looking.muted))
        ends = (sample_at(wrinkle.frame_rate, x) for x in (frames.start, frames.stop))
        self._ahead.expect((range(*ends),))

    def heard_of(self, sound_id: str) -> Mix | None:
        """What is heard in the window: all of it, or one sound alone; None where nothing is.

        Args:
            sound_id: of the sound; empty for all.
        """
        wrinkle = self._desk.document.state
        return self._heard(wrinkle, wrinkle.frames, sound_id, self._desk.looking.muted)

    def close(self) -> None:
        """Nothing plays any more."""
        self._ahead.close()
        self.player.close()

    def _heard(
        self, wrinkle: Wrinkle, frames: range, sound_id: str, muted: frozenset[str]
    ) -> Mix | None:
        desk = self._desk
        choices = possible(wrinkle, desk.trial.choices)
        use = Use(_listened(wrinkle, sound_id, muted), desk.tried.fillings(), choices)
        hears = Hears.WRINKLE if sound_id else Hears.BOTH
        # What is wrong with a use is said where its pictures are.
        with suppress(InputError):
            carried = desk.document.read.heard
            found = hearing(use, wrinkle.frame_rate, frames, hears, carried)
            return found if found.parts else None
        return None


def _listened(wrinkle: Wrinkle, sound_id: str, muted: frozenset[str]) -> Wrinkle:
    """A wrinkle with one of its sounds; with all that are not muted where none is named."""
    found = tuple(x for x in wrinkle.sounds if x.id == sound_id)
    found = found or tuple(x for x in wrinkle.sounds if x.id not in muted)
    if len(found) == len(wrinkle.sounds):
        return wrinkle
    dials = standing(wrinkle.dials, (*wrinkle.layers, *found))
    return replaced(wrinkle, sounds=found, dials=dials)
