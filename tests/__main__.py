"""Runs all tests, or those whose module name holds a given word; ends with the count."""

import sys
import unittest
from pathlib import Path

HERE = Path(__file__).parent


def chosen(suite: unittest.TestSuite, words: list[str]) -> unittest.TestSuite:
    """The tests whose full name holds one of the words."""
    found = unittest.TestSuite()
    for test in suite:
        if isinstance(test, unittest.TestSuite):
            found.addTests(chosen(test, words))
        elif not words or any(word in test.id() for word in words):
            found.addTest(test)
    return found


def main() -> int:
    """Gives 0 when all passed and at least one ran."""
    suite = unittest.defaultTestLoader.discover(str(HERE), top_level_dir=str(HERE.parent))
    result = unittest.TextTestRunner(verbosity=1).run(chosen(suite, sys.argv[1:]))
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    passed = result.testsRun - failed - len(result.skipped)
    sys.stdout.write(f"{passed} passed, {failed} failed, {len(result.skipped)} skipped\n")
    return 0 if result.testsRun and not failed else 1


if __name__ == "__main__":
    sys.exit(main())
