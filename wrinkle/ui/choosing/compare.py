"""Two wrinkles, or two versions of one, side by side in step, with their difference."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial

import numpy as np
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QHBoxLayout,
    QPushButton,
    QSlider,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Urgency
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Material
from wrinkle.core.reuse.hearing import hearing
from wrinkle.core.reuse.use import Use, natural_size, showing
from wrinkle.core.time.rate import FrameRate
from wrinkle.ui.desk.workers import Workers
from wrinkle.ui.pictures.frame_pictures import FramePictures
from wrinkle.ui.pictures.player import Player
from wrinkle.ui.pictures.sound_player import SoundPlayer
from wrinkle.ui.shared.picture_view import PictureView, frame_label
from wrinkle.ui.shared.plain_text import PlainLabel

_SIDE = 480
_GAINS = (1, 4, 16)
"""How many times as far the difference is shown."""
"""A difference of a few levels would not be seen."""


@dataclass(frozen=True)
class Compared:
    """One side of a comparison.

    Attributes:
        title: what is written over it.
        use: the wrinkle on its clips; both sides have the same clips.
        carried: what it brings with it.
    """

    title: str
    use: Use
    carried: Material


class CompareDialog(QDialog):
    """Plays both, and what differs between them, or stands on one frame.

    Args:
        left, right: the two; the frame, the size and the rate are those of the left one.
        workers: who makes the pictures.
        sound: who plays what is heard of one of them.
    """

    def __init__(
        self,
        left: Compared,
        right: Compared,
        workers: Workers,
        sound: SoundPlayer,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle(f"{left.title} | {right.title}")
        self.resize(1080, 660)
        self.message = PlainLabel("")
        self.message.setObjectName("fault")
        self._player = Player(self, sound=sound)
        self.sound = sound
        sound.setParent(self)
        self.hears = QComboBox()
        self.hears.setAccessibleName("What is heard")
        for word, side in (("nothing is heard", None), (left.title, left), (right.title, right)):
            self.hears.addItem(word, side)
        self.hears.activated.connect(self._hear)
        self.gain = QComboBox()
        self.gain.setAccessibleName("How far the difference is shown")
        for gain in _GAINS:
            self.gain.addItem(f"difference × {gain}", gain)
        self.gain.setCurrentIndex(1)
        self.gain.activated.connect(lambda: self._came(self._frame))
        self._player.frameDue.connect(self.show_frame)
        self._frame = 0
        self._heard = (FrameRate.of(30), range(1))
        self.renderers = [
            FramePictures(workers.jobs, workers.store, Urgency.LOOKED_AT, self) for _ in range(2)
        ]
        pictures = (*(renderer.picture for renderer in self.renderers), self.difference)
        for renderer in self.renderers:
            # It plays from the beginning on.
            renderer.hurry(True)
        self.views = [PictureView(picture) for picture in pictures]
        for view in self.views[1:]:
            view.share_zoom(self.views[0].zoom)
        self._shape = Size(9, 16)
        self.play_button = QPushButton("Stop")
        self.play_button.setAutoDefault(False)
        self.play_button.clicked.connect(self._toggle)
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setAccessibleName("Frame")
        self.slider.valueChanged.connect(self._slide)
        self.where = PlainLabel("")
        self._lay_out((left.title, right.title, "difference"))
        self._ask(left, right)

    def _lay_out(self, titles: tuple[str, ...]) -> None:
        row = QHBoxLayout()
        for title, view in zip(titles, self.views, strict=True):
            column = QVBoxLayout()
            heading = PlainLabel(title)
            heading.setObjectName("heading")
            heading.setAlignment(Qt.AlignmentFlag.AlignCenter)
            column.addWidget(heading)
            column.addWidget(view, 1)
            row.addLayout(column, 1)
        close = QPushButton("Close")
        close.setAutoDefault(False)
        close.clicked.connect(self.close)
        foot = QHBoxLayout()
        foot.addWidget(self.play_button)
        foot.addWidget(self.slider, 1)
        foot.addWidget(self.where)
        foot.addWidget(self.gain)
        foot.addWidget(self.hears)
        foot.addWidget(close)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 12, 12, 12)
        layout.addLayout(row, 1)
        layout.addWidget(self.message)
        layout.addLayout(foot)

    def _ask(self, left: Compared, right: Compared) -> None:
        size = natural_size(left.use)
        small = size.within(_SIDE)
        rate = left.use.wrinkle.frame_rate
        first, end = 0, 1
        shown = []
        try:
            for side in (left, right):
                shown.append(showing(side.use, side.carried, small, rate, Quality.PREVIEW))
        except InputError as fault:
            self.message.setText(str(fault))
            return
        for one in shown:
            first, end = min(first, one.wrinkle.first_frame), max(end, one.wrinkle.end_frame)
        self._shape = small
        frames = range(first, end)
        for renderer, one in zip(self.renderers, shown, strict=True):
            renderer.frameReady.connect(self._came)
            renderer.failed.connect(self.message.setText)
            renderer.ask(one, frames, 0)
        self.slider.setRange(first, end - 1)
        self._heard = (rate, frames)
        self._player.set_frames(frames, rate)
        self._player.play(first)

    @property
    def all_ready(self) -> bool:
        """Whether all pictures are there."""
        return all(renderer.all_ready for renderer in self.renderers)

    def difference(self, frame: int) -> QImage | None:
        """How far the two pictures of a frame lie apart, so many times as far; None without."""
        both = [renderer.frame(frame) for renderer in self.renderers]
        if both[0] is None or both[1] is None or both[0].size != both[1].size:
            return None
        one, other = (x.pixels[..., :3].astype(np.int16) for x in both if x is not None)
        apart = np.clip(np.abs(one - other) * self.gain.currentData(), 0, 255).astype(np.uint8)
        height, width = apart.shape[:2]
        content = np.ascontiguousarray(apart[..., ::-1]).tobytes()
        return QImage(content, width, height, 3 * width, QImage.Format.Format_RGB888).copy()

    def show_frame(self, frame: int) -> None:
        """Shows a frame in all three pictures."""
        self._frame = frame
        for view in self.views:
            view.show_frame(frame, self._shape)
        self.where.setText(frame_label(frame))
        self.slider.blockSignals(True)
        self.slider.setValue(frame)
        self.slider.blockSignals(False)

    def _slide(self, frame: int) -> None:
        self._player.stop()
        self.play_button.setText("Play")
        self.show_frame(frame)

    def _toggle(self) -> None:
        if self._player.playing:
            self._player.stop()
        else:
            self._player.play(self._frame)
        self.play_button.setText("Stop" if self._player.playing else "Play")

    def _hear(self, index: int) -> None:
        """Listens to one of the two, or to neither."""
        side = self.hears.itemData(index)
        if not isinstance(side, Compared):
            self.sound.set_heard(None)
            return
        rate, frames = self._heard
        self.sound.set_heard(partial(hearing, side.use, rate, frames, carried=side.carried.sounds))

    def _came(self, frame: int) -> None:
        for view in self.views:
            view.frame_came(frame)

    def done(self, result: int) -> None:
        """Ends what plays."""
        self._player.stop()
        self.sound.close()
        for renderer in self.renderers:
            renderer.close()
        super().done(result)
