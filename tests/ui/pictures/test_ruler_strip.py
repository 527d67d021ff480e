"""The strip in long and short windows."""

import unittest
from itertools import pairwise

from tests.ui.window_case import application, settle
from wrinkle.core.jobs import Jobs, Urgency
from wrinkle.core.picture.image import Size
from wrinkle.core.store import Store
from wrinkle.ui.pictures.frame_pictures import FramePictures
from wrinkle.ui.pictures.ruler_strip import RulerStrip


class Cells(unittest.TestCase):
    def test_in_a_long_window_one_frame_stands_for_several_and_none_reaches_over_the_cut(
        self,
    ) -> None:
        application()
        jobs = Jobs(1)
        self.addCleanup(jobs.stop)
        pictures = FramePictures(jobs, Store(), Urgency.LOOKED_AT)
        self.addCleanup(pictures.close)
        strip = RulerStrip(pictures)
        strip.resize(734, strip.height())
        strip.show()
        for first, end, shown in ((-12, 12, 24), (-121, 118, 61), (-900, 0, 60), (0, 7, 7)):
            strip.show_frames(first, end, -1, Size(9, 16))
            cells = strip.cells()
            self.assertEqual((cells[0][0], cells[-1][1], len(cells)), (first, end, shown))
            self.assertTrue(all(before[1] == after[0] for before, after in pairwise(cells)))
            self.assertTrue(all(left >= 0 or right <= 0 for left, right in cells))
            settle()
        strip.close()
