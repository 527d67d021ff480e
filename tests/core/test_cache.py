import unittest

from wrinkle.core.cache import BoundedCache


class Kept(unittest.TestCase):
    def test_the_least_recently_used_goes_first_and_the_bytes_are_right(self) -> None:
        cache: BoundedCache[str, bytes] = BoundedCache(10, len)
        cache.put("a", b"1234")
        cache.put("b", b"1234")
        self.assertEqual(cache.get("a"), b"1234")
        cache.put("c", b"123")
        self.assertIsNone(cache.get("b"))
        self.assertEqual((cache.get("a"), cache.used), (b"1234", 7))
        cache.put("a", b"1")
        self.assertEqual(cache.used, 4)

    def test_one_that_is_too_large_is_kept_alone(self) -> None:
        cache: BoundedCache[str, bytes] = BoundedCache(3, len)
        cache.put("a", b"12")
        cache.put("b", b"12345")
        self.assertEqual((cache.get("a"), cache.get("b"), cache.used), (None, b"12345", 5))
