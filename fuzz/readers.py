"""The readers of Wrinkle, each with samples to change and a way to read what comes of it."""

from __future__ import annotations

import io
import json
import random
import shutil
import zipfile
from collections.abc import Callable, Iterator
from contextlib import suppress
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

import cv2
import numpy as np

from fuzz.changes import changed_bytes, changed_json, changed_text
from tests.timeline.test_files import every_kind, timeline
from wrinkle.core.design.document.coding import encode
from wrinkle.core.design.document.looks import decode_looks, encode_looks
from wrinkle.core.design.document.ranged_dials import AmountDial, TimeDial
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.motion.direction import Direction
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.lut import looked_up, parse_cube
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece.faults import faults
from wrinkle.core.piece.film import Film
from wrinkle.core.piece.running import windows
from wrinkle.core.render.compose import draw
from wrinkle.core.render.material import Filling, Material
from wrinkle.core.render.plan import plan_frame
from wrinkle.core.reuse.use import Choices, Use, showing
from wrinkle.core.store import Store
from wrinkle.core.time.rate import FrameRate
from wrinkle.files import archive
from wrinkle.library import fonts, shipped
from wrinkle.library.looks import shipped_looks
from wrinkle.library.own_files import own_state
from wrinkle.library.samples import DEMO_PIECE
from wrinkle.library.shelf import read_many
from wrinkle.media.assets import read_assets
from wrinkle.media.cdl import read_decisions
from wrinkle.media.clip import Clip
from wrinkle.media.sound import Sound
from wrinkle.media.still import Still
from wrinkle.media.svg import read_svg
from wrinkle.timeline.files import read_piece, write_piece

SMALL = Size(54, 96)
KEPT = (
    Path(__file__).parents[1]
    / "tests"
    / "core"
    / "design"
    / "document"
    / "kept"
    / "format_3.wrinkle"
)
_SVG = b"""<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"
 width="10cm" viewBox="0 0 200 100"><style>.a{fill:#c30;stroke-width:3}</style><defs><g id="g">
<path id="p" d="M10 10C20 5 40 5 50 30S80 60 90 20Q100 5 110 30T150 60A20 10 30 1 0 160 70Z"/></g>
</defs><use xlink:href="#g" transform="translate(5 5) rotate(9)"/><rect class="a" x="5" y="5"
 width="30" height="20" rx="4"/><circle cx="100" cy="50" r="20" stroke="red"/><polygon
 points="1,1 9,1 5,9"/><g transform="matrix(1 .2 0 1 3 4)"><line x1="0" y1="0" x2="9" y2="9"
 stroke="#fff" stroke-width="2"/></g></svg>"""
_CDL = b"""<ColorCorrectionCollection xmlns="urn:ASC:CDL:v1.01"><ColorCorrection id="one"><SOPNode>
<Slope>1.1 1 0.9</Slope><Offset>0.01 0 -0.02</Offset><Power>1 1.1 1</Power></SOPNode><SatNode>
<Saturation>1.2</Saturation></SatNode></ColorCorrection></ColorCorrectionCollection>"""


@dataclass(frozen=True)
class Reader:
    """One reader.

    Attributes:
        name: what it is called.
        samples: contents with the endings of their files.
        change: makes another content of one.
        read: reads a file; raises InputError for what it refuses.
    """

    name: str
    samples: tuple[tuple[str, bytes], ...]
    change: Callable[[bytes, random.Random], bytes]
    read: Callable[[Path], object]


class _Still:
    """A picture for slots."""

    identity, duration = "still", Fraction(3)
    size = SMALL

    def index_at(self, seconds: Fraction) -> int:
        return 0

    def following(self, seconds: Fraction) -> None:
        return None

    def image(self, index: int, size: Size) -> Image:
        level = np.linspace(0.0, 1.0, size.width, dtype=np.float32)
        pixels = np.ones((size.height, size.width, 4), np.float32)
        pixels[..., :3] = level[None, :, None]
        return Image(pixels, Light.LINEAR, True)


def _zip(text: bytes, assets: dict[str, bytes]) -> bytes:
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as file:
        file.writestr("wrinkle.json", text)
        for name, content in assets.items():
            file.writestr(f"assets/{name}", content)
    return buffer.getvalue()


def _changed_wrinkle(content: bytes, dice: random.Random) -> bytes:
    if dice.random() < 0.2:
        return changed_bytes(content, dice)
    with zipfile.ZipFile(io.BytesIO(content)) as file:
        text = changed_json(file.read("wrinkle.json"), dice)
        assets = {x[7:]: file.read(x) for x in file.namelist() if x.startswith("assets/")}
    return _zip(text, assets)


def _read_wrinkle(path: Path) -> None:
    """Opens it, draws three of its frames, and puts it on cuts with its dials turned."""
    from wrinkle.core.store import Store

    bundle = archive.read(path)
    store = Store(64 << 20)
    carried = read_assets(bundle.assets, store).material(fonts())
    still = _Still()
    slots = {slot.key: Filling(still, Fraction(1)) for slot in bundle.wrinkle.slots}
    from dataclasses import replace

    material = replace(carried, slots=slots)
    frames = bundle.wrinkle.frames
    for frame in {frames.start, -1, 0, frames.stop - 1}:
        plan = plan_frame(bundle.wrinkle, material, frame, SMALL, Quality.PREVIEW)
        pixels = draw(plan, material).pixels
        if not np.isfinite(pixels).all():
            raise ArithmeticError(f"frame {frame} has pixels that are no numbers")
    _use(bundle.wrinkle, material)


def _use(wrinkle: Wrinkle, material: Material) -> None:
    """The first frame of some uses: mirrored, stronger, longer, and with each dial at an end."""
    turned = {
        dial.id: dial.high if isinstance(dial, AmountDial | TimeDial) else dial.default
        for dial in wrinkle.dials
    }
    for choices in (
        Choices(direction=Direction.BOTH, strength=0.0, softness=200.0),
        Choices(dials=turned, strength=200.0, lead=Fraction(1, 7), tail=Fraction(3)),
    ):
        with suppress(InputError):
            use = Use(wrinkle, material.slots, choices)
            shown = showing(use, material, SMALL, FrameRate.of(25), Quality.PREVIEW)
            pixels = shown.image(shown.wrinkle.first_frame).pixels
            if not np.isfinite(pixels).all():
                raise ArithmeticError("a use has pixels that are no numbers")


def _read_clip(path: Path) -> None:
    from wrinkle.core.errors import MediaError

    clip = Clip(path)
    try:
        count = clip.facts.frame_count
        for number in {0, count // 2, count - 1}:
            try:
                clip.bytes8(number, Size(32, 32))
            except MediaError:
                continue
        sound = clip.sound()
        if sound is not None:
            sound.samples(0, 4_800)
    finally:
        clip.close()


def _read_sound(path: Path) -> None:
    sound = Sound(path)
    for start in (0, 60_000, -100):
        if not np.isfinite(sound.samples(start, 4_800)).all():
            raise ArithmeticError("a sound has samples that are no numbers")


def _sounds() -> tuple[tuple[str, bytes], ...]:
    import tempfile

    from tests.media.sounds import PACKINGS, murmur, write_sound

    with tempfile.TemporaryDirectory() as folder:
        return tuple(
            (
                Path(name).suffix,
                write_sound(
                    Path(folder) / name, codec, rate, container, samples=murmur(rate, 2.0)
                ).read_bytes(),
            )
            for name, codec, rate, container in PACKINGS
        )


def _read_cube(path: Path) -> None:
    table = parse_cube(path.name, path.read_bytes())
    looked_up(table, np.linspace(0, 1, 48, dtype=np.float32).reshape(4, 4, 3))


def _cube(size: int) -> bytes:
    steps = np.linspace(0.0, 1.0, size)
    rows = [f"{r:.4f} {g:.4f} {b:.4f}" for b in steps for g in steps for r in steps]
    head = f'TITLE "made up"\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 1 1 1\nLUT_3D_SIZE {size}\n'
    return (head + "\n".join(rows)).encode()


def _pictures() -> tuple[tuple[str, bytes], ...]:
    dice = np.random.default_rng(1)
    found = []
    for ending in (".png", ".jpg", ".webp", ".tiff"):
        for channels in (3, 4):
            pixels = dice.integers(0, 255, (24, 31, channels), np.uint8)
            found.append((ending, cv2.imencode(ending, pixels)[1].tobytes()))
    deep = dice.integers(0, 65535, (24, 31, 3), np.uint16)
    return (*found, (".png", cv2.imencode(".png", deep)[1].tobytes()))


def _clips() -> tuple[tuple[str, bytes], ...]:
    import tempfile

    from tests.media.packing import REORDERED, write

    kinds = (
        ("a.mp4", "libx264", None), ("a.mkv", "libx264", None), ("a.ts", "libx264", "mpegts"),
        ("a.avi", "mpeg4", "avi"), ("a.mpg", "mpeg2video", "mpeg"), ("a.mov", "prores_ks", None),
    )  # fmt: skip
    animation = cv2.Animation()
    animation.frames = [np.full((12, 16, 4), 20 * n, np.uint8) for n in range(9)]
    animation.durations = [40] * 9
    webp = cv2.imencodeanimation(".webp", animation)[1].tobytes()
    with tempfile.TemporaryDirectory() as folder:
        videos = tuple(
            (
                Path(name).suffix,
                write(
                    Path(folder) / name, codec, REORDERED if codec == "libx264" else {},
                    "yuv422p10le" if codec == "prores_ks" else "yuv420p", container, 14,
                ).read_bytes(),
            )
            for name, codec, container in kinds
        )  # fmt: skip
    return (*videos, (".webp", webp))


def _wrinkles() -> tuple[tuple[str, bytes], ...]:
    from fuzz.rich import rich_wrinkles

    found = [_zip(encode(archive.read(path).wrinkle), {}) for path in shipped().values()]
    kept = archive.read(KEPT)
    found += [
        _zip(encode(bundle.wrinkle), dict(bundle.assets)) for bundle in (kept, *rich_wrinkles())
    ]
    return tuple((".wrinkle", content) for content in found)


def _timelines() -> tuple[tuple[str, bytes], ...]:
    """The demo's piece, and one by somebody else with more in it."""
    ours = DEMO_PIECE.read_bytes()
    theirs = timeline([*every_kind()]).to_json_string().encode()
    return ((".otio", ours), (".otio", theirs))


def _changed_timeline(content: bytes, dice: random.Random) -> bytes:
    """Changed values, or parts that refer to each other."""
    if dice.random() < 0.7:
        return changed_json(content, dice)
    root = json.loads(content)
    objects = [one for one in _objects(root) if "OTIO_SCHEMA" in one]
    for number, one in enumerate(dice.sample(objects, min(4, len(objects)))):
        one["OTIO_REF_ID"] = f"part-{number}"
        holder = dice.choice(objects)
        refers = {"OTIO_SCHEMA": "SerializableObjectRef.1", "id": f"part-{dice.randrange(5)}"}
        lists = [value for value in holder.values() if isinstance(value, list)]
        if lists and dice.random() < 0.5:
            dice.choice(lists).append(refers)
        else:
            holder.setdefault("metadata", {})["up"] = refers
    return json.dumps(root).encode()


def _objects(root: object) -> Iterator[dict[str, Any]]:
    if isinstance(root, dict):
        yield root
    held = root.values() if isinstance(root, dict) else root if isinstance(root, list) else ()
    for one in held:
        yield from _objects(one)


def _bundles() -> tuple[tuple[str, bytes], ...]:
    """Timelines with their media, as others write them too."""
    found = []
    for how in (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED):
        buffer = io.BytesIO()
        with zipfile.ZipFile(buffer, "w", how) as archive:
            archive.writestr("version.txt", "1.0.0")
            archive.writestr("content.otio", DEMO_PIECE.read_bytes())
            archive.writestr("media/dunes.mp4", b"film" * 400)
        found.append((".otioz", buffer.getvalue()))
    return tuple(found)


def _many() -> tuple[tuple[str, bytes], ...]:
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_STORED) as file:
        for path in list(shipped().values())[:3]:
            file.writestr(f"{path.name}.wrinkle", archive.packed(archive.read(path)))
    return ((".wrinkles.zip", buffer.getvalue()),)


def _changed_zip(content: bytes, dice: random.Random) -> bytes:
    """Changed bytes, most of them where the archive says what is in it."""
    if dice.random() < 0.4:
        return changed_bytes(content, dice)
    changed = bytearray(content)
    marks = [at for mark in (b"PK\x01\x02", b"PK\x03\x04", b"PK\x05\x06")
             for at in _places(content, mark)]  # fmt: skip
    for _ in range(dice.randrange(1, 4)):
        changed[min(dice.choice(marks) + dice.randrange(4, 46), len(changed) - 1)] = dice.choice(
            (0, 1, 8, 97, 255, dice.randrange(256))
        )
    return bytes(changed)


def _places(content: bytes, mark: bytes) -> list[int]:
    found, at = [], content.find(mark)
    while at >= 0:
        found.append(at)
        at = content.find(mark, at + 1)
    return found


def _read_timeline(path: Path) -> object:
    """Reads it, shows its first frames, and writes it again."""
    piece, file = read_piece(path)
    store = Store()
    film = Film(piece, {}, lambda bundle: Material(store=store), store, SMALL)
    for frame in film.frames[:3]:
        film.image(frame)
    faults(piece, windows(piece))
    write_piece(path.with_suffix(".again.otio"), piece, file)
    return read_piece(path.with_suffix(".again.otio"))


def _read_bundle(path: Path) -> object:
    """What was unpacked stays for long; a search must not fill the disk with it."""
    try:
        return read_piece(path)
    finally:
        shutil.rmtree(own_state() / "unpacked", ignore_errors=True)


def readers() -> list[Reader]:
    """All of them."""
    looks = encode_looks(shipped_looks())
    return [
        Reader("wrinkle", _wrinkles(), _changed_wrinkle, _read_wrinkle),
        Reader(
            "looks", ((".json", looks),), changed_json,
            lambda path: decode_looks(path.name, path.read_bytes()),
        ),
        Reader("cube", ((".cube", _cube(3)), (".cube", _cube(9))), changed_text, _read_cube),
        Reader("svg", ((".svg", _SVG),), changed_text, lambda p: read_svg(p, Size(1080, 1920))),
        Reader("cdl", ((".ccc", _CDL),), changed_text, read_decisions),
        Reader("picture", _pictures(), changed_bytes, Still.read),
        Reader("clip", _clips(), changed_bytes, _read_clip),
        Reader("sound", _sounds(), changed_bytes, _read_sound),
        Reader("timeline", _timelines(), _changed_timeline, _read_timeline),
        Reader("bundle", _bundles(), _changed_zip, _read_bundle),
        Reader("many", _many(), _changed_zip, read_many),
    ]  # fmt: skip
