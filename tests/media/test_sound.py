"""The sound of clips, against tones that were written."""

import tempfile
import unittest
from fractions import Fraction
from pathlib import Path
from unittest import mock

import av
import numpy as np

from tests.media.clips import numbered_picture
from tests.media.sounds import PACKINGS, murmur, write_sound
from wrinkle.core.errors import MediaError
from wrinkle.core.store import Store
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


def beginning(path: Path) -> Fraction:
    """The file's time of its first sample."""
    with av.open(str(path)) as container:
        return Fraction(container.start_time or 0, 1_000_000)


def lossy(codec: str) -> bool:
    """Whether the packing changes the wave, and may shift it by what it says nowhere."""
    return codec in ("aac", "libmp3lame", "libopus")


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

    def test_every_packing_is_the_same_in_any_stretches_and_at_its_time(self) -> None:
        for name, codec, rate, container in PACKINGS:
            with self.subTest(name):
                path = write_sound(self.folder / name, codec, rate, container)
                first = beginning(path)
                sound = Sound(path, first)
                whole = sound.samples(-700, 6 * SAMPLE_RATE)
                starts = range(-700, 6 * SAMPLE_RATE - 700, 150_001)
                parts = [Sound(path, first).samples(n, 150_001) for n in reversed(starts)]
                found = np.concatenate(parts[::-1])[: len(whole)]
                np.testing.assert_array_equal(found, whole)
                # Each part lies where it was written, by its likeness. A transport stream does not
                # say that AAC begins with a frame of nothing.
                late = 700 + (1_024 if name.endswith(".ts") else 0)
                wanted = murmur(SAMPLE_RATE, 5.0)
                for start in range(9_600, 4 * SAMPLE_RATE, 61_000):
                    part = whole[late + start - 200 : late + start + 2_200, 0]
                    alike = np.correlate(part, wanted[start : start + 2_000])
                    self.assertLessEqual(abs(int(alike.argmax()) - 200), 48 if lossy(codec) else 1)

    def test_few_files_stay_open_and_all_are_read_on_where_they_were(self) -> None:
        sounds = []
        for number in range(14):
            path = self.folder / f"{number}.mka"
            part = murmur(SAMPLE_RATE, 5.0)
            write_sound(path, "pcm_s16le", SAMPLE_RATE, "matroska", samples=part)
            sounds.append(Sound(path, store=Store(1 << 20)))

        def opened() -> int:
            held = Path("/proc/self/fd").iterdir()
            return sum(x.exists() and x.resolve().suffix == ".mka" for x in held)

        for sound in sounds:
            self.assertTrue(sound.samples(0, 100).any())
        self.assertLessEqual(opened(), 8)
        for sound in sounds:
            found = sound.samples(3 * SAMPLE_RATE, 1_000)[:, 0]
            wanted = murmur(SAMPLE_RATE, 5.0)[3 * SAMPLE_RATE :][:1_000]
            np.testing.assert_allclose(found, wanted, atol=1e-3)
        self.assertLessEqual(opened(), 8)

    def test_any_layout_and_rate_and_what_is_no_number(self) -> None:
        for layout, rate in (("mono", 8_000), ("5.1", 192_000), ("7.1", 48_000)):
            with self.subTest(layout):
                path = self.folder / f"{rate}.wav"
                write_sound(path, "pcm_s16le", rate, layout=layout, samples=murmur(rate, 1.0))
                found = Sound(path).samples(0, SAMPLE_RATE)
                self.assertGreater(float(np.abs(found).mean()), 0.05)
        wave = murmur(SAMPLE_RATE, 3.0).copy()
        wave[1_000:1_010], wave[2_000], wave[3_000] = np.nan, np.inf, 40.0
        path = write_sound(self.folder / "odd.wav", "pcm_f32le", SAMPLE_RATE, samples=wave)
        found = Sound(path).samples(0, 3 * SAMPLE_RATE)
        self.assertTrue(np.isfinite(found).all())
        self.assertLessEqual(float(np.abs(found).max()), 8.0)
        np.testing.assert_allclose(found[4_000:9_000, 0], wave[4_000:9_000], atol=1e-5)

    def test_a_rate_that_cannot_be_is_refused_at_once(self) -> None:
        path = write_sound(self.folder / "a.wav", "pcm_s16le", SAMPLE_RATE)
        content = bytearray(path.read_bytes())
        place = content.index(SAMPLE_RATE.to_bytes(4, "little"))
        for rate in (234_925_124, 7):
            content[place : place + 4] = rate.to_bytes(4, "little")
            path.write_bytes(content)
            with self.assertRaisesRegex(MediaError, "The sound of a.wav cannot be read"):
                Sound(path).samples(0, 100)

    def test_what_is_missing_in_the_midst_is_silent_and_the_rest_in_time(self) -> None:
        path = write_sound(self.folder / "whole.mka", "pcm_s16le", SAMPLE_RATE, "matroska")
        gap = self.folder / "gap.mka"
        with av.open(str(path)) as whole, av.open(str(gap), "w", format="matroska") as made:
            stream = made.add_stream_from_template(whole.streams.audio[0])
            for packet in whole.demux(whole.streams.audio[0]):
                time = float((packet.pts or 0) * packet.time_base)
                if packet.size and not 1.0 < time < 2.0:
                    packet.stream = stream
                    made.mux(packet)
        found, wanted = Sound(gap).samples(0, 4 * SAMPLE_RATE)[:, 0], murmur(SAMPLE_RATE, 5.0)
        self.assertEqual(float(np.abs(found[54_000:90_000]).max()), 0.0)
        part = found[120_000 - 200 : 122_200]
        alike = np.correlate(part, wanted[120_000:122_000])
        self.assertAlmostEqual(int(alike.argmax()), 200, delta=48)

    def test_several_sounds_and_a_later_start(self) -> None:
        path = self.folder / "two.mkv"
        with av.open(str(path), "w") as container:
            picture = container.add_stream("libx264", rate=Fraction(30))
            picture.width, picture.height, picture.pix_fmt = 112, 96, "yuv420p"
            tracks = [container.add_stream("pcm_s16le", rate=SAMPLE_RATE) for _ in range(2)]
            for number in range(30):
                shown = av.VideoFrame.from_ndarray(numbered_picture(number, 112, 96), "rgb24")
                shown.pts = number
                container.mux(picture.encode(shown))
            container.mux(picture.encode(None))
            for track, (stream, starts) in enumerate(zip(tracks, (0, 12_000), strict=True)):
                level = np.full((1, 2 * 24_000), 8_000 * (track + 1), np.int16)
                frame = av.AudioFrame.from_ndarray(level, "s16", "stereo")
                frame.rate, frame.pts, frame.time_base = (
                    SAMPLE_RATE,
                    starts,
                    Fraction(1, SAMPLE_RATE),
                )
                container.mux(stream.encode(frame))
                container.mux(stream.encode(None))
        clip = Clip(path)
        self.assertEqual((clip.facts.sounds, clip.sounds), (2, 2))
        for track, begins in enumerate((0, 12_000)):
            sound = clip.sound(track)
            assert sound is not None
            found = sound.samples(0, SAMPLE_RATE)[:, 0]
            self.assertAlmostEqual(int(np.argmax(found > 0.1)), begins, delta=48)
            self.assertAlmostEqual(float(found[20_000]), 8_000 * (track + 1) / 32_768, places=3)
