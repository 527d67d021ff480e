"""The program: reads the command line and hands over."""

from __future__ import annotations

import sys
from collections.abc import Sequence

from wrinkle.cli.parser import build_parser
from wrinkle.core.errors import InputError

_WINDOWS = ("open", "demo", None)


def main(words: Sequence[str] | None = None) -> int:
    """Runs one command; the exit status is 0, or 1 with one sentence for the input's fault."""
    arguments = build_parser().parse_args(words)
    try:
        if arguments.command in _WINDOWS:
            from wrinkle.ui.start import start

            return start(arguments)
        # Only now: the window's first picture need not wait for what the commands import.
        from wrinkle.cli import commands

        {
            "list": commands.list_wrinkles,
            "render": commands.render_video,
            "frame": commands.render_frame,
            "sheet": commands.render_sheet,
            "inspect": commands.inspect,
        }[arguments.command](arguments)
    except InputError as fault:
        print(fault, file=sys.stderr)  # noqa: T201 - the one place where a fault is told
        return 1
    except KeyboardInterrupt:
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
