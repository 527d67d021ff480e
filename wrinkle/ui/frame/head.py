"""What stands over the places: the bar, the guide, and the cut that is open on the Bench."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.examiner import WRINKLE
from wrinkle.ui.files.document_file import DocumentFile
from wrinkle.ui.frame.cut_bar import CutBar
from wrinkle.ui.frame.place_bar import PlaceBar
from wrinkle.ui.frame.shown_places import ShownPlaces
from wrinkle.ui.help.first_steps import FirstSteps
from wrinkle.ui.place import WorksOn
from wrinkle.ui.places import PLACES


class WindowHead(QWidget):
    """Says which document is worked on, and what of it is open.

    Args:
        desk: on which it lies.
        places: one of them is shown.
        files: the file of each document.
        menus: what its buttons stand for.

    Attributes:
        bar: the name of the document, the words of the places.
        cut_bar: the cut that is open on the Bench.
        first_steps: the guide.

    Signals:
        titled: how the window is to be called.
    """

    titled = pyqtSignal(str)

    def __init__(
        self,
        desk: Desk,
        places: ShownPlaces,
        files: Mapping[WorksOn, DocumentFile],
        menus: Menus,
    ) -> None:
        super().__init__()
        self._desk, self._places, self._files, self._menus = desk, places, files, menus
        self._alone = False
        names = {key: kind.name for key, kind in PLACES.items()}
        self.bar = PlaceBar(names, menus.actions["edit.undo"], menus.actions["edit.redo"])
        self.cut_bar = CutBar(menus)
        self.first_steps = FirstSteps(desk, lambda: places.shown_key, menus.expanded, places.go_to)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        for widget in (self.bar, self.first_steps, self.cut_bar):
            layout.addWidget(widget)
        self.bar.placeChosen.connect(places.go_along)
        places.arrived.connect(self.bar.show_place)
        for file in files.values():
            file.changed.connect(self._show_file)
        desk.tried.changed.connect(self._show_file)
        desk.open_cut.changed.connect(self._show_cut)
        desk.examiner.changed.connect(self._show_badge)

    def show_document(self) -> None:
        """Another document is worked on."""
        self._show_file()
        self._show_cut()
        self._show_badge()

    def leave_alone(self, alone: bool) -> None:
        """A place has the whole screen, or no longer."""
        self._alone = alone
        self.bar.setVisible(not alone)
        self._show_cut()

    def _show_file(self) -> None:
        document = self._files[self._places.works_on].document
        self.bar.show_file(document.name, document.unsaved)
        self.titled.emit(f"{document.name}{' •' if document.unsaved else ''} — Wrinkle")
        self._menus.refresh("edit.undo", "edit.redo")

    def _show_cut(self) -> None:
        words = self._desk.open_cut.words
        self.cut_bar.show_cut(words, self._desk.piece.name)
        on_wrinkle = self._places.works_on is WorksOn.WRINKLE
        self.cut_bar.setVisible(bool(words) and on_wrinkle and not self._alone)

    def _show_badge(self) -> None:
        examiner = self._desk.examiner
        on_wrinkle = self._places.works_on is WorksOn.WRINKLE
        keys = (WRINKLE,) if on_wrinkle else examiner.cuts
        known = [key for key in keys if examiner.found(key) is not None]
        self.bar.badge.show_count(examiner.open_count(known) if known else None)
