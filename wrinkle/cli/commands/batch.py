"""Does what a list of jobs says, one after the other."""

from __future__ import annotations

import argparse
from collections.abc import Callable
from contextlib import chdir
from functools import partial
from pathlib import Path

from wrinkle.cli.command import Command, Parse

Run = Callable[[argparse.Namespace], int]


def takes(parser: argparse.ArgumentParser) -> None:
    """The list."""
    parser.add_argument(
        "jobs",
        type=Path,
        metavar="F.json",
        help="a list of commands with their options; paths in it count from its folder",
    )


def run(parse: Parse, does: Run, arguments: argparse.Namespace) -> int:
    """Does all of them; a fault ends only the one that it is in. 1 where one failed.

    Raises:
        InputError: the list, or something in it, is not possible; then none of it is done.
    """
    from wrinkle.cli.job_list import read_jobs

    jobs = read_jobs(arguments.jobs, parse)
    failed = []
    with chdir(arguments.jobs.resolve().parent):
        for number, job in enumerate(jobs, 1):
            print(f"{number} of {len(jobs)}: {job.command}", flush=True)
            if does(job):
                failed.append(number)
    done = len(jobs) - len(failed)
    which = f"; failed: {', '.join(map(str, failed))}" if failed else ""
    print(f"{done} of {len(jobs)} done{which}")
    return 1 if failed else 0


def command(parse: Parse, does: Run) -> Command:
    """The command.

    Args:
        parse: turns words into what a command takes, and ends the program at a fault in them.
        does: a command, and tells its fault; gives its exit status.
    """
    return Command("batch", "do many commands that a file lists", takes, partial(run, parse, does))
