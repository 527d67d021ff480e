"""What a person chose for the window; kept between sessions, as plain text and nothing else."""

from __future__ import annotations

from base64 import b64decode, b64encode
from binascii import Error
from collections.abc import Mapping
from contextlib import suppress
from fractions import Fraction
from pathlib import Path

import msgspec
import platformdirs
from msgspec.structs import replace
from PyQt6.QtCore import QByteArray

from wrinkle.core.store import DEFAULT_BUDGET
from wrinkle.files.whole import read_whole, write_whole
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.picture_lines import MOST_GUIDES, Guide, Lines
from wrinkle.ui.theme import ThemeChoice

_LARGEST = 1 << 20


class _Sound(msgspec.Struct, frozen=True, omit_defaults=True):
    """How sound is played."""

    device: str = ""
    level: float = 100.0
    muted: bool = False
    slow: bool = False


class _Chosen(msgspec.Struct, frozen=True, omit_defaults=True):
    """The file; what it does not know is left out when it is written next."""

    theme: str = ThemeChoice.DESKTOP.value
    geometry: str = ""
    memory: int = DEFAULT_BUDGET >> 20
    folders: dict[str, str] = {}
    handles: dict[str, str] = {}
    still: float = 5.0
    lines: tuple[str, ...] = ()
    guides: tuple[tuple[bool, float], ...] = ()
    sound: _Sound = _Sound()


class Preferences:
    """Reads and writes the preferences file; a damaged one counts as none, and is set aside."""

    MEMORY_RANGE = (128, 65536)
    """How many MiB kept pictures may take, at least and at most."""

    def __init__(self, folder: Path | None = None) -> None:
        folder = folder or Path(platformdirs.user_config_path("wrinkle"))
        self._path = folder / "preferences.json"
        self._chosen = _Chosen()
        self.fault = ""
        """One sentence on a damaged file; empty where there was none."""
        with suppress(OSError):
            try:
                self._chosen = msgspec.json.decode(read_whole(self._path, _LARGEST), type=_Chosen)
            except ValueError:
                aside = self._path.with_suffix(".damaged")
                self._path.replace(aside)
                self.fault = (
                    f"{self._path.name} cannot be read: it is damaged. It was set aside as "
                    f"{aside.name}, and the preferences begin anew."
                )

    @property
    def theme(self) -> ThemeChoice:
        """The chosen theme."""
        word = self._chosen.theme
        return next((x for x in ThemeChoice if x.value == word), ThemeChoice.DESKTOP)

    @theme.setter
    def theme(self, choice: ThemeChoice) -> None:
        self._keep(theme=choice.value)

    @property
    def geometry(self) -> QByteArray | None:
        """Where the window stood."""
        with suppress(Error, ValueError):
            found = b64decode(self._chosen.geometry, validate=True)
            return QByteArray(found) if found else None
        return None

    @geometry.setter
    def geometry(self, geometry: QByteArray) -> None:
        self._keep(geometry=b64encode(geometry.data()).decode())

    def handles(self, name: str) -> QByteArray | None:
        """Where the handles between parts of a place stood; None where nothing is known."""
        with suppress(Error, ValueError):
            found = b64decode(self._chosen.handles.get(name, ""), validate=True)
            return QByteArray(found) if found else None
        return None

    def keep_handles(self, states: Mapping[str, QByteArray]) -> None:
        """Keeps where they stand, by name."""
        kept = {name: b64encode(state.data()).decode() for name, state in states.items()}
        self._keep(handles={**self._chosen.handles, **kept})

    @property
    def memory(self) -> int:
        """Bytes that kept pictures may take."""
        least, most = self.MEMORY_RANGE
        return min(max(self._chosen.memory, least), most) << 20

    @memory.setter
    def memory(self, memory: int) -> None:
        self._keep(memory=memory >> 20)

    @property
    def still(self) -> Fraction:
        """Seconds for which a picture is seen that is added to a piece."""
        return Fraction(min(max(self._chosen.still, 0.01), 3600.0)).limit_denominator(1000)

    def serve(self, desk: Desk) -> None:
        """What was chosen counts on the desk, and what is chosen there from now on is kept."""
        for kind, folder in self._chosen.folders.items():
            desk.asking.remember(kind, folder)
        desk.asking.remembered.connect(
            lambda kind, folder: self._keep(folders={**self._chosen.folders, kind: folder})
        )
        sound, kept = desk.sound, self._chosen.sound
        sound.choose(kept.device, kept.level, kept.muted, kept.slow)
        sound.changed.connect(
            lambda: self._keep(sound=_Sound(sound.device, sound.level, sound.muted, sound.slow))
        )
        lines = desk.lines
        shown = [x for x in Lines if x.value in self._chosen.lines]
        within = [Guide(*x) for x in self._chosen.guides[:MOST_GUIDES] if 0.0 <= x[1] <= 1.0]
        lines.choose(shown, within)
        lines.changed.connect(
            lambda: self._keep(
                lines=tuple(sorted(x.value for x in lines.shown)),
                guides=tuple((x.upright, x.share) for x in lines.guides),
            )
        )
        desk.piece.set_still(self.still)
        desk.piece.stillChanged.connect(lambda: self._keep(still=float(desk.piece.still)))

    def _keep(self, **changed: object) -> None:
        before, self._chosen = self._chosen, replace(self._chosen, **changed)
        # Where it cannot be written it counts for as long as the window is open.
        if self._chosen != before:
            with suppress(OSError):
                self._path.parent.mkdir(parents=True, exist_ok=True)
                content = msgspec.json.encode(self._chosen)
                write_whole(self._path, msgspec.json.format(content, indent=2))
