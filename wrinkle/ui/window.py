"""The window's frame: bar, places, menus with their keys, status line, files."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from html import escape
from pathlib import Path

from PyQt6.QtCore import QEvent, QObject, Qt, pyqtSignal
from PyQt6.QtGui import QActionGroup, QCloseEvent, QKeyEvent
from PyQt6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QComboBox,
    QInputDialog,
    QMainWindow,
    QMenu,
    QMessageBox,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from wrinkle import __version__, library
from wrinkle.core.design.archive import SUFFIX, read
from wrinkle.core.design.slots import OUTGOING
from wrinkle.core.errors import InputError
from wrinkle.core.files import size_label
from wrinkle.core.reuse.use import Use, possible
from wrinkle.library import caches
from wrinkle.library.versions import Version
from wrinkle.media.assets import read_assets
from wrinkle.timeline.left_pieces import LeftPiece
from wrinkle.ui import icons, theme
from wrinkle.ui.checks.checks import Checks
from wrinkle.ui.choosing.compare import Compared, CompareDialog
from wrinkle.ui.cut_bar import CutBar
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.examiner import WRINKLE
from wrinkle.ui.files.open_file import OpenFile
from wrinkle.ui.files.piece_on_file import PieceOnFile
from wrinkle.ui.files.wrinkle_on_file import WrinkleOnFile
from wrinkle.ui.menus import Menus
from wrinkle.ui.place import (
    Action,
    BenchWanted,
    CutWanted,
    PieceWanted,
    Place,
    UseWanted,
    Wanted,
    WorksOn,
)
from wrinkle.ui.place_bar import PlaceBar
from wrinkle.ui.places import FIRST_SHOWN, PLACES
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.safekeeping.kept_row import day_and_time
from wrinkle.ui.safekeeping.left_work_dialog import Left, LeftWorkDialog
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.plain_text import Buttons, PlainLabel, ask, tip
from wrinkle.ui.theme import ThemeChoice
from wrinkle.ui.use.use_dialog import UseDialog

_FILTER = f"Wrinkles (*{SUFFIX})"
_SHIPPED = "Open a shipped wrinkle"


class Window(QMainWindow):
    """The application's window.

    Signals:
        workBrought: work that a crash left is on the desk again (LeftWork).
        pieceBrought: a piece that a crash left is open again (LeftPiece).
        closed: nothing is open any more.
    """

    workBrought = pyqtSignal(object)
    pieceBrought = pyqtSignal(object)
    closed = pyqtSignal()

    def __init__(self, desk: Desk, preferences: Preferences) -> None:
        super().__init__()
        self.desk = desk
        self._preferences = preferences
        self._ended = False
        self.setWindowIcon(icons.application_icon())
        self.setMinimumSize(960, 640)
        self.resize(1280, 800)
        self.places = QStackedWidget()
        self.wrinkle_file = WrinkleOnFile(desk, preferences, self)
        self.piece_file = PieceOnFile(desk.piece, preferences, self)
        self._files: dict[WorksOn, OpenFile] = {
            WorksOn.WRINKLE: self.wrinkle_file, WorksOn.PIECE: self.piece_file,
        }  # fmt: skip
        self.wrinkle_file.comparisonWanted.connect(self.compare_version)
        self._places: dict[str, Place] = {kind.key: kind.make(desk) for kind in PLACES}
        for place in self._places.values():
            self.places.addWidget(place)
            place.said.connect(self._show_words)
            place.wanted.connect(self._do)
            place.worksOnChanged.connect(self._show_document)
        self.menus = Menus(self)
        self._fill_menus()
        actions = self.menus.actions
        names = [kind.name for kind in PLACES]
        self.bar = PlaceBar(names, actions["edit.undo"], actions["edit.redo"])
        self.bar.placeChosen.connect(self.go_to)
        self.bar.checksWanted.connect(self.show_checks)
        desk.examiner.changed.connect(self._show_badge)
        middle = QWidget()
        layout = QVBoxLayout(middle)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        self.cut_bar = CutBar()
        self.cut_bar.backWanted.connect(self.take_cut_back)
        self.cut_bar.leftWanted.connect(desk.open_cut.close)
        desk.open_cut.changed.connect(self._show_cut)
        layout.addWidget(self.bar)
        layout.addWidget(self.cut_bar)
        layout.addWidget(self.places, 1)
        self.setCentralWidget(middle)
        self._what = ElidedLabel(mode=Qt.TextElideMode.ElideRight)
        self._facts = PlainLabel()
        self._details = QPushButton("Copy the details")
        self._details.clicked.connect(self._copy_details)
        self._details.hide()
        self._known = ""
        status = self.statusBar()
        if status is not None:
            status.setSizeGripEnabled(False)
            status.addWidget(self._what, 1)
            status.addPermanentWidget(self._details)
            status.addPermanentWidget(self._facts)
        for file in self._files.values():
            file.changed.connect(self._show_file)
        desk.messages.told.connect(partial(self._message, kind="quiet"))
        desk.messages.faulted.connect(partial(self._message, kind="fault"))
        if preferences.geometry is not None:
            self.restoreGeometry(preferences.geometry)
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.focusChanged.connect(self._watch_space)
        self.go_to(FIRST_SHOWN)
        self._show_file()

    def place(self, key: str) -> Place:
        """The place with that key."""
        return self._places[key]

    # Menus

    def _fill_menus(self) -> None:
        owned: list[tuple[object, Action]] = [(None, action) for action in self._own_actions()]
        for file in self._files.values():
            owned += [(file, action) for action in file.actions()]
        owned.append(
            (
                self.wrinkle_file,
                Action("file.use", "Use on other clips…", self.use, "File", 40, ("Ctrl+U",)),
            )
        )
        for place in self._places.values():
            owned += [(place, action) for action in place.actions_here()]
        self.menus.build(owned)
        self.menus.submenu("file.open", _SHIPPED, self._fill_shipped)
        group = QActionGroup(self)
        for choice in ThemeChoice:
            action = self.menus.actions[f"theme.{choice.name.lower()}"]
            action.setCheckable(True)
            action.setChecked(choice is self._preferences.theme)
            group.addAction(action)

    def _own_actions(self) -> list[Action]:
        return [
            Action("file.new", "New", lambda: self.file.new(), "File", 10, ("Ctrl+N",)),
            Action("file.open", "Open…", lambda: self.file.open(), "File", 10, ("Ctrl+O",)),
            Action("file.save", "Save", lambda: self.file.save(), "File", 20, ("Ctrl+S",)),
            Action("file.save-as", "Save as…", lambda: self.file.save_as(), "File", 20,
                   ("Ctrl+Shift+S",)),
            Action("file.rename", "Rename…", lambda: self.file.rename(), "File", 20, ("F2",)),
            Action("file.memory", "Memory for pictures…", self.choose_memory, "File", 80),
            Action("file.caches", "Empty the caches", self.empty_caches, "File", 80),
            Action("file.quit", "Quit", self.close, "File", 90, ("Ctrl+Q",)),
            Action("edit.undo", "Undo", lambda: self.file.steps.undo(), "Edit", 0, ("Ctrl+Z",)),
            Action("edit.redo", "Redo", lambda: self.file.steps.redo(), "Edit", 0,
                   ("Ctrl+Shift+Z", "Ctrl+Y")),
            *(
                Action(f"place.{kind.key}", kind.name, partial(self.go_to, number), "View", 0,
                       (f"Ctrl+{number + 1}",))
                for number, kind in enumerate(PLACES)
            ),
            *(
                Action(f"theme.{choice.name.lower()}", f"Theme: {choice.value}",
                       partial(self.set_theme, choice), "View", 90)
                for choice in ThemeChoice
            ),
            Action("help.keys", "Keys", self.show_keys, "Help", 0, ("?",)),
            Action("help.about", "About Wrinkle", self.about, "Help", 0),
        ]  # fmt: skip

    def _fill_shipped(self, menu: QMenu) -> None:
        """The shipped wrinkles, read when they are wanted; a broken one is told and passed over."""
        menu.clear()
        for path in library.shipped().values():
            try:
                name = read(path).wrinkle.name
            except InputError as fault:
                self.desk.messages.faulted.emit(str(fault))
                continue
            action = menu.addAction(name)
            if action is not None:
                action.triggered.connect(partial(self._open_shipped, path))

    def _open_shipped(self, path: Path, checked: bool = False) -> None:
        self.wrinkle_file.open_shipped(path)

    # Places and themes

    def go_to(self, number: int) -> None:
        """Shows one of the five places."""
        before = self.places.currentWidget()
        self.places.setCurrentIndex(number)
        place = self._shown
        if isinstance(before, Place) and before is not place:
            before.leave()
        self.menus.show_for(place, self.file)
        self.bar.show_place(number)
        if place.works_on is WorksOn.PIECE:
            self.desk.examiner.want_piece()
        self._show_file()
        self._show_badge()
        self._show_cut()
        place.setFocus()
        self._show_words()

    def _go_to_place(self, key: str) -> None:
        self.go_to([kind.key for kind in PLACES].index(key))

    def show_checks(self) -> None:
        """Shows the open checks of the document that the shown place works on."""
        checks, scope = self._places["checks"], self._shown.works_on
        if isinstance(checks, Checks) and checks.works_on is not scope:
            checks.set_scope(scope)
        self._go_to_place("checks")

    def _show_badge(self) -> None:
        examiner = self.desk.examiner
        keys = (WRINKLE,) if self._shown.works_on is WorksOn.WRINKLE else examiner.cuts
        known = [key for key in keys if examiner.found(key) is not None]
        self.bar.badge.show_count(examiner.open_count(known) if known else None)

    def _show_document(self) -> None:
        """The shown place works on another document."""
        self.menus.show_for(self._shown, self.file)
        self._show_file()
        self._show_cut()
        self._show_badge()

    def set_theme(self, choice: ThemeChoice) -> None:
        """Shows everything in another theme and keeps the choice."""
        self._preferences.theme = choice
        app = QApplication.instance()
        if isinstance(app, QApplication):
            theme.apply(app, choice)
        for place in self._places.values():
            place.themed()

    def choose_memory(self) -> None:
        """Asks how much memory kept pictures may take, and keeps the answer."""
        store = self.desk.workers.store
        mebibytes, taken = QInputDialog.getInt(
            self,
            "Memory for pictures",
            "Rendered and decoded pictures are kept in at most so many MiB:",
            store.budget >> 20,
            *self._preferences.MEMORY_RANGE,
            128,
        )
        if taken:
            self._preferences.memory = mebibytes << 20
            store.budget = mebibytes << 20

    def empty_caches(self) -> None:
        """Removes what can be made again, on disk and in memory; not the clips that are open."""
        freed = caches.empty([x.path for x in self.desk.tried.clips.values() if x.path is not None])
        self.desk.workers.store.clear()
        self.desk.messages.told.emit(f"The caches are empty; that freed {size_label(freed)}.")

    @property
    def file(self) -> OpenFile:
        """The document that the shown place works on."""
        return self._files[self._shown.works_on]

    @property
    def _shown(self) -> Place:
        found = self.places.currentWidget()
        if not isinstance(found, Place):
            raise TypeError("what the window shows is no place")
        return found

    # Files

    def compare_version(self, version: Version) -> CompareDialog | None:
        """Shows an earlier version beside the wrinkle as it is now, in step, on its clips."""
        desk = self.desk
        try:
            bundle = version.read()
            carried = read_assets(bundle.assets, desk.workers.store)
            before = Compared(
                day_and_time(version.when),
                Use(bundle.wrinkle, desk.tried.fillings()),
                carried.material(library.fonts()),
            )
            now = Compared("now", Use(desk.document.wrinkle, desk.tried.fillings()), desk.carried())
        except InputError as fault:
            desk.messages.faulted.emit(str(fault))
            return None
        if OUTGOING.key not in now.use.fillings:
            desk.messages.faulted.emit("Choose the two clips on the Bench first.")
            return None
        self._shown.leave()
        dialog = CompareDialog(now, before, desk.workers, self)
        dialog.show()
        return dialog

    def offer(self, left: Sequence[Left]) -> LeftWorkDialog:
        """Offers work that a program left which ended without asking."""
        dialog = LeftWorkDialog(left, self)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.wanted.connect(self._bring_back)
        dialog.open()
        return dialog

    def _bring_back(self, left: Left) -> None:
        if isinstance(left, LeftPiece):
            self._bring_piece_back(left)
            return
        if not self.wrinkle_file.may_leave():
            return
        try:
            work = left.read()
            self.desk.document.take_up(work.history, work.saved, work.assets, work.path)
        except (OSError, InputError) as fault:
            self.desk.messages.faulted.emit(str(fault))
            return
        self.desk.tried.begin(
            {slot: Path(clip.path) for slot, clip in work.clips.items()},
            {slot: clip.cut for slot, clip in work.clips.items()},
        )
        if any(layer.id == work.layer for layer in self.desk.document.wrinkle.layers):
            self.desk.looking.select_layer(work.layer)
        self.desk.looking.set_playhead(work.playhead)
        self.workBrought.emit(left)

    def _bring_piece_back(self, left: LeftPiece) -> None:
        if not self.piece_file.may_leave():
            return
        try:
            piece, file = left.read()
        except InputError as fault:
            self.desk.messages.faulted.emit(str(fault))
            return
        self.desk.piece.take_up(piece, file, left.path)
        self.pieceBrought.emit(left)

    def use(self) -> None:
        """Opens the dialog that uses the wrinkle on other clips."""
        self._shown.leave()
        self.use_dialog().show()

    def use_dialog(self, wanted: UseWanted | None = None) -> UseDialog:
        """A dialog for the wrinkle as it is now, or for another one."""
        if wanted is None:
            wanted = UseWanted(self.desk.document.bundle(), self.desk.trial.choices)
        dialog = UseDialog(wanted.bundle, self.desk.workers, self, wanted.choices)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        if wanted.here:
            dialog.take_clips(self.desk.tried.clips)
        dialog.take_files(wanted.clips)
        return dialog

    def _do(self, wanted: Wanted) -> None:
        """Something that a place asks of the window."""
        match wanted:
            case UseWanted():
                self._shown.leave()
                self.use_dialog(wanted).show()
            case PieceWanted():
                if self.piece_file.may_leave():
                    self.piece_file.open_file(wanted.path)
            case CutWanted():
                self._open_cut(wanted.clip)
            case BenchWanted():
                self._open_on_bench(wanted)

    def _open_cut(self, clip: str) -> None:
        """Opens the wrinkle on a cut of the piece."""
        if self.wrinkle_file.may_leave() and self.desk.open_cut.open(clip):
            self.go_to(FIRST_SHOWN)

    def take_cut_back(self) -> None:
        """Goes back to the piece with what was changed; asks once what a changed wrinkle is."""
        cut, answer = self.desk.open_cut, Buttons.Yes
        if cut.wrinkle_changed:
            answer = ask(
                self,
                "The wrinkle was changed",
                f"{self.desk.document.wrinkle.name} is another one now than on its cut.",
                Buttons.Yes | Buttons.Save | Buttons.No | Buttons.Cancel,
                Buttons.Yes,
                {
                    Buttons.Yes: "For this cut alone",
                    Buttons.Save: "Keep it in the Collection too",
                    Buttons.No: "Give the change up",
                },
            )
        if answer == Buttons.Cancel:
            return
        if answer == Buttons.Save:
            self.wrinkle_file.keep_copy()
        cut.take_back(wrinkle_too=answer != Buttons.No)
        self._go_to_place("cutlist")

    def _show_cut(self) -> None:
        words = self.desk.open_cut.words
        self.cut_bar.show_cut(words, self.desk.piece.piece.title)
        self.cut_bar.setVisible(bool(words) and self._shown.works_on is WorksOn.WRINKLE)

    def _open_on_bench(self, wanted: BenchWanted) -> None:
        if not self.wrinkle_file.may_leave():
            return
        document = self.desk.document
        if wanted.as_copy or wanted.path.is_dir():
            try:
                document.open_copy(read(wanted.path))
            except InputError as fault:
                self.desk.messages.faulted.emit(str(fault))
                return
        elif not self.wrinkle_file.open_file(wanted.path):
            return
        self.go_to(FIRST_SHOWN)
        self.desk.trial.set_choices(possible(document.wrinkle, wanted.choices))

    # What is said

    def show_keys(self) -> None:
        """The sheet of the keys that are live in the place that is shown."""
        rows = [
            _key_row(action.text(), f"<b>{action.shortcut().toString()}</b>")
            for action in self.menus.actions.values()
            if action.isVisible() and not action.shortcut().isEmpty()
        ]
        rows += [_key_row(x.label, f"<b>{x.key}</b> (held)") for x in self._shown.held_keys()]
        box = QMessageBox(self)
        box.setTextFormat(Qt.TextFormat.RichText)
        box.setWindowTitle("Keys")
        box.setText(f"<table>{''.join(rows)}</table>")
        box.open()

    def about(self) -> None:
        """What this is."""
        box = QMessageBox(self)
        box.setWindowTitle("About Wrinkle")
        box.setText(
            f"<b>Wrinkle {__version__}</b><br>Design transitions once, use them on every cut."
            "<br><br>Licence: GPL-3.0-or-later. Font: Open Sans, Apache-2.0."
        )
        box.open()

    def _show_file(self) -> None:
        file = self.file
        self.bar.show_file(file.name, file.unsaved)
        self.setWindowTitle(f"{file.name}{' •' if file.unsaved else ''} — Wrinkle")
        for action, word, label in (
            (self.menus.actions["edit.undo"], "Undo", file.steps.undo_label),
            (self.menus.actions["edit.redo"], "Redo", file.steps.redo_label),
        ):
            action.setEnabled(label is not None)
            action.setToolTip(tip(f"{word} {label}" if label else word))

    def _show_words(self) -> None:
        if self._what.objectName() == "fault":
            self._message(self._shown.words(), "quiet")
        else:
            self._what.setText(self._shown.words())
        self._facts.setText(self._shown.facts())

    def said(self) -> str:
        """What the status line says."""
        return self._what.text()

    def offer_details(self, details: str) -> None:
        """Offers to copy all that is known of an error, beside what is said of it."""
        self._known = details
        self._details.show()

    def _copy_details(self) -> None:
        clipboard = QApplication.clipboard()
        if clipboard is not None:
            clipboard.setText(self._known)
        self._details.hide()
        self.desk.messages.told.emit("The details are on the clipboard.")

    def _message(self, text: str, kind: str) -> None:
        self._what.setObjectName(kind)
        self._what.setText(text)
        style = self._what.style()
        if style is not None:
            style.unpolish(self._what)
            style.polish(self._what)

    # Events

    def _watch_space(self, old: QWidget | None, now: QWidget | None) -> None:
        """Only the widget with the focus is looked at: all events of all widgets are many."""
        if old is not None:
            old.removeEventFilter(self)
        if isinstance(now, QAbstractButton | QComboBox):
            now.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Space presses the button that has the focus; elsewhere it plays."""
        if (
            event is not None
            and event.type() == QEvent.Type.ShortcutOverride
            and isinstance(event, QKeyEvent)
            and event.key() == Qt.Key.Key_Space
        ):
            event.accept()
            return True
        return super().eventFilter(watched, event)

    def end(self) -> None:
        """Closes without asking: the program is ended from outside."""
        self._ended = True
        self.close()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None or event.isAutoRepeat() or not self._shown.hold(event.key(), True):
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        if event is None or event.isAutoRepeat() or not self._shown.hold(event.key(), False):
            super().keyReleaseEvent(event)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if event is None:
            return
        if not self._ended and not all(file.may_leave() for file in self._files.values()):
            event.ignore()
            return
        for dialog in self.findChildren(UseDialog):
            dialog.done(0)
        self._preferences.geometry = self.saveGeometry()
        for place in self._places.values():
            place.close_down()
        self.desk.workers.stop()
        self.closed.emit()
        event.accept()


def _key_row(name: str, key: str) -> str:
    return f"<tr><td>{escape(name)}</td><td style='padding-left:24px'>{key}</td></tr>"
