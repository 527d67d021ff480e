"""Kept frames as Qt's pictures, with signals when they come."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage

from wrinkle.core.jobs import Jobs, Urgency
from wrinkle.core.render.frames import WORTH_ROUGH, FrameViewer, Listener, ScreenFrame, Shown
from wrinkle.core.store import Store
from wrinkle.ui.shared.qimages import wrapped


class FramePictures(QObject):
    """The pictures of the frames of a wrinkle or a piece; see ``FrameViewer``.

    Signals:
        frameReady: a frame's picture can be fetched with ``picture``.
        progressed: how many frames are ready, and how many there are.
        failed: one sentence on the first frame that could not be rendered; the rest goes on.
    """

    frameReady = pyqtSignal(int)
    progressed = pyqtSignal(int, int)
    failed = pyqtSignal(str)

    def __init__(
        self,
        jobs: Jobs,
        store: Store,
        urgency: Urgency = Urgency.LOOKED_AT,
        parent: QObject | None = None,
        worth_rough: int = WORTH_ROUGH,
    ) -> None:
        super().__init__(parent)
        listener = Listener(self.frameReady.emit, self.progressed.emit, self.failed.emit)
        self._viewer = FrameViewer(jobs, store, urgency, listener, worth_rough=worth_rough)

    def ask(
        self,
        showing: Shown,
        frames: Sequence[int],
        focus: int,
        before: Shown | None = None,
        dragged: bool = False,
    ) -> None:
        """Asks for frames; what was asked before is dropped. See ``FrameViewer.ask``."""
        self._viewer.ask(showing, frames, focus, before, dragged)

    def be_seen(self, seen: bool) -> None:
        """Somebody looks on, or nobody does; see ``FrameViewer.be_seen``."""
        self._viewer.be_seen(seen)

    def hurry(self, hurried: bool) -> None:
        """All frames are about to be seen, or no longer; see ``FrameViewer.hurry``."""
        self._viewer.hurry(hurried)

    def focus_on(self, frame: int) -> None:
        """The frames nearest to this one come first."""
        self._viewer.focus_on(frame)

    def frame(self, number: int) -> ScreenFrame | None:
        """The newest picture of a frame, as it is kept: the same one as long as nothing changed."""
        return self._viewer.frame(number)

    def picture(self, frame: int) -> QImage | None:
        """The newest picture of a frame; an older one until the one that was asked for is done."""
        return _wrapped(self._viewer.frame(frame))

    def before(self, frame: int) -> QImage | None:
        """What the frame's picture is compared with; None where it is not."""
        return _wrapped(self._viewer.before(frame))

    def is_ready(self, frame: int) -> bool:
        """Whether the frame's picture is the one that was asked for last."""
        return self._viewer.is_ready(frame)

    def fault(self, frame: int) -> str | None:
        """One sentence on why there is no picture of a frame as it was asked for."""
        return self._viewer.fault(frame)

    @property
    def all_ready(self) -> bool:
        """Whether every frame that was asked for is rendered, as far as there is room."""
        return self._viewer.all_ready

    def forget(self) -> None:
        """Drops the shown pictures: they belong to another document."""
        self._viewer.forget()

    def close(self) -> None:
        """Nothing more is made."""
        self._viewer.close()


def _wrapped(frame: ScreenFrame | None) -> QImage | None:
    return wrapped(frame) if frame is not None else None
