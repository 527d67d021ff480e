"""Shows which drawn thing, list or box the keys go to, wherever the focus came there by a key."""

from __future__ import annotations

from contextlib import suppress

from PyQt6.QtCore import QObject, Qt
from PyQt6.QtWidgets import (
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QLineEdit,
    QMenu,
    QMenuBar,
    QPushButton,
    QToolButton,
    QWidget,
)

from wrinkle.ui.shared.stitched_ring import StitchedRing

_SHOW_IT_THEMSELVES = (
    QLineEdit, QComboBox, QPushButton, QToolButton, QAbstractSpinBox, QMenu, QMenuBar,
)  # fmt: skip


def by_tab(widget: QWidget) -> bool:
    """Whether Tab leads to it: what only catches keys, as a place does, has no ring."""
    return bool(widget.focusPolicy().value & Qt.FocusPolicy.TabFocus.value)


class FocusRing(QObject):
    """Watches the focus of the whole application.

    Args:
        window: the main one, which gets no ring itself.
    """

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self._window = window
        self._ring: StitchedRing | None = None
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.focusChanged.connect(self._show)

    @property
    def around(self) -> QWidget | None:
        """What has a ring."""
        return self._ring.around if self._ring is not None else None

    def _show(self, old: QWidget | None, now: QWidget | None) -> None:
        # Who presses something sees what is pressed.
        by_hand = QApplication.mouseButtons() != Qt.MouseButton.NoButton
        plain = now is None or isinstance(now, _SHOW_IT_THEMSELVES) or not by_tab(now)
        wanted = None if plain or by_hand else now
        if self._ring is not None and self._ring.around is not wanted:
            # With a dialog that has closed it is gone already.
            with suppress(RuntimeError):
                self._ring.surround(None)
                self._ring.deleteLater()
            self._ring = None
        if wanted is not None and self._ring is None:
            self._ring = StitchedRing("ink")
            self._ring.surround(wanted)
