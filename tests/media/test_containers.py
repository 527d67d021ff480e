"""Frame N is frame N, whatever the file is; and its colours are those that were meant."""

import random
import struct
from fractions import Fraction
from pathlib import Path
from unittest import mock

import av
import colour
import cv2
import numpy as np
from av.video.reformatter import ColorPrimaries, ColorRange, Colorspace, ColorTrc
from numpy.typing import NDArray

from tests.media.clips import Files, number_of, numbered_picture, write_numbered
from tests.media.packing import REORDERED, SIZE, write
from wrinkle.core.errors import MediaError
from wrinkle.core.picture.image import Size
from wrinkle.media.clip import Clip
from wrinkle.media.colours import bent_light, hlg_to_scene, pq_to_light


def write_packed(path: Path) -> None:
    """An AVI as some programs write it: what is shown first lies in the packet of the other one."""
    whole = path.with_name("whole.avi")
    write(whole, "mpeg4", {"bf": "2", "g": "12", "qscale": "2"}, "yuv420p", "avi")
    with av.open(str(whole)) as file:
        source = file.streams.video[0]
        head = bytes(source.codec_context.extradata or b"")
        found = [(bytes(x), x.is_keyframe) for x in file.demux(source) if x.size]
    start = b"\x00\x00\x01\xb6"
    # The kind of a picture is in the two bits after its start code (ISO 14496-2, 6.2.5).
    between = [content[content.find(start) + 4] >> 6 == 2 for content, _ in found] + [False]
    packets: list[tuple[bytes, bool]] = []
    for number, (content, is_key) in enumerate(found):
        if not between[number]:
            following = found[number + 1][0] if between[number + 1] else b""
            packets.append((content + following, is_key))
        elif between[number - 1]:
            packets.append((content, False))
        if between[number] and not between[number + 1]:
            packets.append((start + b"\x50\x00\x00", False))
    mark = b"\x00\x00\x01\xb2DivX503b1393p"
    with av.open(str(path), "w", format="avi") as file:
        stream = file.add_stream("mpeg4", rate=25)
        stream.width, stream.height = SIZE
        stream.pix_fmt = "yuv420p"
        stream.codec_context.extradata = head
        for number, (content, is_key) in enumerate(packets):
            at = content.find(start)
            marked = content[:at] + mark + content[at:] if number == 0 else content
            packet = av.Packet(marked)
            packet.stream, packet.time_base = stream, Fraction(1, 25)
            packet.pts = packet.dts = number
            packet.is_keyframe = is_key
            file.mux(packet)


class Frames(Files):
    def test_every_frame_is_the_one_that_was_asked_for(self) -> None:
        open_gop = {**REORDERED, "x264-params": "open-gop=1"}
        refresh = {"bf": "0", "crf": "12", "x264-params": "intra-refresh=1:keyint=30"}
        mpeg2 = {"bf": "2", "g": "12", "qscale": "3"}
        for name, codec, options, layout, container in (
            ("a.mov", "libx264", REORDERED, "yuv420p", None),
            ("a.webm", "libvpx-vp9", {"g": "12", "crf": "20"}, "yuv420p", None),
            ("a.ts", "libx264", REORDERED, "yuv420p", "mpegts"),
            ("open.ts", "libx264", open_gop, "yuv420p", "mpegts"),
            ("open.mp4", "libx264", open_gop, "yuv420p", None),
            ("a.mpg", "mpeg2video", mpeg2, "yuv420p", "mpeg"),
            ("refresh.mp4", "libx264", refresh, "yuv420p", None),
            ("a.avi", "libx264", REORDERED, "yuv420p", "avi"),
            ("mpeg4.avi", "mpeg4", {"g": "12", "bf": "2", "qscale": "2"}, "yuv420p", "avi"),
            ("ten.mp4", "libx264", REORDERED, "yuv422p10le", None),
            ("prores.mov", "prores_ks", {"profile": "4444"}, "yuv444p10le", None),
            ("a.gif", "gif", {}, "rgb8", "gif"),
            ("a.apng", "apng", {}, "rgb24", "apng"),
        ):
            with self.subTest(name):
                path = write(self.folder / name, codec, options, layout, container)
                shuffled = random.Random(4).sample(range(60), 60)
                for order in (range(60), range(59, -1, -1), shuffled):
                    clip = self.open(path)
                    self.assertEqual(clip.facts.frame_count, 60)
                    for number in order:
                        self.assertEqual(number_of(clip.bytes8(number, clip.size)), number)

    def test_pictures_that_their_times_do_not_tell_apart_are_counted(self) -> None:
        raw = self.folder / "a.h264"
        write(raw, "libx264", REORDERED, container="h264")
        stream = self.folder / "a.mpg"
        write(stream, "libx264", REORDERED, container="mpeg")
        half = write(self.folder / "half.ts", "libx264", REORDERED, "yuv420p", "mpegts", 30)
        again = self.folder / "again.ts"
        again.write_bytes(half.read_bytes() * 2)
        before = self.folder / "before.mkv"
        write(before, "libx264", REORDERED, first=-40, avoid_negative_ts="disabled")
        fast = self.folder / "fast.mkv"
        write(fast, "libx264", REORDERED, rate=1200)
        packed = self.folder / "packed.avi"
        write_packed(packed)
        part = write(self.folder / "part.ogv", "libvpx", {}, "yuv420p", "ogg", 30)
        joined = self.folder / "joined.ogv"
        joined.write_bytes(part.read_bytes() * 2)
        for path in (raw, stream, again, before, fast, packed, joined):
            with self.subTest(path.name):
                clip = self.open(path)
                self.assertEqual(clip.facts.frame_count, 60)
                self.assertIn("counted one by one", clip.facts.notes[0])
                if path is joined:
                    self.assertIn("2 parts of it cannot be decoded", clip.facts.notes[1])
                for number in (*range(0, 60, 7), 59, 0):
                    wanted = number % 30 if path in (again, joined) else number
                    self.assertEqual(number_of(clip.bytes8(number, clip.size)), wanted)
                lasts = Fraction(60, 1200 if path is fast else 25)
                self.assertAlmostEqual(float(clip.duration / lasts), 1.0, delta=0.25)

    def test_a_picture_that_is_refreshed_in_strips_is_whole_wherever_it_is_entered(self) -> None:
        refresh = {"bf": "0", "crf": "16", "x264-params": "intra-refresh=1:keyint=12"}
        for name, container in (("a.mp4", None), ("a.mkv", None), ("a.ts", "mpegts")):
            path = write(self.folder / name, "libx264", refresh, "yuv420p", container)
            through = self.open(path)
            wanted = [through.bytes8(number, through.size) for number in range(60)]
            for number in (59, 48, 50, 47, 25):
                with self.subTest(name, number=number):
                    entered = self.open(path).bytes8(number, through.size)
                    np.testing.assert_array_equal(entered, wanted[number])

    def test_animated_webp(self) -> None:
        animation = cv2.Animation()
        shown = [40, 80, 0, 40] * 5
        animation.frames = [
            cv2.cvtColor(numbered_picture(n, *SIZE), cv2.COLOR_RGB2BGRA) for n in range(20)
        ]
        animation.durations = shown
        content = cv2.imencodeanimation(".webp", animation)[1].tobytes()
        path = self.folder / "a.webp"
        path.write_bytes(content)
        clip = self.open(path)
        for number in (0, 19, 7, 6, 12, 3):
            self.assertEqual(number_of(clip.bytes8(number, clip.size)), number)
        # A picture that says that it is shown for no time is shown for a tenth of a second.
        starts = np.cumsum([0, *(x or 100 for x in shown)])
        for number, start in enumerate(starts[:-1]):
            self.assertEqual(clip.index_at(Fraction(int(start), 1000)), number)
        path.write_bytes(content[: len(content) // 2])
        with self.assertRaisesRegex(MediaError, "a.webp is damaged|cannot be read"):
            Clip(path)
        with mock.patch("wrinkle.media.animated_webp.MOST_PIXELS", 200_000):
            path.write_bytes(content + b" ")
            with self.assertRaisesRegex(MediaError, "has 20 pictures of 112×96, more than can"):
                Clip(path)

    def test_a_frame_that_cannot_be_found_is_said_and_not_replaced(self) -> None:
        path = write(self.folder / "a.mkv", "libx264", REORDERED)
        content = bytearray(path.read_bytes())
        # A third of the file in its middle is noise.
        start, count = len(content) // 3, len(content) // 3
        content[start : start + count] = random.Random(1).randbytes(count)
        path.write_bytes(content)
        clip, said = self.open(path), 0
        for number in range(clip.facts.frame_count):
            try:
                pixels = clip.bytes8(number, clip.size)
            except MediaError as fault:
                self.assertRegex(str(fault), rf"Frame {number} of a.mkv cannot be read")
                said += 1
                continue
            if number < 12:
                self.assertEqual(number_of(pixels), number)
        self.assertGreater(said + 60 - clip.facts.frame_count, 0)

    def test_a_file_that_was_cut_off_is_used_as_far_as_it_goes_and_that_is_said(self) -> None:
        path = write(self.folder / "a.ts", "libx264", REORDERED, container="mpegts")
        path.write_bytes(path.read_bytes()[: path.stat().st_size // 2])
        clip = self.open(path)
        self.assertTrue(10 < clip.facts.frame_count < 50)
        self.assertEqual(number_of(clip.bytes8(5, clip.size)), 5)
        front = write(self.folder / "front.mp4", "libx264", REORDERED, movflags="+faststart")
        front.write_bytes(front.read_bytes()[: front.stat().st_size * 2 // 3])
        clip = self.open(front)
        (note,) = clip.facts.notes
        self.assertRegex(note, r"\d+ of its 60 frames are missing")
        self.assertEqual(number_of(clip.bytes8(3, clip.size)), 3)

    def test_trimmed_files_show_what_is_left(self) -> None:
        path = write_numbered(self.folder / "a.mp4", 40)
        content = path.read_bytes()
        # An edit list that begins 10 frames in. ISO/IEC 14496-12, edit list box.
        at = content.index(b"elst") + 8 + 4
        base, frame = 15360, 512
        length, media = struct.unpack(">Ii", content[at : at + 8])
        changed = struct.pack(">Ii", length * 30 // 40, media + 10 * frame)
        path.write_bytes(content[:at] + changed + content[at + 8 :])
        self.assertIn(base, [s.time_base.denominator for s in av.open(str(path)).streams])
        clip = self.open(path)
        self.assertEqual(clip.facts.frame_count, 30)
        for number in (0, 1, 17, 29, 5):
            self.assertEqual(number_of(clip.bytes8(number, clip.size)), number + 10)

    def test_odd_names_texts_and_covers_are_no_hindrance(self) -> None:
        path = write_numbered(self.folder / "12:30.mp4", 6)
        self.assertEqual(number_of(self.open(path).bytes8(4, Size(*SIZE))), 4)
        odd = self.folder / "odd.mp4"
        with av.open(str(odd), "w") as file:
            file.metadata["title"] = "Kite and pier"
            cover = file.add_stream("mjpeg", rate=1)
            cover.width, cover.height, cover.pix_fmt = 32, 32, "yuvj420p"
            cover.disposition = 1024  # attached picture
            stream = file.add_stream("libx264", rate=25)
            stream.width, stream.height, stream.pix_fmt = *SIZE, "yuv420p"
            grey = av.VideoFrame.from_ndarray(np.full((32, 32, 3), 99, np.uint8), "rgb24")
            file.mux(cover.encode(grey.reformat(format="yuvj420p")))
            file.mux(cover.encode(None))
            for number in range(8):
                frame = av.VideoFrame.from_ndarray(numbered_picture(number, *SIZE), "rgb24")
                frame.pts = number
                file.mux(stream.encode(frame))
            file.mux(stream.encode(None))
        odd.write_bytes(odd.read_bytes().replace(b"Kite and pier", b"K\xef\xbftes \xff\xfe\x80 pi"))
        clip = self.open(odd)
        self.assertEqual((clip.facts.frame_count, number_of(clip.bytes8(6, clip.size))), (8, 6))


PATCHES = np.array(
    [(235, 40, 40), (40, 200, 60), (40, 60, 220), (128, 128, 128), (16, 16, 16), (250, 240, 90)],
    np.float64,
) / 255.0  # fmt: skip


def yuv_clip(path: Path, tags: dict[str, object], weights: tuple[float, float], full: bool,
             colours: NDArray[np.float64] = PATCHES, size: tuple[int, int] = (1280, 544),
             layout: str = "yuv444p") -> Path:  # fmt: skip
    """Upright bars of colours, lossless, by the formulas of H.273, section 8.3."""
    red, blue = weights
    luma = colours @ (red, 1.0 - red - blue, blue)
    blueness = (colours[:, 2] - luma) / (2.0 * (1.0 - blue))
    redness = (colours[:, 0] - luma) / (2.0 * (1.0 - red))
    depth = 10 if "10" in layout else 8
    step = 2 ** (depth - 8)
    most = 2**depth - 1
    planes = []
    for values, chroma in ((luma, False), (blueness, True), (redness, True)):
        if full:
            code = values * most + (128 * step if chroma else 0)
        else:
            code = (224 * values + 128 if chroma else 219 * values + 16) * step
        planes.append(np.clip(np.rint(code), 0, most))
    width, height = size
    bars = np.minimum(np.arange(width) * len(colours) // width, len(colours) - 1)
    with av.open(str(path), "w") as file:
        stream = file.add_stream("ffv1", rate=25)
        stream.width, stream.height, stream.pix_fmt = width, height, layout
        for key, value in tags.items():
            setattr(stream.codec_context, key, value)
        kind = np.uint8 if depth == 8 else np.uint16
        rows = [np.tile(plane[bars], (height, 1)).astype(kind) for plane in planes]
        frame = av.VideoFrame(width, height, layout)
        for plane, row in zip(frame.planes, rows, strict=True):
            line = np.zeros((height, plane.line_size // row.itemsize), kind)
            line[:, :width] = row
            plane.update(line.tobytes())
        for number in range(2):
            frame.pts = number
            for key, value in tags.items():
                setattr(frame, key, value)
            file.mux(stream.encode(frame))
        file.mux(stream.encode(None))
    return path


def bars_of(clip: Clip, count: int) -> NDArray[np.float64]:
    """The colour in the middle of each bar, 0…1."""
    pixels = clip.bytes8(0, clip.size)
    width = pixels.shape[1]
    spots = [int((n + 0.5) * width / count) for n in range(count)]
    return pixels[pixels.shape[0] // 2, spots, :3] / 255.0


BT601, BT709, BT2020 = (0.299, 0.114), (0.2126, 0.0722), (0.2627, 0.0593)


class Colours(Files):
    def test_patches_by_every_tag_and_by_convention_without_one(self) -> None:
        limited, full = ColorRange.MPEG, ColorRange.JPEG
        for name, tags, weights, size in (
            ("601", {"colorspace": Colorspace.SMPTE170M, "color_range": limited}, BT601, None),
            ("709", {"colorspace": Colorspace.ITU709, "color_range": limited}, BT709, None),
            ("709 full", {"colorspace": Colorspace.ITU709, "color_range": full}, BT709, None),
            ("wide and low", {}, BT709, (1280, 544)),
            ("tall", {}, BT709, (544, 1280)),
            ("small", {}, BT601, (720, 576)),
        ):
            with self.subTest(name):
                path = yuv_clip(
                    self.folder / f"{name}.mkv", tags, weights, "full" in name,
                    size=size or (320, 240),
                )  # fmt: skip
                found = bars_of(self.open(path), len(PATCHES))
                self.assertLess(float(np.abs(found - PATCHES).max() * 255), 2.01)

    def test_high_dynamic_range_is_brought_down_by_the_published_curves_and_said(self) -> None:
        light = np.array([0.5, 5.0, 50.0, 100.0, 203.0, 600.0, 1000.0])
        # The curves themselves against colour-science.
        np.testing.assert_allclose(
            pq_to_light(colour.models.eotf_inverse_ST2084(light)), light, rtol=1e-4
        )
        scene = np.linspace(0.0, 1.0, 50)
        np.testing.assert_allclose(
            hlg_to_scene(colour.models.oetf_ARIBSTDB67(scene * 12.0) / 1.0), scene, atol=2e-3
        )
        bent = bent_light(light)
        np.testing.assert_allclose(bent[:3], light[:3], rtol=1e-6)
        self.assertTrue((np.diff(bent) > 0.0).all())
        self.assertAlmostEqual(float(bent[-1]), 203.0, delta=0.5)
        grey = np.repeat(light[:, None], 3, axis=1)
        wanted = colour.models.eotf_inverse_sRGB(np.minimum(bent / 203.0, 1.0))
        for name, trc, codes in (
            ("PQ", ColorTrc.SMPTE2084, colour.models.eotf_inverse_ST2084(grey)),
            ("HLG", ColorTrc.ARIB_STD_B67, _hlg_codes(grey)),
        ):
            with self.subTest(name):
                tags = {
                    "colorspace": Colorspace.BT2020, "color_primaries": ColorPrimaries.BT2020,
                    "color_trc": trc, "color_range": ColorRange.MPEG,
                }  # fmt: skip
                clip = self.open(yuv_clip(
                    self.folder / f"{name}.mkv", tags, BT2020, False, codes, (700, 64),
                    "yuv444p10le",
                ))  # fmt: skip
                self.assertIn("high dynamic range", clip.facts.notes[0])
                found = bars_of(clip, len(light))
                self.assertLess(float(np.abs(found - wanted[:, None]).max() * 255), 2.01)

    def test_wide_colours_in_the_usual_range_are_brought_to_narrow_ones(self) -> None:
        soft = 0.25 + 0.5 * PATCHES
        spaces = colour.RGB_COLOURSPACES
        narrow = colour.RGB_to_RGB(soft**2.4, spaces["ITU-R BT.2020"], spaces["ITU-R BT.709"], None)
        wanted = colour.models.eotf_inverse_sRGB(np.clip(narrow, 0.0, 1.0))
        tags = {
            "colorspace": Colorspace.BT2020, "color_primaries": ColorPrimaries.BT2020,
            "color_trc": ColorTrc.BT2020_10, "color_range": ColorRange.MPEG,
        }  # fmt: skip
        path = yuv_clip(
            self.folder / "wide.mkv", tags, BT2020, False, soft, (600, 64), "yuv444p10le"
        )
        found = bars_of(self.open(path), len(soft))
        self.assertLess(float(np.abs(found - wanted).max() * 255), 2.01)

    def test_turned_and_mirrored_pictures_stand_upright(self) -> None:
        whole = write_numbered(self.folder / "a.mp4", 4)
        content = whole.read_bytes()
        at = content.index(b"tkhd") + 4 + 4 + 4 + 4 + 4 + 4 + 4 + 8 + 8
        plain = self.open(whole).bytes8(2, Size(*SIZE))
        one = 0x00010000
        for (a, b, c, d), upright in (
            ((-1, 0, 0, 1), plain[:, ::-1]),
            ((1, 0, 0, -1), plain[::-1]),
            ((-1, 0, 0, -1), plain[::-1, ::-1]),
            ((0, 1, -1, 0), np.rot90(plain, -1)),
            ((0, -1, 1, 0), np.rot90(plain)),
            ((0, 1, 1, 0), plain.transpose(1, 0, 2)),
            ((0, -1, -1, 0), np.rot90(plain, 2).transpose(1, 0, 2)),
        ):
            with self.subTest((a, b, c, d)):
                matrix = struct.pack(">9i", a * one, b * one, 0, c * one, d * one, 0, 0, 0, 1 << 30)
                path = self.folder / f"m{a}{b}{c}{d}.mp4"
                path.write_bytes(content[:at] + matrix + content[at + 36 :])
                clip = self.open(path)
                self.assertEqual((clip.size.height, clip.size.width), upright.shape[:2])
                np.testing.assert_array_equal(clip.bytes8(2, clip.size), upright)

    def test_fields_are_made_into_whole_pictures(self) -> None:
        path = self.folder / "fields.mkv"
        with av.open(str(path), "w") as file:
            stream = file.add_stream("mpeg2video", rate=25)
            stream.width, stream.height, stream.pix_fmt = *SIZE, "yuv420p"
            stream.options = {"flags": "+ildct+ilme", "qscale": "2", "top": "1"}
            for number in range(4):
                # A bright bar that moves on between the two fields.
                pixels = np.full((SIZE[1], SIZE[0], 3), 30, np.uint8)
                pixels[0::2, 20:50] = 220
                pixels[1::2, 50:80] = 220
                frame = av.VideoFrame.from_ndarray(pixels, "rgb24").reformat(format="yuv420p")
                frame.pts = number
                file.mux(stream.encode(frame))
            file.mux(stream.encode(None))
        clip = self.open(path)
        self.assertEqual(clip.facts.notes, ("its two fields are made into whole pictures",))
        lines = clip.bytes8(1, clip.size)[10:-10, 35, 1].astype(int)
        self.assertLess(int(np.abs(np.diff(lines)).max()), 60)

    def test_alpha_stays(self) -> None:
        for name, codec, layout in (
            ("a.webm", "libvpx-vp9", "yuva420p"), ("a.mov", "prores_ks", "yuva444p10le"),
        ):  # fmt: skip
            with self.subTest(name):
                pixels = np.full((SIZE[1], SIZE[0], 4), 200, np.uint8)
                pixels[:, : SIZE[0] // 2, 3] = 0
                pixels[:, SIZE[0] // 2 :, 3] = 255
                path = self.folder / name
                with av.open(str(path), "w") as file:
                    stream = file.add_stream(codec, rate=Fraction(25))
                    stream.width, stream.height, stream.pix_fmt = *SIZE, layout
                    if codec == "prores_ks":
                        stream.options = {"profile": "4444"}
                    for number in range(3):
                        frame = av.VideoFrame.from_ndarray(pixels, "rgba")
                        frame.pts = number
                        file.mux(stream.encode(frame))
                    file.mux(stream.encode(None))
                found = self.open(path).bytes8(1, Size(*SIZE))
                self.assertEqual(found.shape[2], 4)
                self.assertLess(int(found[40, 10, 3]), 8)
                self.assertGreater(int(found[40, -10, 3]), 247)


def _hlg_codes(light: NDArray[np.float64]) -> NDArray[np.float64]:
    """HLG of greys on a display of 1000 cd/m²: the inverse OOTF, then the OETF. BT.2100-2."""
    scene = np.power(light / 1000.0, 1.0 / 1.2)
    return np.asarray(colour.models.oetf_ARIBSTDB67(scene * 12.0))
