"""The Cut list: running order at the left, the chosen cut or clip at the right, the map below."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from contextlib import suppress
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QMenu,
    QPushButton,
    QSplitter,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design.document.slots import GIVEN
from wrinkle.core.errors import InputError
from wrinkle.core.render.material import Filling
from wrinkle.core.time.timecode import timecode
from wrinkle.library.samples import DEMO_PIECE
from wrinkle.ui.actions.action import Action
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.cutlist.clip_panel import ClipPanel
from wrinkle.ui.cutlist.clip_waves import ClipWaves
from wrinkle.ui.cutlist.cut_panel import CutPanel
from wrinkle.ui.cutlist.cut_strips import CutStrips
from wrinkle.ui.cutlist.cutlist_actions import CutListActions
from wrinkle.ui.cutlist.dresser import Dresser, is_wrinkle
from wrinkle.ui.cutlist.music_dialog import MusicDialog
from wrinkle.ui.cutlist.piece_intake import PieceIntake
from wrinkle.ui.cutlist.piece_looking import PieceLooking, Row
from wrinkle.ui.cutlist.piece_map import PieceMap
from wrinkle.ui.cutlist.piece_output import PieceOutput
from wrinkle.ui.cutlist.piece_screen import PieceScreen
from wrinkle.ui.cutlist.running_order import RunningOrder
from wrinkle.ui.cutlist.shelf_strip import ShelfStrip
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.music import Music
from wrinkle.ui.pictures.clip_pictures import ClipPictures
from wrinkle.ui.pictures.sound_player import SoundPlayer
from wrinkle.ui.place import CutWanted, PieceWanted, Place, PlaceKind, Takes, WorksOn
from wrinkle.ui.shared.drops import (
    accept_files,
    dropped_files,
)
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.empty_state import EmptyState
from wrinkle.ui.shared.hanging_menu import hang_menu
from wrinkle.ui.shared.panel import as_panel
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.shared.scrolled import Scrolled

_NO_CUT, _CUT, _CLIP = range(3)


class CutList(Place):
    """Where a whole piece is dressed."""

    works_on = WorksOn.PIECE

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._document = desk.piece
        self._progress = (0, 0)
        self._music_dialog: MusicDialog | None = None
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        workers = desk.workers
        self.looking = PieceLooking(desk.piece)
        self.dresser = Dresser(desk.piece, self.looking, desk.messages)
        self.clip_pictures = ClipPictures(workers.jobs, workers.store, self)
        self.strips = CutStrips(desk.piece, workers, desk.messages.faulted.emit)
        self.waves = ClipWaves(desk.piece.media, workers, desk.messages.faulted.emit)
        self.order = RunningOrder(
            desk.piece, self.looking, self.clip_pictures, self.strips, is_wrinkle, desk.examiner,
            self.waves,
        )  # fmt: skip
        self.sound = SoundPlayer(desk.output(), desk.sound, self)
        self.sound.told.connect(desk.messages.told)
        self.watch = PieceScreen(desk.piece, self.looking, workers, self.sound)
        self.music = Music(desk.piece, workers, desk.messages)
        self.map = PieceMap(desk.piece, desk.stretch, self.looking, self.watch, self.music)
        self.watch.show_beats(self.music)
        self.shelf = ShelfStrip(desk)
        self.cut_panel = CutPanel(
            desk.piece, self.looking, self.dresser, self.clip_pictures, desk.asking
        )
        self.clip_panel = ClipPanel(desk.piece, self.looking, desk.asking)
        self.intake = PieceIntake(desk, self.looking, self.clip_pictures, self)
        self.output = PieceOutput(desk, self)
        self.doing = CutListActions(
            desk.piece, desk.stretch, self.looking, self.dresser, self.shelf, self.clip_panel,
            desk.messages,
        )  # fmt: skip
        self.facts_label = ElidedLabel(mode=Qt.TextElideMode.ElideRight)
        self.facts_label.setObjectName("quiet")
        self.sound_button = QToolButton()
        self.add_button = QPushButton("Add clips…")
        self.dress_button = QPushButton("Dress")
        self.dress_button.setToolTip(tip("Drop a wrinkle above the rows to put it on every cut"))
        self.nothing = EmptyState(
            "Drop the clips of a piece here, or a timeline (.otio). Then put a wrinkle on each "
            "cut, or on all of them at once."
        )
        self.nothing_add = self.nothing.add("Add clips…")
        self.nothing_open = self.nothing.add("Open a timeline…")
        demo = self.nothing.add(
            "Look at the demo's piece", "Eight clips, with a wrinkle on each cut"
        )
        demo.clicked.connect(lambda: self.wanted.emit(PieceWanted(DEMO_PIECE, as_copy=True)))
        self.setAcceptDrops(True)
        self._panels = QStackedWidget()
        self._lay_out()
        self._connect()
        self._show()

    def _lay_out(self) -> None:
        heading = PlainLabel("Running order")
        heading.setObjectName("heading")
        top = QHBoxLayout()
        top.setContentsMargins(16, 8, 12, 4)
        top.setSpacing(8)
        top.addWidget(heading)
        top.addWidget(self.facts_label, 1)
        top.addWidget(self.sound_button)
        top.addWidget(self.add_button)
        top.addWidget(self.dress_button)
        left = as_panel(QWidget())
        column = QVBoxLayout(left)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(top)
        column.addWidget(self.nothing)
        column.addWidget(self.order, 1)
        column.addWidget(self.shelf)
        for panel in (QWidget(), self.cut_panel, self.clip_panel):
            scroll = Scrolled()
            scroll.setWidget(panel)
            self._panels.addWidget(scroll)
        right = self._right = QSplitter(Qt.Orientation.Vertical)
        right.addWidget(self.watch)
        right.addWidget(self._panels)
        right.setSizes([400, 260])
        right.setChildrenCollapsible(False)
        both = self._both = QSplitter(Qt.Orientation.Horizontal)
        both.addWidget(left)
        both.addWidget(right)
        both.setSizes([760, 520])
        both.setChildrenCollapsible(False)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(both, 1)
        layout.addWidget(self.map)

    def _connect(self) -> None:
        self.order.filesDropped.connect(self.intake.take_files)
        self.intake.musicDropped.connect(self.music.take)
        self.order.wrinkleDropped.connect(self._dress_dropped)
        self.order.opened.connect(self.doing.open_on_bench)
        self.order.taken.connect(partial(self.doing.with_selected, self.dresser.put))
        self.shelf.taken.connect(lambda path: self.dresser.put(path))
        self.map.scrubbed.connect(self.looking.set_playhead)
        faulted = self._desk.messages.faulted
        for source in (
            self.order.faulted, self.watch.failed, self.cut_panel.faulted, self.clip_panel.faulted,
            self.clip_pictures.failed,
        ):  # fmt: skip
            source.connect(faulted)
        self.cut_panel.benchWanted.connect(self.doing.open_on_bench)
        self.doing.benchWanted.connect(lambda clip: self.wanted.emit(CutWanted(clip)))
        self.intake.timelineWanted.connect(lambda path: self.wanted.emit(PieceWanted(path)))
        self.output.begun.connect(self.watch.stop)
        self._document.changed.connect(self._show)
        self._document.media.progressed.connect(self._show_progress)
        self.looking.chosenChanged.connect(self._show)
        self.looking.playheadChanged.connect(lambda frame: self.said.emit())

    def show_music(self) -> MusicDialog:
        """Opens what there is about music and loudness, beside the list."""
        if self._music_dialog is None:
            self._music_dialog = MusicDialog(
                self._document, self.music, self.looking, self._desk.asking, self
            )
        self._music_dialog.show()
        self._music_dialog.raise_()
        return self._music_dialog

    def actions_here(self) -> Sequence[Action]:
        """Clips, cuts, playing."""
        return self.doing.all(self.intake, self.output, self.watch, self.map, self.show_music)

    def bind(self, menus: Menus) -> None:
        """The buttons stand for what is in the menus."""
        for button in (self.add_button, self.nothing_add):
            menus.bind("piece.add", button)
        menus.bind("file.open", self.nothing_open)
        menus.bind("piece.sound", self.sound_button)
        menus.bind("cut.room", self.cut_panel.room)
        self.watch.bind(menus)
        menu = QMenu(self.dress_button)
        menus.fill(menu, [action.id for action in self.doing.dressing()])
        hang_menu(self.dress_button, menu)

    def takes(self) -> Takes:
        """Timelines."""

        def open_piece(wanted: PieceWanted) -> bool | None:
            if wanted.as_copy:
                return self._document.show_copy(wanted.path)
            return self._document.open(wanted.path)

        return {PieceWanted: open_piece}

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        accept_files(event)

    def dropEvent(self, event: QDropEvent | None) -> None:
        """Beside the rows: a wrinkle is meant for every cut, files for the end."""
        paths = dropped_files(event)
        wrinkles = [path for path in paths if is_wrinkle(path)]
        if wrinkles:
            self.dresser.put_on_every(wrinkles[0])
        others = [path for path in paths if path not in wrinkles]
        if others:
            self.intake.take_files(others, len(self._document.state.clips))

    # What is shown

    def _show(self) -> None:
        piece = self._document.state
        count = len(piece.clips)
        cuts = max(count - 1, 0)
        words = [
            f"{count} clip{'s' if count != 1 else ''}",
            f"{cuts} cut{'s' if cuts != 1 else ''}",
            timecode(piece.frame_count, piece.rate),
        ]
        self.facts_label.setText(" · ".join(words) if count else "")
        self.dress_button.setEnabled(cuts > 0)
        self.map.setVisible(count > 0)
        self.nothing.setVisible(count == 0)
        if self.looking.cut is not None:
            self._panels.setCurrentIndex(_CUT)
            found = self.order.rows.faults.get(self.looking.current, ())
            self.cut_panel.show_cut(tuple(fault.sentence for fault in found))
        elif self.looking.clip is not None:
            self._panels.setCurrentIndex(_CLIP)
            self.clip_panel.show_clip()
        else:
            self._panels.setCurrentIndex(_NO_CUT)
        self.said.emit()

    def _dress_dropped(self, path: Path, cut: str) -> None:
        """What is dropped on a cut is there, and that cut is looked at."""
        self.dresser.put(path, [cut])
        self.looking.go_to(Row.CUT, cut)

    def _show_progress(self, done: int, of: int) -> None:
        self._progress = (done, of)
        self.said.emit()

    def words(self) -> str:
        """Where one is, and what is being read."""
        done, of = self._progress
        if done < of:
            return f"Reading {done + 1} of {of} files"
        piece, looking = self._document.state, self.looking
        if not piece.clips:
            return "Drop clips here, or a timeline"
        missing = sum(bool(self._document.media.fault(x.media.path)) for x in piece.clips)
        if missing:
            return f"{missing} of {len(piece.clips)} files are missing (File, Find missing files…)"
        faults = len(self.order.rows.faults)
        told = f"{faults} cut{'s' if faults != 1 else ''} to look at" if faults else ""
        if looking.cut is not None:
            number = piece.index(looking.current)
            told = " · ".join(filter(None, (f"Cut {number} of {len(piece.clips) - 1}", told)))
        return told

    def facts(self) -> str:
        """Size and rate."""
        piece = self._document.state
        return f"{piece.size.label}, {piece.rate.label} fps"

    def seen_cut(self) -> str:
        """The chosen cut, if it is dressed."""
        cut = self.looking.cut
        return cut.id if cut is not None and cut.entry is not None else ""

    def looked_at(self) -> Mapping[str, Filling]:
        """The clips of the chosen cut."""
        cut, piece = self.looking.cut, self._document.state
        if cut is None:
            return {}
        film = self._document.media.film(piece, piece.size)
        with suppress(InputError):
            slots = film.cut(cut.id).material.slots
            return {key: slots[key] for key in GIVEN if key in slots}
        return {}

    def splitters(self) -> Mapping[str, QSplitter]:
        """Between its parts."""
        return {"picture": self._right, "rows": self._both}

    def leave(self) -> None:
        """Nothing plays that nobody sees."""
        self.watch.stop()

    def themed(self) -> None:
        """All that is painted is painted anew."""
        self.map.repaint_all()
        for widget in (self.order.viewport(), self.watch.ruler):
            if widget is not None:
                widget.update()
        self.shelf.tiles.viewport_update()

    def close_down(self) -> None:
        """Ends what runs."""
        self.watch.stop()
        self.watch.ahead.close()
        self.sound.close()
        self.music.close()
        self.watch.frames.close()
        self.clip_pictures.close()
        self.waves.close()


PLACE = PlaceKind("cutlist", "Cut list", CutList, (PieceWanted,))
