"""From the arguments of a command to a file: the same road for every way to write a wrinkle."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction
from functools import partial
from pathlib import Path
from threading import Thread

from wrinkle import library
from wrinkle.cli.output import tell
from wrinkle.cli.wrinkle_arguments import choices_of
from wrinkle.core.design.document.slot_kinds import Fills
from wrinkle.core.design.document.slots import GIVEN, INCOMING, OUTGOING, Slot
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture import compiled
from wrinkle.core.render.material import Filling, default_cut
from wrinkle.core.render.showing import Showing
from wrinkle.core.reuse.hearing import hearing
from wrinkle.core.reuse.use import Use, natural_size, showing
from wrinkle.core.sound.heard import Mix
from wrinkle.core.sound.hears import Hears
from wrinkle.core.store import Store
from wrinkle.core.time.rate import FrameRate
from wrinkle.core.time.timecode import parse_timecode
from wrinkle.files.archive import SUFFIX
from wrinkle.files.targets import check_target
from wrinkle.media.assets import read_assets
from wrinkle.media.clip import Clip
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.exporting.export import ExportChoices, ExportKind
from wrinkle.media.fillings import read_filling, read_sound


def write(
    arguments: argparse.Namespace,
    export: ExportKind,
    what: ExportChoices,
    hears: Hears = Hears.NONE,
) -> tuple[Showing, int]:
    """Writes what the arguments ask for; gives what was shown, and the number of frames.

    Args:
        arguments: of the command.
        export: how it is written.
        what: what else is chosen.
        hears: what of it is heard.

    Raises:
        InputError: a name, a size or a cut is not possible, or a slot is empty.
        MediaError: a clip cannot be read, or the file cannot be written.
    """
    output: Path = arguments.output
    _check_target(arguments)
    Thread(target=compiled.load, args=(library.compiled_folder(),)).start()
    use, shown = _shown(arguments)
    what = replace(what, heard=_heard(use, shown, hears))
    jobs = Jobs()
    try:
        count = export.write(output, shown, what, jobs, Job(tell))
    finally:
        jobs.stop()
    if sys.stderr.isatty():
        print(file=sys.stderr)
    return shown, count


def _heard(use: Use, shown: Showing, hears: Hears) -> Callable[[range], Mix]:
    rate, carried = shown.wrinkle.frame_rate, shown.material.sounds
    return partial(hearing, use, rate, hears=hears, carried=carried)


def _check_target(arguments: argparse.Namespace) -> None:
    """Refuses to write over what is read, or unasked over what is there.

    Raises:
        InputError: names the file.
        MediaError: its folder does not exist.
    """
    output = arguments.output
    given = [arguments.outgoing, arguments.incoming, library.found_at(arguments.wrinkle)]
    given += [Path(value) for _, value in arguments.fill]
    if output.suffix == SUFFIX:
        raise InputError(f"{output.name} would be a wrinkle by its name; name another output.")
    check_target(output, given, arguments.overwrite)


def _shown(arguments: argparse.Namespace) -> tuple[Use, Showing]:
    store = Store()
    bundle = library.find(arguments.wrinkle)
    wrinkle = bundle.wrinkle
    pool = ClipPool(store)
    fillings: dict[str, Filling] = {}
    rate: FrameRate | None = arguments.rate
    for slot, path, word in (
        (OUTGOING, arguments.outgoing, arguments.cut_outgoing),
        (INCOMING, arguments.incoming, arguments.cut_incoming),
    ):
        clip = pool.clip(path)
        rate = rate or clip.facts.rate
        cut = default_cut(slot.key, clip, wrinkle) if word is None else _cut(word, clip)
        fillings[slot.key] = Filling(clip, cut)
    words: dict[str, str] = {}
    sounds: dict[str, object] = {}
    for key, given in arguments.fill:
        further = _further(wrinkle, key)
        if further.fills is Fills.WORDS:
            words[key] = given
        elif further.fills is Fills.SOUND:
            sounds[key] = read_sound(further, Path(given), pool, store)
        else:
            source = read_filling(further, Path(given), pool, store)
            fillings[key] = Filling(source, default_cut(key, source, wrinkle))
    carried = read_assets(bundle.assets, store).material(library.fonts())
    choices = replace(choices_of(arguments, wrinkle), words=words)
    use = Use(wrinkle, fillings, choices, sounds)
    shown = showing(use, carried, arguments.size or natural_size(use), rate or wrinkle.frame_rate)
    for slot in wrinkle.slots:
        if slot.moving and slot.key not in shown.material.slots:
            print(
                f"The slot '{slot.key}' stays empty and shows nothing; --fill {slot.key}=FILE "
                "fills it.",
                file=sys.stderr,
            )
    return use, shown


def _further(wrinkle: Wrinkle, key: str) -> Slot:
    """The slot that a person named.

    Raises:
        InputError: there is none; names those there are.
    """
    further = {slot.key: slot for slot in wrinkle.slots if slot.key not in GIVEN}
    if key not in further:
        raise InputError(
            f"{wrinkle.name} has no further slot '{key}'; it has "
            f"{', '.join(sorted(further)) or 'none'}."
        )
    return further[key]


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
