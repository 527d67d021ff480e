"""All places, of which one is shown, and the ways from one to another."""

from __future__ import annotations

from collections.abc import Iterator

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QSplitter, QStackedWidget

from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.place import ChecksWanted, CutWanted, Place, PlaceWanted, WorksOn
from wrinkle.ui.places import PLACES
from wrinkle.ui.router import Router
from wrinkle.ui.shared.manual_page import about


class ShownPlaces(QStackedWidget):
    """Makes the places, and shows one of them.

    Args:
        desk: what they work on.
        router: passes on what they ask of each other.

    Signals:
        arrived: the key of the place that is shown from now on.
        said: the words of a place for the status line are others.
        worksOnChanged: New, open, save and undo are about another document from now on.
        wholeScreen: a place is to have the whole screen, or no longer.
    """

    arrived = pyqtSignal(str)
    said = pyqtSignal()
    worksOnChanged = pyqtSignal()
    wholeScreen = pyqtSignal(bool)

    def __init__(self, desk: Desk, router: Router) -> None:
        super().__init__()
        self._desk, self._router = desk, router
        self._places: dict[str, Place] = {}
        for key, kind in PLACES.items():
            place = self._places[key] = kind.make(desk)
            self.addWidget(place)
            about(place, key)
            router.add_place(key, place)
            place.said.connect(self.said)
            place.worksOnChanged.connect(self.worksOnChanged)
            place.wholeScreen.connect(self.wholeScreen)
        router.add(PlaceWanted, lambda wanted: self.go_to(wanted.key))
        router.placeWanted.connect(self.go_to)

    def __iter__(self) -> Iterator[Place]:
        return iter(self._places.values())

    def place(self, key: str) -> Place:
        """The place with that key."""
        return self._places[key]

    @property
    def shown(self) -> Place:
        """The place that is shown."""
        found = self.currentWidget()
        if not isinstance(found, Place):
            raise TypeError("what the window shows is no place")
        return found

    @property
    def shown_key(self) -> str:
        """The key of the place that is shown."""
        return next(key for key, place in self._places.items() if place is self.shown)

    @property
    def works_on(self) -> WorksOn:
        """Which document the shown place works on."""
        return self.shown.works_on

    def handles(self) -> Iterator[tuple[str, QSplitter]]:
        """The handles between parts of all places, by name."""
        for key, place in self._places.items():
            for name, splitter in place.splitters().items():
                yield f"{key}.{name}", splitter

    def go_to(self, key: str) -> None:
        """Shows the place with that key."""
        before, place = self.shown, self.place(key)
        self.setCurrentWidget(place)
        if before is not place:
            before.leave()
        if place.works_on is WorksOn.PIECE:
            self._desk.examiner.want_piece()
        self.arrived.emit(key)
        place.setFocus()
        self.said.emit()

    def go_along(self, key: str) -> None:
        """Shows a place, and there what is looked at now: that piece, that cut, those clips.

        What is not saved on the Bench stays there.
        """
        before, desk = self.shown, self._desk
        cut = before.seen_cut()
        if key == "checks" and before is not self.place(key):
            self._router.pass_on(ChecksWanted(before.works_on))
        elif key == "bench" and cut and not desk.document.unsaved and cut != desk.open_cut.clip:
            self._router.pass_on(CutWanted(cut))
        else:
            if before is not self.place(key):
                self.place(key).try_on(before.looked_at())
            self.go_to(key)
