"""Edits of masks and of paths, whose points are changed in every keyframe alike."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from typing import Any

from msgspec.structs import replace

from wrinkle.core.design.document.address import Address, Part
from wrinkle.core.design.document.mask_forms import MaskForm, form_outline
from wrinkle.core.design.document.masking import Mask
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import lane_edits, layer_edits
from wrinkle.core.mask.coverage import Combine
from wrinkle.core.motion.track import Keyframe, Track
from wrinkle.core.motion.values import parts
from wrinkle.core.picture import paths
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.paths import Outline

_RING = 5.0
"""How wide a ring is, and how soft, in per cent of the short side."""


def add_mask(
    wrinkle: Wrinkle,
    layer_id: str,
    outline: Outline,
    name: str | None = None,
    keeps_form: bool = False,
) -> tuple[Wrinkle, str]:
    """One more mask for a layer, and its id."""
    layer = wrinkle.layer(layer_id)
    taken = {mask.id for mask in layer.masks}
    number = next(n for n in range(1, len(taken) + 2) if f"m{n}" not in taken)
    mask = Mask(id=f"m{number}", name=name or f"Mask {number}", path=Setting(outline))
    mask = replace(mask, keeps_form=Setting(keeps_form))
    return layer_edits.with_layer(wrinkle, replace(layer, masks=(*layer.masks, mask))), mask.id


def add_ring(wrinkle: Wrinkle, layer_id: str, frame_size: Size) -> tuple[Wrinkle, str]:
    """Two soft ellipses, the second of which takes its inside from the first; and its id."""
    outer = form_outline(MaskForm.ELLIPSE, frame_size)
    second = ""
    for name, combine, expansion in (
        ("Outside", Combine.ADD, 0.0),
        ("Inside", Combine.SUBTRACT, -_RING),
    ):
        wrinkle, second = add_mask(wrinkle, layer_id, outer, name, keeps_form=True)
        mask = wrinkle.layer(layer_id).mask(second)
        soft = replace(
            mask,
            combine=Setting(combine.value),
            expansion=Setting(expansion),
            feather=Setting(_RING),
        )
        wrinkle = layer_edits.with_layer(wrinkle, wrinkle.layer(layer_id).with_mask(soft))
    return wrinkle, second


def remove_mask(wrinkle: Wrinkle, layer_id: str, mask_id: str) -> Wrinkle:
    """Takes a mask away."""
    layer = wrinkle.layer(layer_id)
    kept = tuple(mask for mask in layer.masks if mask.id != mask_id)
    return layer_edits.with_layer(wrinkle, replace(layer, masks=kept))


def change_mask(wrinkle: Wrinkle, layer_id: str, mask_id: str, **fields: Any) -> Wrinkle:
    """Sets plain fields of a mask: name, shown, painted, confidence."""
    layer = wrinkle.layer(layer_id)
    return layer_edits.with_layer(wrinkle, layer.with_mask(replace(layer.mask(mask_id), **fields)))


def path_ref(layer_id: str, mask_id: str | None) -> SettingRef:
    """The path of a mask, or of the shape itself."""
    part = Part.SOURCE if mask_id is None else Part.MASK
    return SettingRef(layer_id, Address.of(part, "path", mask_id or ""))


def insert_point(wrinkle: Wrinkle, ref: SettingRef, segment: int, share: float) -> Wrinkle:
    """One more point on a segment of a path, in every keyframe; no form changes."""
    return _every_path(wrinkle, ref, lambda outline: paths.inserted(outline, segment, share))


def remove_point(wrinkle: Wrinkle, ref: SettingRef, index: int) -> Wrinkle:
    """Takes a point out of a path, in every keyframe.

    Raises:
        InputError: fewer than two would be left.
    """
    return _every_path(wrinkle, ref, lambda outline: paths.removed(outline, index))


def convert_point(wrinkle: Wrinkle, ref: SettingRef, index: int, time: Fraction) -> Wrinkle:
    """Makes a corner smooth, or a smooth point a corner, at a time."""
    outline = parts(ref.of(wrinkle).at(time))
    knot = paths.knots(outline)[index]
    change = paths.smoothed if knot.corner else paths.cornered
    return lane_edits.set_value(wrinkle, ref, time, change(outline, index))


def set_path(
    wrinkle: Wrinkle, ref: SettingRef, time: Fraction, outline: Outline, keyed: bool
) -> Wrinkle:
    """Sets a path at a time; ``keyed`` makes it a lane first, so that every step is kept."""
    if keyed and ref.of(wrinkle).track is None:
        wrinkle = lane_edits.make_lane(wrinkle, ref, time)
    if ref.address.mask:
        # What a person set by hand is sure: following begins anew from it.
        mask = wrinkle.layer(ref.layer).mask(ref.address.mask)
        sure = tuple(one for one in mask.confidence if one[0] != time)
        if sure != mask.confidence:
            wrinkle = change_mask(wrinkle, ref.layer, mask.id, confidence=sure)
    return lane_edits.set_value(wrinkle, ref, time, outline)


def set_followed(
    wrinkle: Wrinkle,
    layer_id: str,
    mask_id: str,
    followed: dict[Fraction, tuple[Outline, float]],
) -> Wrinkle:
    """Keys a path at each followed time and keeps how sure it is there; other keys stay."""
    if not followed:
        return wrinkle
    ref = path_ref(layer_id, mask_id)
    setting = ref.of(wrinkle)
    keys = {key.time: key for key in setting.track.keys} if setting.track is not None else {}
    for time, (outline, _) in followed.items():
        keys[time] = Keyframe(time, outline)
    ordered = tuple(keys[time] for time in sorted(keys))
    layer = wrinkle.layer(layer_id)
    mask = layer.mask(mask_id)
    sure = dict(mask.confidence)
    sure.update({time: confidence for time, (_, confidence) in followed.items()})
    layer = layer.with_mask(replace(mask, confidence=tuple(sorted(sure.items()))))
    layer = layer.with_setting(ref.key, replace(setting, track=Track(ordered)))
    return layer_edits.with_layer(wrinkle, layer)


def _every_path(wrinkle: Wrinkle, ref: SettingRef, change: Callable[[Outline], Outline]) -> Wrinkle:
    layer = wrinkle.layer(ref.layer)
    moved = layer.setting(ref.key).mapped(lambda value: change(parts(value)))
    changed = layer.with_setting(ref.key, moved)
    return layer_edits.with_layer(wrinkle, changed)
