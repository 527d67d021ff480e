"""Runs the modules that it is told to on its standard input, and answers with what came of each.

Whatever is printed meanwhile, by libraries too, goes into a file and comes with the answer. A
warning that our own code causes is an error.
"""

import faulthandler
import importlib
import json
import os
import sys
import tempfile
import threading
import time
import unittest
import warnings
from typing import IO

from tests.running.compiling import take_over

LONGEST = 1800
"""Seconds for one module, on a machine that is twelve times overloaded as well."""


def tests_of(module: str, words: list[str]) -> list[unittest.TestCase]:
    """The tests of a module whose full name holds one of the words; without words all."""
    found = unittest.defaultTestLoader.loadTestsFromModule(importlib.import_module(module))
    return [x for x in _flat(found) if not words or any(word in x.id() for word in words)]


def _flat(suite: unittest.TestSuite) -> list[unittest.TestCase]:
    found: list[unittest.TestCase] = []
    for test in suite:
        if isinstance(test, unittest.TestSuite):
            found += _flat(test)
        else:
            found.append(test)
    return found


def own_threads() -> list[str]:
    """The names of the threads of ours that live."""
    return sorted(x.name for x in threading.enumerate() if x.name.startswith(("jobs", "frames")))


def _own_warnings_are_errors() -> None:
    warnings.resetwarnings()
    warnings.simplefilter("ignore")
    for own in ("wrinkle", "tests", "fuzz", "benchmarks"):
        warnings.filterwarnings("error", module=rf"{own}(\.|$)")


def _run(module: str, words: list[str]) -> dict[str, object]:
    """What came of a module's tests."""
    start = time.monotonic()
    result = unittest.TestResult()
    try:
        suite = unittest.TestSuite(tests_of(module, words))
    except Exception as fault:  # noqa: BLE001 - a module that cannot be read is a failure like any
        return _said(module, 0, [(module, f"it cannot be read: {fault!r}")], [], start)
    # The filters are set anew each time: a test may change them, and unittest's runner does.
    with warnings.catch_warnings():
        _own_warnings_are_errors()
        suite.run(result)
    failed = [(test.id(), text) for test, text in (*result.errors, *result.failures)]
    failed += [(test.id(), "it was expected to fail") for test in result.unexpectedSuccesses]
    # Told here, since a later module of this process would take them for its own.
    failed += [(module, f"it left the thread {name} behind") for name in own_threads()]
    skipped = [(test.id(), reason) for test, reason in result.skipped]
    return _said(module, result.testsRun - len(skipped), failed, skipped, start)


def _said(
    module: str,
    ran: int,
    failed: list[tuple[str, str]],
    skipped: list[tuple[str, str]],
    start: float,
) -> dict[str, object]:
    seconds = time.monotonic() - start
    return {
        "module": module, "ran": ran, "failed": failed, "skipped": skipped, "seconds": seconds,
    }  # fmt: skip


def _with_what_was_printed(said: dict[str, object], printed: IO[str]) -> dict[str, object]:
    sys.stdout.flush()
    sys.stderr.flush()
    printed.seek(0)
    text = printed.read()
    printed.seek(0)
    printed.truncate()
    return {**said, "printed": text}


def main() -> None:
    """Answers each line with a line, until there is none."""
    answers = os.fdopen(os.dup(1), "w")
    with tempfile.TemporaryFile("w+", errors="replace") as printed:
        os.dup2(printed.fileno(), 1)
        os.dup2(printed.fileno(), 2)
        for line in sys.stdin:
            module, words = json.loads(line)
            faulthandler.dump_traceback_later(LONGEST, exit=True)
            take_over()
            said = _with_what_was_printed(_run(module, words), printed)
            faulthandler.cancel_dump_traceback_later()
            answers.write(json.dumps(said) + "\n")
            answers.flush()


if __name__ == "__main__":
    main()
