"""The window's frame: bar, places, menus with their keys, status line."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QAction, QActionGroup, QCloseEvent, QKeyEvent, QKeySequence
from PyQt6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QComboBox,
    QFileDialog,
    QInputDialog,
    QLabel,
    QMainWindow,
    QMenu,
    QMessageBox,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from wrinkle import __version__, library
from wrinkle.core.design import wrinkle_edits
from wrinkle.core.design.archive import SUFFIX, read
from wrinkle.core.design.layer_copies import PASTED
from wrinkle.core.design.mirroring import Mirror
from wrinkle.core.design.sources import TreatmentSource
from wrinkle.ui import icons, theme
from wrinkle.ui.bench.bench import Bench
from wrinkle.ui.bench.layer_actions import LayerActions
from wrinkle.ui.bench.pasting import Pasting
from wrinkle.ui.bench.pin_actions import PinActions
from wrinkle.ui.collection.collection import Collection
from wrinkle.ui.copy_dialog import CopyDialog
from wrinkle.ui.place_bar import PLACES, PlaceBar
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.retime_dialog import RetimeDialog
from wrinkle.ui.session import Session
from wrinkle.ui.shared.picture_view import frame_label
from wrinkle.ui.theme import ThemeChoice
from wrinkle.ui.use_dialog import UseDialog

BENCH = 1
_FILTER = f"Wrinkles (*{SUFFIX})"


class Window(QMainWindow):
    """The application's window."""

    def __init__(self, session: Session, preferences: Preferences) -> None:
        super().__init__()
        self.session = session
        self._preferences = preferences
        self.setWindowIcon(icons.application_icon())
        self.setMinimumSize(960, 640)
        self.resize(1280, 800)
        self.bench = Bench(session)
        self.pins = PinActions(session, self)
        self.layers = LayerActions(session, self)
        self.pasting = Pasting(session, self.bench.stack)
        self.places = QStackedWidget()
        self.collection = Collection(session)
        built = {"Bench": self.bench, "Collection": self.collection}
        for place in PLACES:
            self.places.addWidget(built.get(place.name) or _to_come(place.holds))
        self.actions_by_name: dict[str, QAction] = {}
        self._make_menus()
        self.bar = PlaceBar(self.actions_by_name["Undo"], self.actions_by_name["Redo"])
        self.bar.placeChosen.connect(self.go_to)
        middle = QWidget()
        layout = QVBoxLayout(middle)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self.bar)
        layout.addWidget(self.places, 1)
        self.setCentralWidget(middle)
        self._what = QLabel()
        self._facts = QLabel()
        status = self.statusBar()
        if status is not None:
            status.setSizeGripEnabled(False)
            status.addWidget(self._what, 1)
            status.addPermanentWidget(self._facts)
        session.fileChanged.connect(self._show_file)
        session.workChanged.connect(self._show_facts)
        session.playheadChanged.connect(self._show_facts)
        session.selectionChanged.connect(self._show_facts)
        session.told.connect(self._tell)
        session.faulted.connect(self._fault)
        if preferences.geometry is not None:
            self.restoreGeometry(preferences.geometry)
        app = QApplication.instance()
        if app is not None:
            app.installEventFilter(self)
        self.go_to(BENCH)
        self.bench.setFocus()
        self._show_file()
        self._show_facts()

    # Menus

    def _make_menus(self) -> None:
        bench, session = self.bench, self.session
        file = self._menu("File")
        self._add(file, "New", self.new, QKeySequence.StandardKey.New)
        self._add(file, "Open…", self.open, QKeySequence.StandardKey.Open)
        shipped = file.addMenu("Open a shipped wrinkle")
        for path in library.shipped().values():
            if shipped is not None:
                name = read(path).wrinkle.name
                self._add(shipped, name, lambda checked=False, path=path: self.open_shipped(path))
        file.addSeparator()
        self._add(file, "Save", self.save, QKeySequence.StandardKey.Save)
        self._add(file, "Save as…", self.save_as, QKeySequence.StandardKey.SaveAs)
        self._add(file, "Rename…", self.rename, "F2")
        self._add(file, "Frame, rate and length…", self.set_frame, "Ctrl+T")
        file.addSeparator()
        self._add(file, "Choose the outgoing clip…", bench.outgoing.choose)
        self._add(file, "Choose the incoming clip…", bench.incoming.choose)
        self._add(file, "Use on other clips…", self.use, "Ctrl+U")
        file.addSeparator()
        self._add(file, "Quit", self.close, QKeySequence.StandardKey.Quit)
        edit = self._menu("Edit")
        self._add(edit, "Undo", session.undo, QKeySequence.StandardKey.Undo)
        redo = self._add(edit, "Redo", session.redo)
        redo.setShortcuts([QKeySequence("Ctrl+Shift+Z"), QKeySequence("Ctrl+Y")])
        edit.addSeparator()
        self._add(edit, "Set a pin here", bench.set_key_here, "K")
        self._add(edit, "Copy pins", self.pasting.copy, QKeySequence.StandardKey.Copy)
        self._add(edit, "Paste", self.pasting.paste, QKeySequence.StandardKey.Paste)
        self._add(edit, "Select all pins", self.pins.select_all, QKeySequence.StandardKey.SelectAll)
        self._add(edit, "Remove pins", session.remove_pins)
        edit.addSeparator()
        self._add(edit, "Nudge pins back", lambda: self.pins.nudge(-1), "Alt+Left")
        self._add(edit, "Nudge pins on", lambda: self.pins.nudge(1), "Alt+Right")
        self._add(edit, "Reverse pins in time", self.pins.reverse)
        self._add(edit, "Swap the sides of the lane", self.pins.swap_sides)
        self._add(edit, "Scale pins in time…", self.pins.scale_time)
        self._add(edit, "Scale pins in value…", self.pins.scale_value)
        layer = self._menu("Layer")
        self._add(layer, "Add a treatment", lambda: bench.stack.add("Treatment", TreatmentSource()))
        self._add(layer, "Add a picture or SVG…", bench.stack.choose_picture)
        self._add(layer, "Add a further clip…", bench.stack.choose_clip)
        self._add(layer, "Duplicate…", self._duplicate, "Ctrl+D")
        self._add(layer, "Group", bench.stack.group_selected, "Ctrl+G")
        self._add(layer, "Dissolve the group", self.layers.dissolve, "Ctrl+Shift+G")
        layer.addSeparator()
        self._add(layer, "Split here", self.layers.split, "S")
        self._add(layer, "Freeze here", self.layers.freeze, "Z")
        layer.addSeparator()
        self._add(layer, "Copy the layer's settings", session.copy_layer)
        paste = layer.addMenu("Paste to the selected layer")
        for what in PASTED:
            for mirror in Mirror:
                if paste is not None and (mirror is Mirror.NONE or what.mirrors):
                    name = f"{what.label}, {mirror.value}"
                    act = partial(self.layers.paste, what.key, mirror)
                    self._add(paste, name, act)
        layer.addSeparator()
        self._add(layer, "Bring forward", lambda: self.layers.shift(1), "Ctrl+Up")
        self._add(layer, "Send back", lambda: self.layers.shift(-1), "Ctrl+Down")
        self._add(layer, "Remove the layer", self.layers.remove)
        self._make_view_menu()
        help_menu = self._menu("Help")
        self._add(help_menu, "Keys", self.show_keys, "?")
        self._add(help_menu, "About Wrinkle", self.about)

    def _make_view_menu(self) -> None:
        bench, session = self.bench, self.session
        view = self._menu("View")
        for number, place in enumerate(PLACES):
            go = f"Ctrl+{number + 1}"
            self._add(view, place.name, lambda checked=False, n=number: self.go_to(n), go)
        view.addSeparator()

        def step(frames: int) -> Callable[[], None]:
            return lambda: session.step(frames)

        for name, act, key in (
            ("Loop or stop", bench.transport.toggle, "Space"),
            ("One frame back", step(-1), "Left"),
            ("One frame on", step(1), "Right"),
            ("Five frames back", step(-5), "Shift+Left"),
            ("Five frames on", step(5), "Shift+Right"),
            ("To the cut", lambda: session.set_playhead(0), "0"),
            ("First frame", lambda: session.set_playhead(session.wrinkle.first_frame), "Home"),
            ("Last frame", lambda: session.set_playhead(session.wrinkle.end_frame - 1), "End"),
            ("Previous pin", lambda: bench.to_key(-1), ","),
            ("Next pin", lambda: bench.to_key(1), "."),
            ("Motion blur on or off", bench.transport.blur.toggle, "M"),
            ("Speed in the lanes", lambda: session.show_speed(not session.speed_shown), "V"),
            ("Contact sheet", bench.transport.sheet.toggle, "G"),
            ("Split: before | after", lambda: session.show_split(not session.split), "Shift+E"),
        ):
            self._add(view, name, act, key)
        view.addSeparator()
        group = QActionGroup(self)
        for choice in ThemeChoice:
            action = self._add(
                view, f"Theme: {choice.value}", lambda checked=False, c=choice: self.set_theme(c)
            )
            action.setCheckable(True)
            action.setChecked(choice is self._preferences.theme)
            group.addAction(action)

    def _menu(self, name: str) -> QMenu:
        bar = self.menuBar()
        menu = bar.addMenu(name) if bar is not None else None
        if menu is None:
            raise RuntimeError("the window has no menu bar")
        return menu

    def _add(
        self,
        menu: QMenu,
        name: str,
        act: Callable[..., object],
        key: QKeySequence.StandardKey | str | None = None,
    ) -> QAction:
        action = QAction(name, self)
        if key is not None:
            action.setShortcut(QKeySequence(key))
        action.triggered.connect(lambda checked=False: act())
        menu.addAction(action)
        self.actions_by_name[name] = action
        return action

    # Places and themes

    def go_to(self, number: int) -> None:
        """Shows one of the five places."""
        self.places.setCurrentIndex(number)
        self.bar.show_place(number)
        if number != BENCH:
            self.bench.player.stop()

    def set_theme(self, choice: ThemeChoice) -> None:
        """Shows everything in another theme and keeps the choice."""
        self._preferences.theme = choice
        app = QApplication.instance()
        if isinstance(app, QApplication):
            theme.apply(app, choice)
        self.bench.stack.refresh()
        self.bench.timeline.refresh()

    # Files

    def new(self) -> None:
        """A new wrinkle."""
        if self._may_leave():
            self.session.start_new()

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
        if not self.session.open(path):
            return False
        self._preferences.folder = str(path.parent)
        return True

    def open_shipped(self, path: Path) -> None:
        """Opens a shipped wrinkle as a new document on the clips that are there."""
        if self._may_leave():
            self.session.open_copy(read(path))

    def save(self) -> bool:
        """Saves to the file, or asks for one."""
        path = self.session.path
        return self.session.save(path) if path is not None else self.save_as()

    def save_as(self) -> bool:
        """Asks for a file and saves to it."""
        folder = Path(self._preferences.folder or library.own_folder())
        if not self._preferences.folder:
            folder.mkdir(parents=True, exist_ok=True)
        proposal = folder / f"{self.session.wrinkle.name}{SUFFIX}"
        name, _ = QFileDialog.getSaveFileName(self, "Save the wrinkle", str(proposal), _FILTER)
        if not name:
            return False
        path = Path(name)
        path = path if path.suffix == SUFFIX else path.with_name(path.name + SUFFIX)
        self._preferences.folder = str(path.parent)
        return self.session.save(path)

    def rename(self) -> None:
        """Asks for another name of the wrinkle."""
        name, taken = QInputDialog.getText(
            self, "Rename", "Name of the wrinkle", text=self.session.wrinkle.name
        )
        if taken:
            self.session.edit("name", lambda w: wrinkle_edits.rename(w, name))

    def set_frame(self) -> None:
        """Asks for size, rate, length and shutter, and shows what would change."""
        RetimeDialog(self.session, self).exec()

    def use(self) -> None:
        """Opens the dialog that uses the wrinkle on other clips."""
        self.bench.player.stop()
        self.use_dialog().show()

    def use_dialog(self) -> UseDialog:
        """A dialog for the wrinkle as it is now."""
        dialog = UseDialog(self.session.bundle(), self)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        return dialog

    def _may_leave(self) -> bool:
        """Whether the open document may go: saved, or given up by its owner."""
        if not self.session.unsaved:
            return True
        buttons = QMessageBox.StandardButton
        answer = QMessageBox.question(
            self,
            "Unsaved changes",
            f"{self.session.wrinkle.name} has changes that are not saved.",
            buttons.Save | buttons.Discard | buttons.Cancel,
            buttons.Save,
        )
        if answer == buttons.Save:
            return self.save()
        return bool(answer == buttons.Discard)

    # Layers and pins

    def _duplicate(self) -> None:
        if self.session.layer:
            CopyDialog(self.session, self).exec()

    # What is said

    def show_keys(self) -> None:
        """The sheet of keys."""
        rows = [
            _key_row(name, f"<b>{action.shortcut().toString()}</b>")
            for name, action in self.actions_by_name.items()
            if not action.shortcut().isEmpty()
        ]
        rows.append(_key_row("Plain cut", "<b>B</b> (held)"))
        rows.append(_key_row("Without effects", "<b>E</b> (held)"))
        box = QMessageBox(self)
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
        session = self.session
        name = session.wrinkle.name
        self.bar.show_file(name, session.unsaved)
        self.setWindowTitle(f"{name}{' •' if session.unsaved else ''} — Wrinkle")
        for action, word, label in (
            (self.actions_by_name["Undo"], "Undo", session.undo_label),
            (self.actions_by_name["Redo"], "Redo", session.redo_label),
        ):
            action.setEnabled(label is not None)
            action.setToolTip(f"{word} {label}" if label else word)

    def _show_facts(self) -> None:
        session = self.session
        wrinkle = session.wrinkle
        words = [f"Frame {frame_label(session.playhead)}"]
        if session.layer:
            layer = wrinkle.layer(session.layer)
            for row in self.bench.timeline.rows:
                if row.ref.layer == layer.id:
                    owner = row.owner.text().lower()
                    words.append(f"{owner} {row.label} {row.shown}".strip())
        self._what.setText(" · ".join(words))
        size, rate = self.bench.frame_size, wrinkle.frame_rate
        count = len(wrinkle.frames)
        self._facts.setText(f"{size.label} · {rate.label} frames a second · {count} frames")

    def said(self) -> str:
        """What the status line says."""
        return self._what.text()

    def _tell(self, text: str) -> None:
        self._message(text, "quiet")

    def _fault(self, text: str) -> None:
        self._message(text, "fault")

    def _message(self, text: str, kind: str) -> None:
        self._what.setObjectName(kind)
        self._what.setText(text)
        style = self._what.style()
        if style is not None:
            style.unpolish(self._what)
            style.polish(self._what)

    # Events

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Space presses the button that has the focus; elsewhere it plays."""
        if (
            event is not None
            and event.type() == QEvent.Type.ShortcutOverride
            and isinstance(event, QKeyEvent)
            and event.key() == Qt.Key.Key_Space
            and isinstance(watched, QAbstractButton | QComboBox)
        ):
            event.accept()
            return True
        return super().eventFilter(watched, event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None or event.isAutoRepeat() or not self._compare(event.key(), True):
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        if event is None or event.isAutoRepeat() or not self._compare(event.key(), False):
            super().keyReleaseEvent(event)

    def _compare(self, key: int, held: bool) -> bool:
        """Held keys that show something else for comparison; gives whether it was one."""
        if key == Qt.Key.Key_B:
            self.session.show_plain(held)
        elif key == Qt.Key.Key_E:
            self.session.hide_effects(held)
        else:
            return False
        return True

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if event is None:
            return
        if not self._may_leave():
            event.ignore()
            return
        for dialog in self.findChildren(UseDialog):
            dialog.done(0)
        self._preferences.geometry = self.saveGeometry()
        self.bench.close_down()
        app = QApplication.instance()
        if app is not None:
            app.removeEventFilter(self)
        event.accept()


def _key_row(name: str, key: str) -> str:
    return f"<tr><td>{name}</td><td style='padding-left:24px'>{key}</td></tr>"


def _to_come(text: str) -> QWidget:
    """A place that is not built yet says what it will hold."""
    label = QLabel(text + "\n\nThis place is not built yet. The Bench is (Ctrl+2).")
    label.setObjectName("quiet")
    label.setAlignment(Qt.AlignmentFlag.AlignCenter)
    label.setWordWrap(True)
    return label
