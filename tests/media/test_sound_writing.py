"""Sound that is written, read back by another road: the standard library and FFmpeg."""

import tempfile
import unittest
import wave
from pathlib import Path

import av
import numpy as np

from wrinkle.core.errors import InputError, MediaError
from wrinkle.core.sound.heard import Fixed, Mix, MixPart, Ramp
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples
from wrinkle.media.sound_writing import write_sound


def heard(samples: Samples) -> Mix:
    span, end = range(len(samples)), len(samples)
    ramps = Ramp(range(0)), Ramp(range(end, end))
    return Mix((MixPart(Fixed(samples), 0, span, rise=ramps[0], fall=ramps[1]),), span)


class Written(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        dice = np.random.default_rng(4)
        self.samples = (dice.random((2 * SAMPLE_RATE + 777, 2)) * 1.6 - 0.8).astype(np.float32)

    def test_each_sample_is_there_within_its_dither(self) -> None:
        for name, bits in (("a.wav", 16), ("b.wav", 24), ("a.flac", 16), ("b.flac", 24)):
            with self.subTest(name, bits=bits):
                path = self.folder / name
                self.assertEqual(write_sound(path, heard(self.samples), bits), len(self.samples))
                with av.open(str(path)) as container:
                    stream = container.streams.audio[0]
                    self.assertEqual(stream.rate, SAMPLE_RATE)
                    frames = container.decode(stream)
                    parts = [frame.to_ndarray().reshape(-1, 2) for frame in frames]
                found = np.concatenate(parts).astype(np.float64)
                scale = 1 << (15 if found.dtype == np.int16 or np.abs(found).max() < 40_000 else 31)
                away = (found / scale - self.samples) * (1 << (bits - 1))
                self.assertEqual(len(found), len(self.samples))
                self.assertLessEqual(float(np.abs(away).max()), 1.51)
        with av.open(str(self.folder / "b.wav")) as container:
            self.assertEqual(container.streams.audio[0].codec_context.name, "pcm_s24le")

    def test_dither_leaves_no_trace_of_what_is_softer_than_a_step(self) -> None:
        # The error of a tone below one step is noise: it holds no line at the tone's harmonics.
        time = np.arange(SAMPLE_RATE) / SAMPLE_RATE
        tone = (0.7 / 32_768 * np.sin(2 * np.pi * 1_000 * time)).astype(np.float32)
        path = self.folder / "soft.wav"
        write_sound(path, heard(np.stack([tone, tone], 1)))
        with wave.open(str(path)) as file:
            found = np.frombuffer(file.readframes(SAMPLE_RATE), "<i2").reshape(-1, 2)[:, 0]
        spectrum = np.abs(np.fft.rfft(found / 32_768)) / (SAMPLE_RATE / 2)
        self.assertAlmostEqual(float(spectrum[1_000]) * 32_768, 0.7, delta=0.05)
        floor = float(np.median(spectrum[500:20_000]))
        self.assertLess(float(spectrum[[3_000, 5_000, 7_000]].max()), 5.0 * floor)

    def test_what_cannot_be_is_one_sentence(self) -> None:
        with self.assertRaisesRegex(InputError, r"a\.mp3 has no ending .* use \.wav or \.flac"):
            write_sound(self.folder / "a.mp3", heard(self.samples))
        with self.assertRaisesRegex(MediaError, "cannot be written"):
            write_sound(self.folder / "nowhere" / "a.wav", heard(self.samples))
        self.assertEqual(list(self.folder.iterdir()), [])
