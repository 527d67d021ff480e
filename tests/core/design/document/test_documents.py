"""The document's file, its edits and its undo list."""

import io
import json
import tempfile
import unittest
import zipfile
from fractions import Fraction
from pathlib import Path

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.design.wrinkles import FRAME, edited, turning
from wrinkle.core.design.document import coding
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.history import History
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import PictureSource
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.design.edits import grouping, lane_edits, layer_edits, wrinkle_edits
from wrinkle.core.design.edits.lane_edits import shown_keys
from wrinkle.core.errors import DocumentError, InputError
from wrinkle.core.motion.track import IncomingHalf, Side
from wrinkle.files import archive
from wrinkle.library import shipped

TURN = SettingRef("turn", "rotation")
DOCS = Path(__file__).parents[4] / "docs"


class Files(unittest.TestCase):
    def setUp(self) -> None:
        self._folder = tempfile.TemporaryDirectory()
        self.addCleanup(self._folder.cleanup)
        self.folder = Path(self._folder.name)

    @settings(max_examples=40, deadline=None)
    @given(st.data())
    def test_save_open_save_gives_the_same_bytes(self, data: st.DataObject) -> None:
        wrinkle = turning()
        for _ in range(6):
            wrinkle = data.draw(edited(wrinkle))
        wrinkle = layer_edits.add_layer(wrinkle, "Paper", PictureSource("paper.png"))
        first, second = self.folder / "first.wrinkle", self.folder / "second.wrinkle"
        archive.write(first, Bundle(wrinkle, {"paper.png": b"bytes", "unused.png": b""}))
        found = archive.read(first)
        self.assertEqual(found.wrinkle, wrinkle)
        self.assertEqual(dict(found.assets), {"paper.png": b"bytes"})
        archive.write(second, found)
        self.assertEqual(first.read_bytes(), second.read_bytes())

    def test_a_fault_is_told_with_its_place(self) -> None:
        text = coding.encode(turning())
        for old, new, told in (
            (
                b'"rest": 0.0',
                b'"rest": null',
                "rotation.rest: expected yes or no or a num",
            ),
            (b'"rest": 0.0', b'"rest": true', "layers[2].placement"),
            (b'"rest": 0.0', b'"rest": NaN', "damaged"),
            (b'"-2/5"', b'"soon"', "track.keys[0].time: expected an exact number"),
            (b'"-2/5"', b'"1/0"', "track.keys[0].time: expected an exact number"),
            (b"90.0", b"1e999", "out of range"),
            (
                b"90.0",
                b"1e99",
                "layers[2].placement.rotation.track.keys[1]: a pin's value must be within",
            ),
            (b'"format": 6', b'"format": 7', "newer version (format 7"),
            (b'"format": 6', b'"format": "1"', "format: expected a whole number, found text"),
            (b"1080", b"0", "0×1920 is not possible"),
            (b'"carry on"', b'"sideways"', "track.incoming: invalid enum value 'sideways'"),
            (b'"bezier"', b'"wobble"', "ease.kind: invalid value 'wobble'"),
            (b'"about"', b'"abuot"', "unknown field abuot"),
            (b'"slot": "incoming"', b'"slot": "third"', "slot 'third', which does not exist"),
            (b'"id": "turn"', b'"id": "incoming"', "'incoming' occurs twice"),
            (b'"30"', b'"-30"', "frame_rate: a frame rate of -30 is not possible"),
            (b'"lead": "2/5"', b'"lead": "0"', "The lead must be above 0"),
        ):
            with self.subTest(told):
                self.assertIn(old, text)
                with self.assertRaises(DocumentError) as caught:
                    coding.decode(text.replace(old, new))
                self.assertIn(told, str(caught.exception))

    def test_a_bad_file_is_one_sentence_that_names_it(self) -> None:
        good = io.BytesIO()
        with zipfile.ZipFile(good, "w") as file:
            picture = layer_edits.add_layer(turning(), "Paper", PictureSource("paper.png"))
            file.writestr("wrinkle.json", coding.encode(picture))
        other = io.BytesIO()
        with zipfile.ZipFile(other, "w") as file:
            file.writestr("something.txt", "else")
        for content, told in (
            (b"", "damaged or no wrinkle"),
            (b"plain text", "damaged or no wrinkle"),
            (good.getvalue()[:-30], "damaged or no wrinkle"),
            (other.getvalue(), "wrinkle.json is missing"),
            (good.getvalue(), "assets/paper.png is missing"),
        ):
            path = self.folder / "it.wrinkle"
            path.write_bytes(content)
            with self.subTest(told), self.assertRaises(DocumentError) as caught:
                archive.read(path)
            self.assertRegex(str(caught.exception), r"^it\.wrinkle cannot be opened: .*\.$")
            self.assertIn(told, str(caught.exception))
        with self.assertRaisesRegex(DocumentError, "no such file"):
            archive.read(self.folder / "none.wrinkle")

    def test_a_write_that_fails_leaves_what_was_there(self) -> None:
        path = self.folder / "it.wrinkle"
        archive.write(path, Bundle(turning()))
        before = path.read_bytes()
        missing = layer_edits.add_layer(turning(), "Paper", PictureSource("paper.png"))
        with self.assertRaisesRegex(DocumentError, "asset paper.png is missing"):
            archive.write(path, Bundle(missing))
        with self.assertRaisesRegex(DocumentError, "cannot be saved"):
            archive.write(self.folder / "nowhere" / "it.wrinkle", Bundle(turning()))
        self.assertEqual(path.read_bytes(), before)
        self.assertEqual([x.name for x in self.folder.iterdir()], ["it.wrinkle"])

    def test_the_published_schema_is_that_of_the_code(self) -> None:
        published = (DOCS / "wrinkle.schema.json").read_text(encoding="utf-8")
        self.assertEqual(json.loads(published), json.loads(coding.schema()))

    def test_the_shipped_wrinkles_open_and_are_written_as_they_are(self) -> None:
        self.assertLess({"smooth_turn", "plain_push"}, set(shipped()))
        for path in shipped().values():
            text = (path / "wrinkle.json").read_bytes()
            self.assertEqual(coding.encode(archive.read(path).wrinkle), text)


class Edits(unittest.TestCase):
    @settings(max_examples=40, deadline=None)
    @given(st.data())
    def test_undo_leads_to_the_first_document_and_redo_to_the_last(
        self, data: st.DataObject
    ) -> None:
        first = turning()
        history = History.starting(first)
        for step in range(8):
            history = history.then(data.draw(edited(history.current)), f"step {step}")
        last = history.current
        steps = len(history.states) - 1
        for _ in range(steps):
            history = history.undone()
        self.assertEqual((history.current, history.undo_label), (first, None))
        self.assertIs(history.undone().current, history.current)
        for _ in range(steps):
            history = history.redone()
        self.assertEqual((history.current, history.redo_label), (last, None))

    def test_a_value_is_set_at_rest_or_as_a_keyframe_on_its_own_half(self) -> None:
        wrinkle = lane_edits.set_value(turning(), SettingRef("turn", "skew"), -FRAME, 5.0)
        self.assertEqual(wrinkle.layer("turn").placement.skew.rest, 5.0)
        wrinkle = lane_edits.set_value(turning(), TURN, 4 * FRAME, -30.0)
        track = TURN.of(wrinkle).track
        assert track is not None
        self.assertEqual([key.time for key in track.keys], [-12 * FRAME, -4 * FRAME, Fraction(0)])
        self.assertEqual(track.keys[1].value, 30.0)
        self.assertEqual(TURN.of(wrinkle).at(4 * FRAME), -30.0)

    def test_a_keyframe_stops_short_of_its_neighbours_and_the_window(self) -> None:
        wrinkle = lane_edits.set_value(turning(), TURN, -4 * FRAME, 30.0)
        for time, expected in ((-90, -11), (-11, -11), (-1, -1), (5, -1)):
            moved = lane_edits.move_key(wrinkle, TURN, 1, time * FRAME, 1.0)
            self.assertEqual(TURN.of(moved).track.keys[1].time, expected * FRAME)
        moved = lane_edits.move_key(wrinkle, TURN, 0, -90 * FRAME, 0.0)
        self.assertEqual(TURN.of(moved).track.keys[0].time, -12 * FRAME)
        moved = lane_edits.move_key(wrinkle, TURN, 2, 9 * FRAME, 0.0)
        self.assertEqual(TURN.of(moved).track.keys[2].time, Fraction(0))

    def test_the_incoming_half_is_made_and_released(self) -> None:
        own = lane_edits.set_incoming(turning(), TURN, IncomingHalf.OWN)
        for n in range(-12, 13):
            self.assertAlmostEqual(
                TURN.of(own).at(n * FRAME), TURN.of(turning()).at(n * FRAME), delta=1e-9
            )
        self.assertEqual(lane_edits.set_incoming(own, TURN, IncomingHalf.CARRY_ON), turning())
        shown = [(index, side) for index, side, _, _ in shown_keys(TURN.of(turning()))]
        out, into = Side.OUTGOING, Side.INCOMING
        self.assertEqual(shown, [(0, out), (1, out), (0, into), (1, into)])

    def test_what_is_not_possible_is_refused_by_name(self) -> None:
        for step, told in (
            (
                lambda w: lane_edits.set_value(w, TURN, FRAME, float("nan")),
                "Rotation must be within",
            ),
            (
                lambda w: lane_edits.set_value(w, TURN, FRAME, (1.0, 2.0)),
                "Rotation takes one number",
            ),
            (
                lambda w: lane_edits.set_value(w, SettingRef("turn", "opacity"), FRAME, 101.0),
                "Opacity",
            ),
            (lambda w: wrinkle_edits.set_length(w, Fraction(0), FRAME), "The lead must be above 0"),
            (
                lambda w: wrinkle_edits.set_length(w, FRAME, Fraction(61)),
                "The tail must be above 0",
            ),
            (lambda w: wrinkle_edits.set_shutter(w, 721.0), "within 0 and 720"),
            (lambda w: wrinkle_edits.rename(w, "  "), "needs a name"),
            (lambda w: layer_edits.change_layer(w, "turn", name=" "), "needs a name"),
            (lambda w: lane_edits.set_ease(w, SettingRef("turn", "skew"), 0, None), "no pins"),
        ):
            with self.subTest(told), self.assertRaisesRegex(InputError, told):
                step(turning())

    def test_layers_are_added_moved_and_removed_and_ids_stay(self) -> None:
        wrinkle = layer_edits.add_layer(turning(), "Turn", PictureSource("a.png"), above="outgoing")
        self.assertEqual([x.id for x in wrinkle.layers], ["outgoing", "turn-2", "incoming", "turn"])
        wrinkle = grouping.place_layer(wrinkle, "turn-2", None, "turn")
        self.assertEqual(wrinkle.layers[-1].id, "turn-2")
        self.assertEqual(layer_edits.remove_layer(wrinkle, "turn-2"), turning())
        self.assertEqual(len(plain_cut().frames), 24)
