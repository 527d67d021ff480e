"""The masks of a layer and the matte that cuts it, as rows of its card."""

from __future__ import annotations

from functools import partial

from msgspec.structs import replace
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QMenu,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design.document.address import Address, Part
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.mask_forms import ROUND, MaskForm, form_outline
from wrinkle.core.design.document.masking import Mask, Matte, MatteBy
from wrinkle.core.design.document.setting import settings_in
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import TreatmentSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import grouping, mask_edits, matte_edits
from wrinkle.core.design.edits.mask_edits import path_ref
from wrinkle.core.design.edits.mask_motions import READY, MaskMotion, set_in_motion
from wrinkle.ui.bench.sections.layer_row import LayerRow
from wrinkle.ui.bench.sections.mask_worker import MaskWorker
from wrinkle.ui.bench.sections.plain_rows import PlainRow, choice_row, toggle_row
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.desk.picture_mode import PenGoal
from wrinkle.ui.shared.hanging_menu import hang_menu
from wrinkle.ui.shared.manual_page import about as about_page
from wrinkle.ui.shared.plain_text import tip


class MaskBox(QWidget):
    """One mask: its name, whether it acts, its path on the picture, and its settings."""

    def __init__(self, desk: Designing, layer: Layer, mask: Mask, worker: MaskWorker) -> None:
        super().__init__()
        self._desk = desk
        self._layer = layer.id
        self.mask_id = mask.id
        self._ref = path_ref(layer.id, mask.id)
        self.name = QLineEdit(mask.name)
        self.name.setAccessibleName("Name of the mask")
        self.name.editingFinished.connect(self._rename)
        self.edit_button = QToolButton()
        self.edit_button.setText("Edit")
        self.edit_button.setToolTip("Drag its points on the picture")
        self.edit_button.setCheckable(True)
        self.edit_button.setObjectName("toggle")
        self.edit_button.clicked.connect(
            lambda on: desk.looking.mode.select_outline(self._ref if on else None)
        )
        self.act_button = QToolButton()
        self.act_button.setText("On")
        self.act_button.setCheckable(True)
        self.act_button.setObjectName("toggle")
        self.act_button.setToolTip("Whether the mask acts")
        self.act_button.clicked.connect(lambda on: self._change("mask on or off", shown=on))
        drop = QToolButton()
        drop.setText("✕")
        drop.setToolTip("Delete the mask")
        drop.setAccessibleName("Delete the mask")
        drop.clicked.connect(self._remove)
        head = QHBoxLayout()
        head.setSpacing(4)
        head.addWidget(self.name, 1)
        for button in (self.edit_button, self.act_button, drop):
            head.addWidget(button)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 2, 0, 2)
        column.setSpacing(4)
        column.addLayout(head)
        column.addLayout(self._tools(worker))
        self.rows: list[LayerRow] = []
        for name in settings_in(mask):
            row = LayerRow(desk, SettingRef(layer.id, Address.of(Part.MASK, name, mask.id)))
            self.rows.append(row)
            column.addWidget(row)

    def _tools(self, worker: MaskWorker) -> QHBoxLayout:
        """Following, cutting out and painting."""
        line = QHBoxLayout()
        line.setSpacing(4)
        goal = (self._layer, self.mask_id)
        self.tools: dict[str, QToolButton] = {}
        for word, about, act in (
            ("◂ Follow", "Carry the path to the frames before", partial(worker.follow, *goal, -1)),
            ("Follow ▸", "Carry the path to the frames after", partial(worker.follow, *goal, 1)),
            ("Cut out", "Find the subject inside the path", partial(worker.cut_out, *goal)),
        ):
            button = QToolButton()
            button.setText(word)
            button.setToolTip(tip(about))
            button.setObjectName("plain")
            button.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
            button.clicked.connect(lambda checked, act=act: act())
            self.tools[word] = button
            line.addWidget(button, 1)
        line.addWidget(self._motions())
        self.paint_button = QToolButton()
        self.paint_button.setText("Paint")
        self.paint_button.setObjectName("toggle")
        self.paint_button.setCheckable(True)
        self.paint_button.setToolTip(
            "Paint what belongs to the subject, with Ctrl what does not; the wheel sets the brush"
        )
        self.paint_button.clicked.connect(
            lambda on: self._desk.looking.mode.paint(goal if on else None)
        )
        line.addWidget(self.paint_button)
        return line

    def _motions(self) -> QToolButton:
        """A lane of the path at once."""
        self.motion_button = QToolButton()
        self.motion_button.setText("Move")
        self.motion_button.setToolTip("Let the path sweep across, open or shut")
        menu = QMenu(self.motion_button)
        for motion in MaskMotion:
            action = menu.addAction(motion.value)
            if action is not None:
                action.triggered.connect(partial(self._move, motion))
        hang_menu(self.motion_button, menu)
        return self.motion_button

    def _move(self, motion: MaskMotion) -> None:
        self._desk.document.edit(
            f"mask that {motion.value.lower()}",
            lambda w: set_in_motion(w, self._layer, self.mask_id, motion),
        )

    def refresh(self, layer: Layer) -> None:
        """Shows the mask's state."""
        mask = layer.mask(self.mask_id)
        self.paint_button.setVisible(bool(mask.painted))
        self.paint_button.setChecked(
            self._desk.looking.mode.painting == (self._layer, self.mask_id)
        )
        if not self.name.hasFocus():
            self.name.setText(mask.name)
        self.act_button.setChecked(mask.shown)
        self.edit_button.setChecked(self._desk.looking.mode.outline == self._ref)
        for row in self.rows:
            row.refresh()

    def _rename(self) -> None:
        text = self.name.text().strip()
        mask = self._desk.document.state.layer(self._layer).mask(self.mask_id)
        if text and text != mask.name:
            self._change("name of a mask", name=text)
        else:
            self.name.setText(mask.name)

    def _change(self, label: str, **fields: object) -> None:
        self._desk.document.edit(
            label, lambda w: mask_edits.change_mask(w, self._layer, self.mask_id, **fields)
        )

    def _remove(self) -> None:
        self._desk.document.edit(
            "mask deleted", lambda w: mask_edits.remove_mask(w, self._layer, self.mask_id)
        )


class MaskSection(QWidget):
    """All masks of a layer, and the menu that adds one."""

    def __init__(self, desk: Designing, layer: Layer, worker: MaskWorker) -> None:
        super().__init__()
        self._desk = desk
        self._worker = worker
        about_page(self, "masks")
        self._layer = layer.id
        self.boxes: list[MaskBox] = []
        self.add_button = QToolButton()
        self.add_button.setText("Add mask")
        self.add_button.setObjectName("add")
        menu = QMenu(self)
        for form in MaskForm:
            action = menu.addAction(form.value)
            if action is not None:
                action.triggered.connect(lambda checked, form=form: self.add(form))
        menu.addSeparator()
        for form, motion in READY:
            action = menu.addAction(f"{form.value} that {motion.value.lower()}")
            if action is not None:
                action.triggered.connect(partial(self.add, form, motion))
        ring = menu.addAction("Ring of two ellipses")
        if ring is not None:
            ring.triggered.connect(self.add_ring)
        menu.addSeparator()
        drawn = menu.addAction("Draw on the picture…")
        if drawn is not None:
            drawn.triggered.connect(lambda: desk.looking.mode.draw_outline(PenGoal.MASK))
        hang_menu(self.add_button, menu)
        self.keyed = QToolButton()
        self.keyed.setText("Key every step")
        self.keyed.setToolTip("Each step by one frame takes the path along and keys it there")
        self.keyed.setCheckable(True)
        self.keyed.setObjectName("toggle")
        self.keyed.clicked.connect(desk.looking.mode.key_steps)
        line = QHBoxLayout()
        line.addWidget(self.add_button)
        line.addStretch(1)
        line.addWidget(self.keyed)
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(4)
        self._column.addLayout(line)

    def refresh(self, layer: Layer) -> None:
        """Shows the layer's masks; boxes are made anew only when they are others."""
        self.keyed.setChecked(self._desk.looking.mode.steps_keyed)
        if [box.mask_id for box in self.boxes] != [mask.id for mask in layer.masks]:
            for box in self.boxes:
                self._column.removeWidget(box)
                box.hide()
                box.deleteLater()
            self.boxes = [MaskBox(self._desk, layer, mask, self._worker) for mask in layer.masks]
            for box in self.boxes:
                self._column.addWidget(box)
        for box in self.boxes:
            box.refresh(layer)

    def add(self, form: MaskForm, motion: MaskMotion | None = None) -> None:
        """Adds a ready form, in motion or still, and shows its points on the picture."""
        outline = form_outline(form, self._desk.document.frame_size)
        keeps = form in ROUND
        add_mask(self._desk, self._layer, outline, form.value, keeps, motion)

    def add_ring(self) -> None:
        """Adds a soft ring, two masks in one step."""
        desk = self._desk
        frame = desk.document.frame_size
        desk.document.edit("ring", lambda w: mask_edits.add_ring(w, self._layer, frame)[0])


def add_mask(
    desk: Designing,
    layer: str,
    outline: tuple[float, ...],
    name: str | None = None,
    keeps_form: bool = False,
    motion: MaskMotion | None = None,
) -> None:
    """Adds a mask, in motion or still, and edits it on the picture."""
    made: list[str] = []

    def change(wrinkle: Wrinkle) -> Wrinkle:
        changed, mask = mask_edits.add_mask(wrinkle, layer, outline, name, keeps_form)
        made.append(mask)
        return set_in_motion(changed, layer, mask, motion) if motion is not None else changed

    if desk.document.edit("mask added", change):
        desk.looking.mode.select_outline(path_ref(layer, made[-1]))


def layers_to_link(
    desk: Designing, layer: Layer, nothing: str = "nothing"
) -> list[tuple[str, object]]:
    """The layers that can cut a layer or be looked at by its effects, front-most first."""
    found: list[tuple[str, object]] = [(nothing, None)]
    for other in grouping.front_to_back(desk.document.state):
        if other.id != layer.id and not isinstance(other.source, TreatmentSource):
            found.append((other.name, other.id))
    return found


class MatteSection(QWidget):
    """Which layer cuts this one, by what, and whether inverted."""

    def __init__(self, desk: Designing, layer: Layer) -> None:
        super().__init__()
        self._desk = desk
        self._layer = layer.id
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        self.rows: list[PlainRow] = [
            choice_row(
                "Cut by",
                "The layer whose brightness or coverage cuts this one; it may be hidden.",
                lambda layer: layers_to_link(desk, layer),
                lambda x: x.matte.layer if x.matte is not None else None,
                self._choose,
            ),
            choice_row(
                "By its",
                "Brightness is a luma matte, coverage an alpha matte.",
                [(by.value, by) for by in MatteBy],
                lambda x: x.matte.by if x.matte is not None else MatteBy.BRIGHTNESS,
                lambda by: self._set(by=by),
            ),
            toggle_row(
                "Matte",
                "What the matte does not have is shown.",
                "Inverted",
                lambda x: x.matte is not None and x.matte.inverted,
                lambda on: self._set(inverted=on),
            ),
        ]
        for row in self.rows:
            column.addWidget(row)

    def refresh(self, layer: Layer) -> None:
        """Shows the layer's matte."""
        for row in self.rows:
            row.refresh(layer)
        for row in self.rows[1:]:
            row.setVisible(layer.matte is not None)

    def _choose(self, cutter: object) -> None:
        old = self._desk.document.state.layer(self._layer).matte
        matte = None
        if isinstance(cutter, str):
            by = matte_edits.usual_by(self._desk.document.state.layer(cutter))
            matte = Matte(cutter, by) if old is None else replace(old, layer=cutter)
        self._desk.document.edit("matte", lambda w: matte_edits.set_matte(w, self._layer, matte))
        self.refresh(self._desk.document.state.layer(self._layer))

    def _set(self, **fields: object) -> None:
        old = self._desk.document.state.layer(self._layer).matte
        if old is not None:
            matte = replace(old, **fields)
            self._desk.document.edit(
                "matte", lambda w: matte_edits.set_matte(w, self._layer, matte)
            )
