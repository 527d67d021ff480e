"""What's this: every setting says what it is, its unit and range; those of effects show it."""

import unittest
from unittest import mock

import numpy as np
from PyQt6.QtCore import QEvent, QPoint, Qt
from PyQt6.QtGui import QHelpEvent
from PyQt6.QtWidgets import QApplication, QWhatsThis

from tests.ui.window_case import WindowCase, wait_for
from wrinkle.core.design.document.setting_specs import PLACEMENT_SETTINGS
from wrinkle.core.design.edits import effect_edits
from wrinkle.core.effects.effect import Scene, Values
from wrinkle.core.effects.extremes import extremes
from wrinkle.core.effects.registry import EFFECTS
from wrinkle.core.errors import InputError
from wrinkle.core.motion.describing import facts_of
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.ui.bench.sections.setting_card import SettingCard
from wrinkle.ui.shared.qimages import pixels_of


class Facts(unittest.TestCase):
    def test_unit_range_and_rest_are_said_as_they_are_shown(self) -> None:
        self.assertEqual(
            facts_of(PLACEMENT_SETTINGS["rotation"]),
            "A number, in degrees, from −360000 to 360000. At rest 0°.",
        )
        said = facts_of(PLACEMENT_SETTINGS["position"])
        self.assertIn("Two numbers, in per cent of the frame's width or height", said)
        self.assertIn("At rest 0, 0 %", said)

    def test_low_and_high_of_every_setting_can_be_had_and_most_look_different(self) -> None:
        rng = np.random.default_rng(4)
        pixels = np.ones((48, 32, 4), np.float32)
        pixels[..., :3] = rng.random((48, 32, 3), np.float32) * 0.8 + 0.1
        picture = Image(pixels, Light.ENCODED)
        other = Image(np.ascontiguousarray(pixels[::-1]), Light.ENCODED)
        alike = []
        count = 0
        for effect in EFFECTS.values():
            for spec in effect.settings:
                low, high = extremes(effect, spec.key)
                count += 1
                self.assertEqual((spec.checked(low), spec.checked(high)), (low, high))
                seen = []
                for value in (low, high):
                    values = Values({**effect.neutral(), **effect.begun(), spec.key: value})
                    scene = Scene.whole(
                        Size(32, 48), time=0.0, frame=0, preview=True,
                        other=other if effect.needs_layer else None,
                    )  # fmt: skip
                    try:
                        seen.append(effect.applied(picture, values, scene).to_bytes8())
                    except InputError:
                        seen.append(picture.to_bytes8())
                if np.array_equal(*seen):
                    alike.append(f"{effect.key}.{spec.key}")
        # Those that act in time, on edges, or only beside another one are seen in the window.
        self.assertLess(len(alike), count // 4, alike)


class Card(WindowCase):
    def card(self) -> SettingCard:
        found = [x for x in QApplication.topLevelWidgets() if isinstance(x, SettingCard)]
        self.assertEqual(len(found), 1)
        return found[0]

    def test_a_setting_says_what_it_is_by_key_and_by_press(self) -> None:
        self.desk.looking.select_layer("turn")
        rows = [row for card in self.bench.stack.cards for row in card.rows]
        row = next(x for x in rows if x.ref.key == "rotation")
        row.field.setFocus()
        self.act("help.this")
        card = self.card()
        self.assertEqual(card.title.text(), "Rotation")
        self.assertIn("degrees", card.facts.text())
        self.assertIsNone(card.swing)
        card.close()
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
        spot = QPoint(3, 3)
        event = QHelpEvent(QEvent.Type.WhatsThis, spot, row.field.mapToGlobal(spot))
        QApplication.sendEvent(row.field, event)
        self.assertEqual(self.card().title.text(), "Rotation")
        self.card().close()
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)

    def test_what_has_no_card_says_its_tooltip(self) -> None:
        button = self.bench.transport.buttons["blur"]
        with mock.patch.object(QWhatsThis, "showText") as shown:
            button.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
            button.setFocus()
            self.act("help.this")
            spot = button.rect().center()
            event = QHelpEvent(QEvent.Type.WhatsThis, spot, button.mapToGlobal(spot))
            QApplication.sendEvent(button, event)
        said = [call.args[1] for call in shown.call_args_list]
        self.assertEqual(len(said), 2)
        self.assertIn("with or without motion blur", said[0])
        self.assertEqual(said[0], said[1])

    def test_a_setting_of_an_effect_moves_between_low_and_high(self) -> None:
        self.desk.looking.select_layer("turn")
        self.desk.document.edit(
            "effect", lambda w: effect_edits.add_effect(w, "turn", "exposure")[0]
        )
        wait_for(lambda: bool(self.rows_of("exposure")), "its rows")
        self.rows_of("exposure")[0].explain()
        shown = self.card()
        swing = shown.swing
        assert swing is not None
        wait_for(lambda: len(swing.pictures) == 7, "all pictures")
        low, high = (pixels_of(swing.pictures[n]).mean() for n in (0, 6))
        self.assertLess(low, high - 20)
        wait_for(lambda: swing.shown > 0, "it moves")
        self.assertIn("low: −", swing.accessibleName())
        self.assertTrue(shown.windowFlags() & Qt.WindowType.Popup)
        shown.close()
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)

    def rows_of(self, kind: str) -> list:  # type: ignore[type-arg]
        layer = self.desk.document.state.layer("turn")
        found = []
        for card in self.bench.stack.cards:
            if card.effects is not None:
                for box in card.effects.boxes:
                    if box.settings is not None:
                        found += [
                            x
                            for x in box.settings.rows
                            if layer.effect_use(x.ref.address.effect).kind == kind
                        ]
        return found
