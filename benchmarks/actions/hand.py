"""A hand at the window: it presses, drags and types as a person does, and counts."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path
from unittest import mock

from PyQt6 import sip
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QAction, QColor
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import (
    QApplication,
    QColorDialog,
    QComboBox,
    QDialog,
    QFileDialog,
    QInputDialog,
    QMenu,
    QScrollArea,
    QToolButton,
    QWidget,
)

from tests.ui.window_case import LEFT, drag, type_into, wait_for
from wrinkle.core.design.document.layer import Layer
from wrinkle.ui.bench.bench import Bench
from wrinkle.ui.bench.lanes.pin_bar import PinBar
from wrinkle.ui.bench.sections.dial_menu import dial_menu
from wrinkle.ui.bench.sections.effect_box import EffectBox
from wrinkle.ui.bench.sections.layer_row import LayerRow
from wrinkle.ui.bench.stack.card import LayerCard
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.pictures.source_strip import SourceStrip
from wrinkle.ui.shared.colour_field import ColourField
from wrinkle.ui.shared.picture_tiles import PictureTiles
from wrinkle.ui.window import Window

_CTRL = Qt.KeyboardModifier.ControlModifier
_NONE = Qt.KeyboardModifier.NoModifier
_HELD = {"Ctrl": _CTRL, "Shift": Qt.KeyboardModifier.ShiftModifier}
_SECTIONS = {
    "position": "Place",
    "scale": "Place",
    "rotation": "Place",
    "skew": "Place",
    "skew_axis": "Place",
    "tilt": "Depth and parent",
    "camera": "Depth and parent",
    "masks": "Masks",
    "effects": "Effects",
    "timing": "Time",
}


class Hand:
    """Counts a press, a drag, a key and a typed value as one action each.

    What is chosen in a menu or a list are two: one opens it. Scrolling is not counted. A widget
    that is not to be seen cannot be pressed.
    """

    def __init__(self, desk: Desk, window: Window) -> None:
        self._desk = desk
        self._window = window
        self._bench: Bench = window.places.place("bench")  # type: ignore[assignment]
        self.count = 0

    # What is seen

    @property
    def layer(self) -> Layer:
        """The selected layer."""
        return self._desk.document.state.layer(self._desk.looking.layer)

    @property
    def _card(self) -> LayerCard:
        QApplication.processEvents()
        return next(x for x in self._bench.stack.cards if x.layer_id == self._desk.looking.layer)

    def _seen(self, widget: QWidget) -> QWidget:
        """A widget that can be reached, once it is scrolled to."""
        above = widget.parentWidget()
        while above is not None:
            if isinstance(above, QScrollArea):
                QApplication.processEvents()
                above.ensureWidgetVisible(widget)
            above = above.parentWidget()
        QApplication.processEvents()
        if not widget.isVisible() or not widget.isEnabled():
            raise AssertionError(f"{widget.accessibleName() or widget} cannot be pressed")
        return widget

    def _unfold(self, title: str) -> None:
        heading = self._card.sections[title].heading
        if not heading.isChecked():
            self._press(heading)

    def _address(self, name: str) -> str:
        """``glow.amount`` and ``mask.feather`` are those of the last glow, of the last mask."""
        owner, _, setting = name.partition(".")
        if owner == "mask":
            return f"masks.{self.layer.masks[-1].id}.{setting}"
        used = [use for use in self.layer.effects if use.kind == owner]
        return str(used[-1].address(setting)) if used else name

    def _row(self, name: str) -> LayerRow:
        key = self._address(name)
        self._unfold(_SECTIONS.get(key.split(".")[0], "Picture"))
        if key.endswith(".jitter"):
            amount = self._row(name.removesuffix(".jitter")).amount
            assert amount is not None
            return amount
        card = self._card
        rows = [*card.rows]
        if card.effects is not None:
            rows += [x for box in card.effects.boxes if box.settings for x in box.settings.rows]
        if card.sections["Masks"].heading.isChecked():
            rows += [row for box in card.masks.boxes for row in box.rows]
        return next(row for row in rows if row.ref.key == key)

    # What is done

    def _press(self, widget: QWidget, spot: QPoint | None = None) -> None:
        QTest.mouseClick(self._seen(widget), LEFT, pos=spot or widget.rect().center())
        self.count += 1

    def _choose(self, menu: QMenu, *words: str) -> None:
        """Opens a menu, and each submenu, by a press, and presses the entry."""
        for word in words:
            self.count += 1
            menu.aboutToShow.emit()
            found = next(x for x in menu.actions() if x.text().split("\t")[0] == word)
            if found.menu() is not None:
                menu = found.menu()  # type: ignore[assignment]
            else:
                self._trigger(found)
        self.count += 1

    def _trigger(self, action: QAction) -> None:
        if not action.isEnabled():
            raise AssertionError(f"{action.text()} cannot be chosen")
        action.trigger()
        QApplication.processEvents()

    def _type(self, field: QWidget, text: str) -> None:
        field = self._seen(field)
        type_into(field, text)
        self.count += 1

    def _pick(self, box: QComboBox, word: str) -> None:
        index = box.findText(word)
        if index < 0:
            raise AssertionError(f"{word} cannot be chosen")
        self._seen(box)
        box.setCurrentIndex(index)
        box.activated.emit(index)
        QApplication.processEvents()
        self.count += 2

    def key(self, keys: str) -> None:
        """A key, or several held together, such as ``Ctrl+D``."""
        *held, last = keys.split("+")
        # A desktop does so when a dialog closes.
        self._window.activateWindow()
        QApplication.processEvents()
        self._bench.setFocus()
        modifiers = _NONE
        for word in held:
            modifiers |= _HELD[word]
        QTest.keyClick(self._bench, Qt.Key[f"Key_{last}"], modifiers)
        QApplication.processEvents()
        self.count += 1

    def length(self, frames: int) -> None:
        """As many frames of lead and of tail."""
        fields = self._bench.timeline.lengths
        self._type(fields.lead, str(frames))
        self._type(fields.tail, str(frames))

    def at(self, frame: int) -> None:
        """The playhead goes to a frame, by a press on the strip."""
        strip = self._bench.timeline.strip
        spot = QPointF(strip.axis.x(frame) + strip.axis.cell / 2.0, 40.0).toPoint()
        self._press(strip, spot)

    def select(self, name: str) -> None:
        """A layer by its card."""
        layer = next(x for x in self._desk.document.state.layers if x.name == name)
        card = next(x for x in self._bench.stack.cards if x.layer_id == layer.id)
        self._press(card, QPoint(30, 14))

    def add(self, *words: str, files: Sequence[Path] = ()) -> None:
        """A layer of a kind; where a file is asked for, it is chosen."""
        before = len(self._desk.document.state.layers)
        with _Files(files):
            self._choose(self._bench.stack.add_button.menu(), *words)
        self.count += 1 if files else 0
        wait_for(lambda: len(self._desk.document.state.layers) > before, f"{words} added")

    def treat(self, *kinds: str) -> None:
        """A treatment with effects, chosen one after the other from the list."""
        self._press(self._bench.stack.treat_button)
        self._take(kinds)

    def effects(self, *kinds: str) -> None:
        """Effects for the selected layer."""
        self._unfold("Effects")
        section = self._card.effects
        assert section is not None
        self._press(section.add_button)
        self._take(kinds)

    def _take(self, kinds: Sequence[str]) -> None:
        dialog = next(
            x for x in self._window.findChildren(QDialog) if x.isVisible() and hasattr(x, "tiles")
        )
        tiles: PictureTiles = dialog.tiles
        for number, kind in enumerate(kinds, 1):
            tiles.point_at(kind)
            entry = tiles.current
            if entry is None or entry.key != kind:
                raise AssertionError(f"{kind} is not listed")
            held = _NONE if number == len(kinds) else _CTRL
            with mock.patch.object(QApplication, "keyboardModifiers", return_value=held):
                tiles.take()
            self.count += 1
        QApplication.processEvents()
        if not sip.isdeleted(dialog) and dialog.isVisible():
            raise AssertionError("the list stays open")

    def set(self, name: str, text: str) -> None:
        """A value is typed; for a colour, in its chooser."""
        field = self._row(name).field
        if isinstance(field, ColourField):
            with mock.patch.object(QColorDialog, "getColor", return_value=QColor(text)):
                self._press(field)
            self.count += 1
        else:
            self._type(field, text)

    def pick(self, name: str, word: str) -> None:
        """One of a setting's choices."""
        self._pick(self._row(name).field, word)  # type: ignore[arg-type]

    def lane(self, name: str) -> None:
        """A setting becomes a lane, or stops being one."""
        self._press(self._row(name).lane_button)

    def jitter(self, name: str) -> None:
        """A setting trembles."""
        self._press(self._row(name).jitter_button)

    def shape(self, name: str, goes: str) -> None:
        """The lane of a setting takes another shape, from its menu."""
        key = self._address(name)
        row = next(x for x in self._bench.timeline.rows if x.ref.key == key)
        self._choose(row.length.menu(), f"Goes {goes}")

    def pin(self, name: str, index: int, feel: str = "", frame: int | None = None) -> None:
        """A pin of a lane is pressed; its feel is chosen, or its frame typed."""
        self._bench.setFocus()
        key = self._address(name)
        row = next(x for x in self._bench.timeline.rows if x.ref.key == key)
        canvas = row.canvas
        self._seen(canvas)
        geometry = canvas.geometry_now
        assert geometry is not None
        spots = sorted({(pin.time, pin.spot.x(), pin.spot.y()) for pin in geometry.pins()})
        spot = QPointF(*spots[index][1:]).toPoint()
        QTest.mouseClick(canvas, LEFT, pos=spot)
        self.count += 1
        bar = next(x for x in self._bench.findChildren(PinBar))
        if feel:
            self._pick(bar.feel, feel)
        if frame is not None:
            self._type(bar.frame, str(frame))

    def span(self, start: int | None = None, end: int | None = None) -> None:
        """The ends of the bar under the strip are dragged to frames."""
        bar = self._bench.timeline.span
        for which, frame in (("left", start), ("right", end)):
            if frame is not None:
                grip = QPointF(getattr(bar.bar(), which)(), 8.0)
                goal = QPointF(bar.axis.x(frame), 8.0)
                self._drag(bar, grip, goal)

    def _drag(self, widget: QWidget, start: QPointF, end: QPointF) -> None:
        self._seen(widget)
        drag(widget, start, end)
        QApplication.processEvents()
        self.count += 1

    def mask(self, form: str, motion: str = "") -> None:
        """A ready mask, and how it moves."""
        self._unfold("Masks")
        self._choose(self._card.masks.add_button.menu(), form)
        if motion:
            self._choose(self._card.masks.boxes[-1].motion_button.menu(), motion)

    def matte(self, cutter: str, by: str = "", inverted: bool = False) -> None:
        """The layer is cut by another one."""
        self._unfold("Matte")
        rows = {row.field.accessibleName(): row.field for row in self._card.matte.rows}
        self._pick(rows["Cut by"], cutter)  # type: ignore[arg-type]
        if by:
            self._pick(rows["By its"], by)  # type: ignore[arg-type]
        if inverted:
            self._press(rows["Matte"])

    def timing(self, name: str, value: str = "") -> None:
        """A plain row of the time: a number is typed, a button pressed."""
        self._unfold("Time")
        timing = next(
            x for x in self._card.findChildren(QWidget) if type(x).__name__ == "TimeSection"
        )
        if "." in name:
            self.set(name, value)
            return
        field = timing.plain[name].field
        if isinstance(field, QToolButton):
            self._press(field)
        else:
            self._type(field, value)

    def choose(self, name: str, under: str = "") -> None:
        """An entry of the menu bar, or of a menu in it."""
        self._trigger(self._window.menus.actions[name])
        self.count += 3 if under else 2

    def select_nth(self, kind: str, number: int) -> None:
        """One of several layers of the same name, from the back."""
        named = [x for x in self._desk.document.state.layers if x.name.startswith(kind)]
        card = next(x for x in self._bench.stack.cards if x.layer_id == named[number].id)
        self._press(card, QPoint(30, 14))

    def hide(self, name: str) -> None:
        """A layer is hidden by its button."""
        layer = next(x for x in self._desk.document.state.layers if x.name == name)
        self._press(next(x for x in self._bench.stack.cards if x.layer_id == layer.id).eye)

    def offer(self, name: str) -> None:
        """A setting becomes a dial."""
        row = self._row(name)
        self._seen(row.dial_button)
        menu = dial_menu(self._desk, row.ref.layer, row.ref.key, row)
        self._choose(menu, "Offer it as a dial of its own")

    def slide_clip(self, seconds: float) -> None:
        """The strip of a further clip is dragged so that another instant falls on the cut."""
        self._unfold("Picture")
        (strip,) = self._card.findChildren(SourceStrip)
        middle = QPointF(strip.rect().center())
        by = QPointF(-seconds / 2.0 * strip.width(), 0.0)
        self._drag(strip, middle, middle + by)

    def cut_at(self, seconds: Fraction) -> None:
        """The strip under the clip before the cut is dragged to the instant where it is cut."""
        strip = self._bench.outgoing.strip
        middle = QPointF(strip.rect().center())
        self._drag(strip, middle, QPointF(strip.x_of(seconds), middle.y()))

    def _box(self, kind: str) -> EffectBox:
        section = self._card.effects
        assert section is not None
        use = [x for x in self.layer.effects if x.kind == kind][-1]
        return next(x for x in section.boxes if x.use_id == use.id)

    def look_at(self, kind: str, layer: str) -> None:
        """An effect looks at a layer."""
        settings = self._box(kind).settings
        assert settings is not None
        assert settings.link_row is not None
        self._pick(settings.link_row.field, layer)  # type: ignore[arg-type]

    def take_palette(self, clip: str) -> None:
        """The colours of a tone map are taken from a clip."""
        settings = self._box("tone_map").settings
        assert settings is not None
        assert settings.source is not None
        self._choose(settings.source.menu(), clip)

    def later(self, name: str, frames: int) -> None:
        """All pins of the layer are selected, and dragged so many frames on by one of them."""
        self.key("Ctrl+A")
        key = self._address(name)
        row = next(x for x in self._bench.timeline.rows if x.ref.key == key)
        geometry = row.canvas.geometry_now
        assert geometry is not None
        spot = min(geometry.pins(), key=lambda pin: pin.time).spot
        self._drag(row.canvas, spot, spot + QPointF(frames * row.canvas.axis.cell, 0.0))

    def move_mask(self, across: float, down: float) -> None:
        """The mask that was added is dragged on the picture, by parts of the frame."""
        picture = self._bench.result
        area = picture.area
        # Beside its middle: that is where it is turned.
        inside = area.center() + QPointF(0.1 * area.width(), 0.0)
        self._drag(picture, inside, inside + QPointF(across * area.width(), down * area.height()))

    def follow(self) -> None:
        """The last mask is carried on through the clip, and what comes of it is waited for."""
        box = self._card.masks.boxes[-1]
        self._press(box.tools["Follow ▸"])
        wait_for(lambda: self.layer.masks[-1].path.track is not None, "the mask followed")

    def copy_chain(self) -> None:
        """The effects of the layer are copied."""
        section = self._card.effects
        assert section is not None
        self._choose(section.looks_button.menu(), "Copy the chain")

    def paste_chain(self) -> None:
        """The copied effects are pasted."""
        self._unfold("Effects")
        section = self._card.effects
        assert section is not None
        self._choose(section.looks_button.menu(), "Paste the copied chain")

    def keep_look(self, kind: str, name: str) -> None:
        """An effect of the layer is kept under a name."""
        use = next(x for x in self.layer.effects if x.kind == kind)
        section = self._card.effects
        assert section is not None
        box = next(x for x in section.boxes if x.use_id == use.id)
        with mock.patch.object(QInputDialog, "getText", return_value=(name, True)):
            self._press(box.keep_button)
        self.count += 1

    def shutter(self, angle: int) -> None:
        """The shutter of the motion blur is typed."""
        self._type(self._bench.timeline.lengths.shutter, str(angle))


class _Files:
    """Answers what asks for files."""

    def __init__(self, files: Sequence[Path]) -> None:
        names = [str(x) for x in files]
        one = names[0] if names else ""
        self._patches = [
            mock.patch.object(QFileDialog, "getOpenFileName", return_value=(one, "")),
            mock.patch.object(QFileDialog, "getOpenFileNames", return_value=(names, "")),
        ]

    def __enter__(self) -> None:
        for patch in self._patches:
            patch.start()

    def __exit__(self, *fault: object) -> None:
        for patch in self._patches:
            patch.stop()
