"""The manual: its pages, found by words, in a window of its own beside the work."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt, QUrl
from PyQt6.QtGui import QImage, QTextDocument
from PyQt6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.searching import holds_words
from wrinkle.library.manual_html import page_html
from wrinkle.library.manual_pages import MANUAL, Named, Page, pages
from wrinkle.ui.text_size import Extent, keep, scaled
from wrinkle.ui.theme import BASE

_NAMES = 214
_WIDTH, _HEIGHT = 900, 640
_KEY = Qt.ItemDataRole.UserRole
_MARGIN = 12


def _style() -> str:
    heading, base = scaled(BASE + 6), scaled(BASE)
    return (
        f"h1 {{ font-size: {heading}px; margin: 0 0 {base}px 0; }} "
        f"h2 {{ font-size: {scaled(BASE + 2)}px; margin: {base}px 0 4px 0; }} "
        f"p {{ margin: 0 0 {scaled(9)}px 0; }} li {{ margin: 0 0 3px 0; }} "
        f"ul, ol {{ margin: 0 0 {scaled(9)}px 0; -qt-list-indent: 1; }} "
        f"td, th {{ padding: 3px {base}px 3px 0; }}"
    )


class _Sheet(QTextBrowser):
    """Shows pictures no wider than itself."""

    def loadResource(self, kind: int, address: QUrl) -> object:
        """Pictures come from the manual's own folder, and nothing comes from anywhere else."""
        if kind != QTextDocument.ResourceType.ImageResource.value:
            return None
        path = (MANUAL / address.path()).resolve()
        if not path.is_relative_to(MANUAL):
            return None
        picture = QImage(str(path))
        room = max(self.viewport().width() - 4 * _MARGIN, 1)  # type: ignore[union-attr]
        if picture.width() > room:
            smooth = Qt.TransformationMode.SmoothTransformation
            return picture.scaledToWidth(room, smooth)
        return picture


class ManualWindow(QDialog):
    """Pages at the left, one of them at the right.

    Args:
        named: what an action is called now, and by which keys it is done.
        over: over which it opens.
    """

    def __init__(self, named: Callable[[str], Named], over: QWidget) -> None:
        super().__init__(over)
        self._named = named
        self._written: dict[str, str] = {}
        self.setWindowTitle("Manual")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find in the manual")
        self.search.setAccessibleName("Find in the manual")
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(self._narrow)
        self.search.returnPressed.connect(self._next)
        self.names = QListWidget()
        self.names.setObjectName("pages")
        self.names.setAccessibleName("Pages of the manual")
        self.names.currentItemChanged.connect(lambda now, before: self._show())
        self.sheet = _Sheet()
        self.sheet.setAccessibleName("Page of the manual")
        self.sheet.setOpenLinks(False)
        self.sheet.anchorClicked.connect(lambda address: self.show_page(address.path()))
        left = QWidget()
        keep(left, Extent.WIDTH, _NAMES)
        column = QVBoxLayout(left)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.search)
        column.addWidget(self.names, 1)
        row = QHBoxLayout()
        row.addWidget(left)
        row.addWidget(self.sheet, 1)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        whole = QVBoxLayout(self)
        whole.addLayout(row, 1)
        whole.addWidget(buttons)
        self.resize(min(_WIDTH, over.width() - 24), min(_HEIGHT, over.height() - 24))
        self._narrow("")

    @property
    def page(self) -> str:
        """The key of the page that is shown."""
        item = self.names.currentItem()
        return str(item.data(_KEY)) if item is not None else ""

    def show_page(self, key: str) -> None:
        """Shows a page."""
        self.search.clear()
        for number in range(self.names.count()):
            item = self.names.item(number)
            if item is not None and item.data(_KEY) == key:
                self.names.setCurrentItem(item)

    def _text(self, page: Page) -> str:
        if page.key not in self._written:
            self._written[page.key] = page.written(self._named)
        return self._written[page.key]

    def _narrow(self, words: str) -> None:
        before = self.page
        self.names.blockSignals(True)
        self.names.clear()
        for page in pages():
            if holds_words(self._text(page), words):
                item = QListWidgetItem(page.title)
                item.setData(_KEY, page.key)
                self.names.addItem(item)
                if page.key == before:
                    self.names.setCurrentItem(item)
        if self.names.currentItem() is None:
            self.names.setCurrentRow(0)
        self.names.blockSignals(False)
        self._show()

    def _show(self) -> None:
        page = next((x for x in pages() if x.key == self.page), None)
        document = self.sheet.document()
        if document is not None:
            document.setDocumentMargin(scaled(_MARGIN))
            document.setDefaultStyleSheet(_style())
        if page is None:
            self.sheet.setPlainText("No page has these words. Try a single one, such as pin.")
            return
        self.sheet.setHtml(page_html(page, self._named))
        self._next()

    def _next(self) -> None:
        """Marks the next place with the first of the words."""
        words = self.search.text().split()
        if words and not self.sheet.find(words[0]):
            self.sheet.moveCursor(self.sheet.textCursor().MoveOperation.Start)
            self.sheet.find(words[0])
