"""One dialog for all that a person chooses for the program."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QHBoxLayout,
    QListWidget,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from wrinkle.ui.shared.manual_page import about
from wrinkle.ui.shared.scrolled import Scrolled
from wrinkle.ui.text_size import Extent, keep

_NAMES = 132
_WIDTH, _HEIGHT = 720, 500


class PreferencesDialog(QDialog):
    """Pages by their names; what is chosen counts at once, and nothing has to be agreed to.

    Args:
        pages: in their order.
        shown: the name of the page that is seen first; empty for the first one.
        over: over which it stands.
    """

    def __init__(self, pages: Mapping[str, QWidget], shown: str, over: QWidget) -> None:
        super().__init__(over)
        self.setWindowTitle("Preferences")
        about(self, "hands")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.pages = dict(pages)
        self.names = QListWidget()
        self.names.setObjectName("pages")
        self.names.setAccessibleName("Pages")
        keep(self.names, Extent.WIDTH, _NAMES)
        self.stack = QStackedWidget()
        for name, page in pages.items():
            self.names.addItem(name)
            # Large text has room too: what does not fit is scrolled to.
            scroll = Scrolled()
            page.setObjectName("ground")
            scroll.setWidget(page)
            self.stack.addWidget(scroll)
        self.names.currentRowChanged.connect(self.stack.setCurrentIndex)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        row = QHBoxLayout()
        row.addWidget(self.names)
        row.addWidget(self.stack, 1)
        column = QVBoxLayout(self)
        column.addLayout(row, 1)
        column.addWidget(buttons)
        self.show_page(shown or next(iter(pages)))
        self.resize(_WIDTH, _HEIGHT)

    def show_page(self, name: str) -> None:
        """Shows a page."""
        self.names.setCurrentRow(list(self.pages).index(name))
