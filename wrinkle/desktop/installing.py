"""Installs the files of the desktop for the current user, and takes them away again."""

from __future__ import annotations

import shutil
import subprocess
import sys
from contextlib import suppress
from pathlib import Path

import platformdirs

from wrinkle.desktop.share import PIECE_TYPE, WRINKLE_TYPE, shared_files
from wrinkle.files.whole import write_whole

_COMMAND = (
    '#!/bin/sh\n# Written by ./run install; ./run uninstall takes it away.\nexec {run} "$@"\n'
)

_MADE_OF_TYPES = (
    "XMLnamespaces", "aliases", "generic-icons", "globs", "globs2", "icons", "magic", "mime.cache",
    "subclasses", "treemagic", "types", "version",
)  # fmt: skip
"""What update-mime-database writes."""


def install(run: Path, data: Path, programs: Path) -> list[Path]:
    """Writes all files; gives their paths.

    Args:
        run: the script that begins the program.
        data: the user's data folder.
        programs: the folder of the user's own commands, where ``wrinkle`` is put.
    """
    quoted = '"' + str(run).replace("\\", "\\\\").replace('"', '\\"') + '"'
    files = {data / place: content for place, content in shared_files(quoted, str(run)).items()}
    written = []
    for path, content in files.items():
        path.parent.mkdir(parents=True, exist_ok=True)
        write_whole(path, content)
        written.append(path)
    command = programs / "wrinkle"
    # A command of that name that is not ours stays.
    if not command.exists() or _is_ours(command):
        programs.mkdir(parents=True, exist_ok=True)
        write_whole(command, _COMMAND.format(run=_shell_quoted(run)).encode())
        command.chmod(0o755)
        written.append(command)
    return written


def uninstall(run: Path, data: Path, programs: Path) -> list[Path]:
    """Takes away what ``install`` wrote, and the folders that are empty by that; gives the paths.

    What a person made (wrinkles, feels, looks, preferences) stays.
    """
    gone = []
    paths = [data / place for place in shared_files("", "")]
    command = programs / "wrinkle"
    if command.exists() and _is_ours(command):
        paths.append(command)
    for path in paths:
        if path.exists():
            path.unlink()
            gone.append(path)
        base = data if path.is_relative_to(data) else programs
        for above in path.relative_to(base).parents:
            folder = base / above
            with suppress(OSError):
                if folder not in (data, programs):
                    folder.rmdir()
    return gone


def _is_ours(command: Path) -> bool:
    with suppress(OSError, UnicodeDecodeError):
        return "./run uninstall" in command.read_text(encoding="utf-8")
    return False


def _shell_quoted(path: Path) -> str:
    return "'" + str(path).replace("'", "'\\''") + "'"


def _forget_types(data: Path) -> None:
    """Where no other types of a user's own are left, what was made of them goes too."""
    mime = data / "mime"
    if (mime / "packages").exists() or not mime.is_dir():
        return
    for name in (*_MADE_OF_TYPES, *(f"{one}.xml" for one in (WRINKLE_TYPE, PIECE_TYPE))):
        (mime / name).unlink(missing_ok=True)
    for folder in (mime / "application", mime):
        with suppress(OSError):
            folder.rmdir()


def _tell_desktop(data: Path) -> None:
    for tool, folder in (
        ("update-mime-database", data / "mime"),
        ("update-desktop-database", data / "applications"),
    ):
        there = (folder / "packages").is_dir() or folder.name != "mime"
        if shutil.which(tool) and folder.is_dir() and there:
            subprocess.run([tool, str(folder)], check=False, capture_output=True)


def main() -> int:
    """``install RUN`` or ``uninstall RUN``: does it, and says what was written or taken away."""
    word, run = sys.argv[1], Path(sys.argv[2])
    data = Path(platformdirs.user_data_path())
    programs = Path.home() / ".local" / "bin"
    paths = (install if word == "install" else uninstall)(run, data, programs)
    _tell_desktop(data)
    if word == "uninstall":
        _forget_types(data)
    for path in paths:
        print(path)  # noqa: T201 - the command's result
    if word == "uninstall":
        kept = data / "wrinkle"
        # Said where there is anything of one's own.
        if kept.is_dir():
            print(f"Your own wrinkles and looks stay in {kept}.")  # noqa: T201 - the result
    return 0


if __name__ == "__main__":
    sys.exit(main())
