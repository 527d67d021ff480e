"""The sounds of the wrinkle, under the layers: each in a part of its own that folds."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QMenu, QToolButton, QVBoxLayout, QWidget

from wrinkle.core.design.edits import sound_edits
from wrinkle.core.synthesis.made_sounds import MADE_SOUNDS
from wrinkle.library.stand_in_sounds import STAND_IN_SOUNDS
from wrinkle.ui.bench.sections.section import Section
from wrinkle.ui.bench.sections.sound_card import SoundCard
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.shared.drops import SOUND_FILTER
from wrinkle.ui.shared.hanging_menu import hang_menu
from wrinkle.ui.shared.manual_page import about


class SoundsSection(QWidget):
    """Lists the sounds."""

    def __init__(self, desk: Supplying) -> None:
        super().__init__()
        self._desk = desk
        about(self, "sound")
        self.cards: dict[str, SoundCard] = {}
        self.add_button = QToolButton()
        self._list = QVBoxLayout()
        self._list.setContentsMargins(0, 0, 0, 0)
        self._list.setSpacing(4)
        self.section = Section("Sounds", True, self._fill)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 6, 0, 0)
        layout.addWidget(self.section)
        desk.document.changed.connect(self.refresh)
        desk.looking.playheadRested.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Shows the sounds of the wrinkle; cards are made anew only when there are others."""
        sounds = self._desk.document.state.sounds
        self.section.set_note(str(len(sounds)) if sounds else "")
        wanted = {x.id: x.addresses() for x in sounds}
        if wanted != {key: card.addresses for key, card in self.cards.items()}:
            self._make_cards()
        for sound in sounds:
            self.cards[sound.id].show_sound(sound)

    def add(self, made: str) -> None:
        """One more sound, with its hit on the cut; its card is unfolded."""
        if self._desk.document.edit(made, lambda w: sound_edits.add_sound(w, made)[0]):
            self.unfold(next(reversed(self.cards)))

    def add_file(self, path: Path) -> None:
        """A file of sound in a slot of its own; it goes with the wrinkle."""
        if self._desk.document.add_sound_file(path):
            self.unfold(next(reversed(self.cards)))

    def _ask_file(self) -> None:
        path = self._desk.asking.file(self, "A file of sound", "music", SOUND_FILTER)
        if path is not None:
            self.add_file(path)

    def unfold(self, sound_id: str) -> None:
        """Unfolds the card of one sound alone."""
        self.section.heading.setChecked(True)
        for key, card in self.cards.items():
            card.section.heading.setChecked(key == sound_id)

    def _make_cards(self) -> None:
        open_ = {key for key, card in self.cards.items() if card.section.heading.isChecked()}
        for card in self.cards.values():
            self._list.removeWidget(card)
            card.hide()
            card.deleteLater()
        sounds = self._desk.document.state.sounds
        self.cards = {x.id: SoundCard(self._desk, x, x.id in open_) for x in sounds}
        for place, card in enumerate(self.cards.values()):
            self._list.insertWidget(place, card)

    def _fill(self, section: Section) -> None:
        self.add_button.setObjectName("add")
        self.add_button.setText("Add a sound")
        menu = QMenu(self)
        for made, sound in MADE_SOUNDS.items():
            action = menu.addAction(f"{made.capitalize()}: {sound.about}")
            if action is not None:
                action.triggered.connect(lambda checked=False, made=made: self.add(made))
        menu.addSeparator()
        for name, path in STAND_IN_SOUNDS.items():
            action = menu.addAction(f"{name.capitalize()}: a file that ships")
            if action is not None:
                action.triggered.connect(lambda checked=False, path=path: self.add_file(path))
        action = menu.addAction("A file…")
        if action is not None:
            action.triggered.connect(self._ask_file)
        hang_menu(self.add_button, menu)
        section.rows.addLayout(self._list)
        section.rows.addWidget(self.add_button)
