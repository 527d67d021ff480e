"""Runs one command; whatever goes wrong is told in one sentence."""

from __future__ import annotations

import argparse
import logging
import sys

from wrinkle.cli.command import Command
from wrinkle.core.errors import InputError


def outcome(command: Command, arguments: argparse.Namespace) -> int:
    """The exit status of a command: its own, or 1 with one sentence for the fault.

    Raises:
        KeyboardInterrupt: the person ended it.
        BrokenPipeError: nobody reads what is printed.
    """
    try:
        return command.run(arguments)
    except InputError as fault:
        print(fault, file=sys.stderr)
    except BrokenPipeError:
        raise
    except Exception as fault:
        from wrinkle.library.log import begin_log, log_file

        begin_log()
        logging.getLogger(__name__).error("%s failed", command.key, exc_info=fault)
        kind = type(fault).__name__
        print(
            f"Something went wrong inside Wrinkle ({kind}); the details are in {log_file()}.",
            file=sys.stderr,
        )
    return 1
