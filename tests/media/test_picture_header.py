"""Promised sizes against OpenCV's own files of every kind."""

import unittest

import cv2
import numpy as np

from wrinkle.core.picture.image import Size
from wrinkle.media.picture_header import promised_size


class Headers(unittest.TestCase):
    def test_sizes_are_those_of_the_pictures(self) -> None:
        lossless, lossy = [cv2.IMWRITE_WEBP_QUALITY, 101], [cv2.IMWRITE_WEBP_QUALITY, 60]
        progressive = [cv2.IMWRITE_JPEG_PROGRESSIVE, 1]
        for channels in (3, 4):
            pixels = np.random.default_rng(1).integers(0, 255, (37, 301, channels), np.uint8)
            for ending, options in (
                (".png", []), (".tiff", []), (".jpg", []), (".jpg", progressive),
                (".webp", lossy), (".webp", lossless),
            ):  # fmt: skip
                content = cv2.imencode(ending, pixels, options)[1].tobytes()
                self.assertEqual(promised_size(content), Size(301, 37), (ending, channels))
                for end in range(0, 40, 3):
                    self.assertIn(promised_size(content[:end]), (None, Size(301, 37)))
        # A part that says it has 2 GiB.
        png = cv2.imencode(".png", np.zeros((3, 3, 3), np.uint8))[1].tobytes()
        self.assertIsNone(promised_size(png.replace(b"\0\0\0\rIHDR", b"\x7f\0\0\rIHDR")))
        self.assertIsNone(promised_size(b"GIF89a" + bytes(50)))
