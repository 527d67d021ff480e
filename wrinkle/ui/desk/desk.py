"""All that lies on the desk: what the places are given to work on."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial

from wrinkle import library
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Material
from wrinkle.core.render.showing import Showing
from wrinkle.core.reuse.use import Use, filled, possible, showing
from wrinkle.core.store import DEFAULT_BUDGET
from wrinkle.media.pieces import paths_of
from wrinkle.ui.desk.clip_colours import ClipColours
from wrinkle.ui.desk.clipboard import Clipboard
from wrinkle.ui.desk.editing import StepOrder
from wrinkle.ui.desk.examiner import Examiner
from wrinkle.ui.desk.looking import Looking
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.open_cut import OpenCut
from wrinkle.ui.desk.picture_lines import PictureLines
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.desk.piece_media import PieceMedia
from wrinkle.ui.desk.sound_output import DeviceOutput, SoundOutput
from wrinkle.ui.desk.sound_settings import SoundSettings
from wrinkle.ui.desk.stretch import Stretch
from wrinkle.ui.desk.trial import Trial
from wrinkle.ui.desk.tried_clips import TriedClips
from wrinkle.ui.desk.workers import Workers
from wrinkle.ui.desk.wrinkle_document import WrinkleDocument
from wrinkle.ui.shared.asking_files import Asking


@dataclass(frozen=True)
class Desk:
    """Things of their own, handed on together.

    Attributes:
        document: the wrinkle that is designed.
        piece: the piece whose cuts are dressed.
        stretch: the part of it that is written.
        open_cut: that cut of it whose wrinkle is designed, if one is.
        tried: the clips that it is tried on.
        trial: the dials, the direction and the strength that it is tried with.
        looking: what is looked at of both.
        lines: what lies over the picture, to judge by.
        clip_colours: what colours the tried clips have.
        clipboard: what was copied.
        steps: undo over all documents of the Bench; the piece has its own.
        examiner: who measures the wrinkle, and the cuts of the piece.
        workers: who works in the background.
        messages: what is said.
        asking: how files are asked for.
        sound: how it is played.
        output: makes a way for sound to a device.
    """

    document: WrinkleDocument
    piece: PieceDocument
    stretch: Stretch
    open_cut: OpenCut
    tried: TriedClips
    trial: Trial
    looking: Looking
    lines: PictureLines
    clip_colours: ClipColours
    clipboard: Clipboard
    steps: StepOrder
    examiner: Examiner
    workers: Workers
    messages: Messages
    asking: Asking
    sound: SoundSettings
    output: Callable[[], SoundOutput]

    @classmethod
    def made(
        cls, budget: int = DEFAULT_BUDGET, output: Callable[[], SoundOutput] | None = None
    ) -> Desk:
        """An empty desk with a new wrinkle on it. Its workers are to be stopped at the end.

        Args:
            budget: of kept pictures, in bytes.
            output: makes a way for sound; by default to a device of the desktop.
        """
        messages, steps = Messages(), StepOrder()
        workers = Workers(messages, budget)
        document = WrinkleDocument(steps, messages, workers.store)
        tried = TriedClips(document, steps, workers, messages)
        looking = Looking(document)
        clipboard = Clipboard(document, looking, messages)
        trial = Trial(document)
        piece = PieceDocument(PieceMedia(workers), messages)
        open_cut = OpenCut(piece, document, tried, trial, messages)
        asking = Asking()
        asking.footage = lambda: [
            *(x.path for x in tried.clips.values() if x.path is not None),
            *paths_of(piece.state),
        ]
        examiner = Examiner(document, tried, trial, piece, workers, messages)
        sound = SoundSettings()
        return cls(
            document, piece, Stretch(piece), open_cut, tried, trial, looking,
            PictureLines(), ClipColours(workers, tried), clipboard, steps, examiner, workers,
            messages, asking, sound, output or partial(DeviceOutput, lambda: sound.device),
        )  # fmt: skip

    def carried(self) -> Material:
        """What the wrinkle brings with it."""
        return self.document.read.material(library.fonts())

    def material(self) -> Material:
        """What fills the slots now, and what the wrinkle brings with it."""
        carried = self.carried()
        slots = filled(self.document.state, self.tried.fillings(), carried)
        return replace(carried, slots=slots)

    def shown(self, size: Size) -> Showing:
        """The wrinkle as the pictures show it now."""
        return self._showing(self.looking.shown_wrinkle(), size)

    def shown_before(self, size: Size) -> Showing | None:
        """What lies on the other side of the split line; None while there is none."""
        before = self.looking.before_wrinkle()
        return self._showing(before, size) if before is not None else None

    def _showing(self, wrinkle: Wrinkle, size: Size) -> Showing:
        choices = possible(wrinkle, self.trial.choices)
        use = Use(wrinkle, self.tried.fillings(), choices)
        shown = showing(use, self.carried(), size, wrinkle.frame_rate, Quality.PREVIEW)
        return replace(shown, held=self.looking.layer)
