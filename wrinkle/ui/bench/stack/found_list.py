"""Rows of settings that were looked for, of all layers, each under the name of what it is of."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QPushButton, QScrollArea, QVBoxLayout, QWidget

from wrinkle.core.design.document.finding import Found, Which, found_settings
from wrinkle.ui.bench.sections.layer_row import LayerRow
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.plain_text import PlainLabel, tip

_MOST = 80
"""Rows; more than anybody reads, and each takes a while to make."""
_NOTHING = {
    Which.ALL: "No setting, effect or layer is called that.",
    Which.MOVING: "Nothing moves. The wave in a setting's row lets it.",
    Which.CHANGED: "All settings are as a new layer has them.",
}


class FoundList(QScrollArea):
    """What was found.

    Signals:
        layerWanted: the id of a layer whose card is to be seen.
    """

    layerWanted = pyqtSignal(str)

    def __init__(self, desk: Designing) -> None:
        super().__init__()
        self.setAccessibleName("Settings that were found")
        self._desk = desk
        self._found: list[Found] | None = None
        self.rows: list[LayerRow] = []
        self.headings: list[QPushButton] = []
        self.note = PlainLabel()
        self.note.setObjectName("quiet")
        self.note.setWordWrap(True)
        ground = QWidget()
        ground.setObjectName("ground")
        self._column = QVBoxLayout(ground)
        self._column.setContentsMargins(10, 0, 4, 0)
        self._column.setSpacing(4)
        self._column.addWidget(self.note)
        self._column.addStretch(1)
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setWidget(ground)

    def show_found(self, which: Which, words: str) -> None:
        """Looks in the wrinkle as it is now; rows are made anew only when others are found."""
        wrinkle = self._desk.document.state
        found = found_settings(wrinkle, which, words)
        if found != self._found:
            self._found = found
            self._make_rows(found[:_MOST])
            more = len(found) - _MOST
            said = f"{more} more are not shown; say it closer." if more > 0 else ""
            if not found:
                said = _NOTHING[Which.ALL if words.strip() else which]
            self.note.setText(said)
            self.note.setVisible(bool(said))
        self.refresh()

    def refresh(self) -> None:
        """Shows the values as they are now."""
        for row in self.rows:
            row.refresh()

    def forget(self) -> None:
        """Lets go of the rows while nobody looks for anything."""
        self._found = None
        self._make_rows([])

    def _make_rows(self, found: list[Found]) -> None:
        for old in (*self.rows, *self.headings):
            self._column.removeWidget(old)
            old.hide()
            old.deleteLater()
        self.rows, self.headings = [], []
        wrinkle = self._desk.document.state
        above: tuple[str, str] | None = None
        for one in found:
            layer = wrinkle.layer(one.ref.layer)
            if (layer.id, one.part) != above:
                above = layer.id, one.part
                self._add(self._heading(layer.id, layer.name, one.part))
            row = LayerRow(self._desk, one.ref)
            self.rows.append(row)
            self._add(row)

    def _add(self, widget: QWidget) -> None:
        self._column.insertWidget(self._column.count() - 1, widget)

    def _heading(self, layer: str, name: str, part: str) -> QPushButton:
        heading = QPushButton(" · ".join(x for x in (name, part) if x).replace("&", "&&"))
        heading.setObjectName("fold")
        heading.setToolTip(tip(f"Show the card of {name}"))
        heading.clicked.connect(lambda: self.layerWanted.emit(layer))
        self.headings.append(heading)
        return heading
