"""What a person chose for the window; kept between sessions."""

from __future__ import annotations

from pathlib import Path

import platformdirs
from PyQt6.QtCore import QByteArray, QSettings

from wrinkle.core.store import DEFAULT_BUDGET
from wrinkle.ui.theme import ThemeChoice


class Preferences:
    """Reads and writes the preferences file."""

    MEMORY_RANGE = (128, 65536)
    """How many MiB kept pictures may take, at least and at most."""

    def __init__(self, folder: Path | None = None) -> None:
        folder = folder or Path(platformdirs.user_config_path("wrinkle"))
        self._file = QSettings(str(folder / "preferences.ini"), QSettings.Format.IniFormat)

    @property
    def theme(self) -> ThemeChoice:
        """The chosen theme."""
        word = self._file.value("theme", ThemeChoice.DESKTOP.value)
        return next((x for x in ThemeChoice if x.value == word), ThemeChoice.DESKTOP)

    @theme.setter
    def theme(self, choice: ThemeChoice) -> None:
        self._file.setValue("theme", choice.value)

    @property
    def geometry(self) -> QByteArray | None:
        """Where the window stood."""
        found = self._file.value("geometry")
        return found if isinstance(found, QByteArray) else None

    @geometry.setter
    def geometry(self, geometry: QByteArray) -> None:
        self._file.setValue("geometry", geometry)

    @property
    def memory(self) -> int:
        """Bytes that kept pictures may take."""
        text = str(self._file.value("memory", ""))
        mebibytes = int(text) if text.isdecimal() else DEFAULT_BUDGET >> 20
        least, most = self.MEMORY_RANGE
        return min(max(mebibytes, least), most) << 20

    @memory.setter
    def memory(self, memory: int) -> None:
        self._file.setValue("memory", str(memory >> 20))

    @property
    def folder(self) -> str:
        """Where the last file was opened or saved."""
        return str(self._file.value("folder", ""))

    @folder.setter
    def folder(self, folder: str) -> None:
        self._file.setValue("folder", folder)
