"""Whether the library can read a text at all: tried where its fall does no harm.

Some texts that it cannot read end the program instead of bringing an error, and which ones do so
is a matter of chance. So a text is read in another process before it is read in this one.
"""

from __future__ import annotations

import atexit
import subprocess
import sys
from contextlib import suppress
from pathlib import Path
from select import select
from threading import Lock

from wrinkle.timeline.trial_process import LENGTH, READ, REFUSED

_PROGRAM = Path(__file__).with_name("trial_process.py")


class TrialProcess:
    """Another process that reads; it is begun when it is first wanted, and again when it fell.

    Args:
        longest: seconds for one text; the largest takes three.
    """

    def __init__(self, longest: float = 20.0) -> None:
        self._longest = longest
        self._lock = Lock()
        self._process: subprocess.Popen[bytes] | None = None

    def reads(self, text: bytes) -> bool:
        """Whether a text can be read; False also where that ends the process or takes too long."""
        with self._lock:
            answer = b""
            with suppress(OSError):
                answer = self._answer(text)
            if answer not in (READ, REFUSED):
                self._end()
            return answer == READ

    def end(self) -> None:
        """Ends the process."""
        with self._lock:
            self._end()

    def _answer(self, text: bytes) -> bytes:
        if self._process is None:
            self._process = subprocess.Popen(
                [sys.executable, "-I", str(_PROGRAM)],
                stdin=subprocess.PIPE,
                stdout=subprocess.PIPE,
                stderr=subprocess.DEVNULL,
            )
        asked, told = self._process.stdin, self._process.stdout
        if asked is None or told is None:
            raise OSError("a process without pipes")
        asked.write(len(text).to_bytes(LENGTH, "big") + text)
        asked.flush()
        ready, _, _ = select([told], [], [], self._longest)
        return told.read(1) if ready else b""

    def _end(self) -> None:
        process, self._process = self._process, None
        if process is None:
            return
        process.kill()
        for pipe in (process.stdin, process.stdout):
            if pipe is not None:
                with suppress(OSError):
                    pipe.close()
        process.wait()


TRIAL = TrialProcess()
"""One for the program: it takes a third of a second to begin, and some thousandths to ask."""
atexit.register(TRIAL.end)
