"""The wrinkle that is designed: its edits, the files it carries, and the file it is saved in."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.design import archive, coding, effect_edits
from wrinkle.core.design.archive import Bundle
from wrinkle.core.design.document import Wrinkle, plain_cut
from wrinkle.core.design.history import History
from wrinkle.core.design.looks import Look, look_of
from wrinkle.core.errors import InputError
from wrinkle.core.files import read_whole, state_of
from wrinkle.core.jobs import sentence_for
from wrinkle.core.picture.image import Size
from wrinkle.core.store import Store
from wrinkle.media.assets import LARGEST_ASSET, Assets, read_assets
from wrinkle.ui.desk.editing import Editing, Steps
from wrinkle.ui.desk.messages import Messages


class WrinkleDocument(QObject):
    """A wrinkle on an ``Editing``.

    Signals:
        changed: the wrinkle that is seen is another one.
        fileChanged: its name, its file, its steps or whether it is saved.
        opened: another wrinkle has taken the place.
        saved: it was written to a file: the path, and what was written (Bundle).
    """

    changed = pyqtSignal()
    fileChanged = pyqtSignal()
    opened = pyqtSignal()
    saved = pyqtSignal(object, object)

    def __init__(self, steps: Steps, messages: Messages, store: Store) -> None:
        super().__init__()
        self._editing: Editing[Wrinkle] = Editing(
            plain_cut(), steps, messages, coding.check_lasting
        )
        self._messages = messages
        self._store = store
        self._assets: dict[str, bytes] = {}
        self._read = Assets(store=store)
        self._path: Path | None = None
        self._written: tuple[int, ...] | None = None
        self._editing.changed.connect(self.changed)
        self._editing.historyChanged.connect(self.fileChanged)

    @property
    def wrinkle(self) -> Wrinkle:
        """The wrinkle as it is seen now, previews included."""
        return self._editing.state

    @property
    def frame_size(self) -> Size:
        """The full size of the picture that is designed in."""
        return Size(*self.wrinkle.reference_size)

    @property
    def path(self) -> Path | None:
        """The file, if there is one yet."""
        return self._path

    @property
    def unsaved(self) -> bool:
        """Whether the wrinkle differs from its file."""
        return self._editing.unsaved

    @property
    def previewing(self) -> bool:
        """Whether a gesture goes on."""
        return self._editing.previewing

    @property
    def read(self) -> Assets:
        """The pictures and colour tables that the wrinkle carries."""
        return self._read

    @property
    def assets(self) -> dict[str, bytes]:
        """The bytes of all that was ever carried; undo may want it back."""
        return self._assets

    @property
    def history(self) -> History[Wrinkle]:
        """All steps."""
        return self._editing.history

    @property
    def saved_state(self) -> Wrinkle:
        """What is in the file, or what it began with."""
        return self._editing.saved

    def bundle(self) -> Bundle:
        """What a file holds: the wrinkle and the assets it needs."""
        wrinkle = self._editing.committed
        return Bundle(wrinkle, {name: self._assets[name] for name in wrinkle.assets()})

    # Edits

    def edit(self, label: str, change: Callable[[Wrinkle], Wrinkle]) -> bool:
        """One step. A refused value is told; gives whether it was taken."""
        return self._editing.edit(label, change)

    def preview(self, change: Callable[[Wrinkle], Wrinkle]) -> bool:
        """Shows what a gesture would do, starting from the state before it."""
        return self._editing.preview(change)

    def commit(self, label: str) -> None:
        """Makes what is previewed one step."""
        self._editing.commit(label)

    def abandon(self) -> None:
        """Goes back to the state before the gesture."""
        self._editing.abandon()

    def look_of(self, name: str, layer: str, use: str = "") -> Look:
        """The effects of a layer as a look, or one of them.

        Raises:
            InputError: the name is empty, or there is no effect.
        """
        chain = [x for x in self.wrinkle.layer(layer).effects if use in ("", x.id)]
        return look_of(name, chain, self._assets)

    def add_look(self, layer: str, look: Look) -> bool:
        """Adds a look or a copied chain to a layer, its colour tables to the document."""
        try:
            names = {name: self.keep_asset(name, given) for name, given in look.tables.items()}
        except InputError as fault:
            self._messages.faulted.emit(str(fault))
            return False
        chain = [replace(use, asset=names.get(use.asset, "")) for use in look.effects]
        return self.edit(look.name, lambda w: effect_edits.add_chain(w, layer, chain))

    def keep_asset(self, name: str, content: bytes) -> str:
        """Keeps a picture or a colour table with the document; gives the name it is called by.

        Raises:
            InputError: the bytes are neither.
        """
        read, given = self._read.with_asset(name, content), name
        stem, dot, ending = name.rpartition(".")
        number = 1
        while self._assets.get(name, content) != content:
            number += 1
            name = f"{stem}-{number}{dot}{ending}"
        self._assets[name] = content
        self._read = read if name == given else self._read.with_asset(name, content)
        return name

    def keep_file(self, path: Path) -> str | None:
        """Keeps a picture file or a colour table with the document.

        Gives the name it is called by; None where it cannot be read, which is told.
        """
        try:
            return self.keep_asset(path.name, read_whole(path, LARGEST_ASSET))
        except OSError as fault:
            self._messages.faulted.emit(f"{path.name} cannot be opened: {fault.strerror}.")
        except InputError as fault:
            self._messages.faulted.emit(str(fault))
        return None

    # Files

    def start_new(self) -> None:
        """A new wrinkle on the clips that are there."""
        self.open_copy(Bundle(plain_cut()))

    def open(self, path: Path) -> bool:
        """Opens a file; on a fault the open document stays untouched."""
        try:
            self._begin(archive.read(path), path)
        except InputError as fault:
            self._messages.faulted.emit(str(fault))
            return False
        self._messages.told.emit(f"{path.name} is open.")
        return True

    def open_copy(self, bundle: Bundle) -> None:
        """Opens a bundle as a new document.

        Raises:
            InputError: an asset cannot be read.
        """
        self._begin(bundle, None)

    def put_back(self, label: str, bundle: Bundle) -> bool:
        """Puts an earlier version in the place of the wrinkle, as a step.

        Raises:
            InputError: an asset of it cannot be read.
        """
        for name, content in bundle.assets.items():
            if self._assets.get(name, content) != content:
                raise InputError(
                    f"Another {name} is in the wrinkle now; open the version as a file of its own."
                )
        read_assets(bundle.assets, self._store)
        for name, content in bundle.assets.items():
            self.keep_asset(name, content)
        return self.edit(label, lambda _: bundle.wrinkle)

    def take_up(
        self,
        history: History[Wrinkle],
        saved: Wrinkle,
        assets: Mapping[str, bytes],
        path: Path | None,
    ) -> None:
        """Takes up work where it was left, with all its steps.

        Raises:
            InputError: an asset cannot be read.
        """
        read = read_assets(assets, self._store)
        self._assets, self._read = dict(assets), read
        self._path, self._written = path, state_of(path)
        self.opened.emit()
        self._editing.resume(history, saved)

    def save(self, path: Path) -> bool:
        """Saves to a file; gives whether it was written."""
        bundle = self.bundle()
        try:
            archive.write(path, bundle)
        except Exception as fault:  # noqa: BLE001 - whatever went wrong, nothing may be lost
            self._messages.faulted.emit(sentence_for(fault, f"{path.name} cannot be saved"))
            return False
        self._path, self._written = path, state_of(path)
        self._editing.mark_saved()
        self._messages.told.emit(f"{path.name} is saved.")
        self.saved.emit(path, bundle)
        return True

    @property
    def changed_outside(self) -> bool:
        """Whether another program has written the file since it was opened or saved."""
        return self._path is not None and state_of(self._path) not in (None, self._written)

    def discard_changes(self) -> None:
        """Gives the changes up: nothing asks for them to be saved any more."""
        self._editing.mark_saved()

    def _begin(self, bundle: Bundle, path: Path | None) -> None:
        read = read_assets(bundle.assets, self._store)
        self._assets, self._read = dict(bundle.assets), read
        self._path, self._written = path, state_of(path)
        self.opened.emit()
        self._editing.begin(bundle.wrinkle)
