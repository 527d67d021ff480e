"""Playing, stepping, and what the pictures are shown with."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QAbstractButton,
    QButtonGroup,
    QComboBox,
    QHBoxLayout,
    QToolButton,
    QWidget,
)

from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.pictures.player import Player
from wrinkle.ui.shared.plain_text import PlainLabel
from wrinkle.ui.theme import small_font

_SPEEDS = (25, 50, 100)
RESOLUTIONS = {"full": 1.0, "half": 0.5, "quarter": 0.25}


class Transport(QWidget):
    """The row of controls under the pictures.

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
        self.sheet = self._button(
            "Sheet", "Contact sheet: every frame of the window at once (G)", True
        )
        self.sheet.toggled.connect(self.sheetWanted)
        self.back = self._button("Back", "One frame back (Left; with Shift five)")
        self.back.clicked.connect(lambda: desk.looking.set_playhead(desk.looking.playhead - 1))
        self.cut = self._button("Cut", "The first incoming frame (0)")
        self.cut.clicked.connect(lambda: desk.looking.set_playhead(0))
        self.on = self._button("On", "One frame on (Right; with Shift five)")
        self.on.clicked.connect(lambda: desk.looking.set_playhead(desk.looking.playhead + 1))
        self.loop = self._button("Loop", "Play the window in a loop, or stop (Space)", True)
        self.loop.setStyleSheet("font-weight: 600;")
        self.loop.clicked.connect(self.toggle)
        player.playingChanged.connect(self._show_playing)
        self._speeds = QButtonGroup(self)
        speeds = []
        for percent in _SPEEDS:
            button = self._button(
                _speed_word(percent), f"Play at {percent} % of the true rate", True
            )
            button.setChecked(percent == 100)
            self._speeds.addButton(button, percent)
            speeds.append(button)
        self._speeds.idClicked.connect(lambda percent: player.set_speed(percent / 100))
        self.plain = self._button("Plain", "Held down: the clips without the wrinkle (hold B)")
        self.plain.pressed.connect(lambda: desk.looking.show_plain(True))
        self.plain.released.connect(lambda: desk.looking.show_plain(False))
        self.split = self._button(
            "Split", "A line in the picture: before the effects | after them (Shift+E)", True
        )
        self.split.clicked.connect(desk.looking.show_split)
        desk.looking.viewChanged.connect(lambda: self.split.setChecked(desk.looking.split))
        self.blur = self._button("Blur", "Show with or without motion blur (M)", True)
        self.blur.setChecked(True)
        self.blur.toggled.connect(desk.looking.show_motion_blur)
        self._resolution = QComboBox()
        self._resolution.setAccessibleName("Preview size")
        self._resolution.addItems(list(RESOLUTIONS))
        self._resolution.setCurrentText("half")
        self._resolution.setMinimumWidth(self._resolution.sizeHint().width())
        self._resolution.setToolTip("Size of the preview")
        self._resolution.currentTextChanged.connect(
            lambda text: self.resolutionChanged.emit(RESOLUTIONS[text])
        )
        self.ready = PlainLabel()
        self.ready.setObjectName("quiet")
        self.ready.setFont(small_font(self.font()))
        self.ready.setMinimumWidth(56)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(8, 4, 8, 4)
        layout.setSpacing(2)
        for group in (
            [self.loop, *speeds],
            [self.back, self.cut, self.on],
            [self.sheet, self.plain, self.split, self.blur],
        ):
            for button in group:
                layout.addWidget(button)
            layout.addStretch(1)
        layout.addWidget(self._resolution)
        layout.addWidget(self.ready)

    def speed_button(self, percent: int) -> QAbstractButton | None:
        """The button of a speed."""
        return self._speeds.button(percent)

    def toggle(self) -> None:
        """Plays, or stops where it is."""
        if self._player.playing:
            self._player.stop()
        else:
            self._player.play(self._desk.looking.playhead)
        self._show_playing(self._player.playing)

    def toggle_blur(self) -> None:
        """Shows with or without motion blur."""
        self.blur.toggle()

    def toggle_sheet(self) -> None:
        """Shows the contact sheet, or the pictures."""
        self.sheet.toggle()

    def show_progress(self, done: int, total: int) -> None:
        """How many frames are rendered."""
        self.ready.setToolTip(f"{done} of {total} frames are rendered")
        self.ready.setText("all ready" if done >= total else f"{done} of {total}")

    def _show_playing(self, playing: bool) -> None:
        self.loop.setChecked(playing)
        self.loop.setText("Stop" if playing else "Loop")

    def _button(self, text: str, about: str, checkable: bool = False) -> QToolButton:
        button = QToolButton()
        button.setText(text)
        button.setObjectName("narrow")
        button.setToolTip(about)
        button.setCheckable(checkable)
        return button


def _speed_word(percent: int) -> str:
    """The sign stands once, after the last of them."""
    return f"{percent} %" if percent == _SPEEDS[-1] else str(percent)
