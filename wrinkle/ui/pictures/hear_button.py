"""A button that lets what is shown be heard too, where it plays by itself."""

from __future__ import annotations

from PyQt6.QtWidgets import QToolButton

from wrinkle.ui import icons
from wrinkle.ui.pictures.sound_player import Make, SoundPlayer
from wrinkle.ui.shared.plain_text import tip
from wrinkle.ui.theme import active


class HearButton(QToolButton):
    """Off at first: what plays by itself is silent until somebody listens.

    Args:
        sound: who plays it.
        about: what is heard.
    """

    def __init__(self, sound: SoundPlayer, about: str) -> None:
        super().__init__()
        self._sound = sound
        self._make: Make | None = None
        self.setCheckable(True)
        self.setObjectName("narrow")
        self.setAccessibleName(about)
        self.setToolTip(tip(about))
        self.toggled.connect(self._show)
        self.themed()

    def offer(self, make: Make | None) -> None:
        """What would be heard from now on."""
        self._make = make
        self._show()

    def themed(self) -> None:
        """Its ear is drawn in the ink of the theme."""
        theme = active()
        self.setIcon(icons.icon("ear", theme.ink if self.isChecked() else theme.quiet))

    def _show(self) -> None:
        self._sound.set_heard(self._make if self.isChecked() else None)
        self.themed()
