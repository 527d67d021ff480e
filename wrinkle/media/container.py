"""Opens video files: only ordinary ones, only of the kinds that are named here, and no others.

A file that calls itself a video can be a list of other files, or of places in the network; FFmpeg
would open them all. None of what is named here leads anywhere else.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path

import av
import cv2
from av.codec.context import CodecContext
from av.container.input import InputContainer
from av.stream import Disposition
from av.video.codeccontext import VideoCodecContext
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

from wrinkle.core.errors import InputError, MediaError
from wrinkle.files.whole import check_ordinary
from wrinkle.media.animated_webp import as_video, is_animated_webp

KINDS = (
    "mov", "matroska", "avi", "mpegts", "mpeg", "mpegvideo", "h264", "hevc", "m4v", "ivf", "flv",
    "asf", "ogg", "mxf", "dv", "gif", "apng", "wav", "w64", "aiff", "flac", "mp3", "aac",
)  # fmt: skip
"""FFmpeg's names; ``mov`` is MP4 as well, ``matroska`` WebM, ``ogg`` Opus. The last ones are those
of sound alone."""
_ALPHA_DECODERS = {"vp8": "libvpx", "vp9": "libvpx-vp9"}
_OPTIONS = {"protocol_whitelist": "file", "format_whitelist": ",".join(KINDS)}


def opened(path: Path) -> tuple[InputContainer, VideoStream]:
    """The file, and the stream of its pictures.

    Raises:
        MediaError: it is no video that can be read; names it and the way out.
    """
    container = opened_any(path)
    stream = next((x for x in container.streams.video if not _cover(x)), None)
    if stream is None or stream.codec_context is None:
        container.close()
        if stream is not None:
            raise unreadable(path)
        raise MediaError(f"{path.name} has no pictures in it; choose a video file.")
    stream.thread_type = "SLICE"
    return container, stream


def opened_any(path: Path) -> InputContainer:
    """The file, whatever streams it has.

    Raises:
        MediaError: it is no video that can be read; names it and the way out.
    """
    try:
        check_ordinary(path)
        if path.stat().st_size == 0:
            raise MediaError(f"{path.name} is empty; use a whole copy of it.")
        found: InputContainer
        if is_animated_webp(path):
            found = av.open(as_video(path), format="matroska")
            return found
        # With the protocol in front, a colon in the name is not taken for one.
        found = av.open(f"file:{path}", options=_OPTIONS, metadata_errors="replace")
        return found
    except FileNotFoundError:
        raise MediaError(f"{path.name} cannot be opened: there is no such file.") from None
    except IsADirectoryError:
        raise MediaError(f"{path.name} is a folder; choose a video file.") from None
    except (av.FFmpegError, ValueError) as fault:
        if isinstance(fault, InputError):
            raise
        if _is_picture(path):
            raise MediaError(
                f"{path.name} is a picture, not a clip; a slot for a clip needs a video."
            ) from None
        raise unreadable(path) from None
    except OSError as fault:
        raise MediaError(f"{path.name} cannot be opened: {fault.strerror}.") from None


def pictures(
    container: InputContainer, stream: VideoStream, passed: Callable[[], object] | None = None
) -> Iterator[VideoFrame]:
    """The decoded pictures from where the file stands.

    Args:
        container, stream: as ``opened`` gives them.
        passed: is called for each packet that cannot be decoded, and the next one is decoded, as
            for headers in the midst of joined files; without it that is a fault.
    """
    context = _with_alpha(stream) or stream.codec_context
    for packet in container.demux(stream):
        try:
            decoded = context.decode(packet)
        except av.error.InvalidDataError:
            if passed is None:
                raise
            passed()
            continue
        yield from decoded


def _with_alpha(stream: VideoStream) -> VideoCodecContext | None:
    """A decoder that gives the alpha of VP8 and VP9, which FFmpeg's own leaves out."""
    codec = _ALPHA_DECODERS.get(stream.codec_context.name)
    if codec is None or stream.metadata.get("alpha_mode", stream.metadata.get("ALPHA_MODE")) != "1":
        return None
    context = CodecContext.create(codec, "r")
    return context if isinstance(context, VideoCodecContext) else None


def unreadable(path: Path) -> MediaError:
    """Says that a file is no video, or none that is whole enough."""
    return MediaError(
        f"{path.name} cannot be read as a video; it is damaged, cut short or of another kind. "
        "Use a whole copy, or convert it to MP4."
    )


def _cover(stream: VideoStream) -> bool:
    """Whether it is the picture of a record, and not what is played."""
    return bool(stream.disposition & Disposition.attached_pic)


def _is_picture(path: Path) -> bool:
    try:
        return bool(cv2.haveImageReader(str(path)))
    except cv2.error:
        return False
