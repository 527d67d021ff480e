"""What can be done in the Cut list, and why not now."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.piece import edits
from wrinkle.core.time.timecode import timecode
from wrinkle.ui.actions.action import Action
from wrinkle.ui.actions.stepping import stepping
from wrinkle.ui.choosing.tables_dialog import TablesDialog
from wrinkle.ui.cutlist.clip_panel import ClipPanel
from wrinkle.ui.cutlist.dresser import Dresser
from wrinkle.ui.cutlist.piece_intake import PieceIntake
from wrinkle.ui.cutlist.piece_looking import PieceLooking, Row
from wrinkle.ui.cutlist.piece_map import PieceMap
from wrinkle.ui.cutlist.piece_output import PieceOutput
from wrinkle.ui.cutlist.piece_screen import PieceScreen
from wrinkle.ui.cutlist.shelf_strip import ShelfStrip
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.desk.stretch import Stretch
from wrinkle.ui.shared.plain_text import Buttons, ask

_BARE_CUT = "Put a wrinkle on the cut first."
_SHUFFLED = 6


class CutListActions(QObject):
    """Acts on what is chosen.

    Signals:
        benchWanted: the wrinkle on a cut is to be designed: the id of the clip after the cut.
    """

    benchWanted = pyqtSignal(str)

    def __init__(
        self,
        document: PieceDocument,
        stretch: Stretch,
        looking: PieceLooking,
        dresser: Dresser,
        shelf: ShelfStrip,
        clip_panel: ClipPanel,
        messages: Messages,
    ) -> None:
        super().__init__()
        self._document = document
        self._stretch = stretch
        self._looking = looking
        self._dresser = dresser
        self._shelf = shelf
        self._clip_panel = clip_panel
        self._messages = messages

    def all(
        self,
        intake: PieceIntake,
        output: PieceOutput,
        watch: PieceScreen,
        map_: PieceMap,
        show_music: Callable[[], object],
    ) -> list[Action]:
        """Clips, cuts, playing."""
        looking, document = self._looking, self._document

        def step(frames: int) -> None:
            looking.set_playhead(looking.playhead + frames)

        def toggle_sound() -> None:
            looking.show_sound(not looking.sound_shown)

        def ends() -> tuple[int, int]:
            return 0, document.state.frame_count - 1

        no_clips, no_file = self._no_clips, self._no_file_missing
        return [
            Action("piece.add", "Add clips…", intake.ask_clips, "File", 12, ("Ctrl+I",),
                   says="Puts clips and pictures in after the chosen row.", icon="cloth"),
            Action("piece.cuts", "Find the cuts of a video…", intake.ask_video, "File", 12,
                   says="Takes a finished video apart into its shots."),
            Action("piece.missing", "Find missing files…", intake.ask_folder, "File", 12,
                   says="Looks in a folder, and in those in it, for files that were moved.",
                   why_not=no_file),
            Action("piece.render", "Render the piece…", output.ask_video_goal, "File", 40,
                   says="Writes the whole piece as a video.", why_not=no_clips),
            Action("piece.flatten", "Flatten into a timeline…", output.ask_flat_goal, "File", 40,
                   says="Writes a timeline in which each dressed cut is a rendered clip.",
                   why_not=no_clips),
            Action("piece.edit-list", "Write an edit list…", output.ask_edit_list_goal, "File", 40,
                   says="Writes cuts, dissolves, speeds and names as other programs read them.",
                   why_not=no_clips),
            Action("piece.frame", "Frame size and rate…", intake.ask_frame, "File", 20,
                   says="Changes the frame of the piece, its rate, and how long pictures stand."),
            Action("piece.split", "Split at the playhead", self.split, "Edit", 30, ("S",),
                   says="Makes two clips of the one under the playhead.", why_not=no_clips,
                   icon="scissors"),
            Action("piece.remove", "Remove the clip, or take the wrinkle off", self.remove, "Edit",
                   30, ("Del", "Backspace"),
                   says="Takes out what is chosen: a clip, or the wrinkle on a cut.",
                   why_not=no_clips),
            Action("piece.earlier", "Move the clip up", partial(self.move, -1), "Edit", 31,
                   ("Ctrl+Up",), says="The chosen clip changes places with the one before it.",
                   why_not=self._no_clip),
            Action("piece.later", "Move the clip down", partial(self.move, 1), "Edit", 31,
                   ("Ctrl+Down",), says="The chosen clip changes places with the one after it.",
                   why_not=self._no_clip),
            *self._trims(),
            Action("piece.marker", "Marker here, or none", self.mark, "Edit", 40, ("M",),
                   icon="pin",
                   says="Puts a marker at the playhead, or takes the one there away.",
                   why_not=no_clips),
            Action("piece.from", "Export from here on", partial(self._bound, True), "Edit", 41,
                   ("Alt+Home",),
                   says="What is exported begins at the playhead; at the first frame, with all.",
                   why_not=no_clips),
            Action("piece.until", "Export up to here", partial(self._bound, False), "Edit", 41,
                   ("Alt+End",),
                   says="What is exported ends with the frame under the playhead.",
                   why_not=no_clips),
            Action("piece.music", "Music and loudness…", show_music, "Edit", 45, ("Ctrl+M",),
                   says="Puts music under the piece, cuts on its beats, and says how loud it is.",
                   why_not=no_clips),
            *self.dressing(),
            Action("piece.loop", "Loop the cut or the clip", partial(watch.toggle, False), "View",
                   9, ("Space",), says="Plays what is chosen in a loop, or stops.",
                   why_not=no_clips, checked=partial(watch.plays, False), icon="loop",
                   short=lambda: f"Loop the {looking.row.value}",
                   follows=(watch.player.playingChanged, looking.chosenChanged)),
            Action("piece.play", "Play the piece", partial(watch.toggle, True), "View", 9,
                   ("Shift+Space",), says="Plays the piece from the playhead on, or stops.",
                   why_not=no_clips, checked=partial(watch.plays, True), icon="run",
                   follows=(watch.player.playingChanged,)),
            Action("piece.sound", "What is heard, under each clip", toggle_sound, "View", 41,
                   ("Shift+H",),
                   says="Unfolds the sound of each clip: its level, its fades, and a button that "
                        "mutes it.",
                   why_not=no_clips, checked=lambda: looking.sound_shown, short="Sound",
                   follows=(looking.soundShownChanged,)),
            *stepping("piece", step, looking.set_playhead, ends),
            Action("piece.numbers", "Cuts as a table…", partial(self._show_tables, map_), "View",
                   41, ("N",), says="Lists the cuts, to be copied or read aloud.",
                   why_not=no_clips),
            Action("piece.before", "To the cut before", partial(looking.step_cut, -1), "View", 11,
                   ("Up",), says="Chooses the cut before the playhead."),
            Action("piece.after", "To the next cut", partial(looking.step_cut, 1), "View", 11,
                   ("Down",), says="Chooses the cut after the playhead."),
            Action("piece.row-above", "Row above", partial(looking.step_row, -1), "View", 11,
                   ("Shift+Up",), says="Chooses the clip or the cut above.", why_not=no_clips),
            Action("piece.row-below", "Row below", partial(looking.step_row, 1), "View", 11,
                   ("Shift+Down",), says="Chooses the clip or the cut below.", why_not=no_clips),
        ]  # fmt: skip

    def _trims(self) -> list[Action]:
        """The ends of the chosen clip by keys, as its bar is dragged."""
        return [
            Action(f"piece.{name}", label, partial(self.trim, *frames), "Edit", 32, (key,),
                   says=says, why_not=self._no_clip)
            for name, label, frames, key, says in (
                ("begin-earlier", "Begin a frame earlier", (-1, 0), "Alt+Shift+Left",
                 "The chosen clip begins with the frame before its first."),
                ("begin-later", "Begin a frame later", (1, 0), "Alt+Shift+Right",
                 "The chosen clip begins with its second frame."),
                ("end-earlier", "End a frame earlier", (0, -1), "Alt+Left",
                 "The chosen clip ends with the frame before its last."),
                ("end-later", "End a frame later", (0, 1), "Alt+Right",
                 "The chosen clip ends with the frame after its last."),
            )
        ]  # fmt: skip

    def dressing(self) -> list[Action]:
        """What is done about wrinkles on cuts; in the menu, and under the button."""
        dresser = self._dresser

        def no_wrinkle() -> str:
            return "" if self._shelf.selected else "Select a wrinkle in the row below first."

        def none_for_cut() -> str:
            return no_wrinkle() or self._no_cut()

        return [
            Action("cut.put", "Put the selected wrinkle on the chosen cuts",
                   partial(self.with_selected, dresser.put), "Cut", 10,
                   says="Dresses the chosen cuts.", why_not=none_for_cut),
            Action("cut.every", "Put it on every cut",
                   partial(self.with_selected, dresser.put_on_every), "Cut", 10,
                   says="Dresses every cut of the piece.", why_not=no_wrinkle),
            Action("cut.second", "Put it on every second cut",
                   partial(self.with_selected, partial(dresser.put_on_every, step=2)), "Cut", 10,
                   says="Dresses every other cut of the piece.", why_not=no_wrinkle),
            Action("cut.shuffle", "Shuffle the selected wrinkles over all cuts", self.shuffle,
                   "Cut", 10, says="Dresses all cuts with the selected wrinkles at random.",
                   why_not=self._no_clips),
            Action("cut.alternate", "Alternate the directions", dresser.alternate, "Cut", 20,
                   says="Every second cut goes the other way.", why_not=self._no_clips),
            Action("cut.same", "Same on every cut like this", dresser.same_on_all_like_it, "Cut",
                   20, says="Gives every cut with this wrinkle the same dials and lengths.",
                   why_not=self._no_dressed_cut),
            Action("cut.room", "Make room for the wrinkle", dresser.make_room, "Cut", 25,
                   says="Trims the clips beside the chosen cuts by exactly what their handles "
                        "lack.", why_not=self._no_cut, short="Make room"),
            Action("cut.room-all", "Make room on every cut…", self.ask_room, "Cut", 25,
                   says="Says how long the piece is then, and trims all clips whose handles are "
                        "too short.", why_not=self._no_clips),
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

    def with_selected(self, act: Callable[[Path], object]) -> None:
        """Does something with the wrinkle that is selected in the row; else says what to do."""
        selected = self._shelf.selected
        if selected:
            act(selected[0])
        else:
            self._messages.faulted.emit("Select a wrinkle in the row below first.")

    def shuffle(self) -> None:
        """Puts the selected wrinkles, or the first six of the row, on all cuts at random."""
        selected = self._shelf.selected
        if len(selected) < 2:
            selected = [
                x.path for x in self._shelf.tiles.found[:_SHUFFLED] if x.wrinkle is not None
            ]
        self._dresser.shuffle(selected)

    def split(self) -> None:
        """Two clips from the one under the playhead."""
        frame = self._looking.playhead
        self._document.edit("split", lambda piece: edits.split(piece, frame))

    def move(self, steps: int) -> None:
        """Moves the chosen clip past its neighbour."""
        clip = self._looking.clip
        if clip is not None:
            place = self._document.state.index(clip.id) + steps
            self._document.edit("clip moved", lambda piece: edits.move(piece, clip.id, place))

    def trim(self, first: int, last: int) -> None:
        """Moves the ends of the chosen clip by frames."""
        clip = self._looking.clip
        if clip is not None:
            self._document.edit("trim", lambda piece: edits.trim(piece, clip.id, first, last))

    def mark(self) -> None:
        """Puts a marker at the playhead, or takes the one there away."""
        frame = self._looking.playhead
        self._document.edit("marker", lambda piece: edits.marked(piece, frame))

    def ask_room(self) -> None:
        """Tells what making room on every cut comes to, and does it where that is wanted."""
        found = self._dresser.room_everywhere()
        if found is None:
            return
        answer = ask(
            self._clip_panel.window(),
            "Make room on every cut",
            found.words(self._document.state),
            Buttons.Ok | Buttons.Cancel,
            Buttons.Ok,
            {Buttons.Ok: "Trim them"},
        )
        if answer == Buttons.Ok:
            self._dresser.make_room_everywhere()

    def _bound(self, begins: bool) -> None:
        """What is exported begins at the playhead, or ends with it."""
        frame, frames = self._looking.playhead, self._stretch.frames
        ends = (frame, frames.stop) if begins else (frames.start, frame + 1)
        self._stretch.take(*ends)
        frames, rate = self._stretch.frames, self._document.state.rate
        first, end = timecode(frames.start, rate), timecode(frames.stop, rate)
        self._messages.told.emit(
            "All of the piece is exported."
            if self._stretch.is_all
            else f"{len(frames)} frames are exported, from {first} up to {end}."
        )

    def remove(self) -> None:
        """Removes what is chosen: a clip, or the wrinkle on a cut."""
        if self._looking.row is Row.CLIP:
            self._clip_panel.take_out()
        else:
            self._dresser.take_off()

    def open_on_bench(self) -> None:
        """Opens the wrinkle of the chosen cut on the Bench, on the two clips."""
        clip = self._looking.cut
        if clip is None or clip.entry is None:
            self._messages.faulted.emit(_BARE_CUT)
            return
        self.benchWanted.emit(clip.id)

    def _show_tables(self, map_: PieceMap) -> None:
        """The cuts as a table beside the place."""
        model = map_.model
        dialog = TablesDialog(lambda: [model] if model is not None else [], map_)
        dialog.frameChosen.connect(self._looking.set_playhead)
        dialog.show()

    def _no_clips(self) -> str:
        return "" if self._document.state.clips else "Add clips first: the piece is empty."

    def _no_file_missing(self) -> str:
        piece, media = self._document.state, self._document.media
        missing = any(media.fault(clip.media.path) for clip in piece.clips)
        return "" if missing else "No file is missing."

    def _no_clip(self) -> str:
        if self._looking.clip is not None:
            return ""
        return "Choose a clip first: {piece.row-below} goes from row to row; or press one."

    def _no_cut(self) -> str:
        if self._looking.cuts:
            return ""
        return (
            "Choose a cut first: {piece.after} goes to the next one; or press the row between "
            "two clips."
        )

    def _no_dressed_cut(self) -> str:
        clip = self._looking.cut
        return "" if clip is not None and clip.entry is not None else _BARE_CUT
