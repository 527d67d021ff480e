"""The stretch of the piece that is written: all of it, or what lies between two frames."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.ui.desk.piece_document import PieceDocument


class Stretch(QObject):
    """Two frames of the piece; where nobody chose any, they follow its ends.

    Signals:
        changed: it is another one.
    """

    changed = pyqtSignal()

    def __init__(self, piece: PieceDocument) -> None:
        super().__init__()
        self._piece = piece
        self._chosen: tuple[int, int] | None = None
        piece.opened.connect(self.take_all)
        piece.changed.connect(self.changed)

    @property
    def frames(self) -> range:
        """Its frames, as far as the piece has them."""
        count = self._piece.state.frame_count
        first, end = self._chosen or (0, count)
        first = min(max(first, 0), max(count - 1, 0))
        return range(first, max(min(end, count), min(first + 1, count)))

    @property
    def is_all(self) -> bool:
        """Whether it is the whole piece."""
        return len(self.frames) == self._piece.state.frame_count

    def take(self, first: int, end: int) -> None:
        """Other frames; the end that moves stops before it meets the other one."""
        count = self._piece.state.frame_count
        before = self.frames
        if first != before.start:
            first = min(first, end - 1)
        else:
            end = max(end, first + 1)
        chosen = (max(first, 0), min(end, count))
        self._become(None if chosen == (0, count) else chosen)

    def take_all(self) -> None:
        """The whole piece."""
        self._become(None)

    def _become(self, chosen: tuple[int, int] | None) -> None:
        if chosen != self._chosen:
            self._chosen = chosen
            self.changed.emit()
