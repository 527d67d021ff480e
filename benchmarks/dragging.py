"""What is seen while something is dragged with the mouse: pictures a second, and the fine one.

A pin, a handle of an ease, a point of a mask and a field are dragged in the real window, a move
each 16 ms, on the demo, on a document of eight layers, and on one of 30 layers and 240 frames.
"""

from __future__ import annotations

import itertools
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QWidget

from benchmarks.window import wait
from wrinkle import library
from wrinkle.core.design.document.mask_forms import MaskForm
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import SlotSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import lane_edits, layer_edits
from wrinkle.core.motion.track import Side
from wrinkle.core.picture import compiled
from wrinkle.ui import theme
from wrinkle.ui.bench.stack.card import LayerCard
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.looking import PinChoice
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.start import open_demo
from wrinkle.ui.theme import ThemeChoice
from wrinkle.ui.window import Window

TURN = SettingRef("turn", "rotation")
LEFT = Qt.MouseButton.LeftButton


@dataclass(frozen=True)
class Grasp:
    """What is dragged: a place on a widget, and how far the pointer goes from there."""

    widget: QWidget
    start: QPointF
    reach: QPointF


def with_layers(wrinkle: Wrinkle, count: int) -> Wrinkle:
    """The demo's wrinkle with so many layers, each over all of them in small."""
    for number in range(count - len(wrinkle.layers)):
        name = f"Further {number}"
        slot = SlotSource("incoming" if number % 2 else "outgoing")
        wrinkle = layer_edits.add_layer(wrinkle, name, slot)
        added = next(layer.id for layer in wrinkle.layers if layer.name == name)
        for key, value in (("scale", (60.0, 60.0)), ("rotation", 9.0 * number)):
            ref = SettingRef(added, key)
            wrinkle = lane_edits.set_value(wrinkle, ref, Fraction(0), value)
    return wrinkle


def unfolded(window: Window, layer: str) -> LayerCard:
    """A layer's card with all its sections open."""
    window.desk.looking.select_layer(layer)
    wait(50)
    card = next(x for x in window.places.place("bench").stack.cards if x.layer_id == layer)
    for section in card.sections.values():
        section.heading.setChecked(True)
    wait(50)
    return card


def grasps(window: Window) -> dict[str, Callable[[], Grasp]]:
    """How each thing is got hold of."""
    desk, bench = window.desk, window.places.place("bench")

    def pin() -> Grasp:
        desk.looking.select_layer("turn")
        wait(50)
        row = next(row for row in bench.timeline.rows if row.ref == TURN)
        chosen = PinChoice(TURN, 1, Side.OUTGOING)
        spot = next(x.spot for x in row.canvas.geometry_now.pins() if x.choice == chosen)
        return Grasp(row.canvas, spot, QPointF(0, 25))

    def handle() -> Grasp:
        desk.looking.select_layer("turn")
        desk.looking.select_pin(PinChoice(TURN, 0, Side.OUTGOING))
        wait(50)
        row = next(row for row in bench.timeline.rows if row.ref == TURN)
        first = row.canvas.geometry_now.handles(desk.looking.pin)[0]
        return Grasp(row.canvas, first.spot, QPointF(-60, 0))

    def point() -> Grasp:
        unfolded(window, "outgoing").masks.add(MaskForm.ELLIPSE)
        wait(50)
        result = bench.result
        return Grasp(result, result.paths.handles(result.area).points()[1], QPointF(25, 10))

    def field() -> Grasp:
        card = unfolded(window, "turn")
        row = next(row for row in card.rows if row.ref.key == "rotation")
        return Grasp(row.field, QPointF(12, 8), QPointF(90, 0))

    return {"pin": pin, "handle": handle, "mask point": point, "field": field}


def dragged(window: Window, grasp: Grasp, seconds: float = 3.0) -> str:
    """Drags to and fro, and says what was seen."""
    desk, pictures = window.desk, window.places.place("bench").renderer
    came: list[float] = []

    def note(frame: int) -> None:
        if frame == desk.looking.playhead:
            came.append(time.perf_counter())

    pictures.frameReady.connect(note)
    before, step, busy = desk.document.state, 0, 0.0
    QTest.mousePress(grasp.widget, LEFT, pos=grasp.start.toPoint())
    start = time.perf_counter()
    while time.perf_counter() - start < seconds:
        step += 1
        share = abs((step % 80) / 40.0 - 1.0)
        began = time.perf_counter()
        QTest.mouseMove(grasp.widget, (grasp.start + grasp.reach * (1.0 - share)).toPoint())
        busy += time.perf_counter() - began
        wait(16)
    moved, changed = list(came), desk.document.state != before
    rest = time.perf_counter()
    while not pictures.is_ready(desk.looking.playhead):
        wait(1)
    fine = time.perf_counter() - rest
    QTest.mouseRelease(grasp.widget, LEFT, pos=grasp.start.toPoint())
    pictures.frameReady.disconnect(note)
    gaps = sorted(b - a for a, b in itertools.pairwise((start, *moved))) or [seconds]
    return (
        f"{len(moved) / seconds:.0f} pictures a second of {step / seconds:.0f} moves, "
        f"gaps {gaps[len(gaps) // 2] * 1e3:.0f} and at most {gaps[-1] * 1e3:.0f} ms, "
        f"a move takes {busy / step * 1e3:.1f} ms, fine {fine:.2f} s after rest"
        + ("" if changed else " (nothing moved)")
    )


def main() -> None:
    """Prints what is seen while dragging."""
    app = QApplication(sys.argv[:1])
    compiled.load(library.compiled_folder())
    with tempfile.TemporaryDirectory() as folder:
        theme.apply(app, ThemeChoice.LINEN)
        desk = Desk.made()
        open_demo(desk, "smooth_turn")
        window = Window(desk, Preferences(Path(folder)))
        window.resize(1280, 800)
        window.show()
        QTest.qWaitForWindowExposed(window)
        while len(desk.tried.clips) < 2:
            wait(5)
        for count, half in ((len(desk.document.state.layers), None), (8, None), (30, 4)):
            wrinkle = with_layers(desk.document.state, count)
            if half is not None:
                wrinkle = replace(wrinkle, lead=Fraction(half), tail=Fraction(half))
            desk.document.preview(lambda _, wrinkle=wrinkle: wrinkle)
            desk.document.edit("layers")
            print(f"{len(wrinkle.layers)} layers, {len(wrinkle.frames)} frames")
            for what, grasp in grasps(window).items():
                held = grasp()
                wait(4000 if half is None else 9000)
                print(f"  {what}: {dragged(window, held)}")
                while desk.document.state != wrinkle:
                    desk.steps.undo()
                desk.looking.mode.end()
        kept = desk.workers.store.used / (1 << 20)
        print(f"{kept:.0f} MiB kept")
        desk.document.mark_saved()
        window.close()


if __name__ == "__main__":
    main()
