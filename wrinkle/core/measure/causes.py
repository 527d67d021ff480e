"""What of a wrinkle makes something be seen: found by leaving one thing out after the other."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field

from msgspec.structs import replace

from wrinkle.core.design.document.layer import Layer, Placement
from wrinkle.core.design.document.links import links_of
from wrinkle.core.design.document.resting import rests_plainly
from wrinkle.core.design.document.setting import Setting, settings_in
from wrinkle.core.design.document.sources import TreatmentSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.effect_edits import remove_effect
from wrinkle.core.design.edits.layer_edits import remove_layer, with_layer
from wrinkle.core.errors import InputError
from wrinkle.core.measure.subject import Subject
from wrinkle.core.motion.values import parts, scaled
from wrinkle.core.reuse.strength import strengthened_effect, strengthened_setting

_STEPS = 6
"""Halvings of a share that is looked for: to a sixty-fourth."""

Score = Callable[[Subject], float]
"""How bad it is; up to 1 it is right."""


@dataclass(frozen=True)
class Cause:
    """One thing that may be left out, or weakened.

    Attributes:
        layer: the id of its layer.
        address: of a setting of the layer, or of an effect's first one; empty for the whole layer.
        words: what it is, as it stands within a sentence.
        effect: the id of the effect, if it is one.
        weakened: the wrinkle with a share of it left, 0…1.
        removed: the wrinkle without it; None where there is nothing to take out.
    """

    layer: str
    address: str
    words: str
    effect: str = ""
    weakened: Callable[[Wrinkle, float], Wrinkle] = field(
        default=lambda wrinkle, share: wrinkle, compare=False
    )
    removed: Callable[[Wrinkle], Wrinkle] | None = field(default=None, compare=False)


def causes(wrinkle: Wrinkle) -> Iterator[Cause]:
    """All that could be left out: overlays, effects, and placements."""
    cutters = {x.matte.layer for x in wrinkle.layers if x.matte is not None}
    for layer in reversed(wrinkle.layers):
        if not rests_plainly(layer) and layer.id not in cutters:
            yield _overlay(layer)
        for use in layer.effects:
            if use.shown:
                yield _effect(layer, use.id)
    for layer in reversed(wrinkle.layers):
        for name in settings_in(layer.placement):
            setting, spec = layer.placement.setting(name), layer.placement.spec(name)
            if not setting.still or (rests_plainly(layer) and setting.rest != spec.neutral):
                yield _placed(layer, name)
    for layer in reversed(wrinkle.layers):
        # A treatment is taken out as a whole only where none of its parts is enough.
        if isinstance(layer.source, TreatmentSource) and layer.id not in cutters:
            yield _overlay(layer)


def responsible(
    subject: Subject, score: Score, among: Iterable[Cause] | None = None
) -> list[Cause]:
    """What has to be left out so that a score is right; the one that helps most first.

    Nothing where it stays wrong without any of them.

    Args:
        subject: what is examined.
        score: of it, and of what is left of it.
        among: what may be left out; by default all ``causes``.
    """
    found: list[Cause] = []
    now, best = subject, score(subject)
    left = list(causes(subject.design) if among is None else among)
    while best > 1.0 and left:
        tried = []
        for place, cause in enumerate(left):
            try:
                without = now.changed(cause.weakened(now.design, 0.0))
                tried.append((score(without), place, without))
            except InputError:
                # A dial or a formula wants it.
                continue
            if tried[-1][0] <= 1.0:
                break
        if not tried:
            return []
        helped = min(tried, key=lambda x: x[:2])
        if helped[0] >= best * 0.98:
            return []
        best, now = helped[0], helped[2]
        found.append(left.pop(helped[1]))
    return found if best <= 1.0 else []


def left_out(wrinkle: Wrinkle, found: Iterable[Cause]) -> Wrinkle:
    """A wrinkle without some causes, as far as possible without what they leave behind."""
    for cause in found:
        wrinkle = cause.removed(wrinkle) if cause.removed else cause.weakened(wrinkle, 0.0)
    return wrinkle


def weakened_until(subject: Subject, found: list[Cause], score: Score) -> Wrinkle:
    """The design with causes weakened by as little as makes a score right.

    Raises:
        InputError: nothing helps.
    """

    def with_share(share: float) -> Wrinkle:
        wrinkle = subject.design
        for cause in found:
            wrinkle = cause.weakened(wrinkle, share)
        return wrinkle

    low, high, best = 0.0, 1.0, left_out(subject.design, found)
    if not found or score(subject.changed(best)) > 1.0:
        raise InputError("No single setting makes this; look at the layers one by one.")
    for _ in range(_STEPS):
        middle = (low + high) / 2.0
        tried = with_share(middle)
        if score(subject.changed(tried)) <= 1.0:
            low, best = middle, tried
        else:
            high = middle
    return best


def _placed(layer: Layer, name: str) -> Cause:
    label = layer.spec(name).label

    def weakened(wrinkle: Wrinkle, share: float) -> Wrinkle:
        one = wrinkle.layer(layer.id)
        return with_layer(wrinkle, strengthened_setting(one, name, share))

    return Cause(layer.id, name, f"{label} of {layer.name}", weakened=weakened)


def _effect(layer: Layer, use_id: str) -> Cause:
    use = layer.effect_use(use_id)
    address = str(next(iter(use.addresses()), ""))

    def weakened(wrinkle: Wrinkle, share: float) -> Wrinkle:
        one = wrinkle.layer(layer.id)
        if share <= 0.0:
            off = replace(one.effect_use(use_id), shown=False)
            return with_layer(wrinkle, one.with_effect(off))
        weaker = strengthened_effect(one.effect_use(use_id), share)
        return with_layer(wrinkle, one.with_effect(weaker))

    return Cause(
        layer.id,
        address,
        f"{use.effect.label} on {layer.name}",
        use_id,
        weakened,
        lambda wrinkle: _without_effect(wrinkle, layer.id, use_id),
    )


def _without_effect(wrinkle: Wrinkle, layer_id: str, use_id: str) -> Wrinkle:
    """Without the effect, and without a treatment that would treat nothing then."""
    wrinkle = remove_effect(wrinkle, layer_id, use_id)
    layer = wrinkle.layer(layer_id)
    idle = isinstance(layer.source, TreatmentSource) and not layer.effects
    named = {link.target for other in wrinkle.layers for link in links_of(other)}
    if idle and layer.placement == Placement() and layer_id not in named:
        return remove_layer(wrinkle, layer_id)
    return wrinkle


def _overlay(layer: Layer) -> Cause:
    def weakened(wrinkle: Wrinkle, share: float) -> Wrinkle:
        one = wrinkle.layer(layer.id)
        opacity = one.opacity
        if opacity.formula is not None:
            opacity = Setting(parts(opacity.rest)[0])
        return with_layer(
            wrinkle, replace(one, opacity=opacity.mapped(lambda own: scaled(own, share)))
        )

    return Cause(
        layer.id,
        "opacity",
        layer.name,
        weakened=weakened,
        removed=lambda wrinkle: remove_layer(wrinkle, layer.id),
    )
