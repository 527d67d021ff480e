"""The dials of the wrinkle, over the stack: in order, each with a field to try it at once."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QTimer, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QMenu, QToolButton, QVBoxLayout, QWidget

from wrinkle.core.design.dials import dial_edits
from wrinkle.core.design.document.dials import WRINKLE, Dial, DialValue
from wrinkle.core.design.document.driven import WRINKLE_SETTINGS, driven_label, drivers_of
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.reuse.use import AS_MADE
from wrinkle.ui.bench.dialogs.dial_dialog import DialDialog
from wrinkle.ui.bench.sections.dial_menu import offered
from wrinkle.ui.bench.sections.section import Section
from wrinkle.ui.choosing.dial_field import DialField
from wrinkle.ui.choosing.use_controls import UseControls
from wrinkle.ui.desk.parts import Trying
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.hanging_menu import hang_menu
from wrinkle.ui.shared.manual_page import about
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.shared.setting_row import NAME_WIDTH
from wrinkle.ui.text_size import Extent, keep
from wrinkle.ui.theme import make_small

_SWEEP_STEPS = 40
_SWEEP_MS = 50
_MOVING = 12
"""Settings that move and are offered, of the front layers first."""


class DialsSection(QWidget):
    """Lists the dials; what is tried with them shows in the pictures and is not saved."""

    def __init__(self, desk: Trying) -> None:
        super().__init__()
        self._desk = desk
        self.rows: list[DialRow] = []
        about(self, "dials")
        self._shown: tuple[Dial, ...] | None = None
        self._dialog: DialDialog | None = None
        self.section = Section("Dials", False, self._fill)
        self.trying = Section("Try it as a use", False, self._fill_controls)
        self._rows = QWidget()
        self._list = QVBoxLayout(self._rows)
        self._list.setContentsMargins(0, 0, 0, 0)
        self._list.setSpacing(6)
        self.empty = PlainLabel("")
        self.controls = UseControls(lengths=False, dials=False)
        self.controls.changed.connect(self._try_use)
        self.controls.changing.connect(self._try_use)
        self.controls.faulted.connect(desk.messages.faulted)
        self.add_button = QToolButton()
        self.section.hold(self.empty, self._rows, self.add_button)
        self.trying.hold(self.controls)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(10, 0, 4, 0)
        layout.setSpacing(2)
        layout.addWidget(self.section)
        layout.addWidget(self.trying)
        desk.document.opened.connect(self._forget)
        desk.document.changed.connect(self.refresh)
        desk.trial.changed.connect(self._show_tried)
        self.refresh()

    def refresh(self) -> None:
        """Shows the dials of the wrinkle; their rows are made anew only when they are others."""
        wrinkle = self._desk.document.state
        self.section.set_note(str(len(wrinkle.dials)) if wrinkle.dials else "")
        if wrinkle.dials != self._shown:
            self._make_rows(wrinkle)
        for row in self.rows:
            row.show_wrinkle(wrinkle)
        self.controls.show_wrinkle(wrinkle)
        self._show_tried()

    def edit(self, dial: str) -> DialDialog:
        """Opens the dialog in which a dial is made what it is."""
        if self._dialog is not None:
            self._dialog.close()
        self._dialog = DialDialog(self._desk, dial, self.window())
        self._dialog.finished.connect(self._forget_dialog)
        self._dialog.show()
        return self._dialog

    def _forget(self) -> None:
        """The dials of another document are no new ones."""
        self._shown = None

    def _forget_dialog(self) -> None:
        self._dialog = None

    def _fill(self, section: Section) -> None:
        self.empty.setObjectName("quiet")
        self.empty.setWordWrap(True)
        self.empty.setText(
            "No dial yet. The spool in a setting's row offers it to whoever reuses the wrinkle."
        )
        self.add_button.setObjectName("add")
        self.add_button.setText("Add a dial for…")
        menu = QMenu(self)
        menu.aboutToShow.connect(partial(self._fill_menu, menu))
        hang_menu(self.add_button, menu)
        section.rows.addWidget(self.empty)
        section.rows.addWidget(self._rows)
        section.rows.addWidget(self.add_button)

    def _fill_controls(self, section: Section) -> None:
        section.rows.addWidget(self.controls)

    def _fill_menu(self, menu: QMenu) -> None:
        """What moves comes first; then what is no setting of a layer and can be driven too."""
        menu.clear()
        wrinkle = self._desk.document.state
        moving = [
            (layer, key)
            for layer in reversed(wrinkle.layers)
            for key in layer.lanes()
            if not drivers_of(wrinkle.dials, layer.id, key)
        ]
        for layer, address in moving[:_MOVING]:
            change = partial(offered, layer=layer.id, key=address)
            try:
                change(wrinkle)
            except InputError:
                # What no dial can drive is not offered.
                continue
            words = dial_edits.setting_words(wrinkle, layer.id, address)
            words = words or layer.spec(address).label
            self._add(menu, f"{words} of {layer.name}, which moves".replace("&", "&&"), change)
        if moving:
            menu.addSeparator()
        for key, spec in WRINKLE_SETTINGS.items():
            if not drivers_of(wrinkle.dials, WRINKLE, key):
                change = partial(offered, layer=WRINKLE, key=key)
                self._add(menu, f"{spec.label} of the whole wrinkle", change)
        self._add(menu, "All that is random (a seed)", lambda w: dial_edits.offer_seed(w)[0])

    def _add(self, menu: QMenu, label: str, change: Callable[[Wrinkle], Wrinkle]) -> None:
        action = menu.addAction(label)
        if action is not None:
            action.triggered.connect(lambda: self._desk.document.edit("dial", change))

    def _make_rows(self, wrinkle: Wrinkle) -> None:
        if self._shown is not None and len(wrinkle.dials) > len(self._shown):
            # A dial that comes shows where it is.
            self.section.heading.setChecked(True)
        self._shown = wrinkle.dials
        for row in self.rows:
            row.stop()
            self._list.removeWidget(row)
            row.hide()
            row.deleteLater()
        self.rows = [DialRow(dial) for dial in wrinkle.dials]
        for row in self.rows:
            row.tried.connect(partial(self._try_dial, row.dial.id))
            row.faulted.connect(self._desk.messages.faulted)
            row.editWanted.connect(partial(self.edit, row.dial.id))
            row.changeWanted.connect(self._desk.document.edit)
            self._list.addWidget(row)
        self.empty.setVisible(not self.rows)
        self._rows.setVisible(bool(self.rows))

    def _show_tried(self) -> None:
        choices = self._desk.trial.choices
        self.trying.set_note("" if choices == AS_MADE else "not as made")
        for row in self.rows:
            row.show_value(choices.dials.get(row.dial.id, row.dial.default))
        if self.controls.choices != choices:
            self.controls.set_choices(choices)

    def _try_dial(self, dial: str, value: DialValue) -> None:
        trial = self._desk.trial
        self.controls.set_choices(trial.choices)
        self.controls.choose_dial(dial, value)
        trial.set_choices(self.controls.choices)

    def _try_use(self) -> None:
        self._desk.trial.set_choices(self.controls.choices)


class DialRow(QWidget):
    """One dial: its name, a field to try it, and what it drives.

    Signals:
        tried: a value.
        faulted: one sentence on what was typed.
        editWanted: the dial is to be opened.
        changeWanted: the name of a step, and the edit.
    """

    tried = pyqtSignal(object)
    faulted = pyqtSignal(str)
    editWanted = pyqtSignal()
    changeWanted = pyqtSignal(str, object)

    def __init__(self, dial: Dial) -> None:
        super().__init__()
        self.dial = dial
        self._step = 0
        name = ElidedLabel()
        name.setText(dial.name)
        keep(name, Extent.WIDTH, NAME_WIDTH)
        name.setToolTip(tip(dial.about or dial.name))
        self.field = DialField(dial)
        self.field.changing.connect(self.tried)
        self.field.committed.connect(self.tried)
        self.field.faulted.connect(self.faulted)
        self.sweep_button = QToolButton()
        self.sweep_button.setObjectName("toggle")
        self.sweep_button.setText("Try")
        self.sweep_button.setCheckable(True)
        self.sweep_button.setAccessibleName(f"Try {dial.name} from end to end")
        self.sweep_button.setToolTip(tip("Try it from end to end"))
        self.sweep_button.clicked.connect(self._sweep)
        self.more_button = QToolButton()
        self.more_button.setObjectName("narrow")
        self.more_button.setText("…")
        self.more_button.setAccessibleName(f"{dial.name}: more")
        self.more_button.setToolTip(tip("Open, move, remove"))
        hang_menu(self.more_button, self._menu())
        self.about = ElidedLabel()
        self.about.setObjectName("quiet")
        make_small(self.about)
        line = QHBoxLayout()
        line.setSpacing(4)
        line.addWidget(name)
        line.addWidget(self.field, 1)
        line.addWidget(self.sweep_button)
        line.addWidget(self.more_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(line)
        column.addWidget(self.about)
        self._timer = QTimer(self)
        self._timer.setInterval(_SWEEP_MS)
        self._timer.timeout.connect(self._sweep_on)
        self.sweep_button.setVisible(self.dial.along(0.0) is not None)

    def show_wrinkle(self, wrinkle: Wrinkle) -> None:
        """Says what the dial drives."""
        driven = [
            f"{driven_label(wrinkle.owners, drive)} ({drive.how.value})"
            for drive in self.dial.drives
        ]
        self.about.setText(f"{self.dial.kind} · {', '.join(driven) or 'drives nothing yet'}")

    def show_value(self, value: DialValue) -> None:
        """Shows what is tried."""
        self.field.set_value(value)

    def stop(self) -> None:
        """Nothing moves by itself any more."""
        self._timer.stop()
        self.sweep_button.setChecked(False)

    def _menu(self) -> QMenu:
        menu = QMenu(self)
        dial = self.dial.id
        for label, act in (
            ("Open…", self.editWanted.emit),
            ("Keep what is tried as the default", self._keep),
            ("Move up", partial(self._want, "order of the dials", _moved(dial, -1))),
            ("Move down", partial(self._want, "order of the dials", _moved(dial, 1))),
            ("Remove", partial(self._want, "dial removed", _removed(dial))),
        ):
            action = menu.addAction(label)
            if action is not None:
                action.triggered.connect(lambda checked, act=act: act())
        return menu

    def _want(self, step: str, change: Callable[[Wrinkle], Wrinkle]) -> None:
        self.changeWanted.emit(step, change)

    def _keep(self) -> None:
        value = self.field.value
        self._want("default of a dial", partial(_with_default, dial=self.dial.id, value=value))

    def _sweep(self, on: bool) -> None:
        self._step = 0
        if on:
            self._timer.start()
        else:
            self._end_sweep()

    def _sweep_on(self) -> None:
        """From one end to the other and back, once; then the default stands again."""
        self._step += 1
        if self._step > _SWEEP_STEPS:
            self.stop()
            self._end_sweep()
            return
        value = self.dial.along(1.0 - abs(1.0 - 2.0 * self._step / _SWEEP_STEPS))
        if value is not None:
            self.tried.emit(value)

    def _end_sweep(self) -> None:
        self.stop()
        self.tried.emit(self.dial.default)


def _moved(dial: str, by: int) -> Callable[[Wrinkle], Wrinkle]:
    return lambda wrinkle: dial_edits.move_dial(wrinkle, dial, by)


def _removed(dial: str) -> Callable[[Wrinkle], Wrinkle]:
    return lambda wrinkle: dial_edits.remove_dial(wrinkle, dial)


def _with_default(wrinkle: Wrinkle, dial: str, value: DialValue) -> Wrinkle:
    return dial_edits.change_dial(wrinkle, dial, default=value)
