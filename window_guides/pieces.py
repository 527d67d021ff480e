"""Writes docs/recipes: how each piece of the job is built by hand, with what comes of each step.

.venv/bin/python -m window_guides.pieces [NAME …]

The steps are those that ``benchmarks.actions`` counts. They are done at the real window, and said
in the words that stand on it.
"""

from __future__ import annotations

import os
import sys
import tempfile
from collections.abc import Sequence
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path
from typing import Any

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import cv2
import numpy as np

from benchmarks.actions.building import built
from benchmarks.actions.hand import Hand
from benchmarks.actions.pieces import PIECES, Piece
from tests.ui.window_case import application
from wrinkle.core.effects.registry import EFFECTS
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.reuse.use import Use, showing
from wrinkle.files import archive
from wrinkle.files.whole import write_whole
from wrinkle.library import shipped
from wrinkle.library.samples import SAMPLES
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.window import Window

DOCS = Path(__file__).parents[1] / "docs"
_FOLDER = DOCS / "recipes"
_SIZE, _FRAMES, _GAP, _QUALITY = Size(72, 128), 8, 3, 80
_AT_ONCE = 3
_BEGIN = (
    "Begin on the Bench with a new wrinkle (**New**, `Ctrl+N`) and two clips{}. Each row of "
    "pictures is the whole window of the wrinkle as it is after the steps above it, made by the "
    "program."
)


@dataclass
class Told:
    """What was done so far, in groups, each with a picture of what came of it."""

    steps: list[list[str]] = field(default_factory=list)
    pictures: list[Bytes8] = field(default_factory=list)

    def begin(self) -> None:
        """From now on something else is worked on."""
        if not self.steps or self.steps[-1]:
            self.steps.append([])

    def say(self, words: str) -> None:
        """One thing that is done."""
        if not self.steps:
            self.steps.append([])
        self.steps[-1].append(words)


class TellingHand(Hand):
    """Says what it does, in the words of the window."""

    def __init__(self, desk: Desk, window: Window) -> None:
        super().__init__(desk, window)
        self.told = Told()

    # Groups

    def _begin(self) -> None:
        told = self.told
        if told.steps and told.steps[-1] and len(told.pictures) < len(told.steps):
            told.pictures.append(self.strip())
        told.begin()

    def _pause(self) -> None:
        """A picture after a few things, so that it is seen what they do."""
        if self.told.steps and len(self.told.steps[-1]) >= _AT_ONCE:
            self._begin()

    def strip(self) -> Bytes8:
        """Frames of the whole window side by side."""
        desk = self._desk
        wrinkle = desk.document.state
        use = Use(wrinkle, desk.tried.fillings())
        shown = showing(use, desk.carried(), _SIZE, wrinkle.frame_rate, Quality.PREVIEW)
        frames = np.linspace(wrinkle.first_frame, wrinkle.end_frame - 1, _FRAMES).round()
        gap = np.full((_SIZE.height, _GAP, 3), 255, np.uint8)
        parts = []
        for frame in frames:
            parts += [shown.image(int(frame)).to_bytes8()[..., :3], gap]
        return np.concatenate(parts[:-1], axis=1)

    # What is done, said

    def _label(self, name: str) -> str:
        return self._row(name).spec.label

    def key(self, keys: str) -> None:
        entries = [x for x in self._window.menus.entries if keys in x.keys and x.made.isVisible()]
        label = entries[0].action.label.removesuffix("…") if entries else ""
        self.told.say(f"Press `{keys}`" + (f" (**{label}**)." if label else "."))
        super().key(keys)

    def length(self, frames: int) -> None:
        self.told.say(f"Type {frames} into **Lead** and into **Tail**.")
        super().length(frames)

    def at(self, frame: int) -> None:
        self.told.say(f"Press frame {_signed(frame)} on the strip.")
        super().at(frame)

    def select(self, name: str) -> None:
        self._begin()
        self.told.say(f"Select the layer “{name}” by its card.")
        super().select(name)

    def select_nth(self, kind: str, number: int) -> None:
        self._begin()
        self.told.say(f"Select the layer “{kind}” that is number {number + 1} from the back.")
        super().select_nth(kind, number)

    def add(self, *words: str, files: Sequence[Path] = ()) -> None:
        self._begin()
        way = " ▸ ".join(f"**{word}**" for word in ("Add layer", *words))
        file = f", and choose `{files[0].name}`" if files else ""
        self.told.say(f"Press {way}{file}.")
        super().add(*words, files=files)

    def treat(self, *kinds: str) -> None:
        self._begin()
        self.told.say(f"Press **Treat…** and take {_effects(kinds)}.")
        super().treat(*kinds)

    def effects(self, *kinds: str) -> None:
        self._pause()
        self.told.say(f"Press **Add effect…** in its card and take {_effects(kinds)}.")
        super().effects(*kinds)

    def set(self, name: str, text: str) -> None:
        self._pause()
        self.told.say(f"Type `{text}` into **{self._label(name)}**.")
        super().set(name, text)

    def pick(self, name: str, word: str) -> None:
        self.told.say(f"Choose *{word}* for **{self._label(name)}**.")
        super().pick(name, word)

    def lane(self, name: str) -> None:
        self.told.say(f"Press the wave beside **{self._label(name)}**: it moves.")
        super().lane(name)

    def jitter(self, name: str) -> None:
        self.told.say(f"Press the tremble beside **{self._label(name)}**.")
        super().jitter(name)

    def offer(self, name: str) -> None:
        self.told.say(f"Press the spool beside **{self._label(name)}**: it becomes a dial.")
        super().offer(name)

    def shape(self, name: str, goes: str) -> None:
        self.told.say(f"In the menu … of its lane choose *Goes {goes}*.")
        super().shape(name, goes)

    def pin(self, name: str, index: int, feel: str = "", frame: int | None = None) -> None:
        words = f"Press pin {index + 1} of the lane of **{self._label(name)}**"
        words += f" and choose the feel *{feel}*" if feel else ""
        words += f" and type {_signed(frame)} as its frame" if frame is not None else ""
        self.told.say(f"{words}.")
        super().pin(name, index, feel, frame)

    def span(self, start: int | None = None, end: int | None = None) -> None:
        for which, frame in (("left", start), ("right", end)):
            if frame is not None:
                self.told.say(
                    f"Drag the {which} end of the bar under the strip to {_signed(frame)}."
                )
        super().span(start, end)

    def mask(self, form: str, motion: str = "") -> None:
        self._begin()
        moving = f", and in **Move** *{motion}*" if motion else ""
        self.told.say(f"Press **Add mask** in its card and choose *{form}*{moving}.")
        super().mask(form, motion)

    def matte(self, cutter: str, by: str = "", inverted: bool = False) -> None:
        how = f", by its *{by}*" if by else ""
        how += ", inverted" if inverted else ""
        self.told.say(f"In the section **Matte** choose *{cutter}* for **Cut by**{how}.")
        super().matte(cutter, by, inverted)

    def timing(self, name: str, value: str = "") -> None:
        if "." in name:
            super().timing(name, value)
            return
        words = f"Type `{value}` into **{name}**" if value else f"Press **{name}**"
        self.told.say(f"{words} in the section **Time**.")
        super().timing(name, value)

    def choose(self, name: str, under: str = "") -> None:
        action = self._window.menus.entry(name).action
        way = " ▸ ".join(f"**{x}**" for x in (action.menu, action.under, action.label) if x)
        self.told.say(f"Choose {way}.")
        super().choose(name, under)

    def hide(self, name: str) -> None:
        self.told.say(f"Hide the layer “{name}” by the button in its card.")
        super().hide(name)

    def slide_clip(self, seconds: float) -> None:
        self.told.say("Drag the strip in its card until its densest moment falls on the cut.")
        super().slide_clip(seconds)

    def cut_at(self, seconds: Fraction) -> None:
        self.told.say("Drag the strip under the clip before the cut until the port stands open.")
        super().cut_at(seconds)

    def look_at(self, kind: str, layer: str) -> None:
        self.told.say(f"Choose *{layer}* for **By layer** of {_effects([kind])}.")
        super().look_at(kind, layer)

    def take_palette(self, clip: str) -> None:
        self.told.say(f"Take the colours of the tone map from *{clip}*.")
        super().take_palette(clip)

    def later(self, name: str, frames: int) -> None:
        self.told.say(f"Drag all of its pins {frames} frames on.")
        super().later(name, frames)

    def move_mask(self, across: float, down: float) -> None:
        self.told.say("Drag the mask on the picture until it lies over the opening.")
        super().move_mask(across, down)

    def follow(self) -> None:
        self.told.say("Press **Follow ▸** beside the mask, and wait until it has followed.")
        super().follow()

    def copy_chain(self) -> None:
        self.told.say("In **Looks** choose *Copy the chain*.")
        super().copy_chain()

    def paste_chain(self) -> None:
        self.told.say("In **Looks** choose *Paste the copied chain*.")
        super().paste_chain()

    def keep_look(self, kind: str, name: str) -> None:
        self.told.say(f"Press **Keep** beside {_effects([kind])} and call it “{name}”.")
        super().keep_look(kind, name)

    def shutter(self, angle: int) -> None:
        self.told.say(f"Type {angle} into **Shutter**.")
        super().shutter(angle)


def _signed(frame: int) -> str:
    return f"{frame:+d}".replace("-", "−") if frame else "0"


def _effects(kinds: Sequence[str]) -> str:
    words = []
    for kind in kinds:
        key, _, form = kind.partition(":")
        path = Path(kind)
        if key in EFFECTS:
            words.append(f"**{EFFECTS[key].label}**" + (f" ({form})" if form else ""))
        else:
            words.append(f"the LUT **{path.stem.replace('_', ' ')}**")
    return f"{', '.join(words[:-1])} and {words[-1]}" if len(words) > 1 else words[0]


def told_of(piece: Piece) -> Told:
    """Builds a piece at the window; gives what was done."""
    hands: list[TellingHand] = []

    def telling(desk: Desk, window: Window) -> TellingHand:
        hands.append(TellingHand(desk, window))
        return hands[-1]

    def build(hand: Hand, files: Any) -> None:
        piece.build(hand, files)
        told = hands[-1].told
        told.pictures.append(hands[-1].strip())

    with tempfile.TemporaryDirectory() as folder:
        built(piece._replace(build=build), Path(folder), telling)
    return hands[-1].told


def page(piece: Piece, told: Told) -> str:
    """How a piece is built, in Markdown."""
    name = archive.read(shipped()[piece.name]).wrinkle.name
    own = piece.outgoing is not SAMPLES["outgoing"]
    first = f"; the one before the cut is the demo's *{piece.outgoing.stem}*" if own else ""
    lines = [f"# {piece.number} {name}", "", _BEGIN.format(first), ""]
    for number, steps in enumerate(told.steps, 1):
        lines += [f"{number}. {' '.join(steps)}", "", f"   ![After step {number}]"
                  f"({piece.number.lower()}-{number}.jpg)", ""]  # fmt: skip
    lacks = f" Not built here: {piece.lacks}." if piece.lacks else ""
    lines += [
        f"That is the structure of the piece, with values of its own.{lacks} What ships as "
        f"*{name}* is the same, finished: open it from the Collection to see each value.", "",
    ]  # fmt: skip
    return "\n".join(lines)


def index() -> str:
    """The list of all pages, in Markdown."""
    lines = [
        "# Recipes",
        "",
        "Each piece of the job, step by step, with pictures made by the program. Written by",
        "`python -m window_guides.pieces`, which does every step at the real window.",
        "",
    ]
    for piece in PIECES:
        name = archive.read(shipped()[piece.name]).wrinkle.name
        lines.append(f"- [{piece.number} {name}](recipes/{page_name(piece)})")
    return "\n".join(lines) + "\n"


def page_name(piece: Piece) -> str:
    """The file of a page."""
    return f"{piece.number.lower()}-{piece.name.replace('_', '-')}.md"


def main() -> None:
    """Writes all, or those that are named."""
    application()
    _FOLDER.mkdir(exist_ok=True)
    for piece in PIECES:
        if sys.argv[1:] and piece.name not in sys.argv[1:]:
            continue
        told = told_of(piece)
        write_whole(_FOLDER / page_name(piece), page(piece, told).encode())
        for number, picture in enumerate(told.pictures, 1):
            done, content = cv2.imencode(
                ".jpg", picture[..., ::-1], [cv2.IMWRITE_JPEG_QUALITY, _QUALITY]
            )
            if done:
                path = _FOLDER / f"{piece.number.lower()}-{number}.jpg"
                write_whole(path, content.tobytes())
        print(piece.number, piece.name, len(told.steps), "steps")  # noqa: T201 - the result
    write_whole(DOCS / "recipes.md", index().encode())


if __name__ == "__main__":
    main()
