"""The guide over the window: it says what to do, marks where, and sees that it was done."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from wrinkle.core.motion.track import Side
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.help.steps import STEPS, Begun, Step, Task
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.shared.seam import seam_pen
from wrinkle.ui.shared.stitched_ring import StitchedRing
from wrinkle.ui.theme import active

_LOOKS_MS = 120
_MARK_WIDTH, _MARK_OUT = 3.0, 4


class FirstSteps(QWidget):
    """A line under the bar of places.

    Args:
        desk: on which the steps are done.
        place: gives the key of the place that is shown.
        named: gives a text with the names and keys of what it names.
        go_to: shows a place.

    Attributes:
        mark: the ring around what is to be used.

    Signals:
        reached: another step has begun, by its number from 0; their number when all are done.
        said: what is to be done now.
        wanted: it is to begin, by whoever was asked.
    """

    wanted = pyqtSignal()
    reached = pyqtSignal(int)
    said = pyqtSignal(str)

    def __init__(
        self,
        desk: Desk,
        place: Callable[[], str],
        named: Callable[[str], str],
        go_to: Callable[[str], object],
    ) -> None:
        super().__init__()
        self._desk, self._place, self._named, self._go_to = desk, place, named, go_to
        self._number = self._part = 0
        self._begun = Begun.on(desk)
        self.title = PlainLabel()
        self.title.setObjectName("heading")
        self.words = PlainLabel()
        self.words.setWordWrap(True)
        self.words.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
        self.begin_button = QPushButton("Begin")
        self.begin_button.setObjectName("main")
        self.begin_button.clicked.connect(self.wanted)
        self.lead_there = QPushButton("Lead me there")
        self.lead_there.setToolTip(tip("Gives the marked part the keys"))
        self.lead_there.clicked.connect(self._lead)
        self.back = QPushButton("Back")
        self.back.clicked.connect(lambda: self.show_step(self._number - 1))
        self.skip = QPushButton("Skip")
        self.skip.clicked.connect(lambda: self.show_step(self._number + 1))
        self.leave = QPushButton("Leave")
        self.leave.setToolTip(tip("Help, First steps goes on from here"))
        self.leave.clicked.connect(self.end)
        words = QVBoxLayout()
        words.setSpacing(0)
        words.addWidget(self.title)
        words.addWidget(self.words)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 6, 12, 8)
        row.addLayout(words, 1)
        for button in (
            self.begin_button, self.lead_there, self.back, self.skip, self.leave,
        ):  # fmt: skip
            row.addWidget(button, 0, Qt.AlignmentFlag.AlignVCenter)
        self.mark = StitchedRing("seam", _MARK_WIDTH, _MARK_OUT)
        self.mark.setParent(self)
        self._looks = QTimer(self)
        self._looks.setInterval(_LOOKS_MS)
        self._looks.timeout.connect(self._look)
        self.hide()

    @property
    def number(self) -> int:
        """The step that is shown, from 0."""
        return self._number

    @property
    def running(self) -> bool:
        """Whether it guides."""
        return self._looks.isActive()

    @property
    def part_number(self) -> int:
        """Which of the step's parts is to be done, from 0."""
        return self._part

    @property
    def ready(self) -> bool:
        """Whether it is known how things were before anything is done."""
        clip = self._desk.tried.clips.get(Side.OUTGOING.value)
        reading = self._desk.tried.reading(Side.OUTGOING.value)
        return clip is not None and not reading and clip.source is self._begun.clip

    @property
    def step(self) -> Step | None:
        """The step; None when all are done."""
        return STEPS[self._number] if self._number < len(STEPS) else None

    @property
    def part(self) -> Task | None:
        """What is to be done now."""
        return self.step.parts[self._part] if self.step is not None else None

    def offer(self) -> None:
        """Asks somebody who is new here whether to begin; nothing is marked or looked at yet."""
        self.title.setText("New here?")
        self.words.setText(
            self._named(
                "Eight steps lead from two clips to a wrinkle on a cut, in under ten minutes. They "
                "wait in the menu Help: {help.first-steps}."
            )
        )
        for button in (self.lead_there, self.back, self.skip):
            button.hide()
        self.begin_button.show()
        self.show()

    def begin(self, number: int) -> None:
        """Guides from a step on; from the first one that can be done as things are."""
        while number and not self._possible(number):
            number -= 1
        self.show()
        self.show_step(number)

    def show_step(self, number: int) -> None:
        """Goes to a step, whether the one before was done or not."""
        self._number = min(max(number, 0), len(STEPS))
        self._part = 0
        step = self.step
        if step is not None and step.place != self._place() and step.parts[0].where != "Cut list":
            self._go_to(step.place)
        self.reached.emit(self._number)
        self._begin_part()
        self._looks.start()

    def end(self) -> None:
        """Guides no longer; it can be taken up where it was left."""
        self._looks.stop()
        self.mark.surround(None)
        self.hide()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), active().colour("selected"))
        painter.setPen(seam_pen())
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)

    def target(self) -> QWidget | None:
        """What is to be used now, if it can be seen."""
        part, window = self.part, self.window()
        if part is None or not part.where or window is None:
            return None
        found = (x for x in window.findChildren(QWidget) if x.accessibleName() == part.where)
        return next((x for x in found if x.isVisible()), None)

    def _possible(self, number: int) -> bool:
        if number >= len(STEPS):
            return True
        return all(part.needs(self._desk) for part in STEPS[number].parts[:1])

    def _begin_part(self) -> None:
        self._begun = Begun.on(self._desk)
        step, part = self.step, self.part
        self.begin_button.hide()
        self.back.show()
        for button in (self.lead_there, self.skip):
            button.setVisible(step is not None)
        self.back.setEnabled(self._number > 0)
        if step is None or part is None:
            self.title.setText("All eight steps are done.")
            words = (
                "The wrinkle is yours, on any cut, in any size and rate. {help.manual} says more; "
                "{help.find} finds any command."
            )
        else:
            self.title.setText(f"{self._number + 1} of {len(STEPS)}: {step.title}")
            words = part.words
        self.words.setText(self._named(words))
        self.said.emit(f"{self.title.text().removesuffix('.')}. {self.words.text()}")
        self._look_for_target()

    def _look(self) -> None:
        """Whether it is done by now."""
        part, step = self.part, self.step
        if part is None or step is None:
            self._look_for_target()
            return
        clip = self._desk.tried.clips.get(Side.OUTGOING.value)
        if clip is not None and clip.source is not self._begun.clip:
            # It was read only now: where it is cut is nobody's doing yet.
            self._begun = Begun.on(self._desk)
        if part.done(self._desk, self._begun, self._place()):
            if self._part + 1 < len(step.parts):
                self._part += 1
                self._begin_part()
            else:
                self.show_step(self._number + 1)
            return
        self._look_for_target()

    def _look_for_target(self) -> None:
        target = self.target()
        self.lead_there.setEnabled(target is not None)
        if target is not self.mark.around:
            self.mark.surround(target)

    def _lead(self) -> None:
        target = self.target()
        if target is not None:
            target.setFocus(Qt.FocusReason.ShortcutFocusReason)
