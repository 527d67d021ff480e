"""Use on other clips: pick two files, see the wrinkle on them, render it."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from fractions import Fraction
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt, QUrl
from PyQt6.QtGui import QCloseEvent, QDesktopServices, QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.slot_kinds import Fills
from wrinkle.core.design.document.slots import GIVEN, OUTGOING, Slot
from wrinkle.core.errors import InputError, MediaError
from wrinkle.core.jobs import Job, Urgency
from wrinkle.core.motion.track import Side
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Filling, default_cut
from wrinkle.core.render.showing import Showing
from wrinkle.core.reuse.hearing import hearing
from wrinkle.core.reuse.use import AS_MADE, Choices, Use, natural_size, possible, showing
from wrinkle.core.sound.heard import Mix
from wrinkle.core.time.rate import FrameRate
from wrinkle.library import fonts
from wrinkle.media.assets import read_assets
from wrinkle.media.clip import Clip
from wrinkle.media.exporting.export import ExportChoices
from wrinkle.media.exporting.video import write as write_window
from wrinkle.media.fillings import PICTURES, read_sound
from wrinkle.media.output.format import Into
from wrinkle.media.output.formats import FORMATS, format_for
from wrinkle.media.output.rendition import Rendition
from wrinkle.media.still import Still
from wrinkle.media.video_file import check_video_size
from wrinkle.ui.choosing.use_controls import UseControls
from wrinkle.ui.desk.looking import PRE_ROLL
from wrinkle.ui.desk.tried_clips import TriedClip
from wrinkle.ui.desk.workers import Workers
from wrinkle.ui.pictures.clip_pictures import ClipPictures
from wrinkle.ui.pictures.frame_pictures import FramePictures
from wrinkle.ui.pictures.player import Player
from wrinkle.ui.pictures.sound_player import SoundPlayer
from wrinkle.ui.pictures.source_strip import SourceStrip
from wrinkle.ui.shared.asking_files import Asking, FileEnding
from wrinkle.ui.shared.drops import CLIP_FILTER, SOUND_FILTER, accept_files, dropped_files
from wrinkle.ui.shared.picture_view import PictureView
from wrinkle.ui.shared.plain_text import PlainForm, PlainLabel, tip
from wrinkle.ui.shared.scrolled import Scrolled
from wrinkle.ui.shared.value_field import FieldFormat, ValueField

_AS_CLIP = "as the outgoing clip"
_SIZES = (_AS_CLIP, "1080×1920", "1920×1080", "1080×1080", "1080×1350")
_RATES = (_AS_CLIP, "24", "25", "30", "60")
_PREVIEW_SIDE = 640


def _filter_of(slot: str) -> str:
    """Which files can fill a slot: the cut itself takes clips alone."""
    pictures = " ".join(f"*{ending}" for ending in PICTURES)
    return CLIP_FILTER if slot in GIVEN else f"Pictures ({pictures});;{CLIP_FILTER}"


class UseDialog(QDialog):
    """Tries a wrinkle on two other clips and renders it."""

    def __init__(
        self,
        bundle: Bundle,
        workers: Workers,
        asking: Asking,
        parent: QWidget | None = None,
        choices: Choices = AS_MADE,
        sound: SoundPlayer | None = None,
    ) -> None:
        super().__init__(parent)
        self._bundle = bundle
        self._workers = workers
        self._asking = asking
        self._moving = [slot for slot in bundle.wrinkle.slots if slot.moving]
        self.clips: dict[str, TriedClip] = {}
        self.stills: dict[str, Still] = {}
        self.sounds: dict[str, object] = {}
        self.sound_picks: dict[str, QPushButton] = {}
        self._job: Job | None = None
        self._closed = False
        self.shown: Showing | None = None
        self.heard: Callable[[range], Mix] | None = None
        self._carried = read_assets(bundle.assets, workers.store).material(fonts())
        self.setWindowTitle(f"Use {bundle.wrinkle.name} on other clips")
        self.setAcceptDrops(True)
        self.resize(940, 680)
        jobs, store = workers.jobs, workers.store
        self.renderer = FramePictures(jobs, store, Urgency.LOOKED_AT, self)
        self._clip_pictures = ClipPictures(jobs, store, self)
        self._sound = sound
        self._player = Player(self, sound=sound)
        self._player.playingChanged.connect(self.renderer.hurry)
        self.view = PictureView(self.renderer.picture)
        self.renderer.frameReady.connect(self.view.frame_came)
        self.size_box, self.rate_box = self._box(_SIZES, "Size"), self._box(_RATES, "Rate")
        self.around = ValueField(FieldFormat(suffix=" s", step=0.1))
        self.around.setAccessibleName("Plain clip before and after")
        self.around.set_value(1.0)
        self.around.committed.connect(self._set_around)
        self.around.faulted.connect(self._fault)
        self.controls = UseControls()
        self.controls.show_wrinkle(bundle.wrinkle)
        self.controls.set_choices(possible(bundle.wrinkle, choices))
        self.controls.changing.connect(self._refresh)
        self.controls.changed.connect(self._refresh)
        self.controls.faulted.connect(self._fault)
        self.message = PlainLabel("Choose or drop two clips.")
        self.message.setWordWrap(True)
        self.progress = QProgressBar()
        self.progress.setVisible(False)
        self.render_button = QPushButton("Render…")
        self.render_button.setObjectName("main")
        self.render_button.clicked.connect(self._choose_output)
        self.cancel_button = QPushButton("Cancel the rendering")
        self.cancel_button.setVisible(False)
        self.cancel_button.clicked.connect(self._cancel)
        self._written: Path | None = None
        self.play_button, self.folder_button = (
            QPushButton("Play it"),
            QPushButton("Show its folder"),
        )
        for button, whole in ((self.play_button, True), (self.folder_button, False)):
            button.setVisible(False)
            button.clicked.connect(partial(self._show_written, whole))
        self.picks: dict[str, QPushButton] = {}
        self._strips: dict[str, SourceStrip] = {}
        self._lay_out()
        self.renderer.failed.connect(self._fault)
        self._player.frameDue.connect(self._show_frame)
        self._refresh()

    def _box(self, choices: tuple[str, ...], name: str) -> QComboBox:
        box = QComboBox()
        box.setEditable(True)
        box.addItems(choices)
        box.setAccessibleName(name)
        box.setInsertPolicy(QComboBox.InsertPolicy.NoInsert)
        box.currentTextChanged.connect(self._refresh)
        return box

    def _lay_out(self) -> None:
        form = PlainForm()
        form.setVerticalSpacing(8)
        for slot in self._moving:
            side = Side.OUTGOING if slot.key == OUTGOING.key else Side.INCOMING
            chooser = QPushButton("Choose…")
            chooser.clicked.connect(lambda checked, key=slot.key: self._choose(key))
            strip = SourceStrip(side, self._clip_pictures)
            strip.sliding.connect(lambda cut, key=slot.key: self._recut(key, cut))
            strip.slid.connect(lambda cut, key=slot.key: self._recut(key, cut))
            self.picks[slot.key], self._strips[slot.key] = chooser, strip
            chooser.setToolTip(tip(slot.about or f"Choose the {slot.label.lower()}"))
            form.add(slot.label, chooser)
            form.add("", strip)
        for slot in self._bundle.wrinkle.slots:
            if slot.fills is Fills.SOUND:
                chooser = self.sound_picks[slot.key] = QPushButton()
                chooser.setToolTip(tip(slot.about or "Choose what is heard there"))
                chooser.clicked.connect(lambda checked, slot=slot: self._choose_sound(slot))
                form.add(slot.label, chooser)
        form.add("Size", self.size_box)
        form.add("Frames a second", self.rate_box)
        form.add("Plain clip around it", self.around)
        body = QWidget()
        column = QVBoxLayout(body)
        column.setContentsMargins(0, 0, 8, 0)
        column.addLayout(form)
        column.addWidget(self.controls)
        column.addStretch(1)
        scroll = Scrolled()
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setWidget(body)
        left = QVBoxLayout()
        left.addWidget(scroll, 1)
        left.addWidget(self.message)
        left.addWidget(self.progress)
        buttons = QHBoxLayout()
        buttons.addWidget(self.cancel_button)
        buttons.addWidget(self.play_button)
        buttons.addWidget(self.folder_button)
        buttons.addStretch(1)
        close = QPushButton("Close")
        close.clicked.connect(self.close)
        buttons.addWidget(close)
        buttons.addWidget(self.render_button)
        left.addLayout(buttons)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(16, 16, 16, 16)
        layout.setSpacing(16)
        layout.addLayout(left, 3)
        layout.addWidget(self.view, 4)

    # Clips

    def take_clips(self, clips: Mapping[str, TriedClip]) -> None:
        """Takes over clips with their cuts, for the slots that there are."""
        self.clips |= {key: tried for key, tried in clips.items() if key in self.picks}
        self._refresh()

    def set_clip(self, slot: str, path: Path) -> None:
        """Puts a clip, or a picture, into a slot, once it is read."""
        self._tell(f"Reading {path.name}…")
        if slot not in GIVEN and path.suffix.lower() in PICTURES:
            store = self._workers.store
            self._workers.asked.put(
                lambda job: Still.read(path, store), lambda still: self._take_still(slot, still)
            )
            return
        self._workers.read_clip(path, lambda clip: self._take(slot, clip), self._fail)

    def _fail(self, sentence: str) -> None:
        if not self._closed:
            self._fault(sentence)

    def _take(self, slot: str, clip: Clip) -> None:
        if self._closed:
            return
        self.clips[slot] = TriedClip(clip, default_cut(slot, clip, self._bundle.wrinkle))
        self.stills.pop(slot, None)
        self._refresh()

    def _take_still(self, slot: str, still: Still) -> None:
        if not self._closed:
            self.stills[slot] = still
            self.clips.pop(slot, None)
            self._refresh()

    def _choose(self, slot: str) -> None:
        path = self._asking.file(self, f"Choose the {slot} clip", "clip", _filter_of(slot))
        if path is not None:
            self.set_clip(slot, path)

    def _choose_sound(self, slot: Slot) -> None:
        path = self._asking.file(self, f"Choose the {slot.label}", "music", SOUND_FILTER)
        if path is not None:
            self.set_sound(slot, path)

    def set_sound(self, slot: Slot, path: Path) -> None:
        """Puts a file into a slot for sound, once it is read."""
        pool, store = self._workers.pool, self._workers.store

        def read(job: Job) -> object:
            try:
                return read_sound(slot, path, pool, store)
            except MediaError as fault:
                return str(fault)

        def came(found: object) -> None:
            if isinstance(found, str):
                self._fail(found)
            elif not self._closed:
                self.sounds[slot.key] = found
                self._refresh()

        self._tell(f"Reading {path.name}…")
        self._workers.asked.put(read, came)

    def _recut(self, slot: str, cut: Fraction) -> None:
        self.clips[slot] = self.clips[slot].cut_at(cut)
        self._refresh()

    # What is asked for

    def _use(self) -> tuple[Use, Size, FrameRate]:
        """The wrinkle on the chosen clips, in the chosen size and rate.

        Raises:
            InputError: a size or a rate is not possible.
        """
        fillings = {key: Filling(tried.source, tried.cut) for key, tried in self.clips.items()}
        fillings |= {key: Filling(still, Fraction(0)) for key, still in self.stills.items()}
        use = Use(self._bundle.wrinkle, fillings, self.controls.choices, self.sounds)
        size_text, rate_text = self.size_box.currentText(), self.rate_box.currentText()
        size = natural_size(use) if size_text == _AS_CLIP else Size.parse(size_text)
        own_rate = self.clips[OUTGOING.key].rate or use.wrinkle.frame_rate
        rate = own_rate if rate_text == _AS_CLIP else FrameRate.parse(rate_text)
        return use, size, rate

    def _refresh(self) -> None:
        for key, chooser in self.picks.items():
            tried = self.clips.get(key)
            rate = f" · {tried.rate.label}" if tried is not None and tried.rate is not None else ""
            chooser.setText(
                f"{tried.source.name} · {tried.source.size.label}{rate}"
                if tried is not None
                else self.stills[key].name
                if key in self.stills
                else "Choose…"
                if key in GIVEN
                else f"Choose… (empty: {self._unfilled(key)})"
            )
            self._strips[key].setVisible(tried is not None)
        for key, chooser in self.sound_picks.items():
            name = getattr(self.sounds.get(key), "name", "")
            chooser.setText(name or f"Choose… (empty: {self._unfilled(key)})")
        self.render_button.setEnabled(False)
        if not set(GIVEN) <= set(self.clips):
            return
        try:
            use, frame, pace = self._use()
            self.shown = shown = showing(use, self._carried, check_video_size(frame), pace)
        except InputError as fault:
            self.shown = None
            self._fault(str(fault))
            return
        self.heard = partial(hearing, use, pace, carried=self._carried.sounds)
        wrinkle, size = shown.wrinkle, shown.size
        self.controls.set_rate(wrinkle.frame_rate)
        for key, strip in self._strips.items():
            window = (wrinkle.lead, wrinkle.tail)
            strip.show_clip(self.clips.get(key), window, wrinkle.frame_rate.seconds(1))
        frames = wrinkle.frames
        seconds = float(wrinkle.lead + wrinkle.tail)
        self._tell(
            f"{len(frames)} frames at {wrinkle.frame_rate.label} ({seconds:.2f} s), {size.label}."
        )
        self.render_button.setEnabled(self._job is None)
        looped = range(frames.start - PRE_ROLL, frames.stop + PRE_ROLL)
        small = size.within(_PREVIEW_SIDE)
        preview = replace(shown, size=small, quality=Quality.PREVIEW)
        self.renderer.ask(preview, looped, frames.start)
        if self._sound is not None:
            self._sound.set_heard(partial(self.heard, looped))
        self._player.set_frames(looped, wrinkle.frame_rate)
        if not self._player.playing:
            self._player.play(frames.start)

    def _unfilled(self, key: str) -> str:
        return self._bundle.wrinkle.slot(key).unfilled.value

    def _show_frame(self, frame: int) -> None:
        if self.shown is not None:
            self.view.show_frame(frame, self.shown.size)

    def _set_around(self, seconds: object) -> None:
        if isinstance(seconds, float) and 0.0 <= seconds <= 60.0:
            self.around.set_value(seconds)
            self._refresh()
        else:
            self._fault("The plain clip around the wrinkle can last from 0 to 60 seconds.")

    # Rendering

    def _choose_output(self) -> None:
        name = self._bundle.wrinkle.name
        files = [x for x in FORMATS.values() if x.into in (Into.VIDEO, Into.MOVING)]
        # Of several formats with one ending the first is what is written.
        kinds = {x.suffix: x for x in reversed(files)}
        endings = [FileEnding(x.suffix, x.label) for x in reversed(kinds.values())]
        read = [Path(x.path) for x in self.clips.values() if x.path is not None]
        path = self._asking.goal(self, "Render to", "video", name, endings, read)
        if path is not None:
            self.render_to(path)

    def render_to(self, path: Path) -> None:
        """Renders in the background; the dialog stays usable."""
        shown, seconds = self.shown, self.around.value
        if shown is None:
            return
        around = Fraction(seconds).limit_denominator(1000) if isinstance(seconds, float) else 0
        try:
            rendition = Rendition(format_for(path))
        except InputError as fault:
            self._fault(str(fault))
            return
        what = ExportChoices(around=Fraction(around), heard=self.heard, rendition=rendition)
        self._player.stop()
        jobs = self._workers.jobs
        self._job = jobs.start(
            lambda job: write_window(path, shown, what, jobs, job),
            lambda count: self._ended(f"{path.name} is written: {count} frames.", written=path),
            lambda fault: self._ended(fault, fault=True),
            "The video cannot be written",
            self._show_progress,
            lambda: self._ended("Cancelled; no file was left."),
        )
        self.progress.setVisible(True)
        self.cancel_button.setVisible(True)
        self.render_button.setEnabled(False)

    def _show_progress(self, done: int, total: int, left: float) -> None:
        if self._closed:
            return
        self.progress.setMaximum(total)
        self.progress.setValue(done)
        self.progress.setFormat(f"{done} of {total} frames, {left:.0f} s left")

    def _cancel(self) -> None:
        if self._job is not None:
            self._job.cancel()

    def _show_written(self, whole: bool) -> None:
        """Plays what was rendered, or shows its folder."""
        if self._written is not None:
            place = self._written if whole else self._written.parent
            QDesktopServices.openUrl(QUrl.fromLocalFile(str(place)))

    def _ended(self, text: str, fault: bool = False, written: Path | None = None) -> None:
        if self._closed:
            return
        self._job = None
        self.progress.setVisible(False)
        self.cancel_button.setVisible(False)
        self._refresh()
        (self._fault if fault else self._tell)(text)
        for button in (self.play_button, self.folder_button):
            button.setVisible(written is not None)
        self._written = written

    def _tell(self, text: str) -> None:
        self.message.setObjectName("")
        self._say(text)

    def _fault(self, text: str) -> None:
        self.message.setObjectName("fault")
        self._say(text)

    def _say(self, text: str) -> None:
        self.message.setText(text)
        style = self.message.style()
        if style is not None:
            style.unpolish(self.message)
            style.polish(self.message)

    # Events

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        accept_files(event)

    def dropEvent(self, event: QDropEvent | None) -> None:
        self.take_files(dropped_files(event))

    def take_files(self, paths: Sequence[Path]) -> None:
        """Fills the empty slots in their order; where all are full the last one is exchanged."""
        empty = [key for key in self.picks if key not in self.clips | self.stills]
        for number, path in enumerate(paths):
            self.set_clip(empty[number] if number < len(empty) else list(self.picks)[-1], path)

    def done(self, result: int) -> None:
        """Ends everything that runs before the dialog goes; what comes later finds it closed."""
        self._closed = True
        self._player.stop()
        if self._job is not None:
            self._job.cancel()
        self.renderer.close()
        self._clip_pictures.close()
        if self._sound is not None:
            self._sound.close()
        super().done(result)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        self.done(0)
        if event is not None:
            event.accept()
