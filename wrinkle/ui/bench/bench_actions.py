"""What the menus and the keys do on the Bench."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import NamedTuple

from PyQt6.QtWidgets import QWidget

from wrinkle.core.design.document.slots import OUTGOING
from wrinkle.core.design.document.sources import GroupSource, TreatmentSource
from wrinkle.core.design.edits.layer_copies import PASTED
from wrinkle.core.measure.traces import TRACES
from wrinkle.core.motion.direction import Direction
from wrinkle.core.reuse.use import Use
from wrinkle.ui.actions.action import Action
from wrinkle.ui.actions.stepping import stepping
from wrinkle.ui.bench.dialogs.copy_dialog import CopyDialog
from wrinkle.ui.bench.dialogs.details_dialog import DetailsDialog
from wrinkle.ui.bench.dialogs.retime_dialog import RetimeDialog
from wrinkle.ui.bench.lanes.pin_actions import NO_PINS, PinActions, remove_pins
from wrinkle.ui.bench.lanes.timeline import Timeline
from wrinkle.ui.bench.pasting import Pasting
from wrinkle.ui.bench.picture.result_view import ResultView
from wrinkle.ui.bench.picture.source_view import SourceView
from wrinkle.ui.bench.picture.transport import SPEEDS, Transport
from wrinkle.ui.bench.picture_sizes import PictureSizes
from wrinkle.ui.bench.second_screen import ResultElsewhere
from wrinkle.ui.bench.stack.layer_actions import LayerActions
from wrinkle.ui.bench.stack.stack import Stack
from wrinkle.ui.bench.version_menu import VersionMenu
from wrinkle.ui.choosing.board import BoardDialog
from wrinkle.ui.choosing.tables_dialog import TablesDialog
from wrinkle.ui.desk.parts import Trying
from wrinkle.ui.desk.picture_lines import Lines
from wrinkle.ui.pictures.player import Player
from wrinkle.ui.pictures.sound_player import SoundPlayer

_DRAWN = {
    "pin-here": "pin", "split": "scissors", "add-effect": "thread", "treat": "patch",
    "add-picture": "cloth", "add-clip": "cloth", "numbers": "button",
}  # fmt: skip
"""The drawings of some, by the ends of their ids."""
_PACES = {25: "pace-quarter", 50: "pace-half", 100: "pace-whole"}
_SHORT = {"treat": "Treat…"}
_LINES = {
    Lines.AREAS: "Frames within which titles and actions are seen on any screen.",
    Lines.BUTTONS: "What players of upright videos cover with their own buttons.",
    Lines.THIRDS: "Two lines each way, to place by.",
    Lines.CENTRE: "A line each way through the middle.",
    Lines.GUIDES: "Drag lines out of the rulers; what is moved on the picture jumps to them.",
    Lines.ONION: "The neighbours of the frame shine through it.",
    Lines.BARE: "Marks in red where nothing covers the frame.",
    Lines.MASKS: "Hatches what the masks of the selected layer cover.",
}
_FILE, _PINS, _LAYERS, _STEPS, _SHOWN, _ZOOM = 30, 20, 10, 10, 20, 8


class BenchParts(NamedTuple):
    """What the actions act on, and the widget over which they ask."""

    widget: QWidget
    result: ResultView
    sizes: PictureSizes
    outgoing: SourceView
    incoming: SourceView
    stack: Stack
    transport: Transport
    timeline: Timeline
    player: Player
    versions: VersionMenu
    elsewhere: ResultElsewhere


def bench_actions(parts: BenchParts, desk: Trying) -> Sequence[Action]:
    """All of them."""
    return (
        *_file_actions(parts, desk),
        *_pin_actions(parts, desk),
        *_layer_actions(parts, desk),
        *_view_actions(parts, desk),
    )


def _file_actions(parts: BenchParts, desk: Trying) -> list[Action]:
    def retime() -> None:
        RetimeDialog(desk, parts.widget).exec()

    def details() -> None:
        DetailsDialog(desk, parts.widget.window()).open()

    return [
        _action("details", "What it is…", details, "File", _FILE, "Ctrl+I",
                "Says what the wrinkle is for: kinds, directions, slots."),
        _action("frame", "Frame, rate and length…", retime, "File", _FILE, "Ctrl+T",
                "Changes the frame that is designed in, its rate, and the lengths about the cut."),
        _action("outgoing", "Choose the outgoing clip…", parts.outgoing.choose, "File", _FILE, "",
                "Tries the wrinkle on another clip before the cut."),
        _action("incoming", "Choose the incoming clip…", parts.incoming.choose, "File", _FILE, "",
                "Tries the wrinkle on another clip after the cut."),
    ]  # fmt: skip


def _pin_actions(parts: BenchParts, desk: Trying) -> list[Action]:
    pins, pasting = PinActions(desk, parts.widget), Pasting(desk, parts.stack)
    needs_layer = _needing_layer(desk)

    def remove() -> None:
        remove_pins(desk)

    def no_pins() -> str:
        return "" if desk.looking.pins else NO_PINS

    rows: list[tuple[str, str, Callable[[], object], int, str, str, Callable[[], str]]] = [
        ("pin-here", "Set a pin here", pins.set_here, 0, "K",
         "Sets a keyframe at the playhead in every lane of the selected layer.", needs_layer),
        ("copy-pins", "Copy pins", pasting.copy, 0, "Ctrl+C",
         "Copies the selected keyframes, or the layer's effects.", _always),
        ("paste", "Paste", pasting.paste, 0, "Ctrl+V",
         "Puts what was copied at the playhead, or a file as a layer.", _always),
        ("select-pins", "Select all pins", pins.select_all, 0, "Ctrl+A",
         "Selects every keyframe of the selected layer.", needs_layer),
        ("remove-pins", "Remove pins", remove, 0, "", "Takes the selected keyframes out.", no_pins),
        ("nudge-back", "Nudge pins back", partial(pins.nudge, -1), 1, "Alt+Left",
         "Moves the selected pins a frame earlier.", no_pins),
        ("nudge-on", "Nudge pins on", partial(pins.nudge, 1), 1, "Alt+Right",
         "Moves the selected pins a frame later.", no_pins),
        ("raise-pins", "Raise the value of the pins", partial(pins.step, 1), 1, "Alt+Up",
         "Makes the selected pins a step larger; of a pair its first number.", no_pins),
        ("lower-pins", "Lower the value of the pins", partial(pins.step, -1), 1, "Alt+Down",
         "Makes the selected pins a step smaller; of a pair its first number.", no_pins),
        ("type-pin", "Type the value of the pin", parts.timeline.type_pin, 1, "P",
         "Goes to the field of the selected pin's value.", no_pins),
        ("reverse-pins", "Reverse pins in time", pins.reverse, 1, "",
         "Runs the selected pins backwards.", no_pins),
        ("swap-sides", "Swap the sides of the lane", pins.swap_sides, 1, "",
         "Mirrors the lanes of the selected pins about the cut.", no_pins),
        ("scale-time", "Scale pins in time…", pins.scale_time, 1, "",
         "Moves the selected pins nearer to the cut, or away from it, in proportion.", no_pins),
        ("scale-value", "Scale pins in value…", pins.scale_value, 1, "",
         "Makes what the selected pins do weaker or stronger, in proportion.", no_pins),
    ]  # fmt: skip
    ways = [
        _action("previous-pin", "Previous pin", partial(pins.go_to, -1), "View", _STEPS + 1, ",",
                "Selects the keyframe before, in the same lane where it has one.", needs_layer),
        _action("next-pin", "Next pin", partial(pins.go_to, 1), "View", _STEPS + 1, ".",
                "Selects the next keyframe, in the same lane where it has one.", needs_layer),
        _action("lane-above", "Pin in the lane above", partial(pins.go_across, -1), "View",
                _STEPS + 1, "Up", "Selects the nearest keyframe in the lane above.", needs_layer),
        _action("lane-below", "Pin in the lane below", partial(pins.go_across, 1), "View",
                _STEPS + 1, "Down", "Selects the nearest keyframe in the lane below.", needs_layer),
    ]  # fmt: skip
    return ways + [
        _action(name, label, act, "Edit", _PINS + section, key, says, why_not)
        for name, label, act, section, key, says, why_not in rows
    ]


def _layer_actions(parts: BenchParts, desk: Trying) -> list[Action]:
    layers, stack = LayerActions(desk, parts.widget), parts.stack

    treat = partial(stack.new.add, "Treatment", TreatmentSource())

    def duplicate() -> None:
        if desk.looking.layer:
            CopyDialog(desk, parts.widget).exec()

    needs_layer = _needing_layer(desk)

    def needs_group() -> str:
        layer = desk.looking.layer
        group = layer and isinstance(desk.document.state.layer(layer).source, GroupSource)
        return "" if group else "Select a group first."

    rows: list[tuple[str, str, Callable[[], object], int, str, str, Callable[[], str]]] = [
        ("add-effect", "Add an effect…", stack.choose_effect, 0, "",
         "Lists the effects on small pictures, to put one on the selected layer.", needs_layer),
        ("treat", "Treat both clips…", stack.new.add_treatment, 0, "",
         "Adds a treatment of both clips, with effects of your choice.", _always),
        ("add-treatment", "Add a treatment", treat, 0, "",
         "Adds a layer whose effects and place act on everything below it.", _always),
        ("add-picture", "Add a picture or SVG…", stack.new.choose_picture, 0, "",
         "Adds a layer that shows a picture, or the paths of a drawing.", _always),
        ("add-clip", "Add a further clip…", stack.new.choose_clip, 0, "",
         "Adds a layer with a slot of its own, which reuse fills with another clip.", _always),
        ("duplicate", "Duplicate…", duplicate, 0, "Ctrl+D",
         "Copies the selected layer, changed from one copy to the next as you say.", needs_layer),
        ("other-half", "Duplicate as the other half", layers.other_half, 0, "Ctrl+Shift+D",
         "Copies the selected layer with its masks inverted and its way reversed.", needs_layer),
        ("bands", "Split into three bands", layers.bands, 0, "T",
         "Cuts the selected layer into bands that slide from alternating sides.", needs_layer),
        ("group", "Group", stack.new.group_selected, 0, "Ctrl+G",
         "Puts the selected layer into a group of its own.", needs_layer),
        ("dissolve", "Dissolve the group", layers.dissolve, 0, "Ctrl+Shift+G",
         "Takes the selected group away; what it holds stays.", needs_group),
        ("overlap", "Let the clips overlap", layers.overlap, 1, "O",
         "Both clips run through the whole window, to be revealed or cut out.", _always),
        ("parts", "Split into four parts", layers.parts, 1, "Shift+S",
         "Cuts the selected layer into four layers, one after the other in time.", needs_layer),
        ("in-turn", "Reveal what it holds in turn", layers.in_turn, 1, "R",
         "Masks open on what the selected group holds, one after the other.", needs_group),
        ("split", "Split here", layers.split, 1, "S",
         "Cuts the selected layer into two at the playhead.", needs_layer),
        ("freeze", "Freeze here", layers.freeze, 1, "Z",
         "The selected layer stands still from the playhead on.", needs_layer),
        ("blink", "Blink, or no longer", layers.blink, 1, "Shift+B",
         "The selected layer is shown and hidden in a pattern of frames.", needs_layer),
        ("hit", "A hit is heard here", layers.hit, 1, "H",
         "Adds the sound of a hit at the playhead.", _always),
        ("copy-layer", "Copy the layer's settings", desk.clipboard.copy_layer, 2, "",
         "Copies what the selected layer has, to be given to another one.", needs_layer),
        ("layer-front", "Select the layer in front", partial(layers.select, 1), 3, "Shift+Up",
         "Selects the layer whose card is above.", _always),
        ("layer-behind", "Select the layer behind", partial(layers.select, -1), 3, "Shift+Down",
         "Selects the layer whose card is below.", _always),
        ("forward", "Bring forward", partial(layers.shift, 1), 3, "Ctrl+Up",
         "Moves the selected layer in front of the next one.", needs_layer),
        ("back", "Send back", partial(layers.shift, -1), 3, "Ctrl+Down",
         "Moves the selected layer behind the one before.", needs_layer),
        ("remove", "Remove the layer", layers.remove, 3, "",
         "Takes the selected layer out; what it cuts is asked about.", needs_layer),
    ]  # fmt: skip
    found = [
        _action(name, label, act, "Layer", _LAYERS + section, key, says, why_not)
        for name, label, act, section, key, says, why_not in rows
    ]

    def nothing_copied() -> str:
        there = desk.clipboard.layer is not None and desk.looking.layer
        return "" if there else "Copy a layer's settings first, then select another layer."

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
                        says="Gives the selected layer what the copied one has.",
                        why_not=nothing_copied,
                    )
                )
    return found


def _view_actions(parts: BenchParts, desk: Trying) -> list[Action]:
    looking, transport, document = desk.looking, parts.transport, desk.document

    def toggle_speed() -> None:
        looking.show_speed(not looking.speed_shown)

    def no_clips() -> str:
        there = OUTGOING.key in desk.tried.clips
        return "" if there else "Choose the two clips first; the board shows them."

    def ends() -> tuple[int, int]:
        return document.state.first_frame, document.state.end_frame - 1

    def board() -> None:
        use = Use(document.state, desk.tried.fillings(), desk.trial.choices)
        dialog = BoardDialog(
            use,
            desk.carried(),
            desk.workers,
            SoundPlayer(desk.output(), desk.sound),
            parts.widget.window(),
        )
        dialog.taken.connect(desk.trial.set_choices)
        if looking.playing:
            transport.toggle()
        dialog.show()

    def tables() -> None:
        timeline = parts.timeline
        dialog = TablesDialog(timeline.models, parts.widget)
        dialog.frameChosen.connect(looking.set_playhead)
        timeline.modelsChanged.connect(dialog.refresh)
        dialog.show()

    def toggle_split() -> None:
        looking.show_split(not looking.split)

    def toggle_trace(key: str) -> None:
        looking.show_trace(key, key not in looking.traces)

    traces = [
        Action(f"bench.trace.{key}", trace.label, partial(toggle_trace, key), "View", _SHOWN,
               under="Traces", says="Draws what is measured of every frame under the lanes.",
               checked=lambda key=key: key in looking.traces)  # type: ignore[misc]
        for key, trace in TRACES.items()
    ]  # fmt: skip
    steps = stepping("bench", looking.step, looking.set_playhead, ends,
                     partial(looking.set_playhead, 0))  # fmt: skip
    player, shown = parts.player, looking.viewChanged

    def toggle_blur() -> None:
        looking.show_motion_blur(not looking.motion_blur_shown)

    def toggle_alone() -> None:
        looking.show_layer_alone(not looking.layer_alone)

    speeds = [
        Action(f"bench.speed-{percent}", f"At {percent} % of the true rate",
               partial(player.set_speed, percent / 100), "View", _STEPS, under="Speed of the loop",
               says="Plays slower, to see each frame." if percent < 100 else "Plays as it will be.",
               checked=lambda percent=percent: player.speed == percent / 100,  # type: ignore[misc]
               icon=_PACES[percent], short=f"{percent} %",
               follows=(player.speedChanged,))
        for percent in SPEEDS
    ]  # fmt: skip

    def toggle_sound() -> None:
        looking.show_sound(not looking.sound_shown)

    view = parts.result

    def at(scale: float) -> None:
        # A pixel of the frame for each of the screen, or for two by two.
        view.zoom.set_scale(scale / view.devicePixelRatioF(), view.room, view.shape)

    sizes = parts.sizes
    zooms = [
        _action("wider", "The picture larger", sizes.step, "View", _ZOOM, "W",
                "Gives the result more of the window, then the whole screen, then the usual part."),
        _action("narrower", "The picture smaller", partial(sizes.step, -1), "View", _ZOOM,
                "Shift+W", "Gives the result less of the window."),
        Action("bench.column", "The result in a column of its own", sizes.toggle_column, "View",
               _ZOOM, ("Alt+W",), checked=lambda: sizes.in_column, follows=(sizes.changed,),
               says="Gives an upright result all of the height, between the lanes and the stack."),
        Action("bench.elsewhere", "The result on another screen", parts.elsewhere.toggle, "View",
               _ZOOM, ("Ctrl+Shift+W",), checked=lambda: parts.elsewhere.is_open,
               follows=(parts.elsewhere.changed,),
               says="Fills another screen with the result; with one screen, a window of its own."),
        _action("fit", "All of the picture", view.zoom.fit, "View", _ZOOM, "Alt+0",
                "Shows all of the picture, as large as it fits."),
        _action("actual", "Pixel for pixel, 100 %", partial(at, 1.0), "View", _ZOOM, "Alt+1",
                "One pixel of the picture for one of the screen; the wheel zooms further."),
        _action("double", "At 200 %", partial(at, 2.0), "View", _ZOOM, "Alt+2",
                "Two pixels of the screen for one of the picture."),
    ]  # fmt: skip

    def toggle_scopes() -> None:
        looking.show_scopes(not looking.scopes_shown)

    zooms.append(
        Action("bench.scopes", "Scopes beside the picture", toggle_scopes, "View", _ZOOM,
               ("Shift+O",), checked=lambda: looking.scopes_shown,
               follows=(looking.scopesShownChanged,),
               says="Counts what is in the picture: waveform, parade, vectorscope, histogram.")
    )  # fmt: skip
    zooms.append(
        _action("keep-version", "Keep this version…", parts.versions.ask_keep, "View", _SHOWN,
                "Shift+K", "Keeps the wrinkle as it is now, to be compared with: up to four.")
    )  # fmt: skip
    lines = [
        Action(f"bench.lines.{one.value}", one.label, partial(desk.lines.toggle, one), "View",
               _ZOOM, under="Over the picture", says=_LINES[one],
               checked=lambda one=one: one in desk.lines.shown,  # type: ignore[misc]
               follows=(desk.lines.changed,))
        for one in Lines
    ]  # fmt: skip
    return zooms + lines + traces + steps + speeds + [
        Action("bench.sound", "What is heard, under the lanes", toggle_sound, "View", _SHOWN,
               ("Shift+H",), says="Draws the sound of the window, and each sound of the wrinkle.",
               checked=lambda: looking.sound_shown, short="Sound",
               follows=(looking.soundShownChanged,)),
        Action("bench.loop", "Loop or stop", transport.toggle, "View", _STEPS, ("Space",),
               says="Plays the window in a loop at its true rate, or stops.",
               checked=lambda: player.playing, icon="loop",
               short=lambda: "Stop" if player.playing else "Loop",
               follows=(player.playingChanged,)),
        Action("bench.blur", "Motion blur on or off", toggle_blur, "View", _SHOWN, ("M",),
               says="Shows the pictures with or without motion blur; the wrinkle stays as it is.",
               checked=lambda: looking.motion_blur_shown, icon="blur", short="Blur",
               follows=(shown,)),
        Action("bench.layer-alone", "The selected layer alone", toggle_alone, "View", _SHOWN,
               ("L",), checked=lambda: looking.layer_alone, follows=(shown,),
               why_not=_needing_layer(desk),
               says="Shows one layer without the others, to judge it and to take colours from it."),
        _action("speed", "Speed in the lanes", toggle_speed, "View", _SHOWN, "V",
                "Draws the speed of the values in the lanes, through the cut.",
                checked=lambda: looking.speed_shown),
        Action("bench.sheet", "Contact sheet", transport.toggle_sheet, "View", _SHOWN, ("G",),
               says="Shows every frame of the window at once.", icon="grid",
               checked=lambda: transport.sheet_shown, short="Sheet",
               follows=(transport.sheetWanted,)),
        _action("board", "Board: directions, strengths, dials…", board, "View", _SHOWN, "Shift+G",
                "Shows the wrinkle in its directions and strengths, or along a dial, to take one.",
                no_clips),
        _action("numbers", "Numbers as a table…", tables, "View", _SHOWN, "N",
                "Lists pins, measured values and frames, to be typed in, copied and read aloud."),
        Action("bench.before-after", "Split: before | after", toggle_split, "View", _SHOWN,
               ("Shift+E",), checked=lambda: looking.split, icon="split", short="Split",
               follows=(shown,),
               says="A line in the picture: without the effects at its left, with them at its "
               "right."),
    ]  # fmt: skip


_NO_LAYER = "Select a layer first: {bench.layer-front} selects one; or press its card."


def _needing_layer(desk: Trying) -> Callable[[], str]:
    return lambda: "" if desk.looking.layer else _NO_LAYER


def _always() -> str:
    return ""


def _action(
    name: str,
    label: str,
    act: Callable[[], object],
    menu: str,
    section: int,
    key: str,
    says: str,
    why_not: Callable[[], str] = _always,
    checked: Callable[[], bool] | None = None,
) -> Action:
    keys = (key,) if key else ()
    return Action(
        f"bench.{name}", label, act, menu, section, keys, "", says, why_not, checked,
        icon=_DRAWN.get(name, ""), short=_SHORT.get(name, ""),
    )  # fmt: skip
