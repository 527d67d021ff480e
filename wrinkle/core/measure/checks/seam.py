"""Motion that breaks at the cut, told from the lanes and from the picture."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np

from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import lane_edits
from wrinkle.core.errors import InputError
from wrinkle.core.measure.check import Check, Finding, Mend
from wrinkle.core.measure.limits import BREAK_SHARE, BREAK_SPEED
from wrinkle.core.measure.subject import Subject
from wrinkle.core.motion.track import IncomingHalf

_TOGETHER = 0.5
"""The mean way is so large a share of how far points go where a picture moves as a whole."""


def find_in_lanes(subject: Subject) -> Iterator[Finding]:
    """The lanes whose value or speed differs on both sides of the cut."""
    wrinkle = subject.wrinkle
    for layer in wrinkle.layers:
        for address in layer.lanes():
            ref = SettingRef(layer.id, address)
            fault = lane_edits.fault_at_cut(wrinkle, ref)
            if fault is None:
                continue
            breaks = [
                words
                for words, there in (
                    ("jumps", fault.jump is not None),
                    ("changes its speed", fault.speeds is not None),
                )
                if there
            ]
            label = layer.spec(address).label
            sentence = f"{label} of {layer.name} {' and '.join(breaks)} at the cut."
            yield Finding(
                LANES.key, sentence, layer.id, address, (-1, 0), 0, 1.0, _mends(subject, ref)
            )


def _mends(subject: Subject, ref: SettingRef) -> tuple[Mend, ...]:
    """Those that leave the lane whole."""
    design = subject.design
    ways: tuple[tuple[str, str, Callable[[Wrinkle], Wrinkle]], ...] = (
        ("meet", "Let both halves meet", lambda x: lane_edits.meet_at_cut(x, ref)),
        ("carry", "Carry the motion on",
         lambda x: lane_edits.set_incoming(x, ref, IncomingHalf.CARRY_ON)),
    )  # fmt: skip
    offered = []
    for key, label, way in ways:
        try:
            mended = way(design)
        except (InputError, KeyError):
            continue
        if lane_edits.fault_at_cut(mended, ref) is None:
            offered.append(Mend(key, label, lambda mended=mended: mended))  # type: ignore[misc]
    return tuple(offered)


def find_in_picture(subject: Subject) -> Iterator[Finding]:
    """The picture's motion before the cut and after it, where lanes move it."""
    if subject.frames.start > -2 or subject.frames.stop < 2:
        return
    unit = min(subject.showing.size) / 100.0
    places = [frame - subject.frames.start for frame in (-1, 1)]
    lanes = subject.lane_ways[places] / unit
    whole = subject.lane_speeds[places] / unit
    steps = [subject.survey.steps[place] for place in places]
    if not all(step.motion.trusted for step in steps) or not np.isfinite(lanes).all():
        return
    if (np.hypot(*lanes.T) < _TOGETHER * whole).any():
        # What turns, tilts or grows has no one way.
        return
    seen = np.array([step.motion.way for step in steps]) / unit
    for ways in (lanes, seen):
        fast = float(np.hypot(*ways.T).max())
        if fast < BREAK_SPEED or float(np.hypot(*(ways[1] - ways[0]))) <= BREAK_SHARE * fast:
            return
    before, after = (_way(way) for way in seen)
    sentence = f"At the cut the picture's motion breaks: before it goes {before}, after it {after}."
    apart = float(np.hypot(*(seen[1] - seen[0])) / np.hypot(*seen.T).max())
    yield Finding(PICTURE.key, sentence, frames=(-1, 0), worst=0, weight=apart / BREAK_SHARE - 1.0)


def _way(way: np.ndarray) -> str:
    """A speed and a direction in words."""
    speed = float(np.hypot(*way))
    if speed < 0.5:
        return "nowhere"
    turns = round(float(np.degrees(np.arctan2(way[1], way[0]))) / 45.0) % 8
    words = ("right", "down right", "down", "down left", "left", "up left", "up", "up right")
    return f"{words[turns]} by {speed:.1f} % of the short side a frame"


LANES = Check(
    "seam",
    "Motion through the cut",
    "A lane has the same value and the same speed on both sides of the cut.",
    find_in_lanes,
    gravity=2,
    pictures=False,
    trace="speed",
)
PICTURE = Check(
    "way",
    "The picture's way through the cut",
    "Where lanes move the picture, it goes on in the same direction at about the same speed.",
    find_in_picture,
    trace="speed",
)
