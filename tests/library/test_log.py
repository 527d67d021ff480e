"""What went wrong is written down, with what ran."""

import logging
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from wrinkle.library.log import begin_log, log_file


class Log(unittest.TestCase):
    def test_it_begins_with_what_runs_and_not_before_something_goes_wrong(self) -> None:
        folder = self.enterContext(tempfile.TemporaryDirectory())
        self.enterContext(mock.patch("wrinkle.library.log.own_state", return_value=Path(folder)))
        logger = logging.getLogger("wrinkle")
        before = list(logger.handlers)
        begin_log()
        (handler,) = set(logger.handlers) - set(before)
        self.addCleanup(handler.close)
        self.addCleanup(logger.removeHandler, handler)
        self.assertFalse(log_file().exists())
        for word in ("one", "two"):
            logging.getLogger("wrinkle.tests").warning(word)
        first, second, third = log_file().read_text().splitlines()
        self.assertRegex(first, r"INFO wrinkle.*began: Wrinkle [\d.]+.*numpy [\d.]+")
        self.assertTrue(second.endswith("one") and third.endswith("two"))
