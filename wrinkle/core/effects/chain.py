"""The effects of a layer, one after the other; neighbouring colour tools are taken together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import groupby

from wrinkle.core.effects.effect import Effect, Scene, Values
from wrinkle.core.effects.recolouring import ColourStep, recoloured_by
from wrinkle.core.picture.image import Image, Light


@dataclass(frozen=True)
class ChainLink:
    """One effect of a chain, with its values and what it knows of the frame."""

    effect: Effect
    values: Values
    scene: Scene


def after(image: Image, chain: Sequence[ChainLink]) -> Image:
    """The picture after a chain of effects; the picture itself where all of them rest."""
    acting = [link for link in chain if not link.effect.idle(link.values, link.scene)]
    for pure, links in groupby(acting, key=lambda link: link.effect.tool is not None):
        if pure:
            image = _recoloured(image.in_light(Light.ENCODED), list(links))
        else:
            for link in links:
                image = link.effect.applied(image, link.values, link.scene)
    return image


def _recoloured(image: Image, links: list[ChainLink]) -> Image:
    steps = [
        ColourStep(link.effect.tool, tuple(link.values.items()), link.scene.lut)
        for link in links
        if link.effect.tool is not None
    ]
    return recoloured_by(image, steps)
