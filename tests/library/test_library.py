import tempfile
import unittest
from pathlib import Path
from unittest import mock

from tests.core.design.wrinkles import turning
from wrinkle import library
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.errors import DocumentError, InputError
from wrinkle.core.motion.easing import Power, Spring, Way
from wrinkle.files import archive


class Library(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.own = Path(folder.name) / "wrinkles"
        self.own.mkdir()
        patch = mock.patch("platformdirs.user_data_path", return_value=Path(folder.name))
        patch.start()
        self.addCleanup(patch.stop)

    def test_wrinkles_are_found_by_path_own_and_shipped_name(self) -> None:
        path = self.own / "My turn.wrinkle"
        archive.write(path, Bundle(turning()))
        for word in (str(path), "My turn", "my-turn", "MY_TURN"):
            self.assertEqual(library.find(word).wrinkle, turning())
        self.assertEqual(library.find("Smooth turn").wrinkle.name, "Smooth turn")
        archive.write(self.own / "Smooth turn.wrinkle", Bundle(turning()))
        self.assertEqual(library.find("smooth_turn").wrinkle, turning(), "one's own goes first")
        with self.assertRaisesRegex(DocumentError, "There is no wrinkle 'nothing'"):
            library.find("nothing")

    def test_shipped_wrinkles_say_what_they_are(self) -> None:
        for path in library.shipped().values():
            wrinkle = archive.read(path).wrinkle
            self.assertTrue(wrinkle.about.endswith("."))
            self.assertTrue(wrinkle.tags)
            self.assertGreater(wrinkle.shutter_angle, 0.0)

    def test_own_feels_are_kept_and_a_damaged_file_is_told(self) -> None:
        self.assertEqual(library.own_feels(), {})
        library.keep_feel("Slam", Power(Way.OUT, 9.0))
        library.keep_feel("wobble", Spring(Way.OUT, 0.2, 5.0))
        self.assertEqual(
            library.own_feels(), {"slam": Power(Way.OUT, 9.0), "wobble": Spring(Way.OUT, 0.2, 5.0)}
        )
        for name in ("", " ", "rush"):
            with self.assertRaisesRegex(InputError, "choose another"):
                library.keep_feel(name, Power())
        (self.own.parent / "feels.json").write_text("{broken")
        with self.assertRaisesRegex(DocumentError, r"feels\.json cannot be read: it is damaged"):
            library.own_feels()
