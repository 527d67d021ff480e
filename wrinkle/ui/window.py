"""The window's frame: bar, places, menus with their keys, status line."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from itertools import chain
from typing import Any

from PyQt6.QtCore import QEvent, Qt, pyqtSignal
from PyQt6.QtGui import (
    QCloseEvent,
    QColor,
    QDragEnterEvent,
    QDropEvent,
    QHelpEvent,
    QKeyEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import (
    QApplication,
    QMainWindow,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWhatsThis,
    QWidget,
)

from wrinkle.library.samples import DEMO_PIECE, SAMPLES
from wrinkle.ui import icons
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.cut_bar import CutBar
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.document import Document
from wrinkle.ui.desk.examiner import WRINKLE
from wrinkle.ui.dialogs.comparing_versions import compare_version
from wrinkle.ui.dialogs.finder import Owners
from wrinkle.ui.dialogs.using import use_dialog
from wrinkle.ui.files.document_file import DocumentFile, files_of
from wrinkle.ui.files.taking_back import take_back
from wrinkle.ui.help.first_steps import FirstSteps
from wrinkle.ui.help.steps import STEPS
from wrinkle.ui.help.what_is_this import explain
from wrinkle.ui.place import ChecksWanted, CutWanted, Place, PlaceWanted, UseWanted, WorksOn
from wrinkle.ui.place_bar import PlaceBar
from wrinkle.ui.places import FIRST_SHOWN, PLACES
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.router import Router
from wrinkle.ui.shared.colour_picking import ColourPicking
from wrinkle.ui.shared.drops import dropped_files, paths_of
from wrinkle.ui.shared.focus_ring import FocusRing
from wrinkle.ui.shared.held_space import HeldSpace
from wrinkle.ui.shared.manual_page import about
from wrinkle.ui.shared.own_keys import OwnKeys
from wrinkle.ui.status_line import StatusLine
from wrinkle.ui.theme import ThemeChoice
from wrinkle.ui.use.use_dialog import UseDialog
from wrinkle.ui.window_actions import fill_recent, fill_shipped, owners_of, window_actions

_ANY_HEIGHT = 16_777_215
_SAMPLED, _OFFERED = 160, 5
_TEXT_STEP = 10


class Window(QMainWindow):
    """The application's window: it frames the places, and knows what they say of themselves.

    Attributes:
        desk: what the places work on.
        files: the file of each document.
        menus: all that can be done.
        preferences: what a person chose.
        router: passes on what places ask of each other.
        status: the line at the foot.

    Signals:
        closed: nothing is open any more.
    """

    closed = pyqtSignal()

    def __init__(self, desk: Desk, preferences: Preferences) -> None:
        super().__init__()
        self.desk = desk
        self.preferences = preferences
        self._ended = self._was_maximized = False
        self.setWindowIcon(icons.application_icon())
        self.setAcceptDrops(True)
        self.setMinimumSize(960, 640)
        self.resize(1280, 800)
        preferences.serve(desk)
        self.files = files_of(desk, self)
        self.router = Router(self.files)
        self.places = QStackedWidget()
        self._places: dict[str, Place] = {key: kind.make(desk) for key, kind in PLACES.items()}
        for key, place in self._places.items():
            self.places.addWidget(place)
            self.router.add_place(key, place)
            about(place, key)
            place.said.connect(self._show_words)
            place.worksOnChanged.connect(self._show_document)
            place.wholeScreen.connect(self._show_whole)
        self.menus = Menus(self)
        self._fill_menus()
        actions = self.menus.actions
        names = {key: kind.name for key, kind in PLACES.items()}
        self.bar = PlaceBar(names, actions["edit.undo"], actions["edit.redo"])
        self.cut_bar = CutBar(self.menus)
        self.first_steps = FirstSteps(
            self.desk, lambda: self.shown_key, self.menus.expanded, self.go_to
        )
        self.status = StatusLine()
        self._lay_out()
        self._connect()
        if preferences.geometry is not None:
            self.restoreGeometry(preferences.geometry)
        self._fit_screen()
        for name, splitter in self._handles():
            state = preferences.handles(name)
            if state is not None:
                splitter.restoreState(state)
        self.go_to(FIRST_SHOWN)

    def _fit_screen(self) -> None:
        """However it was left, it does not hide its foot below the screen."""
        screen = self.screen()
        if screen is not None:
            room = screen.availableGeometry().size()
            self.resize(self.size().boundedTo(room).expandedTo(self.minimumSize()))

    def _handles(self) -> Iterator[tuple[str, QSplitter]]:
        """The handles between parts of all places, by name."""
        for key, place in self._places.items():
            for name, splitter in place.splitters().items():
                yield f"{key}.{name}", splitter

    def place(self, key: str) -> Place:
        """The place with that key."""
        return self._places[key]

    @property
    def shown(self) -> Place:
        """The place that is shown."""
        found = self.places.currentWidget()
        if not isinstance(found, Place):
            raise TypeError("what the window shows is no place")
        return found

    @property
    def shown_key(self) -> str:
        """The key of the place that is shown."""
        return next(key for key, place in self._places.items() if place is self.shown)

    @property
    def file(self) -> DocumentFile:
        """That of the document that the shown place works on."""
        return self.files[self.shown.works_on]

    @property
    def owners(self) -> Owners:
        """How what belongs elsewhere is reached."""
        return owners_of(self)

    def _fill_menus(self) -> None:
        self.menus.build(
            chain(
                window_actions(self, self, self.desk, self.preferences),
                ((x, action) for x in self._places.values() for action in x.actions_here()),
            )
        )
        self.menus.set_keys(self.preferences.keys)
        for place in self._places.values():
            place.bind(self.menus)
        self.menus.themed()
        self.menus.submenu(
            "file.open", "Open a recent file", partial(fill_recent, self.router, self.preferences)
        )
        self.menus.submenu(
            "file.open", "Open a shipped wrinkle", partial(fill_shipped, self.router, self.desk)
        )

    def _lay_out(self) -> None:
        middle = QWidget()
        layout = QVBoxLayout(middle)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self.bar)
        layout.addWidget(self.first_steps)
        layout.addWidget(self.cut_bar)
        layout.addWidget(self.places, 1)
        self.setCentralWidget(middle)
        self.setStatusBar(self.status)

    def _connect(self) -> None:
        desk = self.desk
        self.bar.placeChosen.connect(self.go_along)
        self.bar.checksWanted.connect(
            lambda: self.router.pass_on(ChecksWanted(self.shown.works_on))
        )
        self.router.add(UseWanted, self.use)
        self.router.add(PlaceWanted, lambda wanted: self.go_to(wanted.key))
        self.router.placeWanted.connect(self.go_to)
        desk.open_cut.changed.connect(self._show_cut)
        desk.examiner.changed.connect(self._show_badge)
        for file in self.files.values():
            file.changed.connect(self._show_file)
            for noted in (file.document.opened, file.document.saved):
                noted.connect(partial(self._note_recent, file.document))
            file.comparisonWanted.connect(self._compare)
        desk.tried.changed.connect(self._show_file)
        desk.messages.told.connect(self.status.tell)
        for refused in (desk.messages.faulted, self.router.refused, self.menus.refused):
            refused.connect(self.status.tell_fault)
        self.first_steps.reached.connect(self.preferences.reach_step)
        self.first_steps.said.connect(self.status.tell)
        self.first_steps.wanted.connect(self.take_first_steps)
        self.status.copied.connect(
            lambda: desk.messages.told.emit("The details are on the clipboard.")
        )
        OwnKeys(self)
        HeldSpace(self)
        self.focus_ring = FocusRing(self)
        picking = self.picking = ColourPicking(self)
        picking.offers = self._main_colours
        picking.begun.connect(
            lambda: desk.messages.told.emit(
                "Press a colour on a picture, or draw a square for its mean; Escape gives up."
            )
        )

    def _main_colours(self) -> list[QColor]:
        """The five main colours of the clips on the Bench."""
        return [QColor(*(int(x) for x in one)) for one in self.desk.clip_colours.found]

    # Places

    def go_to(self, key: str) -> None:
        """Shows the place with that key."""
        before, place = self.places.currentWidget(), self.place(key)
        self.places.setCurrentWidget(place)
        if isinstance(before, Place) and before is not place:
            before.leave()
        self.bar.show_place(key)
        if place.works_on is WorksOn.PIECE:
            self.desk.examiner.want_piece()
        self._show_document()
        place.setFocus()
        self._show_words()

    def go_along(self, key: str) -> None:
        """Shows a place, and there what is looked at now: that piece, that cut, those clips.

        What is not saved on the Bench stays there.
        """
        before, desk = self.shown, self.desk
        cut = before.seen_cut()
        if key == "checks" and before is not self.place(key):
            self.router.pass_on(ChecksWanted(before.works_on))
        elif key == "bench" and cut and not desk.document.unsaved and cut != desk.open_cut.clip:
            self.router.pass_on(CutWanted(cut))
        else:
            if before is not self.place(key):
                self.place(key).try_on(before.looked_at())
            self.go_to(key)

    def set_theme(self, choice: ThemeChoice) -> None:
        """Shows everything in another theme and keeps the choice."""
        self.preferences.theme = choice
        self.apply_look()

    def apply_look(self) -> None:
        """Shows everything as it is chosen now."""
        app = QApplication.instance()
        if isinstance(app, QApplication):
            self.preferences.apply_look(app)
        self.menus.themed()
        for place in self._places.values():
            place.themed()

    def open_menus(self) -> None:
        """The keys go to the menu bar."""
        bar = self.menuBar()
        shown = [x for x in bar.actions() if x.isVisible()] if bar is not None else []
        if bar is not None and shown:
            bar.setFocus(Qt.FocusReason.MenuBarFocusReason)
            bar.setActiveAction(shown[0])

    def take_first_steps(self) -> None:
        """The guide goes on where it was left, or begins on a new wrinkle and the demo's clips."""
        left = self.preferences.first_step
        if self.first_steps.running:
            return
        if not 0 < left < len(STEPS) or not self.desk.tried.clips:
            if not self.files[WorksOn.WRINKLE].may_leave():
                return
            left = 0
            self.desk.document.start_new()
            self.desk.tried.begin(dict(SAMPLES))
        if not self.desk.piece.state.clips:
            self.desk.piece.show_copy(DEMO_PIECE)
        self.first_steps.begin(left)

    # What places ask of the window

    def use(self, wanted: UseWanted | None = None) -> UseDialog:
        """Opens the dialog that uses a wrinkle on other clips, by default the open one."""
        self.shown.leave()
        dialog = use_dialog(self.desk, wanted, self)
        dialog.show()
        return dialog

    def _compare(self, version: object) -> None:
        self.shown.leave()
        compare_version(self.desk, version, self)  # type: ignore[arg-type]

    def take_cut_back(self) -> None:
        """Takes what was changed of the open cut back to the piece, and goes there."""
        if take_back(self.desk, self):
            self.go_to("cutlist")

    def _show_whole(self, whole: bool) -> None:
        """The place has the whole screen, or the window around it is back."""
        bar = self.menuBar()
        if bar is not None:
            # A bar that is hidden lets no keys through.
            bar.setMaximumHeight(0 if whole else _ANY_HEIGHT)
        for widget in (self.bar, self.status):
            widget.setVisible(not whole)
        self._show_cut()
        if whole:
            self._was_maximized = self.isMaximized()
            self.showFullScreen()
        elif self._was_maximized:
            self.showMaximized()
        else:
            self.showNormal()

    # What is shown

    def _show_document(self) -> None:
        """The shown place works on another document."""
        self.menus.show_for(self.shown, self.file)
        self._show_file()
        self._show_cut()
        self._show_badge()

    def _show_badge(self) -> None:
        examiner = self.desk.examiner
        keys = (WRINKLE,) if self.shown.works_on is WorksOn.WRINKLE else examiner.cuts
        known = [key for key in keys if examiner.found(key) is not None]
        self.bar.badge.show_count(examiner.open_count(known) if known else None)

    def _note_recent(self, document: Document[Any, Any], *saved: object) -> None:
        if document.path is not None:
            self.preferences.note_recent(document.path)

    def _show_cut(self) -> None:
        words = self.desk.open_cut.words
        self.cut_bar.show_cut(words, self.desk.piece.name)
        around = not self.isFullScreen() or self.bar.isVisible()
        on_wrinkle = self.shown.works_on is WorksOn.WRINKLE
        self.cut_bar.setVisible(bool(words) and on_wrinkle and around)

    def _show_file(self) -> None:
        document = self.file.document
        self.bar.show_file(document.name, document.unsaved)
        self.setWindowTitle(f"{document.name}{' •' if document.unsaved else ''} — Wrinkle")
        self.menus.refresh("edit.undo", "edit.redo")

    def _show_words(self) -> None:
        self.status.show_words(self.shown.words(), self.shown.facts())

    # Events

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        """A document can be dropped wherever nothing else takes it."""
        paths = paths_of(event.mimeData()) if event is not None else []
        if event is not None and any(self.router.opens(path) for path in paths):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        for path in dropped_files(event):
            if self.router.opens(path):
                self.router.open(path)
                return

    def event(self, event: QEvent | None) -> bool:
        """Asked what something is that says nothing by itself, its tooltip is said."""
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.WhatsThis:
            QWhatsThis.leaveWhatsThisMode()
            return explain(QApplication.widgetAt(event.globalPos()), event.globalPos())
        return super().event(event)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """With Ctrl, where nothing else takes it, text becomes smaller or larger."""
        if event is None or not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            super().wheelEvent(event)
            return
        event.accept()
        step = _TEXT_STEP if event.angleDelta().y() > 0 else -_TEXT_STEP
        before, self.preferences.text = self.preferences.text, self.preferences.text + step
        if self.preferences.text != before:
            self.apply_look()
            self.status.tell(f"Text at {self.preferences.text} %.")

    def end(self) -> None:
        """Closes without asking: the program is ended from outside."""
        self._ended = True
        self.close()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        picking = self.picking
        if picking.active and event is not None and event.key() == Qt.Key.Key_Escape:
            picking.take(None)
            return
        if event is None or event.isAutoRepeat() or not self.shown.hold(event.key(), True):
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        if event is None or event.isAutoRepeat() or not self.shown.hold(event.key(), False):
            super().keyReleaseEvent(event)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if event is None:
            return
        may_leave = all(place.may_leave() for place in self._places.values()) and all(
            file.may_leave() for file in self.files.values()
        )
        if not self._ended and not may_leave:
            event.ignore()
            return
        for dialog in self.findChildren(UseDialog):
            dialog.done(0)
        self.first_steps.end()
        self.preferences.geometry = self.saveGeometry()
        self.preferences.keep_handles(
            {name: splitter.saveState() for name, splitter in self._handles()}
        )
        for place in self._places.values():
            place.close_down()
        self.desk.workers.stop()
        self.closed.emit()
        event.accept()
