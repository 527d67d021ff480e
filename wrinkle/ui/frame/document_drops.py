"""A document can be dropped wherever nothing else takes it."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import QWidget

from wrinkle.ui.router import Router
from wrinkle.ui.shared.drops import dropped_files, paths_of


class DocumentDrops(QObject):
    """Watches what is dropped on the window itself.

    Args:
        window: takes drops from now on.
        router: opens what is dropped.
    """

    def __init__(self, window: QWidget, router: Router) -> None:
        super().__init__(window)
        self._router = router
        window.setAcceptDrops(True)
        window.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Takes the first file that is a document."""
        if isinstance(event, QDropEvent) and event.type() == QEvent.Type.Drop:
            for path in dropped_files(event):
                if self._router.opens(path):
                    self._router.open(path)
                    break
            return True
        if isinstance(event, QDragEnterEvent) and event.type() == QEvent.Type.DragEnter:
            if any(self._router.opens(path) for path in paths_of(event.mimeData())):
                event.acceptProposedAction()
            return True
        return super().eventFilter(watched, event)
