"""Detail that is lost beyond white, and single frames that jump out."""

from __future__ import annotations

from collections.abc import Iterator

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.effects.registry import effect
from wrinkle.core.measure.causes import Cause, left_out, responsible, weakened_until
from wrinkle.core.measure.check import Check, Finding, Mend, frame_word, frames_word
from wrinkle.core.measure.limits import BEYOND_WHITE, JUMP, JUMP_LEAST
from wrinkle.core.measure.subject import Subject


def find_clipped(subject: Subject) -> Iterator[Finding]:
    """Frames of which too much loses its detail beyond white."""
    shares = {frame: subject.survey.look(frame).beyond for frame in subject.frames}
    frames = tuple(frame for frame, share in shares.items() if share > BEYOND_WHITE)
    if not frames:
        return
    worst = max(frames, key=lambda frame: shares[frame])
    sentence = (
        f"{frames_word(frames)}: {shares[worst] * 100:.0f} % of the frame is brighter than white "
        f"on frame {frame_word(worst)}, and its detail is lost."
    )
    mend = Mend("weaken", "Lower it to just below the limit", lambda: _weakened(subject))
    weight = shares[worst] / BEYOND_WHITE - 1.0
    yield Finding(CLIPPED.key, sentence, frames=frames, worst=worst, weight=weight, mends=(mend,))


def _clipped(subject: Subject) -> float:
    return max(subject.survey.look(frame).beyond for frame in subject.frames) / BEYOND_WHITE


def _weakened(subject: Subject) -> Wrinkle:
    return weakened_until(subject, responsible(subject, _clipped), _clipped)


def find_jumps(subject: Subject) -> Iterator[Finding]:
    """Frames that are far from both neighbours, which are near to each other."""
    for frame in subject.frames[1:-1]:
        score = _jump(subject, frame)
        if score <= 1.0:
            continue
        found = responsible(subject, lambda other, frame=frame: _jump(other, frame))  # type: ignore[misc]
        if any(_wanted(subject, cause) for cause in found):
            continue
        by = f", by {found[0].words}" if found else ""
        sentence = f"Frame {frame_word(frame)}: a single frame jumps out{by}."
        mends = ()
        if found:
            mends = (
                Mend("remove", "Take it out", lambda found=found: left_out(subject.design, found)),  # type: ignore[assignment,misc]
                Mend("weaken", "Lower it until it is not noticed",
                     lambda found=found, frame=frame: weakened_until(  # type: ignore[misc]
                         subject, found, lambda other: _jump(other, frame))),
            )  # fmt: skip
        layer, address = (found[0].layer, found[0].address) if found else ("", "")
        yield Finding(JUMPS.key, sentence, layer, address, (frame,), frame, score - 1.0, mends)


def _jump(subject: Subject, frame: int) -> float:
    """How far a frame jumps out; up to 1 it does not."""
    if not subject.frames.start < frame < subject.frames.stop - 1:
        return 0.0
    survey = subject.survey
    near = min(survey.step(frame).apart, survey.step(frame + 1).apart)
    if near <= JUMP_LEAST:
        return near / JUMP_LEAST * 0.5
    across = survey.between(frame - 1, frame + 1).apart
    return min(near / (JUMP * max(across, 1e-4)), near / JUMP_LEAST)


def _wanted(subject: Subject, cause: Cause) -> bool:
    """Whether a jump is what something is there for: a flash, a flicker or a blink."""
    layer = subject.design.layer(cause.layer)
    if cause.effect:
        return effect(layer.effect_use(cause.effect).kind).jumps
    return layer.timing.blink is not None


CLIPPED = Check(
    "clipped",
    "Light within white",
    f"Not more than {BEYOND_WHITE * 100:.0f} % of a frame loses its detail beyond white.",
    find_clipped,
    trace="beyond",
)
JUMPS = Check(
    "jumps",
    "No stray frames",
    "No single frame differs from both neighbours far more than they do, but for flashes.",
    find_jumps,
    gravity=2,
    trace="change",
)
