"""How the window looks: theme, size of text, whether anything moves by itself."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QCheckBox, QComboBox, QSpinBox, QVBoxLayout, QWidget

from wrinkle.ui.preferences import Preferences
from wrinkle.ui.shared.plain_text import PlainForm, PlainLabel
from wrinkle.ui.text_size import LEAST, MOST
from wrinkle.ui.theme import ThemeChoice

_STEP = 10


class LookPage(QWidget):
    """What is chosen is seen at once.

    Args:
        preferences: what is chosen.
        apply: shows everything as it is chosen now.
    """

    def __init__(self, preferences: Preferences, apply: Callable[[], object]) -> None:
        super().__init__()
        self._preferences = preferences
        self._apply = apply
        self.theme = QComboBox()
        self.theme.setAccessibleName("Theme")
        for choice in ThemeChoice:
            self.theme.addItem(choice.value, choice)
        self.theme.setCurrentIndex(self.theme.findData(preferences.theme))
        self.theme.activated.connect(self._choose_theme)
        self.text = QSpinBox()
        self.text.setAccessibleName("Size of text")
        self.text.setRange(LEAST, MOST)
        self.text.setSingleStep(_STEP)
        self.text.setSuffix(" %")
        self.text.setKeyboardTracking(False)
        self.text.setValue(preferences.text)
        self.text.valueChanged.connect(self._choose_text)
        self.less_motion = QCheckBox("Nothing moves by itself")
        self.less_motion.setChecked(preferences.less_motion)
        self.less_motion.toggled.connect(self._choose_motion)
        words = PlainLabel(
            "Tiles and moving cuts stand still then; what is played is played. Desktops that want "
            "less motion are heeded all the same."
        )
        words.setObjectName("quiet")
        words.setWordWrap(True)
        form = PlainForm()
        form.add("Theme", self.theme)
        form.add("Size of text", self.text)
        form.add("Motion", self.less_motion)
        column = QVBoxLayout(self)
        column.addLayout(form)
        column.addWidget(words)
        column.addStretch(1)

    def _choose_theme(self) -> None:
        self._preferences.theme = self.theme.currentData()
        self._apply()

    def _choose_text(self, per_cent: int) -> None:
        self._preferences.text = per_cent
        self._apply()

    def _choose_motion(self, less: bool) -> None:
        self._preferences.less_motion = less
        self._apply()
