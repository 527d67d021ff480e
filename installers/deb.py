"""Builds ``dist/wrinkle_VERSION_ARCH.deb``: the program with all that it needs beside Python.

    .venv/bin/python -m installers.deb

What pip would fetch is in the package, in a folder of its own, since Debian has not all of it; it
is for the Python of the system on which it is built.
"""

from __future__ import annotations

import compileall
import gzip
import hashlib
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

from wrinkle import __version__
from wrinkle.desktop.share import shared_files

ROOT = Path(__file__).parents[1]
DIST = ROOT / "dist"
_SYSTEM_PYTHON = "/usr/bin/python3"
_HOME = Path("usr/lib/wrinkle")
_LIBRARIES = (
    "libegl1", "libgl1", "libglib2.0-0 | libglib2.0-0t64", "libfontconfig1", "libdbus-1-3",
    "libxkbcommon0", "libxkbcommon-x11-0", "libxcb-cursor0", "libxcb-icccm4", "libxcb-image0",
    "libxcb-keysyms1", "libxcb-randr0", "libxcb-render-util0", "libxcb-shape0", "libxcb-xinerama0",
    "libxcb-xkb1", "libpulse0",
)  # fmt: skip
_SCRIPT = f"""#!{_SYSTEM_PYTHON} -Is
import sys

# Nothing is written beside what the package brought: it is removed without rest.
sys.dont_write_bytecode = True
sys.path.insert(0, "/{_HOME}")

from wrinkle.__main__ import main

sys.exit(main())
"""
_CONTROL = """Package: wrinkle
Version: {version}
Architecture: {architecture}
Maintainer: The makers of Wrinkle <wrinkle@localhost>
Section: video
Priority: optional
Installed-Size: {size}
Depends: python3 (>= {python}), python3 (<< {next_python}), {libraries}
Recommends: xdg-utils
Description: design reusable transitions between clips
 Wrinkle is for people who cut short videos. A transition between two clips is
 designed once, with eased keyframes, masks, mattes, effects and motion blur
 timed to the cut, and is then used on every other cut, in any size and rate.
"""


def build() -> Path:
    """Builds the package; gives its file."""
    wheel = _wheel()
    with tempfile.TemporaryDirectory() as name:
        root = Path(name)
        _install(wheel, root / _HOME)
        _put(root / "usr/bin/wrinkle", _SCRIPT.encode(), 0o755)
        for place, content in shared_files("wrinkle", "wrinkle").items():
            _put(root / "usr/share" / _debian(place), *_packed(place, content))
        about = (ROOT / "LICENSE").read_bytes()
        _put(root / "usr/share/doc/wrinkle/copyright", about)
        control = _control(root)
        _put(root / "DEBIAN/control", control.encode())
        _put(root / "DEBIAN/md5sums", _sums(root).encode())
        DIST.mkdir(exist_ok=True)
        goal = DIST / f"wrinkle_{__version__}_{_architecture()}.deb"
        built = goal.with_suffix(".part")
        subprocess.run(
            ["dpkg-deb", "--root-owner-group", "-Zxz", "-z1", "--build", str(root), str(built)],
            check=True, stdout=subprocess.DEVNULL,
        )  # fmt: skip
        built.replace(goal)
    return goal


def _wheel() -> Path:
    """The wheel of the program itself."""
    with tempfile.TemporaryDirectory() as name:
        # Whatever lies about in the tree does not come in.
        source = Path(name) / "source"
        source.mkdir()
        files = subprocess.run(
            ["git", "ls-files", "-z", "wrinkle", "pyproject.toml", "README.md", "LICENSE"],
            cwd=ROOT, check=True, capture_output=True,
        ).stdout.decode()  # fmt: skip
        for one in filter(None, files.split("\0")):
            (source / one).parent.mkdir(parents=True, exist_ok=True)
            shutil.copy2(ROOT / one, source / one)
        DIST.mkdir(exist_ok=True)
        _pip("wheel", "--no-deps", "--wheel-dir", str(DIST), str(source))
    return DIST / f"wrinkle-{__version__}-py3-none-any.whl"


def _pip(*words: str, python: str = sys.executable) -> None:
    quiet = ("--quiet", "--disable-pip-version-check")
    subprocess.run([python, "-m", "pip", words[0], *quiet, *words[1:]], check=True)


def _install(wheel: Path, home: Path) -> None:
    """The program and what it needs, as the lock file names it, for the system's own Python."""
    home.mkdir(parents=True)
    version = _python_version()
    fitting = (
        "--python-version", version, "--implementation", "cp", "--only-binary=:all:",
        "--target", str(home), "--no-compile",
    )  # fmt: skip
    _pip("install", *fitting, "--requirement", str(ROOT / "requirements.lock"))
    _pip("install", "--no-deps", *fitting[-3:], str(wheel))
    shutil.rmtree(home / "bin", ignore_errors=True)
    for folder in (*home.rglob("tests"), *home.rglob("__pycache__")):
        shutil.rmtree(folder, ignore_errors=True)
    # So that nobody has to write them where it is installed.
    if f"{sys.version_info.major}.{sys.version_info.minor}" == version:
        compileall.compile_dir(home, quiet=2, workers=0, stripdir=str(home), prependdir=f"/{_HOME}")


def _python_version() -> str:
    words = "import sys; print('%d.%d' % sys.version_info[:2])"
    done = subprocess.run([_SYSTEM_PYTHON, "-c", words], check=True, capture_output=True, text=True)
    return done.stdout.strip()


def _architecture() -> str:
    asked = ["dpkg", "--print-architecture"]
    return subprocess.run(asked, check=True, capture_output=True, text=True).stdout.strip()


def _control(root: Path) -> str:
    version = _python_version()
    major, _, minor = version.partition(".")
    size = sum(x.stat().st_size for x in root.rglob("*") if x.is_file())
    return _CONTROL.format(
        version=__version__, architecture=_architecture(), size=size >> 10, python=version,
        next_python=f"{major}.{int(minor) + 1}", libraries=", ".join(_LIBRARIES),
    )  # fmt: skip


def _debian(place: Path) -> Path:
    """Where Debian has it."""
    if place.parts[0] == "zsh":
        return Path("zsh/vendor-completions/_wrinkle")
    return place.with_name(f"{place.name}.gz") if place.parts[0] == "man" else place


def _packed(place: Path, content: bytes) -> tuple[bytes]:
    return (gzip.compress(content, 9, mtime=0),) if place.parts[0] == "man" else (content,)


def _put(path: Path, content: bytes, mode: int = 0o644) -> None:
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_bytes(content)
    path.chmod(mode)


def _sums(root: Path) -> str:
    lines = []
    for path in sorted(root.rglob("*")):
        if path.is_file() and "DEBIAN" not in path.relative_to(root).parts:
            digest = hashlib.md5(path.read_bytes(), usedforsecurity=False).hexdigest()
            lines.append(f"{digest}  {path.relative_to(root)}\n")
    return "".join(lines)


if __name__ == "__main__":
    print(build())  # noqa: T201 - the command's result
