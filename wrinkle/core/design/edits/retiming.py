"""Another rate or length for a wrinkle.

Keyframes and the ends of layers stay where they are in time, or stretch with their side of the
cut; those on the window's first or last instant move with it. What keeps its length moves as a
whole. What stands on whole frames and holds, stands on whole frames afterwards.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from dataclasses import replace as replaced
from fractions import Fraction

from msgspec.structs import replace

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sounds import FileFit, WrinkleSound
from wrinkle.core.design.document.timing import Blink, Span
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import lane_edits, layer_edits
from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Hold
from wrinkle.core.motion.held_at import HeldAt
from wrinkle.core.motion.track import CUT, IncomingHalf, Keyframe, Track
from wrinkle.core.motion.values import Value, scaled
from wrinkle.core.synthesis.made_sounds import Lasts
from wrinkle.core.time.rate import FrameRate


@dataclass(frozen=True)
class Retiming:
    """What is asked for; all lengths in seconds.

    Attributes:
        rate: frames per second.
        lead, tail: the new lengths before and after the cut.
        stretch: what lies between cut and end moves in proportion, instead of staying in time.
    """

    rate: FrameRate
    lead: Fraction
    tail: Fraction
    stretch: bool = False


def retime(wrinkle: Wrinkle, wanted: Retiming) -> Wrinkle:
    """The wrinkle in another rate and length.

    Raises:
        InputError: a length is not possible, or keyframes would be left outside of it.
    """
    if (wanted.rate, wanted.lead, wanted.tail) == (wrinkle.frame_rate, wrinkle.lead, wrinkle.tail):
        return wrinkle
    replace(wrinkle, lead=wanted.lead, tail=wanted.tail)  # refuses impossible lengths by name
    longer = replace(
        wrinkle,
        frame_rate=wanted.rate,
        lead=max(wrinkle.lead, wanted.lead),
        tail=max(wrinkle.tail, wanted.tail),
    )
    for layer in wrinkle.layers:
        for key in layer.lanes():
            ref = SettingRef(layer.id, key)
            setting = ref.of(wrinkle)
            if setting.track is not None:
                held = kept_by(wrinkle, layer, key)
                track = _Moving(wrinkle, wanted, held).track(setting.track, setting.rest)
                longer = lane_edits.with_track(longer, ref, track)
        moved = _Moving(wrinkle, wanted, kept_by(wrinkle, layer))
        now = longer.layer(layer.id)
        timing = now.timing
        if timing.blink is not None:
            timing = replace(timing, blink=_blink(timing.blink, wrinkle.frame_rate, wanted.rate))
        now = replace(now, span=moved.span(layer.span), timing=timing)
        if now != longer.layer(layer.id):
            longer = layer_edits.with_layer(longer, now)
    sounds = tuple(_sound(sound, wrinkle, wanted) for sound in wrinkle.sounds)
    return replace(longer, lead=wanted.lead, tail=wanted.tail, sounds=sounds)


def _sound(sound: WrinkleSound, wrinkle: Wrinkle, wanted: Retiming) -> WrinkleSound:
    """A sound whose hit moves with what lies there; what lasts as long as the motion stretches."""
    if not wanted.stretch:
        return sound
    lead, tail = wanted.lead / wrinkle.lead, wanted.tail / wrinkle.tail
    whole = (wanted.lead + wanted.tail) / (wrinkle.lead + wrinkle.tail)
    stretched = {Lasts.ITSELF: Fraction(1), Lasts.WINDOW: whole, Lasts.LEAD: lead}
    lasts = sound.kind.lasts if sound.kind is not None else Lasts.ITSELF
    if sound.file.fit is FileFit.STRETCHED:
        lasts = Lasts.WINDOW
    times = stretched[lasts]
    hit = sound.hit * (lead if sound.hit < CUT else tail)

    def moved(key: Keyframe) -> Keyframe:
        time = hit + (key.time - sound.hit) * times
        return replace(key, time=min(max(time, -wanted.lead), wanted.tail))

    for address in sound.lanes():
        setting = sound.setting(address)
        if setting.track is not None:
            # The halves of a sound's lane need not be as long as each other.
            track = setting.track.released(setting.rest)
            track = replace(track, keys=_in_order(map(moved, track.keys)))
            sound = sound.with_setting(address, replace(setting, track=track))
    spec = sound.spec("length")
    length = sound.length.mapped(lambda own: spec.limited(scaled(own, float(times))))
    return replace(sound, hit=hit, length=length)


def kept_by(wrinkle: Wrinkle, layer: Layer, key: str | None = None) -> HeldAt | None:
    """Where a layer, or a lane of it, is held because it keeps its length.

    Masks that were followed or painted belong to the frames of a clip, which never stretch: they
    are held at the cut.

    Args:
        wrinkle, layer: the layer in its wrinkle.
        key: the address of the lane; None for the layer's own span.
    """
    if key is not None:
        track = layer.setting(key).track
        if track is not None and track.keeps is not None:
            return track.keeps
        mask = SettingRef(layer.id, key).address.mask
        if mask and layer.mask(mask).confidence:
            return HeldAt.CUT
    above: Layer | None = layer
    while above is not None:
        if above.keeps is not None:
            return above.keeps
        above = wrinkle.layer(above.group) if above.group is not None else None
    return None


def pin_frames(wrinkle: Wrinkle) -> list[tuple[str, list[Fraction]]]:
    """The frames, whole or broken, on which each lane has keyframes."""
    found = []
    for owner in wrinkle.owners:
        for key in owner.lanes():
            track = owner.setting(key).track
            keys = track.keys if track is not None else ()
            frames = [one.time * wrinkle.frame_rate.per_second for one in keys]
            found.append((f"{owner.name} · {owner.spec(key).label}", frames))
    return found


@dataclass(frozen=True)
class _Moving:
    """Where the times of one lane or layer go."""

    wrinkle: Wrinkle
    wanted: Retiming
    held: HeldAt | None

    def track(self, track: Track, rest: Value) -> Track:
        made = track.incoming is not IncomingHalf.OWN
        at_cut = sum(key.time == CUT for key in track.keys)
        if made and self.held is None and self._uneven:
            # The two halves are no longer each other's mirror.
            track = track.released(rest)
        moving = self
        if self.held is not None and (made or at_cut > 1):
            # A jump at the cut, or a half that is made from the other, has its place there.
            moving = replaced(self, held=HeldAt.CUT)
        elif self._crosses([key.time for key in track.keys]):
            moving = replaced(self, held=None)
        keys = [moving.key(key) for key in track.keys]
        return replace(track, keys=_in_order(self._apart(track.keys, keys)))

    def key(self, key: Keyframe) -> Keyframe:
        wrinkle, wanted = self.wrinkle, self.wanted
        time = self.time(key.time)
        was_inside = -wrinkle.lead <= key.time <= wrinkle.tail
        if self.held is None and was_inside and not -wanted.lead <= time <= wanted.tail:
            frame = wrinkle.frame_rate.nearest_frame(key.time)
            raise InputError(
                f"A pin on frame {frame} would be left outside; stretch the pins with the length."
            )
        if isinstance(key.ease, Hold) and self._whole(key.time):
            time = self._nearest(time)
        return replace(key, time=time)

    def span(self, span: Span) -> Span:
        ends = [x for x in (span.start, span.end) if x is not None]
        moving = replaced(self, held=None) if self._crosses(ends) else self
        start, end = (None if x is None else moving._edge(x) for x in (span.start, span.end))
        if start is not None and end is not None and start >= end:
            end = start + self.wanted.rate.seconds(1)
        return Span(start, end)

    def time(self, time: Fraction) -> Fraction:
        """Where a time goes."""
        wrinkle, wanted = self.wrinkle, self.wanted
        match self.held:
            case HeldAt.CUT:
                return time
            case HeldAt.FIRST:
                return time + wrinkle.lead - wanted.lead
            case HeldAt.LAST:
                return time + wanted.tail - wrinkle.tail
        if time == -wrinkle.lead:
            return -wanted.lead
        if time == wrinkle.tail:
            return wanted.tail
        if not wanted.stretch:
            return time
        return time * (wanted.lead / wrinkle.lead if time < 0 else wanted.tail / wrinkle.tail)

    def _crosses(self, times: Sequence[Fraction]) -> bool:
        """Whether what is held at an end, and lies on its side, would be pushed across the cut.

        In a window too short to keep its length it stretches as all else does.
        """
        moved = [self.time(time) for time in times]
        if self.held is HeldAt.FIRST and times and max(times) <= CUT:
            return max(moved) > CUT
        if self.held is HeldAt.LAST and times and min(times) >= CUT:
            return min(moved) < CUT
        return False

    @property
    def _uneven(self) -> bool:
        """Whether one side of the cut stretches more than the other."""
        wrinkle, wanted = self.wrinkle, self.wanted
        return wanted.stretch and wanted.lead * wrinkle.tail != wanted.tail * wrinkle.lead

    def _edge(self, time: Fraction) -> Fraction:
        moved = self.time(time)
        return self._nearest(moved) if self._whole(time) else moved

    def _whole(self, time: Fraction) -> bool:
        return (time * self.wrinkle.frame_rate.per_second).denominator == 1

    def _nearest(self, time: Fraction) -> Fraction:
        return self.wanted.rate.seconds(self.wanted.rate.nearest_frame(time))

    def _apart(self, old: Sequence[Keyframe], moved: list[Keyframe]) -> list[Keyframe]:
        """What held for a frame or longer holds for one at the least, where there is room.

        It gives way from the cut outward, never over another keyframe.
        """
        frame, keys = self.wanted.rate.seconds(1), list(moved)

        def caught_up(at: int) -> bool:
            held = isinstance(old[at].ease, Hold) and old[at].time != old[at + 1].time
            return held and keys[at + 1].time <= keys[at].time

        for at in range(len(keys) - 2, -1, -1):
            earlier = keys[at + 1].time - frame
            if caught_up(at) and old[at].time < CUT and (at == 0 or keys[at - 1].time < earlier):
                keys[at] = replace(keys[at], time=earlier)
        for at in range(len(keys) - 1):
            later = keys[at].time + frame
            last = at + 2 == len(keys)
            if caught_up(at) and old[at].time >= CUT and (last or later < keys[at + 2].time):
                keys[at + 1] = replace(keys[at + 1], time=later)
        return keys


def _blink(blink: Blink, before: FrameRate, after: FrameRate) -> Blink:
    """The same number of seconds in whole frames, one at the least."""

    def frames(count: int) -> int:
        return max(1, after.nearest_frame(before.seconds(count)))

    return Blink(frames(blink.shown), frames(blink.hidden))


def _in_order(keys: Iterable[Keyframe]) -> tuple[Keyframe, ...]:
    """Without those that a later one has caught up with: at a lower rate frames fall together."""
    kept: list[Keyframe] = []
    for key in keys:
        while kept and (kept[-1].time > key.time or kept[-1].time == key.time != CUT):
            kept.pop()
        kept.append(key)
    return tuple(kept)
