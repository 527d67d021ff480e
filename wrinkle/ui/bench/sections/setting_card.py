"""What a setting is: a sentence, its unit and range, and how low and high of it look."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QPoint, QSize, Qt, QTimer
from PyQt6.QtGui import QImage, QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QFrame, QVBoxLayout, QWidget

from wrinkle.core.effects.effect import Effect, Scene, Values
from wrinkle.core.effects.extremes import between, extremes
from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Job, Urgency, WorkLine
from wrinkle.core.motion.describing import facts_of
from wrinkle.core.motion.setting_spec import SettingSpec
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.image import Image
from wrinkle.ui.desk.layer_ground import layer_ground
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.less_motion import moves
from wrinkle.ui.shared.plain_text import PlainLabel
from wrinkle.ui.shared.qimages import to_qimage
from wrinkle.ui.text_size import Extent, keep
from wrinkle.ui.theme import SURROUND, small_font

_WIDTH, _SIDE = 300, 200
_PICTURES, _EACH_MS = 12, 110


class Swing(QWidget):
    """One picture that goes from a low value of a setting to a high one, and back.

    Args:
        desk: whose layer is shown.
        layer: its id.
        effect, key: whose setting, and which.
        written: a value as it is written.
    """

    def __init__(
        self,
        desk: Supplying,
        layer: str,
        effect: Effect,
        key: str,
        written: Callable[[Value], str],
    ) -> None:
        super().__init__()
        self._effect, self._key = effect, key
        low, high = extremes(effect, key)
        self._ends = f"low: {written(low)}", f"high: {written(high)}"
        self.setAccessibleName(f"{self._ends[0]}, {self._ends[1]}")
        self.pictures: dict[int, QImage] = {}
        self._step = 0
        self._line = WorkLine(
            desk.workers.jobs, Urgency.LOOKED_AT, "A picture cannot be made",
            desk.messages.faulted.emit,
        )  # fmt: skip
        ground = layer_ground(desk, layer, _SIDE)
        # Low and high come first; what lies between follows.
        for step in (0, _PICTURES // 2, *range(1, _PICTURES // 2)):
            self._line.put(partial(self._draw, ground, step), partial(self._take, step))
        shape = desk.document.frame_size.scaled(_SIDE / max(desk.document.frame_size))
        self.setFixedSize(QSize(*shape))
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._go_on)
        self._timer.start(_EACH_MS)

    def close_line(self) -> None:
        """Nothing more is drawn."""
        self._timer.stop()
        self._line.close()

    @property
    def shown(self) -> int:
        """Which picture is seen: on the way there, and the same on the way back."""
        half = _PICTURES // 2
        step = half - abs(self._step % _PICTURES - half)
        there = [n for n in self.pictures if n <= step]
        return max(there, default=0)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), SURROUND)
        picture = self.pictures.get(self.shown)
        if picture is not None:
            painter.drawImage(self.rect(), picture)
        words = self._ends[self.shown > _PICTURES // 4]
        painter.setFont(small_font(self.font(), bold=True))
        room = self.rect().adjusted(6, 4, -6, -4)
        side = Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignLeft
        for colour, by in ((Qt.GlobalColor.black, 1), (Qt.GlobalColor.white, 0)):
            painter.setPen(colour)
            painter.drawText(room.translated(by, by), int(side), words)

    def _go_on(self) -> None:
        if moves(self):
            self._step += 1
        else:
            # Without motion both ends stand for a while each.
            self._step += _PICTURES // 2 if self._step % 20 == 0 else 0
        self.update()

    def _draw(self, ground: Callable[[], Image], step: int, job: Job) -> QImage | str:
        picture = ground()
        share = 0.5 - 0.5 * math.cos(math.pi * step / (_PICTURES // 2))
        values = Values({**self._effect.neutral(), **self._effect.begun()})
        values[self._key] = between(self._effect, self._key, share)
        scene = Scene.whole(picture.size, time=0.0, frame=0, preview=True,
                            other=picture if self._effect.needs_layer else None)  # fmt: skip
        try:
            made = self._effect.applied(picture, values, scene)
        except InputError as fault:
            return str(fault)
        return to_qimage(made)

    def _take(self, step: int, picture: QImage | str) -> None:
        if isinstance(picture, QImage):
            self.pictures[step] = picture
            self.update()


class SettingCard(QFrame):
    """Stands beside the setting until something else is pressed.

    Args:
        name: what the setting is called.
        spec: of it.
        swing: how it looks, where it has a look of its own.
        over: the setting's row.
    """

    def __init__(self, name: str, spec: SettingSpec, swing: Swing | None, over: QWidget) -> None:
        super().__init__(over, Qt.WindowType.Popup)
        self.setObjectName("panel")
        self.setFrameShape(QFrame.Shape.StyledPanel)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.swing = swing
        keep(self, Extent.WIDTH, _WIDTH)
        self.title, self.about, self.facts = (
            PlainLabel(name), PlainLabel(spec.about), PlainLabel(facts_of(spec))
        )  # fmt: skip
        self.title.setObjectName("heading")
        self.facts.setObjectName("quiet")
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 10, 12, 12)
        for label in (self.title, self.about, self.facts):
            label.setWordWrap(True)
            column.addWidget(label)
        if swing is not None:
            column.addWidget(swing, 0, Qt.AlignmentFlag.AlignHCenter)
        self.setAccessibleName(f"{name}: {spec.about} {self.facts.text()}")

    def show_beside(self, widget: QWidget) -> None:
        """To the left of a widget, within the screen."""
        self.adjustSize()
        corner = widget.mapToGlobal(QPoint(-self.width() - 8, 0))
        screen = widget.screen()
        if screen is not None:
            room = screen.availableGeometry()
            corner.setY(max(min(corner.y(), room.bottom() - self.height()), room.top()))
            if corner.x() < room.left():
                corner.setX(widget.mapToGlobal(QPoint(widget.width() + 8, 0)).x())
        self.move(corner)
        self.show()
        self.setFocus()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() in (Qt.Key.Key_Escape, Qt.Key.Key_Return):
            self.close()
        else:
            super().keyPressEvent(event)

    def hideEvent(self, event: object) -> None:
        if self.swing is not None:
            self.swing.close_line()
