"""The Bench: pictures and transport over strip and lanes, the stack at the right."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QSplitter, QStackedWidget, QVBoxLayout, QWidget

from wrinkle.core.design import lane_edits
from wrinkle.core.design.document import Wrinkle
from wrinkle.core.design.setting_ref import SettingRef
from wrinkle.core.motion.track import Side
from wrinkle.core.picture.image import Size
from wrinkle.ui.bench.result_view import ResultView
from wrinkle.ui.bench.source_view import SourceView
from wrinkle.ui.bench.stack import Stack
from wrinkle.ui.bench.timeline import Timeline
from wrinkle.ui.bench.transport import Transport
from wrinkle.ui.clip_pictures import ClipPictures
from wrinkle.ui.player import Player
from wrinkle.ui.rendering import FrameRenderer, Request
from wrinkle.ui.session import PRE_ROLL, Session
from wrinkle.ui.shared.picture_view import ContactView
from wrinkle.ui.shared.qimages import brightness_shares
from wrinkle.ui.theme import SURROUND


class Bench(QWidget):
    """Where one wrinkle is designed."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._resolution = 0.5
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        self.renderer = FrameRenderer(parent=self)
        self.clip_pictures = ClipPictures(self)
        self.player = Player(self)
        self.outgoing = SourceView(Side.OUTGOING, session, self.clip_pictures)
        self.incoming = SourceView(Side.INCOMING, session, self.clip_pictures)
        self.result = ResultView(session, self.renderer)
        self.sheet = ContactView(self.renderer)
        self.timeline = Timeline(session, self.renderer)
        self.transport = Transport(session, self.player)
        self.stack = Stack(session)
        self._pictures = QStackedWidget()
        self._lay_out()
        self._connect()
        self.request_frames()

    def _lay_out(self) -> None:
        three = QWidget()
        three.setAutoFillBackground(True)
        palette = three.palette()
        palette.setColor(three.backgroundRole(), SURROUND)
        three.setPalette(palette)
        row = QHBoxLayout(three)
        row.setContentsMargins(4, 4, 4, 4)
        row.setSpacing(4)
        row.addWidget(self.outgoing, 3)
        row.addWidget(self.result, 4)
        row.addWidget(self.incoming, 3)
        self._pictures.addWidget(three)
        self._pictures.addWidget(self.sheet)
        upper = QWidget()
        upper.setObjectName("panel")
        upper.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        column = QVBoxLayout(upper)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self._pictures, 1)
        column.addWidget(self.transport)
        left = QSplitter(Qt.Orientation.Vertical)
        left.addWidget(upper)
        left.addWidget(self.timeline)
        left.setStretchFactor(0, 5)
        left.setStretchFactor(1, 4)
        left.setSizes([420, 300])
        left.setChildrenCollapsible(False)
        whole = QSplitter(Qt.Orientation.Horizontal)
        whole.addWidget(left)
        whole.addWidget(self.stack)
        whole.setStretchFactor(0, 1)
        whole.setStretchFactor(1, 0)
        whole.setSizes([880, 340])
        whole.setChildrenCollapsible(False)
        self.stack.setMinimumWidth(316)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 12, 12, 12)
        layout.addWidget(whole)

    def _connect(self) -> None:
        session = self._session
        # The pictures of another document are not shown while the new ones are made.
        session.opened.connect(self.renderer.forget)
        session.workChanged.connect(self.request_frames)
        session.viewChanged.connect(self.request_frames)
        session.playheadChanged.connect(self._on_playhead)
        self.renderer.frameReady.connect(self._show_histogram)
        self.sheet.picked.connect(session.set_playhead)
        self.player.frameDue.connect(lambda frame: session.set_playhead(frame, PRE_ROLL))
        self.transport.sheetWanted.connect(lambda on: self._pictures.setCurrentIndex(int(on)))
        self.transport.resolutionChanged.connect(self.set_resolution)
        self.player.playingChanged.connect(lambda on: self.result.show_handles(not on))
        self.renderer.progressed.connect(self.transport.show_progress)
        self.renderer.failed.connect(session.faulted)
        self.clip_pictures.failed.connect(session.faulted)
        self.result.fileDropped.connect(self.stack.add_file)

    @property
    def frame_size(self) -> Size:
        """The full size of the picture that is designed in."""
        return self._session.frame_size

    def request_frames(self) -> None:
        """Asks for the frames as the session now wants them."""
        session = self._session
        wrinkle = session.shown_wrinkle()
        frames = wrinkle.frames
        wanted = range(frames.start - PRE_ROLL, frames.stop + PRE_ROLL)
        self.player.set_frames(wanted, wrinkle.frame_rate)
        shown = (session.playhead,) if session.plain_shown else tuple(wanted)
        self._request(shown)
        self._show_playhead()

    def _request(self, frames: tuple[int, ...]) -> None:
        session = self._session
        size = self.frame_size.scaled(self._resolution)
        request = Request(
            session.shown_wrinkle(),
            session.material(),
            size,
            frames,
            before=session.before_wrinkle(),
        )
        self.renderer.request(request, session.playhead)

    def _on_playhead(self) -> None:
        session = self._session
        self.renderer.focus(session.playhead)
        if session.plain_shown and not self.renderer.is_ready(session.playhead):
            # Of the plain cut only the frame that is looked at is made.
            self._request((session.playhead,))
        self._show_playhead()

    def _show_playhead(self) -> None:
        session = self._session
        self.result.show_frame(session.playhead, self.frame_size)
        self.sheet.show_frames(session.wrinkle.frames, session.playhead, self.frame_size)
        self._show_histogram(session.playhead)

    def _show_histogram(self, frame: int) -> None:
        """Curves stand over the histogram of the result."""
        fields = self.stack.curve_fields()
        picture = self.renderer.picture(frame)
        if fields and picture is not None and frame == self._session.playhead:
            shares = brightness_shares(picture)
            for field in fields:
                field.set_histogram(shares)

    def set_resolution(self, share: float) -> None:
        """Shows the pictures at a share of the full size."""
        self._resolution = share
        self.request_frames()

    def set_key_here(self) -> None:
        """Sets a pin at the playhead in every lane of the selected layer."""
        session = self._session
        if not session.layer:
            return
        layer = session.wrinkle.layer(session.layer)
        refs = [SettingRef(layer.id, key) for key in layer.lanes()]
        if session.pin is not None:
            refs = [session.pin.ref]
        if not refs:
            session.told.emit("Press the thread button beside a setting first: it has no lane yet.")
            return
        time = session.time

        def keyed(wrinkle: Wrinkle) -> Wrinkle:
            for ref in refs:
                wrinkle = lane_edits.set_value(wrinkle, ref, time, ref.of(wrinkle).at(time))
            return wrinkle

        session.edit("pin here", keyed)

    def to_key(self, direction: int) -> None:
        """Moves the playhead to the previous (-1) or next (1) pin of the selected layer."""
        session = self._session
        if not session.layer:
            return
        layer = session.wrinkle.layer(session.layer)
        rate = session.wrinkle.frame_rate
        frames = {
            rate.nearest_frame(time)
            for key in layer.lanes()
            for _, _, time, _ in lane_edits.shown_keys(layer.setting(key))
        }
        beyond = [n for n in frames if (n - session.playhead) * direction > 0]
        if beyond:
            session.set_playhead(min(beyond, key=lambda n: abs(n - session.playhead)))

    def close_down(self) -> None:
        """Ends playing and the threads."""
        self.player.stop()
        self.stack.worker.stop()
        self.stack.costs.stop()
        self._session.background.stop()
        self._session.thumbnails.stop()
        self.renderer.stop()
        self.clip_pictures.stop()
