"""From a source that is drawn (fill, shape, words, noise) to the plain values of its picture."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from wrinkle.core.design.setting import Setting
from wrinkle.core.design.sources import FillSource, NoiseSource, ShapeSource, WordsSource
from wrinkle.core.motion.values import Value, number_of, pair_of, parts
from wrinkle.core.picture.gradient import Fill, FillForm
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.lettering import Align, Lettering, RevealBy
from wrinkle.core.picture.noise import EVOLUTION, Noise
from wrinkle.core.picture.paths import in_frame, mirrored, transformed
from wrinkle.core.picture.placement import scaling
from wrinkle.core.picture.vector import Cap, Contour, Drawing, Join, Stroke
from wrinkle.core.render.planned import Drawn, GreyNoise

Seen = Callable[[Setting], Value]


def drawing_of(
    source: FillSource | ShapeSource | WordsSource | NoiseSource,
    seen: Seen,
    size: Size,
    drawn_in: tuple[int, int],
    fonts: Mapping[bool, bytes],
) -> Drawn:
    """What is drawn for a source in a frame of ``size``.

    Args:
        source: what the layer shows.
        seen: gives the value of a setting at the frame.
        size: of the frame in pixels; all lengths become pixels of it.
        drawn_in: the frame in which it was designed.
        fonts: for words without a font of the system.
    """
    match source:
        case FillSource():
            return _fill(source, seen)
        case ShapeSource():
            return _shape(source, seen, size, drawn_in)
        case WordsSource():
            return _words(source, seen, size, fonts)
        case NoiseSource():
            return _noise(source, seen, size)


def _fill(source: FillSource, seen: Seen) -> Fill:
    form = FillForm(seen(source.form))
    settings = {
        FillForm.FLAT: (source.colour,),
        FillForm.CORNERS: (source.colour, source.colour_2, source.colour_3, source.colour_4),
    }.get(form, (source.colour, source.colour_2))
    colours = tuple(parts(seen(setting)) for setting in settings)
    if form in (FillForm.FLAT, FillForm.CORNERS):
        return Fill(form, colours)
    return Fill(form, colours, pair_of(seen(source.start)), pair_of(seen(source.end)))


def _shape(source: ShapeSource, seen: Seen, size: Size, drawn_in: tuple[int, int]) -> Drawing:
    short, whole = min(size) / 100.0, scaling(*size)
    pieces = [(parts(seen(source.path)), source.closed)]
    pieces += [(x.path, x.closed) for x in source.further]
    if seen(source.keeps_form):
        pieces = [(in_frame(path, drawn_in, size), closed) for path, closed in pieces]
    # Drawn as it was made, and then turned: the edges of a mirrored path are not quite mirrored.
    contours = [
        Contour(transformed(mirrored(path, source.mirrored), whole), closed)
        for path, closed in pieces
    ]
    width = number_of(seen(source.stroke_width)) * short
    dash, gap = (length * short for length in parts(seen(source.dash)))
    stroke = Stroke(
        width=width,
        colour=parts(seen(source.stroke)),
        cap=Cap(seen(source.cap)),
        join=Join(seen(source.join)),
        dash=(dash, gap),
        start=number_of(seen(source.draw_from)) / 100.0,
        end=number_of(seen(source.draw_to)) / 100.0,
    )
    fill = parts(seen(source.fill)) if seen(source.filled) else None
    return Drawing(tuple(contours), fill, stroke if width > 0.0 else None, source.mirrored)


def _words(source: WordsSource, seen: Seen, size: Size, fonts: Mapping[bool, bytes]) -> Lettering:
    short = min(size) / 100.0
    width = number_of(seen(source.stroke_width)) * short
    return Lettering(
        text=source.text,
        font=source.font or fonts.get(source.bold, ""),
        bold=source.bold,
        size=number_of(seen(source.size)) * short,
        line_spacing=number_of(seen(source.line_spacing)) / 100.0,
        tracking=number_of(seen(source.tracking)) * short,
        align=Align(seen(source.align)),
        fill=parts(seen(source.fill)) if seen(source.filled) else None,
        stroke=parts(seen(source.stroke)) if width > 0.0 else None,
        stroke_width=width,
        start=number_of(seen(source.reveal_from)) / 100.0,
        end=number_of(seen(source.reveal_to)) / 100.0,
        softness=max(number_of(seen(source.softness)), 0.05),
        by=RevealBy(seen(source.reveal_by)),
    )


def _noise(source: NoiseSource, seen: Seen, size: Size) -> GreyNoise:
    short = min(size) / 100.0
    across, down = parts(seen(source.cell))
    noise = Noise(
        cell=(across * short, down * short),
        octaves=number_of(seen(source.complexity)),
        z=number_of(seen(source.evolution)) * EVOLUTION,
        seed=round(number_of(seen(source.seed))),
        loop=EVOLUTION,
    )
    contrast = number_of(seen(source.contrast)) / 100.0
    brightness = number_of(seen(source.brightness)) / 100.0
    return GreyNoise(noise, contrast, brightness, source.mirrored)
