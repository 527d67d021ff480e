"""Wrinkles that use all there is: every kind of layer, every effect, masks, mattes, links."""

from __future__ import annotations

from fractions import Fraction

import cv2
import numpy as np
from msgspec.structs import replace

from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.mask_forms import MaskForm, form_outline
from wrinkle.core.design.document.masking import Matte, MatteBy
from wrinkle.core.design.document.setting import Jitter, Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import (
    FillSource,
    GroupSource,
    NoiseSource,
    PictureSource,
    ShapeSource,
    TreatmentSource,
    WordsSource,
)
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import effect_edits, lane_edits, layer_edits, mask_edits, matte_edits
from wrinkle.core.effects.registry import EFFECTS
from wrinkle.core.picture.image import Size

_AT_ONCE = 6


def rich_wrinkles() -> list[Bundle]:
    """Several, the effects shared out among them."""
    picture = cv2.imencode(".png", np.full((8, 8, 4), 200, np.uint8))[1].tobytes()
    keys = sorted(EFFECTS)
    found = []
    for start in range(0, len(keys), _AT_ONCE):
        wrinkle = _layers(plain_cut("Rich"))
        for key in keys[start : start + _AT_ONCE]:
            wrinkle, _ = effect_edits.add_effect(wrinkle, "shape", key)
        found.append(Bundle(wrinkle, {"a.png": picture}))
    return found


def _layers(wrinkle: Wrinkle) -> Wrinkle:
    for name, source in (
        ("fill", FillSource()), ("noise", NoiseSource()), ("words", WordsSource()),
        ("group", GroupSource()), ("shape", ShapeSource()), ("picture", PictureSource("a.png")),
        ("treatment", TreatmentSource()),
    ):  # fmt: skip
        wrinkle = layer_edits.add_layer(wrinkle, name, source)
    layers = tuple(
        replace(x, group="group") if x.id in ("words", "noise") else x for x in wrinkle.layers
    )
    wrinkle = replace(wrinkle, layers=layers)
    wrinkle = matte_edits.set_matte(wrinkle, "incoming", Matte("shape", MatteBy.COVERAGE))
    outline = form_outline(MaskForm.ELLIPSE, Size(1080, 1920))
    wrinkle, _ = mask_edits.add_mask(wrinkle, "outgoing", outline)
    wrinkle = layer_edits.change_layer(wrinkle, "picture", parent="shape")
    turn = SettingRef("outgoing", "rotation")
    wrinkle = lane_edits.make_lane(wrinkle, turn, Fraction(-1, 5))
    wrinkle = lane_edits.set_value(wrinkle, turn, Fraction(-1, 30), 90.0)
    scale = SettingRef("incoming", "scale")
    wrinkle = lane_edits.set_formula(wrinkle, scale, "100 + 20 * sin(t * 9), 100")
    jitter = Jitter(Setting(30.0))
    return lane_edits.set_jitter(wrinkle, SettingRef("outgoing", "position"), jitter)
