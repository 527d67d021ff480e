"""The guide goes on where it was left, or begins anew."""

from __future__ import annotations

from collections.abc import Callable

from wrinkle.library.samples import DEMO_PIECE, SAMPLES
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.help.first_steps import FirstSteps
from wrinkle.ui.help.steps import STEPS


def take_up(
    steps: FirstSteps, desk: Desk, left_at: int, wrinkle_may_go: Callable[[], bool]
) -> None:
    """Goes on at a step, or begins on a new wrinkle and the demo's clips.

    Args:
        steps: the guide; where it runs already nothing happens.
        desk: on which it is done.
        left_at: the step at which it was left; 0 or their number for a new beginning.
        wrinkle_may_go: asks about a wrinkle that is not saved, before another one is begun.
    """
    if steps.running:
        return
    if not 0 < left_at < len(STEPS) or not desk.tried.clips:
        if not wrinkle_may_go():
            return
        left_at = 0
        desk.document.start_new()
        desk.tried.begin(dict(SAMPLES))
    if not desk.piece.state.clips:
        desk.piece.show_copy(DEMO_PIECE)
    steps.begin(left_at)
