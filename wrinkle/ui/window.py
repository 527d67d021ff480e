"""The window frames the places: menus with their keys, what stands over and under them."""

from __future__ import annotations

from functools import partial
from typing import Any

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QCloseEvent, QColor, QKeyEvent
from PyQt6.QtWidgets import QApplication, QMainWindow, QVBoxLayout, QWidget

from wrinkle.ui import icons
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.document import Document
from wrinkle.ui.dialogs.comparing_versions import compare_version
from wrinkle.ui.dialogs.finder import Owners
from wrinkle.ui.dialogs.using import use_dialog
from wrinkle.ui.files.document_file import DocumentFile, files_of
from wrinkle.ui.files.taking_back import take_back
from wrinkle.ui.frame.document_drops import DocumentDrops
from wrinkle.ui.frame.file_menus import fill_recent, fill_shipped
from wrinkle.ui.frame.head import WindowHead
from wrinkle.ui.frame.owning import owners_of
from wrinkle.ui.frame.shown_places import ShownPlaces
from wrinkle.ui.frame.standing import handles_as_left, keep_standing, stand_as_left
from wrinkle.ui.frame.status_line import StatusLine
from wrinkle.ui.frame.text_wheel import TextWheel
from wrinkle.ui.frame.whole_screen import WholeScreen
from wrinkle.ui.help.taking_up import take_up
from wrinkle.ui.help.what_is_this import AskedWhat
from wrinkle.ui.place import ChecksWanted, Place, UseWanted, WorksOn
from wrinkle.ui.places import FIRST_SHOWN, PLACES
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.router import Router
from wrinkle.ui.shared.colour_picking import ColourPicking
from wrinkle.ui.shared.focus_ring import FocusRing
from wrinkle.ui.shared.held_space import HeldSpace
from wrinkle.ui.shared.own_keys import OwnKeys
from wrinkle.ui.theme import ThemeChoice, unstyled
from wrinkle.ui.use.use_dialog import UseDialog
from wrinkle.ui.window_actions import window_actions


class Window(QMainWindow):
    """The application's window: it frames the places, and knows what they say of themselves.

    Attributes:
        desk: what the places work on.
        files: the file of each document.
        head: what stands over the places.
        menus: all that can be done.
        places: one of them is shown.
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
        self._ended = False
        self.setWindowIcon(icons.application_icon())
        self.setMinimumSize(960, 640)
        self.resize(1280, 800)
        preferences.serve(desk)
        with unstyled():
            self.files = files_of(desk, self)
            self.router = Router(self.files)
            self.places = ShownPlaces(desk, self.router)
            self.menus = Menus(self, self.places.make_all)
            self._fill_menus()
            self._take_in(FIRST_SHOWN, self.places.shown)
            self.places.made.connect(self._take_in)
            self.head = WindowHead(desk, self.places, self.files, self.menus)
            self.status = StatusLine()
            self._whole_screen = WholeScreen(self, self.head)
            self._lay_out()
        self._connect()
        stand_as_left(self, preferences)
        self.places.go_to(FIRST_SHOWN)

    @property
    def file(self) -> DocumentFile:
        """That of the document that the shown place works on."""
        return self.files[self.places.works_on]

    @property
    def owners(self) -> Owners:
        """How what belongs elsewhere is reached."""
        return owners_of(self.places, self.files)

    def _fill_menus(self) -> None:
        self.menus.set_keys(self.preferences.keys)
        self.menus.add(window_actions(self, self, self.desk, self.preferences), -1)
        self.menus.submenu(
            "file.open", "Open a recent file", partial(fill_recent, self.router, self.preferences)
        )
        self.menus.submenu(
            "file.open", "Open a shipped wrinkle", partial(fill_shipped, self.router, self.desk)
        )

    def _take_in(self, key: str, place: Place) -> None:
        """What can be done in a place stands in the menus; its handles stand as they were left."""
        actions = ((place, action) for action in place.actions_here())
        self.menus.add(actions, list(PLACES).index(key))
        place.bind(self.menus)
        handles_as_left(key, place, self.preferences)

    def _lay_out(self) -> None:
        middle = QWidget()
        layout = QVBoxLayout(middle)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self.head)
        layout.addWidget(self.places, 1)
        self.setCentralWidget(middle)
        self.setStatusBar(self.status)

    def _connect(self) -> None:
        places, status, told = self.places, self.status, self.desk.messages.told
        places.arrived.connect(self._show_document)
        places.worksOnChanged.connect(self._show_document)
        places.said.connect(lambda: status.show_words(places.shown.words(), places.shown.facts()))
        places.wholeScreen.connect(self._whole_screen.show)
        self.head.titled.connect(self.setWindowTitle)
        self.head.bar.checksWanted.connect(
            lambda: self.router.pass_on(ChecksWanted(places.works_on))
        )
        self.router.add(UseWanted, self.use)
        for file in self.files.values():
            for noted in (file.document.opened, file.document.saved):
                noted.connect(partial(self._note_recent, file.document))
            file.comparisonWanted.connect(self._compare)
        told.connect(status.tell)
        for refused in (self.desk.messages.faulted, self.router.refused, self.menus.refused):
            refused.connect(status.tell_fault)
        steps = self.head.first_steps
        steps.reached.connect(self.preferences.reach_step)
        steps.said.connect(status.tell)
        steps.wanted.connect(self.take_first_steps)
        status.copied.connect(lambda: told.emit("The details are on the clipboard."))
        AskedWhat(self)
        OwnKeys(self)
        HeldSpace(self)
        DocumentDrops(self, self.router)
        TextWheel(self, self.preferences).turned.connect(self._resize_text)
        self.focus_ring = FocusRing(self)
        picking = self.picking = ColourPicking(self)
        picking.offers = self._main_colours
        picking.begun.connect(
            lambda: told.emit(
                "Press a colour on a picture, or draw a square for its mean; Escape gives up."
            )
        )

    def _main_colours(self) -> list[QColor]:
        """The five main colours of the clips on the Bench."""
        return [QColor(*(int(x) for x in one)) for one in self.desk.clip_colours.found]

    # What is asked of the window

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
        for place in self.places:
            place.themed()

    def take_first_steps(self) -> None:
        """The guide goes on where it was left, or begins on a new wrinkle and the demo's clips."""
        may_go = self.files[WorksOn.WRINKLE].may_leave
        take_up(self.head.first_steps, self.desk, self.preferences.first_step, may_go)

    def use(self, wanted: UseWanted | None = None) -> UseDialog:
        """Opens the dialog that uses a wrinkle on other clips, by default the open one."""
        self.places.shown.leave()
        dialog = use_dialog(self.desk, wanted, self)
        dialog.show()
        return dialog

    def take_cut_back(self) -> None:
        """Takes what was changed of the open cut back to the piece, and goes there."""
        if take_back(self.desk, self):
            self.places.go_to("cutlist")

    def end(self) -> None:
        """Closes without asking: the program is ended from outside."""
        self._ended = True
        self.close()

    def _compare(self, version: object) -> None:
        self.places.shown.leave()
        compare_version(self.desk, version, self)  # type: ignore[arg-type]

    def _show_document(self) -> None:
        """The shown place works on another document."""
        self.menus.show_for(self.places.shown, self.file)
        self.head.show_document()

    def _note_recent(self, document: Document[Any, Any], *saved: object) -> None:
        if document.path is not None:
            self.preferences.note_recent(document.path)

    def _resize_text(self, per_cent: int) -> None:
        self.apply_look()
        self.status.tell(f"Text at {per_cent} %.")

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        picking = self.picking
        if picking.active and event is not None and event.key() == Qt.Key.Key_Escape:
            picking.take(None)
            return
        if event is None or event.isAutoRepeat() or not self.places.shown.hold(event.key(), True):
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        if event is None or event.isAutoRepeat() or not self.places.shown.hold(event.key(), False):
            super().keyReleaseEvent(event)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if event is None:
            return
        may_leave = all(x.may_leave() for x in (*self.places, *self.files.values()))
        if not self._ended and not may_leave:
            event.ignore()
            return
        for dialog in self.findChildren(UseDialog):
            dialog.done(0)
        self.head.first_steps.end()
        keep_standing(self, self.places, self.preferences)
        for place in self.places:
            place.close_down()
        self.desk.workers.stop()
        self.closed.emit()
        event.accept()
