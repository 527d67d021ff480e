"""The declaration of a way to write a wrinkle, and the frames that all of them take."""

from __future__ import annotations

import math
from collections.abc import Callable, Generator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import TypeVar

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture.image import Image
from wrinkle.core.render.showing import Showing
from wrinkle.core.sound.heard import Mix
from wrinkle.media.exporting.parts import What
from wrinkle.media.output.rendition import Rendition

Written = TypeVar("Written")


@dataclass(frozen=True)
class ExportChoices:
    """What else is chosen.

    Attributes:
        around: seconds of the plain clips before and after the window.
        frame: the one that is written alone, counted from the cut.
        heard: gives what is heard of some frames, its sample 0 at the cut; None for silence.
        loudness: how loud it is made, in LUFS; None as it is.
        rendition: as what a video is written.
        what: of the pictures is written.
        width: of a picture on a contact sheet, in pixels; 0 for small ones.
    """

    around: Fraction = Fraction(0)
    frame: int = 0
    heard: Callable[[range], Mix] | None = None
    loudness: float | None = None
    rendition: Rendition = Rendition()  # noqa: RUF009 - it is frozen
    what: What = What.ALL
    width: int = 0


@dataclass(frozen=True)
class ExportKind:
    """One way to write a wrinkle.

    Attributes:
        key: its name, on the command line too.
        label: what the window calls it.
        suffix: of the file.
        frames: which frames are written.
        write: writes the file, whole or not at all, and gives the number of its frames; reports to
            the job after each of them. Raises InputError where the size is not possible,
            MediaError where a clip cannot be read or the file cannot be written, and Cancelled.
    """

    key: str
    label: str
    suffix: str
    frames: Callable[[Wrinkle, ExportChoices], range]
    write: Callable[[Path, Showing, ExportChoices, Jobs, Job], int]


def window_frames(wrinkle: Wrinkle, choices: ExportChoices) -> range:
    """The frames of the window and those around it."""
    around = math.ceil(choices.around * wrinkle.frame_rate.per_second)
    return range(wrinkle.first_frame - around, wrinkle.end_frame + around)


def rendered(
    showing: Showing,
    frames: range,
    jobs: Jobs,
    converted: Callable[[Image], Written],
) -> Generator[Written, None, None]:
    """Frames in order, one on each worker.

    Args:
        showing: what of.
        frames: which ones.
        jobs: who renders them.
        converted: makes of a picture (float32, linear or encoded) what is written, on the worker.
    """
    return jobs.in_order(lambda frame: converted(showing.image(frame)), frames)
