"""A new thing of each kind is one declaration: it is found in lists, files, mirrors and pictures.

Each test declares a toy without touching a file of the package.
"""

import argparse
import tempfile
import unittest
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import partial
from pathlib import Path
from typing import ClassVar

import av
import numpy as np
from msgspec.structs import replace as replaced
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from tests.core.measure.broken import subject_of
from tests.core.reuse.every_kind import Slanted
from tests.ui.window_case import LEFT, WindowCase, type_into
from wrinkle.cli.command import Command
from wrinkle.cli.registry import COMMANDS
from wrinkle.core.design.dials import dial_edits
from wrinkle.core.design.dials.driving import driven
from wrinkle.core.design.document import coding
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.dial_forms import NumberForm
from wrinkle.core.design.document.dial_kinds import DIAL_KINDS
from wrinkle.core.design.document.dials import (
    Dial,
    DialKind,
    DialValue,
    Drive,
    How,
    WantedDial,
)
from wrinkle.core.design.document.layer_kinds import LAYER_KINDS, DrawnSource, LayerKind, Seeing
from wrinkle.core.design.document.setting import Setting, neutral
from wrinkle.core.design.document.slot_kinds import SLOT_KINDS, Fills, SlotKind
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.design.edits import effect_edits, layer_edits, slot_edits, sound_edits
from wrinkle.core.design.edits.mirroring import mirrored_wrinkle
from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.registry import EFFECTS, searched
from wrinkle.core.errors import DocumentError, InputError
from wrinkle.core.examine.examined import Examined
from wrinkle.core.measure.check import Check, Finding
from wrinkle.core.measure.registry import CHECKS
from wrinkle.core.measure.traces import TRACES
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.setting_spec import NumberSpec, PairSpec, Unit
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Filling, Material
from wrinkle.core.reuse.use import Use, showing
from wrinkle.core.sound.mixing import WrinkleSounds
from wrinkle.core.synthesis.made_sounds import MADE_SOUNDS, MadeSound
from wrinkle.core.time.rate import FrameRate
from wrinkle.files import archive
from wrinkle.library import shipped
from wrinkle.media.output.formats import FORMATS
from wrinkle.ui.bench.dialogs.details_dialog import DetailsDialog
from wrinkle.ui.place import Place, PlaceKind
from wrinkle.ui.places import PLACES

SIZE = Size(12, 8)


@dataclass(frozen=True)
class HalfPicture:
    """Red to the left of an edge, nothing right of it."""

    edge: float

    def picture(self, size: Size) -> Image:
        pixels = np.zeros((size.height, size.width, 4), np.float32)
        pixels[:, : round(self.edge * size.width)] = (1.0, 0.0, 0.0, 1.0)
        return Image(pixels, Light.LINEAR)


HALF_SETTINGS = {
    "edge": PairSpec("edge", "Edge", "Where it ends.", (0.25, 0.5), 0.0, 1.0, Unit.FRAME_PART,
                        0.01, mirror=Mirroring.POINT),
}  # fmt: skip


class HalfSource(DrawnSource, frozen=True, tag="half"):
    specs: ClassVar = HALF_SETTINGS
    edge: Setting = neutral(HALF_SETTINGS["edge"])

    def drawn(self, seeing: Seeing) -> HalfPicture:
        return HalfPicture(seeing.value(self.edge)[0])


class NotchDial(Dial, frozen=True, omit_defaults=True, tag="notch"):
    """Ten degrees a notch."""

    ways: ClassVar = (How.PLUS,)
    default: int = 0

    @property
    def form(self) -> NumberForm:
        return NumberForm(0.0, 3.0, decimals=0)

    def checked(self, value: DialValue) -> int:
        if value not in (0, 1, 2, 3):
            raise InputError(f"{self.name} has three notches, not '{value}'.")
        return int(value)

    def changed(self, drive: Drive, value: int, own: Value) -> Value:
        return float(own) + 10.0 * value

    def along(self, share: float) -> int:
        return round(share * 3)


def notched(wanted: WantedDial) -> NotchDial | None:
    if wanted.spec.key != "rotation":
        return None
    drives = (replaced(wanted.drive, how=How.PLUS),)
    return NotchDial(wanted.id, wanted.name, drives=drives)


NOTCH = DialKind(NotchDial, notched)
HALF = LayerKind(HalfSource, "Half", "Red on one side.", lambda frame: (("Half", HalfSource()),))


def stored(wrinkle):  # type: ignore[no-untyped-def]
    """What comes back from the file."""
    return archive.read_packed("toy", archive.packed(Bundle(wrinkle))).wrinkle


def shown(wrinkle):  # type: ignore[no-untyped-def]
    clips = {
        slot: Filling(Slanted(slot, hue=hue), Fraction(1))
        for slot, hue in (("outgoing", 0.0), ("incoming", 0.3))
    }
    use = Use(wrinkle, clips)
    return showing(use, Material(), SIZE, FrameRate.of(30), Quality.PREVIEW)


class InTheCore(unittest.TestCase):
    def test_a_kind_of_layer(self) -> None:
        with LAYER_KINDS.having(HALF):
            wrinkle = layer_edits.add_layer(plain_cut(), "Half", HalfSource())
            self.assertEqual(stored(wrinkle), wrinkle)
            coding.check_lasting(wrinkle)
            self.assertIn("HalfSource", coding.schema())
            pixels = shown(wrinkle).image(0).pixels
            red = [bool(np.allclose(pixels[4, x, :3], (1, 0, 0))) for x in (1, 4)]
            self.assertEqual(red, [True, False])
            mirrored = mirrored_wrinkle(wrinkle, Direction.LEFT_RIGHT)
            self.assertEqual(mirrored.layers[-1].source.edge.rest, (0.75, 0.5))
            text = coding.encode(wrinkle)
            with self.assertRaisesRegex(
                DocumentError, r"layers\[2\]\.source: edge must be within 0"
            ):
                coding.decode(
                    text.replace(b'"kind": "half"', b'"kind": "half", "edge": {"rest": [7, 1]}')
                )
        with self.assertRaisesRegex(DocumentError, r"layers\[2\]\.source: .*found 'half'"):
            coding.decode(text)

    def test_a_kind_of_slot(self) -> None:
        with SLOT_KINDS.having(SlotKind("logo", Fills.PICTURES, still=True)):
            wrinkle, key = slot_edits.add_further_slot(plain_cut(), "logo")
            self.assertEqual((key, wrinkle.slot(key).moving), ("logo", True))
            self.assertEqual(stored(wrinkle), wrinkle)

    def test_a_kind_of_dial(self) -> None:
        with DIAL_KINDS.having(NOTCH):
            wrinkle, dial = dial_edits.offer(plain_cut(), "incoming", "rotation")
            self.assertEqual(stored(wrinkle), wrinkle)
            coding.check_lasting(wrinkle)
            self.assertIn("NotchDial", coding.schema())
            turned = driven(wrinkle, {dial: 2}).wrinkle.layer("incoming")
            self.assertEqual(turned.setting("rotation").rest, 20.0)
            with self.assertRaisesRegex(InputError, "has three notches, not '4'"):
                driven(wrinkle, {dial: 4})
            text = coding.encode(wrinkle)
        with self.assertRaisesRegex(DocumentError, r"dials\[0\]: .*a kind of dial, found 'notch'"):
            coding.decode(text)

    def test_a_made_sound(self) -> None:
        toy = MadeSound("ping", 99, "a ping", 0.0, lambda voice: voice.sine(440.0))
        with MADE_SOUNDS.having(toy):
            wrinkle, _ = sound_edits.add_sound(plain_cut(), "ping")
            self.assertEqual(stored(wrinkle), wrinkle)
            sounds = WrinkleSounds(wrinkle)
            heard = sounds.samples(sounds.span.start, len(sounds.span))
            spectrum = np.abs(np.fft.rfft(heard[:, 0]))
            peak = float(np.fft.rfftfreq(len(heard), 1 / 48_000)[spectrum.argmax()])
            self.assertAlmostEqual(peak, 440.0, delta=3.0)

    def test_an_effect(self) -> None:
        def halved(image: Image, values: Values, scene: Scene) -> Image:
            share = np.float32(1.0 - values.number("amount") / 200.0)
            return replace(image, pixels=image.pixels * np.array([share] * 3 + [1.0], np.float32))

        amount = NumberSpec("amount", "Amount", "How much.", 0.0, 0.0, 100.0, Unit.PER_CENT)
        toy = Effect("dim", "Dimmer", "Halves the light.", Family.COLOUR, Light.LINEAR, (amount,),
                     halved, starts_with={"amount": 100.0})  # fmt: skip
        with EFFECTS.having(toy):
            self.assertEqual(searched("dimmer"), [toy])
            wrinkle, _ = effect_edits.add_effect(plain_cut(), "outgoing", "dim")
            self.assertEqual(stored(wrinkle), wrinkle)
            dim, plain = (
                shown(x).image(-1).in_light(Light.LINEAR).pixels for x in (wrinkle, plain_cut())
            )
            np.testing.assert_allclose(dim[..., :3], plain[..., :3] / 2.0, atol=1e-3)

    def test_a_check_and_a_trace(self) -> None:
        trace = replace(TRACES["brightness"], key="toy", label="Toy trace")
        check = Check(
            "toy", "No toys", "There are none.", lambda subject: (Finding("toy", "Here."),)
        )
        with TRACES.having(trace), CHECKS.having(check):
            examined = Examined.of(subject_of(archive.read(shipped()["plain_push"])))
            self.assertEqual([x.sentence for x in examined.open], ["Here."])
            (toy,), (usual,) = examined.lines["toy"], examined.lines["brightness"]
            np.testing.assert_array_equal(toy.values, usual.values)


class OnTheCommandLine(unittest.TestCase):
    def test_a_command_and_a_format(self) -> None:
        from wrinkle.__main__ import main

        ran: list[object] = []

        def takes(parser: argparse.ArgumentParser) -> None:
            parser.add_argument("word")

        def run(arguments: argparse.Namespace) -> int:
            ran.append(arguments.word)
            return 7

        with COMMANDS.having(Command("toy", "plays", takes, run)):
            self.assertEqual(main(["toy", "kite"]), 7)
        self.assertEqual(ran, ["kite"])
        with tempfile.TemporaryDirectory() as name:
            goal = Path(name) / "a.toy"
            toy = replace(FORMATS["ffv1"], key="toy", label="Toy", suffix=".toy")
            with FORMATS.having(toy):
                words = ["render", "plain_push", "--output", str(goal)]
                self.assertEqual(main([*words, *clips(Path(name))]), 0)
            with av.open(str(goal)) as container:
                self.assertEqual(container.streams.video[0].codec_context.name, "ffv1")


def clips(folder: Path) -> list[str]:
    from tests.media.clips import write_numbered

    path = write_numbered(folder / "a.mp4", 60)
    return ["--outgoing", str(path), "--incoming", str(path)]


class AnotherPlace(WindowCase):
    def setUp(self) -> None:
        kind = self.enterContext(PLACES.having(PlaceKind("attic", "Attic", lambda desk: Place())))
        super().setUp()
        self.attic = self.window.places.place(kind.key)

    def test_a_place_is_in_the_bar_the_menu_and_under_its_key(self) -> None:
        QTest.mouseClick(self.window.head.bar.places["attic"], LEFT)
        self.assertIs(self.window.places.shown, self.attic)
        self.act("place.bench")
        self.assertIsNot(self.window.places.shown, self.attic)
        number = len(PLACES)
        QTest.keyClick(
            self.window, Qt.Key(Qt.Key.Key_0 + number), Qt.KeyboardModifier.ControlModifier
        )
        self.assertIs(self.window.places.shown, self.attic)


class InTheWindow(WindowCase):
    def test_kinds_are_offered_where_things_are_added(self) -> None:
        toy_sound = MadeSound("ping", 99, "a ping", 0.0, lambda voice: voice.sine(440.0))
        with (
            LAYER_KINDS.having(HALF),
            SLOT_KINDS.having(SlotKind("logo", Fills.PICTURES)),
            MADE_SOUNDS.having(toy_sound),
            DIAL_KINDS.having(NOTCH),
        ):
            offer = partial(dial_edits.offer, layer="incoming", key="rotation")
            self.desk.document.edit("dial", lambda wrinkle: offer(wrinkle)[0])
            (row,) = self.bench.stack.dials.rows
            type_into(row.field.field, "3")
            self.assertEqual(self.desk.trial.choices.dials, {row.dial.id: 3})
            type_into(row.field.field, "7")
            self.assertIn("has three notches", self.faults.pop())
            self.assertTrue(row.sweep_button.isVisible())
            menu = self.bench.stack.add_button.menu()
            menu.aboutToShow.emit()
            half = next(x for x in menu.actions() if x.text() == "Half")
            half.trigger()
            layer = self.desk.document.state.layers[-1]
            self.assertIsInstance(layer.source, HalfSource)
            card = next(x for x in self.bench.stack.cards if x.layer_id == layer.id)
            rows = {row.field.accessibleName() for row in card.rows if hasattr(row, "field")}
            self.assertIn("Edge", rows)
            self.act("bench.details")
            dialog = self.window.findChild(DetailsDialog)
            dialog.add_buttons["logo"].click()
            self.assertEqual(self.desk.document.state.slots[-1].kind, "logo")
            dialog.close()
            self.bench.stack.sounds.add("ping")
            self.assertEqual(self.desk.document.state.sounds[-1].made, "ping")
            self.all_ready()
            for _ in range(4):
                self.act("edit.undo")
