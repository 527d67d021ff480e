"""The limits that checks test against, each with its source; those without one are our judgement.

Common practice has no source and is marked so.
"""

from __future__ import annotations

AT_REST = 1.5
"""Levels of 255: the mean of the worst colour by which a frame at rest may differ."""
AT_REST_ANYWHERE = 12.0
"""Levels: the same of any sixteenth of the frame."""
BARE = 0.0005
"""The share of the frame that may be bare: about 28 of the measured pixels."""
BREAK_SHARE = 0.6
"""By how much of the faster one the motions on both sides of the cut may differ."""
BREAK_SPEED = 3.0
"""Per cent of the short side a frame: slower motion does not break noticeably."""
DENSEST_AWAY = 2
"""Frames: an overlay that is densest so far from the cut misses it."""
ENLARGED = 1.3
"""Common practice: pixels of the frame for one of the clip, beyond which it looks soft."""
STILL = 1.0
"""Per cent of the short side a frame: what moves faster is not seen sharply anyway."""
LONG_ENOUGH = 3
"""Frames for which something soft has to be seen so that one sees that it is."""
WORDS_A_SECOND = 3.0
"""Common practice: what people read."""
SHORTEST_WORDS = 0.7
"""Common practice: seconds that any words are to be seen."""
BEYOND_WHITE = 0.10
"""The share of the frame that may lose its detail by being brighter than white."""
INAUDIBLE = -60.0
"""dBFS: what is never louder is silent beside anything."""
LOUDEST_OVER, SOFTEST_UNDER = 14.0, 24.0
"""LU over and under the clips' loudest moment: a judgement of ours, by ear."""
LOUDEST_ALONE, SOFTEST_ALONE = -8.0, -45.0
"""LUFS at the loudest moment where the clips are silent: a judgement of ours."""
OUT_OF_STEP = 4
"""Frames: what strikes further from the fastest moment belongs to something else."""
HIT_AWAY = 2
"""Frames: a hit so near to the cut misses it; further away it is meant to be there."""
JUMP = 4.0
"""So many times further from both neighbours than these are from each other is a stray frame."""
JUMP_LEAST = 0.04
"""Mean difference of luma, 0…1: smaller jumps are not noticed."""
