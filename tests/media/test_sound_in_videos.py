"""A click on a frame is heard on that frame after it was written and read again, at every rate."""

import tempfile
import unittest
from fractions import Fraction
from pathlib import Path

import numpy as np

from wrinkle.core.picture.image import Size
from wrinkle.core.sound.heard import Fixed, Mix, MixPart
from wrinkle.core.synthesis.samples import SAMPLE_RATE, sample_at
from wrinkle.core.time.rate import FrameRate
from wrinkle.media.clip import Clip
from wrinkle.media.video_file import write_video

RATES = (Fraction(24), Fraction(25), Fraction(30000, 1001), Fraction(50), Fraction(60))
SIZE = Size(64, 48)


class InVideos(unittest.TestCase):
    def test_a_click_is_on_its_frame(self) -> None:
        for per_second in RATES:
            rate = FrameRate(per_second)
            count = round(3 * per_second)
            struck = (7, count // 2, count - 9)
            samples = np.zeros((sample_at(rate, count), 2), np.float32)
            for frame in struck:
                burst = np.random.default_rng(frame).standard_normal(480) * 0.3
                burst *= np.exp(-np.arange(480) / 100.0)
                start = sample_at(rate, frame)
                samples[start : start + 480] = burst[:, np.newaxis]
            span = range(len(samples))
            heard = Mix((MixPart(Fixed(samples), 0, span),), span)

            def picture(frame: int, struck: tuple[int, ...] = struck) -> np.ndarray:
                return np.full((SIZE.height, SIZE.width, 3), 255 * (frame in struck), np.uint8)

            with tempfile.TemporaryDirectory() as folder, self.subTest(rate=rate.label):
                path = Path(folder) / "a.mp4"
                pictures = map(picture, range(count))
                self.assertEqual(write_video(path, pictures, SIZE, rate, sound=heard), count)
                clip = Clip(path)
                self.addCleanup(clip.close)
                sound = clip.sound()
                assert sound is not None
                found = sound.samples(0, len(samples))[:, 0]
                self.assertEqual(clip.facts.frame_count, count)
                for frame in struck:
                    seen = [
                        clip.bytes8(n, SIZE).mean() > 128 for n in (frame - 1, frame, frame + 1)
                    ]
                    self.assertEqual(seen, [False, True, False])
                    first = sample_at(rate, frame) - 2_000
                    near, wanted = found[first:][:4_500], samples[first + 1_950 :][:600, 0]
                    at = first + int(np.correlate(near, wanted, "valid").argmax()) + 50
                    self.assertLess(abs(at - sample_at(rate, frame)) / SAMPLE_RATE, 0.001)

    def test_so_many_frames_have_so_many_samples(self) -> None:
        # Exactly as many as fall into them, rounded: 1001/30000 s is 1601.6 samples.
        rate = FrameRate(Fraction(30000, 1001))
        for frames in (1, 2, 5, 1_000, 107_892):
            self.assertEqual(sample_at(rate, frames), round(Fraction(frames * 1001 * 48, 30)))
