"""One effect in a card: its name, whether it acts, what it looks at, and its settings."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QMenu,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design import edits, effect_edits
from wrinkle.core.design.document import INCOMING, OUTGOING, Layer, Wrinkle
from wrinkle.core.design.edits import SettingRef
from wrinkle.core.design.effect_use import EffectUse
from wrinkle.core.errors import InputError
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.image import Image, Size, from_bytes8
from wrinkle.core.picture.palette import palette
from wrinkle.core.render.beneath import beneath
from wrinkle.media.cdl import CDL_SUFFIXES, ColourDecision, read_decisions
from wrinkle.ui.bench.hue_rows import HuePads, HueRange
from wrinkle.ui.bench.lut_list import LutList
from wrinkle.ui.bench.mask_section import layers_to_link
from wrinkle.ui.bench.plain_rows import PlainRow, choice_row
from wrinkle.ui.bench.setting_row import SettingRow
from wrinkle.ui.session import Session
from wrinkle.ui.theme import active, small_font

_PULL = 6
_PALETTE_SIDE = 96


class EffectBox(QWidget):
    """One effect: its name (pulled to reorder the chain), whether it acts, and its settings.

    Signals:
        pulled: the box is pulled over this height of the section.
        dropped: and let go there.
    """

    pulled = pyqtSignal(int)
    dropped = pyqtSignal(int)

    def __init__(self, session: Session, layer: Layer, use: EffectUse) -> None:
        super().__init__()
        self._session = session
        self._layer = layer.id
        self.use_id = use.id
        self._press: QPoint | None = None
        self._moving = False
        name = QLabel(use.effect.label)
        name.setStyleSheet("font-weight: 600;")
        name.setToolTip(f"{use.effect.about} Pull to change the order of the chain.")
        name.setCursor(Qt.CursorShape.OpenHandCursor)
        # The label leaves the mouse to the box, which is what is pulled.
        name.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.act_button = QToolButton()
        self.act_button.setText("On")
        self.act_button.setCheckable(True)
        self.act_button.setObjectName("toggle")
        self.act_button.setToolTip("Whether the effect acts")
        self.act_button.clicked.connect(self._switch)
        drop = QToolButton()
        drop.setText("✕")
        drop.setToolTip("Take the effect out")
        drop.setAccessibleName(f"Take {use.effect.label} out")
        drop.clicked.connect(self._remove)
        self.cost = QLabel()
        self.cost.setObjectName("quiet")
        self.cost.setFont(small_font(self.font()))
        head = QHBoxLayout()
        head.setSpacing(4)
        head.addWidget(name, 1)
        head.addWidget(self.cost)
        head.addWidget(self.act_button)
        head.addWidget(drop)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 2, 0, 4)
        column.setSpacing(4)
        column.addLayout(head)
        self.file_button = self._file_button(use)
        if self.file_button is not None:
            about = "Where its values or its colours are read from"
            column.addWidget(PlainRow("From", about, self.file_button))
        self.link_row: PlainRow | None = None
        if use.effect.needs_layer:
            about = "The layer that the effect looks at; it may be hidden"
            nothing = "what lies below" if use.effect.sees_below else "nothing"
            self.link_row = choice_row(
                "By layer",
                about,
                lambda layer: layers_to_link(session, layer, nothing),
                lambda layer: layer.effect_use(self.use_id).layer,
                self._link,
            )
            column.addWidget(self.link_row)
        self.pads = HuePads(session, layer, use) if use.effect.pads else None
        self.hues = HueRange(session, layer, use) if use.effect.hue_range else None
        for picked in (self.pads, self.hues):
            if picked is not None:
                column.addWidget(picked)
        self.rows = [SettingRow(session, SettingRef(layer.id, key)) for key in use.setting_keys()]
        for row in self.rows:
            column.addWidget(row)

    def refresh(self, layer: Layer) -> None:
        """Shows the effect's state."""
        use = layer.effect_use(self.use_id)
        self.act_button.setChecked(use.shown)
        if self.file_button is not None and use.effect.needs_lut:
            self.file_button.setText(use.asset or "Choose a LUT…")
        if self.link_row is not None:
            self.link_row.refresh(layer)
        for part in (self.pads, self.hues, *self.rows):
            if part is not None:
                part.refresh()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        theme = active()
        painter.setPen(theme.colour("ink" if self._moving else "rule"))
        painter.drawLine(0, 0, self.width(), 0)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._press = event.position().toPoint()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._press is None:
            return
        spot = event.position().toPoint()
        if self._moving or abs(spot.y() - self._press.y()) >= _PULL:
            self._moving = True
            self.pulled.emit(self.mapToParent(spot).y())
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._moving:
            self.dropped.emit(self.mapToParent(event.position().toPoint()).y())
        self._press, self._moving = None, False
        self.update()

    def _switch(self, on: bool) -> None:
        self._change("effect on or off", shown=on)

    def _link(self, target: object) -> None:
        self._change("layer of an effect", layer=target)
        self.refresh(self._session.wrinkle.layer(self._layer))

    def _file_button(self, use: EffectUse) -> QToolButton | None:
        """The button that reads a table, decisions or a palette, for an effect that can."""
        effect = use.effect
        if not (effect.needs_lut or effect.reads_decisions or effect.palette):
            return None
        button = QToolButton()
        button.setObjectName("plain")
        button.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        if effect.needs_lut:
            button.clicked.connect(self.choose_lut)
        elif effect.reads_decisions:
            button.setText("Read a colour decision…")
            button.clicked.connect(self._choose_decision)
        else:
            button.setText("Palette of a clip")
            menu = QMenu(button)
            for name, show in (
                ("Outgoing clip at the cut", lambda size: self._at_the_cut(OUTGOING.key, size)),
                ("Incoming clip at the cut", lambda size: self._at_the_cut(INCOMING.key, size)),
                ("This layer on this frame", self._under_effects),
            ):
                action = menu.addAction(name)
                if action is not None:
                    action.triggered.connect(partial(self._take_palette, show))
            button.setMenu(menu)
            button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        return button

    def choose_lut(self) -> LutList:
        """Opens the list of colour tables."""
        listed = LutList(self._session, self._layer, self.window())
        listed.chosen.connect(lambda path: self.take_file(Path(path)))
        listed.open()
        return listed

    def take_file(self, path: Path) -> None:
        """Reads a colour table for the effect."""
        asset = self._session.keep_file(path)
        if asset is not None:
            self._change(f"LUT {path.stem}", asset=asset)

    def _choose_decision(self) -> None:
        kinds = " ".join(f"*{suffix}" for suffix in CDL_SUFFIXES)
        title = "Read a colour decision"
        name, _ = QFileDialog.getOpenFileName(self, title, "", f"Colour decisions ({kinds})")
        if name:
            self.take_decision(Path(name))

    def take_decision(self, path: Path) -> None:
        """Reads a colour decision into the effect's values; of several a person chooses."""
        session = self._session
        try:
            decisions = read_decisions(path)
        except InputError as fault:
            session.faulted.emit(str(fault))
            return
        chosen = decisions[0]
        if len(decisions) > 1:
            names = [one.name for one in decisions]
            name, taken = QInputDialog.getItem(
                self, "Read a colour decision", f"{path.name} holds several:", names, 0, False
            )
            if not taken:
                return
            chosen = decisions[names.index(name)]
        values = _values_of(chosen)
        if self._set_values(f"colour decision {chosen.name}", values):
            specs = {spec.key: spec for spec in self._use.effect.settings}
            held = [key for key, value in values.items() if specs[key].limited(value) != value]
            if held:
                session.faulted.emit(
                    f"The {' and the '.join(held)} of '{chosen.name}' lie beyond what the effect "
                    "holds and are read as its largest or smallest."
                )

    def _take_palette(self, show: Callable[[Size], Image]) -> None:
        """Takes the colours of a clip: as many as the effect has."""
        session = self._session
        effect = self._use.effect
        try:
            size = session.frame_size
            picture = show(size.scaled(_PALETTE_SIDE / min(size)))
        except InputError as fault:
            session.faulted.emit(str(fault))
            return
        found = palette(picture, len(effect.palette))
        if not found:
            session.faulted.emit("There is no picture to take colours from; move the playhead.")
            return
        # Of a picture with fewer colours the lightest stands for the rest.
        colours = [*found, *[found[-1]] * (len(effect.palette) - len(found))]
        self._set_values("palette of a clip", dict(zip(effect.palette, colours, strict=True)))

    def _at_the_cut(self, slot: str, size: Size) -> Image:
        filling = self._session.material().slots.get(slot)
        if filling is None:
            raise InputError(f"There is no {slot} clip yet; drop one on its picture first.")
        source = filling.source
        return source.image(source.index_at(filling.cut), size)

    def _under_effects(self, size: Size) -> Image:
        session = self._session
        bare = effect_edits.without_effects(session.wrinkle)
        return from_bytes8(beneath(bare, session.material(), self._layer, session.time, size))

    @property
    def _use(self) -> EffectUse:
        return self._session.wrinkle.layer(self._layer).effect_use(self.use_id)

    def _set_values(self, label: str, values: Mapping[str, Value]) -> bool:
        """Sets several settings at the playhead, as far as they hold them, in one step."""
        use, time = self._use, self._session.time

        def changed(wrinkle: Wrinkle) -> Wrinkle:
            for name, value in values.items():
                ref = SettingRef(self._layer, use.key(name))
                held = use.effect.spec(name).limited(value)
                wrinkle = edits.set_value(wrinkle, ref, time, held)
            return wrinkle

        return self._session.edit(label, changed)

    def _change(self, label: str, **fields: object) -> None:
        self._session.edit(
            label, lambda w: effect_edits.change_effect(w, self._layer, self.use_id, **fields)
        )

    def _remove(self) -> None:
        self._session.edit(
            "effect taken out",
            lambda w: effect_edits.remove_effect(w, self._layer, self.use_id),
        )


def _values_of(decision: ColourDecision) -> dict[str, Value]:
    """A decision as the effect's settings hold it: half of a slope and a power, grey for none."""
    return {
        "slope": tuple(part / 2.0 for part in decision.slope),
        "offset": tuple((part + 1.0) / 2.0 for part in decision.offset),
        "power": tuple(part / 2.0 for part in decision.power),
        "saturation": decision.saturation * 100.0,
    }
