"""Playing, stepping, and what the pictures are shown with."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QSizePolicy, QToolButton, QWidget

from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.icons import icon
from wrinkle.ui.pictures.player import Player
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.text_size import Extent, keep
from wrinkle.ui.theme import active, make_small

SPEEDS = (25, 50, 100)
"""Per cent of the true rate."""
RESOLUTIONS = {"full": 1.0, "half": 0.5, "quarter": 0.25}
BEGINS_WITH = "half"
_GROUPS = (
    ("loop", *(f"speed-{percent}" for percent in SPEEDS)),
    ("frame-back", "to-cut", "frame-on"),
    ("sheet", "plain", "before-after", "blur"),
)


class Transport(QWidget):
    """The row of controls under the pictures.

    Attributes:
        buttons: by the ends of the ids of what they do.
        plain: shows the clips without the wrinkle while it is held.

    Signals:
        sheetWanted: the contact sheet is switched on or off.
        resolutionChanged: the preview's size as a share of the full one.
    """

    sheetWanted = pyqtSignal(bool)
    resolutionChanged = pyqtSignal(float)

    def __init__(self, desk: Designing, player: Player) -> None:
        super().__init__()
        self._desk = desk
        self._player = player
        self.sheet_shown = False
        self.buttons = {name: _button() for group in _GROUPS for name in group}
        self.plain = self.buttons.pop("plain")
        self.plain.setAccessibleName("Plain cut, while it is held")
        self.plain.setToolTip("Held down: the clips without the wrinkle (hold B)")
        self.plain.pressed.connect(lambda: desk.looking.show_plain(True))
        self.plain.released.connect(lambda: desk.looking.show_plain(False))
        self._resolution = QComboBox()
        self._resolution.setAccessibleName("Preview size")
        self._resolution.addItems(list(RESOLUTIONS))
        self._resolution.setCurrentText(BEGINS_WITH)
        self._resolution.setSizePolicy(QSizePolicy.Policy.Minimum, QSizePolicy.Policy.Fixed)
        self._resolution.setToolTip("Size of the preview")
        self._resolution.currentTextChanged.connect(
            lambda text: self.resolutionChanged.emit(RESOLUTIONS[text])
        )
        self.ready = PlainLabel()
        self.ready.setObjectName("quiet")
        make_small(self.ready)
        keep(self.ready, Extent.LEAST_WIDTH, 56)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(8, 4, 8, 4)
        layout.setSpacing(2)
        for group in _GROUPS:
            for name in group:
                layout.addWidget(self.buttons.get(name, self.plain))
            layout.addStretch(1)
        layout.addWidget(self._resolution)
        layout.addWidget(self.ready)

    def bind(self, menus: Menus) -> None:
        """The buttons stand for what is in the menus."""
        self.themed()
        for name, button in self.buttons.items():
            menus.bind(f"bench.{name}", button, drawn=True)

    def themed(self) -> None:
        """Its own drawing is in the ink of the theme."""
        self.plain.setIcon(icon("plain", active().ink))

    def toggle(self) -> None:
        """Plays, or stops where it is."""
        if self._player.playing:
            self._player.stop()
        else:
            self._player.play(self._desk.looking.playhead)

    def toggle_sheet(self) -> None:
        """Shows the contact sheet, or the pictures."""
        self.sheet_shown = not self.sheet_shown
        self.sheetWanted.emit(self.sheet_shown)

    def show_progress(self, done: int, total: int) -> None:
        """How many frames are rendered."""
        self.ready.setToolTip(tip(f"{done} of {total} frames are rendered"))
        self.ready.setText("all ready" if done >= total else f"{done} of {total}")


def _button() -> QToolButton:
    button = QToolButton()
    button.setObjectName("narrow")
    return button
