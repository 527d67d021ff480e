"""The grips on the result picture by keys: one is chosen, picked up, carried, put down."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PyQt6.QtCore import QLineF, QPointF, QRectF

from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import lane_edits
from wrinkle.ui.bench.picture.path_handles import PathGrasp, PathGrip, PathHandles
from wrinkle.ui.bench.picture.picture_handles import Drag, Grasp, Grip, PictureHandles
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.value_words import value_words

_Change = Callable[[int, int], Wrinkle]


@dataclass(frozen=True)
class KeyGrip:
    """Something on the picture that keys can carry.

    Attributes:
        words: what it is.
        spot: where it stands on the screen.
        change: the wrinkle with it so many steps across and up.
        point: of a path, the point that it is.
    """

    words: str
    spot: QPointF
    change: _Change
    point: int | None = None


class PictureHand:
    """What keys do on the result picture.

    Args:
        desk: with the layer and the path that are edited.
        handles: those of the layer as they stand.
        path: the path that is edited.
        shown: something else is chosen.
    """

    def __init__(
        self,
        desk: Designing,
        handles: Callable[[], PictureHandles | None],
        path: Callable[[], PathHandles | None],
        shown: Callable[[], object],
    ) -> None:
        self._desk = desk
        self._handles = handles
        self._path = path
        self._shown = shown
        self._place = 0
        self._taken: KeyGrip | None = None

    @property
    def grip(self) -> KeyGrip | None:
        """The chosen one as it stands now."""
        grips = self._grips()
        return grips[min(self._place, len(grips) - 1)] if grips else None

    def choose(self, by: int) -> str:
        """The next grip: position, scale, rotation, the pins of the way; or points of a path."""
        grips = self._grips()
        if not grips:
            return ""
        self._place = min(max(self._place + by, 0), len(grips) - 1)
        grip, mode = grips[self._place], self._desk.looking.mode
        if mode.outline is not None:
            mode.select_outline(mode.outline, grip.point)
        self._shown()
        return grip.words

    def take(self) -> str:
        """Takes hold of it."""
        self._taken = self.grip
        return self._taken.words if self._taken is not None else ""

    def carry(self, across: int, up: int) -> str:
        """By so many pixels of the frame; turned by degrees, scaled by per cent."""
        taken = self._taken
        if taken is None:
            return ""
        self._desk.document.preview(lambda wrinkle: taken.change(across, up))
        grip = self.grip
        return grip.words if grip is not None else ""

    def put(self) -> None:
        """What is shown is one step."""
        if self._taken is not None:
            self._desk.document.edit("moved on the picture")
        self._taken = None

    def let_go(self) -> None:
        """It stands where it stood."""
        self._taken = None
        self._desk.document.abandon()

    def _grips(self) -> list[KeyGrip]:
        path = self._path()
        if path is not None:
            return _of_path(path)
        handles = self._handles()
        return _of_layer(handles) if handles is not None else []


def _of_layer(handles: PictureHandles) -> list[KeyGrip]:
    grips = [
        KeyGrip(_value(handles, "position"), handles.anchor(), _dragged(handles, Grip.MOVE)),
        KeyGrip(_value(handles, "scale"), handles.scale_handles()[2], _stepped(handles, "scale")),
        KeyGrip(_value(handles, "rotation"), handles.turn_handle(), _stepped(handles, "rotation")),
    ]
    return grips + [
        KeyGrip(f"Pin {index + 1} of the way", spot, _dragged(handles, Grip.PATH_PIN, index, spot))
        for index, spot in handles.path_pins()
    ]


def _value(handles: PictureHandles, key: str) -> str:
    """A setting with its value at the playhead."""
    ref = SettingRef(handles.layer.id, key)
    spec = ref.spec(handles.wrinkle)
    value = handles.layer.setting(ref.address).at(handles.time)
    return f"{spec.label} {value_words(spec, value)}"


def _dragged(
    handles: PictureHandles, grip: Grip, index: int = 0, spot: QPointF | None = None
) -> _Change:
    start = handles.anchor() if spot is None else spot
    pixel = handles.area.width() / handles.frame_size.width

    def change(across: int, up: int) -> Wrinkle:
        goal = start + QPointF(across, -up) * pixel
        return handles.dragged(Grasp(grip, start, index), goal, Drag(free=True))

    return change


def _stepped(handles: PictureHandles, key: str) -> _Change:
    ref, wrinkle = SettingRef(handles.layer.id, key), handles.wrinkle

    def change(across: int, up: int) -> Wrinkle:
        value = ref.spec(wrinkle).stepped(ref.of(wrinkle).at(handles.time), across + up)
        return lane_edits.set_value(wrinkle, ref, handles.time, value)

    return change


def _of_path(path: PathHandles) -> list[KeyGrip]:
    def moved(index: int | None) -> _Change:
        return lambda across, up: path.nudged(index, across, -up)

    def turned(across: int, up: int) -> Wrinkle:
        start = QPointF(path.turn_handle())
        line = QLineF(path.pivot(), start)
        line.setAngle(line.angle() - across - up)
        return path.dragged(PathGrasp(PathGrip.TURN, start), line.p2(), False, False)

    points = [
        KeyGrip(f"Point {index + 1} of the path{_at(path.area, spot)}", spot, moved(index), index)
        for index, spot in enumerate(path.points())
    ]
    return [
        *points,
        KeyGrip("The whole path", path.pivot(), moved(None)),
        KeyGrip("The turn of the path", path.turn_handle(), turned),
    ]


def _at(area: QRectF, spot: QPointF) -> str:
    """Where it stands in the frame."""
    across = (spot.x() - area.left()) / max(area.width(), 1.0)
    down = (spot.y() - area.top()) / max(area.height(), 1.0)
    return f" at {across:.1%}, {down:.1%}"
