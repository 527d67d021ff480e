"""One sound of the wrinkle: when its hit falls, what it follows, and its settings."""

from __future__ import annotations

from PyQt6.QtWidgets import QComboBox, QSizePolicy, QToolButton, QVBoxLayout, QWidget

from wrinkle.core.design.document.address import Address
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sounds import MovedBy, WrinkleSound
from wrinkle.core.design.edits import sound_edits
from wrinkle.ui.bench.sections.file_rows import FileRows, named
from wrinkle.ui.bench.sections.layer_row import LayerRow
from wrinkle.ui.bench.sections.section import Section
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.shared.plain_text import tip
from wrinkle.ui.shared.value_field import FieldFormat, ValueField, number_of


class SoundCard(QWidget):
    """Shows and edits one sound of the document on the desk."""

    def __init__(self, desk: Supplying, sound: WrinkleSound, is_open: bool) -> None:
        super().__init__()
        self._desk, self._id = desk, sound.id
        self.addresses: tuple[Address, ...] = sound.addresses()
        self.rows: dict[str, LayerRow] = {}
        self.hit = ValueField(FieldFormat(suffix=" fr", decimals=2, step=1.0))
        self.follows = QComboBox()
        self.file_rows: FileRows | None = None
        self.remove = QToolButton()
        self.remove.setText("Remove")
        self.remove.setAccessibleName(f"Remove {sound.name}")
        self.remove.clicked.connect(
            lambda: desk.document.edit(
                f"no {sound.name.lower()}", lambda w: sound_edits.remove_sound(w, sound.id)
            )
        )
        self.section = Section(sound.name, is_open, self._fill)
        self.section.hold(self.hit, self.follows, self.remove)
        self.follows.setVisible(sound.follows)
        self.section.heading.setToolTip(
            tip(sound.kind.about if sound.kind is not None else "A file")
        )
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(self.section)

    def show_sound(self, sound: WrinkleSound) -> None:
        """Shows its values."""
        wrinkle = self._desk.document.state
        frames = float(sound.hit * wrinkle.frame_rate.per_second)
        heard = sound.heard.rest or not sound.heard.still
        self.section.set_note("" if heard else "not heard")
        self.hit.set_value(frames)
        if sound.follows:
            self._show_followed(sound)
        if self.file_rows is not None:
            self.file_rows.show_sound(sound)
        for row in self.rows.values():
            row.refresh()

    def _fill(self, section: Section) -> None:
        (sound,) = (x for x in self._desk.document.state.sounds if x.id == self._id)
        self.hit.setAccessibleName(f"Hit of {sound.name}")
        self.hit.describe("When its hit falls, in frames from the cut")
        self.hit.changing.connect(lambda value: self._take_hit(value, False))
        self.hit.committed.connect(lambda value: self._take_hit(value, True))
        self.hit.abandoned.connect(self._desk.document.abandon)
        self.hit.faulted.connect(self._desk.messages.faulted)
        section.rows.addLayout(named("Hit", "When its hit falls, in frames from the cut",
                                     self.hit, self.remove))  # fmt: skip
        if sound.follows:
            self.follows.setAccessibleName(f"What {sound.name} follows")
            self.follows.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
            self.follows.activated.connect(self._take_followed)
            section.rows.addLayout(named("Follows", "Whose speed makes it loud and high",
                                         self.follows))  # fmt: skip
            self._show_followed(sound)
        if sound.slot:
            self.file_rows = FileRows(self._desk, sound)
            section.rows.addWidget(self.file_rows)
            self.file_rows.show_sound(sound)
        for address in self.addresses:
            row = self.rows[address] = LayerRow(self._desk, SettingRef(self._id, address))
            section.rows.addWidget(row)

    def _show_followed(self, sound: WrinkleSound) -> None:
        layers = self._desk.document.state.layers
        wanted = [(x.value.capitalize(), (x, "")) for x in (MovedBy.ALL, MovedBy.PICTURE)]
        wanted += [(layer.name, (MovedBy.LAYER, layer.id)) for layer in layers]
        box = self.follows
        if [box.itemData(i) for i in range(box.count())] != [data for _, data in wanted]:
            box.clear()
            for word, data in wanted:
                box.addItem(word, data)
        now = (sound.moved_by, sound.layer or "")
        box.setCurrentIndex([data for _, data in wanted].index(now))

    def _take_followed(self, index: int) -> None:
        moved_by, layer = self.follows.itemData(index)
        self._desk.document.edit(
            "what the sound follows",
            lambda w: sound_edits.follow(w, self._id, moved_by, layer),
        )

    def _take_hit(self, value: object, done: bool) -> None:
        document = self._desk.document
        hit = document.state.frame_rate.seconds(round(number_of(value)))
        document.pull(
            "hit of the sound", lambda w: sound_edits.change_sound(w, self._id, hit=hit), done
        )
