"""Each of the 21 pieces, built at the window from a new document."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from typing import NamedTuple

from benchmarks.actions.hand import Hand
from wrinkle.library.samples import DEMO_CLIPS, SAMPLES


class Files(NamedTuple):
    """What is chosen where a file is asked for."""

    fog: Path
    ink: Path
    strokes: Path
    cold: Path
    warm: Path


Build = Callable[[Hand, Files], None]
PORT = (0.0, -0.03)
"""From the middle of the frame to the port of the demo's clip."""
EDGE, OPENS, SHUTS = (
    "Straight edge that sweeps across",
    "Ellipse that opens",
    "Ellipse that shuts",
)


class Piece(NamedTuple):
    """One piece.

    Attributes:
        number: that it is known by.
        name: of the wrinkle that ships.
        goal: of how many actions.
        build: builds it.
        lacks: what of it is not built here, in words; empty for nothing.
        outgoing: the clip before the cut.
    """

    number: str
    name: str
    goal: int
    build: Build
    lacks: str = ""
    outgoing: Path = SAMPLES["outgoing"]


def lens_rush(hand: Hand, files: Files) -> None:
    hand.select("Outgoing")
    for frame in (-9, -6, -3):
        hand.at(frame)
        hand.key("Z")
    hand.treat("lens_bend", "exposure", "contour_smear", "flash")
    hand.jitter("position")
    hand.set("position.jitter", "4")
    hand.offer("position.jitter")
    hand.at(0)
    hand.set("scale", "108")
    hand.lane("scale")
    for _ in range(2):
        hand.treat("colour_wash")
        hand.mask("Ellipse")
        hand.set("mask.feather", "40")


def sea_fog(hand: Hand, files: Files) -> None:
    hand.add("Further clip…", files=[files.fog])
    hand.slide_clip(0.4)
    hand.pick("blend", "screen")
    hand.lane("opacity")
    hand.effects("colour_match")
    hand.key("O")
    hand.effects("luma_reveal")
    hand.treat("displace", "ripple", "flicker", "tone", "white_balance")
    hand.look_at("displace", "sea_fog")
    hand.set("tone.blacks", "-20")
    hand.lane("tone.blacks")
    hand.set("scale", "105")
    hand.lane("scale")


def signal_slip(hand: Hand, files: Files) -> None:
    hand.treat("directional_blur")
    hand.span(-1, 0)
    hand.treat("channel_split")
    hand.span(0, 6)
    hand.set("scale", "118")
    hand.lane("scale")
    hand.set("position", "5, -3")
    hand.lane("position")
    hand.pin("scale", 0, "hold")
    hand.add("Incoming clip")
    hand.span(end=6)
    hand.set("scale", "122")
    hand.lane("scale")
    hand.effects("colour_key", "tone_map")


def liquid_title(hand: Hand, files: Files) -> None:
    hand.add("Ellipse")
    hand.effects("glow")
    hand.pick("blend", "screen")
    hand.set("position", "-160, 10")
    hand.lane("position")
    hand.treat("colour_wash:radial", "saturation")
    hand.add("Noise")
    hand.add("Words")
    hand.effects("noise_warp", "glow", "gaussian_blur")
    hand.set("noise_warp.evolution", "= t / 2")
    hand.lane("opacity")
    hand.add("Ring")
    hand.treat("bulge")


def look_back(hand: Hand, files: Files) -> None:
    hand.treat("flash")
    hand.select("Incoming")
    hand.effects("three_way", "glow")
    hand.keep_look("three_way", "Old summer")
    hand.keep_look("glow", "Soft lights")


def bar_sweep(hand: Hand, files: Files) -> None:
    hand.select("Incoming")
    hand.span(start=-12)
    hand.mask(EDGE)
    hand.pick("fit", "whole over blur")
    hand.add("Fill")
    hand.mask("Bar that sweeps across")


def brush_strokes(hand: Hand, files: Files) -> None:
    hand.add("Picture or SVG…", files=[files.strokes])
    hand.key("R")
    hand.add("Fill")
    hand.span(start=1)
    hand.mask(EDGE)
    hand.key("T")
    hand.add("Noise")
    hand.set("source.cell", "150, 3")
    hand.pick("blend", "multiply")
    hand.select("middle")
    hand.set("rotation", "180")
    hand.select("strokes")
    hand.effects("tone_map")
    hand.take_palette("Incoming clip at the cut")
    hand.select("Incoming")
    hand.span(start=-12)
    hand.matte("strokes")
    hand.lane("opacity")
    hand.key("Ctrl+Up")


def luma_melt(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.effects("luma_reveal", "curves", "hue_shift", "sharpen")


def triple_slide(hand: Hand, files: Files) -> None:
    hand.add("Incoming clip")
    hand.span(start=-10)
    hand.set("position", "-140, 0")
    hand.lane("position")
    hand.effects("ground", "black_and_white", "channel_outline")
    hand.timing("timing.stutter", "10")
    hand.key("T")
    hand.add("Incoming clip")
    hand.span(-2, 0)
    hand.pick("blend", "plus-lighter")
    hand.timing("Freeze")


def spiral_in(hand: Hand, files: Files) -> None:
    hand.select("Outgoing")
    hand.mask(SHUTS)
    hand.set("tilt", "-20, 60")
    hand.lane("tilt")
    hand.set("scale", "25")
    hand.lane("scale")
    hand.effects("zoom_blur")
    hand.select("Incoming")
    hand.span(start=-8)
    hand.set("scale", "1")
    hand.lane("scale")
    hand.set("rotation", "-540")
    hand.lane("rotation")
    hand.effects("spin_blur")
    hand.mask(OPENS)
    hand.set("mask.feather", "12")
    hand.treat("glow")
    hand.jitter("position")


def skew_kick(hand: Hand, files: Files) -> None:
    hand.treat("exposure")
    hand.span(start=0)
    for name, value in (("skew", "24"), ("skew_axis", "35"), ("scale", "142")):
        hand.set(name, value)
        hand.lane(name)
    hand.shutter(320)


def two_weathers(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.effects(str(files.cold))
    hand.mask("Full frame that rests, then slides off")
    hand.select("Incoming")
    hand.effects(str(files.warm))
    hand.add("Words")


def porthole(hand: Hand, files: Files) -> None:
    hand.select("Outgoing")
    hand.key("H")
    hand.at(-9)
    hand.key("S")
    hand.mask("Ellipse")
    hand.move_mask(*PORT)
    hand.follow()
    hand.pick("mask.inverted", "yes")
    hand.set("mask.feather", "16")
    hand.set("mask.expansion", "-3")
    hand.set("scale", "128")
    hand.lane("scale")
    hand.effects("tone")
    hand.copy_chain()
    hand.select("Incoming")
    hand.paste_chain()
    hand.set("scale", "136")
    hand.lane("scale")
    hand.treat("directional_blur", "channel_split")
    hand.span(-4, 4)
    hand.lane("opacity")
    hand.add("Words")
    hand.span(start=2)
    hand.pick("source.reveal_by", "word")
    hand.set("source.reveal_to", "0")
    hand.lane("source.reveal_to")
    hand.set("source.stroke_width", "1")
    hand.set("position", "-10, 0")
    hand.lane("position")
    hand.mask(OPENS)
    hand.key("Shift+B")
    hand.add("Incoming clip")
    hand.span(end=8)
    hand.timing("Direction")
    hand.mask("Ellipse")


def corner_split(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.at(-10)
    hand.key("S")
    hand.at(0)
    hand.mask("Diagonal half")
    hand.set("position", "-100, -100")
    hand.lane("position")
    hand.pin("position", 0, "break")
    hand.key("Ctrl+Shift+D")


def ink_bloom(hand: Hand, files: Files) -> None:
    hand.add("Clip whose dark reveals the next…", files=[files.ink])
    hand.effects("curves")
    hand.treat("ground", "vignette")
    hand.pick("ground.blend", "divide")


def full_turn(hand: Hand, files: Files) -> None:
    hand.select("Incoming")
    hand.span(start=-3)
    hand.lane("opacity")
    hand.treat("glow", "colour_wash:corners", "vignette")
    hand.set("rotation", "180")
    hand.lane("rotation")
    hand.set("scale", "150")
    hand.lane("scale")


def half_turn(hand: Hand, files: Files) -> None:
    hand.treat("spin_blur")
    hand.set("rotation", "180")
    hand.lane("rotation")
    hand.pin("rotation", 0, "surge")
    hand.set("scale", "132")
    hand.lane("scale")


def broken_title(hand: Hand, files: Files) -> None:
    hand.add("Words")
    hand.pick("blend", "lighten")
    hand.key("Shift+S")
    hand.effects("slices")
    hand.select_nth("Words", 1)
    hand.effects("channel_split")
    hand.select_nth("Words", 2)
    hand.effects("flip")
    hand.key("Shift+B")
    hand.key("H")


def iris_zoom(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.cut_at(Fraction(8, 5))
    hand.at(-9)
    hand.key("S")
    hand.mask("Ellipse")
    hand.move_mask(*PORT)
    hand.follow()
    hand.pick("mask.inverted", "yes")
    hand.set("mask.feather", "3")
    hand.set("scale", "800")
    hand.lane("scale")
    hand.select("Incoming")
    hand.timing("timing.speed", "50")
    hand.set("scale", "150")
    hand.lane("scale")
    hand.treat("zoom_blur", "channel_split")


def rust_creep(hand: Hand, files: Files) -> None:
    hand.key("O")
    hand.effects("noise_reveal", "lift_gamma_gain")
    hand.set("noise_reveal.edge", "9")
    hand.set("lift_gamma_gain.gain", "#c07040")
    hand.add("Treatment")
    hand.set("scale", "106")
    hand.lane("scale")


def bright_haze(hand: Hand, files: Files) -> None:
    hand.treat("glow", "gaussian_blur", "exposure", "grain", "vignette", str(files.warm))
    hand.set("vignette.colour", "#fffaf0")
    hand.select("Incoming")
    hand.timing("timing.speed", "60")


PIECES = (
    Piece("P01", "lens_rush", 30, lens_rush, "a colour of its own for each wash"),
    Piece("P02", "sea_fog", 30, sea_fog),
    Piece("P03", "signal_slip", 25, signal_slip, "the size of the ghost at every step"),
    Piece("P04", "liquid_title", 25, liquid_title),
    Piece("P05", "look_back", 10, look_back),
    Piece("P06", "bar_sweep", 12, bar_sweep, "an edge that leans"),
    Piece("P07", "brush_strokes", 30, brush_strokes),
    Piece("P08", "luma_melt", 10, luma_melt),
    Piece(
        "P09",
        "triple_slide",
        20,
        triple_slide,
        "flashes between all panels; paper and outline fade with the panels",
    ),
    Piece("P10", "spiral_in", 25, spiral_in, "a subject drawn by hand"),
    Piece("P11", "skew_kick", 10, skew_kick),
    Piece("P12", "two_weathers", 10, two_weathers),
    Piece(
        "P13",
        "porthole",
        50,
        porthole,
        "the reversed frames meet the clip only by chance",
        DEMO_CLIPS["porthole"],
    ),
    Piece("P14", "corner_split", 15, corner_split),
    Piece(
        "P15",
        "ink_bloom",
        10,
        ink_bloom,
        "curves for each channel; whether the ink covers all at last",
    ),
    Piece("P16", "full_turn", 15, full_turn, "curves drawn by hand"),
    Piece("P17", "half_turn", 10, half_turn),
    Piece("P18", "broken_title", 15, broken_title),
    Piece("P19", "iris_zoom", 25, iris_zoom, outgoing=DEMO_CLIPS["porthole"]),
    Piece("P20", "rust_creep", 15, rust_creep, "blended darken"),
    Piece("P21", "bright_haze", 12, bright_haze),
)
