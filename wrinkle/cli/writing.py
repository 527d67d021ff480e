"""From the arguments of a command to a file: the same road for every way to write a wrinkle."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Mapping
from fractions import Fraction
from pathlib import Path
from threading import Thread

from wrinkle import library
from wrinkle.core.design.archive import SUFFIX, Bundle
from wrinkle.core.errors import InputError, MediaError
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture import compiled
from wrinkle.core.render.material import Filling, default_cut
from wrinkle.core.render.showing import Showing
from wrinkle.core.reuse.use import Use, natural_size, showing
from wrinkle.core.store import Store
from wrinkle.core.time.timecode import parse_timecode
from wrinkle.media.assets import read_assets
from wrinkle.media.clip import Clip
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.exporting.export import Choices
from wrinkle.media.exporting.registry import EXPORTS


def write(arguments: argparse.Namespace, export: str, choices: Choices) -> tuple[Showing, int]:
    """Writes what the arguments ask for; gives what was shown, and the number of frames.

    Raises:
        InputError: a name, a size or a cut is not possible, or a slot is empty.
        MediaError: a clip cannot be read, or the file cannot be written.
    """
    output: Path = arguments.output
    if not output.parent.is_dir():
        raise MediaError(
            f"{output} cannot be written: the folder {output.parent} does not exist; make it first."
        )
    _spare_inputs(arguments)
    Thread(target=compiled.load, args=(library.compiled_folder(),)).start()
    shown = _shown(arguments)
    jobs = Jobs()
    try:
        count = EXPORTS[export].write(output, shown, choices, jobs, Job(_tell))
    finally:
        jobs.stop()
    if sys.stderr.isatty():
        print(file=sys.stderr)
    return shown, count


def _spare_inputs(arguments: argparse.Namespace) -> None:
    """Refuses to write over what is read, or over a wrinkle.

    Raises:
        InputError: names the file.
    """
    output = arguments.output
    given = [arguments.outgoing, arguments.incoming, Path(arguments.wrinkle)]
    given += [path for _, path in arguments.clip]
    same = any(path.exists() and output.exists() and output.samefile(path) for path in given)
    if same or output.suffix == SUFFIX:
        raise InputError(f"{output.name} is what would be read, or a wrinkle; name another output.")


def _tell(done: int, total: int, left: float) -> None:
    if sys.stderr.isatty():
        print(f"\r{done} of {total} frames, {left:.0f} s left ", end="", file=sys.stderr)


def _shown(arguments: argparse.Namespace) -> Showing:
    store = Store()
    bundle = library.find(arguments.wrinkle)
    clips = _clips(arguments, bundle, ClipPool(store))
    typed = {"outgoing": arguments.cut_outgoing, "incoming": arguments.cut_incoming}
    fillings = {}
    for slot, clip in clips.items():
        word = typed.get(slot)
        cut = default_cut(slot, clip, bundle.wrinkle) if word is None else _cut(word, clip)
        fillings[slot] = Filling(clip, cut)
    use = Use(bundle.wrinkle, fillings)
    carried = read_assets(bundle.assets, store).material(library.fonts())
    rate = arguments.rate or clips["outgoing"].facts.rate
    return showing(use, carried, arguments.size or natural_size(use), rate)


def _clips(arguments: argparse.Namespace, bundle: Bundle, pool: ClipPool) -> Mapping[str, Clip]:
    """The clip of each slot."""
    paths = {"outgoing": arguments.outgoing, "incoming": arguments.incoming}
    wanted = {slot.key for slot in bundle.wrinkle.slots} - set(paths)
    for slot, path in arguments.clip:
        if slot not in wanted:
            raise InputError(
                f"{bundle.wrinkle.name} has no further slot '{slot}'; it has "
                f"{', '.join(sorted(wanted)) or 'none'}."
            )
        paths[slot] = path
    missing = sorted(wanted - set(paths))
    if missing:
        raise InputError(f"The slot '{missing[0]}' is empty; add --clip {missing[0]}=CLIP.")
    return {slot: pool.clip(path) for slot, path in paths.items()}


def _cut(word: str, clip: Clip) -> Fraction:
    """The clip's own time that was typed."""
    try:
        if ":" in word:
            rate = clip.facts.rate
            return rate.seconds(parse_timecode(word, rate))
        return Fraction(word)
    except InputError:
        raise
    except (ValueError, ZeroDivisionError):
        raise InputError(
            f"'{word}' is no time of a clip; write seconds, such as 1.5, or a timecode, such as "
            "00:00:01:15."
        ) from None
