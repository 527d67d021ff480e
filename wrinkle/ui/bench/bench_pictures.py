"""The pictures of the result: all frames at a share of their size, one in all its pixels."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QObject
from PyQt6.QtGui import QImage

from wrinkle.ui.bench.picture.transport import BEGINS_WITH, RESOLUTIONS
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.pictures.frame_pictures import FramePictures


class BenchPictures:
    """Asks for the pictures of what is designed.

    Args:
        desk: whose wrinkle is drawn.
        parent: who owns what draws.

    Attributes:
        frames: of all frames, at a share of the full size.
        near: the frame under the playhead, with as many pixels as are seen of it.
        share: of the full size.
        near_share: that of the frame from near by; 0 for none.
    """

    def __init__(self, desk: Desk, parent: QObject) -> None:
        self._desk = desk
        workers = desk.workers
        self.frames = FramePictures(workers.jobs, workers.store, parent=parent)
        self.near = FramePictures(workers.jobs, workers.store, parent=parent)
        self.share = RESOLUTIONS[BEGINS_WITH]
        self.near_share = 0.0

    def picture(self, frame: int) -> QImage | None:
        """The picture of a frame, with all pixels where one is near enough to see them."""
        near = self.near.picture(frame) if self.near_share else None
        return near if near is not None else self.frames.picture(frame)

    def ask(self, frames: Sequence[int]) -> None:
        """Asks for frames as the desk now wants them."""
        desk = self._desk
        size = desk.document.frame_size.scaled(self.share)
        self.frames.ask(
            desk.shown(size),
            tuple(frames),
            desk.looking.playhead,
            desk.shown_before(size),
            desk.document.previewing,
        )

    def ask_near(self) -> None:
        """Asks for the frame under the playhead, where one is near it."""
        if self.near_share:
            desk = self._desk
            shown = desk.shown(desk.document.frame_size.scaled(self.near_share))
            frame = desk.looking.playhead
            self.near.ask(shown, (frame,), frame, None, desk.document.previewing)

    def look_at(self, seen: float) -> bool:
        """Makes the frame in as many pixels as are seen of it; gives whether that is another share.

        Args:
            seen: pixels of the screen for one of the full size; 0 for all frames alike.
        """
        steps = sorted(RESOLUTIONS.values())
        enough = next((x for x in steps if x >= seen), steps[-1])
        share = enough if seen and enough > self.share else 0.0
        if share == self.near_share:
            return False
        self.near_share = share
        self.near.forget()
        self.ask_near()
        return True

    def be_seen(self, seen: bool) -> None:
        """Whether somebody looks at them."""
        for pictures in (self.frames, self.near):
            pictures.be_seen(seen)

    def close(self) -> None:
        """Nothing is drawn any more."""
        self.frames.close()
        self.near.close()
