"""Does what a list of jobs says, one after the other."""

from __future__ import annotations

import argparse
from contextlib import chdir
from pathlib import Path

from wrinkle.cli.command import Command


def takes(parser: argparse.ArgumentParser) -> None:
    """The list."""
    parser.add_argument(
        "jobs",
        type=Path,
        metavar="F.json",
        help="a list of commands with their options; paths in it count from its folder",
    )


def run(arguments: argparse.Namespace) -> int:
    """Does all of them; a fault ends only the one that it is in. 1 where one failed.

    Raises:
        InputError: the list, or something in it, is not possible; then none of it is done.
    """
    from wrinkle.cli.job_list import read_jobs
    from wrinkle.cli.registry import COMMANDS, build_parser
    from wrinkle.cli.running import outcome

    jobs = read_jobs(arguments.jobs, build_parser().parse_args)
    failed = []
    with chdir(arguments.jobs.resolve().parent):
        for number, job in enumerate(jobs, 1):
            print(f"{number} of {len(jobs)}: {job.command}", flush=True)
            if outcome(COMMANDS[job.command], job):
                failed.append(number)
    done = len(jobs) - len(failed)
    which = f"; failed: {', '.join(map(str, failed))}" if failed else ""
    print(f"{done} of {len(jobs)} done{which}")
    return 1 if failed else 0


COMMAND = Command("batch", "do many commands that a file lists", takes, run)
