"""New layers: of which kinds there are, and from files; each comes in front and is selected."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QMenu, QWidget

from wrinkle.core.design.document.layer_kinds import LAYER_KINDS, LayerSource
from wrinkle.core.design.document.links import within
from wrinkle.core.design.document.slot_kinds import Fills
from wrinkle.core.design.document.slots import GIVEN
from wrinkle.core.design.document.sources import (
    FillSource,
    GroupSource,
    PictureSource,
    SlotSource,
    TreatmentSource,
    WordsSource,
)
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import grouping, lane_shapes, layer_edits, mask_edits
from wrinkle.core.design.edits.reveals import revealed_by
from wrinkle.core.errors import InputError
from wrinkle.media.svg import read_svg
from wrinkle.ui.bench.lists.adding_effects import Adding, adding, name_of
from wrinkle.ui.bench.lists.effect_list import EffectList
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.desk.picture_mode import PenGoal
from wrinkle.ui.desk.tried_clips import Then
from wrinkle.ui.shared.plain_text import tip

_PICTURES = "*.png *.jpg *.jpeg *.webp *.tif *.tiff"
FILE_FILTER = f"Pictures and drawings ({_PICTURES} *.svg)"
_CLIPS = frozenset({".mp4", ".mov", ".mkv", ".webm", ".avi", ".m4v"})
_CLIP_FILTER = f"Clips ({' '.join(f'*{x}' for x in sorted(_CLIPS))})"


class NewLayers:
    """What can be added to the stack.

    Args:
        desk: whose wrinkle it is.
        widget: over which it asks.
        open_sections: the titles of the sections of cards that are unfolded.
    """

    def __init__(self, desk: Supplying, widget: QWidget, open_sections: set[str]) -> None:
        self._desk = desk
        self._widget = widget
        self._open_sections = open_sections

    def menu(self) -> QMenu:
        """The kinds of layers."""
        menu = QMenu(self._widget)
        menu.aboutToShow.connect(lambda: self._fill_kinds(menu))
        self._kinds: list[QAction] = []
        self._fill_kinds(menu)
        ring = menu.addAction("Ring")
        if ring is not None:
            ring.triggered.connect(lambda: self.add("Ring", FillSource(), self._ringed))
        slots = menu.addMenu("What fills a slot")
        if slots is not None:
            slots.aboutToShow.connect(partial(self._fill_slots, slots))
        menu.addSeparator()
        for label, act in (
            ("Further clip…", self.choose_clip),
            ("Clip whose light reveals the next…", lambda: self.choose_clip(_by_light)),
            ("Clip whose dark reveals the next…", lambda: self.choose_clip(_by_dark)),
            ("Picture or SVG…", self.choose_picture),
            (
                "Draw a shape on the picture…",
                lambda: self._desk.looking.mode.draw_outline(PenGoal.SHAPE),
            ),
            ("Group around the selected layer", self.group_selected),
        ):
            action = menu.addAction(label)
            if action is not None:
                action.triggered.connect(lambda checked, act=act: act())
        return menu

    def _fill_kinds(self, menu: QMenu) -> None:
        """What each kind of layer offers, in the frame that is designed in."""
        for action in self._kinds:
            menu.removeAction(action)
        first = menu.actions()[0] if menu.actions() else None
        self._kinds = []
        for kind in LAYER_KINDS.values():
            for label, source in kind.starts(self._desk.document.frame_size):
                action = QAction(label, menu)
                action.setToolTip(tip(kind.about))
                action.triggered.connect(partial(self._add_kind, label, source))
                menu.insertAction(first, action)
                self._kinds.append(action)

    def _add_kind(self, label: str, source: LayerSource, checked: bool = False) -> None:
        self.add(label, source)

    def _fill_slots(self, menu: QMenu) -> None:
        """The further slots of the wrinkle; each can be shown on a layer."""
        menu.clear()
        for slot in self._desk.document.state.slots:
            if slot.key in GIVEN or slot.fills is Fills.SOUND:
                continue
            source: LayerSource = SlotSource(slot.key)
            if slot.fills is Fills.WORDS:
                source = WordsSource(slot.words or slot.label, slot=slot.key)
            action = menu.addAction(slot.label)
            if action is not None:
                action.triggered.connect(partial(self.add, slot.label, source))
        if menu.isEmpty():
            nothing = menu.addAction("No further slot yet: File, What it is")
            if nothing is not None:
                nothing.setEnabled(False)

    def add(self, name: str, source: LayerSource, then: Adding | None = None) -> None:
        """Adds a layer in front, within the group that is entered, and selects it.

        Args:
            name: of the layer.
            source: what it shows.
            then: adds an effect to it in the same step.
        """
        desk = self._desk
        before = desk.document.state
        group = self._entered()

        def with_new(wrinkle: Wrinkle) -> Wrinkle:
            given = wrinkle
            wrinkle = layer_edits.add_layer(wrinkle, name, source)
            new = layer_edits.added(given, wrinkle)[0].id
            wrinkle = lane_shapes.kept_within(wrinkle, new)
            wrinkle = grouping.place_layer(wrinkle, new, group, front_of(wrinkle, group, new))
            return then(wrinkle, new) if then is not None else wrinkle

        if not isinstance(source, SlotSource | TreatmentSource):
            # What it says, or its colours, come next.
            self._open_sections.add("Picture")
        if desk.document.edit(f"{name} added", with_new):
            desk.looking.select_layer(layer_edits.added(before, desk.document.state)[0].id)

    def _ringed(self, wrinkle: Wrinkle, layer: str) -> Wrinkle:
        """A fill as a soft ring that fades in and out."""
        frame = self._desk.document.frame_size
        return lane_shapes.fading(mask_edits.add_ring(wrinkle, layer, frame)[0], layer)

    def add_treatment(self) -> EffectList:
        """Asks for effects; the first one makes a treatment that has its name."""
        desk = self._desk
        made: list[str] = []
        # On no layer of its own, but on what all of them come to.
        listed = EffectList(desk, "", self._widget.window(), "Treat both clips")

        def take(kind: str) -> None:
            act = adding(desk, kind)
            if act is None:
                return
            if not made:
                self.add(name_of(kind), TreatmentSource(), act)
                made.append(desk.looking.layer)
            else:
                desk.document.edit("effect added", lambda w: act(w, made[0]))

        listed.chosen.connect(take)
        listed.open()
        return listed

    def _entered(self) -> str | None:
        """The group that new layers go into: the selected one, or that of the selected layer."""
        desk = self._desk
        if not desk.looking.layer:
            return None
        layer = desk.document.state.layer(desk.looking.layer)
        return layer.id if isinstance(layer.source, GroupSource) else layer.group

    def group_selected(self) -> None:
        """Puts the selected layer into a new group of its own."""
        desk = self._desk
        layer = desk.looking.layer
        if desk.document.edit(
            "group", lambda w: grouping.group_layers(w, [layer] if layer else [])
        ):
            group = desk.document.state.layer(layer).group
            desk.looking.select_layer(group or layer)

    def choose_picture(self) -> None:
        """Asks for a picture or a drawing and adds it."""
        asking = self._desk.asking
        path = asking.file(self._widget, "Choose a picture", "picture", FILE_FILTER)
        if path is not None:
            self.add_file(path)

    def choose_clip(self, then: Then | None = None) -> None:
        """Asks for a clip and adds it in a slot of its own; then something more is done."""
        clips = f"Clips ({' '.join(f'*{x}' for x in sorted(_CLIPS))})"
        path = self._desk.asking.file(self._widget, "Choose a clip", "clip", clips)
        if path is not None:
            self._desk.tried.add_clip(path, then)

    def add_file(self, path: Path) -> None:
        """Adds what a file holds: a picture, the paths of an SVG, or a further clip."""
        if path.suffix.lower() in _CLIPS:
            self.add_clip(path)
        elif path.suffix.lower() == ".svg":
            self.add_drawing(path)
        else:
            self.add_picture(path)

    def add_clip(self, path: Path) -> None:
        """Adds a further clip, in a slot that reuse fills."""
        self._desk.tried.add_clip(path)

    def add_drawing(self, path: Path) -> None:
        """Adds each path of an SVG as a shape of its own, all in one group."""
        desk = self._desk
        try:
            shapes = read_svg(path, desk.document.frame_size)
        except InputError as fault:
            desk.messages.faulted.emit(str(fault))
            return
        before = desk.document.state

        def drawn(wrinkle: Wrinkle) -> Wrinkle:
            given = wrinkle
            for name, source in shapes:
                wrinkle = layer_edits.add_layer(wrinkle, name, source)
            new = [x.id for x in layer_edits.added(given, wrinkle)]
            return grouping.group_layers(wrinkle, new, path.stem)

        if desk.document.edit(f"{path.name} added", drawn):
            new = layer_edits.added(before, desk.document.state)
            desk.looking.select_layer(next(x.id for x in new if isinstance(x.source, GroupSource)))

    def add_picture(self, path: Path) -> None:
        """Adds a picture file as a layer; its bytes go with the wrinkle."""
        asset = self._desk.document.keep_file(path)
        if asset is not None:
            self.add(path.stem, PictureSource(asset))

    def add_picture_bytes(self, name: str, content: bytes) -> None:
        """Adds a picture as a layer; its bytes go with the wrinkle."""
        try:
            asset = self._desk.document.keep_asset(name, content)
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
        else:
            self.add(name.rpartition(".")[0] or name, PictureSource(asset))


def _by_light(wrinkle: Wrinkle, clip: str) -> tuple[Wrinkle, str]:
    return revealed_by(wrinkle, clip, dark=False)


def _by_dark(wrinkle: Wrinkle, clip: str) -> tuple[Wrinkle, str]:
    return revealed_by(wrinkle, clip, dark=True)


def front_of(wrinkle: Wrinkle, group: str | None, besides: str) -> str | None:
    """The front-most layer of a group, a given one left out."""
    others = [x.id for x in within(wrinkle.layers, group) if x.id != besides]
    return others[-1] if others else None
