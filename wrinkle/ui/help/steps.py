"""The first steps: what is to be done, where, and how it is known that it was done."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.sources import TreatmentSource
from wrinkle.core.motion.track import Side, Track
from wrinkle.core.motion.values import parts
from wrinkle.ui.desk.desk import Desk

_OUTGOING = Side.OUTGOING.value


@dataclass(frozen=True)
class Begun:
    """How things were when a part of a step began.

    Attributes:
        clip: the outgoing clip; None while there is none.
        cut: where it was cut.
        shutter: the angle of the shutter.
        turn: the lane of the treatment's rotation.
        name: of the wrinkle.
    """

    clip: object
    cut: Fraction | None
    shutter: float
    turn: Track | None
    name: str

    @classmethod
    def on(cls, desk: Desk) -> Begun:
        """How they are now."""
        clip, wrinkle = desk.tried.clips.get(_OUTGOING), desk.document.state
        treatment = treatment_of(desk)
        turn = treatment.placement.rotation.track if treatment is not None else None
        source, cut = (clip.source, clip.cut) if clip is not None else (None, None)
        return cls(source, cut, wrinkle.shutter_angle, turn, wrinkle.name)


@dataclass(frozen=True)
class Task:
    """One thing to do.

    Attributes:
        words: what, with ids of actions in braces.
        where: the accessible name of what it is done on; empty for a menu.
        done: whether it was, from how things were and the key of the place that is shown.
        needs: whether it can be done at all, as things are.
    """

    words: str
    where: str
    done: Callable[[Desk, Begun, str], bool]
    needs: Callable[[Desk], bool] = lambda desk: True


@dataclass(frozen=True)
class Step:
    """A step of several parts.

    Attributes:
        title: of it.
        place: the key of the place where it is done.
        parts: one after the other.
    """

    title: str
    place: str
    parts: tuple[Task, ...]


def treatment_of(desk: Desk) -> Layer | None:
    """The first treatment of the wrinkle."""
    layers = desk.document.state.layers
    return next((x for x in layers if isinstance(x.source, TreatmentSource)), None)


def _treated(desk: Desk) -> bool:
    return treatment_of(desk) is not None


def _turns(desk: Desk) -> bool:
    treatment = treatment_of(desk)
    return treatment is not None and treatment.placement.rotation.track is not None


def _slid(desk: Desk, begun: Begun, place: str) -> bool:
    clip = desk.tried.clips.get(_OUTGOING)
    return clip is not None and clip.source is begun.clip and clip.cut != begun.cut


def _turned(desk: Desk, begun: Begun, place: str) -> bool:
    treatment = treatment_of(desk)
    return _turns(desk) or (
        treatment is not None and parts(treatment.placement.rotation.rest)[0] != 0.0
    )


def _bent(desk: Desk, begun: Begun, place: str) -> bool:
    treatment = treatment_of(desk)
    turn = treatment.placement.rotation.track if treatment is not None else None
    return turn is not None and begun.turn is not None and turn.keys != begun.turn.keys


def _picked(desk: Desk, begun: Begun, place: str) -> bool:
    return desk.looking.pin is not None and desk.looking.pin.index == 0


def _covered(cover: str) -> Callable[[Desk, Begun, str], bool]:
    def done(desk: Desk, begun: Begun, place: str) -> bool:
        treatment = treatment_of(desk)
        return treatment is not None and treatment.edge_cover.rest == cover

    return done


def _used(desk: Desk, begun: Begun, place: str) -> bool:
    name = desk.document.state.name
    uses = [clip.entry for clip in desk.piece.state.clips]
    return any(use is not None and use.wrinkle.name == name for use in uses)


STEPS = (
    Step("Pick the cut", "bench", (
        Task("Both clips meet where their marks stand. Drag the mark on the strip of the outgoing "
             "clip to another frame; by keys, arrows move it.",
             "Cut of the outgoing clip", _slid),
    )),
    Step("Move", "bench", (
        Task("A treatment acts on both clips at once. Choose {bench.add-treatment} in the menu "
             "Layer.", "", lambda desk, begun, place: _treated(desk)),
        Task("It is to turn. Type 90 into Rotation, in its card at the right, and press Return.",
             "Rotation", _turned, _treated),
        Task("Press the wave beside Rotation: from rest it goes there, and on through the cut.",
             "Rotation: lane", lambda desk, begun, place: _turns(desk), _treated),
    )),
    Step("Meet through the cut", "bench", (
        Task("The motion should not change its pace at the seam. {bench.speed} draws its speed "
             "into the lane: both halves meet.",
             "Lane of Rotation", lambda desk, begun, place: desk.looking.speed_shown, _turns),
        Task("Select the first pin of the lane: press it, or go there with {bench.previous-pin}.",
             "Lane of Rotation", _picked, _turns),
        Task("Give it another feel: choose “snap” in the bar below. The other half follows.",
             "Feel of the ease", _bent, _turns),
    )),
    Step("Hide the edges", "bench", (
        Task("A turned picture leaves corners bare. Choose “bare” for Edge cover to see them.",
             "Edge cover", _covered("bare"), _treated),
        Task("Choose “mirror” again: the corners are filled with the mirrored picture.",
             "Edge cover", _covered("mirror"), _treated),
    )),
    Step("Blur", "bench", (
        Task("What moves is blurred as by an open shutter. Type 300 into Shutter, and look at the "
             "frames beside the seam.", "Shutter",
             lambda desk, begun, place: desk.document.state.shutter_angle != begun.shutter),
    )),
    Step("Look", "bench", (
        Task("{bench.loop} plays it in a loop, at its true rate.",
             "Loop or stop", lambda desk, begun, place: desk.looking.playing),
        Task("Stop it again in the same way.",
             "Loop or stop", lambda desk, begun, place: not desk.looking.playing),
    )),
    Step("Save", "bench", (
        Task("Give it a name: {file.rename}.", "",
             lambda desk, begun, place: desk.document.state.name != begun.name),
        Task("{file.keep}, in the menu File, puts it among your own wrinkles.", "",
             lambda desk, begun, place: desk.document.path is not None),
    )),
    Step("Put it on another cut", "cutlist", (
        Task("Go to the {place.cutlist}.", "Cut list",
             lambda desk, begun, place: place == "cutlist"),
        Task("Find it in the row at the foot: type its name into the field there, select its "
             "picture, and press Return.", "Search: wrinkles for the piece", _used),
    )),
)  # fmt: skip
