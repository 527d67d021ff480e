"""When the selected layer is there, as a bar under the strip whose ends are dragged."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import QLineF, QRectF, QSize, Qt
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import lane_shapes
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.frame_axis import FrameAxis
from wrinkle.ui.shared.frame_canvas import FrameCanvas
from wrinkle.ui.shared.key_hand import KeyHand
from wrinkle.ui.shared.picture_view import frame_label
from wrinkle.ui.theme import active

_HEIGHT = 24
_REACH = 12.0
_THICK = 9
START, WHOLE, END = _GRIPS = ("start", "whole", "end")


class SpanBar(FrameCanvas):
    """The span of the selected layer; its middle moves it as a whole."""

    def __init__(self, desk: Designing) -> None:
        super().__init__("When the layer is there")
        self._desk = desk
        self._grip: str | None = None
        self._chosen = WHOLE
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        KeyHand(self, self, desk.messages.told.emit)
        self._press = 0
        self.setFixedHeight(_HEIGHT)
        self.setMouseTracking(True)
        self.setToolTip("When the selected layer is there: drag an end, or the whole bar")
        self._shown: tuple[QRectF | None, FrameAxis] | None = None
        desk.document.changed.connect(self._refresh)
        desk.looking.selectionChanged.connect(self._refresh)
        self._refresh()

    def _refresh(self) -> None:
        self.set_frames(self._desk.document.state.frames)
        shown = (self.bar() if self._desk.looking.layer else None, self.axis)
        if shown != self._shown:
            self._shown = shown
            self.update()

    def bar(self) -> QRectF:
        """Where the span is drawn."""
        first, end = self._span()
        axis = self.axis
        return QRectF(axis.x(first), 7, axis.x(end) - axis.x(first), _THICK)

    def sizeHint(self) -> QSize:
        return QSize(400, _HEIGHT)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, axis = active(), self.axis
        if self._desk.looking.layer:
            bar = self.bar()
            seam = axis.x(0)
            for role, part in (
                ("outgoing", QRectF(bar.left(), bar.top(), max(0, seam - bar.left()), 9)),
                ("incoming", QRectF(max(seam, bar.left()), bar.top(), bar.right() - seam, 9)),
            ):
                part = part.intersected(bar)
                if not part.isEmpty():
                    painter.fillRect(part, theme.colour(role, 0.35))
            for grip, x in ((START, bar.left()), (END, bar.right())):
                # The ends are hems: two short stitches.
                chosen = self.hasFocus() and self._chosen in (grip, WHOLE)
                painter.setPen(QPen(theme.colour("ink"), 3.0 if chosen else 1.2))
                painter.drawLine(QLineF(x, bar.top() - 1.0, x, bar.bottom() + 1.0))
        self.paint_seam(painter)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        self._grip = self._grip_at(event.position().x())
        self._press = self._edge_at(event.position().x())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        x = event.position().x()
        if self._grip is None or not event.buttons() & Qt.MouseButton.LeftButton:
            grip = self._grip_at(x)
            shapes = {None: Qt.CursorShape.ArrowCursor, WHOLE: Qt.CursorShape.OpenHandCursor}
            self.setCursor(shapes.get(grip, Qt.CursorShape.SizeHorCursor))
            return
        self._pull(self._grip, self._edge_at(x) - self._press)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self._grip is not None:
            self._grip = None
            self.put()

    def _pull(self, grip: str, by: int) -> None:
        """Shows an end, or all of it, so many frames from where it was."""
        layer = self._desk.looking.layer

        def change(wrinkle: Wrinkle) -> Wrinkle:
            rate = wrinkle.frame_rate
            first, end = self._span(wrinkle)
            if grip == START:
                first = min(first + by, end - 1)
            elif grip == END:
                end = max(end + by, first + 1)
            else:
                first, end = first + by, end + by
            return lane_shapes.set_span(wrinkle, layer, rate.seconds(first), rate.seconds(end))

        self._desk.document.preview(change)

    # By keys

    def choose(self, by: int) -> str:
        """Its start, all of it, or its end."""
        place = _GRIPS.index(self._chosen) + by
        self._chosen = _GRIPS[min(max(place, 0), len(_GRIPS) - 1)]
        self.update()
        return self._words()

    def take(self) -> str:
        """Takes hold of what is chosen of it."""
        return self._words()

    def carry(self, across: int, up: int) -> str:
        """By so many frames."""
        self._pull(self._chosen, across)
        return self._words()

    def put(self) -> None:
        """What is shown is one step."""
        self._desk.document.edit("span of a layer")

    def let_go(self) -> None:
        """The layer is there as before."""
        self._desk.document.abandon()

    def _words(self) -> str:
        if not self._desk.looking.layer:
            return ""
        first, end = self._span()
        what = {START: "Start of the layer", END: "End of the layer"}.get(self._chosen, "The layer")
        return f"{what}: there from {frame_label(first)} to {frame_label(end - 1)}"

    def _span(self, wrinkle: Wrinkle | None = None) -> tuple[int, int]:
        """The first frame of the layer and the one after its last."""
        wrinkle = wrinkle or self._desk.document.state
        clock = wrinkle.clock(wrinkle.layer(self._desk.looking.layer), Fraction(0))
        rate = wrinkle.frame_rate
        return rate.nearest_frame(clock.start), rate.nearest_frame(clock.end)

    def _edge_at(self, x: float) -> int:
        return round(self.axis.frame(x))

    def _grip_at(self, x: float) -> str | None:
        if not self._desk.looking.layer:
            return None
        bar = self.bar()
        if abs(x - bar.left()) <= _REACH:
            return START
        if abs(x - bar.right()) <= _REACH:
            return END
        return WHOLE if bar.left() < x < bar.right() else None
