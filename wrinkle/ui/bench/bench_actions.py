"""What the menus and the keys do on the Bench."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import NamedTuple

from PyQt6.QtWidgets import QWidget

from wrinkle.core.design.layer_copies import PASTED
from wrinkle.core.design.slots import OUTGOING
from wrinkle.core.design.sources import TreatmentSource
from wrinkle.core.measure.traces import TRACES
from wrinkle.core.motion.direction import Direction
from wrinkle.core.reuse.use import Use
from wrinkle.ui.bench.copy_dialog import CopyDialog
from wrinkle.ui.bench.details_dialog import DetailsDialog
from wrinkle.ui.bench.layer_actions import LayerActions
from wrinkle.ui.bench.pasting import Pasting
from wrinkle.ui.bench.pin_actions import PinActions, remove_pins
from wrinkle.ui.bench.retime_dialog import RetimeDialog
from wrinkle.ui.bench.source_view import SourceView
from wrinkle.ui.bench.stack import Stack
from wrinkle.ui.bench.transport import Transport
from wrinkle.ui.choosing.board import BoardDialog
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.place import Action

_FILE, _PINS, _LAYERS, _STEPS, _SHOWN = 30, 20, 10, 10, 20


class BenchParts(NamedTuple):
    """What the actions act on, and the widget over which they ask."""

    widget: QWidget
    outgoing: SourceView
    incoming: SourceView
    stack: Stack
    transport: Transport


def bench_actions(parts: BenchParts, desk: Desk) -> Sequence[Action]:
    """All of them."""
    return (
        *_file_actions(parts, desk),
        *_pin_actions(parts, desk),
        *_layer_actions(parts, desk),
        *_view_actions(parts, desk),
    )


def _file_actions(parts: BenchParts, desk: Desk) -> list[Action]:
    def retime() -> None:
        RetimeDialog(desk, parts.widget).exec()

    def details() -> None:
        DetailsDialog(desk, parts.widget.window()).open()

    return [
        Action("bench.details", "What it is…", details, "File", _FILE, ("Ctrl+I",)),
        Action("bench.frame", "Frame, rate and length…", retime, "File", _FILE, ("Ctrl+T",)),
        Action("bench.outgoing", "Choose the outgoing clip…", parts.outgoing.choose, "File", _FILE),
        Action("bench.incoming", "Choose the incoming clip…", parts.incoming.choose, "File", _FILE),
    ]


def _pin_actions(parts: BenchParts, desk: Desk) -> list[Action]:
    pins, pasting = PinActions(desk, parts.widget), Pasting(desk, parts.stack)

    def remove() -> None:
        remove_pins(desk)

    here: tuple[tuple[str, str, Callable[[], object], str], ...] = (
        ("pin-here", "Set a pin here", pins.set_here, "K"),
        ("copy-pins", "Copy pins", pasting.copy, "Ctrl+C"),
        ("paste", "Paste", pasting.paste, "Ctrl+V"),
        ("select-pins", "Select all pins", pins.select_all, "Ctrl+A"),
        ("remove-pins", "Remove pins", remove, ""),
    )
    moves: tuple[tuple[str, str, Callable[[], object], str], ...] = (
        ("nudge-back", "Nudge pins back", partial(pins.nudge, -1), "Alt+Left"),
        ("nudge-on", "Nudge pins on", partial(pins.nudge, 1), "Alt+Right"),
        ("reverse-pins", "Reverse pins in time", pins.reverse, ""),
        ("swap-sides", "Swap the sides of the lane", pins.swap_sides, ""),
        ("scale-time", "Scale pins in time…", pins.scale_time, ""),
        ("scale-value", "Scale pins in value…", pins.scale_value, ""),
    )
    ways: tuple[tuple[str, str, Callable[[], object], str], ...] = (
        ("previous-pin", "Previous pin", partial(pins.go_to, -1), ","),
        ("next-pin", "Next pin", partial(pins.go_to, 1), "."),
    )
    return [
        _action(name, label, act, menu, section, key)
        for menu, section, rows in (
            ("Edit", _PINS, here),
            ("Edit", _PINS + 1, moves),
            ("View", _STEPS + 1, ways),
        )
        for name, label, act, key in rows
    ]


def _layer_actions(parts: BenchParts, desk: Desk) -> list[Action]:
    layers, stack = LayerActions(desk, parts.widget), parts.stack

    treat = partial(stack.new.add, "Treatment", TreatmentSource())

    def duplicate() -> None:
        if desk.looking.layer:
            CopyDialog(desk, parts.widget).exec()

    found = [
        _action(name, label, act, "Layer", section, key)
        for name, label, act, section, key in (
            ("add-treatment", "Add a treatment", treat,
             _LAYERS, ""),
            ("add-picture", "Add a picture or SVG…", stack.new.choose_picture, _LAYERS, ""),
            ("add-clip", "Add a further clip…", stack.new.choose_clip, _LAYERS, ""),
            ("duplicate", "Duplicate…", duplicate, _LAYERS, "Ctrl+D"),
            ("other-half", "Duplicate as the other half", layers.other_half, _LAYERS,
             "Ctrl+Shift+D"),
            ("bands", "Split into three bands", layers.bands, _LAYERS, "T"),
            ("group", "Group", stack.new.group_selected, _LAYERS, "Ctrl+G"),
            ("dissolve", "Dissolve the group", layers.dissolve, _LAYERS, "Ctrl+Shift+G"),
            ("overlap", "Let the clips overlap", layers.overlap, _LAYERS + 1, "O"),
            ("parts", "Split into four parts", layers.parts, _LAYERS + 1,
             "Shift+S"),
            ("in-turn", "Reveal what it holds in turn", layers.in_turn, _LAYERS + 1, "R"),
            ("split", "Split here", layers.split, _LAYERS + 1, "S"),
            ("freeze", "Freeze here", layers.freeze, _LAYERS + 1, "Z"),
            ("blink", "Blink, or no longer", layers.blink, _LAYERS + 1, "Shift+B"),
            ("hit", "A hit is heard here", layers.hit, _LAYERS + 1, "H"),
            ("copy-layer", "Copy the layer's settings", desk.clipboard.copy_layer, _LAYERS + 2, ""),
            ("forward", "Bring forward", partial(layers.shift, 1), _LAYERS + 3, "Ctrl+Up"),
            ("back", "Send back", partial(layers.shift, -1), _LAYERS + 3, "Ctrl+Down"),
            ("remove", "Remove the layer", layers.remove, _LAYERS + 3, ""),
        )
    ]  # fmt: skip
    for what in PASTED:
        for mirror in Direction:
            if mirror is Direction.AS_MADE or what.mirrors:
                found.append(
                    Action(
                        f"bench.paste-{what.key}-{mirror.name.lower()}",
                        f"{what.label}, {mirror.label}",
                        partial(layers.paste, what.key, mirror),
                        "Layer",
                        _LAYERS + 2,
                        under="Paste to the selected layer",
                    )
                )
    return found


def _view_actions(parts: BenchParts, desk: Desk) -> list[Action]:
    looking, transport, document = desk.looking, parts.transport, desk.document

    def to_first() -> None:
        looking.set_playhead(document.wrinkle.first_frame)

    def to_last() -> None:
        looking.set_playhead(document.wrinkle.end_frame - 1)

    def toggle_speed() -> None:
        looking.show_speed(not looking.speed_shown)

    def board() -> None:
        if OUTGOING.key not in desk.tried.clips:
            desk.messages.faulted.emit("Choose the two clips first; the board shows them.")
            return
        use = Use(document.wrinkle, desk.tried.fillings(), desk.trial.choices)
        dialog = BoardDialog(use, desk.carried(), desk.workers, parts.widget.window())
        dialog.taken.connect(desk.trial.set_choices)
        if looking.playing:
            transport.toggle()
        dialog.show()

    def toggle_split() -> None:
        looking.show_split(not looking.split)

    def toggle_trace(key: str) -> None:
        looking.show_trace(key, key not in looking.traces)

    traces = [
        Action(f"bench.trace.{key}", trace.label, partial(toggle_trace, key), "View", _SHOWN,
               under="Traces")
        for key, trace in TRACES.items()
    ]  # fmt: skip
    return traces + [
        _action(name, label, act, "View", section, key)
        for name, label, act, section, key in (
            ("loop", "Loop or stop", transport.toggle, _STEPS, "Space"),
            ("frame-back", "One frame back", partial(looking.step, -1), _STEPS, "Left"),
            ("frame-on", "One frame on", partial(looking.step, 1), _STEPS, "Right"),
            ("five-back", "Five frames back", partial(looking.step, -5), _STEPS, "Shift+Left"),
            ("five-on", "Five frames on", partial(looking.step, 5), _STEPS, "Shift+Right"),
            ("to-cut", "To the cut", partial(looking.set_playhead, 0), _STEPS, "0"),
            ("to-first", "First frame", to_first, _STEPS, "Home"),
            ("to-last", "Last frame", to_last, _STEPS, "End"),
            ("blur", "Motion blur on or off", transport.toggle_blur, _SHOWN, "M"),
            ("speed", "Speed in the lanes", toggle_speed, _SHOWN, "V"),
            ("sheet", "Contact sheet", transport.toggle_sheet, _SHOWN, "G"),
            ("board", "Board: directions, strengths, dials…", board, _SHOWN, "Shift+G"),
            ("before-after", "Split: before | after", toggle_split, _SHOWN, "Shift+E"),
        )
    ]


def _action(
    name: str, label: str, act: Callable[[], object], menu: str, section: int, key: str
) -> Action:
    return Action(f"bench.{name}", label, act, menu, section, (key,) if key else ())
