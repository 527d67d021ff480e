"""A field for a number of frames: shown as timecode, typed as timecode, frames, or a step."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent
from PyQt6.QtWidgets import QLineEdit

from wrinkle.core.errors import InputError
from wrinkle.core.time.rate import FrameRate
from wrinkle.core.time.timecode import parse_timecode, timecode
from wrinkle.ui.shared.plain_text import tip

_MOST = 10**8


class TimecodeField(QLineEdit):
    """Shows a number of frames.

    Args:
        name: for those who do not see it.
        about: what it is.

    Signals:
        committed: the number that was typed, or stepped to with the arrows.
        faulted: one sentence on what was typed.
    """

    committed = pyqtSignal(int)
    faulted = pyqtSignal(str)

    def __init__(self, name: str, about: str) -> None:
        super().__init__()
        self._frames = 0
        self._rate = FrameRate.of(30)
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.setAccessibleName(name)
        self.setToolTip(
            tip(f"{about}: timecode, a number of frames, or a step such as +5; Up and Down step")
        )
        self.editingFinished.connect(self._take)

    @property
    def frames(self) -> int:
        """What it shows."""
        return self._frames

    def show_frames(self, frames: int, rate: FrameRate) -> None:
        """Shows a number of frames at a rate."""
        self._frames, self._rate = frames, rate
        self.setText(timecode(frames, rate))

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.selectAll()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        steps = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}
        if event is not None and event.key() in steps:
            self.committed.emit(self._frames + steps[Qt.Key(event.key())])
            return
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.show_frames(self._frames, self._rate)
            return
        super().keyPressEvent(event)

    def _take(self) -> None:
        text = self.text().strip()
        if text == timecode(self._frames, self._rate):
            return
        try:
            frames = self._read(text)
        except InputError as fault:
            self.faulted.emit(str(fault))
        else:
            if frames != self._frames:
                self.committed.emit(frames)
        # What was taken is shown by whoever took it; what was not is as before.
        self.show_frames(self._frames, self._rate)

    def _read(self, text: str) -> int:
        if ":" in text or ";" in text:
            return parse_timecode(text, self._rate)
        try:
            number = int(text.removesuffix("frames").strip())
        except ValueError:
            number = _MOST
        if abs(number) >= _MOST:
            raise InputError(
                f"'{text}' is no time; write a timecode such as 00:00:02:11, a number of frames, "
                "or a step such as +5."
            )
        return self._frames + number if text[0] in "+-−" else number
