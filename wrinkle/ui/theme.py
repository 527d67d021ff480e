"""The three themes, the shipped font, and the style sheet for Qt's own widgets."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from enum import Enum
from functools import cache

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PyQt6.QtWidgets import QApplication, QWidget

from wrinkle.library import FOLDER
from wrinkle.ui import text_size

_PROPERTY, _SMALL_FONT = "wrinkleTheme", "wrinkleSmall"
BASE, HEADING, _SMALL = 13, 14, 11
"""Sizes of text in points, at 100 %."""
SURROUND = QColor("#777777")
"""Pictures stand on this in all themes, so that colour can be judged."""


class ThemeChoice(Enum):
    """What a person chose."""

    DESKTOP = "as the desktop"
    LINEN = "linen"
    LAMPBLACK = "lampblack"
    CHALK = "chalk, high contrast"


@dataclass(frozen=True)
class Theme:
    """The colours of a theme, by what they are for."""

    name: str
    ground: str
    panel: str
    field: str
    ink: str
    quiet: str
    rule: str
    edge: str
    outgoing: str
    outgoing_text: str
    incoming: str
    incoming_text: str
    seam: str
    selected: str

    def colour(self, name: str, alpha: float = 1.0) -> QColor:
        """The colour with that name; all who ask share it, so nobody may change it."""
        return _colour(getattr(self, name), alpha)


@cache
def _colour(code: str, alpha: float) -> QColor:
    result = QColor(code)
    result.setAlphaF(alpha)
    return result


LINEN = Theme(
    name="linen",
    ground="#E9E6DF",
    panel="#F5F3EE",
    field="#FFFFFF",
    ink="#2A2723",
    quiet="#5C574D",
    rule="#CFC9BD",
    edge="#7C7566",
    outgoing="#B8642A",
    outgoing_text="#99501D",
    incoming="#1F7470",
    incoming_text="#1A6661",
    seam="#B3261E",
    selected="#DCD3BF",
)
LAMPBLACK = Theme(
    name="lampblack",
    ground="#1C1C1C",
    panel="#272727",
    field="#1F1F1F",
    ink="#E9E7E3",
    quiet="#B6B3AD",
    rule="#444444",
    edge="#909090",
    outgoing="#DE9055",
    outgoing_text="#E59B63",
    incoming="#54B3AC",
    incoming_text="#5FBDB6",
    seam="#F07A70",
    selected="#46423A",
)
CHALK = Theme(
    name="chalk",
    ground="#000000",
    panel="#000000",
    field="#000000",
    ink="#FFFFFF",
    quiet="#F0F0F0",
    rule="#9A9A9A",
    edge="#FFFFFF",
    outgoing="#FFB454",
    outgoing_text="#FFD38A",
    incoming="#5BE3F5",
    incoming_text="#8CEBF8",
    seam="#FFB3AC",
    selected="#1F6A62",
)
THEMES = (LINEN, LAMPBLACK, CHALK)

_CHOSEN = {
    ThemeChoice.LINEN: LINEN,
    ThemeChoice.LAMPBLACK: LAMPBLACK,
    ThemeChoice.CHALK: CHALK,
}


def active() -> Theme:
    """The theme that is shown now."""
    app = QApplication.instance()
    name = app.property(_PROPERTY) if app is not None else None
    return next((one for one in THEMES if one.name == name), LINEN)


@cache
def load_font() -> str:
    """Makes the shipped font known; gives its family."""
    family = QFont().defaultFamily()
    for file in sorted((FOLDER / "fonts").glob("*.ttf")):
        number = QFontDatabase.addApplicationFont(str(file))
        families = QFontDatabase.applicationFontFamilies(number)
        family = families[0] if families else family
    return "Open Sans" if "Open Sans" in QFontDatabase.families() else family


def apply(app: QApplication, choice: ThemeChoice) -> None:
    """Shows the whole application in a theme."""
    theme = _CHOSEN.get(choice)
    if theme is None:
        hints = app.styleHints()
        dark = hints is not None and hints.colorScheme() is Qt.ColorScheme.Dark
        theme = LAMPBLACK if dark else LINEN
    app.setProperty(_PROPERTY, theme.name)
    font = QFont(load_font())
    font.setPixelSize(text_size.scaled(BASE))
    app.setFont(font)
    app.setPalette(_palette(theme))
    # From one sheet to the next Qt styles each widget several times, which takes six times as long.
    app.setStyleSheet("")
    app.setStyleSheet(_style_sheet(theme))
    text_size.follow(app)
    for widget in app.allWidgets():
        small = widget.property(_SMALL_FONT)
        if small:
            widget.setFont(small_font(widget.font(), small[0]))


@contextmanager
def unstyled() -> Iterator[None]:
    """Within it many widgets are put together; they are styled once, at its end.

    What is put into something else takes on its style anew, with all that lies in it: for a
    window that takes longer than all the rest.
    """
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        raise RuntimeError("there is no application yet")
    sheet = app.styleSheet()
    app.setStyleSheet("")
    try:
        yield
    finally:
        app.setStyleSheet(sheet)


def small_font(font: QFont, bold: bool = False) -> QFont:
    """The font for numbers on rulers and for second lines."""
    result = QFont(font)
    result.setPixelSize(text_size.scaled(_SMALL))
    if bold:
        result.setWeight(QFont.Weight.DemiBold)
    return result


def make_small(widget: QWidget, bold: bool = False) -> None:
    """A widget has that font, which follows the size of text from now on."""
    widget.setProperty(_SMALL_FONT, (bold,))
    widget.setFont(small_font(widget.font(), bold))


def _palette(theme: Theme) -> QPalette:
    palette = QPalette()
    roles = {
        QPalette.ColorRole.Window: theme.ground,
        QPalette.ColorRole.WindowText: theme.ink,
        QPalette.ColorRole.Base: theme.field,
        QPalette.ColorRole.AlternateBase: theme.panel,
        QPalette.ColorRole.Text: theme.ink,
        QPalette.ColorRole.Button: theme.panel,
        QPalette.ColorRole.ButtonText: theme.ink,
        QPalette.ColorRole.ToolTipBase: theme.panel,
        QPalette.ColorRole.ToolTipText: theme.ink,
        QPalette.ColorRole.PlaceholderText: theme.quiet,
        QPalette.ColorRole.Highlight: theme.selected,
        QPalette.ColorRole.HighlightedText: theme.ink,
    }
    for role, code in roles.items():
        palette.setColor(role, QColor(code))
    for role in (QPalette.ColorRole.Text, QPalette.ColorRole.ButtonText):
        palette.setColor(QPalette.ColorGroup.Disabled, role, QColor(theme.quiet))
    return palette


def _style_sheet(theme: Theme) -> str:
    row = text_size.scaled(20)
    arrow = (FOLDER / "icons" / f"fold-{theme.name}.svg").as_posix()
    return f"""
    QMainWindow, QDialog {{ background: {theme.ground}; }}
    QMenuBar {{ background: {theme.panel}; color: {theme.ink}; padding: 2px 8px; }}
    QMenuBar::item {{ padding: 4px 8px; background: transparent; }}
    QMenuBar::item:selected, QMenu::item:selected {{ background: {theme.selected}; }}
    QMenu {{ background: {theme.panel}; color: {theme.ink}; border: 1px solid {theme.rule}; }}
    QMenu::item {{ padding: 4px 24px 4px 20px; border: 1px solid transparent; }}
    QMenu::item:selected {{ border: 1px solid {theme.ink}; }}
    QMenu::icon, QMenu::indicator {{ left: 8px; }}
    QMenu::icon:checked {{ background: {theme.selected}; border: 1px solid {theme.ink};
        border-radius: 3px; }}
    QMenu::item:disabled {{ color: {theme.quiet}; }}
    QMenu::separator {{ height: 1px; background: {theme.rule}; margin: 4px 8px; }}
    QStatusBar {{ background: {theme.panel}; color: {theme.quiet};
        border-top: 1px solid {theme.rule}; }}
    QStatusBar::item {{ border: none; }}
    QStatusBar QLabel {{ padding: 0 12px; }}
    QToolTip {{ background: {theme.panel}; color: {theme.ink}; border: 1px solid {theme.rule};
        padding: 4px; }}
    QWidget#panel {{ background: {theme.panel}; }}
    QLabel#quiet {{ color: {theme.quiet}; }}
    QLabel#heading {{ font-weight: 600; font-size: {text_size.scaled(HEADING)}px; }}
    QLabel#section {{ color: {theme.quiet}; font-weight: 600; }}
    QLabel#fault {{ color: {theme.seam}; }}
    QLineEdit, QComboBox {{ background: {theme.field}; color: {theme.ink};
        border: 1px solid {theme.edge}; border-radius: 3px; padding: 1px 6px;
        min-height: {row}px; }}
    QLineEdit:focus, QComboBox:focus {{ border: 2px solid {theme.ink}; padding: 0 5px; }}
    QLineEdit[fault="true"] {{ border: 1px solid {theme.seam}; }}
    QComboBox::drop-down {{ border: none; width: 18px; }}
    QComboBox::down-arrow {{ image: url({arrow}); width: 10px; height: 10px; }}
    QComboBox QAbstractItemView {{ background: {theme.panel}; color: {theme.ink};
        selection-background-color: {theme.selected}; selection-color: {theme.ink}; }}
    QPushButton {{ background: {theme.panel}; color: {theme.ink}; border: 1px solid {theme.edge};
        border-radius: 4px; padding: 3px 12px; min-height: {row}px; }}
    QPushButton:hover {{ background: {theme.selected}; }}
    QPushButton:focus {{ border: 2px solid {theme.ink}; padding: 2px 11px; }}
    QPushButton:disabled {{ color: {theme.quiet}; }}
    QPushButton#main {{ background: {theme.ink}; color: {theme.panel}; font-weight: 600;
        border-color: {theme.ink}; }}
    QPushButton#main:disabled {{ background: {theme.quiet}; border-color: {theme.quiet}; }}
    /* At rest without a border, which Qt would draw though it is not seen: three times as long. */
    QToolButton {{ color: {theme.ink}; border: none; padding: 3px 7px; }}
    QToolButton:hover, QToolButton:checked {{ background: {theme.selected}; border-radius: 4px; }}
    /* What is on is not told by its colour alone. */
    QToolButton:checked {{ border-bottom: 2px solid {theme.ink}; padding-bottom: 1px; }}
    QToolButton:focus {{ border: 2px solid {theme.ink}; border-radius: 4px; padding: 1px 5px; }}
    QToolButton#colour {{ background: {theme.field}; border: 1px solid {theme.edge};
        border-radius: 3px; padding: 2px 6px; min-height: {row}px; }}
    QToolButton#narrow {{ padding: 3px 4px; }}
    QToolButton#narrow:focus {{ padding: 1px 2px; }}
    QToolButton#eye:checked {{ background: transparent; border: none; padding: 3px 7px; }}
    QToolButton#eye:focus {{ border: 2px solid {theme.ink}; padding: 1px 5px; }}
    QToolButton:disabled {{ color: {theme.quiet}; }}
    QPushButton#fold {{ background: transparent; border: none; color: {theme.quiet};
        font-weight: 600; text-align: left; padding: 2px 0; min-height: {row}px; }}
    QPushButton#fold:hover, QPushButton#fold:focus {{ color: {theme.ink}; border: none; }}
    QPushButton#fold:focus {{ text-decoration: underline; }}
    QToolButton#plain, QToolButton#toggle {{ background: {theme.field};
        border: 1px solid {theme.edge}; border-radius: 4px; padding: 2px 6px;
        min-height: {row - 2}px; }}
    QToolButton#toggle:checked {{ background: {theme.ink}; color: {theme.panel};
        border-color: {theme.ink}; }}
    QListWidget {{ background: {theme.field}; color: {theme.ink};
        border: 1px solid {theme.rule}; border-radius: 3px; }}
    QTreeView {{ background: {theme.field}; color: {theme.ink};
        border: 1px solid {theme.rule}; border-radius: 3px; }}
    QTreeView::item {{ padding: 4px 8px; }}
    QTreeView::item:selected {{ background: {theme.selected};
        border-top: 1px solid {theme.ink}; border-bottom: 1px solid {theme.ink}; }}
    QHeaderView::section {{ background: {theme.panel}; color: {theme.quiet}; border: none;
        border-bottom: 1px solid {theme.rule}; padding: 3px 10px; }}
    QListWidget#tiles {{ padding: 8px; }}
    QListWidget#pages::item {{ padding: 5px 8px; }}
    QListView#tiles {{ background: {theme.ground}; border: none; }}
    QListWidget::item:selected {{ background: {theme.selected}; color: {theme.ink};
        border: 1px solid {theme.ink}; }}
    QPlainTextEdit {{ background: {theme.field}; color: {theme.ink};
        border: 1px solid {theme.rule}; border-radius: 3px; }}
    QToolButton#add {{ color: {theme.seam}; font-weight: 600; }}
    QToolButton::menu-indicator {{ image: none; }}
    QScrollArea, QScrollArea > QWidget > QWidget#ground {{ background: transparent; border: none; }}
    QScrollBar:vertical {{ background: transparent; width: 10px; margin: 0; }}
    QScrollBar::handle:vertical {{ background: {theme.edge}; border-radius: 4px;
        min-height: 24px; margin: 1px; }}
    QScrollBar:horizontal {{ background: transparent; height: 10px; margin: 0; }}
    QScrollBar::handle:horizontal {{ background: {theme.edge}; border-radius: 4px;
        min-width: 24px; margin: 1px; }}
    QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page {{
        background: transparent; height: 0; width: 0; }}
    QSplitter::handle {{ background: {theme.ground}; }}
    QProgressBar {{ background: {theme.field}; border: 1px solid {theme.edge}; border-radius: 3px;
        text-align: center; color: {theme.ink}; min-height: {row - 2}px; }}
    QProgressBar::chunk {{ background: {theme.selected}; }}
    """
