"""Installs the menu entry, the icon and the file type for the current user."""

from __future__ import annotations

import shutil
import subprocess
import sys
from pathlib import Path

import platformdirs

from wrinkle.files.whole import write_whole
from wrinkle.library import FOLDER

_MIME = "application/x-wrinkle"
_ENTRY = """[Desktop Entry]
Type=Application
Name=Wrinkle
Comment=Design reusable transitions between clips
Exec={command} open %f
Icon=wrinkle
Terminal=false
Categories=AudioVideo;Video;
MimeType={mime};
"""
_TYPE = f"""<?xml version="1.0" encoding="UTF-8"?>
<mime-info xmlns="http://www.freedesktop.org/standards/shared-mime-info">
  <mime-type type="{_MIME}">
    <comment>Wrinkle transition</comment>
    <sub-class-of type="application/zip"/>
    <icon name="wrinkle"/>
    <glob pattern="*.wrinkle"/>
  </mime-type>
</mime-info>
"""


def install(run: Path, data: Path) -> list[Path]:
    """Writes the files below ``data`` (the user's data folder); gives their paths."""
    quoted = '"' + str(run).replace("\\", "\\\\").replace('"', '\\"') + '"'
    entry = _ENTRY.format(command=quoted, mime=_MIME)
    icon = (FOLDER / "icons" / "wrinkle.svg").read_bytes()
    files = {
        data / "applications" / "wrinkle.desktop": entry.encode(),
        data / "mime" / "packages" / "wrinkle.xml": _TYPE.encode(),
        data / "icons" / "hicolor" / "scalable" / "apps" / "wrinkle.svg": icon,
    }
    for path, content in files.items():
        path.parent.mkdir(parents=True, exist_ok=True)
        write_whole(path, content)
    return list(files)


def main() -> int:
    """Installs for the current user and says what was written."""
    data = Path(platformdirs.user_data_path())
    for path in install(Path(sys.argv[1]), data):
        print(path)  # noqa: T201 - the command's result
    for tool, folder in (
        ("update-mime-database", data / "mime"),
        ("update-desktop-database", data / "applications"),
    ):
        if shutil.which(tool):
            subprocess.run([tool, str(folder)], check=False, capture_output=True)
    return 0


if __name__ == "__main__":
    sys.exit(main())
