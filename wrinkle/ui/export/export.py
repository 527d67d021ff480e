"""The Export place: what is written and as what at the left, the queue at the right."""

from __future__ import annotations

import shutil
from collections.abc import Sequence
from pathlib import Path

import numpy as np
from msgspec.structs import replace as replaced
from numpy.typing import NDArray
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QPushButton,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Job, Urgency, WorkLine
from wrinkle.core.picture.image import Size
from wrinkle.core.piece.document import Piece
from wrinkle.exporting.item_writing import piece_output
from wrinkle.files.archive import SUFFIX, write
from wrinkle.files.presence import is_there
from wrinkle.files.targets import free_path, spare
from wrinkle.library.exports import ExportItem, State
from wrinkle.media.output.estimating import Estimate, as_encoded, estimated
from wrinkle.media.pieces import paths_of
from wrinkle.ui.actions.action import Action
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.desktop_portal import DesktopPortal
from wrinkle.ui.export.choosing import Choosing
from wrinkle.ui.export.queue import ELSEWHERE, ExportQueue
from wrinkle.ui.export.queue_list import QueueList
from wrinkle.ui.place import Place, PlaceKind, PlaceWanted, WorksOn
from wrinkle.ui.shared.asking_files import FileEnding
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.empty_state import EmptyState
from wrinkle.ui.shared.flow_row import FlowRow
from wrinkle.ui.shared.panel import as_panel
from wrinkle.ui.shared.picture_view import PictureView
from wrinkle.ui.shared.plain_text import Buttons, PlainLabel, ask, tip
from wrinkle.ui.shared.scrolled import Scrolled
from wrinkle.ui.text_size import Extent, keep

_SOON_MS = 500
_WIDTH, _QUEUE_WIDTH = 360, 340


class Export(Place):
    """Chooses, looks, estimates, and queues."""

    works_on = WorksOn.PIECE

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.queue = ExportQueue(desk.workers, desk.messages)
        self.choosing = Choosing(desk)
        self.list = QueueList(self.queue)
        self.portal = DesktopPortal()
        self._over: list[ExportItem] = []
        """What has ended since the queue runs."""
        self._picture: QImage | None = None
        self._estimating: Job | None = None
        self._expected: Estimate | None = None
        self.view = PictureView(lambda frame: self._picture)
        self.view.setAccessibleName("The middle frame as it will look")
        self.estimate = PlainLabel()
        self.estimate.setWordWrap(True)
        self.nothing = EmptyState(
            "There is nothing to write yet: put clips into the Cut list, or two on the Bench."
        )
        for label, key in (("Go to the Cut list", "cutlist"), ("Go to the Bench", "bench")):
            button = self.nothing.add(label)
            button.clicked.connect(lambda checked, key=key: self.wanted.emit(PlaceWanted(key)))
        self.nothing.hide()
        self.add_button = QPushButton("Add to the queue…")
        self.add_button.setObjectName("main")
        self.run_button = QToolButton()
        self.whole = QToolButton()
        self.whole.setText("Pixels")
        self.whole.setCheckable(True)
        self.whole.setToolTip(tip("One pixel of the file for one of the screen"))
        self._line = WorkLine(
            desk.workers.jobs, Urgency.ASKED, "It cannot be estimated", self._cannot
        )
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(_SOON_MS)
        self._soon.timeout.connect(self._ask)
        self._lay_out()
        self.choosing.changed.connect(self._wait)
        self.choosing.faulted.connect(desk.messages.faulted)
        self.whole.toggled.connect(self._wait)
        desk.piece.changed.connect(self._wait)
        desk.document.changed.connect(self._wait)
        self.queue.ended.connect(self._told)
        self.queue.runsChanged.connect(self.said)
        self.queue.runsChanged.connect(self._care_for_desktop)
        self.queue.changed.connect(self.said)
        self._unfinished = self.queue.load()

    def _lay_out(self) -> None:
        left = as_panel(QWidget())
        keep(left, Extent.WIDTH, _WIDTH)
        scroll = Scrolled()
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setWidget(self.choosing)
        column = QVBoxLayout(left)
        column.setContentsMargins(14, 10, 14, 12)
        heading = PlainLabel("What, and as what")
        heading.setObjectName("heading")
        column.addWidget(heading)
        column.addWidget(scroll, 1)
        column.addWidget(self.estimate)
        column.addWidget(self.nothing)
        column.addWidget(self.add_button)
        middle = QVBoxLayout()
        middle.setContentsMargins(0, 0, 0, 0)
        looked = ElidedLabel("The middle frame, as it will look")
        looked.setObjectName("heading")
        top = FlowRow(8, looked)
        top.setContentsMargins(12, 8, 12, 4)
        top.addWidget(looked)
        top.addWidget(self.whole)
        middle.addLayout(top)
        middle.addWidget(self.view, 1)
        right = as_panel(QWidget())
        right.setMinimumWidth(_QUEUE_WIDTH)
        rows = QVBoxLayout(right)
        rows.setContentsMargins(14, 8, 8, 8)
        head = QHBoxLayout()
        title = PlainLabel("Queue")
        title.setObjectName("heading")
        head.addWidget(title, 1)
        head.addWidget(self.run_button)
        rows.addLayout(head)
        rows.addWidget(self.list, 1)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(6)
        layout.addWidget(left)
        layout.addLayout(middle, 4)
        layout.addWidget(right, 5)

    # What the window asks

    def actions_here(self) -> Sequence[Action]:
        """Adding, and the queue."""
        queue = self.queue

        def nothing_waits() -> str:
            there = any(not item.ended for item in queue.items)
            return "" if there else "Nothing waits; add something to the queue first."

        return [
            Action("export.add", "Add to the queue…", self.ask_goal, "File", 40, ("Ctrl+E",),
                   says="Asks for a file, and puts what is chosen into the queue."),
            Action("export.run", "Write what waits, or hold it", self.toggle, "File", 41,
                   says="Writes what is in the queue, one after the other, or holds it.",
                   why_not=nothing_waits, checked=lambda: queue.runs,
                   short=lambda: "Hold" if queue.runs else "Start",
                   follows=(queue.runsChanged, queue.changed)),
            Action("export.clear", "Clear what has ended", self.clear, "File", 42,
                   says="Takes off the list what is written, failed or cancelled."),
        ]  # fmt: skip

    def bind(self, menus: Menus) -> None:
        """The buttons stand for what is in the menus."""
        menus.bind("export.add", self.add_button)
        menus.bind("export.run", self.run_button)

    def words(self) -> str:
        """What the queue does."""
        waiting = sum(item.state is State.WAITING for item in self.queue.items)
        if self.queue.busy:
            return f"Writing; {waiting} more wait" if waiting else "Writing"
        return f"{waiting} wait" if waiting else "Nothing waits"

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        self.choosing.refresh()
        if self.queue.elsewhere:
            self._desk.messages.told.emit(ELSEWHERE)
        if self._unfinished:
            number, self._unfinished = self._unfinished, 0
            one = "1 export was" if number == 1 else f"{number} exports were"
            self._desk.messages.told.emit(f"{one} not finished; press Start to write on.")

    def may_leave(self) -> bool:
        """Asks where something is being written."""
        if not self.queue.busy:
            return True
        answer = ask(
            self,
            "An export is not finished",
            "A file is being written. It is offered again at the next start, and begins anew.",
            Buttons.Close | Buttons.Cancel,
            Buttons.Cancel,
            {Buttons.Close: "Close all the same"},
        )
        return answer == Buttons.Close

    def close_down(self) -> None:
        """What is being written waits for the next start."""
        self._soon.stop()
        self.portal.let_sleep()
        self._line.close()
        if self._estimating is not None:
            self._estimating.cancel()
        self.queue.close_down()

    # Adding

    def ask_goal(self) -> None:
        """Asks for a file, and puts what is chosen into the queue."""
        choosing = self.choosing
        if choosing.writes_wrinkle:
            self._write_wrinkle()
            return
        try:
            choosing.items(Path("x"))
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            return
        ending = FileEnding(choosing.suffix or "", choosing.form.currentText())
        path = self._desk.asking.goal(
            self, "Write to", "video", choosing.name, (ending,), free=True
        )
        if path is not None:
            self.add(path, agreed=True)

    def _write_wrinkle(self) -> None:
        """Asks for a file, and writes the wrinkle there at once: that takes no time."""
        document = self._desk.document
        ending = FileEnding(SUFFIX, "Wrinkle")
        name = document.bundle().wrinkle.name
        path = self._desk.asking.goal(self, "Write to", "wrinkle", name, (ending,))
        if path is None:
            return
        try:
            write(path, document.bundle())
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
        else:
            self._desk.messages.told.emit(f"{path.name} is written.")

    def add(self, path: Path, agreed: bool = False) -> bool:
        """Puts what is chosen into the queue; gives whether it could be done.

        Args:
            path: of the file; several are named after it.
            agreed: whether the person was asked already about what is there.
        """
        try:
            piece, items = self.choosing.items(path)
            for item in items:
                spare(Path(item.path), paths_of(piece))
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            return False
        if not self._fits(path):
            return False
        for number, item in enumerate(items):
            goal = Path(item.path)
            asked = agreed and len(items) == 1
            if is_there(goal):
                placed = replaced(item, replaces=True) if asked else self._placed(item)
                if placed is None:
                    return False
                items[number] = placed
        return all(self.queue.add(piece, item) for item in items)

    def _placed(self, item: ExportItem) -> ExportItem | None:
        """An item whose goal is there: in its place, beside it, or not at all."""
        goal = Path(item.path)
        beside = free_path(goal)
        answer = ask(
            self,
            "Replace the file",
            f"{goal.name} is there already.",
            Buttons.Save | Buttons.Yes | Buttons.Cancel,
            Buttons.Yes,
            {Buttons.Save: "Replace it", Buttons.Yes: f"Write {beside.name}"},
        )
        if answer == Buttons.Yes:
            return replaced(item, path=str(beside))
        return replaced(item, replaces=True) if answer == Buttons.Save else None

    def _fits(self, path: Path) -> bool:
        """Whether there is room for what is expected; says how much is missing."""
        if self._expected is None:
            return True
        needed = self._expected.megabytes
        try:
            free = shutil.disk_usage(path.parent).free / 1e6
        except OSError:
            # Why it cannot be written is said when it is.
            return True
        if needed > free:
            self._desk.messages.faulted.emit(
                f"{path.name} would be about {needed:.0f} MB large, and there is room for "
                f"{free:.0f} MB; make room, or choose another place."
            )
        return needed <= free

    def toggle(self) -> None:
        """Writes what waits, or holds it."""
        if self.queue.runs:
            self.queue.pause()
        else:
            self.queue.start()

    def clear(self) -> None:
        """Takes off the list what has ended."""
        for item in self.queue.items:
            if item.ended:
                self.queue.remove(item.id)

    def _told(self, item: ExportItem) -> None:
        self._over.append(item)
        name = Path(item.path).name
        if item.state is State.DONE:
            self._desk.messages.told.emit(f"{name} is written: {item.told}")
        elif item.state is State.FAILED:
            self._desk.messages.faulted.emit(item.told)

    def _care_for_desktop(self) -> None:
        """It stays awake while the queue runs, and says at the end what came of it."""
        if self.queue.runs:
            self._over.clear()
            self.portal.keep_awake("Wrinkle is writing files")
            return
        self.portal.let_sleep()
        waiting = any(not item.ended for item in self.queue.items)
        if self._over and not waiting and not self.isActiveWindow():
            written = [Path(x.path).name for x in self._over if x.state is State.DONE]
            failed = [Path(x.path).name for x in self._over if x.state is State.FAILED]
            said = (("Written", written), ("Failed", failed))
            text = "; ".join(f"{word}: {', '.join(names)}" for word, names in said if names)
            self.portal.tell("exports", "The exports have ended", text)

    # What is to be expected

    def _wait(self) -> None:
        self._expected = None
        if self.isVisible():
            self._soon.start()

    def _cannot(self, sentence: str) -> None:
        self.estimate.setText(sentence)

    def _ask(self) -> None:
        """Looks at the middle frame, and estimates time and size."""
        self._expected = None
        self._line.drop()
        there = self.choosing.has_something
        self.nothing.setVisible(not there)
        self.add_button.setVisible(there)
        self.estimate.setVisible(there)
        self.view.expect(there)
        if self.choosing.writes_wrinkle:
            self.estimate.setText("It is written at once.")
            return
        try:
            piece, items = self.choosing.items(Path(f"estimate{self.choosing.suffix}"))
        except InputError as fault:
            self.estimate.setText(str(fault))
            self._picture = None
            self.view.update()
            return
        self.estimate.setText("Estimating…")
        # Nothing is written there: it is looked at only.
        item = replaced(items[0], replaces=True)
        ways = _ways(items)
        if self.choosing.pictures:
            self._line.put(lambda job: self._looked(piece, item, job), self._show_picture)
        else:
            self._picture = None
            self.view.update()
        if self._estimating is not None:
            self._estimating.cancel()
        self._estimating = self._desk.workers.jobs.start(
            lambda job: self._estimated(piece, ways, job),
            lambda found: self._show_estimate(found, items),
            self._cannot,
            "It cannot be estimated",
        )

    def _looked(self, piece: Piece, item: ExportItem, job: Job) -> NDArray[np.uint8]:
        workers = self._desk.workers
        output = piece_output(piece, item, workers.pool, workers.store)
        return as_encoded(output, (item.first + item.end) // 2)

    def _show_picture(self, found: NDArray[np.uint8]) -> None:
        height, width = found.shape[:2]
        content = np.ascontiguousarray(found).tobytes()
        whole = QImage(content, width, height, 3 * width, QImage.Format.Format_RGB888).copy()
        if self.whole.isChecked():
            # As much of the middle as there is room for, pixel for pixel.
            room = self.view.size()
            across, down = min(room.width() - 8, width), min(room.height() - 8, height)
            whole = whole.copy((width - across) // 2, (height - down) // 2, across, down)
        self._picture = whole
        self.view.show_frame(0, Size(whole.width(), whole.height()))

    def _estimated(self, piece: Piece, ways: dict[ExportItem, float], job: Job) -> Estimate:
        """Of all together: one of each way is looked at for those that are written as it is."""
        workers, seconds, megabytes = self._desk.workers, 0.0, 0.0
        for item, share in ways.items():
            output = piece_output(piece, item, workers.pool, workers.store)
            found = estimated(output, workers.jobs, job)
            seconds += found.seconds * share
            megabytes += found.megabytes * share
        return Estimate(seconds, megabytes)

    def _show_estimate(self, found: Estimate, items: Sequence[ExportItem]) -> None:
        self._expected = found
        frames = sum(item.end - item.first for item in items)
        each = f" in {len(items)} files" if len(items) > 1 else ""
        self.estimate.setText(
            f"{frames} frames{each}: about {found.megabytes:.1f} MB, {_lasting(found.seconds)}."
        )


def _lasting(seconds: float) -> str:
    return f"{seconds:.0f} seconds" if seconds < 120 else f"{seconds / 60:.0f} minutes"


def _ways(items: Sequence[ExportItem]) -> dict[ExportItem, float]:
    """One item of each way of writing, and how many times its frames are written so in all."""
    alike: dict[tuple[object, ...], list[ExportItem]] = {}
    for item in items:
        way = (
            item.form, item.size, item.rate, item.depth, item.quality, item.bits, item.megabytes,
            item.colour,
        )  # fmt: skip
        alike.setdefault(way, []).append(item)
    return {
        replaced(each[0], replaces=True): sum(x.end - x.first for x in each)
        / (each[0].end - each[0].first)
        for each in alike.values()
    }


PLACE = PlaceKind("export", "Export", Export)
