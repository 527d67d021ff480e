"""The files of the desktop, by their places below a folder such as ``/usr/share``."""

from __future__ import annotations

from pathlib import Path

from wrinkle import __version__
from wrinkle.library import FOLDER

NAME = "wrinkle"
WRINKLE_TYPE = "application/x-wrinkle"
PIECE_TYPE = "application/x-otio"
_RELEASED = "2026-12-01"
_ABOUT = "Design reusable transitions between clips and use them on every cut."
_ENTRY = """[Desktop Entry]
Type=Application
Name=Wrinkle
GenericName=Transition designer
Comment={about}
Exec={command} open %f
Icon=wrinkle
Terminal=false
Categories=AudioVideo;Video;AudioVideoEditing;
Keywords=video;transition;cut;wipe;keyframe;
MimeType={types};
StartupWMClass=wrinkle
"""
_TYPES = f"""<?xml version="1.0" encoding="UTF-8"?>
<mime-info xmlns="http://www.freedesktop.org/standards/shared-mime-info">
  <mime-type type="{WRINKLE_TYPE}">
    <comment>Wrinkle transition</comment>
    <sub-class-of type="application/zip"/>
    <icon name="wrinkle"/>
    <glob pattern="*.wrinkle"/>
  </mime-type>
  <mime-type type="{PIECE_TYPE}">
    <comment>OpenTimelineIO timeline</comment>
    <glob pattern="*.otio"/>
    <glob pattern="*.otioz"/>
  </mime-type>
</mime-info>
"""
_THUMBNAILER = f"""[Thumbnailer Entry]
TryExec={{tried}}
Exec={{command}} thumbnail --size %s %i %o
MimeType={WRINKLE_TYPE};
"""
_METAINFO = f"""<?xml version="1.0" encoding="UTF-8"?>
<component type="desktop-application">
  <id>wrinkle</id>
  <name>Wrinkle</name>
  <summary>Design transitions once, use them on every cut</summary>
  <metadata_license>CC0-1.0</metadata_license>
  <project_license>GPL-3.0-or-later</project_license>
  <developer id="wrinkle"><name>The makers of Wrinkle</name></developer>
  <description>
    <p>Wrinkle is for people who cut short videos. A transition between two clips is designed
    once: eased keyframes, masks, mattes, effects, motion blur, timed to the cut. It is looked at
    frame by frame, checked, saved, and used on any other cut, in any size and frame rate.</p>
    <ul>
      <li>A Bench on which one transition is designed on two clips</li>
      <li>More than fifty transitions that ship, each with a few dials</li>
      <li>A cut list that dresses every cut of a piece</li>
      <li>Checks that measure every frame and mend what is wrong</li>
      <li>Export to open formats, with transparency where it is wanted</li>
    </ul>
  </description>
  <launchable type="desktop-id">wrinkle.desktop</launchable>
  <icon type="stock">wrinkle</icon>
  <categories><category>AudioVideo</category><category>Video</category></categories>
  <provides>
    <binary>wrinkle</binary>
    <mediatype>{WRINKLE_TYPE}</mediatype>
  </provides>
  <content_rating type="oars-1.1"/>
  <releases><release version="{__version__}" date="{_RELEASED}"/></releases>
</component>
"""


def shared_files(command: str, tried: str) -> dict[Path, bytes]:
    """All of them.

    Args:
        command: begins the program; quoted for a desktop entry.
        tried: the program whose absence takes the thumbnails away.
    """
    types = f"{WRINKLE_TYPE};{PIECE_TYPE}"
    shell = FOLDER / "shell"
    return {
        Path("applications/wrinkle.desktop"):
            _ENTRY.format(command=command, about=_ABOUT, types=types).encode(),
        Path("mime/packages/wrinkle.xml"): _TYPES.encode(),
        Path("icons/hicolor/scalable/apps/wrinkle.svg"):
            (FOLDER / "icons" / "wrinkle.svg").read_bytes(),
        Path("thumbnailers/wrinkle.thumbnailer"):
            _THUMBNAILER.format(command=command, tried=tried).encode(),
        Path("metainfo/wrinkle.metainfo.xml"): _METAINFO.encode(),
        Path("man/man1/wrinkle.1"): (shell / "wrinkle.1").read_bytes(),
        Path("bash-completion/completions/wrinkle"): (shell / "wrinkle.bash").read_bytes(),
        Path("zsh/site-functions/_wrinkle"): (shell / "wrinkle.zsh").read_bytes(),
    }  # fmt: skip
