"""A layer as a card of the stack; the selected one is unfolded."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import partial

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.masking import MatteBy
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.setting_specs import PLACEMENT_SETTINGS
from wrinkle.core.design.document.slots import called
from wrinkle.core.design.edits import lane_edits, layer_edits
from wrinkle.core.design.edits.grouping import depth_of
from wrinkle.core.motion.values import number_of
from wrinkle.ui import icons
from wrinkle.ui.bench.sections.effect_costs import EffectCosts
from wrinkle.ui.bench.sections.effect_section import EffectSection
from wrinkle.ui.bench.sections.layer_row import LayerRow
from wrinkle.ui.bench.sections.mask_section import MaskSection, MatteSection
from wrinkle.ui.bench.sections.mask_worker import MaskWorker
from wrinkle.ui.bench.sections.plain_rows import PlainRow, choice_row
from wrinkle.ui.bench.sections.section import Section
from wrinkle.ui.bench.sections.source_section import SourceSection
from wrinkle.ui.bench.sections.time_section import TimeSection
from wrinkle.ui.bench.stack.layer_picture import LayerPicture
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.pictures.clip_pictures import ClipPictures
from wrinkle.ui.shared.curve_field import CurveField
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.theme import active, make_small

_INDENT = 14
_FIRST_OF_DEPTH = "tilt"
_PLACE = tuple(PLACEMENT_SETTINGS)
_IN_DEPTH = _PLACE[_PLACE.index(_FIRST_OF_DEPTH) :]
_FLAT = _PLACE[: _PLACE.index(_FIRST_OF_DEPTH)]
_Part = SourceSection | EffectSection | TimeSection | MaskSection | MatteSection | PlainRow


@dataclass(frozen=True)
class CardBasis:
    """What the cards of a stack have in common; a card that unfolds is folded as the one before.

    Attributes:
        worker, costs: work in the background that outlives the cards.
        clip_pictures: small pictures of the clips.
        open_sections: the titles of those that are unfolded.
        folded_effects: those whose settings are folded away, by layer and effect.
    """

    worker: MaskWorker
    costs: EffectCosts
    clip_pictures: ClipPictures
    open_sections: set[str] = field(default_factory=lambda: {"Place", "Effects", "Masks"})
    folded_effects: set[tuple[str, str]] = field(default_factory=set)


class LayerCard(QWidget):
    """One layer.

    Signals:
        dragged: the card is pulled over this spot of the stack.
        dropped: and let go there.
        folded: it is to be folded or unfolded.
    """

    dragged = pyqtSignal(QPoint)
    dropped = pyqtSignal(QPoint)
    folded = pyqtSignal()

    def __init__(
        self,
        desk: Supplying,
        layer_id: str,
        unfolded: bool,
        basis: CardBasis,
    ) -> None:
        super().__init__()
        self._desk = desk
        self.layer_id = layer_id
        self.unfolded = unfolded
        self.rows: list[LayerRow] = []
        self.sections: dict[str, Section] = {}
        self._basis = basis
        self.effects: EffectSection | None = None
        self._refreshers: list[Callable[[Layer], None]] = []
        self.picture = LayerPicture()
        self._shown: object = None
        self._selected = False
        self._press: QPoint | None = None
        self._pulled = False
        self.indent = _INDENT * depth_of(desk.document.state, self.layer)
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(4 + self.indent, 6, 6, 6)
        layout.setSpacing(4)
        layout.addLayout(self._head())
        if unfolded:
            self._unfold(layout)

    @property
    def layer(self) -> Layer:
        """The layer as it is now."""
        return self._desk.document.state.layer(self.layer_id)

    def refresh(self, layer: Layer, names: tuple[tuple[str, str], ...]) -> None:
        """Shows the state of the desk.

        Args:
            layer: the card's layer as it is now.
            names: the ids and names of all layers.
        """
        desk, theme = self._desk, active()
        editing = (
            desk.looking.mode.outline,
            desk.looking.mode.steps_keyed,
            desk.looking.mode.painting,
        )
        dials = desk.document.state.dials
        selected = desk.looking.layer == self.layer_id
        if selected != self._selected:
            self._selected = selected
            self.update()
        state = (layer, dials, desk.looking.time, theme.name, names, self.unfolded and editing)
        if state == self._shown:
            return
        self._shown = state
        self._name.setText(layer.name)
        if isinstance(self._name, QLineEdit):
            self._name.setCursorPosition(0)
        self.about.setText(_about(desk, layer))
        opacity = number_of(layer.opacity.at(desk.looking.time))
        blend = str(layer.blend.at(desk.looking.time))
        self.laid.setText(f"{round(opacity):g} %\n{blend}")
        self.laid.setToolTip(tip(f"Opacity {round(opacity, 1):g} %, blended {blend}"))
        shown = bool(layer.visible.at(desk.looking.time))
        self.eye.setChecked(shown)
        self.eye.setIcon(
            icons.icon(
                "button" if shown else "buttonhole",
                theme.ink if shown else theme.quiet,
            )
        )
        for row in self.rows:
            row.refresh()
        for refresher in self._refreshers:
            refresher(layer)

    def curve_fields(self) -> list[CurveField]:
        """The fields of curves among its effects."""
        return self.effects.curve_fields() if self.effects is not None else []

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme = active()
        painter.setBrush(theme.colour("selected" if self._selected else "ground"))
        painter.setPen(theme.colour("ink" if self._pulled else "rule"))
        painter.drawRoundedRect(self.rect().adjusted(self.indent, 0, -1, -1), 5, 5)

    def _head(self) -> QHBoxLayout:
        self._name: PlainLabel | QLineEdit
        if self.unfolded:
            self._name = QLineEdit()
            self._name.setAccessibleName("Name of the layer")
            self._name.editingFinished.connect(self._rename)
        else:
            self._name = ElidedLabel()
            self._name.setStyleSheet("font-weight: 600;")
        self.about = ElidedLabel()
        self.about.setObjectName("quiet")
        make_small(self.about)
        self.eye = QToolButton()
        self.eye.setCheckable(True)
        self.eye.setObjectName("eye")
        self.eye.setToolTip("Shown or hidden")
        self.eye.setAccessibleName("Layer shown")
        self.eye.clicked.connect(self._show)
        self.fold_button = QToolButton()
        self.fold_button.setObjectName("narrow")
        self.fold_button.setText("−" if self.unfolded else "+")
        self.fold_button.setToolTip(
            "Fold the card" if self.unfolded else "Unfold the card, beside those that are open"
        )
        self.fold_button.setAccessibleName(f"Fold or unfold {self.layer.name}")
        self.fold_button.clicked.connect(self.folded)
        self.laid = PlainLabel()
        self.laid.setObjectName("quiet")
        make_small(self.laid)
        self.laid.setAlignment(Qt.AlignmentFlag.AlignRight)
        words = QVBoxLayout()
        words.setSpacing(0)
        words.addWidget(self._name)
        words.addWidget(self.about)
        head = QHBoxLayout()
        head.setSpacing(4)
        head.addWidget(self.fold_button, 0, Qt.AlignmentFlag.AlignTop)
        head.addWidget(self.picture, 0, Qt.AlignmentFlag.AlignTop)
        head.addLayout(words, 1)
        head.addWidget(self.laid, 0, Qt.AlignmentFlag.AlignTop)
        head.addWidget(self.eye, 0, Qt.AlignmentFlag.AlignTop)
        return head

    def _unfold(self, layout: QVBoxLayout) -> None:
        for title, fill in (
            ("Picture", self._fill_picture),
            ("Place", self._fill_place),
            ("Depth and parent", self._fill_depth),
            ("Effects", self._fill_effects),
            ("Time", self._fill_time),
            ("Masks", self._fill_masks),
            ("Matte", self._fill_matte),
        ):
            self._add_section(layout, title, fill)
        for title, count in (
            ("Effects", lambda layer: len(layer.effects)),
            ("Masks", lambda layer: len(layer.masks)),
        ):
            self._refreshers.append(partial(_show_count, self.sections[title], count))

    def _fill_picture(self, section: Section) -> None:
        source = SourceSection(self._desk, self.layer, self._basis.clip_pictures)
        self._add_part(section, source)
        self.rows += source.rows
        for key in ("opacity", "blend", "within", "motion_blur", "visible"):
            self._add_row(section, key)

    def _fill_place(self, section: Section) -> None:
        # What is seen where a moved picture ends is looked for where it is moved.
        for key in (*_FLAT, "edge_cover"):
            self._add_row(section, key)

    def _fill_depth(self, section: Section) -> None:
        for key in _IN_DEPTH:
            self._add_row(section, key)
        self._add_parent(section)

    def _fill_effects(self, section: Section) -> None:
        self.effects = EffectSection(
            self._desk, self.layer, self._basis.costs, self._basis.folded_effects
        )
        self._add_part(section, self.effects)

    def _fill_time(self, section: Section) -> None:
        timing = TimeSection(self._desk, self.layer)
        self._add_part(section, timing)
        self.rows += timing.rows

    def _fill_masks(self, section: Section) -> None:
        self.masks = MaskSection(self._desk, self.layer, self._basis.worker)
        self._add_part(section, self.masks)

    def _fill_matte(self, section: Section) -> None:
        self.matte = MatteSection(self._desk, self.layer)
        self._add_part(section, self.matte)

    def _add_section(
        self, layout: QVBoxLayout, title: str, fill: Callable[[Section], None]
    ) -> None:
        opened = self._basis.open_sections
        section = Section(title, title in opened, fill)
        section.toggled.connect(
            lambda is_open: opened.add(title) if is_open else opened.discard(title)
        )
        self.sections[title] = section
        layout.addWidget(section)

    def _add_part(self, section: Section, part: _Part) -> None:
        section.rows.addWidget(part)
        self._refreshers.append(part.refresh)
        part.refresh(self.layer)

    def _add_row(self, section: Section, key: str) -> None:
        row = LayerRow(self._desk, SettingRef(self.layer_id, key))
        self.rows.append(row)
        section.rows.addWidget(row)

    def _add_parent(self, section: Section) -> None:
        """The layer whose place this one follows; a circle is refused with a sentence."""

        def others(layer: Layer) -> list[tuple[str, object]]:
            found: list[tuple[str, object]] = [("none", None)]
            found += [(x.name, x.id) for x in self._desk.document.state.layers if x.id != layer.id]
            return found

        def choose(parent: object) -> None:
            self._change("parent", parent=parent)
            row.refresh(self.layer)

        about = "This layer moves, turns and grows with its parent"
        row = choice_row("Parent", about, others, lambda layer: layer.parent, choose)
        row.field.setObjectName("parent")
        self._add_part(section, row)

    def _show(self, shown: bool) -> None:
        ref, time = SettingRef(self.layer_id, "visible"), self._desk.looking.time
        self._desk.document.edit("layer shown", lambda w: lane_edits.set_value(w, ref, time, shown))

    def _rename(self) -> None:
        text = self._name.text().strip()
        if text and text != self.layer.name:
            self._change("name of a layer", name=text)
        else:
            self._name.setText(self.layer.name)

    def _change(self, label: str, **fields: object) -> None:
        self._desk.document.edit(
            label, lambda w: layer_edits.change_layer(w, self.layer_id, **fields)
        )

    # Selecting and reordering

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._press = event.position().toPoint()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._press is None:
            return
        spot = event.position().toPoint()
        if not self._pulled and abs(spot.y() - self._press.y()) < 8:
            return
        self._pulled = True
        self.setCursor(Qt.CursorShape.ClosedHandCursor)
        self.dragged.emit(self.mapToParent(spot))
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._press is None:
            return
        self._press = None
        self.unsetCursor()
        if self._pulled:
            self._pulled = False
            self.dropped.emit(self.mapToParent(event.position().toPoint()))
        else:
            self._desk.looking.select_layer(self.layer_id)


def _show_count(section: Section, count: Callable[[Layer], int], layer: Layer) -> None:
    section.set_note(str(count(layer) or ""))


def _about(desk: Supplying, layer: Layer) -> str:
    slots = desk.document.state.slots
    words = [layer.source.words(lambda key: called(slots, key))]
    if layer.matte is not None:
        cutter = desk.document.state.layer(layer.matte.layer).name
        kind = "luma" if layer.matte.by is MatteBy.BRIGHTNESS else "alpha"
        words.append(f"cut by {cutter} ({'inverted ' if layer.matte.inverted else ''}{kind})")
    if layer.effects:
        words.append(" + ".join(use.effect.label for use in layer.effects))
    if layer.masks:
        words.append(f"{len(layer.masks)} mask{'s' if len(layer.masks) > 1 else ''}")
    moving = len(layer.lanes())
    if moving:
        words.append(f"{moving} lane{'s' if moving > 1 else ''}")
    return " · ".join(words)
