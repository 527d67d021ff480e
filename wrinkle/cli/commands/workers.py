"""Runs what draws frames for other machines."""

from __future__ import annotations

import argparse
import os
from functools import partial

from wrinkle.cli.cluster_arguments import count, port
from wrinkle.cli.command import Command
from wrinkle.files.addresses import parse_address

_USUAL_PORT = 8786
_HERE = "127.0.0.1"


def takes(parser: argparse.ArgumentParser) -> None:
    """A scheduler, or workers at one."""
    which = parser.add_mutually_exclusive_group(required=True)
    which.add_argument("--scheduler", action="store_true", help="run what hands out the frames")
    which.add_argument(
        "--at", type=parse_address, metavar="HOST:PORT", help="draw for the scheduler there"
    )
    parser.add_argument(
        "--host",
        default=_HERE,
        help="where the scheduler listens; with 0.0.0.0 other machines reach it, and whoever "
        "reaches it can run programs on all of them: only for a network that you trust",
    )
    parser.add_argument("--port", type=port, default=_USUAL_PORT, metavar="N", help="of it")
    parser.add_argument(
        "--processes", type=count, metavar="N", help="workers; by default one for each core"
    )


def run(arguments: argparse.Namespace) -> int:
    """Runs until it is interrupted.

    Raises:
        InputError: it cannot be reached, or something is missing.
    """
    from wrinkle.cluster.missing import check_installed

    check_installed()
    from wrinkle.cluster.running import run_scheduler, run_workers

    told = partial(print, flush=True)
    if arguments.scheduler:
        run_scheduler(arguments.host, arguments.port, lambda at: told(f"Scheduler at {at}"))
    else:
        run_workers(arguments.at, arguments.processes or os.cpu_count() or 1, told)
    return 0


COMMAND = Command("workers", "draw frames for other machines, or hand them out", takes, run)
