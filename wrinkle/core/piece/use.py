"""A wrinkle on a cut of a piece, and how far it reaches."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cached_property

from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.slots import GIVEN, INCOMING
from wrinkle.core.design.document.sources import SlotSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.piece.media import Media
from wrinkle.core.reuse.hearing import NOTHING_CARRIED, in_slots
from wrinkle.core.reuse.use import AS_MADE, Choices, Use, resolved
from wrinkle.core.sound.mixing import WrinkleSounds
from wrinkle.core.time.rate import FrameRate


@dataclass(frozen=True)
class Reach:
    """How far a use reaches from the cut, in frames.

    Attributes:
        lead, tail: the window before and after the cut.
        before, after: frames of the incoming clip that are seen before the cut, and of the
            outgoing one after it: what their handles must have.
    """

    lead: int
    tail: int
    before: int
    after: int


@dataclass(frozen=True)
class PieceUse:
    """A wrinkle on a cut of a piece.

    Attributes:
        bundle: the wrinkle as it was designed, with the files that it carries.
        choices: what is chosen besides.
        fillings: what fills its further slots, by their key; the two clips are given by the cut.
    """

    bundle: Bundle
    choices: Choices = AS_MADE
    fillings: Mapping[str, Media] = field(default_factory=dict)

    @property
    def wrinkle(self) -> Wrinkle:
        """The wrinkle as it was designed."""
        return self.bundle.wrinkle

    def at(self, rate: FrameRate) -> Wrinkle:
        """The plain wrinkle that it comes to at a rate.

        Raises:
            InputError: something chosen is not possible.
        """
        found = self._plain.get(rate)
        if found is None:
            found = self._plain[rate] = resolved(Use(self.wrinkle, {}, self.choices), rate)
        return found

    def reach(self, rate: FrameRate) -> Reach:
        """How far it reaches at a rate.

        Raises:
            InputError: something chosen is not possible.
        """
        found = self._reaches.get(rate)
        if found is None:
            wrinkle = self.at(rate)
            lead, tail = -wrinkle.first_frame, wrinkle.end_frame
            found = self._reaches[rate] = Reach(lead, tail, *_handles(wrinkle))
        return found

    def sounds(
        self,
        rate: FrameRate,
        sources: Mapping[str, object] = NOTHING_CARRIED,
        carried: Callable[[Bundle], Mapping[str, object]] = lambda bundle: NOTHING_CARRIED,
    ) -> WrinkleSounds:
        """What it sounds like at a rate, without the clips.

        Args:
            rate: of the piece.
            sources: the files of the piece by their path.
            carried: gives the sounds among a wrinkle's assets, by their name.

        Raises:
            InputError: something chosen is not possible, or an asset cannot be read.
        """
        if all(not sound.slot for sound in self.wrinkle.sounds):
            found = self._sounds.get(rate)
            if found is None:
                found = self._sounds[rate] = WrinkleSounds(self.at(rate))
            return found
        # What fills its slots may be read later, or be another file.
        chosen = {key: sources.get(media.path) for key, media in self.fillings.items()}
        plain = self.at(rate)
        return WrinkleSounds(plain, in_slots(plain, chosen, carried(self.bundle)))

    # A piece has many cuts, is asked at every edit, and shares its uses with the one before.

    @cached_property
    def _plain(self) -> dict[FrameRate, Wrinkle]:
        return {}

    @cached_property
    def _sounds(self) -> dict[FrameRate, WrinkleSounds]:
        return {}

    @cached_property
    def _reaches(self) -> dict[FrameRate, Reach]:
        return {}


def _handles(wrinkle: Wrinkle) -> tuple[int, int]:
    """Frames of the incoming clip before its cut, and of the outgoing one after it, that are seen.

    What a layer's speed, slide or freeze makes of its clip's time counts.
    """
    rate = wrinkle.frame_rate
    earliest = latest = Fraction(0)
    for layer in wrinkle.layers:
        if not isinstance(layer.source, SlotSource) or layer.source.slot not in GIVEN:
            continue
        for frame in wrinkle.frames:
            time = rate.seconds(frame)
            if layer.span.holds(time):
                own = layer.timing.clip_time(time, wrinkle.clock(layer, time))
                if layer.source.slot == INCOMING.key:
                    earliest = min(earliest, own)
                else:
                    # The picture that begins then is seen for a frame.
                    latest = max(latest, own + rate.seconds(1))
    return -rate.frame_at(earliest), rate.frames_until(latest)
