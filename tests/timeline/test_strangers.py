"""Timelines from a stranger: each opens, or is refused in one sentence, and nothing falls."""

import io
import json
import os
import subprocess
import sys
import zipfile
from pathlib import Path
from unittest import mock

from tests.media.clips import Files
from wrinkle.core.errors import InputError
from wrinkle.core.piece.document import Piece
from wrinkle.timeline.files import read_piece, write_piece
from wrinkle.timeline.piece_file import PieceFile
from wrinkle.timeline.trial import TrialProcess

STACK = {"OTIO_SCHEMA": "Stack.1", "name": "tracks", "children": []}


def timeline(**fields: object) -> dict:
    return {"OTIO_SCHEMA": "Timeline.1", "name": "t", "metadata": {}, "tracks": STACK, **fields}


def reference(goal: str) -> dict:
    return {"OTIO_SCHEMA": "SerializableObjectRef.1", "id": goal}


def bundle(text: bytes = b"", **entries: bytes) -> bytes:
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("content.otio", text or json.dumps(timeline()))
        for name, content in entries.items():
            archive.writestr(name, content)
    return buffer.getvalue()


class Strangers(Files):
    def setUp(self) -> None:
        super().setUp()
        state = mock.patch("platformdirs.user_state_path", return_value=self.folder / "state")
        state.start()
        self.addCleanup(state.stop)

    def refused(self, name: str, content: bytes, told: str) -> None:
        path = self.folder / name
        path.write_bytes(content)
        with self.assertRaisesRegex(InputError, told) as caught:
            read_piece(path)
        self.assertTrue(str(caught.exception).startswith(f"{name} "))
        self.assertEqual([x.name for x in self.folder.glob("state/*/*")], [], "nothing is left")

    def test_what_holds_itself_is_refused_before_the_library_follows_it(self) -> None:
        own = {**STACK, "OTIO_REF_ID": "s", "children": [reference("s")]}
        first = {**STACK, "OTIO_REF_ID": "a", "children": [reference("b")]}
        second = {**STACK, "OTIO_REF_ID": "b", "children": [reference("a")]}
        both = {**STACK, "children": [first, second]}
        deep: object = "x"
        for _ in range(500):
            deep = [deep]
        for content, told in (
            (timeline(tracks=own), "a part of it holds itself"),
            (timeline(OTIO_REF_ID="t", metadata={"up": reference("t")}), "holds itself"),
            (timeline(tracks=both), "holds itself"),
            (timeline(metadata={"a": [first, {**first}]}), "two of its parts have one name"),
            (timeline(metadata={"a": [reference("x")] * 20_000}), "refers to its own parts more"),
            (timeline(metadata={"deep": deep, "up": reference("x")}), "nested too deeply"),
        ):
            text = json.dumps(content)
            self.refused("circle.otio", text.encode(), told)
            # The same with letters that only JSON can read.
            escaped = text.replace("SerializableObjectRef", "\\u0053erializableObjectRef")
            self.refused("escaped.otio", escaped.encode(), told)
        twice = json.dumps(timeline(metadata=reference("x"))).replace('"id"', '"id": "t", "id"')
        self.refused("twice.otio", twice.encode(), "names a value twice")
        # The library falls over a reference to what is no object of its own.
        moment = {"OTIO_SCHEMA": "RationalTime.1", "OTIO_REF_ID": "m", "rate": 24.0, "value": 3.0}
        odd = timeline(metadata={"when": moment, "up": reference("m")})
        path = self.folder / "odd.otio"
        path.write_text(json.dumps(odd))
        self.assertEqual(read_piece(path)[0].clips, ())
        # Nor does it expect an object within a time.
        within = {**moment, "metadata": {"up": {"OTIO_SCHEMA": "Whatever.1"}}}
        path.write_text(json.dumps(timeline(metadata={"when": within})))
        self.assertEqual(read_piece(path)[0].clips, ())
        self.refused(
            "none.otio", json.dumps(timeline(metadata=reference("x"))).encode(), "is not there"
        )
        doubled: object = "x"
        named: dict = {}
        for number in range(40):
            named[str(number)] = {**STACK, "OTIO_REF_ID": str(number), "metadata": {
                side: reference(str(number - 1)) if number else doubled for side in "ab"
            }}  # fmt: skip
        much = json.dumps(timeline(metadata=named)).encode()
        self.refused("much.otio", much, "far too often")
        # What is no circle opens.
        named = {**STACK, "OTIO_REF_ID": "b"}
        good = timeline(metadata={"one": named, "two": reference("b")})
        (self.folder / "good.otio").write_text(json.dumps(good))
        self.assertEqual(read_piece(self.folder / "good.otio")[0].clips, ())

    def test_what_ends_the_library_ends_another_process(self) -> None:
        own = {**STACK, "OTIO_REF_ID": "s", "children": [reference("s")]}
        circle = json.dumps(timeline(tracks=own)).encode()
        within = {"OTIO_SCHEMA": "RationalTime.1", "rate": 24.0, "value": 3.0}
        within["x"] = {"up": {"OTIO_SCHEMA": "Whatever.1"}}
        fallen = json.dumps(timeline(metadata={"when": within})).encode()
        good = json.dumps(timeline()).encode()
        trial = TrialProcess()
        self.addCleanup(trial.end)
        self.assertTrue(trial.reads(good))
        self.assertFalse(trial.reads(b"{}}"))
        self.assertFalse(trial.reads(fallen))
        self.assertTrue(trial.reads(good), "another one is begun")
        # A circle is read, and harms whoever follows it.
        words = "import sys; from opentimelineio._otio import SerializableObject as S; "
        words += "r = S.from_json_string(sys.stdin.read()); r.to_json_string(); r.find_clips()"
        done = subprocess.run(
            [sys.executable, "-c", words], input=circle, capture_output=True, check=False
        )
        self.assertNotEqual(done.returncode, 0)
        self.assertFalse(TrialProcess(longest=0.0).reads(good), "it takes too long")

    def test_far_too_much_is_refused_by_counting(self) -> None:
        clip = json.dumps({"OTIO_SCHEMA": "Clip.2", "name": "c"})
        many = json.dumps(timeline()).replace(
            '"children": []', f'"children": [{clip}' + f", {clip}" * 10_001 + "]"
        )
        self.refused("clips.otio", many.encode(), "more than 10000 clips")
        values = json.dumps(timeline(metadata={"a": [0] * 1_500_001}))
        self.refused("values.otio", values.encode(), "far too many values")
        with mock.patch("wrinkle.timeline.files.LARGEST", 1000):
            self.refused("large.otio", bytes(2000), "larger than")

    def test_bundles_that_lie(self) -> None:
        locked = bytearray(bundle(**{"media/a.mp4": b"film"}))
        for mark, offset in ((b"PK\x03\x04", 6), (b"PK\x01\x02", 8)):
            at = locked.rfind(mark)
            locked[at + offset] |= 1
        odd = bytearray(bundle(**{"media/a.mp4": b"film"}))
        for mark, offset in ((b"PK\x03\x04", 8), (b"PK\x01\x02", 10)):
            at = odd.rfind(mark)
            odd[at + offset] = 97
        torn = bytearray(bundle(**{"media/a.mp4": os.urandom(5000)}))
        at = torn.rfind(b"media/a.mp4", 0, 4000) + 200
        torn[at : at + 50] = bytes(50)
        for name, content, told in (
            ("locked", bytes(locked), "locked with a password"),
            ("odd", bytes(odd), "packed in a way"),
            ("torn", bytes(torn), "damaged"),
            ("short", bundle()[:-30], "damaged"),
            ("bomb", bundle(**{"media/a.mp4": bytes(80 << 20)}), "too large"),
            ("text", bundle(b" " * (65 << 20)), "too large"),
            ("out", bundle(**{"../../out.mp4": b"x"}), "leads out of it"),
            ("bare", bundle()[:0], "damaged"),
        ):
            self.refused(f"{name}.otioz", content, told)
        pipe = self.folder / "pipe.otioz"
        os.mkfifo(pipe)
        for path in (pipe, Path("/dev/zero")):
            with self.assertRaisesRegex(InputError, "no ordinary file|no timeline"):
                link = self.folder / f"{path.name}.link.otioz"
                link.symlink_to(path)
                read_piece(link)
        self.assertFalse((self.folder.parent / "out.mp4").exists())

    def test_odd_values_are_told(self) -> None:
        for metadata, told in (
            ({"wrinkle": {"wrinkles": "text"}}, "damaged"),
            ({"wrinkle": {"rate": "nan"}}, "frame rate"),
        ):
            content = json.dumps(timeline(metadata=metadata)).encode()
            self.refused("odd.otio", content, told)

    def test_an_ended_save_leaves_nothing_behind(self) -> None:
        goal = self.folder / "all.otioz"
        with (
            mock.patch("wrinkle.timeline.files.put_media", side_effect=KeyboardInterrupt),
            self.assertRaises(KeyboardInterrupt),
        ):
            write_piece(goal, Piece(), PieceFile())
        self.assertEqual(list(self.folder.iterdir()), [])
