"""The shelf of wrinkles: found by words, kind and shelf, tried, and looked after."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QFileSystemWatcher, QTimer, pyqtSignal
from PyQt6.QtGui import QDragEnterEvent, QDropEvent, QHideEvent, QShowEvent
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design.document.kinds import KINDS
from wrinkle.core.design.document.slots import GIVEN
from wrinkle.core.errors import InputError
from wrinkle.core.render.material import Filling
from wrinkle.core.reuse.use import AS_MADE
from wrinkle.files.archive import SUFFIX
from wrinkle.library import samples
from wrinkle.library.marks import Marks, mark_used, read_marks
from wrinkle.library.shelf import Shelved, Shelves
from wrinkle.library.tiles import Ground
from wrinkle.media.clip import Clip
from wrinkle.ui.actions.action import Action
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.choosing.board import BoardDialog
from wrinkle.ui.choosing.compare import Compared, CompareDialog
from wrinkle.ui.choosing.tile_strips import TileStrips
from wrinkle.ui.choosing.wrinkle_tiles import WrinkleTiles
from wrinkle.ui.collection.detail_panel import DetailPanel
from wrinkle.ui.collection.shelf_care import ShelfCare
from wrinkle.ui.collection.wrinkle_actions import wrinkle_actions
from wrinkle.ui.desk.parts import Browsing
from wrinkle.ui.pictures.sound_player import SoundPlayer
from wrinkle.ui.place import UseWanted, WrinkleWanted
from wrinkle.ui.shared.drops import accept_files, dropped_files
from wrinkle.ui.shared.empty_state import EmptyState
from wrinkle.ui.shared.flow_row import FlowRow
from wrinkle.ui.shared.plain_text import tip

_ALL, _FAVOURITES, _USED, _OWN, _SHIPPED = "all", "favourites", "last used", "your own", "shipped"
_SETTLE_MS = 150


class WrinkleShelf(QWidget):
    """All saved wrinkles.

    Signals:
        said: the words for the status line are others.
        wanted: something that another part of the window does.
    """

    said = pyqtSignal()
    wanted = pyqtSignal(object)

    def __init__(self, desk: Browsing) -> None:
        super().__init__()
        self._desk = desk
        self.shelves = Shelves()
        self._all: list[Shelved] = []
        self._marks = Marks()
        self._samples: dict[str, Clip] = {}
        self._brought: Mapping[str, Filling] = {}
        self.setAcceptDrops(True)
        self.strips = TileStrips(desk.workers, desk.messages.faulted.emit)
        self.tiles = WrinkleTiles(self.strips)
        self.panel = DetailPanel(desk)
        self.care = ShelfCare(self.shelves, self.tiles, desk.messages, desk.asking, self)
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find by words")
        self.search.setToolTip(tip("Words of a name, a kind, a feel, a length or what it is for"))
        self.search.setAccessibleName("Search: wrinkles")
        self.search.setClearButtonEnabled(True)
        self.kind, self.shelf = QComboBox(), QComboBox()
        self.kind.setAccessibleName("Kind")
        self.kind.addItem("every kind", "")
        for kind in KINDS:
            self.kind.addItem(kind, kind)
        self.shelf.setAccessibleName("Shelf")
        self.import_button = QPushButton("Import…")
        self.many_button = QPushButton("Export several…")
        self.back_button = QPushButton("Bring back")
        self.back_button.hide()
        self.empty = EmptyState()
        self.empty.add("Show all wrinkles").clicked.connect(self._show_all)
        self._watcher = QFileSystemWatcher(self)
        self._settling = QTimer(self)
        self._settling.setSingleShot(True)
        self._settling.setInterval(_SETTLE_MS)
        self._lay_out()
        self._connect()

    def _lay_out(self) -> None:
        top = FlowRow(8, self.search)
        top.addWidget(self.search)
        for widget in (
            self.kind, self.shelf, self.import_button, self.many_button, self.back_button,
        ):  # fmt: skip
            top.addWidget(widget)
        left = QVBoxLayout()
        left.setContentsMargins(16, 8, 8, 12)
        left.addLayout(top)
        left.addWidget(self.empty)
        left.addWidget(self.tiles, 1)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addLayout(left, 1)
        layout.addWidget(self.panel)

    def _connect(self) -> None:
        self.search.textChanged.connect(lambda: self._fill())
        self.kind.activated.connect(lambda: self._fill())
        self.shelf.activated.connect(lambda: self._fill())
        self.tiles.pointed.connect(self._point)
        self.tiles.taken.connect(self.open)
        care = self.care
        care.changed.connect(self._care_taken)
        care.made.connect(self._point_at)
        self._watcher.directoryChanged.connect(lambda: self._settling.start())
        self._watcher.fileChanged.connect(lambda: self._settling.start())
        self._settling.timeout.connect(self.refresh)
        self._desk.tried.changed.connect(self._show_ground)
        moves = self.panel.move_to
        moves.aboutToShow.connect(partial(care.fill_moves, moves))

    # What is shown

    def refresh(self) -> None:
        """Reads what is on disk now; what did not change stays as it is."""
        self._all = self.shelves.all()
        try:
            self._marks = read_marks()
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            self._marks = Marks()
        self._watch()
        self._fill_shelves()
        self._fill()

    def _watch(self) -> None:
        folders = [str(x) for x in self.shelves.folders()]
        watched = set(self._watcher.directories())
        new = [x for x in folders if x not in watched]
        if new:
            self._watcher.addPaths(new)
        gone = [x for x in watched if x not in folders]
        if gone:
            self._watcher.removePaths(gone)

    def _fill_shelves(self) -> None:
        before = self.shelf.currentData()
        names = [x.name for x in self.shelves.folders()[1:]]
        wanted = [_ALL, _FAVOURITES, _USED, _OWN, *(f"/{name}" for name in names), _SHIPPED]
        if [self.shelf.itemData(i) for i in range(self.shelf.count())] != wanted:
            self.shelf.clear()
            for word in wanted:
                self.shelf.addItem(word.removeprefix("/"), word)
            self.shelf.setCurrentIndex(max(self.shelf.findData(before), 0))

    def _fill(self) -> None:
        words, kind = self.search.text(), str(self.kind.currentData() or "")
        shelf = str(self.shelf.currentData() or _ALL)
        marks = self._marks
        found = [x for x in self._all if x.matches(words, kind) and _on_shelf(x, shelf, marks)]
        if shelf == _USED:
            found.sort(key=lambda one: -marks.used[one.key])
        self.empty.setVisible(not found)
        self.empty.words.setText(
            f"No wrinkle is found by '{words}'. Fewer words find more."
            if words.strip()
            else "Nothing stands here yet. Save a wrinkle on the Bench (Ctrl+S), or import one."
        )
        self.tiles.show_wrinkles(found, marks.favourites)
        self._point()

    def _show_all(self) -> None:
        """Nothing is looked for any more."""
        for box in (self.kind, self.shelf):
            box.setCurrentIndex(0)
        self.search.clear()
        self._fill()

    def _point(self) -> None:
        one = self.tiles.current
        self.panel.show_wrinkle(one)
        self.many_button.setEnabled(sum(x.wrinkle is not None for x in self.tiles.selected) > 1)
        self.said.emit()

    def words(self) -> str:
        """How many there are, and how many are found."""
        broken = sum(one.wrinkle is None for one in self._all)
        told = f"{len(self.tiles.found)} of {len(self._all)} wrinkles"
        return f"{told}, {broken} cannot be read" if broken else told

    def _show_ground(self) -> None:
        """The clips of the Bench, or the small ones that ship while there are none."""
        if not self.isVisible():
            return
        tried = self._desk.tried.fillings()
        if self._brought:
            self._ground(dict(self._brought), True)
            return
        if all(key in tried for key in GIVEN):
            self._ground(tried, True)
            return
        if len(self._samples) == len(samples.SAMPLES):
            self._ground(self._sample_fillings(), False)
            return
        for slot, path in samples.SAMPLES.items():
            self._desk.workers.read_clip(
                path,
                partial(self._take_sample, slot),
                self._desk.messages.faulted.emit,
            )

    def try_on(self, clips: Mapping[str, Filling]) -> None:
        """Shows the tiles on the clips of a cut; without any on those of the Bench."""
        self._brought = clips if all(key in clips for key in GIVEN) else {}
        self._show_ground()

    def _take_sample(self, slot: str, clip: Clip) -> None:
        self._samples[slot] = clip
        if len(self._samples) == len(samples.SAMPLES):
            self._show_ground()

    def _sample_fillings(self) -> dict[str, Filling]:
        return {slot: Filling(clip, clip.duration / 2) for slot, clip in self._samples.items()}

    def _ground(self, fillings: dict[str, Filling], of_the_bench: bool) -> None:
        given = {key: fillings[key] for key in GIVEN}
        self.strips.set_ground(Ground(given, shipped=not of_the_bench))
        self.panel.set_clips(given, of_the_bench)
        self.tiles.reshape()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.refresh()
        self._show_ground()

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self.leave()

    def leave(self) -> None:
        """Nothing plays that nobody sees."""
        self.panel.stop()

    def close_down(self) -> None:
        """Ends what runs."""
        self.panel.close_down()

    def actions_here(self) -> Sequence[Action]:
        """What can be done with the selected wrinkle."""
        return wrinkle_actions(self)

    def bind(self, menus: Menus) -> None:
        """The buttons stand for what is in the menus."""
        menus.bind("collection.import", self.import_button)
        menus.bind("collection.many", self.many_button)
        menus.bind("collection.back", self.back_button)
        self.panel.bind(menus)

    def seek(self) -> None:
        """Lets one type what is looked for."""
        self.search.setFocus()

    @property
    def on_own_clips(self) -> bool:
        """Whether the selected wrinkle is shown on the clips of the Bench."""
        return self.panel.on_own_clips

    @property
    def is_favourite(self) -> bool:
        """Whether the selected wrinkle is a favourite."""
        one = self.tiles.current
        return one is not None and one.key in self._marks.favourites

    @property
    def _own_shelf(self) -> str:
        """The shelf of one's own that is shown, if one is."""
        shelf = str(self.shelf.currentData() or "")
        return shelf.removeprefix("/") if shelf.startswith("/") else ""

    def _care_taken(self) -> None:
        self.refresh()
        self.back_button.setVisible(self.care.deleted)

    def _point_at(self, path: Path) -> None:
        keys = [one.key for one in self._all if one.path == path]
        if keys:
            self.tiles.point_at(keys[0])

    # What is done

    def open(self) -> None:
        """Opens the selected wrinkle on the Bench; a shipped one as a copy."""
        one = self.tiles.current
        if one is not None and one.wrinkle is not None:
            self._used(one)
            self.wanted.emit(WrinkleWanted(one.path, one.shipped, self.panel.choices))

    def show_board(self) -> BoardDialog | None:
        """The selected wrinkle in its directions and strengths; the one that is clicked counts."""
        try:
            found = self.panel.use()
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            return None
        if found is None:
            return None
        self.panel.stop()
        board = BoardDialog(*found, self._desk.workers, self._sound(), self.window())
        board.taken.connect(lambda choices: self.panel.controls.set_choices(choices, told=True))
        board.show()
        return board

    def _sound(self) -> SoundPlayer:
        return SoundPlayer(self._desk.output(), self._desk.sound)

    def compare(self) -> CompareDialog | None:
        """The two selected wrinkles side by side, in step, with their difference."""
        try:
            sides = [
                Compared(one.name, *found)
                for one in self.tiles.selected
                if (found := self.panel.use_of(one, AS_MADE)) is not None
            ]
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            return None
        if len(sides) != 2:
            self._desk.messages.faulted.emit("Select two wrinkles to compare them.")
            return None
        self.panel.stop()
        dialog = CompareDialog(sides[0], sides[1], self._desk.workers, self._sound(), self.window())
        dialog.show()
        return dialog

    def _use(self, here: bool, clips: tuple[Path, ...] = ()) -> None:
        one = self.tiles.current
        if one is None or one.wrinkle is None:
            return
        try:
            bundle = one.bundle()
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            return
        self._used(one)
        self.wanted.emit(UseWanted(bundle, self.panel.choices, here, clips))

    def _used(self, one: Shelved) -> None:
        try:
            self._marks = mark_used(one.key)
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))

    def use_here(self) -> None:
        """Uses the selected wrinkle on the clips of the Bench."""
        self._use(here=True)

    def use_elsewhere(self) -> None:
        """Uses the selected wrinkle on other clips."""
        self._use(here=False)

    def take_in(self) -> None:
        """Asks for wrinkles to be kept on the shelf that is shown."""
        self.care.ask_source(self._own_shelf)

    def toggle_play(self) -> None:
        """All tiles move, or the one that is pointed at."""
        self.tiles.all_play = not self.tiles.all_play
        self.tiles.viewport_update()

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        if event is not None and event.source() is None:
            accept_files(event)

    def dropEvent(self, event: QDropEvent | None) -> None:
        """Wrinkles are kept; on clips the selected wrinkle is used."""
        dropped = dropped_files(event)
        wrinkles = [path for path in dropped if path.suffix in (SUFFIX, ".zip")]
        clips = tuple(path for path in dropped if path not in wrinkles)
        self.care.take_in(wrinkles, self._own_shelf)
        if clips:
            self._use(here=False, clips=clips)


def _on_shelf(one: Shelved, shelf: str, marks: Marks) -> bool:
    match shelf:
        case "all":
            return True
        case "favourites":
            return one.key in marks.favourites
        case "last used":
            return one.key in marks.used
        case "your own":
            return not one.shipped
        case "shipped":
            return one.shipped
    return f"/{one.shelf}" == shelf
