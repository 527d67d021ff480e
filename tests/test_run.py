"""The script that begins everything says what its own words do, and does nothing by that."""

import os
import subprocess
import tempfile
import unittest
from pathlib import Path

RUN = Path(__file__).parents[1] / "run"
WORDS = ("install", "uninstall", "test", "check", "fuzz", "package")


class Help(unittest.TestCase):
    def told(self, *words: str, copy: Path) -> str:
        """What the script says where there is nothing but itself."""
        home = copy / "home"
        home.mkdir(exist_ok=True)
        done = subprocess.run(
            ["sh", str(copy / "run"), *words],
            env={"HOME": str(home), "PATH": os.environ["PATH"]},
            capture_output=True,
            text=True,
            check=True,
        )
        self.assertEqual(list(home.iterdir()), [])
        self.assertEqual({path.name for path in copy.iterdir()}, {"run", "home"})
        return done.stdout

    def test_help_of_its_own_words_installs_nothing(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            copy = Path(folder)
            (copy / "run").write_bytes(RUN.read_bytes())
            for word in WORDS:
                for ask in ("--help", "-h"):
                    told = self.told(word, ask, copy=copy)
                    self.assertRegex(told, rf"^\./run {word} +\w+ .*\n$")

    def test_its_own_words_stand_before_those_of_the_program(self) -> None:
        done = subprocess.run(
            ["sh", str(RUN), "--help"], capture_output=True, text=True, check=True, cwd=RUN.parent
        )
        places = [done.stdout.index(f"./run {word} ") for word in WORDS]
        self.assertEqual(places, sorted(places))
        self.assertGreater(done.stdout.index("usage: wrinkle"), places[-1])
