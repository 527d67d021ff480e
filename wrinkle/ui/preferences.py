"""What a person chose for the window; kept between sessions, as plain text and nothing else."""

from __future__ import annotations

import dataclasses
from base64 import b64decode, b64encode
from binascii import Error
from collections.abc import Mapping
from contextlib import suppress
from fractions import Fraction
from pathlib import Path
from typing import NamedTuple

import msgspec
import platformdirs
from msgspec.structs import replace
from PyQt6.QtCore import QByteArray
from PyQt6.QtWidgets import QApplication

from wrinkle.core.design.edits import wrinkle_edits
from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Size
from wrinkle.core.store import DEFAULT_BUDGET
from wrinkle.core.time.rate import FrameRate
from wrinkle.files.presence import is_there
from wrinkle.files.whole import read_whole, write_whole
from wrinkle.library.versions import MOST
from wrinkle.ui import less_motion, text_size, theme
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.picture_lines import MOST_GUIDES, Guide, Lines
from wrinkle.ui.text_size import AS_DRAWN
from wrinkle.ui.theme import ThemeChoice

_LARGEST = 1 << 20
_RECENT = 12


class NewFrame(NamedTuple):
    """With what something new begins.

    Attributes:
        size: of its frame.
        rate: of its frames.
    """

    size: Size
    rate: FrameRate


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
    text: int = AS_DRAWN
    less_motion: bool = False
    memory: int = DEFAULT_BUDGET >> 20
    frame: str = ""
    rate: str = ""
    versions: int = MOST
    keys: dict[str, tuple[str, ...]] = {}
    recent: tuple[str, ...] = ()
    first_step: int = 0
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
    VERSIONS_RANGE = (1, 50)
    """How many versions of a file are kept, at least and at most."""

    def __init__(self, folder: Path | None = None) -> None:
        folder = folder or Path(platformdirs.user_config_path("wrinkle"))
        self._path = folder / "preferences.json"
        self._chosen = _Chosen()
        self.is_new = not is_there(self._path)
        """Whether nobody chose anything yet: the program is begun for the first time."""
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
    def text(self) -> int:
        """The size of text in per cent, 80…150."""
        return min(max(self._chosen.text, text_size.LEAST), text_size.MOST)

    @text.setter
    def text(self, per_cent: int) -> None:
        self._keep(text=min(max(per_cent, text_size.LEAST), text_size.MOST))

    @property
    def less_motion(self) -> bool:
        """Whether nothing moves by itself."""
        return self._chosen.less_motion

    @less_motion.setter
    def less_motion(self, less: bool) -> None:
        self._keep(less_motion=less)

    @property
    def new_frame(self) -> NewFrame | None:
        """The frame and rate with which something new begins; None for those of its first clip."""
        with suppress(InputError):
            if self._chosen.frame and self._chosen.rate:
                frame, rate = Size.parse(self._chosen.frame), FrameRate.parse(self._chosen.rate)
                return NewFrame(frame.even, rate)
        return None

    @new_frame.setter
    def new_frame(self, wanted: NewFrame | None) -> None:
        frame, rate = (wanted.size.label, wanted.rate.label) if wanted is not None else ("", "")
        self._keep(frame=frame, rate=rate)

    @property
    def versions(self) -> int:
        """How many saved versions of a file are kept."""
        least, most = self.VERSIONS_RANGE
        return min(max(self._chosen.versions, least), most)

    @versions.setter
    def versions(self, count: int) -> None:
        self._keep(versions=count)

    @property
    def keys(self) -> Mapping[str, tuple[str, ...]]:
        """The keys of actions, by their ids, where they are others than usual."""
        return self._chosen.keys

    def set_keys(self, name: str, keys: tuple[str, ...] | None) -> None:
        """Other keys do an action; its own again for None."""
        kept = {x: y for x, y in self._chosen.keys.items() if x != name}
        self._keep(keys=kept if keys is None else {**kept, name: keys})

    def usual_keys(self) -> None:
        """Every action has its own keys again."""
        self._keep(keys={})

    @property
    def recent(self) -> tuple[Path, ...]:
        """The files that were opened or saved last, the newest first."""
        return tuple(map(Path, self._chosen.recent))

    @property
    def first_step(self) -> int:
        """The step of the guide that was reached, from 0."""
        return self._chosen.first_step

    def reach_step(self, number: int) -> None:
        """The guide has come to a step."""
        self._keep(first_step=number)

    def note_recent(self, path: Path) -> None:
        """A file was opened or saved."""
        others = [x for x in self._chosen.recent if x != str(path)]
        self._keep(recent=(str(path), *others)[:_RECENT])

    def forget_recent(self, path: Path | None = None) -> None:
        """One of them is no longer listed, or none is."""
        left = tuple(x for x in self._chosen.recent if path is not None and x != str(path))
        self._keep(recent=left)

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
        self.begin_new(desk)
        desk.piece.set_still(self.still)
        desk.piece.stillChanged.connect(lambda: self._keep(still=float(desk.piece.still)))

    def apply_look(self, app: QApplication) -> None:
        """Shows the whole application as it is chosen."""
        less_motion.choose(app, self.less_motion)
        text_size.choose(app, self.text)
        theme.apply(app, self.theme)

    def begin_new(self, desk: Desk) -> None:
        """New wrinkles and pieces begin with the chosen frame."""
        frame = self.new_frame
        if frame is None:
            desk.document.begin_new_with(None)
            desk.piece.begin_new_with(None)
            return
        size, rate = frame
        desk.document.begin_new_with(lambda x: wrinkle_edits.set_frame(x, size, rate))
        desk.piece.begin_new_with(lambda x: dataclasses.replace(x, size=size, rate=rate))

    def _keep(self, **changed: object) -> None:
        before, self._chosen = self._chosen, replace(self._chosen, **changed)
        # Where it cannot be written it counts for as long as the window is open.
        if self._chosen != before:
            with suppress(OSError):
                self._path.parent.mkdir(parents=True, exist_ok=True)
                content = msgspec.json.encode(self._chosen)
                write_whole(self._path, msgspec.json.format(content, indent=2))
