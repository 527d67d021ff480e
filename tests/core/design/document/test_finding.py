"""Settings that are looked for, and what an edit sets in words."""

import unittest
from fractions import Fraction

from wrinkle.core.design.document.differences import difference_words
from wrinkle.core.design.document.finding import Which, found_settings
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.edits import effect_edits, lane_edits, layer_edits, wrinkle_edits
from wrinkle.files.archive import read
from wrinkle.library import shipped


class Finding(unittest.TestCase):
    def setUp(self) -> None:
        self.rush = read(shipped()["lens_rush"]).wrinkle

    def names(self, which: Which, words: str = "") -> list[str]:
        return [
            f"{self.rush.layer(x.ref.layer).name}/{x.part}/{x.ref.key}"
            for x in found_settings(self.rush, which, words)
        ]

    def test_what_moves_is_every_lane_and_all_that_trembles(self) -> None:
        found = {(x.ref.layer, x.ref.key) for x in found_settings(self.rush, Which.MOVING)}
        wanted = {(layer.id, key.base) for layer in self.rush.layers for key in layer.lanes()}
        self.assertEqual(found, wanted)
        differing = {(x.ref.layer, x.ref.key) for x in found_settings(self.rush, Which.CHANGED)}
        self.assertLess(found, differing)
        for layer, key in differing - found:
            ref = SettingRef(layer, key)
            self.assertNotEqual(ref.of(self.rush).rest, ref.spec(self.rush).neutral)

    def test_each_word_is_in_the_name_of_the_setting_its_effect_or_its_layer(self) -> None:
        self.assertEqual(
            self.names(Which.ALL, "FIELD bend"),
            [f"Rush/Lens bend/{self.key('field_of_view', 'field')}"],
        )
        self.assertTrue(all(x.startswith("Flash/") for x in self.names(Which.ALL, "flash amount")))
        self.assertEqual(self.names(Which.ALL, "no such thing"), [])
        # The front layer comes first.
        self.assertTrue(self.names(Which.ALL)[0].startswith(self.rush.layers[-1].name))

    def key(self, *names: str) -> str:
        rush = next(x for x in self.rush.layers if x.name == "Rush")
        return next(x for x in rush.addresses() if x.effect and x.name in names)


class Differences(unittest.TestCase):
    def test_numbers_lanes_layers_and_lengths_are_told(self) -> None:
        turn = read(shipped()["smooth_turn"]).wrinkle
        ref = SettingRef("outgoing", "scale")
        larger = lane_edits.set_value(turn, ref, Fraction(0), (376.0, 376.0))
        name = turn.layer("outgoing").name
        self.assertEqual(difference_words(turn, larger), [f"Scale of {name} 100 % → 376 %"])
        self.assertEqual(difference_words(turn, turn), [])
        rotation = SettingRef("turn", "rotation")
        setting = rotation.of(turn).mapped(lambda value: value / 2)
        slower = lane_edits.with_setting(turn, rotation, setting)
        (said,) = difference_words(turn, slower)
        self.assertRegex(said, r"^Rotation of .+ to .+° → .+ to .+°$")
        gone = layer_edits.remove_layer(turn, "incoming")
        self.assertIn(f"{turn.layer('incoming').name}: taken away", difference_words(turn, gone))
        self.assertIn(f"{turn.layer('incoming').name}: a new layer", difference_words(gone, turn))
        glowing = effect_edits.add_effect(turn, "outgoing", "glow")[0]
        self.assertIn(f"Glow of {name}: taken away", difference_words(glowing, turn))
        frames = turn.lead * turn.frame_rate.per_second
        longer = wrinkle_edits.set_length(turn, turn.lead + turn.frame_rate.seconds(3), turn.tail)
        self.assertIn(f"lead {float(frames):g} → {float(frames) + 3:g} frames",
                      difference_words(turn, longer))  # fmt: skip
