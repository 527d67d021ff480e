"""The parts of the desk that are handed on: whoever gets one reaches nothing else.

``Desk`` is each of them.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from wrinkle.core.picture.image import Size
from wrinkle.core.render.material import Material
from wrinkle.core.render.showing import Showing
from wrinkle.ui.desk.clip_colours import ClipColours
from wrinkle.ui.desk.clipboard import Clipboard
from wrinkle.ui.desk.examiner import Examiner
from wrinkle.ui.desk.looking import Looking
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.picture_lines import PictureLines
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.desk.sound_output import SoundOutput
from wrinkle.ui.desk.sound_settings import SoundSettings
from wrinkle.ui.desk.trial import Trial
from wrinkle.ui.desk.tried_clips import TriedClips
from wrinkle.ui.desk.workers import Workers
from wrinkle.ui.desk.wrinkle_document import WrinkleDocument
from wrinkle.ui.shared.asking_files import Asking


class Telling(Protocol):
    """For whatever tells of what it does."""

    @property
    def messages(self) -> Messages:
        """What is said."""


class Working(Telling, Protocol):
    """For whatever works in the background, and asks for files."""

    @property
    def workers(self) -> Workers:
        """Who works in the background."""

    @property
    def asking(self) -> Asking:
        """How files are asked for."""


class Designing(Telling, Protocol):
    """For whatever shows the wrinkle and edits it."""

    @property
    def document(self) -> WrinkleDocument:
        """The wrinkle that is designed."""

    @property
    def looking(self) -> Looking:
        """What is looked at of it."""

    @property
    def lines(self) -> PictureLines:
        """What lies over the picture, to judge by."""


class Supplying(Designing, Working, Protocol):
    """For whatever brings more into the wrinkle: pictures, clips, what was copied."""

    @property
    def clipboard(self) -> Clipboard:
        """What was copied."""

    @property
    def tried(self) -> TriedClips:
        """The clips that it is tried on."""

    @property
    def clip_colours(self) -> ClipColours:
        """What colours the tried clips have."""

    def material(self) -> Material:
        """What fills the slots, and what the wrinkle carries."""


class Hearing(Protocol):
    """For whatever is heard."""

    @property
    def sound(self) -> SoundSettings:
        """How sound is played."""

    @property
    def output(self) -> Callable[[], SoundOutput]:
        """Makes a way for sound to a device."""


class Trying(Supplying, Hearing, Protocol):
    """For whatever tries the wrinkle as a use."""

    @property
    def trial(self) -> Trial:
        """The dials, the direction and the strength that it is tried with."""

    def carried(self) -> Material:
        """What the wrinkle brings with it."""

    def shown(self, size: Size) -> Showing:
        """The wrinkle as the pictures show it now."""


class Measuring(Designing, Protocol):
    """For whatever shows what was measured."""

    @property
    def examiner(self) -> Examiner:
        """Who measures."""


class Piecing(Working, Protocol):
    """For whatever shows the piece and edits it."""

    @property
    def piece(self) -> PieceDocument:
        """The piece whose cuts are dressed."""


class Mending(Measuring, Piecing, Protocol):
    """For whatever mends the wrinkle, or the wrinkles on the cuts."""


class Browsing(Working, Hearing, Protocol):
    """For whatever shows what lies on the disk."""

    @property
    def tried(self) -> TriedClips:
        """The clips on which it is shown."""
