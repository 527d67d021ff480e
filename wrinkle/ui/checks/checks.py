"""The Checks: findings at the left, before and after at the right, the traces below."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from functools import partial

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QHBoxLayout, QSplitter, QVBoxLayout, QWidget

from wrinkle.core.examine.examined import Examined
from wrinkle.core.picture.image import Size
from wrinkle.ui.actions.action import Action
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.actions.stepping import stepping
from wrinkle.ui.checks.before_after import BeforeAfter
from wrinkle.ui.checks.found_panel import FoundPanel
from wrinkle.ui.checks.item import Item
from wrinkle.ui.checks.mend_bar import MendBar
from wrinkle.ui.checks.mender import Mender
from wrinkle.ui.checks.scope import Scope
from wrinkle.ui.checks.trace_list import HEAD, MARGIN, TraceList
from wrinkle.ui.choosing.tables_dialog import TablesDialog
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.pictures.ruler_strip import RulerStrip
from wrinkle.ui.pictures.sound_player import SoundPlayer
from wrinkle.ui.place import ChecksWanted, Place, PlaceKind, PlaceWanted, Takes, WorksOn
from wrinkle.ui.shared.panel import as_panel
from wrinkle.ui.shared.picture_view import frame_label


class Checks(Place):
    """Where it is said what is wrong at a cut.

    Attributes:
        found: the findings of what is examined.
        mending: what can be done about the chosen one.
        pictures: the frame as it is, and as a mend makes it.
        traces: what is measured of each frame.
    """

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._examiner, self._messages = desk.examiner, desk.messages
        self._shown: Examined | None = None
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        self._scope, self.mender = Scope(desk), Mender(desk)
        self.found = FoundPanel(self._scope, self.mender)
        self.pictures = BeforeAfter(desk.workers, SoundPlayer(desk.output(), desk.sound, self))
        self.mending = MendBar(desk, self.mender, self.pictures, lambda: self._scope.measuring)
        self.strip = RulerStrip(self.pictures.before)
        self.traces = TraceList()
        self._lay_out()
        self._connect()
        self.refresh()

    def _lay_out(self) -> None:
        self.strip.set_inset(HEAD + MARGIN, MARGIN + 10)
        upper = as_panel(QWidget())
        shown = QVBoxLayout(upper)
        shown.setContentsMargins(0, 0, 0, 0)
        shown.setSpacing(0)
        shown.addWidget(self.pictures, 1)
        shown.addWidget(self.mending)
        shown.addWidget(self.strip)
        right = self._right = QSplitter(Qt.Orientation.Vertical)
        right.addWidget(upper)
        right.addWidget(self.traces)
        right.setSizes([460, 230])
        right.setChildrenCollapsible(False)
        both = self._both = QSplitter(Qt.Orientation.Horizontal)
        both.addWidget(self.found)
        both.addWidget(right)
        both.setSizes([400, 880])
        both.setChildrenCollapsible(False)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(both)

    def _connect(self) -> None:
        self._examiner.changed.connect(self.refresh)
        self._examiner.progressed.connect(self.found.show_progress)
        self.found.scopeChosen.connect(self.set_scope)
        self.found.placeWanted.connect(lambda key: self.wanted.emit(PlaceWanted(key)))
        self.found.list.chosen.connect(self._show_item)
        self.found.counted.connect(self.said)
        self.strip.scrubbed.connect(self.pictures.show_frame)
        self.pictures.frameShown.connect(self._show_frame)
        self.pictures.failed.connect(self._messages.faulted)
        self.traces.scrubbed.connect(self.pictures.show_frame)

    # What is examined

    def set_scope(self, about: WorksOn) -> None:
        """Shows what was found of the open wrinkle, or of the piece."""
        self.works_on = self._scope.about = about
        if about is WorksOn.PIECE:
            self._examiner.want_piece()
        self.found.show_scope()
        self.refresh()
        self.worksOnChanged.emit()

    def refresh(self) -> None:
        """Shows what is known now, while somebody sees it: mends are worked out for that alone."""
        if not self.isVisible():
            return
        items = self._scope.items
        self.mender.keep_only(items)
        # Where nothing was examined there is nothing to look at either.
        self._right.setVisible(bool(self._scope.examined) or self._scope.measuring)
        self.found.show_items(items)
        if not items:
            self._show_item(None)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.refresh()

    # One finding

    def _show_item(self, item: Item | None) -> None:
        keys = self._scope.keys
        examined = self._examiner.found(keys[0]) if keys else None
        if item is not None:
            examined = item.examined
        if examined is not self._shown:
            self._shown = examined
            self.pictures.show_subject(examined.subject if examined is not None else None)
            self._show_traces()
        self.strip.show_marks(item.finding.frames if item is not None else ())
        if item is not None:
            if item.finding.frames or item.finding.worst:
                self.pictures.show_frame(item.finding.worst)
            # Rows that were hidden before get their place first.
            QTimer.singleShot(0, self._show_trace)
        self.mending.show_item(item)

    def _show_traces(self) -> None:
        examined = self._shown
        frames = examined.subject.frames if examined is not None else range(-1, 1)
        shape = examined.subject.frame_size if examined is not None else Size(9, 16)
        self.strip.show_frames(frames.start, frames.stop, self.pictures.frame, shape)
        self.traces.show_examined(examined, frames)

    def _show_trace(self) -> None:
        """Brings the trace into view on which the chosen finding is seen."""
        item = self.found.list.current
        if item is not None:
            self.traces.bring_into_view(item.check.trace)

    def _show_frame(self, frame: int) -> None:
        if self._shown is None:
            return
        self.strip.show_playhead(frame)
        self.traces.show_playhead(frame)
        self.said.emit()

    # What can be done

    def mend_all(self) -> None:
        """Mends all that is open of the chosen kind, each by its usual mend, in one step."""
        self.mending.mend_all(self._scope.items)

    def _step(self, frames: int) -> None:
        if self._shown is not None:
            window = self._shown.subject.frames
            frame = min(max(self.pictures.frame + frames, window.start), window.stop - 1)
            self.pictures.show_frame(frame)

    def actions_here(self) -> Sequence[Action]:
        """Mending, and moving along the frames."""

        def not_mendable() -> str:
            return "" if mending.mend_button.isEnabled() else "Choose a finding that has a mend."

        def none_alike() -> str:
            return (
                "" if mending.all_button.isEnabled() else "Nothing of this kind can be mended now."
            )

        def nothing_shown() -> str:
            return "" if self._shown is not None else "Nothing is measured yet."

        def no_finding() -> str:
            return "" if self.found.list.current is not None else "Choose a finding first."

        def ends() -> tuple[int, int]:
            frames = self._shown.subject.frames if self._shown is not None else range(1)
            return frames.start, frames.stop - 1

        def about(scope: WorksOn) -> Callable[[], bool]:
            return lambda: self.works_on is scope

        show, mending = self.pictures.show_frame, self.mending
        return [
            Action("checks.mend", "Mend", mending.mend, "Check", 0, ("Ctrl+Return",), icon="needle",
                   says="Puts the chosen mend into the wrinkle, or onto the cut.",
                   why_not=not_mendable),
            Action("checks.all", "Mend all of this kind", self.mend_all, "Check", 0,
                   says="Mends every open finding of the same check, in one step.",
                   why_not=none_alike),
            Action("checks.room", "Make room at the cut", mending.make_room, "Check", 10,
                   says="Trims the clips of the cut by what their handles lack.",
                   short="Make room"),
            Action("checks.aside", "Set aside, or count it again", mending.ask_reason, "Check", 0,
                   says="The chosen finding counts no more, for a reason that is kept.",
                   why_not=no_finding, icon="button"),
            Action("checks.wrinkle", "The wrinkle on the Bench",
                   partial(self.set_scope, WorksOn.WRINKLE), "Check", 20,
                   says="Looks at the open wrinkle on its clips.",
                   checked=about(WorksOn.WRINKLE)),
            Action("checks.piece", "All cuts of the piece",
                   partial(self.set_scope, WorksOn.PIECE), "Check", 20,
                   says="Looks at every dressed cut of the piece.", checked=about(WorksOn.PIECE)),
            Action("checks.numbers", "Numbers as a table…", self.show_tables, "View", 41, ("N",),
                   says="Lists what is measured of each frame, to be copied and read aloud.",
                   why_not=nothing_shown),
            Action("checks.play", "Play, or stop", self.pictures.toggle, "View", 9, ("Space",),
                   says="Plays before and after in step.", why_not=nothing_shown, icon="loop",
                   checked=lambda: self.pictures.player.playing, short="Play",
                   follows=(self.pictures.player.playingChanged,)),
            *stepping("checks", self._step, show, ends, partial(show, 0)),
        ]  # fmt: skip

    def bind(self, menus: Menus) -> None:
        """The buttons stand for what is in the menus."""
        for name, button in (
            ("checks.mend", self.mending.mend_button),
            ("checks.all", self.mending.all_button),
            ("checks.room", self.mending.room_button),
            ("checks.aside", self.mending.aside_button),
            ("checks.play", self.pictures.play_button),
        ):
            menus.bind(name, button)

    def show_tables(self) -> None:
        """What is measured as tables beside the place."""
        dialog = TablesDialog(lambda: self.traces.models, self)
        dialog.frameChosen.connect(self.pictures.show_frame)
        dialog.show()

    def takes(self) -> Takes:
        """Questions after what is not right yet."""

        def show(wanted: ChecksWanted) -> None:
            if self.works_on is not wanted.about:
                self.set_scope(wanted.about)

        return {ChecksWanted: show}

    def words(self) -> str:
        """What was found, in short."""
        if self._shown is None:
            return self.found.words
        return f"frame {frame_label(self.pictures.frame)} · {self.found.words}"

    def facts(self) -> str:
        """In which size it is measured."""
        if self._shown is None:
            return ""
        small = self._shown.subject.showing.size
        return f"measured at {small.label}"

    def splitters(self) -> Mapping[str, QSplitter]:
        """Between its parts."""
        return {"traces": self._right, "findings": self._both}

    def leave(self) -> None:
        """Nothing plays any more."""
        self.pictures.player.stop()

    def close_down(self) -> None:
        """The window ends."""
        self.mender.give_up()
        self.pictures.close_down()


PLACE = PlaceKind("checks", "Checks", Checks, (ChecksWanted,))
