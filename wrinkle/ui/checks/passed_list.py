"""All checks with nothing to say: each passed, with what was measured against what may be."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from wrinkle.core.examine.examined import Examined
from wrinkle.core.measure.check import Check
from wrinkle.core.measure.registry import CHECKS
from wrinkle.core.measure.traces import TRACES
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.plain_text import PlainLabel, tip


def figure_of(check: Check, examined: Sequence[Examined]) -> str:
    """The worst that was measured for a check, and its limit; empty where it has no number."""
    trace = TRACES.get(check.trace) if check.trace else None
    if trace is None or not trace.limits:
        return ""
    limit = min(one.value for one in trace.limits)
    unit = f" {trace.unit.strip()}" if trace.unit.strip() else ""
    values = [line.values for one in examined for line in one.lines.get(check.trace, ())]
    known = [float(np.nanmax(x)) for x in values if np.isfinite(x).any()]
    if not known:
        return f"nothing measured; at most {limit:g}{unit}"
    return f"{max(known):.{trace.digits}f} of {limit:g}{unit}"


class PassedRow(QWidget):
    """One check."""

    def __init__(self, check: Check) -> None:
        super().__init__()
        self.check = check
        name = PlainLabel(f"✓ {check.label}")
        name.setStyleSheet("font-weight: 600;")
        self.figure = PlainLabel()
        self.figure.setObjectName("quiet")
        self.figure.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        about = ElidedLabel(check.about)
        about.setObjectName("quiet")
        about.setToolTip(tip(check.about))
        top = QHBoxLayout()
        top.addWidget(name, 1)
        top.addWidget(self.figure)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 6, 12, 6)
        column.setSpacing(2)
        column.addLayout(top)
        column.addWidget(about)


class PassedList(QScrollArea):
    """Every check, in the order in which they are made."""

    def __init__(self) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName("What passed")
        ground = QWidget()
        ground.setObjectName("ground")
        column = QVBoxLayout(ground)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.rows = [PassedRow(check) for check in CHECKS.values()]
        for row in self.rows:
            column.addWidget(row)
        column.addStretch(1)
        self.setWidget(ground)

    def show_examined(self, examined: Sequence[Examined]) -> None:
        """Shows what was measured."""
        for row in self.rows:
            row.figure.setText(figure_of(row.check, examined))
