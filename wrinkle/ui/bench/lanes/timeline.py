"""Ruler, strip and lanes over each other on one frame axis."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QEvent, QObject, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import QHBoxLayout, QToolButton, QVBoxLayout, QWidget

from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.picture.image import Size
from wrinkle.ui.bench.lanes.lane_canvas import LEAST_HEIGHT, MOST_HEIGHT
from wrinkle.ui.bench.lanes.lane_row import HEAD_WIDTH, LaneRow
from wrinkle.ui.bench.lanes.length_fields import LengthFields
from wrinkle.ui.bench.lanes.pin_bar import PinBar
from wrinkle.ui.bench.lanes.sound_rows import Hear, SoundRows
from wrinkle.ui.bench.lanes.span_bar import SpanBar
from wrinkle.ui.bench.lanes.trace_rows import TraceRows, TracesButton
from wrinkle.ui.bench.sections.layer_row import begin_lane
from wrinkle.ui.desk.looking import PinChoice
from wrinkle.ui.desk.parts import Measuring
from wrinkle.ui.desk.workers import Workers
from wrinkle.ui.pictures.frame_pictures import FramePictures
from wrinkle.ui.pictures.ruler_strip import RulerStrip
from wrinkle.ui.pictures.sound_player import SoundPlayer
from wrinkle.ui.shared.empty_state import EmptyState
from wrinkle.ui.shared.frame_table import FrameModel
from wrinkle.ui.shared.manual_page import about
from wrinkle.ui.shared.panel import as_panel
from wrinkle.ui.shared.scrolled import Scrolled
from wrinkle.ui.text_size import Extent, keep

_MARGIN = 12.0
_FIRST_LANES = {"Move it": "position", "Scale it": "scale", "Turn it": "rotation",
                "Fade it": "opacity"}  # fmt: skip
_SCROLL_BAR = 10
_HIGHER, _HIGHEST = 20, 200


class Timeline(QWidget):
    """The lower left of the Bench.

    Signals:
        modelsChanged: other things are drawn.
    """

    modelsChanged = pyqtSignal()

    def __init__(
        self,
        desk: Measuring,
        pictures: FramePictures,
        workers: Workers,
        hear: Hear,
        sound: SoundPlayer,
    ) -> None:
        super().__init__()
        as_panel(self)
        about(self, "lanes")
        self._desk = desk
        self._folded = False
        self._higher = 0
        self.strip = RulerStrip(pictures)
        self.strip.set_inset(_MARGIN, _MARGIN)
        self.strip.scrubbed.connect(desk.looking.set_playhead)
        self.rows: list[LaneRow] = []
        self.empty = EmptyState()
        for label, key in _FIRST_LANES.items():
            button = self.empty.add(label, "A lane from rest to a value, and to rest again")
            button.clicked.connect(partial(self._begin_lane, key))
        self._below_empty = QWidget()
        self._lanes = QWidget()
        self._lanes.setObjectName("ground")
        self._lane_layout = QVBoxLayout(self._lanes)
        self._lane_layout.setContentsMargins(0, 0, 0, 0)
        self._lane_layout.setSpacing(0)
        self.traces = TraceRows(desk, HEAD_WIDTH, _MARGIN)
        self._lane_layout.addWidget(self.traces)
        self.sounds = SoundRows(desk, workers, hear, sound, HEAD_WIDTH, _MARGIN)
        self._lane_layout.addWidget(self.sounds)
        self._lane_layout.addStretch(1)
        self.lanes_view = Scrolled()
        self.lanes_view.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        # Always there, so that the lanes' axis stays as wide as the strip's.
        self.lanes_view.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOn)
        self.lanes_view.setWidget(self._lanes)
        view = self.lanes_view.viewport()
        if view is not None:
            view.installEventFilter(self)
        self.lengths = LengthFields(desk)
        keep(self.lengths, Extent.WIDTH, HEAD_WIDTH)
        top = QHBoxLayout()
        top.setContentsMargins(0, 0, _SCROLL_BAR, 0)
        top.setSpacing(0)
        top.addWidget(self.lengths)
        self.span = SpanBar(desk)
        self.span.set_inset(_MARGIN, _MARGIN)
        column = QVBoxLayout()
        column.setSpacing(0)
        column.addWidget(self.strip)
        column.addWidget(self.span)
        top.addLayout(column, 1)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 4, 0, 0)
        layout.setSpacing(0)
        layout.addLayout(top)
        layout.addWidget(self.empty)
        layout.addWidget(self._below_empty, 1)
        layout.addWidget(self.lanes_view, 1)
        self._foot = QWidget()
        foot = QHBoxLayout(self._foot)
        foot.setContentsMargins(0, 0, 8, 0)
        self.pin_bar = PinBar(desk)
        foot.addWidget(self.pin_bar, 1)
        self.traces_button = TracesButton(desk)
        foot.addWidget(self.traces_button)
        self.sound_button = QToolButton()
        foot.addWidget(self.sound_button)
        layout.addWidget(self._foot)
        desk.examiner.changed.connect(self._show_marks)
        desk.document.changed.connect(self.refresh)
        desk.looking.selectionChanged.connect(self.refresh)
        desk.looking.selectionChanged.connect(self._show_selected)
        desk.looking.tracesChanged.connect(self.refresh)
        desk.looking.soundShownChanged.connect(self.refresh)
        desk.looking.soundShownChanged.connect(self._show_sounds)
        desk.looking.playheadChanged.connect(self._show_playhead)
        desk.looking.playheadRested.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Shows the state of the desk; rows are made anew only when the lanes are others."""
        desk = self._desk
        wrinkle = desk.document.state
        shape = Size(*wrinkle.reference_size)
        self.strip.show_frames(wrinkle.first_frame, wrinkle.end_frame, desk.looking.playhead, shape)
        refs = []
        if desk.looking.layer:
            layer = wrinkle.layer(desk.looking.layer)
            refs = [SettingRef(layer.id, key) for key in layer.lanes()]
            self.empty.words.setText(
                f"{layer.name} does not move yet. Any setting of its card gets a lane by its wave."
            )
        else:
            self.empty.words.setText("There is no layer. Add one in the stack on the right.")
        for button in self.empty.buttons:
            button.setVisible(bool(desk.looking.layer))
        if desk.looking.sound_shown:
            refs += [SettingRef(x.id, key) for x in wrinkle.sounds for key in x.lanes()]
        if refs != [row.ref for row in self.rows]:
            self._make_rows(refs)
        self.sounds.refresh()
        shown = bool(refs) or bool(desk.looking.traces) or desk.looking.sound_shown
        for widget in (self.empty, self._below_empty):
            widget.setVisible(not shown and not self._folded)
        self.lanes_view.setVisible(shown and not self._folded)
        for row in self.rows:
            row.refresh()
        self._share_height()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._share_height()

    def _share_height(self) -> None:
        """Few lanes are high, many are low; what still does not fit is scrolled to."""
        view = self.lanes_view.viewport()
        if not self.rows or view is None:
            return
        others = self.traces.sizeHint().height() * bool(self._desk.looking.traces)
        others += self.sounds.sizeHint().height() * self._desk.looking.sound_shown
        each = (view.height() - others) // len(self.rows)
        for row in self.rows:
            usual = min(max(each, LEAST_HEIGHT), MOST_HEIGHT)
            row.canvas.setFixedHeight(max(usual + self._higher, LEAST_HEIGHT))

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """The wheel with Ctrl makes lanes higher or lower, instead of scrolling."""
        if event is not None and event.type() == QEvent.Type.Resize:
            # What is around the lanes takes or gives room after they were laid out.
            QTimer.singleShot(0, self._share_height)
        if (
            isinstance(event, QWheelEvent)
            and event.type() == QEvent.Type.Wheel
            and event.modifiers() & Qt.KeyboardModifier.ControlModifier
        ):
            step = _HIGHER if event.angleDelta().y() > 0 else -_HIGHER
            self._higher = min(max(self._higher + step, 0), _HIGHEST)
            self._share_height()
            return True
        return super().eventFilter(watched, event)

    def _begin_lane(self, key: str) -> None:
        """The selected layer moves from now on."""
        begin_lane(self._desk, SettingRef(self._desk.looking.layer, key))

    def fold(self, folded: bool) -> None:
        """Shows the strip alone, or all lanes below it."""
        self._folded = folded
        self._foot.setVisible(not folded)
        self.refresh()
        self.setMaximumHeight(self.sizeHint().height() if folded else 16_777_215)

    def type_pin(self) -> None:
        """The field of the selected pin's value is typed into."""
        if self.pin_bar.value is not None:
            self.pin_bar.value.setFocus(Qt.FocusReason.ShortcutFocusReason)

    def models(self) -> list[FrameModel]:
        """What is drawn, as tables: lanes, traces, the frames."""
        canvases = [*(row.canvas for row in self.rows), *self.traces.canvases,
                    *self.sounds.canvases, self.strip]  # fmt: skip
        return [canvas.model for canvas in canvases if canvas.model is not None]

    def _show_marks(self) -> None:
        """Marks the frames of what is open, on the strip; older marks stay until it is measured."""
        found = self._desk.examiner.found()
        open_ = found.open if found is not None else ()
        self.strip.show_marks(frame for finding in open_ for frame in finding.frames)

    def _show_playhead(self, frame: int) -> None:
        self.strip.show_playhead(frame)
        for row in self.rows:
            row.canvas.show_playhead(frame)

    def words(self) -> list[str]:
        """The values of all shown lanes at the playhead, with their names; none while it plays."""
        if self._desk.looking.playing:
            return []
        shown = [row for row in self.rows if row.ref.layer == self._desk.looking.layer]
        return [f"{row.full_name.lower()} {row.shown}" for row in shown]

    def _show_selected(self) -> None:
        """Brings the lane of the selected pin into view."""
        pin = self._desk.looking.pin
        for row in self.rows:
            if pin is not None and row.ref == pin.ref:
                self.lanes_view.ensureWidgetVisible(row, 0, 0)
                # Who goes from lane to lane by keys has the focus where the pin is.
                if any(other.canvas.hasFocus() for other in self.rows):
                    row.canvas.setFocus(Qt.FocusReason.ShortcutFocusReason)

    def _show_sounds(self) -> None:
        """What is heard is seen as soon as it is wanted."""
        bar = self.lanes_view.verticalScrollBar()

        def up() -> None:
            if bar is not None and self._desk.looking.sound_shown:
                self._lane_layout.activate()
                self._lanes.adjustSize()
                bar.setValue(self.sounds.y())

        # The rows have their places only afterwards.
        QTimer.singleShot(0, up)

    def _make_rows(self, refs: list[SettingRef]) -> None:
        for row in self.rows:
            self._lane_layout.removeWidget(row)
            row.hide()
            row.deleteLater()
        self.rows = [LaneRow(self._desk, ref) for ref in refs]
        for place, row in enumerate(self.rows):
            row.canvas.set_inset(_MARGIN, _MARGIN)
            self._lane_layout.insertWidget(place, row)
            row.canvas.banding.connect(lambda band, row=row: self._show_band(row, band))
            row.canvas.banded.connect(lambda band, row=row: self._catch(row, band))
        self.modelsChanged.emit()

    def _show_band(self, start: LaneRow, band: QRectF) -> None:
        for row in self.rows:
            row.canvas.show_band(_seen_from(row, start, band))

    def _catch(self, start: LaneRow, band: QRectF) -> None:
        """Selects the pins of all lanes that the rubber band lies over."""
        caught: frozenset[PinChoice] = frozenset()
        for row in self.rows:
            caught |= row.canvas.caught(_seen_from(row, start, band))
            row.canvas.show_band(None)
        self._desk.looking.select_pins(caught)


def _seen_from(row: LaneRow, start: LaneRow, band: QRectF) -> QRectF:
    """A rubber band of one lane in the coordinates of another."""
    return band.translated(0.0, float(start.y() - row.y()))
