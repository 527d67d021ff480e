"""Many commands in one text file: what each does is said as on the command line."""

from __future__ import annotations

import argparse
import io
from contextlib import redirect_stderr
from pathlib import Path

import msgspec

from wrinkle.cli.command import Parse
from wrinkle.core.errors import InputError
from wrinkle.files.whole import read_whole

_LARGEST = 4 << 20
_NEVER = ("batch", "demo", "open", "workers")
"""What does not end by itself, or would begin anew."""

Value = str | int | float | bool


class ListedJob(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One command.

    Attributes:
        command: its name, such as ``dress``.
        of: what stands without dashes: a timeline, or a wrinkle.
        options: by their names without dashes; true for one that has no value, a list for one that
            is given several times.
    """

    command: str
    of: tuple[str, ...] = ()
    options: dict[str, Value | tuple[Value, ...]] = {}

    def words(self) -> list[str]:
        """As it would be typed."""
        words = [self.command]
        for name, given in self.options.items():
            for value in given if isinstance(given, tuple) else (given,):
                if value is True:
                    words.append(f"--{name}")
                elif value is not False:
                    words.append(f"--{name}={value}")
        # What follows is no option, whatever it begins with.
        return [*words, "--", *self.of] if self.of else words


class JobList(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What one file holds.

    Attributes:
        jobs: in the order in which they are done.
    """

    jobs: tuple[ListedJob, ...]


def read_jobs(path: Path, parse: Parse) -> list[argparse.Namespace]:
    """The commands of a file; every one is looked at before the first is done.

    Args:
        path: of the file.
        parse: turns words into what a command takes, and ends the program at a fault in them.

    Raises:
        InputError: the file cannot be read, or one of them is not possible; says which and why.
    """
    try:
        found = msgspec.json.decode(read_whole(path, _LARGEST), type=JobList)
    except OSError as fault:
        raise InputError(f"{path.name} cannot be read: {fault.strerror}.") from None
    except (msgspec.DecodeError, UnicodeDecodeError) as fault:
        raise InputError(
            f"{path.name} is no list of jobs ({fault}); docs/jobs.schema.json says what one is."
        ) from None
    if not found.jobs:
        raise InputError(f"There is no job in {path.name}.")
    parsed = [_parsed(path, number, job, parse) for number, job in enumerate(found.jobs, 1)]
    outputs: dict[Path, int] = {}
    for number, arguments in enumerate(parsed, 1):
        output: Path | None = getattr(arguments, "output", None)
        if output is None:
            continue
        goal = path.parent.joinpath(output).resolve()
        first = outputs.setdefault(goal, number)
        if first != number:
            raise InputError(
                f"Jobs {first} and {number} of {path.name} would both write {output.name}; name "
                "another output."
            )
    return parsed


def _parsed(path: Path, number: int, job: ListedJob, parse: Parse) -> argparse.Namespace:
    if job.command in _NEVER:
        raise InputError(f"Job {number} of {path.name}: '{job.command}' cannot be in a list.")
    said = io.StringIO()
    try:
        with redirect_stderr(said):
            return parse(job.words())
    except SystemExit:
        # The last line is the fault; before it stands how the command is used.
        reason = said.getvalue().strip().rpartition("error: ")[2] or "it only tells something"
        raise InputError(
            f"Job {number} of {path.name}: {reason}; './run {job.command} --help' says what there "
            "is."
        ) from None
