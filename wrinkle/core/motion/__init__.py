"""Values along time: eases, tracks of keyframes, the two halves at the cut. Knows only time."""
