"""A wrinkle as it is shown: all that a picture of it depends on but the number of its frame.

Whatever shows or writes a wrinkle does it through one of these: the window, the command line, a
file. Equal ones give the same bytes.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.picture.image import Image, Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.compose import PLAINLY, Manner, draw
from wrinkle.core.render.material import Material
from wrinkle.core.render.plan import plan_frame
from wrinkle.core.render.planned import FramePlan


@dataclass(frozen=True)
class Showing:
    """What is shown.

    Attributes:
        wrinkle: its frame rate says how long a frame is.
        material: what fills it.
        size: of the pictures.
        quality: how closely they are rendered.
        held: the id of a layer that is being changed: what lies below it is kept. Changes nothing
            in the pictures.
    """

    wrinkle: Wrinkle
    material: Material
    size: Size
    quality: Quality = Quality.FINAL
    held: str = ""

    def plan(self, frame: int) -> FramePlan:
        """All that the picture of a frame depends on, counted from the cut."""
        return plan_frame(self.wrinkle, self.material, frame, self.size, self.quality, self.held)

    def resized(self, size: Size) -> Showing:
        """The same in another size."""
        return replace(self, size=size)

    def drawn(self, frame: int, plan: FramePlan, manner: Manner = PLAINLY) -> Image:
        """The picture of a frame, from its plan.

        Raises:
            MediaError: a source cannot be read.
        """
        return draw(plan, self.material, manner)

    def is_costly(self, frame: int) -> bool:
        """Whether more than a plain clip is seen."""
        return frame in self._window

    def is_beside(self, frame: int) -> bool:
        """Whether a frame is seen only when the window is played."""
        return frame not in self._window

    @cached_property
    def _window(self) -> range:
        # Asked for each frame that waits, each time that one is taken.
        return self.wrinkle.frames

    def image(self, frame: int) -> Image:
        """The picture of a frame.

        Args:
            frame: counted from the cut.

        Raises:
            MediaError: a source cannot be read.
        """
        return self.drawn(frame, self.plan(frame))
