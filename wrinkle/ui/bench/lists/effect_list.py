"""The searchable list of effects, favourites first."""

from __future__ import annotations

import math
from functools import partial

import numpy as np
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QToolButton, QWidget

from wrinkle.core.effects.effect import Effect, Scene, Values
from wrinkle.core.effects.registry import searched
from wrinkle.core.errors import InputError
from wrinkle.core.motion.values import discrete, mix, same_kind
from wrinkle.core.picture.image import Image
from wrinkle.core.searching import holds_words
from wrinkle.library.choices import OwnChoices, choices, keep_choices, luts
from wrinkle.ui.bench.lists.lut_list import lut_entries
from wrinkle.ui.bench.lists.picture_list import PictureList
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.shared.picture_tiles import STEPS, TileEntry

_SIGN = "\N{FISHEYE}"
"""A button with its thread, before the name of a favourite."""


class EffectList(PictureList):
    """Chooses an effect by word, family or look."""

    def __init__(
        self,
        desk: Supplying,
        layer: str,
        parent: QWidget | None = None,
        title: str = "Add an effect",
    ) -> None:
        hint = "Search: glitch, haze, …  Ctrl and a double press add several"
        super().__init__(title, hint, self.entries, self.nothing, desk, layer, parent)
        self._choices = _kept(desk)
        self._tables = luts(self._choices.lut_folder)
        self.only = QToolButton()
        self.only.setText("Favourites only")
        self.only.setCheckable(True)
        self.only.setObjectName("toggle")
        self.only.clicked.connect(self.tiles.fill)
        self.tiles.top.addWidget(self.only)
        self.favourite = QToolButton()
        self.favourite.setText("Favourite")
        self.favourite.setCheckable(True)
        self.favourite.setObjectName("toggle")
        self.favourite.setToolTip("Favourites stand first")
        self.favourite.clicked.connect(self._mark)
        self.under.insertWidget(1, self.favourite)
        self.tiles.pointed.connect(self._show_favourite)
        self.begin()

    def stays_open(self) -> bool:
        """With Ctrl held, one after the other is added."""
        held = QApplication.keyboardModifiers() & Qt.KeyboardModifier.ControlModifier
        entry = self.tiles.current
        if held and entry is not None:
            self.about.setText(f"{entry.label.splitlines()[0]} is added. Let go of Ctrl to end.")
        return bool(held)

    def entries(self, words: str) -> list[TileEntry]:
        """The effects that have all the words; favourites, then the rest by family."""
        liked = self._choices.favourites
        found = [one for one in searched(words) if one.key in liked or not self.only.isChecked()]
        found.sort(key=lambda one: (one.key not in liked, one.family.value, one.label))
        tables = [] if self.only.isChecked() else self._tables
        return [
            TileEntry(
                f"{one.key}:{form}" if form else one.key,
                f"{_SIGN + ' ' if one.key in liked else ''}{one.label}\n{form or one.family.value}",
                f"{one.label}: {one.about}",
                partial(_shown, one, form),
            )
            for one in found
            for form in ("", *one.forms)
        ] + [x for x in lut_entries(tables, "LUT") if holds_words(x.label, words)]

    def nothing(self, words: str) -> str:
        """What to say where no effect is found."""
        if self.only.isChecked() and not words:
            return "There are no favourites yet; point at an effect and press Favourite."
        return f"No effect is found by '{words}'; try another word."

    def _show_favourite(self) -> None:
        """Shows whether the effect that is pointed at is a favourite."""
        entry = self.tiles.current
        self.favourite.setEnabled(entry is not None)
        self.favourite.setChecked(entry is not None and _kind(entry) in self._choices.favourites)

    def _mark(self, liked: bool) -> None:
        entry = self.tiles.current
        if entry is None:
            return
        kind = _kind(entry)
        others = tuple(key for key in self._choices.favourites if key != kind)
        changed = (*others, kind) if liked else others
        try:
            self._choices = replace(choices(), favourites=changed)
            keep_choices(self._choices)
        except InputError as fault:
            self.desk.messages.faulted.emit(str(fault))
        self.tiles.fill()


def _kind(entry: TileEntry) -> str:
    """The effect of an entry, whichever its form."""
    return entry.key.partition(":")[0]


def _kept(desk: Supplying) -> OwnChoices:
    try:
        return choices()
    except InputError as fault:
        desk.messages.faulted.emit(str(fault))
        return OwnChoices()


def _shown(effect: Effect, form: str, picture: Image, step: int) -> Image:
    """The effect in a form, from rest (step 0) to its full look (the middle) and back."""
    share = 0.5 - 0.5 * math.cos(2.0 * math.pi * step / STEPS)
    neutral = effect.neutral()
    values = Values(neutral)
    for name, full in effect.begun(form).items():
        rest = neutral[name]
        if discrete(full) or not same_kind(rest, full):
            values[name] = full if share > 0.4 else rest
        else:
            values[name] = mix(rest, full, share)
    scene = Scene.whole(
        picture.size,
        time=step / STEPS,
        frame=step,
        preview=True,
        other=_other(picture) if effect.needs_layer else None,
    )
    return effect.applied(picture, values, scene)


def _other(picture: Image) -> Image:
    """Something else for an effect to look at: the picture in other colours."""
    return Image(np.ascontiguousarray(picture.pixels[..., [2, 0, 1, 3]]), picture.light)
