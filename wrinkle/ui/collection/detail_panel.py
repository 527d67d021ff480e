"""The selected wrinkle: larger, what it is, what can be chosen of it, and what can be done."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from PyQt6.QtWidgets import (
    QGridLayout,
    QHBoxLayout,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle import library
from wrinkle.core.design.document.slots import GIVEN
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.set_aside_edits import reason_for
from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Urgency
from wrinkle.core.measure.registry import CHECKS, findings
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Filling, Material
from wrinkle.core.render.showing import Showing
from wrinkle.core.reuse.hearing import hearing
from wrinkle.core.reuse.use import Choices, Use, directions_of, natural_size, showing
from wrinkle.library.shelf import Shelved, feels_of
from wrinkle.media.assets import read_assets
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.choosing.use_controls import UseControls
from wrinkle.ui.collection.wrinkle_actions import IN_MORE
from wrinkle.ui.desk.looking import PRE_ROLL
from wrinkle.ui.desk.parts import Browsing
from wrinkle.ui.pictures.frame_pictures import FramePictures
from wrinkle.ui.pictures.hear_button import HearButton
from wrinkle.ui.pictures.player import Player
from wrinkle.ui.pictures.sound_player import SoundPlayer
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.hanging_menu import hang_menu
from wrinkle.ui.shared.picture_view import PictureView
from wrinkle.ui.shared.plain_text import PlainLabel
from wrinkle.ui.shared.scrolled import Scrolled
from wrinkle.ui.text_size import Extent, keep

_SIDE = 480
_WIDTH = 332


class DetailPanel(QWidget):
    """The right side of the Collection.

    Attributes:
        on_own_clips: whether the wrinkle is shown on the clips of the Bench.
        move_to: the menu of shelves, filled by who knows them.
    """

    def __init__(self, desk: Browsing) -> None:
        super().__init__()
        self._desk = desk
        self._one: Shelved | None = None
        self._fillings: dict[str, Filling] = {}
        self._shown: Showing | None = None
        self.setObjectName("panel")
        keep(self, Extent.WIDTH, _WIDTH)
        workers = desk.workers
        self.renderer = FramePictures(workers.jobs, workers.store, Urgency.LOOKED_AT, self)
        self.sound = SoundPlayer(desk.output(), desk.sound, self)
        self.hear = HearButton(self.sound, "Hear it as it is shown")
        self.player = Player(self, sound=self.sound)
        self.player.playingChanged.connect(self.renderer.hurry)
        self.view = PictureView(self.renderer.picture)
        self.view.setMinimumHeight(220)
        self.renderer.frameReady.connect(self.view.frame_came)
        self.player.frameDue.connect(self._show_frame)
        self.name = ElidedLabel()
        self.name.setObjectName("heading")
        self.facts, self.about, self.message = PlainLabel(), PlainLabel(), PlainLabel()
        self.facts.setObjectName("quiet")
        self.message.setObjectName("fault")
        for label in (self.facts, self.about, self.message):
            label.setWordWrap(True)
        self.renderer.failed.connect(self.message.setText)
        self.controls = UseControls()
        self.controls.changing.connect(self._ask)
        self.controls.changed.connect(self._ask)
        self.controls.faulted.connect(self.message.setText)
        self.slots = PlainLabel()
        self.slots.setObjectName("quiet")
        self.slots.setWordWrap(True)
        self.on_own_clips = False
        self.here = QPushButton("Use on the Bench's clips")
        self.elsewhere = QPushButton("Use on other clips…")
        self.here.setObjectName("main")
        self.open = QPushButton("Open on the Bench")
        self.board = QPushButton("Board…")
        self.favourite = QPushButton("Favourite")
        self.more = QPushButton("More")
        self.move_to = QMenu("Move to the shelf", self.more)
        self._lay_out()

    def bind(self, menus: Menus) -> None:
        """The buttons stand for what is in the menus."""
        for name in ("here", "elsewhere", "open", "board", "favourite"):
            menus.bind(f"collection.{name}", getattr(self, name))
        menu = QMenu(self.more)
        menus.fill(menu, [f"collection.{name}" for name in IN_MORE])
        menu.insertMenu(menus.actions["collection.export"], self.move_to)
        hang_menu(self.more, menu)

    def _lay_out(self) -> None:
        body = QWidget()
        column = QVBoxLayout(body)
        column.setContentsMargins(12, 8, 12, 8)
        column.setSpacing(6)
        heading = QHBoxLayout()
        heading.addWidget(self.name, 1)
        heading.addWidget(self.hear)
        column.addLayout(heading)
        for widget in (self.facts, self.about, self.message, self.controls, self.slots):
            column.addWidget(widget)
        column.addStretch(1)
        scroll = Scrolled()
        scroll.setWidget(body)
        grid = QGridLayout()
        grid.setContentsMargins(12, 4, 12, 8)
        grid.setSpacing(6)
        grid.addWidget(self.here, 0, 0, 1, 6)
        grid.addWidget(self.elsewhere, 1, 0, 1, 3)
        grid.addWidget(self.open, 1, 3, 1, 3)
        for place, button in enumerate((self.board, self.favourite, self.more)):
            grid.addWidget(button, 2, 2 * place, 1, 2)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self.view, 4)
        layout.addWidget(scroll, 5)
        layout.addLayout(grid)

    @property
    def choices(self) -> Choices:
        """What is chosen for the wrinkle."""
        return self.controls.choices

    def set_clips(self, fillings: dict[str, Filling], of_the_bench: bool) -> None:
        """Shows the wrinkle on these clips from now on."""
        self._fillings = fillings
        self.on_own_clips = of_the_bench
        self.here.setEnabled(of_the_bench and self._one is not None)
        self._ask()

    def show_wrinkle(self, one: Shelved | None) -> None:
        """Shows another wrinkle, or none."""
        changed = one is not self._one
        self._one = one
        wrinkle = one.wrinkle if one is not None else None
        self.name.setText(one.name if one is not None else "No wrinkle is found")
        self.message.setText(one.fault if one is not None else "")
        for button in (self.elsewhere, self.open, self.board):
            button.setEnabled(wrinkle is not None)
        self.here.setEnabled(wrinkle is not None and self.on_own_clips)
        self.favourite.setEnabled(one is not None)
        self.view.expect(wrinkle is not None)
        # Nothing can be pressed that does nothing.
        for button in (self.here, self.elsewhere, self.open, self.board, self.favourite, self.more):
            button.setVisible(one is not None)
        self.hear.setVisible(wrinkle is not None)
        self.controls.setVisible(wrinkle is not None)
        for label in (self.facts, self.about, self.slots):
            label.setVisible(wrinkle is not None)
        if wrinkle is None or one is None:
            self.stop()
            self._shown = None
            self.renderer.forget()
            self.view.update()
            return
        seconds = float(wrinkle.lead + wrinkle.tail)
        feels = ", ".join(feels_of(wrinkle))
        words = [
            f"{len(wrinkle.frames)} frames at {wrinkle.frame_rate.label} ({seconds:.2f} s)",
            ", ".join(one.kinds),
            f"feel: {feels}" if feels else "",
            "goes " + ", ".join(directions_of(wrinkle).values()) if wrinkle.directions else "",
            "shipped" if one.shipped else one.shelf or "your own",
        ]
        self.facts.setText(" · ".join(filter(None, words)))
        self.about.setText(wrinkle.about)
        further = [
            f"{slot.label} ({slot.kind}): {slot.about or slot.unfilled.value}"
            for slot in wrinkle.slots
            if slot.key not in GIVEN
        ]
        heard = dict.fromkeys(sound.made or "a file" for sound in wrinkle.sounds)
        lines = ("Slots: " + "; ".join(further) if further else "",
                 "Heard: " + ", ".join(heard) if heard else "",
                 *_checked(wrinkle))  # fmt: skip
        self.slots.setText("\n".join(filter(None, lines)))
        if changed:
            self.renderer.forget()
            self.controls.set_choices(Choices())
        self.controls.show_wrinkle(wrinkle)
        self._ask()

    def use(self) -> tuple[Use, Material] | None:
        """The wrinkle as it is shown: on its clips, with what is chosen; None without."""
        return self.use_of(self._one, self.choices) if self._one is not None else None

    def use_of(self, one: Shelved, choices: Choices) -> tuple[Use, Material] | None:
        """A wrinkle on the clips that are shown on, with what it carries; None without.

        Raises:
            InputError: it cannot be read.
        """
        if one.wrinkle is None or not self._fillings:
            return None
        bundle = one.bundle()
        carried = read_assets(bundle.assets, self._desk.workers.store).material(library.fonts())
        return Use(bundle.wrinkle, self._fillings, choices), carried

    def stop(self) -> None:
        """Nothing plays any more."""
        self.player.stop()

    def close_down(self) -> None:
        """Nothing more is made."""
        self.player.stop()
        self.sound.close()
        self.renderer.close()

    def _ask(self) -> None:
        """Asks for the pictures as they are chosen now, and plays them."""
        if not self.isVisible():
            return
        try:
            found = self.use()
            if found is None:
                return
            use, carried = found
            size = natural_size(use)
            small = size.within(_SIDE)
            rate = use.wrinkle.frame_rate
            shown = showing(use, carried, small, rate)
        except InputError as fault:
            self.message.setText(str(fault))
            return
        self.message.setText("")
        self._shown = shown = replace(shown, quality=Quality.PREVIEW)
        frames = shown.wrinkle.frames
        looped = range(frames.start - PRE_ROLL, frames.stop + PRE_ROLL)
        self.renderer.ask(shown, looped, 0)
        self.hear.offer(partial(hearing, use, rate, looped, carried=carried.sounds))
        self.player.set_frames(looped, rate)
        if not self.player.playing:
            self.player.play(frames.start)

    def _show_frame(self, frame: int) -> None:
        if self._shown is not None:
            self.view.show_frame(frame, self._shown.size)


def _checked(wrinkle: Wrinkle) -> list[str]:
    """What its checks find without clips, and what is wanted so, with the reason."""
    found = [f"Open: {x.sentence}" for x in findings(wrinkle) if not reason_for(wrinkle, x.about)]
    reasons = dict.fromkeys((CHECKS[x.check].label, x.reason) for x in wrinkle.set_aside
                            if x.check in CHECKS)  # fmt: skip
    return found + [f"Set aside: {label.lower()}. {reason}" for label, reason in reasons]
