import unittest

import numpy as np

from wrinkle.core.picture.contact_sheet import contact_sheet


class Sheet(unittest.TestCase):
    def test_every_frame_stands_whole_on_the_sheet_and_the_seam_before_frame_0(self) -> None:
        frames = [np.full((30, 20, 4), 40 * n, np.uint8) for n in range(1, 6)]
        sheet = contact_sheet(frames, range(-2, 3), 3)
        for n in range(1, 6):
            self.assertEqual(int((sheet == 40 * n).all(axis=2).sum() >= 600), 1, n)
        red = (sheet == (179, 38, 30)).all(axis=2)
        columns = np.nonzero(red.any(axis=0))[0]
        # Frame 0 is the third of its row: its left edge is at 8 + 2 * (20 + 8).
        self.assertTrue(len(columns) and columns.max() < 64 and columns.min() >= 58)
        # Frames that are counted from no cut have no seam.
        plain = contact_sheet(frames, range(5), 3, around_cut=False)
        self.assertFalse((plain == (179, 38, 30)).all(axis=2).any())

    def test_one_frame_is_a_sheet_too(self) -> None:
        sheet = contact_sheet([np.zeros((5, 5, 3), np.uint8)], [0], 1)
        self.assertEqual(sheet.shape[2], 3)
