import unittest

import numpy as np
from scipy import signal

from wrinkle.core.sound.polyphase import filtered


class Filtered(unittest.TestCase):
    def test_it_is_what_scipy_keeps_of_all_samples(self) -> None:
        dice = np.random.default_rng(5)
        for up, down, taps in ((1, 1, 81), (4, 1, 97), (1, 2, 161), (2, 3, 241), (97, 100, 777)):
            with self.subTest(up=up, down=down):
                samples = dice.standard_normal((900, 2)).astype(np.float32)
                weights = dice.standard_normal(taps).astype(np.float32) / 9
                all_of_them = signal.upfirdn(weights, samples, up, down, axis=0)
                for wanted in (range(len(all_of_them)), range(7, 60), range(5, 5)):
                    found = filtered(weights, samples, up, down, wanted)
                    kept = all_of_them[wanted.start : wanted.stop]
                    np.testing.assert_allclose(found, kept, atol=2e-6)
