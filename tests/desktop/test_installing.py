"""What the desktop gets: it names the program and its files, and goes again without rest."""

import tempfile
import unittest
import xml.etree.ElementTree as ET
from configparser import ConfigParser
from pathlib import Path

from guides.shell import SHELL, files
from wrinkle.cli.registry import COMMANDS
from wrinkle.desktop.installing import install, uninstall
from wrinkle.desktop.share import PIECE_TYPE, WRINKLE_TYPE, shared_files

_RUN = Path("/some where/run")


class Installing(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.data, self.programs = Path(folder.name) / "share", Path(folder.name) / "bin"

    def all_files(self) -> set[Path]:
        return {x for x in self.data.parent.rglob("*") if x.is_file()}

    def test_everything_that_is_written_is_taken_away_and_nothing_else(self) -> None:
        own = self.data / "wrinkle" / "wrinkles" / "mine.wrinkle"
        other = self.data / "applications" / "other.desktop"
        for path in (own, other):
            path.parent.mkdir(parents=True)
            path.write_text("mine")
        written = install(_RUN, self.data, self.programs)
        self.assertEqual(set(written), self.all_files() - {own, other})
        self.assertEqual(install(_RUN, self.data, self.programs), written, "a second time")
        self.assertEqual(set(uninstall(_RUN, self.data, self.programs)), set(written))
        self.assertEqual(self.all_files(), {own, other})
        self.assertFalse((self.data / "mime").exists(), "no empty folder is left")
        self.assertEqual(uninstall(_RUN, self.data, self.programs), [])

    def test_a_command_of_that_name_that_is_not_ours_stays(self) -> None:
        self.programs.mkdir(parents=True)
        command = self.programs / "wrinkle"
        command.write_text("#!/bin/sh\n")
        install(_RUN, self.data, self.programs)
        uninstall(_RUN, self.data, self.programs)
        self.assertEqual(command.read_text(), "#!/bin/sh\n")

    def test_the_entry_the_types_and_the_thumbnails_name_each_other(self) -> None:
        install(_RUN, self.data, self.programs)
        entry = ConfigParser(interpolation=None)
        entry.optionxform = str  # type: ignore[assignment, method-assign]
        entry.read(self.data / "applications" / "wrinkle.desktop")
        section = entry["Desktop Entry"]
        self.assertEqual(section["Exec"], '"/some where/run" open %f')
        types = section["MimeType"].split(";")[:-1]
        self.assertEqual(types, [WRINKLE_TYPE, PIECE_TYPE])
        root = ET.parse(self.data / "mime" / "packages" / "wrinkle.xml").getroot()
        self.assertEqual([x.get("type") for x in root], types)
        globs = [x.get("pattern") for x in root.iter() if x.tag.endswith("glob")]
        self.assertEqual(globs, ["*.wrinkle", "*.otio", "*.otioz"])
        thumbnailer = (self.data / "thumbnailers" / "wrinkle.thumbnailer").read_text()
        self.assertIn(f'Exec="{_RUN}" thumbnail --size %s %i %o', thumbnailer)
        self.assertIn("thumbnail", COMMANDS)
        about = ET.parse(self.data / "metainfo" / "wrinkle.metainfo.xml").getroot()
        self.assertEqual(about.findtext("launchable"), "wrinkle.desktop")
        self.assertTrue((self.programs / "wrinkle").stat().st_mode & 0o100)

    def test_the_manual_page_and_the_completions_are_those_of_the_commands(self) -> None:
        for name, text in files().items():
            self.assertEqual((SHELL / name).read_text(), text, f"python -m guides.shell: {name}")
        for word in COMMANDS:
            for name in ("wrinkle.1", "wrinkle.bash", "wrinkle.zsh"):
                self.assertIn(word, (SHELL / name).read_text())
        self.assertIn(b".TH WRINKLE", shared_files("", "")[Path("man/man1/wrinkle.1")])
