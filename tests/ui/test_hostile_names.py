"""Names that look like HTML are shown as they are: Qt would open the pictures that they name."""

import os
from collections.abc import Iterator
from dataclasses import replace as with_
from fractions import Fraction
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtCore import QModelIndex, Qt
from PyQt6.QtWidgets import QAbstractItemView, QLabel, QMenu

from tests.ui.window_case import WindowCase, demo_clip, settle
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.piece.document import Marker, Piece, PieceClip
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.use import PieceUse
from wrinkle.files.archive import read
from wrinkle.library import shipped
from wrinkle.timeline.piece_file import PieceFile
from wrinkle.ui.cutlist.piece_looking import Row
from wrinkle.ui.places import PLACES
from wrinkle.ui.shared import plain_text


class HostileNames(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        picture = self.folder / "picture.png"
        os.mkfifo(picture)  # Who opens it hangs.
        self.name = f'<img src="{picture}">'

    def wrinkle(self, shipped_name: str) -> Bundle:
        """A wrinkle in which all that has a name has that one."""
        name, bundle = self.name, read(shipped()[shipped_name])
        made = bundle.wrinkle
        layers = tuple(
            replace(x, name=name, masks=tuple(replace(y, name=name) for y in x.masks))
            for x in made.layers
        )
        made = replace(
            made,
            name=name,
            about=name,
            layers=layers,
            slots=tuple(replace(x, label=name, about=name) for x in made.slots),
            dials=tuple(replace(x, name=name, about=name) for x in made.dials),
        )
        return Bundle(made, bundle.assets)

    def tips(self) -> Iterator[str]:
        """All that is said when something is pointed at."""
        for widget in self.app.allWidgets():
            yield widget.toolTip()
            yield from (action.toolTip() for action in widget.actions())
            if isinstance(widget, QMenu):
                yield widget.title()
            if isinstance(widget, QAbstractItemView) and widget.model() is not None:
                model = widget.model()
                for row in range(model.rowCount(QModelIndex())):
                    tip = model.index(row, 0).data(Qt.ItemDataRole.ToolTipRole)
                    yield str(tip or "")

    def assert_plain(self) -> None:
        settle()
        for widget in self.app.allWidgets():
            if isinstance(widget, QLabel):
                self.assertEqual(widget.textFormat(), Qt.TextFormat.PlainText, widget.text())
        rich = [x for x in self.tips() if "<img" in x or (self.name in x)]
        self.assertEqual(rich, [])

    def test_wherever_a_name_is_shown_it_is_text(self) -> None:
        for shipped_name in ("sea_fog", "broken_title"):
            bundle = self.wrinkle(shipped_name)
            self.desk.document.open_copy(bundle)
            # One of each kind: others have the same rows.
            for layer in {type(x.source): x for x in bundle.wrinkle.layers}.values():
                self.desk.looking.select_layer(layer.id)
                self.assert_plain()
        self.assertTrue(any(plain_text.tip(self.name) in x for x in self.tips()))
        media = Media(str(demo_clip("pier")), self.name, Fraction(2))
        clip = PieceClip("a", self.name, media, Fraction(0), Fraction(2))
        gone = with_(media, path=str(self.folder / f"{self.name.replace('/', '-')}.mp4"))
        clips = (clip, with_(clip, id="b", media=gone, entry=PieceUse(bundle)))
        piece = Piece(self.name, clips=clips, markers=(Marker(Fraction(0), self.name),))
        self.desk.piece.start(piece, PieceFile())
        cutlist = self.window.places.place("cutlist")
        for place in PLACES:
            self.window.places.go_to(place)
            self.assert_plain()
            for row, clip_id in ((Row.CLIP, "a"), (Row.CUT, "b"), (Row.CLIP, "b")):
                cutlist.looking.choose(row, clip_id)
                self.assert_plain()
        self.desk.messages.faulted.emit(f"{self.name} cannot be opened.")
        self.assertFalse(self.desk.document.open(Path(f"{self.name}.wrinkle")))
        self.assert_plain()
