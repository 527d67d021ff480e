"""All formats, by key. A new one is one more declaration in the list.

Quality is one number, 0…100, that means about the same everywhere: at 75 noisy and moving pictures
differ from what was rendered by as much in each (docs/export.md has what was measured).
"""

from __future__ import annotations

from pathlib import Path

from wrinkle.core.errors import InputError
from wrinkle.core.registering import Registry
from wrinkle.media.output.format import Alpha, Format, Into, Options

USUAL_QUALITY = 75.0
_LONGEST = 8192
"""What players can show."""


def _between(low: float, usual: float, high: float, quality: float) -> float:
    """A value that is ``low`` at 0, ``usual`` at the usual quality and ``high`` at 100."""
    if quality <= USUAL_QUALITY:
        return low + (usual - low) * quality / USUAL_QUALITY
    return usual + (high - usual) * (quality - USUAL_QUALITY) / (100.0 - USUAL_QUALITY)


def _h264(quality: float) -> Options:
    return {"crf": f"{_between(36, 16, 4, quality):.2f}"}


def _h265(quality: float) -> Options:
    crf = _between(40, 17, 4, quality)
    return {"crf": f"{crf:.2f}", "x265-params": f"log-level=error:crf={crf:.2f}"}


def _vp9(quality: float) -> Options:
    return {"crf": f"{round(_between(63, 20, 1, quality))}", "b": "0"}


def _av1(quality: float) -> Options:
    # With finer steps this encoder brightens pictures of 10 bits, by up to one level of 8.
    return {"crf": f"{round(_between(62, 21, 9, quality))}"}


def _webp(quality: float) -> Options:
    return {"quality": f"{_between(45, 85, 100, quality):.0f}"}


H264 = Format(
    "h264", "MP4, H.264", "plays everywhere; to upload and to send", ".mp4", Into.VIDEO, "mp4",
    "libx264", {8: "yuv420p"}, sound="aac", quality=_h264, options={"preset": "veryfast"},
    even=True, most=_LONGEST, container_options={"movflags": "+faststart"},
)  # fmt: skip
FORMATS: Registry[Format] = Registry(
    "format",
    (
        H264,
        Format(
            "h265", "MP4, H.265", "half as large as H.264; newer devices play it", ".mp4",
            Into.VIDEO, "mp4", "libx265", {8: "yuv420p", 10: "yuv420p10le"}, sound="aac",
            quality=_h265, options={"preset": "fast", "x265-params": "log-level=error"},
            tag="hvc1", even=True, most=_LONGEST,
            container_options={"movflags": "+faststart"},
        ),
        Format(
            "vp9", "WebM, VP9", "for pages; the only small video with transparency", ".webm",
            Into.VIDEO, "webm", "libvpx-vp9", {8: "yuv420p"}, {8: "yuva420p"}, sound="libopus",
            quality=_vp9, options={"deadline": "good", "cpu-used": "4", "row-mt": "1"},
            even=True, most=_LONGEST,
        ),
        Format(
            "av1", "WebM, AV1", "the smallest; slower to make, newer devices play it", ".webm",
            Into.VIDEO, "webm", "libsvtav1", {8: "yuv420p", 10: "yuv420p10le"}, sound="libopus",
            quality=_av1, options={"preset": "8", "svtav1-params": "log-level=1"}, even=True,
            most=_LONGEST,
        ),
        Format(
            "prores422", "MOV, ProRes 422 HQ", "to go on editing", ".mov", Into.VIDEO, "mov",
            "prores_ks", {10: "yuv422p10le"}, sound="pcm_s24le", options={"profile": "3",
            "vendor": "apl0"}, even=True, most=_LONGEST,
        ),
        Format(
            "prores4444", "MOV, ProRes 4444", "to go on editing, with transparency", ".mov",
            Into.VIDEO, "mov", "prores_ks", {10: "yuv444p10le"}, {10: "yuva444p10le"},
            sound="pcm_s24le", options={"profile": "4", "vendor": "apl0", "alpha_bits": "16"},
            even=True, most=_LONGEST,
        ),
        Format(
            "ffv1", "MKV, FFV1", "to keep: every bit comes back", ".mkv", Into.VIDEO, "matroska",
            "ffv1", {8: "bgr0", 10: "gbrp10le", 12: "gbrp12le", 16: "gbrp16le"},
            {8: "bgra", 10: "gbrap10le", 12: "gbrap12le", 16: "gbrap16le"}, sound="flac",
            options={"level": "3", "slicecrc": "1", "slices": "4"},
        ),
        Format(
            "png", "PNG pictures", "a picture for each frame, for any program", ".png",
            Into.FRAMES, "image2", "png", {8: "rgb24", 16: "rgb48be"}, {8: "rgba", 16: "rgba64be"},
        ),
        Format(
            "tiff", "TIFF pictures", "a picture for each frame, for print and retouching", ".tif",
            Into.FRAMES, "image2", "tiff", {8: "rgb24", 16: "rgb48le"},
            {8: "rgba", 16: "rgba64le"}, options={"compression_algo": "deflate"},
        ),
        Format(
            "exr", "OpenEXR pictures", "linear light without limits, for compositing", ".exr",
            Into.FRAMES, "image2", "exr", {16: "gbrpf32le", 32: "gbrpf32le"},
            {16: "gbrapf32le", 32: "gbrapf32le"}, Alpha.PREMULTIPLIED,
            options={"compression": "zip16"}, linear=True,
        ),
        Format(
            "webp", "Animated WebP", "a picture that moves, small and with transparency", ".webp",
            Into.MOVING, "webp", "libwebp_anim", {8: "bgra"}, {8: "bgra"}, quality=_webp,
            options={"compression_level": "4"}, container_options={"loop": "0"}, most=16_383,
        ),
        Format(
            "apng", "Animated PNG", "a picture that moves, every bit of it", ".png", Into.MOVING,
            "apng", "apng", {8: "rgb24"}, {8: "rgba"}, container_options={"plays": "0"},
        ),
        Format(
            "gif", "GIF", "a picture that moves, shown by everything; 256 colours", ".gif",
            Into.MOVING, "gif", "gif", {8: "pal8"}, container_options={"loop": "0"}, most=65_535,
        ),
        Format(
            "sheet", "Contact sheet, PNG", "all frames on one picture; size is that of a frame",
            ".png", Into.SHEET, "image2", "png", {8: "rgb24"},
        ),
        Format(
            "wav", "WAV, PCM", "what is heard, without pictures; to go on editing", ".wav",
            Into.SOUND, "wav", "pcm_s24le", {24: "s32", 16: "s16"}, sound="pcm_s24le",
        ),
        Format(
            "flac", "FLAC", "what is heard, without pictures; half as large, every bit of it",
            ".flac", Into.SOUND, "flac", "flac", {24: "s32", 16: "s16"}, sound="flac",
        ),
    ),
)  # fmt: skip


def format_for(path: Path, key: str = "") -> Format:
    """The format of that key, or the usual one for a file of that name.

    Raises:
        InputError: there is none of that key, or for that ending; names those that there are.
    """
    if key:
        if key not in FORMATS:
            raise InputError(f"There is no format '{key}'; use {', '.join(FORMATS)}.")
        return FORMATS[key]
    suffix = path.suffix.lower()
    for found in FORMATS.values():
        # A folder of pictures is asked for by name.
        if found.suffix == suffix and found.into is not Into.FRAMES:
            return found
    endings = dict.fromkeys(x.suffix for x in FORMATS.values() if x.into is not Into.FRAMES)
    raise InputError(
        f"{path.name} has no ending that is written; use {', '.join(endings)}, or say a format."
    )
