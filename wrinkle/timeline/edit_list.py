"""Edit decision lists (CMX 3600, SMPTE 258M), in and out: cuts, dissolves, speeds and names.

By the adapter that OpenTimelineIO offers for them. A list knows neither the size of pictures nor
where files lie; a dressed cut becomes a dissolve of its length, which begins with it.
"""

from __future__ import annotations

from collections import Counter
from pathlib import Path
from typing import Any

from opentimelineio import adapters, schema
from opentimelineio.opentime import RationalTime, TimeRange

from wrinkle.core.errors import DocumentError, MediaError
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.running import windows
from wrinkle.files.targets import spare
from wrinkle.files.whole import not_saved, read_whole, write_whole
from wrinkle.media.pieces import paths_of

_ADAPTER = "cmx_3600"
_LARGEST = 20 << 20
_REEL = 8
_USUAL = 30.0
_TO = "TO CLIP: "


def write_edit_list(path: Path, piece: Piece) -> list[str]:
    """Writes a piece as a list; gives what such a list cannot hold, a sentence each.

    Raises:
        InputError: it is one of the piece's own files.
        MediaError: the list cannot be made, or not be written.
    """
    spare(path, paths_of(piece))
    timeline = schema.Timeline(_line(piece.title))
    track = schema.Track("V", kind=schema.TrackKind.Video)
    dressed = {window.clip: window for window in windows(piece)}
    rate = float(piece.rate.per_second)
    reels = _reels(piece)
    for clip in piece.clips:
        window = dressed.get(clip.id)
        if window is not None and clip.entry is not None:
            before, after = window.cut - window.first, window.end - window.cut
            track.append(
                schema.Transition(
                    clip.entry.wrinkle.name, schema.TransitionTypes.SMPTE_Dissolve,
                    RationalTime(before, rate), RationalTime(after, rate),
                )
            )  # fmt: skip
        track.append(_item(piece, clip, reels[clip.media.path]))
    timeline.tracks.append(track)
    try:
        text = adapters.write_to_string(timeline, _ADAPTER, rate=rate)
    except Exception as fault:  # noqa: BLE001 - the adapter has errors of its own for each case
        raise MediaError(f"{path.name} cannot be made of this piece: {fault}.") from None
    try:
        write_whole(path, text.encode())
    except OSError as fault:
        raise MediaError(not_saved(path, fault)) from None
    return _unsaid(piece)


def _reels(piece: Piece) -> dict[str, str]:
    """What each file is called in eight letters and digits, by its path.

    The columns of a list are told apart by spaces, and names such as ``BL`` mean black: each ends
    with a number of its own.
    """
    found: dict[str, str] = {}
    for clip in piece.clips:
        if clip.media.path not in found:
            number = f"{len(found) + 1:03d}"
            plain = "".join(x for x in clip.name.upper() if x.isascii() and x.isalnum())
            found[clip.media.path] = plain[: _REEL - len(number)] + number
    return found


def _item(piece: Piece, clip: PieceClip, reel: str) -> schema.Clip:
    rate = float(piece.rate.per_second)
    frames = piece.frames_of(clip)
    first = piece.rate.nearest_frame(clip.start)
    whole = TimeRange(
        RationalTime(0, rate), RationalTime(piece.rate.frames_until(clip.media.duration), rate)
    )
    reference = schema.ExternalReference(_line(clip.media.name), whole)
    item = schema.Clip(
        _line(clip.name),
        reference,
        TimeRange(RationalTime(first, rate), RationalTime(frames, rate)),
    )
    if clip.frozen:
        item.effects.append(schema.FreezeFrame())
    elif clip.speed != 1 or clip.reverse:
        speed = float(-clip.speed if clip.reverse else clip.speed)
        item.effects.append(schema.LinearTimeWarp(time_scalar=speed))
    item.metadata[_ADAPTER] = {"reel": reel}
    if clip.entry is not None:
        item.metadata[_ADAPTER]["comments"] = [f"WRINKLE: {_line(clip.entry.wrinkle.name)}"]
    return item


def _line(name: str) -> str:
    """A name without breaks of lines, which would begin another event."""
    return " ".join(name.split())


def _unsaid(piece: Piece) -> list[str]:
    found = ["An edit list holds no size and no folders: the files are found by their names."]
    if any(clip.entry is not None for clip in piece.clips[1:]):
        found.append("Wrinkles are dissolves of their length, with their names as comments.")
    if piece.bed is not None or piece.others:
        found.append("Music and further sound are not in it.")
    if any(clip.level or clip.muted or clip.rise or clip.fall for clip in piece.clips):
        found.append("Levels and fades of sound are not in it.")
    if piece.markers:
        found.append("Markers are not in it.")
    names = Counter(clip.media.name for clip in piece.clips)
    paths = {clip.media.path for clip in piece.clips}
    if len(paths) > len(names):
        found.append("Some files have the same name and cannot be told apart in it.")
    return found


def read_edit_list(path: Path) -> schema.Timeline:
    """The timeline in a list, whose timecodes are read at 30 frames a second: it does not say.

    Raises:
        OSError: it cannot be opened.
        DocumentError: it is no such list.
    """
    text = read_whole(path, _LARGEST).decode("utf-8", "replace")
    try:
        timeline: Any = adapters.read_from_string(text, _ADAPTER, rate=_USUAL)
    except Exception as fault:  # noqa: BLE001 - the adapter has errors of its own for each case
        raise DocumentError(f"it is no edit list that can be read ({fault})") from None
    if not isinstance(timeline, schema.Timeline) or not timeline.tracks:
        raise DocumentError("there is no clip in it")
    for track in timeline.tracks:
        _mend(track)
    return timeline


def _mend(track: schema.Track) -> None:
    """Files as the list names them, and cuts in the middle of their dissolves.

    The adapter gives what comes after a dissolve the file of what comes before it; and a list has a
    dissolve begin where the clip that comes in does.
    """
    items = list(track)
    for place, item in enumerate(items):
        if not isinstance(item, schema.Clip):
            continue
        comments = [str(x) for x in (item.metadata.get(_ADAPTER) or {}).get("comments", ())]
        name = next((x.removeprefix(_TO) for x in comments if x.startswith(_TO)), "")
        reference = item.media_reference
        if name and isinstance(reference, schema.ExternalReference):
            reference.target_url = name
        elif isinstance(reference, schema.MissingReference) and item.name:
            item.media_reference = schema.ExternalReference(item.name)
        crossing = items[place - 1] if place else None
        before = items[place - 2] if place > 1 else None
        if isinstance(crossing, schema.Transition) and isinstance(before, schema.Clip):
            _centre(before, crossing, item)


def _centre(before: schema.Clip, crossing: schema.Transition, after: schema.Clip) -> None:
    whole = crossing.in_offset.value + crossing.out_offset.value
    lead = float(int(whole) // 2)
    moved = lead - crossing.in_offset.value
    rate = crossing.out_offset.rate
    for clip, start, length in ((before, 0.0, moved), (after, moved, -moved)):
        shown = clip.source_range
        if shown is None or shown.duration.value + length <= 0:
            return
        clip.source_range = TimeRange(
            RationalTime(shown.start_time.value + start, shown.start_time.rate),
            RationalTime(shown.duration.value + length, shown.duration.rate),
        )
    crossing.in_offset = RationalTime(lead, rate)
    crossing.out_offset = RationalTime(whole - lead, rate)
