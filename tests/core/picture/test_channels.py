import unittest

import numpy as np

from wrinkle.core.picture.channels import luma, mixed


class Channels(unittest.TestCase):
    def test_any_number_of_channels_becomes_any_other(self) -> None:
        # Checked against NumPy's product of matrices, in float64.
        dice = np.random.default_rng(2)
        for given in (1, 2, 3, 4):
            channels = dice.random((7, 5, given), dtype=np.float32)
            for made in (1, 2, 3, 4):
                rows, shift = dice.uniform(-1.0, 1.0, (made, given)), dice.random(made)
                plane = channels[..., 0] if given == 1 else channels
                for more in (None, shift):
                    found = mixed(plane, rows, more)
                    wanted = channels.astype(float) @ rows.T + (0.0 if more is None else more)
                    self.assertEqual(found.shape, wanted.shape)
                    np.testing.assert_allclose(found, wanted, atol=1e-6)

    def test_luma_leaves_out_alpha(self) -> None:
        # Rec. ITU-R BT.709, section 3.
        pixels = np.random.default_rng(3).random((4, 6, 4), dtype=np.float32)
        wanted = pixels[..., :3].astype(float) @ (0.2126, 0.7152, 0.0722)
        for one in (pixels, pixels[..., :3].copy()):
            np.testing.assert_allclose(luma(one), wanted, atol=1e-6)
