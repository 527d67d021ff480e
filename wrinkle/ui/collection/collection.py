"""The Collection: all saved wrinkles, and looks as a second shelf."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import partial

from PyQt6.QtWidgets import QButtonGroup, QHBoxLayout, QStackedWidget, QToolButton, QVBoxLayout

from wrinkle.core.render.material import Filling
from wrinkle.ui.actions.action import Action
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.collection.looks_shelf import LooksShelf
from wrinkle.ui.collection.wrinkle_shelf import WrinkleShelf
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.place import Place, PlaceKind


class Collection(Place):
    """Both shelves; one of them is shown."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.wrinkles, self.looks = WrinkleShelf(desk), LooksShelf(desk)
        self._shelves = QStackedWidget()
        self._choice = QButtonGroup(self)
        top = QHBoxLayout()
        top.setContentsMargins(16, 12, 16, 0)
        for number, (word, shelf) in enumerate(
            (("Wrinkles", self.wrinkles), ("Looks", self.looks))
        ):
            button = QToolButton()
            button.setText(word)
            button.setCheckable(True)
            button.setChecked(number == 0)
            button.setObjectName("toggle")
            self._choice.addButton(button, number)
            self._shelves.addWidget(shelf)
            top.addWidget(button)
        top.addStretch(1)
        self._choice.idClicked.connect(self.show_shelf)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(top)
        column.addWidget(self._shelves, 1)
        self.wrinkles.wanted.connect(self.wanted)
        self.wrinkles.said.connect(self.said)

    def show_shelf(self, number: int) -> None:
        """Shows the wrinkles (0) or the looks (1)."""
        button = self._choice.button(number)
        if button is not None:
            button.setChecked(True)
        self._shelves.setCurrentIndex(number)
        self.said.emit()

    def actions_here(self) -> Sequence[Action]:
        """What can be done with the selected wrinkle."""
        shelves = [
            Action(f"collection.{name}", f"Show the {name}", partial(self.show_shelf, number),
                   "View", 5, says=f"Shows the shelf of {name}.",
                   checked=partial(self._shows, number))
            for number, name in enumerate(("wrinkles", "looks"))
        ]  # fmt: skip
        return [*shelves, *self.wrinkles.actions_here(), *self.looks.actions_here()]

    def bind(self, menus: Menus) -> None:
        """The buttons stand for what is in the menus."""
        self.wrinkles.bind(menus)
        self.looks.bind(menus)

    def _shows(self, number: int) -> bool:
        return self._shelves.currentIndex() == number

    def try_on(self, clips: Mapping[str, Filling]) -> None:
        """Wrinkles are shown on the clips of the cut that was looked at."""
        self.wrinkles.try_on(clips)

    def words(self) -> str:
        """How many there are, and what is selected."""
        return self.wrinkles.words() if self._shelves.currentIndex() == 0 else ""

    def leave(self) -> None:
        """Nothing plays that nobody sees."""
        self.wrinkles.leave()

    def themed(self) -> None:
        """The tiles are painted anew."""
        self.wrinkles.tiles.viewport_update()
        self.wrinkles.panel.hear.themed()

    def close_down(self) -> None:
        """Ends what runs."""
        self.wrinkles.close_down()


PLACE = PlaceKind("collection", "Collection", Collection)
