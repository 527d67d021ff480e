"""The Checks: findings at the left, before and after at the right, the traces below."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from functools import partial

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QInputDialog,
    QProgressBar,
    QPushButton,
    QSplitter,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design.document.differences import difference_words
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.examine.examined import Examined
from wrinkle.core.measure.check import Mend
from wrinkle.core.measure.checks.handles import SHORT
from wrinkle.core.picture.image import Size
from wrinkle.core.piece.making_room import Room, make_room
from wrinkle.ui.actions.action import Action
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.actions.stepping import stepping
from wrinkle.ui.checks.before_after import BeforeAfter
from wrinkle.ui.checks.finding_list import FindingList
from wrinkle.ui.checks.item import Item
from wrinkle.ui.checks.mender import Mender
from wrinkle.ui.checks.passed_list import PassedList
from wrinkle.ui.checks.trace_list import HEAD, MARGIN, TraceList
from wrinkle.ui.choosing.tables_dialog import TablesDialog
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.examiner import WRINKLE
from wrinkle.ui.pictures.ruler_strip import RulerStrip
from wrinkle.ui.pictures.sound_player import SoundPlayer
from wrinkle.ui.place import ChecksWanted, Place, PlaceKind, PlaceWanted, Takes, WorksOn
from wrinkle.ui.shared.empty_state import EmptyState
from wrinkle.ui.shared.picture_view import frame_label
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.text_size import Extent, keep

_NOTHING = (
    "Choose two clips on the Bench, and it is measured here what is not right yet at their cut."
)
_MOST_SET = 3
"""Settings that a mend sets and that are named."""
_NO_CUTS = "No cut of the piece is dressed yet; what is put on one is measured here."


class Checks(Place):
    """Where it is said what is wrong at a cut."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._examiner = desk.examiner
        self._shown: Examined | None = None
        self._progress = (0, 0)
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        self.mender = Mender(desk)
        self.scope = QComboBox()
        self.scope.setAccessibleName("What is examined")
        self.scope.addItem("The wrinkle on the Bench", WorksOn.WRINKLE)
        self.scope.addItem("All cuts of the piece", WorksOn.PIECE)
        self.count_label = PlainLabel()
        self.count_label.setObjectName("quiet")
        self.list = FindingList()
        self.empty = EmptyState()
        self.bench_button = self.empty.add("Choose clips on the Bench")
        self.bench_button.clicked.connect(lambda: self.wanted.emit(PlaceWanted("bench")))
        self.cuts_button = self.empty.add("Dress cuts in the Cut list")
        self.cuts_button.clicked.connect(lambda: self.wanted.emit(PlaceWanted("cutlist")))
        self.passed = PassedList()
        self.bar = QProgressBar()
        self.bar.setTextVisible(False)
        self.bar.setFixedHeight(14)
        self.bar.setAccessibleName("Frames measured")
        self.pictures = BeforeAfter(desk.workers, SoundPlayer(desk.output(), desk.sound, self))
        self.strip = RulerStrip(self.pictures.before)
        self.mend_choice = QComboBox()
        self.mend_choice.setAccessibleName("Which mend")
        self.mend_button = QPushButton("Mend")
        self.mend_button.setObjectName("main")
        self.all_button = QPushButton("Mend all of this kind")
        self.room_button = QPushButton("Make room")
        self.aside_button = QPushButton("Set aside…")
        self.traces = TraceList()
        self._lay_out()
        self._connect()
        self.refresh()

    def _lay_out(self) -> None:
        heading = PlainLabel("Checks")
        heading.setObjectName("heading")
        top = QHBoxLayout()
        top.setContentsMargins(16, 8, 12, 8)
        top.setSpacing(8)
        top.addWidget(heading)
        top.addStretch(1)
        top.addWidget(self.scope)
        counts = QHBoxLayout()
        counts.setContentsMargins(16, 0, 12, 8)
        counts.addWidget(self.count_label)
        left = _panel()
        column = QVBoxLayout(left)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(top)
        column.addLayout(counts)
        column.addWidget(self.bar)
        column.addWidget(self.empty)
        column.addWidget(self.passed, 1)
        self._filler = QWidget()
        column.addWidget(self._filler, 1)
        column.addWidget(self.list, 1)
        mending = QHBoxLayout()
        mending.setContentsMargins(12, 6, 12, 6)
        mending.setSpacing(8)
        keep(self.mend_choice, Extent.LEAST_WIDTH, 220)
        mending.addWidget(self.pictures.play_button)
        mending.addWidget(self.mend_choice)
        mending.addWidget(self.mend_button)
        mending.addWidget(self.all_button)
        mending.addWidget(self.room_button)
        mending.addStretch(1)
        mending.addWidget(self.aside_button)
        self.strip.set_inset(HEAD + MARGIN, MARGIN + 10)
        upper = _panel()
        shown = QVBoxLayout(upper)
        shown.setContentsMargins(0, 0, 0, 0)
        shown.setSpacing(0)
        shown.addWidget(self.pictures, 1)
        shown.addLayout(mending)
        shown.addWidget(self.strip)
        right = self._right = QSplitter(Qt.Orientation.Vertical)
        right.addWidget(upper)
        right.addWidget(self.traces)
        right.setSizes([460, 230])
        right.setChildrenCollapsible(False)
        both = self._both = QSplitter(Qt.Orientation.Horizontal)
        both.addWidget(left)
        both.addWidget(right)
        both.setSizes([400, 880])
        both.setChildrenCollapsible(False)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(both)

    def _connect(self) -> None:
        self._examiner.changed.connect(self.refresh)
        self._examiner.progressed.connect(self._show_progress)
        self.scope.activated.connect(lambda index: self.set_scope(self.scope.itemData(index)))
        self.list.chosen.connect(self._show_item)
        self.mend_choice.activated.connect(lambda index: self._show_mend())
        self.mender.came.connect(self._mend_came)
        self.mender.workingChanged.connect(self._show_buttons)
        self.mender.workingChanged.connect(lambda: self._show_counts(self.items))
        self.strip.scrubbed.connect(self.pictures.show_frame)
        self.pictures.frameShown.connect(self._show_frame)
        self.pictures.failed.connect(self._desk.messages.faulted)
        self.traces.scrubbed.connect(self.pictures.show_frame)

    # What is examined

    def set_scope(self, scope: WorksOn) -> None:
        """Shows what was found of the open wrinkle, or of the piece."""
        self.works_on = scope
        self.scope.setCurrentIndex(self.scope.findData(scope))
        if scope is WorksOn.PIECE:
            self._examiner.want_piece()
        self.list.choose(None)
        self.refresh()
        self.worksOnChanged.emit()

    @property
    def keys(self) -> tuple[str, ...]:
        """Under which ids what is shown is examined."""
        return (WRINKLE,) if self.works_on is WorksOn.WRINKLE else self._examiner.cuts

    @property
    def items(self) -> list[Item]:
        """All that was found, the worst first."""
        found = []
        for key in self.keys:
            examined = self._examiner.found(key)
            if examined is not None:
                where = self._where(key)
                found += [Item(key, where, examined, x) for x in examined.findings]
        return sorted(found, key=lambda item: item.rank)

    def _where(self, key: str) -> str:
        if key == WRINKLE:
            return ""
        piece = self._desk.piece.state
        place = piece.index(key)
        return f"cut {place} · {piece.clips[place - 1].name} → {piece.clips[place].name}"

    @property
    def measuring(self) -> bool:
        """Whether some of it is being measured."""
        return any(self._examiner.measuring(key) for key in self.keys)

    def refresh(self) -> None:
        """Shows what is known now, while somebody sees it: mends are worked out for that alone."""
        if not self.isVisible():
            return
        items = self.items
        self.mender.keep_only(items)
        self.list.show_items(items)
        self.list.setVisible(bool(items))
        examined = [x for x in map(self._examiner.found, self.keys) if x is not None]
        clean = not items and not self.measuring and bool(examined)
        self.passed.setVisible(clean)
        if clean:
            self.passed.show_examined(examined)
        self._filler.setVisible(not items and not clean)
        self.empty.setVisible(not items)
        words = self._empty_words()
        self.empty.words.setText(words)
        self.bench_button.setVisible(words == _NOTHING)
        self.cuts_button.setVisible(words == _NO_CUTS)
        # Where nothing was examined there is nothing to look at either.
        self._right.setVisible(bool(examined) or self.measuring)
        self._show_counts(items)
        if not items:
            self._show_item(None)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.refresh()

    def _empty_words(self) -> str:
        if self.works_on is WorksOn.PIECE and not self.keys:
            return _NO_CUTS
        if self.measuring:
            return "It is being measured…"
        if all(self._examiner.found(key) is None for key in self.keys):
            return _NOTHING
        return "Nothing is wrong here: every check was made, and none found anything."

    def _show_counts(self, items: Sequence[Item]) -> None:
        open_ = sum(not x.reason for x in items)
        aside = len(items) - open_
        words = [f"{open_} open"]
        if aside:
            words.append(f"{aside} set aside")
        if self.measuring:
            done, total = self._progress
            words.append(f"measuring {done} of {total} frames" if total else "measuring")
        elif any(self._examiner.found(key) is not None for key in self.keys):
            words.append(f"{len(self.keys)} cut{'s' if len(self.keys) != 1 else ''} examined")
        else:
            words = ["nothing examined"]
        if self.mender.working:
            words.append("working out a mend")
        self.bar.setVisible(self.measuring)
        if self.measuring:
            done, total = self._progress
            self.bar.setMaximum(total)
            self.bar.setValue(done)
        self.count_label.setText(" · ".join(words))
        self.said.emit()

    def _show_progress(self, done: int, total: int) -> None:
        self._progress = done, total
        if self.isVisible():
            self._show_counts(self.items)

    # One finding

    def _show_item(self, item: Item | None) -> None:
        examined = item.examined if item is not None else self._examiner.found(self.keys[0]) \
            if self.keys else None  # fmt: skip
        if examined is not self._shown:
            self._shown = examined
            subject = examined.subject if examined is not None else None
            self.pictures.show_subject(subject)
            self._show_traces()
        self.mend_choice.clear()
        self.strip.show_marks(item.finding.frames if item is not None else ())
        if item is not None:
            for mend in item.finding.mends:
                self.mend_choice.addItem(mend.label, mend)
            if examined is not None and (item.finding.frames or item.finding.worst):
                self.pictures.show_frame(item.finding.worst)
            # Rows that were hidden before get their place first.
            QTimer.singleShot(0, self._show_trace)
        self._show_mend()

    def _show_traces(self) -> None:
        examined = self._shown
        frames = examined.subject.frames if examined is not None else range(-1, 1)
        shape = examined.subject.frame_size if examined is not None else Size(9, 16)
        self.strip.show_frames(frames.start, frames.stop, self.pictures.frame, shape)
        self.traces.show_examined(examined, frames)

    def _show_trace(self) -> None:
        """Brings the trace into view on which the chosen finding is seen."""
        item = self.list.current
        if item is not None:
            self.traces.bring_into_view(item.check.trace)

    def _show_frame(self, frame: int) -> None:
        if self._shown is None:
            return
        self.strip.show_playhead(frame)
        self.traces.show_playhead(frame)
        self.said.emit()

    @property
    def mend_shown(self) -> Mend | None:
        """The mend that is shown beside the frame as it is."""
        found: Mend | None = self.mend_choice.currentData()
        return found

    def _show_mend(self) -> None:
        """Shows what the chosen mend comes to; it is worked out first where nobody knows."""
        item, mend = self.list.current, self.mend_shown
        if item is None or mend is None:
            words = ""
            if item is not None and not item.reason:
                words = "This cannot be mended by itself: it takes a decision. " \
                    "Change it, or set it aside with a reason."  # fmt: skip
            self.pictures.show_mended(None, "", words)
        else:
            known = self.mender.known(item, mend)
            if known is None:
                self.pictures.show_mended(None, mend.label, "It is being worked out…")
                self.mender.work_out(item, mend)
            else:
                self._show_result(mend, known)
        self._show_buttons()

    def _mend_came(self, item: Item, mend: Mend, result: Wrinkle | str) -> None:
        if item is self.list.current and mend is self.mend_shown:
            self._show_result(mend, result)
            self._show_buttons()

    def _show_result(self, mend: Mend, result: Wrinkle | str) -> None:
        if isinstance(result, str):
            self.pictures.show_mended(None, mend.label, result)
        else:
            after = f"After: {mend.label[0].lower()}{mend.label[1:]}"
            self.pictures.show_mended(result, after, self._sets(result))

    def _sets(self, design: Wrinkle) -> str:
        """What a mend sets, with its numbers."""
        item = self.list.current
        if item is None:
            return ""
        words = difference_words(item.examined.subject.design, design)
        more = len(words) - _MOST_SET
        said = "; ".join(words[:_MOST_SET])
        return f"It sets {said}{f', and {more} more' if more > 0 else ''}." if said else ""

    def _show_buttons(self) -> None:
        item, mend = self.list.current, self.mend_shown
        known = self.mender.known(item, mend) if item is not None and mend is not None else None
        settled = not self.measuring
        self.mend_choice.setVisible(self.mend_choice.count() > 0)
        self.mend_button.setEnabled(isinstance(known, Wrinkle) and settled)
        mendable = item is not None and bool(item.finding.mends) and not item.reason
        self.all_button.setEnabled(mendable and settled and not self.mender.working)
        self.aside_button.setEnabled(item is not None and settled)
        # Nothing can be pressed that does nothing.
        self.mend_button.setVisible(item is not None)
        self.all_button.setVisible(mendable)
        self.aside_button.setVisible(item is not None)
        aside = item is not None and bool(item.reason)
        self.aside_button.setText("Count it again" if aside else "Set aside…")
        room = self._room()
        self.room_button.setVisible(room is not None)
        if room is not None:
            self.room_button.setToolTip(tip(room.words(self._desk.piece.state)))

    def _room(self) -> Room | None:
        """What it comes to, to trim the clips of the chosen cut, where that would help."""
        item = self.list.current
        if item is None or item.key == WRINKLE or item.finding.check != SHORT.key:
            return None
        try:
            return make_room(self._desk.piece.state, [item.key])
        except InputError:
            return None

    def make_room(self) -> None:
        """Trims the clips of the chosen cut by what their handles lack."""
        room, before = self._room(), self._desk.piece.state
        if room is None or self.measuring:
            self._desk.messages.faulted.emit("No handle is too short at what is chosen.")
            return
        self._desk.piece.edit("make room", lambda piece: room.piece)
        self._desk.messages.told.emit(room.words(before))

    # What can be done

    def mend(self) -> None:
        """Does what is shown at the right."""
        item, mend = self.list.current, self.mend_shown
        if item is not None and mend is not None and not self.measuring:
            design = self.mender.known(item, mend)
            said = self._sets(design) if isinstance(design, Wrinkle) else ""
            if self.mender.apply(item, mend) and said:
                self._desk.messages.told.emit(f"Mended. {said}")

    def mend_all(self) -> None:
        """Mends all that is open of the chosen kind, each by its usual mend, in one step."""
        item = self.list.current
        if item is None or self.measuring:
            return
        alike = [x for x in self.items if x.finding.check == item.finding.check and not x.reason]

        def told(count: int) -> None:
            self._desk.messages.told.emit(f"{count} mended.")

        self.mender.mend_all(alike, told)

    def ask_reason(self) -> None:
        """Asks why the chosen finding is wanted so, and sets it aside; or counts it again."""
        item = self.list.current
        if item is None or self.measuring:
            return
        if item.reason:
            self.mender.count_again(item)
            return
        reason, taken = QInputDialog.getText(
            self, "Set aside", "Why it is wanted so. Whoever uses the wrinkle reads this:"
        )
        if taken:
            self.mender.set_aside(item, reason)

    def _step(self, frames: int) -> None:
        if self._shown is not None:
            window = self._shown.subject.frames
            frame = min(max(self.pictures.frame + frames, window.start), window.stop - 1)
            self.pictures.show_frame(frame)

    def actions_here(self) -> Sequence[Action]:
        """Mending, and moving along the frames."""

        def not_mendable() -> str:
            return "" if self.mend_button.isEnabled() else "Choose a finding that has a mend."

        def none_alike() -> str:
            return "" if self.all_button.isEnabled() else "Nothing of this kind can be mended now."

        def nothing_shown() -> str:
            return "" if self._shown is not None else "Nothing is measured yet."

        def no_finding() -> str:
            return "" if self.list.current is not None else "Choose a finding first."

        def ends() -> tuple[int, int]:
            frames = self._shown.subject.frames if self._shown is not None else range(1)
            return frames.start, frames.stop - 1

        def about(scope: WorksOn) -> Callable[[], bool]:
            return lambda: self.works_on is scope

        show = self.pictures.show_frame
        return [
            Action("checks.mend", "Mend", self.mend, "Check", 0, ("Ctrl+Return",), icon="needle",
                   says="Puts the chosen mend into the wrinkle, or onto the cut.",
                   why_not=not_mendable),
            Action("checks.all", "Mend all of this kind", self.mend_all, "Check", 0,
                   says="Mends every open finding of the same check, in one step.",
                   why_not=none_alike),
            Action("checks.room", "Make room at the cut", self.make_room, "Check", 10,
                   says="Trims the clips of the cut by what their handles lack.",
                   short="Make room"),
            Action("checks.aside", "Set aside, or count it again", self.ask_reason, "Check", 0,
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
            ("checks.mend", self.mend_button),
            ("checks.all", self.all_button),
            ("checks.room", self.room_button),
            ("checks.aside", self.aside_button),
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
            return self.count_label.text()
        return f"frame {frame_label(self.pictures.frame)} · {self.count_label.text()}"

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


def _panel() -> QWidget:
    panel = QWidget()
    panel.setObjectName("panel")
    panel.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
    return panel


PLACE = PlaceKind("checks", "Checks", Checks)
