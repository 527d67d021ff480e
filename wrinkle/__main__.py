"""The program: reads the command line and hands over."""

from __future__ import annotations

import logging
import os
import sys
from collections.abc import Sequence

from wrinkle.cli.registry import COMMANDS, build_parser
from wrinkle.core.errors import InputError

_WITHOUT_A_WORD = "open"


def main(words: Sequence[str] | None = None) -> int:
    """Runs one command; the exit status is 0, or 1 with one sentence for the input's fault."""
    given = list(sys.argv[1:] if words is None else words)
    arguments = build_parser().parse_args(given or [_WITHOUT_A_WORD])
    try:
        return COMMANDS[arguments.command].run(arguments)
    except InputError as fault:
        print(fault, file=sys.stderr)  # noqa: T201 - the one place where a fault is told
        return 1
    except KeyboardInterrupt:
        return 1
    except BrokenPipeError:
        # Whoever read what is printed has read enough.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 1
    except Exception as fault:
        from wrinkle.library.log import begin_log, log_file

        begin_log()
        logging.getLogger(__name__).error("%s failed", arguments.command, exc_info=fault)
        kind = type(fault).__name__
        print(  # noqa: T201
            f"Something went wrong inside Wrinkle ({kind}); the details are in {log_file()}.",
            file=sys.stderr,
        )
        return 1


if __name__ == "__main__":
    sys.exit(main())
