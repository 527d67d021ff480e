"""The program: reads the command line and hands over."""

from __future__ import annotations

import os
import sys
from collections.abc import Sequence

from wrinkle.cli.registry import does, parse

_WITHOUT_A_WORD = "open"


def main(words: Sequence[str] | None = None) -> int:
    """Runs one command; the exit status is 0, or 1 with one sentence for the input's fault."""
    given = list(sys.argv[1:] if words is None else words)
    arguments = parse(given or [_WITHOUT_A_WORD])
    try:
        return does(arguments)
    except KeyboardInterrupt:
        return 1
    except BrokenPipeError:
        # Whoever read what is printed has read enough.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 1


if __name__ == "__main__":
    sys.exit(main())
