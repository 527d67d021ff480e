"""The board: one wrinkle in its directions and strengths, or along a dial, moving in step."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import partial

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QComboBox, QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from wrinkle.core.design.document.dials import Dial
from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Urgency
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Material
from wrinkle.core.render.showing import Showing
from wrinkle.core.reuse.hearing import hearing
from wrinkle.core.reuse.use import Choices, Use, directions_of, natural_size, showing
from wrinkle.ui.desk.workers import Workers
from wrinkle.ui.pictures.frame_pictures import FramePictures
from wrinkle.ui.pictures.hear_button import HearButton
from wrinkle.ui.pictures.player import Player
from wrinkle.ui.pictures.sound_player import SoundPlayer
from wrinkle.ui.shared.picture_view import fitted
from wrinkle.ui.shared.plain_text import PlainLabel
from wrinkle.ui.shared.seam import seam_pen
from wrinkle.ui.text_size import scaled
from wrinkle.ui.theme import SURROUND, small_font

_STRENGTHS = {
    1: (0.0, 25.0, 50.0, 75.0, 100.0, 125.0, 150.0, 175.0, 200.0),
    2: (50.0, 75.0, 100.0, 125.0, 150.0),
    3: (50.0, 100.0, 150.0),
    4: (50.0, 100.0, 150.0),
}
"""By how many directions there are: nine to sixteen pictures."""
_MOST = 16
_FEWEST = 9
_ALONG_DIAL = 4
_SIDE = 200
_LABEL = 18
_GAP = 6
_WORDS = QColor("#FFFFFF")


@dataclass(frozen=True)
class Cell:
    """One picture of the board: what is chosen there, and how it is called."""

    choices: Choices
    label: str


def strength_cells(use: Use) -> list[Cell]:
    """Directions across, strengths down; nine to sixteen of them."""
    ways = directions_of(use.wrinkle)
    return [
        Cell(
            replace(use.choices, direction=direction, strength=strength),
            f"{name}, {strength:g} %",
        )
        for strength in _STRENGTHS[len(ways)]
        for direction, name in ways.items()
    ]


def dial_cells(use: Use, dial: Dial) -> list[Cell]:
    """Directions across as far as there is room, the values of a dial down."""
    values = dial.samples(_FEWEST)
    ways = directions_of(use.wrinkle)
    if len(values) * len(ways) > _MOST or len(ways) == 1:
        ways = {use.choices.direction: ""}
        values = dial.samples(_MOST)
    else:
        values = dial.samples(max(_ALONG_DIAL, _MOST // len(ways)))
    return [
        Cell(
            replace(use.choices, direction=way, dials={**use.choices.dials, dial.id: value}),
            ", ".join(filter(None, (name, f"{dial.name} {dial.words(value)}"))),
        )
        for value in values
        for way, name in ways.items()
    ][:_MOST]


class BoardView(QWidget):
    """Moving pictures in a grid, all in step.

    Signals:
        taken: the choices of the picture that was clicked (Choices).
        failed: one sentence.
    """

    taken = pyqtSignal(object)
    failed = pyqtSignal(str)

    def __init__(self, workers: Workers, sound: SoundPlayer) -> None:
        super().__init__()
        self.hear = HearButton(sound, "Hear the one that is marked, or that was chosen")
        self._looped = range(1)
        self._use: Use | None = None
        self._carried = Material()
        self._workers = workers
        self.cells: list[Cell] = []
        self._chosen: Choices | None = None
        self._renderers: list[FramePictures] = []
        self._shown: list[Showing | None] = []
        self._frame = 0
        self._marked = -1
        self._columns = 1
        self._player = Player(self, sound=sound)
        self.setMouseTracking(True)
        self._player.frameDue.connect(self._show_frame)
        self.setMinimumSize(480, 360)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Board")

    def show_use(self, use: Use, carried: Material, cells: list[Cell]) -> None:
        """Shows a wrinkle with the choices of each cell."""
        self.end()
        self._chosen, self._use, self._carried = use.choices, use, carried
        size = natural_size(use)
        small = size.within(_SIDE)
        rate = use.wrinkle.frame_rate
        ways = {cell.choices.direction for cell in cells}
        self.cells, self._columns = self._laid_out(cells, len(ways), size.width / size.height)
        first, end = 0, 0
        for cell in self.cells:
            renderer = FramePictures(
                self._workers.jobs, self._workers.store, Urgency.AROUND, parent=self
            )
            renderer.frameReady.connect(self._came)
            renderer.failed.connect(self.failed)
            shown: Showing | None = None
            try:
                asked = Use(use.wrinkle, use.fillings, cell.choices)
                shown = showing(asked, carried, small, rate, Quality.PREVIEW)
            except InputError as fault:
                self.failed.emit(str(fault))
            self._renderers.append(renderer)
            self._shown.append(shown)
            if shown is not None:
                first = min(first, shown.wrinkle.first_frame)
                end = max(end, shown.wrinkle.end_frame)
        looped = range(first - 3, end + 3)
        for renderer, one in zip(self._renderers, self._shown, strict=True):
            if one is not None:
                renderer.ask(one, looped, 0)
        self._looped = looped
        self._offer()
        self._player.set_frames(looped, rate)
        self._player.play(looped.start)

    @property
    def all_ready(self) -> bool:
        """Whether all pictures are there."""
        return all(renderer.all_ready for renderer in self._renderers)

    def end(self) -> None:
        """Nothing plays and nothing more is made."""
        self._player.stop()
        for renderer in self._renderers:
            renderer.close()
            renderer.deleteLater()
        self._renderers, self._shown, self.cells = [], [], []

    def area(self, index: int) -> QRectF:
        """Where a cell stands."""
        columns, rows = self._grid()
        width = (self.width() - _GAP * (columns + 1)) / columns
        height = (self.height() - _GAP * (rows + 1)) / rows
        column, row = index % columns, index // columns
        return QRectF(_GAP + column * (width + _GAP), _GAP + row * (height + _GAP), width, height)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), SURROUND)
        painter.setFont(small_font(self.font()))
        for index, cell in enumerate(self.cells):
            area, shown = self.area(index), self._shown[index]
            above = area.adjusted(0, 0, 0, -scaled(_LABEL))
            picture = self._renderers[index].picture(self._frame)
            if shown is not None and picture is not None:
                above = fitted(above, shown.size)
                painter.drawImage(above, picture)
            painter.setPen(_WORDS)
            words = painter.fontMetrics().elidedText(
                cell.label, Qt.TextElideMode.ElideRight, int(area.width())
            )
            foot = QRectF(area.left(), area.bottom() - scaled(_LABEL), area.width(), scaled(_LABEL))
            painter.drawText(foot, Qt.AlignmentFlag.AlignCenter, words)
            if cell.choices == self._chosen:
                painter.setPen(seam_pen())
                painter.drawRect(above.adjusted(-2, -2, 2, 2))
            elif index == self._marked:
                painter.setPen(_WORDS)
                painter.drawRect(above.adjusted(-2, -2, 2, 2))

    def _offer(self) -> None:
        """Lets the marked one be heard; the chosen one where none is."""
        use = self._use
        if use is None:
            return
        there = 0 <= self._marked < len(self.cells)
        choices = self.cells[self._marked].choices if there else self._chosen or use.choices
        asked = replace(use, choices=choices)
        rate, sounds = use.wrinkle.frame_rate, self._carried.sounds
        self.hear.offer(partial(hearing, asked, rate, self._looped, carried=sounds))

    @property
    def marked(self) -> int:
        """The number of the picture that is marked; -1 for none."""
        return self._marked

    def _mark(self, index: int) -> None:
        if index != self._marked:
            self._marked = index
            self._offer()
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self.hear.isChecked():
            # Pointed at is listened to.
            self._mark(self._at(event.position()))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            self._take(self._at(event.position()))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrows mark a picture, Return takes it."""
        if event is None or not self.cells:
            return
        columns, _ = self._grid()
        steps = {
            Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1,
            Qt.Key.Key_Down: columns, Qt.Key.Key_Up: -columns,
        }  # fmt: skip
        key = Qt.Key(event.key())
        if key in steps:
            at = max(self._marked, 0) + (steps[key] if self._marked >= 0 else 0)
            self._mark(min(max(at, 0), len(self.cells) - 1))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self._take(self._marked)
        else:
            super().keyPressEvent(event)

    def _take(self, index: int) -> None:
        if 0 <= index < len(self.cells):
            self._chosen = self.cells[index].choices
            self.update()
            self.taken.emit(self._chosen)

    def _at(self, spot: QPointF) -> int:
        found = [n for n in range(len(self.cells)) if self.area(n).contains(spot)]
        return found[0] if found else -1

    def _laid_out(self, cells: list[Cell], ways: int, ratio: float) -> tuple[list[Cell], int]:
        """The cells in their order, and in how many columns: directions across, or down.

        Where there is one direction the columns are as many as make the pictures largest.
        """

        def width(columns: int) -> float:
            rows = math.ceil(len(cells) / columns)
            return min(self.width() / columns, (self.height() / rows - scaled(_LABEL)) * ratio)

        if ways == 1 or len(cells) % ways:
            return cells, max(range(1, len(cells) + 1), key=width, default=1)
        down = len(cells) // ways
        if width(ways) >= width(down):
            return cells, ways
        return [cells[row * ways + way] for way in range(ways) for row in range(down)], down

    def _grid(self) -> tuple[int, int]:
        return self._columns, max(1, math.ceil(len(self.cells) / self._columns))

    def _show_frame(self, frame: int) -> None:
        self._frame = frame
        self.update()

    def _came(self, frame: int) -> None:
        if frame == self._frame:
            self.update()


class BoardDialog(QDialog):
    """A board of its own; taking a picture tells of it and leaves the board open.

    Signals:
        taken: the choices of the picture that was clicked (Choices).
    """

    taken = pyqtSignal(object)

    def __init__(
        self,
        use: Use,
        carried: Material,
        workers: Workers,
        sound: SoundPlayer,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle(f"{use.wrinkle.name} on the board")
        self.resize(1060, 740)
        self._use, self._carried = use, carried
        self.sound = sound
        sound.setParent(self)
        self.view = BoardView(workers, sound)
        self.view.taken.connect(self.taken)
        self.along = QComboBox()
        self.along.setAccessibleName("What differs")
        self.along.addItem("directions and strengths", "")
        for dial in use.wrinkle.dials:
            self.along.addItem(f"dial {dial.name}", dial.id)
        self.along.activated.connect(lambda: self._fill())
        self.message = PlainLabel("A click takes one.")
        self.message.setObjectName("quiet")
        self.view.failed.connect(self.message.setText)
        close = QPushButton("Close")
        close.setAutoDefault(False)
        close.clicked.connect(self.close)
        foot = QHBoxLayout()
        foot.addWidget(self.along)
        foot.addWidget(self.view.hear)
        foot.addWidget(self.message, 1)
        foot.addWidget(close)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 12, 12, 12)
        layout.addWidget(self.view, 1)
        layout.addLayout(foot)
        self.view.setFocus()
        self._fill()

    def _fill(self) -> None:
        chosen = str(self.along.currentData() or "")
        dials = [dial for dial in self._use.wrinkle.dials if dial.id == chosen]
        cells = dial_cells(self._use, dials[0]) if dials else strength_cells(self._use)
        self.view.show_use(self._use, self._carried, cells)

    def done(self, result: int) -> None:
        """Ends what plays."""
        self.view.end()
        self.sound.close()
        super().done(result)
