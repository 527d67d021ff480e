"""What is heard, under the lanes: the mix, and each sound of the wrinkle in a row of its own."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial

from PyQt6.QtCore import QTimer, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QToolButton, QVBoxLayout, QWidget

from wrinkle.core.design.document.sounds import WrinkleSound
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import sound_edits
from wrinkle.core.jobs import Job, Urgency, WorkLine
from wrinkle.core.reuse.hearing import in_slots
from wrinkle.core.sound.heard import Mix
from wrinkle.core.sound.mixing import PlacedSound
from wrinkle.core.sound.wave_picture import Peaks, peaks
from wrinkle.ui import icons
from wrinkle.ui.bench.lanes.sound_canvas import SoundCanvas
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.desk.workers import Workers
from wrinkle.ui.pictures.sound_player import SoundPlayer
from wrinkle.ui.shared.level_meter import LevelMeter
from wrinkle.ui.shared.manual_page import about
from wrinkle.ui.shared.plain_text import tip
from wrinkle.ui.text_size import Extent, keep
from wrinkle.ui.theme import active

_SOON_MS = 120
Hear = Callable[[str], Mix | None]
"""What is heard of the window: all of it, or one sound by its id alone; None where nothing is."""


class SoundRow(QWidget):
    """A wave with its name, and a button that lets it be heard alone."""

    def __init__(self, name: str, head: int, inset: float) -> None:
        super().__init__()
        self.canvas = SoundCanvas(name)
        self.canvas.set_inset(inset, inset)
        self.name = QToolButton()
        self.name.setText(name)
        self.heard = QToolButton()
        self.heard.setObjectName("narrow")
        self.heard.setCheckable(True)
        self.alone = QToolButton()
        self.alone.setObjectName("narrow")
        self.alone.setCheckable(True)
        beside = QWidget()
        keep(beside, Extent.WIDTH, head)
        self.beside = QHBoxLayout(beside)
        self.beside.setContentsMargins(12, 2, 8, 2)
        self.beside.addWidget(self.name)
        self.beside.addStretch(1)
        self.beside.addWidget(self.heard)
        self.beside.addWidget(self.alone)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(beside)
        layout.addWidget(self.canvas, 1)

    def show_icons(self) -> None:
        """Draws what is on darker than what is off."""
        theme = active()
        for button, drawing in ((self.heard, "ear"), (self.alone, "alone")):
            ink = theme.ink if button.isChecked() else theme.quiet
            button.setIcon(icons.icon(drawing, ink))


class SoundRows(QWidget):
    """Shown where they are switched on.

    Args:
        desk: the wrinkle that is designed.
        workers: who draws.
        hear: gives what is heard.
        sound: who plays it.
        head: the width of the names.
        inset: how far the axis stays from the sides.

    Signals:
        chosen: the id of a sound whose settings are wanted.
    """

    chosen = pyqtSignal(str)

    def __init__(
        self,
        desk: Designing,
        workers: Workers,
        hear: Hear,
        sound: SoundPlayer,
        head: int,
        inset: float,
    ) -> None:
        super().__init__()
        self._desk, self._heard = desk, hear
        about(self, "sound")
        self._head, self._inset = head, inset
        self.mix = SoundRow("Mix", head, inset)
        self.mix.alone.hide()
        self.mix.heard.hide()
        self.mix.name.setEnabled(False)
        self.meter = LevelMeter(sound.peak)
        self.mix.beside.addWidget(self.meter)
        self.rows: dict[str, SoundRow] = {}
        self._jobs: list[Job] = []
        self._line = WorkLine(
            workers.jobs, Urgency.ASKED, "The sound cannot be drawn",
            desk.messages.faulted.emit,
        )  # fmt: skip
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(_SOON_MS)
        self._soon.timeout.connect(self._draw)
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(1)
        self._column.addWidget(self.mix)
        self.mix.canvas.scrubbed.connect(desk.looking.set_playhead)
        desk.looking.soundShownChanged.connect(self.refresh)
        desk.looking.playheadChanged.connect(self._show_playhead)
        self.refresh()

    def refresh(self) -> None:
        """Shows what there is now."""
        shown = self._desk.looking.sound_shown
        self.setVisible(shown)
        if not shown:
            return
        wrinkle = self._desk.document.state
        if [x.id for x in wrinkle.sounds] != list(self.rows):
            self._make_rows(wrinkle)
        for row in (self.mix, *self.rows.values()):
            row.canvas.show_frames(wrinkle.frames, wrinkle.frame_rate)
        for sound in wrinkle.sounds:
            row = self.rows[sound.id]
            row.canvas.show_sound(sound)
            row.heard.setChecked(sound.id not in self._desk.looking.muted)
            row.alone.setChecked(self._desk.looking.alone == sound.id)
            row.show_icons()
        self._soon.start()

    @property
    def canvases(self) -> list[SoundCanvas]:
        """What is drawn of each."""
        shown = self._desk.looking.sound_shown
        return [row.canvas for row in (self.mix, *self.rows.values())] if shown else []

    def close_all(self) -> None:
        """Nothing more is drawn."""
        self._soon.stop()
        self._line.close()

    def _make_rows(self, wrinkle: Wrinkle) -> None:
        # What is drawn for rows that are gone comes to nobody.
        self._give_up()
        for row in self.rows.values():
            self._column.removeWidget(row)
            row.hide()
            row.deleteLater()
        self.rows = {x.id: self._row(x) for x in wrinkle.sounds}
        for row in self.rows.values():
            self._column.addWidget(row)
        self._show_playhead(self._desk.looking.playhead)

    def _row(self, sound: WrinkleSound) -> SoundRow:
        row = SoundRow(sound.name, self._head, self._inset)
        row.name.setToolTip(tip("Show what can be set of it"))
        row.name.clicked.connect(lambda: self.chosen.emit(sound.id))
        row.alone.setToolTip(tip("Hear this sound alone"))
        row.alone.setAccessibleName(f"{sound.name} alone")
        row.heard.setToolTip(tip("Listen to this sound; the wrinkle keeps it"))
        row.heard.setAccessibleName(f"{sound.name} heard")
        row.heard.clicked.connect(lambda on: self._desk.looking.mute(sound.id, not on))
        row.alone.clicked.connect(lambda on: self._desk.looking.hear_alone(sound.id if on else ""))
        row.canvas.scrubbed.connect(self._desk.looking.set_playhead)
        row.canvas.hitDragged.connect(partial(self._change, sound.id, "hit"))
        row.canvas.markDragged.connect(partial(self._mark, sound.id))
        row.canvas.fadeDragged.connect(partial(self._fade, sound.id))
        row.canvas.endDragged.connect(partial(self._change, sound.id, "length"))
        return row

    def _change(self, sound_id: str, key: str, value: Fraction, done: bool) -> None:
        def change(wrinkle: Wrinkle) -> Wrinkle:
            if key == "length":
                # Pulled at its end it stays where it begins.
                return sound_edits.lengthened(wrinkle, sound_id, value)
            return sound_edits.change_sound(wrinkle, sound_id, hit=value)

        self._desk.document.pull(f"{key} of the sound", change, done)

    def _mark(self, sound_id: str, time: Fraction, done: bool) -> None:
        """Another moment of a file is its hit; what is heard stays where it is."""
        document = self._desk.document
        files = in_slots(document.committed, {}, document.read.heard)
        (sound,) = (x for x in document.committed.sounds if x.id == sound_id)
        if sound.slot not in files:
            return
        placed = PlacedSound(document.committed, sound, files[sound.slot])

        def change(wrinkle: Wrinkle) -> Wrinkle:
            moved = sound_edits.change_file(wrinkle, sound_id, hit=placed.file_time(time))
            return sound_edits.change_sound(moved, sound_id, hit=time)

        document.pull("hit within the file", change, done)

    def _fade(self, sound_id: str, key: str, seconds: Fraction, done: bool) -> None:
        """A file fades in or out over another time; none where it is 0."""

        def change(wrinkle: Wrinkle) -> Wrinkle:
            return sound_edits.change_file(wrinkle, sound_id, **{key: seconds or None})

        self._desk.document.pull("fade of the sound", change, done)

    def _draw(self) -> None:
        """Draws all waves in the background."""
        self._give_up()
        self._jobs = [
            self._one(row, self._heard(key)) for key, row in (("", self.mix), *self.rows.items())
        ]

    def _give_up(self) -> None:
        for job in self._jobs:
            job.cancel()
        self._jobs = []

    def _one(self, row: SoundRow, heard: Mix | None) -> Job:
        def work(job: Job) -> tuple[Peaks, int] | None:
            if heard is None:
                return None
            return peaks(heard, heard.span, lambda done, total: job.check()), heard.span.start

        def came(found: tuple[Peaks, int] | None) -> None:
            row.canvas.show_peaks(*(found if found is not None else (peaks_of_nothing(), 0)))
            row.canvas.show_extent(heard.parts[0].span if heard is not None else range(0))

        return self._line.put(work, came)

    def _show_playhead(self, frame: int) -> None:
        for row in (self.mix, *self.rows.values()):
            row.canvas.show_playhead(frame)


def peaks_of_nothing() -> Peaks:
    """No wave."""
    return peaks(Mix((), range(0)), range(0))
