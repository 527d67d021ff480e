import unittest

from PyQt6.QtTest import QTest

from tests.ui.window_case import application, wait_for
from wrinkle.core.time.rate import FrameRate
from wrinkle.ui.player import Player


class Playing(unittest.TestCase):
    def setUp(self) -> None:
        application()
        self.player = Player()
        self.addCleanup(self.player.stop)
        self.due: list[int] = []
        self.player.frameDue.connect(self.due.append)

    def test_it_begins_where_asked_loops_and_says_each_frame_once(self) -> None:
        self.player.set_frames(range(-3, 3), FrameRate.of(60))
        self.player.play(1)
        wait_for(lambda: len(self.due) > 12, "two rounds")
        self.assertEqual(self.due[0], 1)
        self.assertEqual(set(self.due), set(range(-3, 3)))
        self.assertFalse([a for a, b in zip(self.due, self.due[1:], strict=False) if a == b])

    def test_a_change_of_speed_makes_no_jump(self) -> None:
        self.player.set_frames(range(0, 10_000), FrameRate.of(100))
        self.player.play(0)
        wait_for(lambda: self.due and self.due[-1] > 20, "some frames")
        before = self.due[-1]
        self.player.set_speed(0.25)
        QTest.qWait(30)
        self.assertLess(abs(self.due[-1] - before), 12)

    def test_it_says_when_it_plays(self) -> None:
        said: list[bool] = []
        self.player.playingChanged.connect(said.append)
        self.player.play(0)
        self.player.stop()
        self.player.stop()
        self.assertEqual(said, [True, False])
