"""The sound of clips, against tones that were written."""

import tempfile
import unittest
from fractions import Fraction
from pathlib import Path
from unittest import mock

import av
import numpy as np

from tests.media.clips import numbered_picture
from wrinkle.core.errors import MediaError
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.media.clip import Clip
from wrinkle.media.sound import Sound


def tone(rate: int, seconds: float = 2.0) -> np.ndarray:
    """1 kHz at half of the full scale from half a second on, at the left only."""
    time = np.arange(round(rate * seconds)) / rate
    left = np.where(time >= 0.5, 0.5 * np.sin(2 * np.pi * 1000.0 * time), 0.0)
    return np.stack([left, np.zeros_like(left)], axis=1)


def write_sounding(path: Path, codec: str, rate: int) -> Path:
    """A clip of a second with two of sound."""
    with av.open(str(path), "w") as container:
        picture = container.add_stream("libx264", rate=Fraction(30))
        picture.width, picture.height, picture.pix_fmt = 112, 96, "yuv420p"
        sound = container.add_stream(codec, rate=rate, layout="stereo")
        for number in range(30):
            shown = av.VideoFrame.from_ndarray(numbered_picture(number, 112, 96), "rgb24")
            shown.pts = number
            container.mux(picture.encode(shown))
        container.mux(picture.encode(None))
        samples = np.rint(tone(rate) * 32767).astype(np.int16)
        for start in range(0, len(samples), 1024):
            block = np.ascontiguousarray(samples[start : start + 1024].reshape(1, -1))
            frame = av.AudioFrame.from_ndarray(block, "s16", "stereo")
            frame.rate, frame.pts, frame.time_base = rate, start, Fraction(1, rate)
            container.mux(sound.encode(frame))
        container.mux(sound.encode(None))
    return path


class Sounds(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def test_samples_are_those_that_were_written_in_any_order(self) -> None:
        sound = Sound(write_sounding(self.folder / "a.mkv", "pcm_s16le", SAMPLE_RATE))
        wanted = tone(SAMPLE_RATE)
        for start in (23_000, 60_000, 0, 40_123, 95_000):
            found = sound.samples(start, 1000)
            np.testing.assert_allclose(found, wanted[start : start + 1000], atol=1e-4)

    def test_outside_of_the_file_there_is_silence(self) -> None:
        sound = Sound(write_sounding(self.folder / "a.mkv", "pcm_s16le", SAMPLE_RATE))
        self.assertEqual(float(np.abs(sound.samples(-500, 500)).max()), 0.0)
        end = sound.samples(2 * SAMPLE_RATE - 10, 1000)
        self.assertGreater(float(np.abs(end[:10]).max()), 0.01)
        self.assertEqual(float(np.abs(end[10:]).max()), 0.0)

    def test_another_rate_and_packing_begin_at_the_same_time_with_the_same_tone(self) -> None:
        for name, codec, rate in (("a.mkv", "pcm_s16le", 44_100), ("a.mp4", "aac", 48_000)):
            with self.subTest(name):
                sound = Sound(write_sounding(self.folder / name, codec, rate))
                left = sound.samples(0, 2 * SAMPLE_RATE)[:, 0]
                begins = int(np.argmax(np.abs(left) > 0.1)) / SAMPLE_RATE
                self.assertAlmostEqual(begins, 0.5, delta=0.003)
                part = left[SAMPLE_RATE : SAMPLE_RATE + 4800]
                spectrum = np.abs(np.fft.rfft(part)) / 2400.0
                self.assertEqual(int(spectrum.argmax()) * 10, 1000)
                self.assertAlmostEqual(float(spectrum.max()), 0.5, delta=0.01)

    def test_a_clip_knows_its_sound_and_a_file_without_says_so(self) -> None:
        clip = Clip(write_sounding(self.folder / "a.mkv", "pcm_s16le", SAMPLE_RATE))
        sound = clip.sound()
        assert sound is not None
        self.assertIsNone(clip.sound(1))
        self.assertEqual(sound.samples(0, 10).shape, (10, 2))
        (self.folder / "words.mp4").write_text("words")
        with self.assertRaisesRegex(MediaError, "The sound of words.mp4 cannot be read"):
            Sound(self.folder / "words.mp4").samples(0, 10)
        # The library has errors of all kinds for damaged ones.
        fallen = mock.patch("wrinkle.media.sound.AudioResampler", side_effect=AttributeError)
        with fallen, self.assertRaisesRegex(MediaError, "The sound of a.mkv cannot be read"):
            Sound(self.folder / "a.mkv").samples(0, 10)
