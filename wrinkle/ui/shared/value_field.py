"""A field for a number or a pair: typed with arithmetic, dragged sideways, or stepped."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent, QWheelEvent
from PyQt6.QtWidgets import QLineEdit, QWidget

from wrinkle.core.errors import InputError
from wrinkle.core.motion.formula import calculate
from wrinkle.core.motion.values import Value, parts
from wrinkle.ui.shared.plain_text import tip

_DRAG_START = 4
_STEPS = {Qt.Key.Key_Up: 1.0, Qt.Key.Key_Down: -1.0}
_PIXELS_A_STEP = 3


@dataclass(frozen=True)
class FieldFormat:
    """How a value is written.

    Attributes:
        factor: the shown number divided by the stored one.
        suffix: written after the number.
        decimals: at most so many are shown.
        step: of one notch, in stored units.
        linked: a pair of equal numbers is shown and typed as one.
    """

    factor: float = 1.0
    suffix: str = ""
    decimals: int = 2
    step: float = 1.0
    linked: bool = False


class ValueField(QLineEdit):
    """Shows a value; says what a person makes of it.

    Signals:
        changing: the value during a drag, relative steps already added.
        committed: the value that was typed, or at the end of a drag.
        abandoned: a drag was given up with Escape.
        faulted: one sentence on what was typed wrong.
        formulaTyped: a formula was typed after an equals sign.
    """

    changing = pyqtSignal(object)
    committed = pyqtSignal(object)
    abandoned = pyqtSignal()
    faulted = pyqtSignal(str)
    formulaTyped = pyqtSignal(str)

    def __init__(self, style: FieldFormat, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._format = style
        self._value: Value = 0.0
        self._formula: str | None = None
        self._about = ""
        self._press: float | None = None
        self._pressed_value: Value = 0.0
        self._dragging = False
        self._editing = False
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        # A press may begin a drag: only its release gives the field the focus.
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.SizeHorCursor)
        self.returnPressed.connect(self._take_typed)

    def describe(self, about: str) -> None:
        """Says what the field is for; a fault takes the tooltip's place for a while."""
        self._about = about
        self.setToolTip(tip(about))

    @property
    def value(self) -> Value:
        """The value that is shown."""
        return self._value

    def set_value(self, value: Value) -> None:
        """Shows a value; what is being typed is left alone."""
        self._value = value
        if not self._editing:
            self._show()

    def set_formula(self, text: str | None) -> None:
        """Shows a formula instead of a value."""
        if text != self._formula:
            self._formula = text
            if not self._editing:
                self._show()

    def show_fault(self, typed: str, fault: str) -> None:
        """Keeps what was typed wrong, marked and with the reason as tooltip, to be mended."""
        self._editing = True
        self.setText(typed)
        self._mark_fault(True)
        self.setToolTip(tip(fault))

    def text_of(self, value: Value) -> str:
        """A value as it is written."""
        numbers = parts(value)
        if self._format.linked and len(set(numbers)) == 1:
            numbers = numbers[:1]
        written = [self._number(x) for x in numbers]
        return ", ".join(written) + self._format.suffix

    def _number(self, number: float) -> str:
        shown = round(number * self._format.factor, self._format.decimals)
        text = f"{shown:.{self._format.decimals}f}"
        if "." in text:
            text = text.rstrip("0").rstrip(".")
        return "0" if text in ("-0", "") else text.replace("-", "−")

    def _show(self) -> None:
        if self.property("fault"):
            self._mark_fault(False)
            self.setToolTip(tip(self._about))
        text = self.text_of(self._value) if self._formula is None else f"= {self._formula}"
        if text != self.text():
            self.setText(text)
            self.setCursorPosition(0)

    def _take_typed(self) -> None:
        typed = self.text().strip()
        if typed.startswith("="):
            self._editing = False
            self._mark_fault(False)
            if typed[1:].strip() != (self._formula or ""):
                self.formulaTyped.emit(typed[1:].strip())
            if not self.property("fault"):
                self._show()
            self.selectAll()
            return
        try:
            value = self._read(self.text())
        except InputError as fault:
            self.show_fault(self.text(), str(fault))
            self.faulted.emit(str(fault))
            return
        self._editing = False
        if value != self._value or self._formula is not None:
            self.committed.emit(value)
        self._show()
        self.selectAll()

    def _read(self, text: str) -> Value:
        cleaned = text.replace(self._format.suffix.strip(), "") if self._format.suffix else text
        numbers = [calculate(word) / self._format.factor for word in cleaned.split(",")]
        if not isinstance(self._value, tuple):
            if len(numbers) != 1:
                raise InputError("Write one number here.")
            return numbers[0]
        if len(numbers) == 1 and self._format.linked:
            return (numbers[0], numbers[0])
        if len(numbers) != 2:
            raise InputError("Write two numbers with a comma between them.")
        return (numbers[0], numbers[1])

    def _mark_fault(self, fault: bool) -> None:
        if bool(self.property("fault")) != fault:
            self.setProperty("fault", fault)
            style = self.style()
            if style is not None:
                style.unpolish(self)
                style.polish(self)

    def _moved(self, steps: float, coarse: bool, fine: bool) -> Value:
        change = steps * self._format.step * (10 if coarse else 0.1 if fine else 1)
        first, *others = parts(self._pressed_value)
        if not others:
            return first + change
        both = self._format.linked and first == others[0]
        return (first + change, others[0] + (change if both else 0.0))

    # Events

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        if event.button() == Qt.MouseButton.LeftButton and not self.hasFocus():
            self._press = event.position().x()
            self._pressed_value = self._value
            self._dragging = False
            event.accept()
            return
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._press is None:
            super().mouseMoveEvent(event)
            return
        distance = event.position().x() - self._press
        if not self._dragging and abs(distance) < _DRAG_START:
            return
        self._dragging = True
        keys = event.modifiers()
        coarse = bool(keys & Qt.KeyboardModifier.ShiftModifier)
        fine = bool(keys & Qt.KeyboardModifier.ControlModifier)
        self.changing.emit(self._moved(int(distance / _PIXELS_A_STEP), coarse, fine))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self._press is None:
            super().mouseReleaseEvent(event)
            return
        self._press = None
        if self._dragging:
            self._dragging = False
            self.committed.emit(self._value)
        else:
            self.setFocus(Qt.FocusReason.MouseFocusReason)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self._editing = True
        self.setCursor(Qt.CursorShape.IBeamCursor)
        self.selectAll()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self.setCursor(Qt.CursorShape.SizeHorCursor)
        if self._editing:
            self._take_typed()
            self._editing = False
            self._show()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            if self._dragging:
                self._press, self._dragging = None, False
                self.abandoned.emit()
            self._editing = False
            self._show()
            self.clearFocus()
            return
        if event is not None and event.key() in _STEPS and not self.property("fault"):
            self._step(_STEPS[Qt.Key(event.key())], event.modifiers())
            return
        super().keyPressEvent(event)
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            # Return takes the value; it must not press a dialog's button as well.
            event.accept()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is None or not self.hasFocus():
            if event is not None:
                event.ignore()
            return
        self._step(event.angleDelta().y() / 120, Qt.KeyboardModifier.NoModifier)

    def _step(self, steps: float, keys: Qt.KeyboardModifier) -> None:
        """So many steps on from the value that is shown."""
        self._pressed_value = self._value
        self._editing = False
        coarse = bool(keys & Qt.KeyboardModifier.ShiftModifier)
        fine = bool(keys & Qt.KeyboardModifier.ControlModifier)
        self.committed.emit(self._moved(steps, coarse, fine))
        self._editing = True
        self.selectAll()


def number_of(value: object) -> float:
    """The number that a field told, or the first one of a pair."""
    return parts(value)[0] if isinstance(value, float | int | tuple) else 0.0
