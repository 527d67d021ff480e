"""The colour tables that ship, and those in a folder of the person's own, each as it looks."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache, partial
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtWidgets import QToolButton, QWidget

from wrinkle.core.effects.effect import Scene, Values
from wrinkle.core.effects.registry import effect
from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Image
from wrinkle.core.picture.lut import LARGEST_CUBE, Lut, parse_cube
from wrinkle.core.searching import holds_words
from wrinkle.files.whole import read_whole
from wrinkle.library.choices import SHIPPED_LUTS, choices, keep_choices, luts
from wrinkle.ui.bench.lists.picture_list import PictureList
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.shared.picture_tiles import STEPS, TileEntry

_KEPT = 64


class LutList(PictureList):
    """Chooses a colour table; what is chosen is its path."""

    def __init__(self, desk: Supplying, layer: str, parent: QWidget | None = None) -> None:
        hint = "Search by name"
        super().__init__("Choose a LUT", hint, self.entries, self.nothing, desk, layer, parent)
        self.take_button.setText("Take")
        self.folder_button = QToolButton()
        self.folder_button.setText("Folder…")
        self.folder_button.setToolTip("The folder that holds your own .cube files")
        self.folder_button.clicked.connect(self._choose_folder)
        self.file_button = QToolButton()
        self.file_button.setText("File…")
        self.file_button.setToolTip("A .cube file from anywhere")
        self.file_button.clicked.connect(self._choose_file)
        self.tiles.top.addWidget(self.folder_button)
        self.tiles.top.addWidget(self.file_button)
        try:
            self._tables = luts(choices().lut_folder)
        except InputError as fault:
            desk.messages.faulted.emit(str(fault))
            self._tables = luts("")
        self.begin()

    def entries(self, words: str) -> list[TileEntry]:
        """The tables whose name or folder has all the words."""
        return [x for x in lut_entries(self._tables) if holds_words(x.label, words)]

    def nothing(self, words: str) -> str:
        """What to say where there is no table."""
        return f"No LUT is found by '{words}'; try another word, or another folder."

    def take_folder(self, folder: Path) -> None:
        """Lists the tables of another folder, now and later."""
        try:
            keep_choices(replace(choices(), lut_folder=str(folder)))
        except InputError as fault:
            self.desk.messages.faulted.emit(str(fault))
        self._tables = luts(str(folder))
        self.tiles.fill()
        if all(path.parent == SHIPPED_LUTS for path in self._tables):
            self.about.setText(f"There is no .cube file in {folder.name} or the folders in it.")

    def _choose_folder(self) -> None:
        folder = self.desk.asking.folder(self, "The folder of your LUTs", "lut")
        if folder is not None:
            self.take_folder(folder)

    def _choose_file(self) -> None:
        path = self.desk.asking.file(self, "Choose a LUT", "lut", "LUTs (*.cube)")
        if path is not None:
            self.chosen.emit(str(path))
            self.accept()


def lut_entries(tables: Sequence[Path], place: str = "") -> list[TileEntry]:
    """Colour tables as things to choose; the key of each is its path.

    Args:
        tables: their files.
        place: what stands under the name; by default the folder.
    """
    return [
        TileEntry(
            str(path),
            f"{_named(path)}\n{place or _place(path)}",
            _about(path),
            partial(_shown, path),
        )
        for path in tables
    ]


def _named(path: Path) -> str:
    return path.stem.replace("_", " ").capitalize()


def _place(path: Path) -> str:
    return "shipped" if path.parent == SHIPPED_LUTS else path.parent.name


def _about(path: Path) -> str:
    return f"{path.name}: it goes with the wrinkle."


@lru_cache(maxsize=_KEPT)
def _table(path: Path, changed: float) -> Lut:
    return parse_cube(path.name, read_whole(path, LARGEST_CUBE))


def _shown(path: Path, picture: Image, step: int) -> Image:
    """The picture on its way through the table and back."""
    try:
        table = _table(path, path.stat().st_mtime)
    except OSError as fault:
        raise InputError(f"{path.name} cannot be opened: {fault.strerror}.") from None
    share = 1.0 - abs(step / (STEPS / 2) - 1.0)
    scene = Scene.whole(picture.size, preview=True, lut=table)
    return effect("lut").applied(picture, Values({"amount": 100.0 * share}), scene)
