import tempfile
import unittest
from pathlib import Path

import numpy as np

from wrinkle.core.picture.image import Size
from wrinkle.demo import clips
from wrinkle.demo.scenes import SCENES
from wrinkle.demo.scenes.town import shutter_opening
from wrinkle.media.clip import Clip

ROOT = Path(__file__).parents[2]
SIZE = Size(108, 192)


class Scenes(unittest.TestCase):
    def test_each_is_the_same_each_time_and_moves_and_has_texture(self) -> None:
        for name in SCENES:
            with self.subTest(name):
                first = clips.draw_scene(name, 1.0, SIZE)
                np.testing.assert_array_equal(first, clips.draw_scene(name, 1.0, SIZE))
                later = clips.draw_scene(name, 1.3, SIZE)
                self.assertGreater(float(np.abs(first.astype(int) - later).mean()), 0.3)
                fine = np.abs(np.diff(first.astype(int), axis=1)).mean()
                self.assertGreater(float(fine), 0.8)

    def test_the_shutter_opens_and_closes(self) -> None:
        self.assertEqual([shutter_opening(t) for t in (0.0, 1.5, 3.1)], [0.0, 1.0, 0.0])

    def test_a_clip_has_the_asked_size_rate_and_length_and_grain(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "dunes.mp4"
            clips.draw_clip(path, "dunes", SIZE, clips.RATE, 0.5)
            clip = Clip(path)
            self.addCleanup(clip.close)
            self.assertEqual((clip.size, clip.facts.frame_count), (SIZE, 15))
