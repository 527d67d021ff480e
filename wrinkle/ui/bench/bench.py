"""The Bench: pictures and transport over strip and lanes, the stack at the right."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QHideEvent, QPainter, QPaintEvent, QRegion, QShowEvent
from PyQt6.QtWidgets import QHBoxLayout, QSplitter, QStackedWidget, QVBoxLayout, QWidget

from wrinkle.core.design.edits.isolating import isolated
from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Urgency
from wrinkle.core.motion.track import Side
from wrinkle.core.picture.image import Size
from wrinkle.core.reuse.use import AS_MADE, possible
from wrinkle.files.archive import SUFFIX, read
from wrinkle.files.presence import is_folder
from wrinkle.ui.actions.action import Action, HeldKey
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.bench.bench_actions import BenchParts, bench_actions
from wrinkle.ui.bench.bench_pictures import BenchPictures
from wrinkle.ui.bench.bench_sound import BenchSound
from wrinkle.ui.bench.lanes.timeline import Timeline
from wrinkle.ui.bench.picture.result_view import ResultView
from wrinkle.ui.bench.picture.scopes_view import Of, ScopesView
from wrinkle.ui.bench.picture.source_view import SourceView
from wrinkle.ui.bench.picture.transport import Transport
from wrinkle.ui.bench.picture_sizes import (
    PictureSize,
    PictureSizes,
    ResultColumn,
    SizedParts,
)
from wrinkle.ui.bench.second_screen import ResultElsewhere
from wrinkle.ui.bench.stack.stack import Stack
from wrinkle.ui.bench.version_menu import VersionMenu
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.looking import PRE_ROLL
from wrinkle.ui.pictures.clip_pictures import ClipPictures
from wrinkle.ui.pictures.part_pictures import PartPictures
from wrinkle.ui.pictures.player import Player
from wrinkle.ui.place import CutWanted, Place, PlaceKind, Takes, WrinkleWanted
from wrinkle.ui.shared.panel import as_panel
from wrinkle.ui.shared.picture_view import ContactView, frame_label
from wrinkle.ui.shared.pixel_words import pixel_words
from wrinkle.ui.shared.qimages import brightness_shares
from wrinkle.ui.text_size import Extent, keep
from wrinkle.ui.theme import SURROUND, active

_SCOPED = 240
"""The longer side of a picture of which only the scopes are seen."""
_MARGINS = {PictureSize.BENCH: 12, PictureSize.LARGE: 3, PictureSize.WHOLE: 0}


class Bench(Place):
    """Where one wrinkle is designed."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._pointed: tuple[int, int, int] | None = None
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        workers = desk.workers
        self.drawn = BenchPictures(desk, self)
        self.renderer = self.drawn.frames
        self.clip_pictures = ClipPictures(workers.jobs, workers.store, self)
        self.heard = BenchSound(desk, self)
        self.sound = self.heard.player
        self.player = Player(self, sound=self.sound)
        self.outgoing = SourceView(Side.OUTGOING, desk, self.clip_pictures)
        self.incoming = SourceView(Side.INCOMING, desk, self.clip_pictures)
        self.result = ResultView(desk, self.renderer, self.drawn.picture)
        self.layer_picture = PartPictures(desk, Urgency.LOOKED_AT, self)
        self.scopes = ScopesView(
            {
                Of.RESULT: lambda: self.drawn.picture(desk.looking.playhead),
                Of.LAYER: lambda: self.layer_picture.picture(desk.looking.layer),
                Of.OUTGOING: self.outgoing.picture.now,
                Of.INCOMING: self.incoming.picture.now,
            }
        )
        self.scopes.hide()
        self.elsewhere = ResultElsewhere(desk, self.renderer, self)
        self.sheet = ContactView(self.renderer.picture)
        self.timeline = Timeline(desk, self.renderer, workers, self.heard.heard_of, self.sound)
        self.transport = Transport(desk, self.player)
        self.stack = Stack(desk, self.clip_pictures)
        self.versions = VersionMenu(desk, self)
        self._pictures = QStackedWidget()
        self._lay_out()
        self._connect()
        self.drawn.be_seen(False)
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
        row.addWidget(self.scopes)
        self._three = row
        self._pictures.addWidget(three)
        self._pictures.addWidget(self.sheet)
        upper = as_panel(QWidget())
        column = QVBoxLayout(upper)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self._pictures, 1)
        column.addWidget(self.transport)
        self._upper = column
        left = self._left = QSplitter(Qt.Orientation.Vertical)
        left.addWidget(upper)
        left.addWidget(self.timeline)
        left.setStretchFactor(0, 5)
        left.setStretchFactor(1, 4)
        left.setSizes([405, 315])
        left.setChildrenCollapsible(False)
        self._column = ResultColumn()
        columns = self._columns = QSplitter(Qt.Orientation.Horizontal)
        columns.addWidget(left)
        columns.addWidget(self._column)
        columns.setStretchFactor(0, 1)
        columns.setCollapsible(0, False)
        columns.setSizes([880, 0])
        whole = self._whole = QSplitter(Qt.Orientation.Horizontal)
        whole.addWidget(columns)
        whole.addWidget(self.stack)
        whole.setStretchFactor(0, 1)
        whole.setStretchFactor(1, 0)
        whole.setSizes([880, 340])
        whole.setChildrenCollapsible(False)
        keep(self.stack, Extent.LEAST_WIDTH, 316)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 12, 12, 12)
        layout.addWidget(whole)
        self.sizes = PictureSizes(
            SizedParts(
                self, self._three, self._upper, left, columns, self._column, self.outgoing,
                self.result, self.incoming, self.transport, self.timeline, self.stack,
            )
        )  # fmt: skip
        self._panels = (upper, self.timeline, self._column, self.stack)
        # Else the window would fill all that lies under the panels, whenever one of them changes.
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if event is None:
            return
        bare = event.region()
        for panel in self._panels:
            # A panel that is folded to nothing lies beyond its place.
            shown = panel.visibleRegion().boundingRect()
            bare -= QRegion(shown.translated(panel.mapTo(self, QPoint())))
        painter = QPainter(self)
        painter.setClipRegion(bare)
        painter.fillRect(self.rect(), active().colour("ground"))

    def _connect(self) -> None:
        desk = self._desk
        # The pictures of another document are not shown while the new ones are made.
        desk.document.opened.connect(self.renderer.forget)
        desk.document.changed.connect(self.request_frames)
        desk.tried.changed.connect(self.request_frames)
        desk.trial.changed.connect(self.request_frames)
        desk.looking.viewChanged.connect(self.request_frames)
        desk.looking.playheadChanged.connect(self._on_playhead)
        self.player.playingChanged.connect(self.renderer.hurry)
        self.renderer.frameReady.connect(self._show_histogram)
        self.renderer.frameReady.connect(lambda frame: self.sheet.update())
        self.sheet.picked.connect(desk.looking.set_playhead)
        self.player.frameDue.connect(lambda frame: desk.looking.set_playhead(frame, PRE_ROLL))
        self.transport.sheetWanted.connect(lambda on: self._pictures.setCurrentIndex(int(on)))
        self.transport.resolutionChanged.connect(self.set_resolution)
        self.player.playingChanged.connect(desk.looking.set_playing)
        self.player.playingChanged.connect(lambda on: self._show_handles())
        desk.trial.changed.connect(self._show_handles)
        self.renderer.progressed.connect(self.transport.show_progress)
        self.drawn.near.frameReady.connect(self.result.frame_came)
        self.renderer.failed.connect(desk.messages.faulted)
        self.clip_pictures.failed.connect(desk.messages.faulted)
        self.sound.told.connect(desk.messages.told)
        self.player.playingChanged.connect(self.timeline.sounds.meter.run)
        self.timeline.sounds.chosen.connect(self.stack.show_sound)
        desk.looking.soundShownChanged.connect(self.request_frames)
        desk.looking.playheadChanged.connect(self.scopes.refresh)
        self.renderer.frameReady.connect(lambda frame: self.scopes.refresh())
        self.clip_pictures.ready.connect(self.scopes.refresh)
        self.layer_picture.came.connect(lambda name: self.scopes.refresh())
        self.scopes.layerWanted.connect(self._ask_layer)
        desk.looking.selectionChanged.connect(self.scopes.refresh)
        desk.looking.scopesShownChanged.connect(
            lambda: self.scopes.setVisible(desk.looking.scopes_shown)
        )
        self.sizes.changed.connect(self._make_room)
        self.sizes.wholeScreen.connect(self.wholeScreen)
        self.result.pointed.connect(self._point)
        self.result.spaceTaken.connect(self.transport.toggle)
        self.result.zoom.changed.connect(self._look_closer)
        self.player.playingChanged.connect(lambda on: self._look_closer())
        self.result.fileDropped.connect(self._take_file)
        self.elsewhere.spaceTaken.connect(self.transport.toggle)
        self.elsewhere.fileDropped.connect(self._take_file)
        self.elsewhere.changed.connect(self._show_playhead)
        self.elsewhere.changed.connect(self._show_handles)
        desk.tried.added.connect(desk.looking.select_layer)
        for signal in (
            desk.document.changed,
            desk.looking.playheadChanged,
            desk.looking.playheadRested,
            desk.looking.selectionChanged,
        ):
            signal.connect(self.said)

    def _ask_layer(self) -> None:
        """The picture of the selected layer alone, for its scopes."""
        looking = self._desk.looking
        layer = looking.layer
        shown = self._desk.shown(self.frame_size.within(_SCOPED))
        parts = {layer: partial(isolated, layer_id=layer)} if layer else {}
        self.layer_picture.ask(shown, parts, looking.playhead)

    def _make_room(self) -> None:
        layout, side = self.layout(), _MARGINS[self.sizes.size]
        if layout is not None:
            layout.setContentsMargins(side, side, side, side)

    def _take_file(self, path: Path) -> None:
        """A wrinkle is tried on the clips that are here; anything else becomes a layer."""
        if path.suffix == SUFFIX or is_folder(path):
            self.wanted.emit(WrinkleWanted(path, as_copy=True))
        else:
            self.stack.new.add_file(path)

    def _show_handles(self) -> None:
        """Handles stand where the layer was made to be: not while it plays or a dial is tried."""
        as_made = self._desk.trial.choices == AS_MADE
        for shown in (self.result, self.elsewhere):
            shown.show_handles(as_made and not self.player.playing)

    @property
    def frame_size(self) -> Size:
        """The full size of the picture that is designed in."""
        return self._desk.document.frame_size

    def request_frames(self) -> None:
        """Asks for the frames as the desk now wants them."""
        desk = self._desk
        wrinkle = desk.looking.shown_wrinkle()
        frames = wrinkle.frames
        wanted = range(frames.start - PRE_ROLL, frames.stop + PRE_ROLL)
        self.player.set_frames(wanted, wrinkle.frame_rate)
        self.heard.expect(wrinkle, wanted)
        # Of the plain cut only the frame that is looked at is made.
        self.drawn.ask((desk.looking.playhead,) if desk.looking.plain_shown else wanted)
        self.drawn.ask_near()
        self._show_playhead()

    def _look_closer(self) -> None:
        """From near by, a frame has as many pixels as are seen of it; not while it plays."""
        seen = self.result.zoom.scale_in(self.result.room, self.frame_size)
        near = not self.result.zoom.fits and not self.player.playing
        if self.drawn.look_at(seen * self.devicePixelRatioF() if near else 0.0):
            self.result.update()

    def _point(self, pointed: tuple[int, int, int] | None) -> None:
        self._pointed = pointed
        if self.scopes.isVisible():
            colour = self.result.colour_at(*pointed[1:]) if pointed is not None else None
            self.scopes.point(colour)
        if not self.result.zoom.fits:
            self.said.emit()

    def _on_playhead(self) -> None:
        looking = self._desk.looking
        self.renderer.focus_on(looking.playhead)
        self.drawn.ask_near()
        if looking.plain_shown and not self.renderer.is_ready(looking.playhead):
            self.drawn.ask((looking.playhead,))
        self._show_playhead()

    def _show_playhead(self) -> None:
        desk = self._desk
        for shown in (self.result, self.elsewhere):
            shown.show_frame(desk.looking.playhead, self.frame_size)
        self.sheet.show_frames(desk.document.state.frames, desk.looking.playhead, self.frame_size)
        self._show_histogram(desk.looking.playhead)

    def _show_histogram(self, frame: int) -> None:
        """Curves stand over the histogram of the result."""
        fields = self.stack.curve_fields()
        picture = self.renderer.picture(frame)
        if fields and picture is not None and frame == self._desk.looking.playhead:
            shares = brightness_shares(picture)
            for field in fields:
                field.set_histogram(shares)

    def set_resolution(self, share: float) -> None:
        """Shows the pictures at a share of the full size."""
        self.drawn.share = share
        self._look_closer()
        self.request_frames()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.drawn.be_seen(True)
        # The handles may have been put where they stood the last time.
        self.sizes.follow_handle()

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self.drawn.be_seen(False)

    # As a place

    def takes(self) -> Takes:
        """Wrinkles, and the wrinkle on a cut of the piece."""
        desk = self._desk

        def open_wrinkle(wanted: WrinkleWanted) -> bool:
            document = desk.document
            try:
                if wanted.as_copy:
                    document.open_copy(read(wanted.path))
                elif not document.open(wanted.path):
                    return False
            except InputError as fault:
                desk.messages.faulted.emit(str(fault))
                return False
            desk.trial.set_choices(possible(document.state, wanted.choices))
            return True

        return {
            WrinkleWanted: open_wrinkle,
            CutWanted: lambda wanted: desk.open_cut.open(wanted.clip),
        }

    def actions_here(self) -> Sequence[Action]:
        """What the menus and the keys do."""
        parts = BenchParts(
            self, self.result, self.sizes, self.outgoing, self.incoming, self.stack,
            self.transport, self.timeline, self.player, self.versions, self.elsewhere,
        )  # fmt: skip
        return bench_actions(parts, self._desk)

    def bind(self, menus: Menus) -> None:
        """The buttons stand for what is in the menus."""
        self.transport.bind(menus)
        menus.bind("bench.treat", self.stack.treat_button)
        menus.bind("bench.sound", self.timeline.sound_button)
        menus.submenu("bench.keep-version", "Kept versions", self.versions.fill)

    def held_keys(self) -> Sequence[HeldKey]:
        """A, B and E show something else for comparison."""
        return (
            HeldKey("Plain cut", "B", "The clips without the wrinkle."),
            HeldKey("Without effects", "E", "The wrinkle without its effects."),
            HeldKey("The kept version", "A", "The version that was kept to compare with."),
        )

    def words(self) -> str:
        """The playhead, and the values of all lanes there."""
        pixel = pixel_words(self.result, self._pointed)
        if pixel:
            return pixel
        words = [f"Frame {frame_label(self._desk.looking.playhead)}"]
        return " · ".join([*words, *self.timeline.words()])

    def facts(self) -> str:
        """The frame that is designed in."""
        wrinkle, size = self._desk.document.state, self.frame_size
        rate, count = wrinkle.frame_rate.label, len(wrinkle.frames)
        return f"{size.label} · {rate} frames a second · {count} frames"

    def splitters(self) -> Mapping[str, QSplitter]:
        """Between clips, lanes, the result where it has a column, and stack."""
        return {"lanes": self._left, "result": self._columns, "stack": self._whole}

    def leave(self) -> None:
        """Nothing plays that nobody sees, and the other places have a window around them."""
        if self.sizes.size is PictureSize.WHOLE:
            self.sizes.show_size(PictureSize.BENCH)
        self.player.stop()

    def themed(self) -> None:
        """What is painted in colours of the theme is painted anew."""
        self.transport.themed()
        self.stack.refresh()
        self.timeline.refresh()

    def close_down(self) -> None:
        """Ends playing; the jobs are ended by their owner."""
        self.player.stop()
        self.elsewhere.close()
        # Where the handles stand is that of the usual size.
        self.sizes.show_size(PictureSize.BENCH)
        self.timeline.sounds.close_all()
        self.heard.close()
        self.drawn.close()
        self.clip_pictures.close()
        for parts in (self.stack.layer_pictures, self.result.masks, self.layer_picture):
            parts.close()

    def hold(self, key: int, held: bool) -> bool:
        """Held keys that show something else for comparison; gives whether it was one."""
        if key == Qt.Key.Key_B:
            self._desk.looking.show_plain(held)
        elif key == Qt.Key.Key_E:
            self._desk.looking.hide_effects(held)
        elif key == Qt.Key.Key_A:
            if held and self._desk.looking.kept.chosen is None:
                self._desk.messages.faulted.emit("No version is kept yet; keep one with Shift+K.")
            self._desk.looking.show_kept(held)
        else:
            return False
        return True


PLACE = PlaceKind("bench", "Bench", Bench, (WrinkleWanted, CutWanted))
