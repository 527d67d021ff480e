"""The result once more, on another screen or in a window of its own."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QObject, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QAction, QCloseEvent, QGuiApplication, QKeyEvent, QScreen
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from wrinkle.core.picture.image import Size
from wrinkle.ui.bench.picture.result_view import ResultView
from wrinkle.ui.desk.parts import Trying
from wrinkle.ui.pictures.frame_pictures import FramePictures
from wrinkle.ui.pictures.ruler_strip import RulerStrip

_LINGERS_MS = 2500
_SIDE = 720


class SecondScreen(QWidget):
    """Shows, plays and takes drags as the Bench's own picture does; the strip comes at its foot.

    Args:
        view: the result.
        strip: its frames.
        actions: what the Bench can do; their keys are live here too.
        owner: the window that it belongs to.

    Signals:
        closed: it is no longer there.
    """

    closed = pyqtSignal()

    def __init__(
        self, view: ResultView, strip: RulerStrip, actions: Sequence[QAction], owner: QWidget
    ) -> None:
        super().__init__(owner, Qt.WindowType.Window)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle("The result")
        self.view, self.strip = view, strip
        self.addActions(list(actions))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(view, 1)
        column.addWidget(strip)
        strip.hide()
        self._lingering = QTimer(self)
        self._lingering.setSingleShot(True)
        self._lingering.setInterval(_LINGERS_MS)
        self._lingering.timeout.connect(self._hide_strip)
        view.pointerMoved.connect(self._show_strip)

    def open_beside(self, owner: QWidget) -> None:
        """Fills another screen than the owner's; where there is none it is a window to be put."""
        screen = other_screen(owner.screen(), QGuiApplication.screens())
        shape = self.view.shape
        self.resize(shape.within(_SIDE).width, shape.within(_SIDE).height)
        if screen is None:
            self.show()
            return
        self.setGeometry(screen.geometry())
        self.showFullScreen()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        super().closeEvent(event)
        self.closed.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Escape, which nothing else wanted, closes it: it may have no frame to be closed by."""
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.close()
        else:
            super().keyPressEvent(event)

    def _show_strip(self) -> None:
        self.strip.show()
        self._lingering.start()

    def _hide_strip(self) -> None:
        if self.strip.underMouse():
            self._lingering.start()
        else:
            self.strip.hide()


class ResultElsewhere(QObject):
    """The window on the other screen, while there is one.

    Args:
        desk, pictures: what is seen.
        bench: where it is designed.

    Signals:
        changed: it is there now, or no longer.
        spaceTaken, fileDropped: as those of ``ResultView``.
    """

    changed = pyqtSignal()
    spaceTaken = pyqtSignal()
    fileDropped = pyqtSignal(object)

    def __init__(self, desk: Trying, pictures: FramePictures, bench: QWidget) -> None:
        super().__init__(bench)
        self._desk, self._pictures, self._bench = desk, pictures, bench
        self.screen: SecondScreen | None = None

    @property
    def is_open(self) -> bool:
        """Whether it is there."""
        return self.screen is not None

    def toggle(self) -> None:
        """Opens it, or closes it."""
        if self.screen is not None:
            self.close()
            return
        window = self._bench.window() or self._bench
        strip = RulerStrip(self._pictures)
        strip.scrubbed.connect(self._desk.looking.set_playhead)
        view = ResultView(self._desk, self._pictures, self._pictures.picture)
        view.fileDropped.connect(self.fileDropped)
        view.spaceTaken.connect(self.spaceTaken)
        self.screen = SecondScreen(view, strip, window.findChildren(QAction), window)
        self.screen.closed.connect(self._end)
        self.screen.open_beside(window)
        self.changed.emit()

    def close(self) -> None:
        """It is there no longer."""
        if self.screen is not None:
            self.screen.close()

    def show_frame(self, frame: int, shape: Size) -> None:
        """Shows a frame there."""
        if self.screen is not None:
            frames = self._desk.document.state.frames
            self.screen.view.show_frame(frame, shape)
            self.screen.strip.show_frames(frames.start, frames.stop, frame, shape)

    def show_handles(self, shown: bool) -> None:
        """Shows the handles of the selected layer, or hides them."""
        if self.screen is not None:
            self.screen.view.show_handles(shown)

    def _end(self) -> None:
        if self.screen is not None:
            self.screen.view.masks.close()
            self.screen = None
            self.changed.emit()


def other_screen(own: QScreen | None, screens: Sequence[QScreen]) -> QScreen | None:
    """The first screen that is not the own one; None where there is no other."""
    return next((x for x in screens if x is not own), None)
