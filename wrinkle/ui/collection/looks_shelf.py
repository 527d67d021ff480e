"""The shelf of looks: moving pictures, to be used, renamed, deleted and shared."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path

from PyQt6.QtGui import QHideEvent, QShowEvent
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QInputDialog,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design.document.looks import (
    LARGEST_LOOKS,
    Look,
    decode_looks,
    encode_looks,
    renamed,
)
from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Urgency, WorkLine
from wrinkle.core.naming import free_name
from wrinkle.core.picture.image import Image
from wrinkle.core.render.look_on import look_on
from wrinkle.files.whole import read_whole, write_whole
from wrinkle.library.looks import (
    delete_look,
    keep_look,
    own_looks,
    rename_look,
    shipped_looks,
)
from wrinkle.ui.actions.action import Action
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.choosing.tile_strip import shipped_look_strip
from wrinkle.ui.desk.layer_ground import layer_ground
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.shared.asking_files import FileEnding
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.picture_tiles import LARGE, STEPS, PictureTiles, TileEntry
from wrinkle.ui.shared.plain_text import PlainLabel

LOOKS_SUFFIX = ".looks.json"
_LOOKS = FileEnding(LOOKS_SUFFIX, "Looks")


class LooksShelf(QWidget):
    """All looks, shown on the selected layer's picture."""

    def __init__(self, desk: Supplying) -> None:
        super().__init__()
        self._desk = desk
        self._looks: list[Look] = []
        self._gone: list[Look] = []
        heading = PlainLabel("Looks")
        heading.setObjectName("heading")
        self.goal = ElidedLabel()
        self.goal.setObjectName("quiet")
        hint = "Search by name or by what a look is made of"
        what = "A thumbnail cannot be made"
        failed = desk.messages.faulted.emit
        self._line = WorkLine(desk.workers.jobs, Urgency.TILES, what, failed)
        self.tiles = PictureTiles("Looks", hint, self._found, self._line, LARGE)
        self.tiles.pointed.connect(self._describe)
        self.tiles.taken.connect(lambda key: self.use())
        self.about = PlainLabel()
        self.about.setObjectName("quiet")
        self.about.setWordWrap(True)
        self.use_button = QPushButton("Use on the layer")
        self.use_button.setObjectName("main")
        self.rename_button = QPushButton("Rename…")
        self.delete_button = QPushButton("Delete")
        self.back_button = QPushButton("Bring back")
        self.export_button = QPushButton("Save to a file…")
        self.import_button = QPushButton("Read from a file…")
        top = QHBoxLayout()
        top.addWidget(heading)
        top.addWidget(self.goal, 1)
        under = QHBoxLayout()
        under.addWidget(self.about, 1)
        for button in (
            self.import_button,
            self.export_button,
            self.rename_button,
            self.back_button,
            self.delete_button,
            self.use_button,
        ):
            under.addWidget(button)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.addLayout(top)
        column.addWidget(self.tiles, 1)
        column.addLayout(under)

    @property
    def look(self) -> Look | None:
        """The look that is pointed at."""
        entry = self.tiles.current
        key = entry.key if entry is not None else ""
        return next((one for one in self._looks if one.name == key), None)

    def use(self) -> None:
        """Adds the look to the selected layer."""
        desk, look = self._desk, self.look
        if look is None:
            return
        if not desk.looking.layer:
            desk.messages.faulted.emit("Select a layer on the Bench first; the look goes to it.")
        elif desk.document.add_look(desk.looking.layer, look):
            name = desk.document.state.layer(desk.looking.layer).name
            desk.messages.told.emit(f"The look {look.name} acts on {name} now.")
            self._begin()

    def rename(self, name: str) -> None:
        """Gives the look another name."""
        look = self.look
        if look is not None and self._done(partial(rename_look, look.name, name)):
            self._show(name.strip())

    def delete(self) -> None:
        """Deletes an own look; it can be brought back while the window is open."""
        look = self.look
        if look is None or look in shipped_looks():
            return
        if self._done(partial(delete_look, look.name)):
            self._gone.append(look)
            self._desk.messages.told.emit(
                f"The look {look.name} is deleted; Bring back keeps it again."
            )
            self._show("")

    def bring_back(self) -> None:
        """Keeps the look again that was taken out last."""
        if self._gone:
            look = self._free(self._gone[-1])
            if self._done(partial(keep_look, look)):
                self._gone.pop()
                self._show(look.name)

    def save_to(self, path: Path) -> None:
        """Writes the look to a file of its own."""
        look = self.look
        if look is None:
            return
        if not path.name.endswith(LOOKS_SUFFIX):
            path = path.with_name(path.name + LOOKS_SUFFIX)
        try:
            write_whole(path, encode_looks([look]))
        except OSError as fault:
            self._desk.messages.faulted.emit(f"{path.name} cannot be written: {fault.strerror}.")
        else:
            self._desk.messages.told.emit(f"The look {look.name} is in {path.name}.")

    def read_from(self, path: Path) -> None:
        """Keeps the looks of a file; a name that is taken gets a number."""
        try:
            looks = decode_looks(path.name, read_whole(path, LARGEST_LOOKS))
            for number, look in enumerate(looks):
                looks[number] = self._free(look)
                keep_look(looks[number])
        except OSError as fault:
            self._desk.messages.faulted.emit(f"{path.name} cannot be opened: {fault.strerror}.")
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
        else:
            count = f"{len(looks)} look{'' if len(looks) == 1 else 's'}"
            self._desk.messages.told.emit(f"{count} read from {path.name}.")
            self._show(looks[-1].name if looks else "")

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        desk = self._desk
        layer = desk.looking.layer
        name = desk.document.state.layer(layer).name if layer else ""
        self.goal.setText(f"on {name}, the selected layer" if layer else "no layer is selected")
        self._begin()

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self.tiles.stop()

    def _begin(self) -> None:
        """Shows the looks on the selected layer as it is now."""
        desk = self._desk
        self.tiles.start(layer_ground(desk, desk.looking.layer, LARGE))

    def actions_here(self) -> Sequence[Action]:
        """What can be done with the look that is pointed at."""

        def not_shown() -> str:
            return "" if self.isVisible() else "Show the looks first."

        def none() -> str:
            return not_shown() or ("" if self.look is not None else "Choose a look first.")

        def no_layer() -> str:
            layer = self._desk.looking.layer
            return none() or ("" if layer else "Select a layer on the Bench first.")

        def none_of_own() -> str:
            ships = self.look in shipped_looks()
            return none() or ("What ships stays as it is." if ships else "")

        def nothing_gone() -> str:
            return not_shown() or ("" if self._gone else "Nothing was deleted.")

        rows: list[tuple[str, str, Callable[[], object], str, str, Callable[[], str]]] = [
            ("use", "Use the look on the layer", self.use, "Edit",
             "Gives the selected layer the effects of the look.", no_layer),
            ("rename", "Rename the look…", self._ask_name, "Edit",
             "Gives the look another name.", none_of_own),
            ("delete", "Delete the look", self.delete, "Edit",
             "Takes the look away; it can be brought back.", none_of_own),
            ("back", "Bring the look back", self.bring_back, "Edit",
             "Brings back what was deleted last.", nothing_gone),
            ("export", "Save the look to a file…", self._ask_goal, "File",
             "Writes the look to a file, to be passed on.", none),
            ("import", "Read looks from a file…", self._ask_source, "File",
             "Keeps the looks of a file among your own.", not_shown),
        ]  # fmt: skip
        return [
            Action(f"looks.{name}", label, act, menu, 50, says=says, why_not=why_not)
            for name, label, act, menu, says, why_not in rows
        ]

    def bind(self, menus: Menus) -> None:
        """The buttons stand for what is in the menus."""
        for name, button in (
            ("use", self.use_button),
            ("rename", self.rename_button),
            ("delete", self.delete_button),
            ("back", self.back_button),
            ("export", self.export_button),
            ("import", self.import_button),
        ):
            menus.bind(f"looks.{name}", button)

    def _ask_name(self) -> None:
        look = self.look
        if look is not None:
            title, ask = "Rename a look", "Name of the look"
            name, taken = QInputDialog.getText(self, title, ask, text=look.name)
            if taken:
                self.rename(name)

    def _ask_goal(self) -> None:
        look = self.look
        if look is not None:
            asking = self._desk.asking
            path = asking.goal(self, "Save the look", "look", look.name, (_LOOKS,))
            if path is not None:
                self.save_to(path)

    def _ask_source(self) -> None:
        path = self._desk.asking.file(self, "Read looks from a file", "look", _LOOKS.filter)
        if path is not None:
            self.read_from(path)

    def _found(self, words: str) -> list[TileEntry]:
        """The looks that have all the words; the own ones first."""
        try:
            own = own_looks()
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            own = []
        self._looks = [*own, *shipped_looks()]
        return [
            TileEntry(
                look.name,
                f"{look.name}\n{'shipped' if look in shipped_looks() else 'your own'}",
                f"{look.name}: {look.about}.",
                partial(_shown, look),
                shipped_look_strip(look),
            )
            for look in self._looks
            if look.matches(words)
        ]

    def _describe(self) -> None:
        look = self.look
        words = self.tiles.search.text()
        self.about.setText(
            self.tiles.about if look is not None else f"No look is found by '{words}'."
        )
        own = look is not None and look not in shipped_looks()
        for button in (self.rename_button, self.delete_button):
            button.setEnabled(own)
        for button in (self.use_button, self.export_button):
            button.setEnabled(look is not None)
        self.back_button.setEnabled(bool(self._gone))

    def _done(self, act: Callable[[], None]) -> bool:
        """Whether a change of what is kept was carried out; if not, why is told."""
        try:
            act()
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            return False
        return True

    def _show(self, name: str) -> None:
        """Lists what is kept now, and points at a look."""
        self.tiles.forget(name)
        self.tiles.fill()
        self.tiles.point_at(name)
        self._describe()

    def _free(self, look: Look) -> Look:
        """The look under a name that no other has."""
        taken = {one.name for one in (*own_looks(), *shipped_looks())}
        return renamed(look, free_name(look.name, taken.__contains__))


def _shown(look: Look, picture: Image, step: int) -> Image:
    return look_on(look, picture, step / STEPS)
