import unittest

import numpy as np

from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.image import Size, filled
from wrinkle.core.picture.placement import Pose, pose_matrix, translation
from wrinkle.core.picture.resample import Plane, coloured, resample_masked

SIZE = Size(54, 96)


class OneColour(unittest.TestCase):
    def test_a_frame_of_one_colour_is_cut_without_a_picture_of_it(self) -> None:
        dice = np.random.default_rng(1)
        plane = Plane(dice.random((192, 108), dtype=np.float32), translation(-27.0, -48.0))
        frame = filled(SIZE, (0.2, 0.5, 0.7))
        for pose in (Pose(), Pose(rotation=20.0), Pose(scale=(40.0, 60.0), position=(0.2, 0.3))):
            move = pose_matrix(pose, SIZE)
            for cover in EdgeCover:
                with self.subTest(pose=pose, cover=cover):
                    whole = resample_masked(frame, np.eye(3), [move], [plane], SIZE, cover)
                    found = coloured(frame.pixels[0, 0], move, plane, SIZE, cover)
                    np.testing.assert_allclose(found, whole.pixels, atol=1e-6)
