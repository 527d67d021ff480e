"""Settings of a layer mirrored: what is left and right, or up and down, is exchanged."""

from __future__ import annotations

from collections.abc import Callable
from enum import Enum

from wrinkle.core.design.setting import Setting
from wrinkle.core.motion.values import Value, number_of, pair_of, parts
from wrinkle.core.picture import paths
from wrinkle.core.picture.placement import scaling, translation


class Mirror(Enum):
    """What is exchanged."""

    NONE = "as it is"
    ACROSS = "left and right exchanged"
    DOWN = "up and down exchanged"


def mirrored(name: str, setting: Setting, mirror: Mirror) -> Setting:
    """A setting of a placement, mirrored about the middle of the frame.

    Args:
        name: of the setting.
        setting: as it is.
        mirror: what is exchanged.
    """
    if mirror is Mirror.NONE or name in _LEFT_ALONE:
        return setting
    change = _PAIRS.get(name)
    if change is None:
        return setting.mapped(lambda value: -number_of(value))
    across = mirror is Mirror.ACROSS
    return setting.mapped(lambda value: change(*pair_of(value), across))


def mirrored_path(setting: Setting, mirror: Mirror) -> Setting:
    """An outline in parts of the frame, mirrored about the frame's middle."""
    if mirror is Mirror.NONE:
        return setting
    matrix = (
        translation(1.0, 0.0) @ scaling(-1.0, 1.0)
        if mirror is Mirror.ACROSS
        else translation(0.0, 1.0) @ scaling(1.0, -1.0)
    )
    return setting.mapped(lambda value: paths.transformed(parts(value), matrix))


_LEFT_ALONE = frozenset({"scale", "camera"})
_PAIRS: dict[str, Callable[[float, float, bool], Value]] = {
    "position": lambda x, y, across: (-x, y) if across else (x, -y),
    "anchor": lambda x, y, across: (1 - x, y) if across else (x, 1 - y),
    "tilt": lambda x, y, across: (x, -y) if across else (-x, y),
}
