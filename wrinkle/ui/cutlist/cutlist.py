"""The Cut list: running order at the left, the chosen cut or clip at the right, the map below."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QMenu,
    QPushButton,
    QScrollArea,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.jobs import Job
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece import edits
from wrinkle.core.piece.film import Film
from wrinkle.core.time.timecode import timecode
from wrinkle.media.clip import Clip
from wrinkle.media.exporting.piece_video import write_film
from wrinkle.media.pieces import media_of
from wrinkle.timeline.piece_file import SUFFIX, SUFFIXES
from wrinkle.ui.actions.action import Action
from wrinkle.ui.actions.stepping import stepping
from wrinkle.ui.choosing.tables_dialog import TablesDialog
from wrinkle.ui.cutlist.clip_panel import ClipPanel
from wrinkle.ui.cutlist.cut_panel import CutPanel
from wrinkle.ui.cutlist.cut_strips import CutStrips
from wrinkle.ui.cutlist.cuts_dialog import CutsDialog
from wrinkle.ui.cutlist.dresser import Dresser, is_wrinkle
from wrinkle.ui.cutlist.frame_dialog import FrameDialog
from wrinkle.ui.cutlist.piece_looking import PieceLooking, Row
from wrinkle.ui.cutlist.piece_map import PieceMap
from wrinkle.ui.cutlist.piece_screen import PieceScreen
from wrinkle.ui.cutlist.running_order import RunningOrder
from wrinkle.ui.cutlist.shelf_strip import ShelfStrip
from wrinkle.ui.cutlist.writing_dialog import WritingDialog
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.pictures.clip_pictures import ClipPictures
from wrinkle.ui.place import CutWanted, PieceWanted, Place, PlaceKind, Takes, WorksOn
from wrinkle.ui.shared.asking_files import MP4, Ending
from wrinkle.ui.shared.drops import (
    CLIP_FILTER,
    PICTURE_AND_CLIP_FILTER,
    accept_files,
    dropped_files,
)
from wrinkle.ui.shared.plain_text import PlainLabel, tip

_NO_CUT, _CUT, _CLIP = range(3)

_BARE_CUT = "Put a wrinkle on the cut first."


class CutList(Place):
    """Where a whole piece is dressed."""

    works_on = WorksOn.PIECE

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._document = desk.piece
        self._progress = (0, 0)
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        workers = desk.workers
        self.looking = PieceLooking(desk.piece)
        self.dresser = Dresser(desk.piece, self.looking, desk.messages)
        self.clip_pictures = ClipPictures(workers.jobs, workers.store, self)
        self.strips = CutStrips(desk.piece, workers, desk.messages.faulted.emit)
        self.order = RunningOrder(
            desk.piece, self.looking, self.clip_pictures, self.strips, is_wrinkle, desk.examiner
        )
        self.watch = PieceScreen(desk.piece, self.looking, workers)
        self.map = PieceMap(desk.piece, self.looking, self.watch)
        self.shelf = ShelfStrip(desk)
        self.cut_panel = CutPanel(
            desk.piece, self.looking, self.dresser, self.clip_pictures, desk.asking
        )
        self.clip_panel = ClipPanel(desk.piece, self.looking, desk.asking)
        self.facts_label = PlainLabel()
        self.facts_label.setObjectName("quiet")
        self.add_button = QPushButton("Add clips…")
        self.dress_button = QPushButton("Dress")
        self.dress_button.setToolTip(tip("Drop a wrinkle above the rows to put it on every cut"))
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
        top.addWidget(self.add_button)
        top.addWidget(self.dress_button)
        left = QWidget()
        left.setObjectName("panel")
        left.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        column = QVBoxLayout(left)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(top)
        column.addWidget(self.order, 1)
        column.addWidget(self.shelf)
        for panel in (QWidget(), self.cut_panel, self.clip_panel):
            scroll = QScrollArea()
            scroll.setWidgetResizable(True)
            scroll.setWidget(panel)
            self._panels.addWidget(scroll)
        right = QSplitter(Qt.Orientation.Vertical)
        right.addWidget(self.watch)
        right.addWidget(self._panels)
        right.setSizes([400, 260])
        right.setChildrenCollapsible(False)
        both = QSplitter(Qt.Orientation.Horizontal)
        both.addWidget(left)
        both.addWidget(right)
        both.setSizes([760, 520])
        both.setChildrenCollapsible(False)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(both, 1)
        layout.addWidget(self.map)
        menu = QMenu(self.dress_button)
        for action in self._dressing():
            entry = menu.addAction(action.label)
            if entry is not None:
                entry.triggered.connect(lambda checked, act=action.act: act())
        self.dress_button.setMenu(menu)

    def _connect(self) -> None:
        self.add_button.clicked.connect(self.ask_clips)
        self.order.filesDropped.connect(self.take_files)
        self.order.wrinkleDropped.connect(lambda path, cut: self.dresser.put(path, [cut]))
        self.order.opened.connect(self.open_on_bench)
        self.order.taken.connect(partial(self._with_selected, self.dresser.put))
        self.shelf.taken.connect(lambda path: self.dresser.put(path))
        self.map.scrubbed.connect(self.looking.set_playhead)
        faulted = self._desk.messages.faulted
        for source in (
            self.order.faulted, self.watch.failed, self.cut_panel.faulted, self.clip_panel.faulted,
            self.clip_pictures.failed,
        ):  # fmt: skip
            source.connect(faulted)
        self.cut_panel.benchWanted.connect(self.open_on_bench)
        self._document.changed.connect(self._show)
        self._document.media.progressed.connect(self._show_progress)
        self.looking.chosenChanged.connect(self._show)
        self.looking.playheadChanged.connect(lambda frame: self.said.emit())

    # What can be done

    def actions_here(self) -> Sequence[Action]:
        """Clips, cuts, playing."""
        looking, watch, document = self.looking, self.watch, self._document

        def step(frames: int) -> None:
            looking.set_playhead(looking.playhead + frames)

        def ends() -> tuple[int, int]:
            return 0, document.state.frame_count - 1

        no_clips, no_file = self._no_clips, self._no_file_missing
        return [
            Action("piece.add", "Add clips…", self.ask_clips, "File", 12, ("Ctrl+I",),
                   says="Puts clips and pictures in after the chosen row."),
            Action("piece.cuts", "Find the cuts of a video…", self.ask_video, "File", 12,
                   says="Takes a finished video apart into its shots."),
            Action("piece.missing", "Find missing files…", self.ask_folder, "File", 12,
                   says="Looks in a folder, and in those in it, for files that were moved.",
                   why_not=no_file),
            Action("piece.render", "Render the piece…", self.ask_video_goal, "File", 40,
                   says="Writes the whole piece as a video.", why_not=no_clips),
            Action("piece.flatten", "Flatten into a timeline…", self.ask_flat_goal, "File", 40,
                   says="Writes a timeline in which each dressed cut is a rendered clip.",
                   why_not=no_clips),
            Action("piece.frame", "Frame size and rate…", self.ask_frame, "File", 20,
                   says="Changes the frame of the piece, its rate, and how long pictures stand."),
            Action("piece.split", "Split at the playhead", self.split, "Edit", 30, ("S",),
                   says="Makes two clips of the one under the playhead.", why_not=no_clips),
            Action("piece.remove", "Remove the clip, or take the wrinkle off", self.remove, "Edit",
                   30, ("Del", "Backspace"),
                   says="Takes out what is chosen: a clip, or the wrinkle on a cut.",
                   why_not=no_clips),
            Action("piece.marker", "Marker here, or none", self.mark, "Edit", 40, ("M",),
                   says="Puts a marker at the playhead, or takes the one there away.",
                   why_not=no_clips),
            *self._dressing(),
            Action("piece.loop", "Loop the cut", partial(watch.toggle, False), "View", 9,
                   ("Space",), says="Plays the chosen cut in a loop, or stops.", why_not=no_clips),
            Action("piece.play", "Play the piece", partial(watch.toggle, True), "View", 9,
                   ("Shift+Space",), says="Plays the piece from the playhead on, or stops.",
                   why_not=no_clips),
            *stepping("piece", step, looking.set_playhead, ends),
            Action("piece.numbers", "Cuts as a table…", self.show_tables, "View", 41, ("N",),
                   says="Lists the cuts, to be copied and read aloud.", why_not=no_clips),
            Action("piece.before", "To the cut before", partial(looking.step_cut, -1), "View", 11,
                   ("Up",), says="Chooses the cut before the playhead."),
            Action("piece.after", "To the next cut", partial(looking.step_cut, 1), "View", 11,
                   ("Down",), says="Chooses the cut after the playhead."),
        ]  # fmt: skip

    def show_tables(self) -> None:
        """The cuts as a table beside the place."""
        model = self.map.model
        dialog = TablesDialog(lambda: [model] if model is not None else [], self)
        dialog.frameChosen.connect(self.looking.set_playhead)
        dialog.show()

    def takes(self) -> Takes:
        """Timelines."""
        return {PieceWanted: lambda wanted: self._document.open(wanted.path)}

    def _no_clips(self) -> str:
        return "" if self._document.state.clips else "Add clips first: the piece is empty."

    def _no_file_missing(self) -> str:
        piece, media = self._document.state, self._document.media
        missing = any(media.fault(clip.media.path) for clip in piece.clips)
        return "" if missing else "No file is missing."

    def _no_cut(self) -> str:
        return "" if self.looking.cuts else "Choose a cut first: press the row between two clips."

    def _no_dressed_cut(self) -> str:
        clip = self.looking.cut
        return "" if clip is not None and clip.entry is not None else _BARE_CUT

    def _dressing(self) -> list[Action]:
        """What is done about wrinkles on cuts; in the menu, and under the button."""
        dresser = self.dresser

        def no_wrinkle() -> str:
            return "" if self.shelf.selected else "Select a wrinkle in the row below first."

        def none_for_cut() -> str:
            return no_wrinkle() or self._no_cut()

        return [
            Action("cut.put", "Put the selected wrinkle on the chosen cuts",
                   partial(self._with_selected, dresser.put), "Cut", 10,
                   says="Dresses the chosen cuts.", why_not=none_for_cut),
            Action("cut.every", "Put it on every cut",
                   partial(self._with_selected, dresser.put_on_every), "Cut", 10,
                   says="Dresses every cut of the piece.", why_not=no_wrinkle),
            Action("cut.second", "Put it on every second cut",
                   partial(self._with_selected, partial(dresser.put_on_every, step=2)), "Cut", 10,
                   says="Dresses every other cut of the piece.", why_not=no_wrinkle),
            Action("cut.shuffle", "Shuffle the selected wrinkles over all cuts", self.shuffle,
                   "Cut", 10, says="Dresses all cuts with the selected wrinkles at random.",
                   why_not=self._no_clips),
            Action("cut.alternate", "Alternate the directions", dresser.alternate, "Cut", 20,
                   says="Every second cut goes the other way.", why_not=self._no_clips),
            Action("cut.same", "Same on every cut like this", dresser.same_on_all_like_it, "Cut",
                   20, says="Gives every cut with this wrinkle the same dials and lengths.",
                   why_not=self._no_dressed_cut),
            Action("cut.copy", "Copy the use", dresser.copy, "Cut", 30, ("Ctrl+C",),
                   says="Copies the wrinkle of the chosen cut with its dials.",
                   why_not=self._no_dressed_cut),
            Action("cut.paste", "Put the copied use on the chosen cuts", dresser.paste, "Cut", 30,
                   ("Ctrl+V",), says="Dresses the chosen cuts as the copied one.",
                   why_not=self._no_cut),
            Action("cut.off", "Take the wrinkles off the chosen cuts", dresser.take_off, "Cut", 40,
                   says="Makes plain cuts of the chosen ones.", why_not=self._no_cut),
            Action("cut.all-off", "Take all wrinkles off", dresser.take_all_off, "Cut", 40,
                   says="Makes plain cuts of all.", why_not=self._no_clips),
            Action("cut.bench", "Open on the Bench", self.open_on_bench, "Cut", 50,
                   ("Ctrl+Return",), says="Designs the wrinkle of this cut on its two clips.",
                   why_not=self._no_dressed_cut),
        ]  # fmt: skip

    def _with_selected(self, act: Callable[[Path], object]) -> None:
        selected = self.shelf.selected
        if selected:
            act(selected[0])
        else:
            self._desk.messages.faulted.emit("Select a wrinkle in the row below first.")

    def shuffle(self) -> None:
        """Puts the selected wrinkles, or the first six of the row, on all cuts at random."""
        selected = self.shelf.selected
        if len(selected) < 2:
            selected = [x.path for x in self.shelf.tiles.found[:6] if x.wrinkle is not None]
        self.dresser.shuffle(selected)

    def ask_clips(self) -> None:
        """Asks for files and puts them in after the chosen row."""
        asking = self._desk.asking
        paths = asking.files(self, "Add clips", "clip", PICTURE_AND_CLIP_FILTER)
        self.take_files(paths, self._place_after)

    @property
    def _place_after(self) -> int:
        clips = self._document.state.clips
        ids = [clip.id for clip in clips]
        clip = self.looking.clip
        return ids.index(clip.id) + 1 if clip is not None else len(clips)

    def take_files(self, paths: Sequence[Path], place: int) -> None:
        """Takes files in as clips, in the order of their names; a timeline is opened."""
        timelines = [path for path in paths if path.suffix.lower() in SUFFIXES]
        if timelines:
            self.wanted.emit(PieceWanted(timelines[0]))
            return
        self._document.add_files(place, paths)

    def ask_video(self) -> None:
        """Asks for a finished video and finds its cuts."""
        path = self._desk.asking.file(self, "A finished video", "clip", CLIP_FILTER)
        if path is not None:
            workers, faulted = self._desk.workers, self._desk.messages.faulted
            workers.read_clip(path, self.find_cuts, faulted.emit)

    def find_cuts(self, clip: Clip) -> None:
        """Finds the cuts of a video; those that are taken become clips."""
        dialog = CutsDialog(clip, self._desk.workers, self.clip_pictures, self)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.taken.connect(lambda clip, cuts: self._document.take_shots(clip, cuts))
        dialog.open()

    def ask_folder(self) -> None:
        """Asks for a folder and looks there for the files that are missing."""
        folder = self._desk.asking.folder(self, "Where the files are now", "clip")
        if folder is not None:
            self._document.find_missing(folder)

    def ask_video_goal(self) -> None:
        """Asks for a file and renders the piece into it."""
        self._ask_goal("Render the piece", "video", MP4, self._render)

    def ask_flat_goal(self) -> None:
        """Asks for a timeline in which every dressed window is a rendered clip of its own."""
        self._ask_goal("Flatten the piece", "piece", Ending(SUFFIX, "Timeline"), self._flatten)

    def _ask_goal(
        self, title: str, kind: str, ending: Ending, write: Callable[[Film, Path, Job], str]
    ) -> None:
        piece = self._document.state
        if not piece.clips:
            self._desk.messages.faulted.emit("There is nothing to write yet; add clips first.")
            return
        path = self._desk.asking.goal(self, title, kind, piece.title, (ending,))
        if path is not None:
            self.write(path, write)

    def write(self, path: Path, write: Callable[[Film, Path, Job], str]) -> WritingDialog | None:
        """Writes the piece in the background; its own files are not written over."""
        if any(Path(x.path) == path.absolute() for x in media_of(self._document.state)):
            self._desk.messages.faulted.emit(
                f"{path.name} is one of the clips of the piece; name another file."
            )
            return None
        self.watch.stop()
        piece = self._document.state
        film = self._document.media.film(piece, piece.size, Quality.FINAL)
        desk = self._desk
        dialog = WritingDialog(
            path, lambda goal, job: write(film, goal, job), desk.workers, desk.messages, self
        )
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.show()
        return dialog

    def _render(self, film: Film, path: Path, job: Job) -> str:
        return f"{write_film(path, film, self._desk.workers.jobs, job)} frames"

    def _flatten(self, film: Film, path: Path, job: Job) -> str:
        from wrinkle.timeline.flattening import write_flattened

        return f"{write_flattened(path, film, self._desk.workers.jobs, job)} windows rendered"

    def ask_frame(self) -> None:
        """Asks for the frame size and the rate of the piece."""
        dialog = FrameDialog(self._document.state, self._document.still, self)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.chosen.connect(self._document.set_frame)
        dialog.stillChosen.connect(self._document.set_still)
        dialog.open()

    def split(self) -> None:
        """Two clips from the one under the playhead."""
        frame = self.looking.playhead
        self._document.edit("split", lambda piece: edits.split(piece, frame))

    def mark(self) -> None:
        """Puts a marker at the playhead, or takes the one there away."""
        frame = self.looking.playhead
        self._document.edit("marker", lambda piece: edits.marked(piece, frame))

    def remove(self) -> None:
        """Removes what is chosen: a clip, or the wrinkle on a cut."""
        if self.looking.row is Row.CLIP:
            self.clip_panel.take_out()
        else:
            self.dresser.take_off()

    def open_on_bench(self) -> None:
        """Opens the wrinkle of the chosen cut on the Bench, on the two clips."""
        clip = self.looking.cut
        if clip is None or clip.entry is None:
            self._desk.messages.faulted.emit(_BARE_CUT)
            return
        self.wanted.emit(CutWanted(clip.id))

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
            self.take_files(others, len(self._document.state.clips))

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
        if self.looking.cut is not None:
            self._panels.setCurrentIndex(_CUT)
            found = self.order.faults.get(self.looking.current, ())
            self.cut_panel.show_cut(tuple(fault.sentence for fault in found))
        elif self.looking.clip is not None:
            self._panels.setCurrentIndex(_CLIP)
            self.clip_panel.show_clip()
        else:
            self._panels.setCurrentIndex(_NO_CUT)
        self.said.emit()

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
        faults = len(self.order.faults)
        told = f"{faults} cut{'s' if faults != 1 else ''} to look at" if faults else ""
        if looking.cut is not None:
            number = piece.index(looking.current)
            told = " · ".join(filter(None, (f"Cut {number} of {len(piece.clips) - 1}", told)))
        return told

    def facts(self) -> str:
        """Size and rate."""
        piece = self._document.state
        return f"{piece.size.label}, {piece.rate.label} fps"

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
        self.watch.sound.close()
        self.watch.frames.close()
        self.clip_pictures.close()


PLACE = PlaceKind("cutlist", "Cut list", CutList)
