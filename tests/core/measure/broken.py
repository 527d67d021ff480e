"""Copies of wrinkles that are broken in one way each, and what mending them has to come to."""

from collections.abc import Callable, Iterator
from fractions import Fraction
from functools import cache

import numpy as np
from msgspec.structs import replace

from tests.core.reuse.every_kind import Slanted
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.layer_kinds import LayerSource
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.sources import FillSource, TreatmentSource, WordsSource
from wrinkle.core.design.document.timing import Blink, Span, Timing
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import sound_edits
from wrinkle.core.design.edits.layer_edits import free_id, with_layers
from wrinkle.core.errors import InputError
from wrinkle.core.measure.registry import examined
from wrinkle.core.measure.subject import Subject
from wrinkle.core.motion.track import Keyframe, Track
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Filling
from wrinkle.core.reuse.use import Use, showing
from wrinkle.core.store import Store
from wrinkle.core.synthesis.made_sounds import HIT
from wrinkle.library import fonts
from wrinkle.media.assets import read_assets

SIZE = Size(54, 96)


class Stopping(Slanted):
    """A clip of a given length."""

    def __init__(self, name: str, hue: float, duration: Fraction = Fraction(3)) -> None:
        super().__init__(name, hue=hue)
        self.size, self.duration = SIZE, duration
        self.identity = f"{name} {float(duration)}"

    def image(self, index: int, size: Size) -> Image:
        soft = super().image(index, size)
        rows, columns = np.indices((size.height, size.width))
        squares = ((rows * 20 // size.height + columns * 12 // size.width) % 2)[..., None]
        pixels = soft.pixels * np.where(squares, 1.0, 0.8).astype(np.float32)
        pixels[..., 3] = 1.0
        return Image(pixels, Light.LINEAR, True)


def subject_of(bundle: Bundle, short: bool = False, size: Size = SIZE) -> Subject:
    """A wrinkle on two soft clips; ``short`` leaves them hardly any handle."""
    wrinkle = bundle.wrinkle
    length = Fraction(3, 2) + wrinkle.frame_rate.seconds(2) if short else Fraction(3)
    fillings = {
        "outgoing": Filling(Stopping("a", 0.0, length), Fraction(3, 2)),
        "incoming": Filling(
            Stopping("b", 0.3), wrinkle.frame_rate.seconds(2) if short else Fraction(3, 2)
        ),
    }
    carried = read_assets(bundle.assets, Store(64 << 20)).material(fonts())

    def plain(design: Wrinkle) -> Wrinkle:
        return showing(Use(design, fillings), carried, size, design.frame_rate).wrinkle

    shown = showing(Use(wrinkle, fillings), carried, size, wrinkle.frame_rate, Quality.PREVIEW)
    return Subject.of(shown, wrinkle, plain)


def _front(wrinkle: Wrinkle, name: str, source: LayerSource, **fields: object) -> Wrinkle:
    """One more layer in front of all."""
    layer = Layer(id=free_id(wrinkle, name), name=name, source=source, **fields)  # type: ignore[arg-type]
    return with_layers(wrinkle, (*wrinkle.layers, layer))


def _lane(wrinkle: Wrinkle, *pins: tuple[int, Value]) -> Setting:
    rate = wrinkle.frame_rate
    return Setting(pins[0][1], Track(tuple(Keyframe(rate.seconds(n), x) for n, x in pins)))


def blur_left_on(wrinkle: Wrinkle) -> Wrinkle:
    """A blur that is never off."""
    wrinkle = _front(wrinkle, "Left on", TreatmentSource())
    blur = EffectUse("e1", "gaussian_blur", values={"radius": Setting(9.0)})
    layer = replace(wrinkle.layers[-1], effects=(blur,))
    return with_layers(wrinkle, (*wrinkle.layers[:-1], layer))


def turned(wrinkle: Wrinkle) -> Wrinkle:
    """The whole picture turned back and forth, with bare corners."""
    turn = _lane(wrinkle, (-9, 0.0), (-5, 12.0), (-2, 0.0))
    wrinkle = _front(wrinkle, "Turned", TreatmentSource(), edge_cover=Setting(EdgeCover.BARE.value))
    layer = wrinkle.layers[-1].with_setting("rotation", turn)
    return with_layers(wrinkle, (*wrinkle.layers[:-1], layer))


def bent(wrinkle: Wrinkle) -> Wrinkle:
    """The same, seen through a lens that bends the edges inwards."""
    wrinkle = turned(wrinkle)
    field = _lane(wrinkle, (-9, 0.0), (-5, -60.0), (-2, 0.0))
    lens = EffectUse("e1", "lens_bend", values={"field": field})
    layer = replace(wrinkle.layers[-1], effects=(lens,))
    return with_layers(wrinkle, (*wrinkle.layers[:-1], layer))


def kinked(wrinkle: Wrinkle) -> Wrinkle:
    """A turn that changes its speed at the cut."""
    turn = _lane(wrinkle, (-6, 0.0), (0, 14.0), (6, 0.0))
    wrinkle = _front(wrinkle, "Kinked", TreatmentSource())
    layer = wrinkle.layers[-1].with_setting("rotation", turn)
    return with_layers(wrinkle, (*wrinkle.layers[:-1], layer))


def strobe(wrinkle: Wrinkle) -> Wrinkle:
    """White and not white, two frames each."""
    rate = wrinkle.frame_rate
    span = Span(rate.seconds(wrinkle.first_frame + 1), rate.seconds(wrinkle.end_frame - 1))
    white = FillSource(colour=Setting((1.0, 1.0, 1.0)))
    return _front(wrinkle, "Strobe", white, span=span, timing=Timing(blink=Blink(2, 2)))


def stray(wrinkle: Wrinkle) -> Wrinkle:
    """One frame of another colour."""
    rate = wrinkle.frame_rate
    span = Span(rate.seconds(wrinkle.first_frame + 2), rate.seconds(wrinkle.first_frame + 3))
    return _front(wrinkle, "Stray", FillSource(colour=Setting((0.0, 0.4, 0.0))), span=span)


def early(wrinkle: Wrinkle) -> Wrinkle:
    """A cover that is densest too early."""
    opacity = _lane(wrinkle, (-11, 0.0), (-7, 80.0), (-6, 80.0), (5, 0.0))
    grey = FillSource(colour=Setting((0.1, 0.1, 0.1)))
    return _front(wrinkle, "Early", grey, opacity=opacity)


def idle(wrinkle: Wrinkle) -> Wrinkle:
    """An effect that never does anything."""
    wrinkle = _front(wrinkle, "Idle", TreatmentSource())
    layer = replace(wrinkle.layers[-1], effects=(EffectUse("e1", "exposure"),))
    layer = layer.with_setting("rotation", _lane(wrinkle, (-6, 0.0), (-4, 1.0), (-2, 0.0)))
    return with_layers(wrinkle, (*wrinkle.layers[:-1], layer))


def unseen(wrinkle: Wrinkle) -> Wrinkle:
    """A layer that nobody sees."""
    return _front(wrinkle, "Unseen", FillSource(), opacity=Setting(0.0))


def aside(wrinkle: Wrinkle) -> Wrinkle:
    """Words at the edge."""
    rate = wrinkle.frame_rate
    span = Span(rate.seconds(wrinkle.first_frame + 1), rate.seconds(wrinkle.end_frame - 1))
    words = WordsSource(text="Aside", size=Setting(14.0))
    wrinkle = _front(wrinkle, "Aside", words, span=span)
    layer = wrinkle.layers[-1].with_setting("position", Setting((0.0, -0.46)))
    return with_layers(wrinkle, (*wrinkle.layers[:-1], layer))


def blown_out(wrinkle: Wrinkle) -> Wrinkle:
    """Five stops too much, for a while."""
    wrinkle = _front(wrinkle, "Blown out", TreatmentSource())
    stops = _lane(wrinkle, (-10, 0.0), (-5, 6.0), (4, 6.0), (9, 0.0))
    use = EffectUse("e1", "exposure", values={"stops": stops})
    layer = replace(wrinkle.layers[-1], effects=(use,))
    return with_layers(wrinkle, (*wrinkle.layers[:-1], layer))


def over_the_end(wrinkle: Wrinkle) -> Wrinkle:
    """The outgoing clip is wanted after the cut, where there is hardly any of it."""
    layers = []
    for layer in wrinkle.layers:
        if getattr(layer.source, "slot", "") == "outgoing" and layer.span.end is not None:
            end = wrinkle.frame_rate.seconds(wrinkle.end_frame - 3)
            layer = replace(layer, span=replace(layer.span, end=end))
        layers.append(layer)
    return with_layers(wrinkle, tuple(layers))


def before_the_start(wrinkle: Wrinkle) -> Wrinkle:
    """The incoming clip is wanted before the cut, where there is hardly any of it."""
    layers = []
    for layer in wrinkle.layers:
        if getattr(layer.source, "slot", "") == "incoming" and layer.span.start is not None:
            start = wrinkle.frame_rate.seconds(wrinkle.first_frame + 3)
            faded = _lane(wrinkle, (-8, 0.0), (-3, 100.0))
            layer = replace(layer, span=replace(layer.span, start=start), opacity=faded)
        layers.append(layer)
    return with_layers(wrinkle, tuple(layers))


def _silent(wrinkle: Wrinkle) -> Wrinkle:
    """Without the sounds that it has."""
    for sound in wrinkle.sounds:
        wrinkle = sound_edits.remove_sound(wrinkle, sound.id)
    return wrinkle


def struck_late(wrinkle: Wrinkle) -> Wrinkle:
    """A blow one frame after the cut."""
    found, blow = sound_edits.add_sound(_silent(wrinkle), HIT)
    found = sound_edits.rest_at(found, blow, level=-20.0)
    return sound_edits.change_sound(found, blow, hit=wrinkle.frame_rate.seconds(1))


def too_loud(wrinkle: Wrinkle) -> Wrinkle:
    """Two blows that are too loud together."""
    for _ in range(2):
        wrinkle, blow = sound_edits.add_sound(wrinkle, HIT)
        wrinkle = sound_edits.rest_at(wrinkle, blow, level=3.0)
    return wrinkle


def inaudible(wrinkle: Wrinkle) -> Wrinkle:
    """A blow of which all that is low is taken away, and that is soft."""
    found, blow = sound_edits.add_sound(wrinkle, HIT)
    found = sound_edits.rest_at(found, blow, level=-60.0, low_cut=15_000.0)
    return sound_edits.change_sound(found, blow, hit=wrinkle.frame_rate.seconds(5))


def too_soft(wrinkle: Wrinkle) -> Wrinkle:
    """A blow that is heard alone only."""
    found, blow = sound_edits.add_sound(_silent(wrinkle), HIT)
    return sound_edits.rest_at(found, blow, level=-42.0)


BREAKAGES: dict[str, tuple[Callable[[Wrinkle], Wrinkle], str]] = {
    "blur left on": (blur_left_on, "rest"),
    "bare corners": (turned, "bare"),
    "kink": (kinked, "seam"),
    "strobe": (strobe, "flash"),
    "stray frame": (stray, "jumps"),
    "early cover": (early, "densest"),
    "idle effect": (idle, "effects"),
    "unseen layer": (unseen, "layers"),
    "words aside": (aside, "words"),
    "blown out": (blown_out, "clipped"),
    "no handles": (over_the_end, "handles"),
    "late hit": (struck_late, "hits"),
    "loud sounds": (too_loud, "overload"),
    "silent blow": (inaudible, "silent"),
    "soft blow": (too_soft, "loudness"),
    "no handles before": (before_the_start, "handles"),
}
"""By name: what breaks a wrinkle, and the check that has to find it."""


@cache
def _open_in(design: Wrinkle, assets: tuple[tuple[str, bytes], ...], short: bool) -> set[str]:
    """What is found in a whole wrinkle; kept, since each breakage asks for it."""
    return {x.about for x in examined(subject_of(Bundle(design, dict(assets)), short))}


def mended(bundle: Bundle, name: str) -> Iterator[tuple[str, str]]:
    """Breaks a copy and applies each mend that is offered.

    Gives the mend and what is wrong with it: empty where its check passes and no other one fails
    that did not before; ``refused: …`` where it says that it cannot be done.
    """
    breaks, check = BREAKAGES[name]
    short = check == "handles"
    whole = _open_in(bundle.wrinkle, tuple(bundle.assets.items()), short)
    broken = Bundle(breaks(bundle.wrinkle), bundle.assets)
    subject = subject_of(broken, short)
    before = examined(subject)
    own = [x for x in before if x.check == check and x.about not in whole]
    if broken.wrinkle == bundle.wrinkle or any(x[0] == check for x in whole):
        # There is nothing to break, or it is broken so already and wanted so.
        return
    if not own:
        yield "none", "not found"
    for finding in own:
        if not finding.mends:
            yield "none", f"no mend for: {finding.sentence}"
        for mend in finding.mends:
            try:
                design = mend.apply()
            except InputError as fault:
                yield mend.key, f"refused: {fault}"
                continue
            after = examined(subject.changed(design))
            known = whole | {x.about for x in before if x.about != finding.about}
            wanted = {x.about for x in design.set_aside}
            bad = [x.sentence for x in after if x.about not in known | wanted]
            yield mend.key, " ".join(bad)
