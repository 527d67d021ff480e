"""A piece built in a window of its own, and what came of it."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple
from unittest import mock

import numpy as np
from msgspec.structs import replace
from PyQt6.QtCore import QCoreApplication, QEvent
from PyQt6.QtTest import QTest

from benchmarks.actions.hand import Hand
from benchmarks.actions.pieces import Files, Piece
from tests.ui.window_case import wait_for
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.reuse.use import Use, showing
from wrinkle.library import FOLDER
from wrinkle.library.samples import DEMO, SAMPLES
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.window import Window

_SIZE = Size(54, 96)
_ROUNDING = 1
"""Levels by which a clip under a mask that shows all of it may differ."""


class Built(NamedTuple):
    """A piece that was built.

    Attributes:
        count: of actions.
        wrinkle: what was made.
        faults: what the window complained about.
        moves_at: those of its first and its last frame that are not the plain clips.
    """

    count: int
    wrinkle: Wrinkle
    faults: list[str]
    moves_at: list[int]

    @property
    def what(self) -> str:
        """How much there is of everything."""
        layers = self.wrinkle.layers
        effects = sum(len(x.effects) for x in layers)
        masks, lanes = sum(len(x.masks) for x in layers), sum(len(x.lanes()) for x in layers)
        return f"{len(layers)}, {effects}, {masks}, {lanes}"


def built(piece: Piece, folder: Path, hand: Callable[[Desk, Window], Hand] = Hand) -> Built:
    """Builds a piece from a new document on two small clips.

    Args:
        piece: which one.
        folder: for the window's preferences and own data.
        hand: builds it.
    """
    with mock.patch("platformdirs.user_data_path", return_value=folder):
        return _built(piece, folder, hand)


def _built(piece: Piece, folder: Path, make: Callable[[Desk, Window], Hand]) -> Built:
    desk = Desk.made()
    faults: list[str] = []
    desk.messages.faulted.connect(faults.append)
    desk.tried.begin(SAMPLES | {"outgoing": piece.outgoing})
    window = Window(desk, Preferences(folder / "preferences"))
    window.resize(1280, 800)
    window.show()
    QTest.qWaitForWindowExposed(window)
    try:
        wait_for(lambda: len(desk.tried.clips) == 2, "the clips")
        window.places.place("bench").set_resolution(0.25)  # type: ignore[attr-defined]
        hand = make(desk, window)
        luts = FOLDER / "luts"
        files = Files(
            DEMO / "sea_fog.mp4",
            DEMO / "ink.mp4",
            DEMO / "strokes.svg",
            luts / "cold_morning.cube",
            luts / "late_gold.cube",
        )
        piece.build(hand, files)
        return Built(hand.count, desk.document.state, faults, _moves_at(desk))
    finally:
        desk.document.mark_saved()
        window.close()
        window.deleteLater()
        QCoreApplication.processEvents()
        desk.workers.stop()
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)


def _moves_at(desk: Desk) -> list[int]:
    wrinkle, fillings = desk.document.state, desk.tried.fillings()
    cut = replace(plain_cut(), lead=wrinkle.lead, tail=wrinkle.tail)
    shown, plain = (
        showing(Use(x, fillings), desk.carried(), _SIZE, wrinkle.frame_rate, Quality.PREVIEW)
        for x in (wrinkle, cut)
    )
    found = []
    for frame in (wrinkle.first_frame, wrinkle.end_frame - 1):
        here, there = (x.image(frame).to_bytes8().astype(int) for x in (shown, plain))
        if np.abs(here - there).max() > _ROUNDING:
            found.append(frame)
    return found
