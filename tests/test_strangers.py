"""Files from a stranger: each works, or is refused in one sentence, soon and in little memory.

The bombs and the broken files of this module are made here; ``./run fuzz`` makes more at random.
"""

import bz2
import io
import json
import os
import resource
import struct
import subprocess
import sys
import tempfile
import time
import unittest
import unittest.mock
import zipfile
import zlib
from collections.abc import Callable
from pathlib import Path

import cv2
import numpy as np
from msgspec.structs import replace

from wrinkle.core.design.document import coding
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.looks import decode_looks
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.lut import parse_cube
from wrinkle.files import archive
from wrinkle.library import own_feels
from wrinkle.library.autosaves import left_work
from wrinkle.media.cdl import read_decisions
from wrinkle.media.still import Still
from wrinkle.media.svg import read_svg
from wrinkle.timeline.older_pieces import take_over_older

LONGEST, MOST = 5.0, 1 << 30
SVG = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" {}</svg>'


def memory() -> int:
    """The most that this process ever took, in bytes."""
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss << 10


def zipped(text: bytes, how: int = zipfile.ZIP_DEFLATED, **assets: bytes) -> bytes:
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", how) as file:
        file.writestr("wrinkle.json", text)
        for name, content in assets.items():
            file.writestr(f"assets/{name}", content)
    return buffer.getvalue()


def document(**fields: object) -> dict:
    plain = json.loads(archive.encode(plain_cut()))
    return {**plain, **fields}


def png(width: int, height: int) -> bytes:
    """An empty picture of any size, by rows that pack to nothing."""

    def chunk(kind: bytes, content: bytes) -> bytes:
        body = kind + content
        return struct.pack(">I", len(content)) + body + struct.pack(">I", zlib.crc32(body))

    packer = zlib.compressobj(9)
    row = bytes(1 + 3 * width)
    rows = b"".join(packer.compress(row) for _ in range(min(height, 7_000))) + packer.flush()
    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    parts = (b"IHDR", head), (b"IDAT", rows), (b"IEND", b"")
    return b"\x89PNG\r\n\x1a\n" + b"".join(chunk(*part) for part in parts)


class Strangers(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def refused(self, what: Callable[[], object], told: str) -> None:
        """One sentence that names what is wrong, within the time and the memory."""
        start, before = time.process_time(), memory()
        with self.assertRaisesRegex(InputError, told) as caught:
            what()
        self.assertLess(time.process_time() - start, LONGEST)
        self.assertLess(memory() - before, MOST)
        self.assertNotIn("\n", str(caught.exception))

    def file(self, name: str, content: bytes) -> Path:
        path = self.folder / name
        path.write_bytes(content)
        return path

    def wrinkle(self, content: bytes, told: str) -> None:
        path = self.file("strange.wrinkle", content)
        self.refused(lambda: archive.read(path), f"strange.wrinkle cannot be opened: .*{told}")

    def layers(self, count: int, **links: Callable[[int], object]) -> bytes:
        group = {"kind": "group"} if "group" in links else {"kind": "slot", "slot": "incoming"}
        found = [
            {"id": f"l{n}", "name": f"L{n}", "source": group,
             **{key: link(n) for key, link in links.items() if n and link(n) is not None}}
            for n in range(count)
        ]  # fmt: skip
        return json.dumps(document(layers=found)).encode()

    def test_wrinkles_that_ask_for_too_much(self) -> None:
        path = {"rest": [0.0] * 6 * 200_000}
        shape = {"id": "s", "name": "S", "source": {"kind": "shape", "path": path}}
        before = lambda n: f"l{n - 1}"  # noqa: E731
        for text, told in (
            (self.layers(20_000), "20000 layers; 500 are the most"),
            (json.dumps(document(slots=[{"key": f"k{n}", "label": "x"} for n in range(20_000)])),
             "slots; 64 are the most"),
            (self.layers(400, parent=before), "chain of parents is longer than 40"),
            (self.layers(400, group=before), "groups within groups is longer than 40"),
            (self.layers(400, matte=lambda n: {"layer": f"l{n - 1}", "by": "coverage"}),
             "mattes and effects is longer than 40"),
            (self.layers(30, effects=lambda n: [
                {"id": f"e{k}", "kind": "displace", "layer": f"l{n - 1}"} for k in range(4)]),
             "look at more than 2000 pictures"),
            (json.dumps(document(layers=[shape])), "1200000 numbers; 30000 are the most"),
            (json.dumps(document(name="x" * 60_000)), "60000 characters"),
            (b"[" * 100_000, "damaged|Expected an object"),
            (b'{"format": 1, "x": ' + b"[" * 100_000, "damaged"),
            (b'{"format": 1, "name": "\xff\xfe"}', "damaged"),
            (json.dumps(document()).replace("180.0", "1e999"), "damaged|number|range"),
            (json.dumps(document(layers=[{
                "id": "s", "name": "S", "source": {"kind": "slot", "slot": "incoming"},
                "placement": {"rotation": {"rest": 1e308}},
            }])), "within"),
        ):  # fmt: skip
            with self.subTest(told):
                self.wrinkle(zipped(text if isinstance(text, bytes) else text.encode()), told)

    def test_zip_files_that_lie(self) -> None:
        text = archive.encode(plain_cut())
        lying = bytearray(zipped(bytes(80 << 20)))
        at = lying.rfind(b"PK\x01\x02")
        lying[at + 24 : at + 28] = struct.pack("<I", 100)  # what it says comes out
        listed = zipped(text)
        end = listed.rfind(b"PK\x05\x06")
        many = listed[: end + 8] + b"\xff\xff\xff\xff" + listed[end + 12 :]
        for content, told in (
            (bytes(lying), "damaged|too large"),
            (zipped(bytes(80 << 20)), "too large"),
            (many, "more files than it should"),
            (zipped(text, zipfile.ZIP_BZIP2), "packed in a way"),
            (zipped(text, zipfile.ZIP_LZMA), "packed in a way"),
            (zipped(text)[:-30], "damaged or no wrinkle"),
            (zipped(text)[:40] + b"\x00" * 40 + zipped(text)[80:], "damaged"),
            (b"", "damaged or no wrinkle"),
            (bz2.compress(text), "damaged or no wrinkle"),
        ):
            with self.subTest(told):
                self.wrinkle(content, told)

    def test_blanks_do_not_count_and_what_is_too_much_is_not_written(self) -> None:
        wide = self.folder / "wide.wrinkle"
        text = archive.encode(plain_cut())
        bare = len(b"".join(text.split()))
        limit = unittest.mock.patch.object(archive, "_LARGEST_TEXT", bare)
        with limit:
            wide.write_bytes(zipped(text + b" " * (1 << 20)))
            found = archive.read(wide)
            archive.write(wide, found)
            self.assertEqual(archive.read(wide), found)
            more = Bundle(replace(found.wrinkle, name="A longer name than before"), {})
            before = wide.read_bytes()
            with self.assertRaisesRegex(InputError, "wide.wrinkle cannot be saved: .* too large"):
                archive.write(wide, more)
            self.assertEqual(wide.read_bytes(), before)
            wide.write_bytes(zipped(archive.encode(more.wrinkle)))
            with self.assertRaisesRegex(InputError, "too large"):
                archive.read(wide)
        with unittest.mock.patch.object(coding, "_LONG", 10):
            self.assertLess(len(archive.encode(plain_cut()).split(b"\n")), 3)
        many = json.dumps({**document(format=1), "x": [[]] * 3_000_000}).encode()
        self.wrinkle(zipped(many), "far too many values")

    def test_what_was_kept_and_is_damaged_hinders_no_start(self) -> None:
        deep = b'{"a":' * 100_000 + b"1" + b"}" * 100_000
        for place in ("pieces", "autosave"):
            folder = self.folder / place / "0123"
            folder.mkdir(parents=True)
            (folder / "index.json").write_bytes(deep)
        take_over_older(self.folder / "pieces", self.folder / "autosave")
        self.assertEqual(left_work(self.folder / "autosave"), [])

    def test_all_assets_together_have_a_limit(self) -> None:
        layers = [
            {"id": name, "name": name, "source": {"kind": "picture", "asset": f"{name}.png"}}
            for name in "abc"
        ]
        text = json.dumps(document(layers=layers)).encode()
        content = zipped(text, **{f"{name}.png": bytes(3 << 20) for name in "abc"})
        with unittest.mock.patch.object(archive, "_LARGEST_ASSETS", 8 << 20):
            self.wrinkle(content, "assets/c.png in it is too large; 2 MiB are left for it")

    def test_what_is_no_ordinary_file_is_not_opened(self) -> None:
        pipe = self.folder / "pipe.wrinkle"
        os.mkfifo(pipe)
        folder = self.folder / "folder"
        (folder / "assets").mkdir(parents=True)
        (folder / "wrinkle.json").symlink_to("/etc/hostname")
        readers: tuple[Callable[[Path], object], ...] = (
            archive.read, Still.read, read_decisions, lambda p: read_svg(p, Size(9, 16)),
        )  # fmt: skip
        for path in (pipe, Path("/dev/zero"), folder):
            for number, read in enumerate(readers):
                with self.subTest(path=path.name, number=number):
                    self.refused(lambda read=read, path=path: read(path), path.name)

    def test_pictures_and_tables(self) -> None:
        for content, told in (
            (png(20_000, 20_000), "20000×20000 pixels; 64 million are the most"),
            (b"\x89PNG\r\n\x1a\n" + bytes(50), "cannot be read as a picture"),
        ):
            self.refused(lambda content=content: Still("a.png", content), told)
        large = Still("large.png", png(7_000, 7_000))
        self.assertEqual(large.size, Size(2333, 2333))
        for content, told in (
            (b"LUT_3D_SIZE 256\n" + b"0 0 0\n" * 300_000, "more colours|no size"),
            (b"\n" * (30 << 20), "larger than any colour table"),
            (b"LUT_1D_SIZE 2\nDOMAIN_MAX nan 1 1\n0 0 0\n1 1 1\n", "domain"),
            (b"LUT_1D_SIZE 2\nDOMAIN_MAX inf 1 1\n0 0 0\n1 1 1\n", "domain"),
            (b"LUT_1D_SIZE 2\n1e300 0 0\n1 1 1\n", "no colours|finite"),
        ):
            self.refused(lambda content=content: parse_cube("a.cube", content), told)

    def test_drawings_and_decisions(self) -> None:
        doubled = "".join(
            f'<g id="g{n}"><use xlink:href="#g{n - 1}"/><use xlink:href="#g{n - 1}"/></g>'
            for n in range(1, 40)
        )
        nested = "<ColorCorrection>" * 3_000 + "</ColorCorrection>" * 3_000
        for text, told in (
            (SVG.format(f'><g id="g0"><path d="M0 0L9 9"/></g>{doubled}'), "each other too often"),
            (SVG.format('><path d="M0 0' + "L1 1" * 200_000 + '"/>'), "than 400000 characters"),
            (SVG.format('><path d="M0 0Z' + " " * 300_000 + 'x"/>'), "cannot be read"),
            (SVG.format(f'><path transform="{"scale(1)" * 9_000}" d="M0 0L9 9"/>'), "transform"),
            (SVG.format("><style>" + "a{b:c}" * 20_000 + "</style>"), "style sheets"),
            (SVG.format("><style>" + "x" * 40_000 + "</style>"), "a rule of its style sheets"),
            (SVG.format("><style>" + "/*{}" * 9_000 + "</style>"), "more than 200 comments"),
            (SVG.format(">" + "<g>" * 5_000 + "</g>" * 5_000), "elements|nested"),
            (SVG.format("><path d='M0 0A1e308 1e308 0 0 0 9 9'/>"), "finite|cannot be read"),
            ('<?xml version="1.0" encoding="bogus"?><svg/>', "cannot be read"),
        ):  # fmt: skip
            with self.subTest(told):
                path = self.file("a.svg", text.encode())
                self.refused(lambda path=path: read_svg(path, Size(1080, 1920)), told)
        path = self.file("a.ccc", f"<C>{nested}</C>".encode())
        self.refused(lambda: read_decisions(path), "decisions within decisions")
        path = self.file("b.ccc", b'<?xml version="1.0" encoding="bogus"?><C/>')
        self.refused(lambda: read_decisions(path), "not XML")

    def test_damaged_files_of_ones_own(self) -> None:
        with unittest.mock.patch("platformdirs.user_data_path", return_value=self.folder):
            for content in (b"\xff\xfe", b"[" * 100_000, b"{"):
                self.file("feels.json", content)
                self.refused(
                    own_feels, "feels.json cannot be read: it is damaged. It was set aside as"
                )
                self.refused(
                    lambda content=content: decode_looks("looks.json", content), "looks.json"
                )

    def test_damaged_pictures_are_told_in_one_line(self) -> None:
        pixels = np.random.default_rng(1).integers(0, 255, (40, 40, 3), np.uint8)
        for ending in (".jpg", ".png", ".tiff"):
            content = bytearray(cv2.imencode(ending, pixels)[1].tobytes())
            content[len(content) // 2 : len(content) // 2 + 300] = bytes(300)
            path = self.file(f"a{ending}", bytes(content))
            words = [sys.executable, "-m", "wrinkle", "inspect", str(path)]
            done = subprocess.run(words, capture_output=True, text=True, check=False)
            self.assertLessEqual(done.stderr.count("\n"), 1, done.stderr)

    def test_names_do_no_harm_on_the_terminal(self) -> None:
        name = "a\n\x1b[31mred" + "x" * 200 + ".wrinkle"
        words = [sys.executable, "-m", "wrinkle", "inspect", str(self.folder / name)]
        done = subprocess.run(words, capture_output=True, text=True, check=False)
        self.assertEqual(done.returncode, 1)
        self.assertEqual(done.stderr.count("\n"), 1)
        self.assertNotIn("\x1b", done.stderr)
