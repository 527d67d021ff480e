"""All places, of which one is shown, and the ways from one to another."""

from __future__ import annotations

from collections.abc import ItemsView, Iterator
from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QStackedWidget

from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.place import ChecksWanted, CutWanted, Place, PlaceWanted, WorksOn
from wrinkle.ui.places import FIRST_SHOWN, PLACES
from wrinkle.ui.router import Router
from wrinkle.ui.shared.manual_page import about


class ShownPlaces(QStackedWidget):
    """Shows one of the places; all but the first are made when they are wanted.

    Args:
        desk: what they work on.
        router: passes on what they ask of each other.

    Signals:
        made: a place is there from now on (its key, the place).
        arrived: the key of the place that is shown from now on.
        said: the words of a place for the status line are others.
        worksOnChanged: New, open, save and undo are about another document from now on.
        wholeScreen: a place is to have the whole screen, or no longer.
    """

    made = pyqtSignal(str, object)
    arrived = pyqtSignal(str)
    said = pyqtSignal()
    worksOnChanged = pyqtSignal()
    wholeScreen = pyqtSignal(bool)

    def __init__(self, desk: Desk, router: Router) -> None:
        super().__init__()
        self._desk, self._router = desk, router
        self._places: dict[str, Place] = {}
        for key, kind in PLACES.items():
            router.add_place(key, kind, partial(self.place, key))
        router.add(PlaceWanted, lambda wanted: self.go_to(wanted.key))
        router.placeWanted.connect(self.go_to)
        self.place(FIRST_SHOWN)

    def __iter__(self) -> Iterator[Place]:
        """Those that are made."""
        return iter(self._places.values())

    def items(self) -> ItemsView[str, Place]:
        """Those that are made, by their keys."""
        return self._places.items()

    def place(self, key: str) -> Place:
        """The place with that key."""
        if key not in self._places:
            self._make(key)
        return self._places[key]

    def make_all(self) -> None:
        """Makes those that nobody has wanted yet."""
        for key in PLACES:
            self.place(key)

    def _make(self, key: str) -> None:
        place = self._places[key] = PLACES[key].make(self._desk)
        self.addWidget(place)
        about(place, key)
        place.wanted.connect(self._router.pass_on)
        place.said.connect(self.said)
        place.worksOnChanged.connect(self.worksOnChanged)
        place.wholeScreen.connect(self.wholeScreen)
        self.made.emit(key, place)

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
