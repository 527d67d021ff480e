"""The window's frame: bar, places, menus with their keys, status line, files."""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import suppress
from functools import partial
from html import escape
from pathlib import Path

from PyQt6.QtCore import QEvent, QObject, Qt, pyqtSignal
from PyQt6.QtGui import QActionGroup, QCloseEvent, QKeyEvent
from PyQt6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QComboBox,
    QFileDialog,
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
from wrinkle.core.design import wrinkle_edits
from wrinkle.core.design.archive import SUFFIX, read
from wrinkle.core.design.slots import OUTGOING
from wrinkle.core.errors import InputError
from wrinkle.core.files import size_label
from wrinkle.core.reuse.use import Use, possible
from wrinkle.library import caches
from wrinkle.library.autosaves import LeftWork
from wrinkle.library.shelf import Shelves
from wrinkle.library.versions import Version, versions
from wrinkle.media.assets import read_assets
from wrinkle.ui import icons, theme
from wrinkle.ui.choosing.compare import Compared, CompareDialog
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.menus import Menus
from wrinkle.ui.place import Action, Place, UseWanted, Wanted
from wrinkle.ui.place_bar import PlaceBar
from wrinkle.ui.places import FIRST_SHOWN, PLACES
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.safekeeping.kept_row import day_and_time
from wrinkle.ui.safekeeping.left_work_dialog import LeftWorkDialog
from wrinkle.ui.safekeeping.versions_dialog import VersionsDialog
from wrinkle.ui.shared.plain_text import Buttons, PlainLabel, ask, tip
from wrinkle.ui.theme import ThemeChoice
from wrinkle.ui.use.use_dialog import UseDialog

_FILTER = f"Wrinkles (*{SUFFIX})"
_SHIPPED = "Open a shipped wrinkle"


class Window(QMainWindow):
    """The application's window.

    Signals:
        workBrought: work that a crash left is on the desk again (LeftWork).
        closed: nothing is open any more.
    """

    workBrought = pyqtSignal(object)
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
        self._places: dict[str, Place] = {kind.key: kind.make(desk) for kind in PLACES}
        for place in self._places.values():
            self.places.addWidget(place)
            place.said.connect(self._show_words)
            place.wanted.connect(self._do)
        self.menus = Menus(self)
        self._fill_menus()
        actions = self.menus.actions
        names = [kind.name for kind in PLACES]
        self.bar = PlaceBar(names, actions["edit.undo"], actions["edit.redo"])
        self.bar.placeChosen.connect(self.go_to)
        middle = QWidget()
        layout = QVBoxLayout(middle)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self.bar)
        layout.addWidget(self.places, 1)
        self.setCentralWidget(middle)
        self._what = PlainLabel()
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
        desk.document.fileChanged.connect(self._show_file)
        desk.tried.changed.connect(self._show_file)
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
        steps = self.desk.steps
        return [
            Action("file.new", "New", self.new, "File", 10, ("Ctrl+N",)),
            Action("file.open", "Open…", self.open, "File", 10, ("Ctrl+O",)),
            Action("file.save", "Save", self.save, "File", 20, ("Ctrl+S",)),
            Action("file.save-as", "Save as…", self.save_as, "File", 20, ("Ctrl+Shift+S",)),
            Action("file.keep", "Keep in the Collection", self.keep, "File", 20),
            Action("file.rename", "Rename…", self.rename, "File", 20, ("F2",)),
            Action("file.versions", "Earlier versions…", self.versions, "File", 20),
            Action("file.use", "Use on other clips…", self.use, "File", 40, ("Ctrl+U",)),
            Action("file.memory", "Memory for pictures…", self.choose_memory, "File", 80),
            Action("file.caches", "Empty the caches", self.empty_caches, "File", 80),
            Action("file.quit", "Quit", self.close, "File", 90, ("Ctrl+Q",)),
            Action("edit.undo", "Undo", steps.undo, "Edit", 0, ("Ctrl+Z",)),
            Action("edit.redo", "Redo", steps.redo, "Edit", 0, ("Ctrl+Shift+Z", "Ctrl+Y")),
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
                action.triggered.connect(lambda checked=False, path=path: self.open_shipped(path))

    # Places and themes

    def go_to(self, number: int) -> None:
        """Shows one of the five places."""
        before = self.places.currentWidget()
        self.places.setCurrentIndex(number)
        place = self._shown
        if isinstance(before, Place) and before is not place:
            before.leave()
        self.menus.show_for(place)
        self.bar.show_place(number)
        place.setFocus()
        self._show_words()

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
        freed = caches.empty([clip.source.path for clip in self.desk.tried.clips.values()])
        self.desk.workers.store.clear()
        self.desk.messages.told.emit(f"The caches are empty; that freed {size_label(freed)}.")

    @property
    def _shown(self) -> Place:
        found = self.places.currentWidget()
        if not isinstance(found, Place):
            raise TypeError("what the window shows is no place")
        return found

    # Files

    def new(self) -> None:
        """A new wrinkle."""
        if self._may_leave():
            self.desk.document.start_new()

    def open(self) -> None:
        """Asks for a wrinkle file and opens it."""
        if not self._may_leave():
            return
        folder = self._preferences.folder or str(library.own_folder())
        name, _ = QFileDialog.getOpenFileName(self, "Open a wrinkle", folder, _FILTER)
        if name:
            self.open_file(Path(name))

    def open_file(self, path: Path) -> bool:
        """Opens a wrinkle file; on a fault what is open stays untouched."""
        if not self.desk.document.open(path):
            return False
        self._preferences.folder = str(path.parent)
        return True

    def open_shipped(self, path: Path) -> None:
        """Opens a shipped wrinkle as a new document on the clips that are there."""
        if self._may_leave():
            self.desk.document.open_copy(read(path))

    def save(self) -> bool:
        """Saves to the file, or asks for one."""
        document = self.desk.document
        if document.path is None:
            return self.save_as()
        if document.changed_outside:
            answer = ask(
                self,
                "Changed by another program",
                f"{document.path.name} was written by another program since it was opened here.",
                Buttons.Save | Buttons.No | Buttons.Cancel,
                Buttons.No,
                {Buttons.Save: "Write over it", Buttons.No: "Save under another name"},
            )
            if answer != Buttons.Save:
                return answer == Buttons.No and self.save_as()
        return document.save(document.path)

    def save_as(self) -> bool:
        """Asks for a file and saves to it."""
        folder = Path(self._preferences.folder or library.own_folder())
        if not self._preferences.folder:
            # Where it cannot be made the person chooses another one.
            with suppress(OSError):
                folder.mkdir(parents=True, exist_ok=True)
        proposal = folder / f"{self.desk.document.wrinkle.name}{SUFFIX}"
        name, _ = QFileDialog.getSaveFileName(self, "Save the wrinkle", str(proposal), _FILTER)
        if not name:
            return False
        path = Path(name)
        path = path if path.suffix == SUFFIX else path.with_name(path.name + SUFFIX)
        self._preferences.folder = str(path.parent)
        return self.desk.document.save(path)

    def keep(self) -> None:
        """Saves the wrinkle in the Collection under its own name; it is open from there then."""
        document = self.desk.document
        try:
            path = Shelves().keep(document.bundle())
        except InputError as fault:
            self.desk.messages.faulted.emit(str(fault))
            return
        document.save(path)

    def versions(self) -> None:
        """Lists the last saved versions of the open file."""
        path = self.desk.document.path
        found = versions(path) if path is not None else []
        dialog = VersionsDialog(path.name if path is not None else "", found, self)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.wanted.connect(self._take_back)
        dialog.comparisonWanted.connect(self.compare_version)
        dialog.open()

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

    def _take_back(self, version: Version) -> None:
        try:
            self.desk.document.put_back(f"version of {day_and_time(version.when)}", version.read())
        except InputError as fault:
            self.desk.messages.faulted.emit(str(fault))

    def offer(self, left: Sequence[LeftWork]) -> LeftWorkDialog:
        """Offers work that a program left which ended without asking."""
        dialog = LeftWorkDialog(left, self)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.wanted.connect(self._bring_back)
        dialog.open()
        return dialog

    def _bring_back(self, left: LeftWork) -> None:
        if not self._may_leave():
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

    def rename(self) -> None:
        """Asks for another name of the wrinkle."""
        name, taken = QInputDialog.getText(
            self, "Rename", "Name of the wrinkle", text=self.desk.document.wrinkle.name
        )
        if taken:
            self.desk.document.edit("name", lambda w: wrinkle_edits.rename(w, name))

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
        if isinstance(wanted, UseWanted):
            self._shown.leave()
            self.use_dialog(wanted).show()
            return
        if not self._may_leave():
            return
        document = self.desk.document
        if wanted.as_copy or wanted.path.is_dir():
            try:
                document.open_copy(read(wanted.path))
            except InputError as fault:
                self.desk.messages.faulted.emit(str(fault))
                return
        elif not self.open_file(wanted.path):
            return
        self.go_to(FIRST_SHOWN)
        self.desk.trial.set_choices(possible(document.wrinkle, wanted.choices))

    def _may_leave(self) -> bool:
        """Whether the open document may go: saved, or given up by its owner."""
        document = self.desk.document
        if not document.unsaved:
            return True
        answer = ask(
            self,
            "Unsaved changes",
            f"{document.wrinkle.name} has changes that are not saved.",
            Buttons.Save | Buttons.Discard | Buttons.Cancel,
            Buttons.Save,
        )
        if answer == Buttons.Save:
            return self.save()
        return answer == Buttons.Discard

    # What is said

    def show_keys(self) -> None:
        """The sheet of keys."""
        rows = [
            _key_row(action.text(), f"<b>{action.shortcut().toString()}</b>")
            for action in self.menus.actions.values()
            if not action.shortcut().isEmpty()
        ]
        for place in self._places.values():
            rows += [_key_row(x.label, f"<b>{x.key}</b> (held)") for x in place.held_keys()]
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
        document, steps = self.desk.document, self.desk.steps
        name = document.wrinkle.name
        self.bar.show_file(name, document.unsaved)
        self.setWindowTitle(f"{name}{' •' if document.unsaved else ''} — Wrinkle")
        for action, word, label in (
            (self.menus.actions["edit.undo"], "Undo", steps.undo_label),
            (self.menus.actions["edit.redo"], "Redo", steps.redo_label),
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
        if not self._ended and not self._may_leave():
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
