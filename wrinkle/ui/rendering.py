"""Frames rendered in the background: the latest request wins, nearest the playhead first.

A request is a frozen snapshot with a number; a result carries the number, and a stale one is kept
for later but not announced.
"""

from __future__ import annotations

import os
import sys
import threading
import traceback
from dataclasses import dataclass

import cv2
from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage

from wrinkle.core.cache import BoundedCache
from wrinkle.core.design.document import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Image, Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.compose import draw
from wrinkle.core.render.material import Material
from wrinkle.core.render.plan import plan_frame
from wrinkle.core.render.planned import FramePlan
from wrinkle.ui.shared.qimages import qimage

DEFAULT_MEMORY = 1 << 30
_POLITENESS = 10


@dataclass(frozen=True)
class Request:
    """What is to be seen.

    Attributes:
        wrinkle, material: the document and what fills it.
        size: of the pictures.
        frames: which ones.
        quality: how closely they are rendered.
        before: what each frame is compared with, if it is.
    """

    wrinkle: Wrinkle
    material: Material
    size: Size
    frames: tuple[int, ...]
    quality: Quality = Quality.PREVIEW
    before: Wrinkle | None = None


def to_qimage(image: Image) -> QImage:
    """The image for the screen; it owns its memory."""
    pixels = image.to_bytes8()
    if image.opaque:
        # Qt draws this order of bytes several times faster than any other.
        pixels = cv2.cvtColor(pixels, cv2.COLOR_RGBA2BGRA)
        layout = QImage.Format.Format_RGB32
    else:
        layout = QImage.Format.Format_RGBA8888_Premultiplied
    return qimage(pixels, layout)


class FrameRenderer(QObject):
    """Keeps the pictures of the frames of the latest request coming.

    Signals:
        frameReady: a frame's picture can be fetched with ``picture``.
        progressed: how many frames of the request are ready, and how many there are.
        failed: one sentence on what could not be rendered; that request is given up.
    """

    frameReady = pyqtSignal(int)
    progressed = pyqtSignal(int, int)
    failed = pyqtSignal(str)
    _finished = pyqtSignal(int, int, object)

    def __init__(self, memory: int = DEFAULT_MEMORY, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._store: BoundedCache[FramePlan, QImage] = BoundedCache(
            memory, lambda picture: picture.sizeInBytes()
        )
        self._wake = threading.Condition()
        self._request: Request | None = None
        self._number = 0
        self._waiting: set[int] = set()
        self._focus = 0
        self._stopping = False
        self._pictures: dict[int, QImage] = {}
        self._before: dict[int, QImage] = {}
        self._ready: set[int] = set()
        self._finished.connect(self._on_finished)
        # Workers hand the interpreter over quickly, so that the window answers while they plan.
        sys.setswitchinterval(0.001)
        self._threads = [
            threading.Thread(target=self._work, name=f"frames-{i}", daemon=True)
            for i in range(os.cpu_count() or 1)
        ]
        for thread in self._threads:
            thread.start()

    def request(self, request: Request, focus: int) -> None:
        """Asks for frames; what was asked before is dropped."""
        with self._wake:
            old = self._request
            self._number += 1
            self._request = request
            self._waiting = set(request.frames)
            self._focus = focus
            self._wake.notify_all()
        if old is not None and old.size != request.size:
            self._pictures.clear()
        if request.before is None or (old is not None and old.size != request.size):
            self._before.clear()
        self._ready.clear()
        self.progressed.emit(0, len(request.frames))

    def focus(self, frame: int) -> None:
        """The frames nearest to this one come first."""
        with self._wake:
            self._focus = frame

    def picture(self, frame: int) -> QImage | None:
        """The newest picture of a frame; an older one until the one that was asked for is done."""
        return self._pictures.get(frame)

    def before(self, frame: int) -> QImage | None:
        """What the frame's picture is compared with; None where it is not."""
        return self._before.get(frame)

    def is_ready(self, frame: int) -> bool:
        """Whether the frame's picture is the one that was asked for last."""
        return frame in self._ready

    @property
    def all_ready(self) -> bool:
        """Whether every frame of the latest request is rendered."""
        return self._request is not None and self._ready >= set(self._request.frames)

    @property
    def memory_used(self) -> int:
        """Bytes of kept pictures."""
        return self._store.used

    def forget(self) -> None:
        """Drops the shown pictures: they belong to another document."""
        self._pictures.clear()
        self._before.clear()
        self._ready.clear()

    def stop(self) -> None:
        """Ends the threads and waits for them."""
        with self._wake:
            self._stopping = True
            self._waiting.clear()
            self._wake.notify_all()
        for thread in self._threads:
            thread.join()

    def _work(self) -> None:
        # On Linux a thread has a priority of its own: the window's thread goes first.
        os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), _POLITENESS)
        while True:
            with self._wake:
                while not self._waiting and not self._stopping:
                    self._wake.wait()
                if self._stopping or self._request is None:
                    return
                request, number = self._request, self._number
                frame = min(self._waiting, key=lambda n: (abs(n - self._focus), n))
                self._waiting.discard(frame)
            result = self._render(request, frame)
            with self._wake:
                if self._stopping:
                    return
            self._finished.emit(number, frame, result)

    def _render(self, request: Request, frame: int) -> list[QImage] | str:
        """The picture and what it is compared with, or one sentence on why there is none."""
        wanted = [x for x in (request.wrinkle, request.before) if x is not None]
        try:
            return [self._drawn(request, wrinkle, frame) for wrinkle in wanted]
        except InputError as fault:
            return str(fault)
        except MemoryError:
            return "There is not enough memory for a picture of this size; choose a smaller one."
        except Exception as fault:  # noqa: BLE001 - a thread must not die without a word
            traceback.print_exc()
            return f"Frame {frame} cannot be rendered: {fault!r}. Undo the last step."

    def _drawn(self, request: Request, wrinkle: Wrinkle, frame: int) -> QImage:
        plan = plan_frame(wrinkle, request.material, frame, request.size, request.quality)
        found = self._store.get(plan)
        if found is None:
            found = to_qimage(draw(plan, request.material))
            self._store.put(plan, found)
        return found

    def _on_finished(self, number: int, frame: int, result: object) -> None:
        if self._request is None or number != self._number:
            return
        if isinstance(result, list):
            self._pictures[frame] = result[0]
            if len(result) > 1:
                self._before[frame] = result[1]
            self._ready.add(frame)
            self.frameReady.emit(frame)
            self.progressed.emit(len(self._ready), len(self._request.frames))
        else:
            with self._wake:
                self._waiting.clear()
            self.failed.emit(str(result))
