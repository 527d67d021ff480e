"""Cuts are found where they are; flashes, motion and damaged frames are none."""

import unittest
from collections.abc import Iterator

import numpy as np

from wrinkle.core.measure.cuts import cut_scores, cuts_in


def scene(seed: int, count: int, motion: int = 0) -> Iterator[np.ndarray]:
    """Pictures of one scene, which moves sideways by so many pixels a frame."""
    rng = np.random.default_rng(seed)
    coarse = rng.integers(0, 255, (6, 10, 3), np.uint8)
    picture = np.kron(coarse, np.ones((6, 6, 1), np.uint8))
    for number in range(count):
        grain = rng.integers(-4, 5, picture.shape)
        moved = np.roll(picture, number * motion, 1)
        yield np.clip(moved.astype(int) + grain, 0, 255).astype(np.uint8)


def found(frames: list[np.ndarray]) -> list[int]:
    return cuts_in(cut_scores(frames))


class Cuts(unittest.TestCase):
    def test_joined_scenes_are_cut_where_they_were_joined(self) -> None:
        lengths = (20, 7, 31, 12)
        frames = [x for seed, n in enumerate(lengths) for x in scene(seed, n, motion=seed)]
        self.assertEqual(found(frames), [20, 27, 58])
        self.assertEqual(len(cut_scores(frames)), 70)

    def test_flashes_motion_and_damaged_frames_are_no_cuts(self) -> None:
        frames = list(scene(1, 40, motion=2))
        self.assertEqual(found(frames), [])
        for at, flash in ((10, 255), (20, 0)):
            frames[at] = np.full_like(frames[at], flash)
        self.assertEqual(found(frames), [])
        # A fade has no frame that differs much from the one before.
        first, second = list(scene(2, 30)), list(scene(3, 30))
        fade = [
            (a * (1 - n / 29) + b * (n / 29)).astype(np.uint8)
            for n, (a, b) in enumerate(zip(first, second, strict=True))
        ]
        self.assertEqual(found(fade), [])

    def test_short_videos_have_none(self) -> None:
        for count in range(4):
            self.assertEqual(found(list(scene(1, count))), [])
            self.assertEqual(len(cut_scores(scene(1, count))), count)
