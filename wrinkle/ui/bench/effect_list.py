"""The searchable list of effects, each with a moving thumbnail on the layer's own picture."""

from __future__ import annotations

import math
import threading
from queue import Empty, SimpleQueue

import numpy as np
from PyQt6.QtCore import QObject, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QIcon, QImage, QPixmap
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.effects.effect import Effect, Scene, Values
from wrinkle.core.effects.registry import searched
from wrinkle.core.errors import InputError
from wrinkle.core.motion.values import discrete, mix, same_kind
from wrinkle.core.picture.image import Image, from_bytes8
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.beneath import beneath
from wrinkle.core.render.compose import render
from wrinkle.ui.rendering import to_qimage
from wrinkle.ui.session import Session

_SHORT = 96
_STEPS = 12
_STEP_MS = 90


class _Painter(QObject):
    """Makes the thumbnails on a thread, one step of all effects after the other.

    Signals:
        made: the key of an effect, the step, and the picture.
    """

    made = pyqtSignal(str, int, object)

    def __init__(self, picture: Image) -> None:
        super().__init__()
        self._picture = picture
        self._orders: SimpleQueue[tuple[Effect, int] | None] = SimpleQueue()
        self._stopping = threading.Event()
        self._thread = threading.Thread(target=self._work, name="frames-thumbs", daemon=True)
        self._thread.start()

    def order(self, effect: Effect, step: int) -> None:
        """Asks for one picture."""
        self._orders.put((effect, step))

    def stop(self) -> None:
        """Ends the thread and waits for it."""
        self._stopping.set()
        self._orders.put(None)
        self._thread.join()

    def _work(self) -> None:
        while not self._stopping.is_set():
            try:
                order = self._orders.get(timeout=1.0)
            except Empty:
                continue
            if order is None:
                return
            effect, step = order
            result = to_qimage(_shown(effect, self._picture, step))
            if not self._stopping.is_set():
                self.made.emit(effect.key, step, result)


class EffectList(QDialog):
    """Chooses an effect by word, family or look.

    Signals:
        chosen: the key of an effect.
    """

    chosen = pyqtSignal(str)

    def __init__(self, session: Session, layer: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Add an effect")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.resize(720, 600)
        self._painter = _Painter(_ground(session, layer))
        self._painter.made.connect(self._take)
        self._pictures: dict[tuple[str, int], QImage] = {}
        self._step = 0
        self.search = QLineEdit()
        self.search.setPlaceholderText("Search by name or by what it is for: glitch, haze, …")
        self.search.setAccessibleName("Search effects")
        self.search.textChanged.connect(self._fill)
        self.search.returnPressed.connect(self._take_chosen)
        self.list = QListWidget()
        self.list.setViewMode(QListWidget.ViewMode.IconMode)
        self.list.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.list.setMovement(QListWidget.Movement.Static)
        self.list.setIconSize(QSize(_SHORT, _SHORT))
        self.list.setGridSize(QSize(_SHORT + 56, _SHORT + 52))
        self.list.setWordWrap(True)
        self.list.setMouseTracking(True)
        self.list.setAccessibleName("Effects")
        self.list.itemEntered.connect(self._describe)
        self.list.currentItemChanged.connect(lambda now, before: self._describe(now))
        self.list.itemDoubleClicked.connect(lambda item: self._take_chosen())
        self._about = QLabel()
        self._about.setObjectName("quiet")
        self._about.setWordWrap(True)
        self.add_button = QPushButton("Add")
        self.add_button.setObjectName("main")
        self.add_button.clicked.connect(self._take_chosen)
        close = QPushButton("Close")
        close.clicked.connect(self.reject)
        under = QHBoxLayout()
        under.addWidget(self._about, 1)
        under.addWidget(close)
        under.addWidget(self.add_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 16, 16, 16)
        column.addWidget(self.search)
        column.addWidget(self.list, 1)
        column.addLayout(under)
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._animate)
        self._timer.start(_STEP_MS)
        self._fill("")
        self.search.setFocus()

    def _fill(self, words: str) -> None:
        self.list.clear()
        found = searched(words)
        for effect in sorted(found, key=lambda one: (one.family.value, one.label)):
            item = QListWidgetItem(f"{effect.label}\n{effect.family.value}")
            item.setData(Qt.ItemDataRole.UserRole, effect)
            item.setToolTip(effect.about)
            item.setTextAlignment(Qt.AlignmentFlag.AlignHCenter)
            self._show(item, effect)
            self.list.addItem(item)
        if found:
            self.list.setCurrentRow(0)
        else:
            self._about.setText(f"No effect is found by '{words}'; try another word.")

    def _show(self, item: QListWidgetItem, effect: Effect) -> None:
        """The newest picture there is; the first one is ordered if there is none."""
        still = _STEPS // 2
        key = (effect.key, still)
        if key not in self._pictures:
            self._pictures[key] = QImage()
            self._painter.order(effect, still)
        elif not self._pictures[key].isNull():
            item.setIcon(QIcon(QPixmap.fromImage(self._pictures[key])))

    def _animate(self) -> None:
        """The effect that is pointed at moves from rest to its full look and back."""
        item = self.list.currentItem()
        if item is None:
            return
        self._step = (self._step + 1) % _STEPS
        effect: Effect = item.data(Qt.ItemDataRole.UserRole)
        key = (effect.key, self._step)
        if key not in self._pictures:
            self._pictures[key] = QImage()
            self._painter.order(effect, self._step)
        elif not self._pictures[key].isNull():
            item.setIcon(QIcon(QPixmap.fromImage(self._pictures[key])))

    def _take(self, key: str, step: int, picture: QImage) -> None:
        self._pictures[key, step] = picture
        if step != _STEPS // 2:
            return
        for row in range(self.list.count()):
            item = self.list.item(row)
            if item is not None and item.data(Qt.ItemDataRole.UserRole).key == key:
                item.setIcon(QIcon(QPixmap.fromImage(picture)))

    def _describe(self, item: QListWidgetItem | None) -> None:
        if item is not None:
            if item is not self.list.currentItem():
                self.list.setCurrentItem(item)
            effect: Effect = item.data(Qt.ItemDataRole.UserRole)
            self._about.setText(f"{effect.label}: {effect.about}")

    def _take_chosen(self) -> None:
        item = self.list.currentItem()
        if item is not None:
            self.chosen.emit(item.data(Qt.ItemDataRole.UserRole).key)
            self.accept()

    def done(self, result: int) -> None:
        """Ends the thread with the dialog."""
        self._timer.stop()
        self._painter.stop()
        super().done(result)


def _ground(session: Session, layer: str) -> Image:
    """What the thumbnails show the effects on: the layer's picture, or else the result."""
    frame, wrinkle, material = session.frame_size, session.wrinkle, session.material()
    size = frame.scaled(_SHORT / max(frame))
    try:
        return from_bytes8(beneath(wrinkle, material, layer, session.time, size))
    except InputError:
        return render(wrinkle, material, session.playhead, size, Quality.PREVIEW)


def _shown(effect: Effect, picture: Image, step: int) -> Image:
    """The effect on its way from rest (step 0) to its full look (the middle) and back."""
    share = 0.5 - 0.5 * math.cos(2.0 * math.pi * step / _STEPS)
    neutral = effect.neutral()
    values = Values(neutral)
    for name, full in effect.starts_with.items():
        rest = neutral[name]
        if discrete(full) or not same_kind(rest, full):
            values[name] = full if share > 0.4 else rest
        else:
            values[name] = mix(rest, full, share)
    width, height = picture.size
    scene = Scene(
        unit=min(picture.size) / 100.0,
        left=0.0,
        top=0.0,
        width=float(width),
        height=float(height),
        time=step / _STEPS,
        frame=step,
        preview=True,
        other=_other(picture) if effect.needs_layer else None,
    )
    return effect.applied(picture, values, scene)


def _other(picture: Image) -> Image:
    """Something else for an effect to look at: the picture in other colours."""
    return Image(np.ascontiguousarray(picture.pixels[..., [2, 0, 1, 3]]), picture.light)
