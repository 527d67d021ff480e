"""Everything that leaves as a file: what is shown and heard, as what, and where to."""

from __future__ import annotations

import glob
import shutil
import tempfile
from collections.abc import Callable, Generator, Iterable, Iterator
from contextlib import closing
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from fractions import Fraction
from pathlib import Path
from typing import Protocol

import av
from av.video.frame import VideoFrame

from wrinkle.core.errors import InputError, MediaError
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture.image import Bytes8, Image, Size
from wrinkle.core.sound.heard import Heard
from wrinkle.core.sound.levelling import levelled
from wrinkle.core.time.rate import FrameRate
from wrinkle.files.presence import is_there, within
from wrinkle.files.targets import spare
from wrinkle.files.whole import write_whole
from wrinkle.media.output.encoding import Encoding, encode
from wrinkle.media.output.format import Format, Into
from wrinkle.media.output.formats import FORMATS
from wrinkle.media.output.palette import check_palette, in_palette
from wrinkle.media.output.pixels import frame_of
from wrinkle.media.output.rendition import Rendition
from wrinkle.media.output.sheet import check_sheet, write_sheet
from wrinkle.media.output.single import picture_bytes
from wrinkle.media.sound_writing import write_sound
from wrinkle.media.whole_media import whole_media

_NEAR = 0.05
"""The share by which a file may miss the size that was asked for."""
_TRIES = 5


class NumberedPictures(Protocol):
    """Pictures by the numbers of their frames."""

    @property
    def size(self) -> Size:
        """Of the pictures."""

    def image(self, frame: int) -> Image:
        """The picture of a frame; the same one each time, from any thread."""


@dataclass(frozen=True, eq=False)
class Output:
    """What is written.

    Attributes:
        shown: its pictures.
        frames: which of them.
        rate: how many a second.
        rendition: as what.
        path: of the file, or of the folder where the format writes one.
        heard: what is heard from the first frame on, sample 0 with it; None for silence.
        loudness: how loud it is made, in LUFS; None as it is.
        title: of the file.
        date: on which it is written, as ISO 8601 has it.
        chapters: their beginnings, in seconds from the first frame, and what they are called.
        read: files that are read for it: it is not written over them.
        replaces: whether what lies there gives way; else it is not written over it.
        decoded: gives the frames that are a file's own, untouched, as they were decoded, in BT.709
            and the limited range; None for one that is drawn.
    """

    shown: NumberedPictures
    frames: range
    rate: FrameRate
    rendition: Rendition
    path: Path
    heard: Heard | None = None
    loudness: float | None = None
    title: str = ""
    date: str = ""
    chapters: tuple[tuple[Fraction, str], ...] = ()
    read: tuple[Path, ...] = ()
    replaces: bool = True
    decoded: Callable[[int], VideoFrame | None] = lambda number: None

    @property
    def form(self) -> Format:
        """Its format."""
        return self.rendition.form

    @property
    def seconds(self) -> Fraction:
        """How long it is."""
        return self.rate.seconds(len(self.frames))

    @property
    def sounds(self) -> bool:
        """Whether sound is written with it."""
        return self.heard is not None and bool(self.form.sound)

    def check(self) -> None:
        """Looks whether it can be written at all, before any work is done for it.

        Raises:
            InputError: the size is not possible, nothing would be written, or it is one of the
                files that are read.
        """
        self.form.checked(self.shown.size)
        if not self.frames:
            raise InputError("There is no frame to write.")
        if self.form.codec == "gif":
            check_palette(self.shown.size, len(self.frames))
        if self.form.into is Into.SHEET:
            check_sheet(len(self.frames), self.shown.size)
        if self.form.into is Into.SOUND and self.heard is None:
            raise InputError(f"Nothing is heard in it; {self.form.label} would be empty.")
        self.rendition.bits_for(self.seconds, self.sounds)
        self.check_place()

    def check_place(self) -> None:
        """Looks whether it may be written where it should be.

        Raises:
            InputError: it is one of the files that are read, or something lies there that nobody
                said may give way.
        """
        spare(self.path, self.read)
        if not self.replaces and is_there(self.path):
            raise InputError(
                f"{self.path.name} is there by now, and nobody was asked; put it elsewhere."
            )

    def frame(self, number: int) -> VideoFrame:
        """A picture as its encoder takes it."""
        kind = self.rendition
        if kind.colour.as_drawn and self.form.into is Into.VIDEO and kind.sent.startswith("yuv4"):
            found = self.decoded(number)
            if found is not None:
                # Only its depth and its shared colours are others: nothing is lost on the way.
                return found.reformat(format=kind.sent, threads=1)
        return encodable(self.shown.image(number), kind)


def today() -> str:
    """The day on which something is written, as ISO 8601 has it."""
    return datetime.now(UTC).astimezone().date().isoformat()


Frames = Generator[VideoFrame, None, None]


def encodable(image: Image, kind: Rendition) -> VideoFrame:
    """A picture as the encoder of a rendition takes it."""
    return frame_of(image, kind.form, kind.sent, kind.bits_a_colour, kind.alpha, kind.colour)


def drawn_here(output: Output, jobs: Jobs, job: Job) -> Frames:
    """Its frames in order, one on each worker of this process."""

    def picture(number: int) -> VideoFrame:
        job.check()
        return output.frame(number)

    return jobs.in_order(picture, output.frames)


def write_output(output: Output, jobs: Jobs, job: Job, coming: Frames | None = None) -> int:
    """Writes it, whole or not at all; gives the number of frames.

    Args:
        output: what is written.
        jobs: who draws its frames.
        job: told of each of them.
        coming: its frames, where others draw them; what has no frames that an encoder takes (a
            sheet, sound) does not ask for them.

    Raises:
        InputError: it is not possible; see ``Output.check``.
        MediaError: a source cannot be read, or the file cannot be written.
        Cancelled: nobody wants it any more.
    """
    output.check()
    if output.form.into is Into.SOUND:
        return _write_sound(output, job)

    if output.form.into is Into.SHEET:
        return _write_sheet(output, jobs, job)

    with closing(coming or drawn_here(output, jobs, job)) as coming:
        if output.form.into is Into.FRAMES:
            return _write_folder(output, coming, job)
        if output.rendition.megabytes is not None:
            return _write_as_large(output, coming, job)
        with whole_media(output.path) as unfinished:
            count = _encoded(output, unfinished, coming, job)
            output.check_place()
            return count


def _encoded(output: Output, path: Path, frames: Iterable[VideoFrame], job: Job) -> int:
    count = len(output.frames)
    if output.form.codec == "gif":
        frames = in_palette(_counted(frames, count, job), output.shown.size)
        return encode(path, encoding_of(output), frames, None, lambda done: job.check())
    sound = _sound(output, job)
    return encode(path, encoding_of(output), frames, sound, lambda done: job.report(done, count))


def encoding_of(output: Output) -> Encoding:
    """How its frames are encoded."""
    kind = output.rendition
    return Encoding(
        output.form,
        kind.pixels,
        output.shown.size,
        output.rate,
        kind.options(),
        kind.bits,
        title=output.title,
        date=output.date,
        colour=kind.colour,
        chapters=output.chapters,
    )


def _sound(output: Output, job: Job) -> Heard | None:
    if not output.sounds or output.heard is None or output.loudness is None:
        return output.heard if output.sounds else None
    return levelled(output.heard, output.loudness, progress=lambda done, all_: job.check())[0]


def _write_sheet(output: Output, jobs: Jobs, job: Job) -> int:
    """All frames on one picture."""

    def picture(number: int) -> Bytes8:
        job.check()
        return output.shown.image(number).to_bytes8()

    def until_written(pictures: Iterable[Bytes8]) -> Iterator[Bytes8]:
        yield from pictures
        output.check_place()

    with closing(jobs.in_order(picture, output.frames)) as coming:
        return write_sheet(output.path, until_written(coming), output.frames, job)


def _write_sound(output: Output, job: Job) -> int:
    """What is heard alone; gives the number of frames for which it lasts."""
    heard = _sound(output, job)
    assert heard is not None
    count = len(output.frames)

    def far(done: int, total: int) -> None:
        job.report(done * count // max(total, 1), count)
        if done == total:
            output.check_place()

    write_sound(output.path, heard, output.rendition.bits_a_colour, far)
    return count


def _counted(frames: Iterable[VideoFrame], total: int, job: Job) -> Iterator[VideoFrame]:
    for done, frame in enumerate(frames, 1):
        job.report(done, total)
        yield frame


def _write_folder(output: Output, frames: Iterable[VideoFrame], job: Job) -> int:
    """A picture for each frame, in a folder that is there when all of them are."""
    goal, total = output.path, len(output.frames)
    if is_there(goal):
        raise InputError(f"{goal.name} is there already; name another folder.")
    digits = max(4, len(str(total)))
    try:
        unfinished = Path(tempfile.mkdtemp(prefix=_unfinished(goal), dir=goal.parent))
    except OSError as fault:
        raise _unwritable(goal, fault) from None
    try:
        for number, frame in enumerate(frames, 1):
            content = picture_bytes(frame, output.form, output.rendition.bits_a_colour)
            name = f"{goal.name}_{number:0{digits}}{output.form.suffix}"
            write_whole(unfinished / name, content)
            job.report(number, total)
        unfinished.chmod(0o755)
        unfinished.rename(goal)
    except OSError as fault:
        raise _unwritable(goal, fault) from None
    finally:
        shutil.rmtree(unfinished, ignore_errors=True)
    return total


def _unfinished(goal: Path) -> str:
    return f".{goal.name}-unfinished-"


def clear_unfinished(goal: Path) -> None:
    """Takes away what a program that was killed left of a folder of pictures."""
    for left in within(goal.parent, f"{glob.escape(_unfinished(goal))}*"):
        shutil.rmtree(left, ignore_errors=True)


def _unwritable(goal: Path, fault: OSError) -> MediaError:
    return MediaError(f"{goal.name} cannot be written: {fault.strerror}; choose another place.")


def _write_as_large(output: Output, frames: Iterable[VideoFrame], job: Job) -> int:
    """A file of a size: rendered once, and encoded until it is met.

    Raises:
        MediaError: it cannot be met; says how large the nearest one is.
    """
    kind = output.rendition
    wanted = (kind.megabytes or 0.0) * 1e6
    bits = kind.bits_for(output.seconds, output.sounds)
    assert bits is not None
    with tempfile.TemporaryDirectory(prefix="wrinkle-output-") as folder:
        kept, tried = Path(folder) / "kept.mkv", Path(folder) / f"tried{output.form.suffix}"
        count = _keep(output, kept, frames, job)
        size = 0
        for _ in range(_TRIES):
            now = replace(output, rendition=replace(kind, megabytes=None, bits=bits))
            sound = _sound(now, job)
            encode(tried, encoding_of(now), _kept_frames(kept), sound, lambda done: job.check())
            size = tried.stat().st_size
            if (1.0 - _NEAR) * wanted <= size <= wanted:
                break
            # A little below what is asked for: it is a limit.
            bits = max(round(bits * 0.975 * wanted / size), 1_000)
        else:
            raise MediaError(
                f"{output.path.name} cannot be made {kind.megabytes:g} MB large; the nearest has "
                f"{size / 1e6:.2f} MB. Ask for that, or for a quality."
            )
        with whole_media(output.path) as unfinished:
            shutil.copyfile(tried, unfinished)
            output.check_place()
    return count


def _keep(output: Output, kept: Path, frames: Iterable[VideoFrame], job: Job) -> int:
    """Frames in a file from which they come back as they are; gives how many."""
    how = Encoding(FORMATS["ffv1"], output.rendition.pixels, output.shown.size, output.rate, {})
    count = len(output.frames)
    return encode(kept, how, frames, None, lambda done: job.report(done, count))


def _kept_frames(kept: Path) -> Iterator[VideoFrame]:
    with av.open(str(kept)) as container:
        yield from container.decode(container.streams.video[0])
