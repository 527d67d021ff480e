"""Wrinkles that the tests are made with, and random edits to them."""

from __future__ import annotations

from fractions import Fraction

from hypothesis import strategies as st

from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.setting_specs import SETTINGS
from wrinkle.core.design.document.sources import TreatmentSource
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import grouping, lane_edits, layer_edits, wrinkle_edits
from wrinkle.core.errors import InputError
from wrinkle.core.motion.feels import FEELS
from wrinkle.core.motion.setting_spec import ChoiceSpec
from wrinkle.core.motion.track import IncomingHalf, Keyframe, Track

FRAME = Fraction(1, 30)


def turning(degrees: float = 90.0) -> Wrinkle:
    """A plain cut under a treatment that turns through the cut."""
    track = Track(
        (Keyframe(-12 * FRAME, 0.0, FEELS["rush"]), Keyframe(Fraction(0), degrees)),
        IncomingHalf.CARRY_ON,
    )
    wrinkle = layer_edits.add_layer(plain_cut("Turning"), "Turn", TreatmentSource())
    return layer_edits.with_layers(
        wrinkle,
        (*wrinkle.layers[:2], wrinkle.layers[2].with_setting("rotation", Setting(0.0, track))),
    )


@st.composite
def edited(draw: st.DrawFn, wrinkle: Wrinkle) -> Wrinkle:
    """The wrinkle after one random edit; refused values leave it as it is."""
    layer = draw(st.sampled_from(wrinkle.layers or plain_cut().layers)).id
    ref = SettingRef(layer, draw(st.sampled_from(sorted(SETTINGS))))
    number = draw(st.floats(-120, 120, width=32))
    spec = SETTINGS[ref.key]
    value = number
    if isinstance(spec.neutral, tuple):
        value = tuple(number / n for n in range(1, len(spec.neutral) + 1))
    elif isinstance(spec.neutral, bool):
        value = number > 0
    elif isinstance(spec, ChoiceSpec):
        value = draw(st.sampled_from(spec.choices))
    time = draw(st.integers(-20, 20)) * FRAME
    index = draw(st.integers(0, 2))
    steps = [
        lambda w: lane_edits.set_value(w, ref, time, value),
        lambda w: lane_edits.make_lane(w, ref, time),
        lambda w: lane_edits.drop_lane(w, ref, time),
        lambda w: lane_edits.move_key(w, ref, index, time, value),
        lambda w: lane_edits.remove_key(w, ref, index),
        lambda w: lane_edits.set_ease(w, ref, index, draw(st.sampled_from(list(FEELS.values())))),
        lambda w: lane_edits.set_incoming(w, ref, draw(st.sampled_from(list(IncomingHalf)))),
        lambda w: layer_edits.add_layer(w, "New", TreatmentSource(), layer),
        lambda w: layer_edits.remove_layer(w, layer),
        lambda w: grouping.place_layer(w, layer, None, _another(w, layer, index)),
        lambda w: layer_edits.change_layer(w, layer, parent=draw(st.sampled_from(["turn", None]))),
        lambda w: wrinkle_edits.set_length(w, abs(time) + FRAME, FRAME * (index + 1)),
        lambda w: wrinkle_edits.set_shutter(w, number),
        lambda w: wrinkle_edits.rename(w, f"Name {index}"),
    ]
    try:
        return draw(st.sampled_from(steps))(wrinkle)
    except (InputError, IndexError, KeyError):
        return wrinkle


def _another(wrinkle: Wrinkle, layer: str, index: int) -> str | None:
    """A layer that another can be put in front of; none for the back."""
    others = [None, *(x.id for x in wrinkle.layers if x.id != layer)]
    return others[index]
