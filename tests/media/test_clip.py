import random
from fractions import Fraction

import cv2
import numpy as np

from tests.media.clips import Files, number_of, numbered_picture, turn_by_flag, write_numbered
from wrinkle.core.errors import Cancelled, InputError, MediaError
from wrinkle.core.picture.image import Size
from wrinkle.core.time.rate import FrameRate
from wrinkle.media.clip import Clip
from wrinkle.media.still import Still, write_png
from wrinkle.media.video_file import write_video


class Clips(Files):
    def assert_exact(self, clip: Clip, count: int) -> None:
        """Every frame is the one that was asked for, in any order."""
        order = [*range(count), *range(count - 1, -1, -3)]
        random.Random(5).shuffle(order)
        for size in (clip.size, Size(70, 60)):
            for number in order:
                self.assertEqual(number_of(clip.bytes8(number, size)), number)

    def test_frames_by_exact_number(self) -> None:
        for name, rate in (("a.mp4", Fraction(30)), ("b.mkv", Fraction(30000, 1001))):
            with self.subTest(name):
                clip = self.open(write_numbered(self.folder / name, 40, rate=rate))
                self.assert_exact(clip, 40)
                self.assertEqual(clip.facts.frame_count, 40)
                self.assertAlmostEqual(float(clip.duration), float(40 / rate), delta=0.002)
                self.assertFalse(clip.facts.variable_rate)
                self.assertEqual(clip.facts.sounds, 0)
                shown = [clip.index_at(n / rate) for n in range(-2, 45)]
                self.assertEqual(shown, [0, 0, *range(40), *[39] * 5])

    def test_a_variable_rate(self) -> None:
        dice = random.Random(3)
        times = [0]
        for _ in range(29):
            times.append(times[-1] + dice.choice([17, 33, 50, 100]))
        clip = self.open(write_numbered(self.folder / "v.mkv", 30, times=times))
        self.assert_exact(clip, 30)
        self.assertTrue(clip.facts.variable_rate)
        for number, time in enumerate(times):
            self.assertEqual(clip.index_at(Fraction(time, 1000)), number)
            self.assertEqual(clip.index_at(Fraction(time + 10, 1000)), number)

    def test_a_turning_flag_is_obeyed(self) -> None:
        path = write_numbered(self.folder / "r.mp4", 6, size=(112, 96))
        turn_by_flag(path, 96)
        clip = self.open(path)
        self.assertEqual((clip.size, clip.facts.rotation), (Size(96, 112), 90))
        pixels = clip.bytes8(0, clip.size)
        self.assertGreater(int(pixels[5, -5, 0]), 150)
        self.assertLess(int(pixels[5, 5, 0]), 60)

    def test_odd_sizes(self) -> None:
        path = write_numbered(self.folder / "o.mp4", 8, size=(105, 75), layout="yuv444p")
        clip = self.open(path)
        self.assertEqual(clip.size, Size(105, 75))
        self.assert_exact(clip, 8)

    def test_what_is_no_clip_is_one_sentence_that_names_it(self) -> None:
        whole = write_numbered(self.folder / "whole.mp4", 40)
        picture = self.folder / "picture.mp4"
        picture.write_bytes(cv2.imencode(".png", numbered_picture(0, 112, 96))[1].tobytes())
        listed = f"#EXTM3U\n#EXTINF:1,\n{whole}\n#EXT-X-ENDLIST\n".encode()
        cases = {
            "text.mp4": (b"just words\n" * 50, "cannot be read as a video"),
            "empty.mp4": (b"", "is empty|cannot be read"),
            "cut.mp4": (whole.read_bytes()[:-400], "cannot be read as a video"),
            "picture.png": (picture.read_bytes(), "is a picture, not a clip"),
            "list.mp4": (listed, "cannot be read as a video"),
        }
        for name, (content, told) in cases.items():
            path = self.folder / name
            path.write_bytes(content)
            with self.subTest(name), self.assertRaisesRegex(MediaError, told) as caught:
                Clip(path)
            self.assertIn(name, str(caught.exception))
            self.assertNotIn("\n", str(caught.exception))
        for path in (self.folder / "none.mp4", self.folder):
            with self.subTest(path), self.assertRaisesRegex(MediaError, "no such file|folder"):
                Clip(path)


class Videos(Files):
    def test_what_is_written_is_read_back(self) -> None:
        size, rate = Size(112, 96), FrameRate.of(60000, 1001)
        frames = [numbered_picture(n, *size) for n in range(30)]
        path = self.folder / "out.mp4"
        self.assertEqual(write_video(path, frames, size, rate), 30)
        clip = self.open(path)
        self.assertEqual((clip.size, clip.facts.rate, clip.facts.frame_count), (size, rate, 30))
        for number in (0, 11, 29):
            found = clip.bytes8(number, size).astype(int)
            self.assertEqual(number_of(found.astype(np.uint8)), number)
            # The colours stay: the file says how they are meant, in the way the reader takes it.
            self.assertLess(float(np.abs(found - frames[number])[8:16, 8:16].mean()), 6.0)

    def test_cancelling_or_failing_leaves_what_was_there(self) -> None:
        path = self.folder / "out.mp4"
        path.write_bytes(b"before")

        def stop(done: int) -> None:
            if done == 3:
                raise Cancelled

        frames = [numbered_picture(n, 112, 96) for n in range(9)]
        with self.assertRaises(Cancelled):
            write_video(path, frames, Size(112, 96), FrameRate.of(30), stop)
        with self.assertRaisesRegex(InputError, "both sides must be even. Use 114×96"):
            write_video(path, frames, Size(113, 96), FrameRate.of(30))
        with self.assertRaisesRegex(MediaError, "choose another place"):
            write_video(self.folder / "no" / "o.mp4", frames, Size(112, 96), FrameRate.of(30))
        self.assertEqual(path.read_bytes(), b"before")
        self.assertEqual([x.name for x in self.folder.iterdir()], ["out.mp4"])


class Pictures(Files):
    def test_alpha_goes_out_and_comes_in(self) -> None:
        colours = np.zeros((6, 5, 4), np.uint8)
        colours[..., :] = (200, 100, 50, 255)
        colours[2:, :, 3] = 128
        colours[4:, :, 3] = 0
        path = self.folder / "a.png"
        content = cv2.imencode(".png", cv2.cvtColor(colours, cv2.COLOR_RGBA2BGRA))[1]
        path.write_bytes(content.tobytes())
        picture = Still.read(path)
        self.assertTrue(picture.has_alpha)
        image = picture.image(0, picture.size)
        np.testing.assert_allclose(image.pixels[2, 0, 3], 128 / 255, atol=1e-6)
        again = self.folder / "b.png"
        write_png(again, image.to_bytes8(), image.opaque)
        back = cv2.cvtColor(cv2.imread(str(again), cv2.IMREAD_UNCHANGED), cv2.COLOR_BGRA2RGBA)
        np.testing.assert_allclose(back[:4].astype(int), colours[:4].astype(int), atol=2)
        self.assertEqual(int(back[4:].max()), 0)
        half = picture.image(0, Size(3, 3))
        self.assertLessEqual(float((half.pixels[..., :3] - half.pixels[..., 3:]).max()), 1e-6)

    def test_sixteen_bits_and_grey(self) -> None:
        deep = np.full((4, 4, 3), 32768, np.uint16)
        grey = np.full((4, 4), 128, np.uint8)
        for pixels in (deep, grey):
            picture = Still("p.png", cv2.imencode(".png", pixels)[1].tobytes())
            # IEC 61966-2-1: half of full code value is 0.214 (0.216 at 128 of 255) of the light.
            middle = float(picture.image(0, picture.size).pixels[1, 1, 1])
            self.assertAlmostEqual(middle, 0.215, delta=0.0015)

    def test_what_is_no_picture_is_told(self) -> None:
        for content, told in ((b"", "is empty"), (b"words", "cannot be read as a picture")):
            with self.subTest(told), self.assertRaisesRegex(MediaError, f"x.png {told}"):
                Still("x.png", content)
        with self.assertRaisesRegex(MediaError, "no such file"):
            Still.read(self.folder / "none.png")
