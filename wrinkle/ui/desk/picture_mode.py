"""What is edited on the result picture: a path, a new outline, or a cut-out that is painted."""

from __future__ import annotations

from enum import Enum

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle

_FINEST, _WIDEST = 0.5, 60.0


class PenGoal(Enum):
    """What the outline that is being drawn on the picture becomes."""

    MASK = "mask"
    SHAPE = "shape"


class PictureMode(QObject):
    """One of three things at a time, or none: then the layer itself is moved.

    Signals:
        changed: another thing is edited, or another point of it.
        pictureChanged: the picture has to be shown anew for it.
    """

    changed = pyqtSignal()
    pictureChanged = pyqtSignal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._outline: SettingRef | None = None
        self._point: int | None = None
        self._pen: PenGoal | None = None
        self._painting: tuple[str, str] | None = None
        self._brush = 8.0
        self._steps_keyed = False

    @property
    def outline(self) -> SettingRef | None:
        """The path that is edited, of a mask or a shape."""
        return self._outline

    @property
    def point(self) -> int | None:
        """The selected point of that path."""
        return self._point

    @property
    def pen(self) -> PenGoal | None:
        """What is being drawn point by point."""
        return self._pen

    @property
    def painting(self) -> tuple[str, str] | None:
        """The layer and the mask whose cut-out is painted."""
        return self._painting

    @property
    def brush(self) -> float:
        """The width of the brush, in per cent of the frame's short side."""
        return self._brush

    @property
    def steps_keyed(self) -> bool:
        """Whether each step by a frame keys the path that is edited."""
        return self._steps_keyed

    def select_outline(self, ref: SettingRef | None, point: int | None = None) -> None:
        """Edits a path, one of its points selected; None ends that."""
        if (ref, point) != (self._outline, self._point):
            self._become(outline=ref, point=point)

    def draw_outline(self, goal: PenGoal | None) -> None:
        """Begins to draw an outline, or ends it."""
        if goal is not self._pen:
            self._become(pen=goal)

    def paint(self, goal: tuple[str, str] | None) -> None:
        """Begins to paint the cut-out of a layer's mask, or ends it."""
        if goal != self._painting:
            self._become(painting=goal)

    def set_brush(self, width: float) -> None:
        """Sets the width of the brush, in per cent of the frame's short side."""
        self._brush = min(max(width, _FINEST), _WIDEST)
        self.changed.emit()

    def key_steps(self, on: bool) -> None:
        """Lets each step by a frame key the path that is edited, or no longer."""
        if on != self._steps_keyed:
            self._steps_keyed = on
            self.changed.emit()

    def end(self) -> None:
        """Nothing is edited any more."""
        if (self._outline, self._pen, self._painting) != (None, None, None):
            self._become()

    def keep_valid(self, wrinkle: Wrinkle) -> None:
        """Ends the editing of what is no longer there."""
        lost = self._outline is not None and not self._outline.exists(wrinkle)
        if self._painting is not None and not _is_painted(wrinkle, *self._painting):
            lost = True
        if lost:
            self._become()

    def _become(
        self,
        outline: SettingRef | None = None,
        point: int | None = None,
        pen: PenGoal | None = None,
        painting: tuple[str, str] | None = None,
    ) -> None:
        shown_anew = painting != self._painting
        self._outline, self._point, self._pen = outline, point, pen
        self._painting = painting
        self.changed.emit()
        if shown_anew:
            self.pictureChanged.emit()


def _is_painted(wrinkle: Wrinkle, layer: str, mask: str) -> bool:
    masks = [m for x in wrinkle.layers if x.id == layer for m in x.masks if m.id == mask]
    return bool(masks and masks[0].painted)
