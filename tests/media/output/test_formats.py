"""Every format, depth, transparency and sound that is offered, read back by other libraries."""

import tempfile
import unittest
from dataclasses import replace
from fractions import Fraction
from pathlib import Path
from unittest import mock

import av
import colour as science
import cv2
import numpy as np
import OpenEXR
import tifffile
from PIL import Image as Pillow
from PIL import ImageSequence
from scipy.io import wavfile

from wrinkle.core.errors import Cancelled, InputError, MediaError
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.sound.heard import Fixed, Mix, MixPart, Ramp
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.core.time.rate import FrameRate
from wrinkle.media.output.colour import COLOURS
from wrinkle.media.output.estimating import estimated
from wrinkle.media.output.format import Into
from wrinkle.media.output.formats import FORMATS, format_for
from wrinkle.media.output.output import Output, write_output
from wrinkle.media.output.rendition import Rendition

SIZE = Size(96, 64)
COUNT = 12
CLICK = 5
"""The frame with whose beginning a click is heard."""
PATCHES = ((0, 0, 0), (255, 255, 255), (255, 0, 0), (0, 255, 0), (0, 0, 255), (255, 255, 0),
           (0, 128, 255), (118, 118, 118))  # fmt: skip


class Moving:
    """Smooth colours that move; half of it clear where that is asked for."""

    size = SIZE

    def __init__(self, clear: bool = False) -> None:
        self.clear = clear

    def image(self, frame: int) -> Image:
        y, x = np.mgrid[0 : SIZE.height, 0 : SIZE.width].astype(np.float32)
        found = np.ones((SIZE.height, SIZE.width, 4), np.float32)
        found[..., 0] = 0.5 + 0.4 * np.sin((x + frame * 3) / 20)
        found[..., 1] = y / SIZE.height
        found[..., 2] = 0.5 + 0.3 * np.cos((y - frame * 2) / 15)
        if self.clear:
            found[..., 3] = np.clip((x - 16) / 64, 0.0, 1.0)
            found[..., :3] *= found[..., 3:]
        return Image(found, Light.ENCODED, not self.clear)


class Grainy(Moving):
    """Soft noise that moves: no plain colours, and no noise that nothing could keep."""

    size = Size(192, 108)

    def image(self, frame: int) -> Image:
        dice = np.random.default_rng(7)
        noise = cv2.resize(dice.random((40, 80, 3), np.float32), (256, 128))
        found = np.ones((108, 192, 4), np.float32)
        found[..., :3] = 0.2 + 0.6 * noise[frame : frame + 108, frame : frame + 192]
        return Image(found, Light.ENCODED, True)


class Patches:
    """Eight plain colours, each large enough to be told apart."""

    size = SIZE

    def image(self, frame: int) -> Image:
        found = np.ones((SIZE.height, SIZE.width, 4), np.float32)
        for number, colour in enumerate(PATCHES):
            found[:, number * 12 : (number + 1) * 12, :3] = np.array(colour) / 255.0
        return Image(found, Light.ENCODED, True)


MUTED = ((60, 90, 70), (180, 120, 100), (200, 200, 190), (90, 100, 160))
"""Colours that any of the primaries can show."""


class Muted(Patches):
    def image(self, frame: int) -> Image:
        found = np.ones((SIZE.height, SIZE.width, 4), np.float32)
        for number, one in enumerate(MUTED):
            found[:, number * 24 : (number + 1) * 24, :3] = np.array(one) / 255.0
        return Image(found, Light.ENCODED, True)


_LUMA = np.array((0.2126, 0.7152, 0.0722))
"""Shares of brightness: ITU-R BT.709, 3."""


def click(rate: FrameRate) -> Mix:
    at = round(CLICK * SAMPLE_RATE / rate.per_second)
    samples = np.zeros((2 * SAMPLE_RATE, 2), np.float32)
    samples[at : at + 30] = 0.7
    span = range(2 * SAMPLE_RATE)
    return Mix((MixPart(Fixed(samples), 0, span, rise=Ramp(range(0))),), span)


def psnr(one: np.ndarray, other: np.ndarray) -> float:
    """Decibels, of values within 0…1."""
    return float(-10.0 * np.log10(np.mean((one - other) ** 2) + 1e-12))


class Written(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.jobs = Jobs()
        self.addCleanup(self.jobs.stop)

    def output(self, key: str, name: str = "", rate: str = "30", **fields: object) -> Output:
        form = FORMATS[key]
        shown = fields.pop("shown", None)
        kind = Rendition(form, **fields)  # type: ignore[arg-type]
        pace = FrameRate.parse(rate)
        goal = name or f"{key}-{kind.pixels}"
        path = self.folder / (goal if form.into is Into.FRAMES else goal + form.suffix)
        heard = click(pace) if form.into in (Into.VIDEO, Into.SOUND) else None
        return Output(shown or Moving(kind.alpha), range(COUNT), pace, kind, path, heard)  # type: ignore[arg-type]

    def write(self, output: Output) -> Path:
        self.assertEqual(write_output(output, self.jobs, Job()), len(output.frames))
        return output.path

    def pictures(self, path: Path, form: str) -> list[np.ndarray]:
        with av.open(str(path)) as container:
            return [x.to_ndarray(format=form) for x in container.decode(video=0)]

    def test_every_video_comes_back_in_time_and_looks_the_same(self) -> None:
        for key, form in FORMATS.items():
            if form.into is not Into.VIDEO:
                continue
            for alpha, kinds in ((False, form.opaque), (True, form.clear)):
                for depth in kinds:
                    with self.subTest(key, depth=depth, alpha=alpha):
                        output = self.output(key, depth=depth, alpha=alpha, quality=90.0)
                        path = self.write(output)
                        self.check_video(path, output)

    def check_video(self, path: Path, output: Output) -> None:
        with av.open(str(path)) as container:
            stream = container.streams.video[0]
            # FFmpeg reads the alpha of VP9 by another decoder than the usual one.
            if output.form.key == "vp9" and output.rendition.alpha:
                decoder = av.CodecContext.create("libvpx-vp9", "r")
                frames = [f for packet in container.demux(stream) for f in decoder.decode(packet)]
            else:
                frames = list(container.decode(stream))
            self.assertEqual(len(frames), COUNT)
            self.assertEqual(frames[0].pts or 0, 0)
            self.assertEqual(stream.average_rate, 30)
            self.assertAlmostEqual(float(container.duration or 0) / 1e6, COUNT / 30, delta=0.07)
        deep = output.rendition.bits_a_colour > 8
        most = 65_535.0 if deep else 255.0
        kind = ("rgba64le" if deep else "rgba") if output.rendition.alpha else (
            "rgb48le" if deep else "rgb24")  # fmt: skip
        lossless = output.form.lossless and output.rendition.bits_a_colour in (8, 16)
        for number in (0, 7):
            wanted = self.straight(output.shown.image(number), output.rendition.alpha)
            found = frames[number].reformat(format=kind).to_ndarray() / most
            if output.rendition.alpha:
                # A colour that nobody sees may be any.
                seen = wanted[..., 3] > 0.1
                found, wanted = found[seen], wanted[seen]
            if lossless:
                np.testing.assert_allclose(found, wanted, atol=0.5001 / most)
            else:
                self.assertGreater(psnr(found, wanted), 38.0)
        self.check_click(path)

    def straight(self, image: Image, alpha: bool) -> np.ndarray:
        pixels = image.in_light(Light.ENCODED).pixels.astype(np.float64)
        if not alpha:
            return pixels[..., :3]
        cover = pixels[..., 3:]
        return np.concatenate([pixels[..., :3] / np.maximum(cover, 1e-9), cover], axis=2)

    def check_click(self, path: Path, rate: Fraction = Fraction(30)) -> None:
        with av.open(str(path)) as container:
            stream = container.streams.audio[0]
            parts = []
            for frame in container.decode(stream):
                values = frame.to_ndarray().astype(np.float64)
                if not frame.format.is_planar:
                    values = values.reshape(-1, 2).T
                if frame.format.name.startswith("s32"):
                    values /= 1 << 31
                at = float((frame.pts or 0) * (frame.time_base or 0))
                parts.append((at, values[0], frame.sample_rate))
        for at, values, pace in parts:
            loud = np.flatnonzero(np.abs(values) > 0.3)
            if len(loud):
                heard = at + loud[0] / pace
                self.assertAlmostEqual(heard, CLICK / float(rate), delta=0.001)
                return
        self.fail("no click")

    def test_pictures_have_all_of_their_depth_for_other_libraries(self) -> None:
        for alpha in (False, True):
            shown = Moving(alpha).image(3)
            wanted = self.straight(shown, alpha)
            channels = 4 if alpha else 3
            for depth, most in ((8, 255.0), (16, 65_535.0)):
                path = self.write(
                    self.output("png", f"png{depth}{alpha}", depth=depth, alpha=alpha)
                )
                names = sorted(x.name for x in path.iterdir())
                self.assertEqual((len(names), names[0]), (COUNT, f"{path.name}_0001.png"))
                found = cv2.imread(str(path / names[3]), cv2.IMREAD_UNCHANGED)
                order = [2, 1, 0, 3][:channels]
                self.compare(found[..., order] / most, wanted, most)
                path = self.write(
                    self.output("tiff", f"tif{depth}{alpha}", depth=depth, alpha=alpha)
                )
                found = tifffile.imread(path / f"{path.name}_0004.tif")
                self.compare(found / most, wanted, most)
            for depth, steps in ((16, 1e-3), (32, 1e-6)):
                path = self.write(
                    self.output("exr", f"exr{depth}{alpha}", depth=depth, alpha=alpha)
                )
                with OpenEXR.File(str(path / f"{path.name}_0004.exr")) as file:
                    (found,) = [x.pixels for x in file.channels().values()]
                kind = np.float16 if depth == 16 else np.float32
                self.assertEqual(found.dtype, kind)
                # Linear and premultiplied, as they are rendered.
                linear = shown.in_light(Light.LINEAR).pixels[..., :channels]
                np.testing.assert_allclose(found.astype(np.float32), linear, atol=steps)

    def compare(self, found: np.ndarray, wanted: np.ndarray, most: float) -> None:
        if wanted.shape[2] == 4:
            seen = wanted[..., 3] > 0.1
            np.testing.assert_allclose(found[seen], wanted[seen], atol=1.0 / most)
        else:
            np.testing.assert_allclose(found, wanted, atol=0.5001 / most)

    def test_pictures_that_move_are_whole_for_another_library(self) -> None:
        for key, alpha in (("webp", False), ("webp", True), ("apng", False), ("apng", True),
                           ("gif", False)):  # fmt: skip
            with self.subTest(key, alpha=alpha):
                output = self.output(key, f"{key}{alpha}", "25", alpha=alpha, quality=100.0)
                with Pillow.open(self.write(output)) as picture:
                    found = [np.array(x.convert("RGBA")) / 255.0
                             for x in ImageSequence.Iterator(picture)]  # fmt: skip
                    self.assertEqual((len(found), picture.info.get("loop")), (COUNT, 0))
                    self.assertAlmostEqual(picture.info.get("duration", 40), 40, delta=0.01)
                wanted = self.straight(output.shown.image(7), True)
                seen = wanted[..., 3] > 0.2
                least = {"webp": 36.0, "apng": 45.0, "gif": 28.0}[key]
                self.assertGreater(psnr(found[7][seen], wanted[seen]), least)

    def test_eight_colours_come_back_by_the_tagged_matrix(self) -> None:
        for key in ("h264", "h265", "vp9", "av1", "prores422", "prores4444", "ffv1"):
            with self.subTest(key):
                path = self.write(
                    self.output(key, f"patches-{key}", shown=Patches(), quality=100.0)
                )
                with av.open(str(path)) as container:
                    frame = next(container.decode(video=0))
                    yuv = key != "ffv1"
                    self.assertEqual(frame.colorspace, 1 if yuv else 0)
                found = self.colours(frame, key)
                for number, colour in enumerate(PATCHES):
                    middle = found[20:44, number * 12 + 4 : number * 12 + 8].reshape(-1, 3)
                    near = np.abs(middle.mean(0) - np.array(colour)).max()
                    # The nearest that eight bits of the limited range hold lies within 1.15.
                    self.assertLess(near, 1.3, (key, colour, middle.mean(0)))

    def test_other_colours_are_tagged_and_are_the_same_to_who_reads_the_tag(self) -> None:
        for key, name, tags, weights in (
            ("srgb", "ITU-R BT.709", (1, 13, 1), (0.2126, 0.0722)),
            ("p3", "Display P3", (12, 13, 1), (0.2126, 0.0722)),
            ("bt601", "SMPTE C", (6, 6, 6), (0.299, 0.114)),
        ):
            with self.subTest(key):
                output = self.output("h265", f"colour-{key}", shown=Muted(), quality=100.0,
                                     depth=10, colour=COLOURS[key])  # fmt: skip
                with av.open(str(self.write(output))) as container:
                    frame = next(container.decode(video=0))
                found = int(frame.color_primaries), int(frame.color_trc), int(frame.colorspace)
                self.assertEqual(found, tags)
                values = self.colours(frame, "h265", weights) / 255.0
                # Primaries and curves of the library colour-science, not ours.
                light = science.models.eotf_sRGB(values)
                usual = science.RGB_to_RGB(light, name, "ITU-R BT.709")
                shown = science.models.eotf_inverse_sRGB(np.clip(usual, 0.0, 1.0)) * 255.0
                for number, wanted in enumerate(MUTED):
                    middle = shown[20:44, number * 24 + 8 : number * 24 + 16].reshape(-1, 3)
                    self.assertLess(np.abs(middle.mean(0) - np.array(wanted)).max(), 1.5, wanted)
        with self.assertRaisesRegex(InputError, "PNG pictures is always sRGB"):
            Rendition(FORMATS["png"], colour=COLOURS["p3"])

    def colours(
        self, frame: av.VideoFrame, key: str, weights: tuple[float, float] = (0.2126, 0.0722)
    ) -> np.ndarray:
        """Levels ``(H, W, 3)``, from the planes by the formulas of Rec. ITU-R BT.709, 3.3 to 3.5.

        Of BT.601 only the shares of red and blue in brightness are others (its 2.5).
        """
        kr, kb = weights
        if key == "ffv1":
            return frame.to_ndarray(format="rgb24").astype(float)
        deep = frame.format.components[0].bits
        kind, step = (np.uint8, 1.0) if deep == 8 else (np.uint16, 2.0 ** (deep - 8))
        planes = []
        for plane in list(frame.planes)[:3]:
            values = np.frombuffer(bytes(plane), kind).reshape(plane.height, -1)[:, : plane.width]
            size = (frame.width, frame.height)
            planes.append(cv2.resize(values, size, interpolation=cv2.INTER_NEAREST) / step)
        y, cb, cr = (planes[0] - 16) / 219, (planes[1] - 128) / 224, (planes[2] - 128) / 224
        red, blue = y + 2.0 * (1.0 - kr) * cr, y + 2.0 * (1.0 - kb) * cb
        green = (y - kr * red - kb * blue) / (1.0 - kr - kb)
        return np.clip(np.stack([red, green, blue], -1), 0.0, 1.0) * 255.0

    def test_broken_rates_last_as_long_as_they_say(self) -> None:
        for rate in ("24000/1001", "60000/1001", "25"):
            for key in ("h264", "vp9", "ffv1"):
                with self.subTest(key, rate=rate):
                    path = self.write(self.output(key, f"{key}{rate[:2]}", rate))
                    with av.open(str(path)) as container:
                        stream = container.streams.video[0]
                        frames = list(container.decode(stream))
                        exact = Fraction(rate)
                        self.assertEqual(len(frames), COUNT)
                        # Containers that count milliseconds hold a rate as well as these allow.
                        self.assertAlmostEqual(float(stream.average_rate / exact), 1.0, delta=2e-3)
                    self.check_click(path, exact)

    def test_a_quality_means_about_the_same_in_each_format(self) -> None:
        worst = 0.0
        for quality, within in ((40.0, 4.0), (75.0, 3.0)):
            found = {}
            for key, depth in (("h264", 8), ("h265", 8), ("h265", 10), ("vp9", 8), ("av1", 10)):
                output = self.output(key, f"q-{key}-{depth}-{quality:g}", depth=depth,
                                     quality=quality, shown=Grainy())  # fmt: skip
                given = [(Grainy().image(x).pixels[..., :3] @ _LUMA) for x in range(COUNT)]
                shown = [x / 255.0 @ _LUMA for x in self.pictures(self.write(output), "rgb24")]
                found[key, depth] = psnr(np.array(shown), np.array(given))
            self.assertLess(max(found.values()) - min(found.values()), within, found)
            # More is more, whichever format it is of.
            self.assertGreater(min(found.values()), worst)
            worst = max(found.values())

    def test_a_size_in_megabytes_and_a_bit_rate_are_met(self) -> None:
        class Noisy(Moving):
            size = Size(320, 180)

            def image(self, frame: int) -> Image:
                dice = np.random.default_rng(frame)
                pixels = np.ones((180, 320, 4), np.float32)
                pixels[..., :3] = cv2.resize(dice.random((45, 80, 3), np.float32), (320, 180))
                return Image(pixels, Light.ENCODED, True)

        for key, wanted in (("h264", 0.2), ("vp9", 0.125), ("h265", 0.15)):
            with self.subTest(key):
                output = self.output(key, f"mb-{key}", shown=Noisy(), megabytes=wanted)
                output = Output(output.shown, range(30), output.rate, output.rendition,
                                output.path)  # fmt: skip
                size = self.write(output).stat().st_size / 1e6
                self.assertTrue(0.95 * wanted <= size <= wanted, size)
        output = self.output("h264", "rate", shown=Noisy(), bits=1_500_000)
        output = Output(output.shown, range(90), output.rate, output.rendition, output.path)
        bits = self.write(output).stat().st_size * 8 / 3
        self.assertAlmostEqual(bits / 1_500_000, 1.0, delta=0.15)

    def test_all_frames_stand_on_a_sheet_for_another_library(self) -> None:
        output = self.output("sheet")
        estimated(output, self.jobs, Job())
        with Pillow.open(self.write(output)) as sheet:
            found = np.asarray(sheet.convert("RGB"))
        for number in range(COUNT):
            wanted = self.straight(output.shown.image(number), False)[8:12, 8:40] * 255.0
            strips = np.lib.stride_tricks.sliding_window_view(found, (4, 32, 3))[:, :, 0]
            away = np.abs(strips[..., :1, :4, :] - wanted[:1, :4]).max(axis=(2, 3, 4))
            rows, columns = np.nonzero(away < 1.0)
            near = [np.abs(strips[y, x] - wanted).max() for y, x in zip(rows, columns, strict=True)]
            self.assertLess(min(near), 1.0, number)
        for count, size, told in ((601, SIZE, "600 are the most"),
                                  (400, Size(2000, 2000), "use 180×180 for a frame")):  # fmt: skip
            shown = mock.Mock(size=size)
            large = replace(output, shown=shown, frames=range(count))
            with self.assertRaisesRegex(InputError, told):
                write_output(large, self.jobs, Job())
            shown.image.assert_not_called()

    def test_sound_alone_is_the_same_samples_for_other_libraries(self) -> None:
        for key, depth in (("wav", 24), ("wav", 16), ("flac", 24), ("flac", 16)):
            with self.subTest(key, depth=depth):
                output = self.output(key, f"{key}{depth}", depth=depth)
                expected = estimated(output, self.jobs, Job())
                path = self.write(output)
                heard = output.heard
                assert heard is not None
                wanted = heard.samples(0, len(heard.span))
                if key == "wav":
                    rate, found = wavfile.read(path)
                    # Of 24 bits it gives them as the upper ones of 32.
                    found = found / (2.0**31 if depth == 24 else 2.0**15)
                else:
                    with av.open(str(path)) as container:
                        rate = container.streams.audio[0].rate
                        each = [x.to_ndarray() for x in container.decode(audio=0)]
                    found = np.concatenate(each, axis=1).reshape(-1, 2)
                    found = found / (2.0**31 if depth == 24 else 2.0**15)
                self.assertEqual((rate, found.shape), (SAMPLE_RATE, wanted.shape))
                # Half a step of rounding, and the two dice of the dither.
                steps = np.abs(found - wanted).max() * 2.0 ** (depth - 1)
                self.assertLess(steps, 1.51)
                size = path.stat().st_size / 1e6
                self.assertAlmostEqual(expected.megabytes / size, 1.0, delta=0.25)
        silent = replace(self.output("wav", "never"), heard=None)
        with self.assertRaisesRegex(InputError, "Nothing is heard in it"):
            self.write(silent)

    def test_title_and_chapters_are_in_it(self) -> None:
        output = self.output("h264", "named")
        chapters = ((Fraction(0), "One"), (Fraction(1, 5), "Two"))
        named = Output(output.shown, output.frames, output.rate, output.rendition, output.path,
                       title="Kite day", chapters=chapters)  # fmt: skip
        with av.open(str(self.write(named))) as container:
            self.assertEqual(container.metadata["title"], "Kite day")
            found = [(float(x["start"] * x["time_base"]), x["metadata"]["title"])
                     for x in container.chapters()]  # fmt: skip
        self.assertEqual(found, [(0.0, "One"), (0.2, "Two")])

    def test_what_cannot_be_is_one_sentence_and_leaves_nothing(self) -> None:
        for make, words in (
            (lambda: Rendition(FORMATS["h264"], depth=10), "has 8 bits, not 10"),
            (lambda: Rendition(FORMATS["h264"], alpha=True), "has no transparency"),
            (lambda: Rendition(quality=120.0), "within 0 and 100"),
            (lambda: Rendition(FORMATS["ffv1"], megabytes=5.0), "its size cannot be chosen"),
            (lambda: format_for(Path("a.xyz")), "no ending that is written"),
            (lambda: format_for(Path("a"), "best"), "There is no format 'best'"),
            (lambda: FORMATS["vp9"].checked(Size(101, 50)), "both sides must be even. Use 102×50"),
            (lambda: self.output("h264", megabytes=0.05, shown=None).rendition.bits_for(
                Fraction(60), True), "MB are too few"),
        ):  # fmt: skip
            with self.subTest(words), self.assertRaisesRegex(InputError, words):
                make()
        self.assertEqual(format_for(Path("A.WEBM")).key, "vp9")
        folder = self.write(self.output("png", "there"))
        with self.assertRaisesRegex(InputError, "there already"):
            self.write(self.output("png", "there"))
        self.assertEqual(len(list(folder.iterdir())), COUNT)
        before = sorted(self.folder.iterdir())

        class Stopped(Job):
            def report(self, done: int, total: int) -> None:
                if done == 5:
                    raise Cancelled

        for key in ("h264", "png", "gif", "ffv1"):
            with self.assertRaises(Cancelled):
                write_output(self.output(key, f"never-{key}"), self.jobs, Stopped())
        full = OSError(28, "No space left on device")
        with (
            mock.patch("wrinkle.media.output.output.write_whole", side_effect=full),
            self.assertRaisesRegex(MediaError, "cannot be written: No space left"),
        ):
            self.write(self.output("tiff", "never"))
        self.assertEqual(sorted(self.folder.iterdir()), before)
