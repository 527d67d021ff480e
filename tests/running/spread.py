"""Spreads the modules of the suite over processes, the longest first."""

import json
import subprocess
import sys
from collections.abc import Iterator
from contextlib import nullcontext
from pathlib import Path
from queue import Empty, SimpleQueue
from threading import Lock, Thread
from typing import Any

from tests.running.compiling import compiling

TESTS = Path(__file__).parent.parent
_LONG = (
    "test_bench", "test_checks", "test_cutlist", "test_every_effect", "test_layers", "test_export",
    "test_ends", "test_shipped", "test_shipping", "test_drawing_elsewhere", "test_commands",
    "test_actions", "test_window", "test_picture_sizes", "test_wrinkles", "test_safekeeping",
    "test_effects", "test_follow", "test_fuzz", "test_music", "test_numbered_piece",
)  # fmt: skip
"""What takes longest begins first, so that no process ends long after the others."""


def modules() -> list[str]:
    """All test modules, in the order in which they are begun."""
    paths = sorted(TESTS.rglob("test_*.py"), key=lambda path: -path.stat().st_size)
    paths.sort(key=lambda path: _LONG.index(path.stem) if path.stem in _LONG else len(_LONG))
    return [".".join(("tests", *x.relative_to(TESTS).with_suffix("").parts)) for x in paths]


class _Process:
    """A process that runs modules; one that falls is said, and another takes its place."""

    def __init__(self) -> None:
        self._running: subprocess.Popen[str] | None = None

    def run(self, module: str, words: list[str]) -> dict[str, Any]:
        """What came of a module."""
        if self._running is None:
            self._running = subprocess.Popen(
                [sys.executable, "-m", "tests.running.worker"],
                stdin=subprocess.PIPE,
                stdout=subprocess.PIPE,
                text=True,
                cwd=TESTS.parent,
            )
        running = self._running
        assert running.stdin is not None
        assert running.stdout is not None
        running.stdin.write(json.dumps([module, words]) + "\n")
        running.stdin.flush()
        line = running.stdout.readline()
        if line:
            return dict(json.loads(line))
        status = running.wait()
        self._running = None
        fell = f"its process ended with status {status} in the midst of it, or hung for too long"
        return {
            "module": module, "ran": 0, "failed": [(module, fell)], "skipped": [], "seconds": 0.0,
            "printed": "",
        }  # fmt: skip

    def end(self) -> None:
        """Nothing more is to be run."""
        if self._running is not None and self._running.stdin is not None:
            self._running.stdin.close()
            self._running.wait()


def results(words: list[str], processes: int) -> Iterator[dict[str, Any]]:
    """What came of each module, as it comes."""
    waiting: SimpleQueue[str] = SimpleQueue()
    for module in modules():
        waiting.put(module)
    came: SimpleQueue[dict[str, Any] | None] = SimpleQueue()

    def work() -> None:
        process = _Process()
        try:
            while True:
                came.put(process.run(waiting.get_nowait(), words))
        except Empty:
            process.end()
        finally:
            came.put(None)

    threads = [Thread(target=work, daemon=True) for _ in range(processes)]
    for thread in threads:
        thread.start()
    while threads:
        one = came.get()
        if one is None:
            threads.pop()
        else:
            yield one


def run(words: list[str], processes: int) -> int:
    """Runs the suite; gives 0 when all passed and at least one test ran."""
    # For a few tests they would take longer than the tests.
    with nullcontext() if words else compiling():
        return _run(words, processes)


def _run(words: list[str], processes: int) -> int:
    ran, failed, skipped = 0, [], []
    for one in results(words, processes):
        if not (one["ran"] or one["failed"] or one["skipped"]):
            continue
        ran += one["ran"]
        failed += one["failed"]
        skipped += one["skipped"]
        faults = f", {len(one['failed'])} FAILED" if one["failed"] else ""
        name = one["module"].removeprefix("tests.")
        _say(f"{name:<48} {one['ran']:4d} run{faults}   {one['seconds']:5.1f} s")
        for test, trace in one["failed"]:
            _say(f"\n{'-' * 70}\n{test}\n{trace}")
        if one["failed"] and one["printed"]:
            _say(f"It printed:\n{one['printed'][-4000:]}")
    for test, reason in skipped:
        _say(f"skipped: {test}: {reason}")
    tests = {test.split(" ")[0] for test, _ in failed}
    _say(f"{max(ran - len(tests), 0)} passed, {len(tests)} failed, {len(skipped)} skipped")
    return 0 if ran and not failed else 1


_TELLING = Lock()


def _say(line: str) -> None:
    with _TELLING:
        sys.stdout.write(line + "\n")
        sys.stdout.flush()
