"""Moving the playhead by frames: the same keys and words wherever frames are looked at."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from wrinkle.ui.actions.action import Action
from wrinkle.ui.shared.key_hand import STEPS_WITH_SHIFT

_SHORT = {"frame-back": "Back", "frame-on": "On", "to-cut": "Cut"}
_DRAWN = {"frame-back": "step-back", "frame-on": "step-on", "to-cut": "seam"}


def stepping(
    place: str,
    step: Callable[[int], object],
    go_to: Callable[[int], object],
    ends: Callable[[], tuple[int, int]],
    cut: Callable[[], object] | None = None,
) -> list[Action]:
    """One frame and five frames both ways, both ends, and the cut.

    Args:
        place: in front of the ids.
        step: moves by so many frames.
        go_to: moves to a frame.
        ends: the first and the last frame.
        cut: moves to the cut, where there is one.
    """
    rows: list[tuple[str, str, Callable[[], object], str, str]] = [
        ("frame-back", "One frame back", partial(step, -1), "Left", "Shows the frame before."),
        ("frame-on", "One frame on", partial(step, 1), "Right", "Shows the next frame."),
        ("five-back", "Five frames back", partial(step, -STEPS_WITH_SHIFT), "Shift+Left",
         "Shows the fifth frame before."),
        ("five-on", "Five frames on", partial(step, STEPS_WITH_SHIFT), "Shift+Right",
         "Shows the fifth frame from here."),
        ("to-first", "First frame", lambda: go_to(ends()[0]), "Home", "Shows the first frame."),
        ("to-last", "Last frame", lambda: go_to(ends()[1]), "End", "Shows the last frame."),
    ]  # fmt: skip
    if cut is not None:
        says = "Shows the first frame after the cut."
        rows.append(("to-cut", "To the cut", cut, "0", says))
    return [
        Action(f"{place}.{name}", label, act, "View", 10, (key,), says=says,
               icon=_DRAWN.get(name, ""), short=_SHORT.get(name, ""))
        for name, label, act, key, says in rows
    ]  # fmt: skip
