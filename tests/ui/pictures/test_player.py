import unittest

from tests.ui.window_case import application, settle, wait_for
from wrinkle.core.time.rate import FrameRate
from wrinkle.ui.pictures.player import Player


class Playing(unittest.TestCase):
    def setUp(self) -> None:
        application()
        self.now = 100.0
        self.player = Player(clock=lambda: self.now)
        self.addCleanup(self.player.stop)
        self.due: list[int] = []
        self.player.frameDue.connect(self.due.append)

    def pass_time(self, seconds: float, frame: int) -> None:
        """Lets time pass until a frame is due."""
        self.now += seconds
        wait_for(lambda: self.due and self.due[-1] == frame, f"frame {frame} after {self.due}")

    def test_it_begins_where_asked_loops_and_says_each_frame_once(self) -> None:
        self.player.set_frames(range(-3, 3), FrameRate.of(60))
        self.player.play(1)
        self.pass_time(0.001, 1)
        for frame in (2, -3, -2, -1, 0, 1, 2, -3):
            self.pass_time(1 / 60, frame)
            settle()
        self.assertEqual(self.due, [1, 2, -3, -2, -1, 0, 1, 2, -3])

    def test_a_late_tick_says_the_frame_of_the_clock_and_not_the_next_one(self) -> None:
        self.player.set_frames(range(0, 10), FrameRate.of(30))
        self.player.play(0)
        self.pass_time(0.001, 0)
        self.pass_time(5.5 / 30, 5)
        self.assertEqual(self.due, [0, 5])

    def test_a_change_of_speed_makes_no_jump(self) -> None:
        self.player.set_frames(range(0, 10_000), FrameRate.of(100))
        self.player.play(0)
        self.pass_time(0.205, 20)
        self.player.set_speed(0.25)
        self.pass_time(0.041, 21)
        self.assertEqual(self.due[-2:], [20, 21])

    def test_it_says_when_it_plays(self) -> None:
        said: list[bool] = []
        self.player.playingChanged.connect(said.append)
        self.player.play(0)
        self.player.stop()
        self.player.stop()
        self.assertEqual(said, [True, False])
