"""Files of older formats open as what they were."""

import json
import unittest
from fractions import Fraction
from pathlib import Path
from unittest import mock

from wrinkle.core.design.dials.driving import driven
from wrinkle.core.design.document import coding, migrations
from wrinkle.core.design.document.dials import How
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.slot_kinds import WORDS
from wrinkle.core.design.document.slots import Unfilled
from wrinkle.core.design.document.sounds import FileFit, MovedBy
from wrinkle.core.design.document.sources import PictureSource
from wrinkle.core.design.document.wrinkle import FORMAT
from wrinkle.core.errors import DocumentError
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.held_at import HeldAt
from wrinkle.core.synthesis.made_sounds import MADE_SOUNDS
from wrinkle.files import archive

KEPT = Path(__file__).parent / "kept"


class Kept(unittest.TestCase):
    def test_a_file_kept_from_each_format_opens_and_stays_the_same_when_it_is_saved(self) -> None:
        for number in range(1, FORMAT + 1):
            with self.subTest(number):
                bundle = archive.read(KEPT / f"format_{number}.wrinkle")
                self.assertEqual(bundle.wrinkle.name, f"Kept from format {number}")
                self.assertEqual(bundle.wrinkle.format, FORMAT)
                self.assertEqual(archive.read_packed("again", archive.packed(bundle)), bundle)

    def test_what_was_saved_in_format_1_is_still_there(self) -> None:
        bundle = archive.read(KEPT / "format_1.wrinkle")
        wrinkle = bundle.wrinkle
        self.assertEqual(wrinkle.name, "Kept from format 1")
        self.assertEqual(set(bundle.assets), {"card.png", "grey.cube"})
        self.assertEqual([slot.key for slot in wrinkle.slots], ["outgoing", "incoming", "third"])
        kinds = {layer.id: type(layer.source).__name__ for layer in wrinkle.layers}
        self.assertEqual(
            kinds,
            {
                "outgoing": "SlotSource", "incoming": "SlotSource", "turn": "TreatmentSource",
                "third": "SlotSource", "words": "WordsSource", "ink": "NoiseSource",
                "wash": "FillSource", "line": "ShapeSource", "card": "PictureSource",
                "title": "GroupSource",
            },
        )  # fmt: skip
        turn = wrinkle.layer("turn")
        self.assertEqual(turn.lanes(), ("rotation",))
        self.assertEqual(turn.setting("rotation").at(Fraction(0)), -90.0)
        self.assertEqual(turn.setting("position.jitter").rest, 0.02)
        self.assertEqual(turn.setting("skew").formula, "sin(frame) * 2")
        self.assertEqual([(x.kind, x.asset) for x in turn.effects],
                         [("lut", "grey.cube"), ("glow", "")])  # fmt: skip
        self.assertEqual(self.linked(wrinkle.layer("third")), "ink inverted")
        self.assertEqual(wrinkle.layer("words").group, "title")
        self.assertEqual(wrinkle.layer("card").parent, "turn")
        self.assertEqual(wrinkle.layer("incoming").effects[0].layer, "ink")
        self.assertEqual(wrinkle.layer("outgoing").lanes(), ("masks.m1.path",))

    def linked(self, layer: Layer) -> str:
        matte = layer.matte
        return f"{matte.layer}{' inverted' if matte.inverted else ''}" if matte else ""

    def test_the_steps_lead_from_format_to_format(self) -> None:
        text = coding.encode(archive.read(KEPT / "format_1.wrinkle").wrinkle)
        text = text.replace(b'"about"', b'"says"')
        steps = {
            FORMAT: lambda raw: {"stays" if k == "says" else k: v for k, v in raw.items()},
            FORMAT + 1: lambda raw: {"about" if k == "stays" else k: v for k, v in raw.items()},
        }
        with (
            mock.patch.object(migrations, "MIGRATIONS", steps),
            mock.patch.object(coding, "FORMAT", FORMAT + 2),
        ):
            found = coding.decode(text)
            self.assertEqual(found.about, "All kinds of layers, links and lanes.")
            self.assertEqual(found.format, FORMAT + 2)
            with self.assertRaisesRegex(DocumentError, "newer version"):
                now, newer = (f'"format": {n}'.encode() for n in (FORMAT, FORMAT + 3))
                coding.decode(text.replace(now, newer))

    def test_what_was_saved_in_format_2_is_still_there(self) -> None:
        wrinkle = archive.read(KEPT / "format_2.wrinkle").wrinkle
        self.assertEqual(
            [(dial.kind, dial.name, len(dial.drives)) for dial in wrinkle.dials],
            [
                ("amount", "Violent", 3), ("time", "Pace", 1), ("choice", "Feel", 1),
                ("switch", "With words", 1), ("colour", "Tint", 1), ("words", "Line", 1),
                ("seed", "Chance", 2),
            ],
        )  # fmt: skip
        self.assertEqual([x.name for x in wrinkle.directions], ["from the left", "from the right"])
        third, line = wrinkle.slot("third"), wrinkle.slot("line")
        self.assertEqual((third.stand_in, third.unfilled), ("card.png", Unfilled.STAND_IN))
        self.assertEqual((line.kind, line.words), (WORDS, "So far"))
        self.assertIs(wrinkle.layer("turn").keeps, HeldAt.CUT)
        track = wrinkle.layer("turn").setting("rotation").track
        self.assertIs(track.keeps if track else None, HeldAt.LAST)
        card = wrinkle.layer("card").source
        self.assertIs(card.mirrored if isinstance(card, PictureSource) else None, Direction.BOTH)

    def test_what_was_saved_in_format_3_is_still_there(self) -> None:
        sounds = archive.read(KEPT / "format_3.wrinkle").wrinkle.sounds
        self.assertEqual([x.made for x in sounds], list(MADE_SOUNDS)[:7])
        hit = sounds[2]
        self.assertEqual(
            (hit.level.rest, hit.pitch.rest, hit.seed.rest, hit.hit), (-3.5, 75.0, 9.0, 0)
        )

    def test_what_was_saved_in_format_4_is_still_there(self) -> None:
        asides = archive.read(KEPT / "format_4.wrinkle").wrinkle.set_aside
        self.assertEqual([x.check for x in asides], ["clipped", "rest"])
        self.assertEqual((asides[1].reason, asides[1].address), ("It stays.", "opacity"))

    def test_what_was_saved_in_format_5_is_still_there(self) -> None:
        bundle = archive.read(KEPT / "format_5.wrinkle")
        air, file = bundle.wrinkle.sounds
        self.assertEqual((air.moved_by, air.layer), (MovedBy.LAYER, "incoming"))
        self.assertEqual((air.lanes(), air.pan.at(Fraction(0))), (("pan",), 50.0))
        self.assertEqual((file.slot, file.file.fit), ("sound", FileFit.STRETCHED))
        self.assertEqual((file.file.hit, file.file.backwards), (Fraction(1, 100), True))
        self.assertEqual(file.level.formula, "-12 + p")
        self.assertEqual(bundle.wrinkle.dials[0].drives[0].layer, "file")
        self.assertEqual(set(bundle.assets), {"blip.wav"})

    def test_what_was_saved_in_format_6_is_still_there(self) -> None:
        dial = archive.read(KEPT / "format_6.wrinkle").wrinkle.dials[-1]
        self.assertEqual([x.how for x in dial.drives], [How.TIMES, How.TIMES_ALL])

    def test_a_dial_of_format_5_goes_on_multiplying_all_of_a_setting(self) -> None:
        raw = json.loads(coding.encode(archive.read(KEPT / "format_6.wrinkle").wrinkle))
        raw["format"] = 5
        for drive in raw["dials"][-1]["drives"]:
            drive["how"] = "times"
        old = coding.decode(json.dumps(raw).encode())
        self.assertEqual([x.how for x in old.dials[-1].drives], [How.TIMES_ALL] * 2)
        halved = driven(old, {"zoom": 50.0}).wrinkle
        for layer in ("outgoing", "incoming"):
            self.assertEqual(halved.layer(layer).placement.scale.rest, (50.0, 50.0))

    def test_a_sound_of_format_4_gets_an_id_that_no_layer_has(self) -> None:
        text = coding.encode(archive.read(KEPT / "format_3.wrinkle").wrinkle)
        raw = json.loads(text)
        raw["format"], first = 4, raw["layers"][0]["id"]
        raw["sounds"] = [{"id": first, "made": "hit", "hit": "1/30", "length": "2/5", "pitch": 0.8}]
        found = coding.decode(json.dumps(raw).encode()).sounds[0]
        self.assertEqual((found.id, found.length.rest), (f"{first}-sound", 0.4))
        self.assertEqual((found.pitch.rest, found.level.rest, found.side.rest), (80.0, -9.0, 0.0))
        raw["sounds"][0]["length"] = "long"
        with self.assertRaisesRegex(DocumentError, "Length takes one number"):
            coding.decode(json.dumps(raw).encode())
