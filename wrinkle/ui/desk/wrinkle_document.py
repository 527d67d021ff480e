"""The wrinkle that is designed: what its kind brings to the shell, and the files it carries."""

from __future__ import annotations

from pathlib import Path

from msgspec.structs import replace

from wrinkle.core.design.document import coding
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.looks import Look, look_of
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import effect_edits, sound_edits, wrinkle_edits
from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Size
from wrinkle.core.sound.clip_sound import count_of
from wrinkle.core.store import Store
from wrinkle.files import archive
from wrinkle.files.archive import SUFFIX
from wrinkle.files.presence import is_folder
from wrinkle.files.whole import read_whole
from wrinkle.library.kept_wrinkle import WrinkleCodec
from wrinkle.media.assets import LARGEST_ASSET, Assets, read_assets
from wrinkle.ui.desk.document import Document, DocumentKind, FileContent, Suffix
from wrinkle.ui.desk.editing import StepOrder
from wrinkle.ui.desk.messages import Messages

Carried = dict[str, bytes]
"""The bytes of all that was ever carried, by name; undo may want them back."""


def _read(path: Path) -> FileContent[Wrinkle, Carried]:
    bundle = archive.read(path)
    # What ships is a folder, and nobody saves over it.
    return FileContent(bundle.wrinkle, dict(bundle.assets), ours=not is_folder(path))


def _bundled(wrinkle: Wrinkle, carried: Carried) -> Bundle:
    """What a file holds: the wrinkle and the assets it needs."""
    return Bundle(wrinkle, {name: carried[name] for name in wrinkle.assets()})


WRINKLES: DocumentKind[Wrinkle, Carried] = DocumentKind(
    word="wrinkle",
    suffixes=(Suffix(SUFFIX, "Wrinkles"),),
    codec=WrinkleCodec(),
    empty=plain_cut,
    no_rest=dict,
    renamed=wrinkle_edits.rename,
    read=_read,
    write=lambda path, wrinkle, carried: archive.write(path, _bundled(wrinkle, carried)),
    check=coding.check_lasting,
)


class WrinkleDocument(Document[Wrinkle, Carried]):
    """A wrinkle with its assets."""

    def __init__(self, steps: StepOrder, messages: Messages, store: Store) -> None:
        self._store = store
        self._read = Assets(store=store)
        super().__init__(WRINKLES, steps, messages)

    @property
    def frame_size(self) -> Size:
        """The full size of the picture that is designed in."""
        return Size(*self.state.reference_size)

    @property
    def read(self) -> Assets:
        """The pictures and colour tables that the wrinkle carries."""
        return self._read

    def bundle(self) -> Bundle:
        """What a file holds: the wrinkle and the assets it needs."""
        return _bundled(self.committed, self.rest)

    def use_rest(self, rest: Carried) -> None:
        """Other assets take the place; raises InputError where one cannot be read."""
        self._read = read_assets(rest, self._store)
        super().use_rest(dict(rest))

    def open_copy(self, bundle: Bundle) -> None:
        """Opens a bundle as a new document.

        Raises:
            InputError: an asset cannot be read.
        """
        self.start(bundle.wrinkle, dict(bundle.assets))

    def look_of(self, name: str, layer: str, use: str = "") -> Look:
        """The effects of a layer as a look, or one of them.

        Raises:
            InputError: the name is empty, or there is no effect.
        """
        chain = [x for x in self.state.layer(layer).effects if use in ("", x.id)]
        return look_of(name, chain, self.rest)

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
        while self.rest.get(name, content) != content:
            number += 1
            name = f"{stem}-{number}{dot}{ending}"
        # Another one, and not the same changed: what is being kept goes on with what it has.
        self._rest = self.rest | {name: content}
        self._read = read if name == given else self._read.with_asset(name, content)
        return name

    def add_sound_file(self, path: Path) -> bool:
        """A slot for sound with a file that stands in, and a sound that fills it.

        A file that cannot be read is told.
        """
        asset = self.keep_file(path)
        if asset is None:
            return False
        if asset not in self._read.heard or not count_of(self._read.heard[asset]):
            self._messages.faulted.emit(f"{path.name} has no sound in it; choose another file.")
            return False
        return self.edit(path.name, lambda w: sound_edits.add_file(w, asset)[0])

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

    def put_back(self, label: str, wrinkle: Wrinkle, carried: Carried) -> bool:
        """Puts an earlier version in the place of the wrinkle, as a step.

        Raises:
            InputError: an asset of it cannot be read.
        """
        for name, content in carried.items():
            if self.rest.get(name, content) != content:
                raise InputError(
                    f"Another {name} is in the wrinkle now; open the version as a file of its own."
                )
        read_assets(carried, self._store)
        for name, content in carried.items():
            self.keep_asset(name, content)
        return self.edit(label, lambda _: wrinkle)
