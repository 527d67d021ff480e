"""The kept versions of a file are those that were saved last, whatever the clock says."""

import tempfile
import unittest
from datetime import UTC, datetime, timedelta
from pathlib import Path
from unittest import mock

from wrinkle.library import versions
from wrinkle.library.versions import MOST, keep_version

TODAY = datetime(2026, 5, 4, 12, tzinfo=UTC)


class Versions(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        own = mock.patch.object(versions, "own_state", return_value=Path(folder.name))
        own.start()
        self.addCleanup(own.stop)
        self.path = Path(folder.name) / "a.wrinkle"

    def save(self, content: str, when: datetime) -> None:
        with mock.patch.object(versions, "datetime", wraps=datetime) as clock:
            clock.now.return_value = when
            keep_version(self.path, ".wrinkle", lambda copy: copy.write_text(content) and None)

    def kept(self) -> list[str]:
        return [version.path.read_text() for version in versions.versions(self.path)]

    def test_a_clock_that_is_put_back_costs_no_version(self) -> None:
        for number in range(MOST):
            self.save(f"future {number}", TODAY + timedelta(days=400, minutes=number))
        for number in range(3):
            self.save(f"now {number}", TODAY + timedelta(minutes=number))
        self.assertEqual(self.kept(), ["now 2", "now 1", "now 0", "future 4", "future 3"])
        self.assertEqual(versions.versions(self.path)[0].when, TODAY + timedelta(minutes=2))

    def test_those_of_before_have_no_number_and_go_first(self) -> None:
        self.save("one", TODAY)
        (first,) = versions.versions(self.path)
        first.path.rename(first.path.with_name("20260504-120000-000000.wrinkle"))
        for number in range(MOST):
            self.assertIn("one", self.kept())
            self.save(str(number), TODAY - timedelta(days=1))
        self.assertEqual(self.kept(), ["4", "3", "2", "1", "0"])
