"""Pixels: the image type, transfer functions, placement, resampling, motion blur, blending.

Knows nothing of documents or frames of a clip.
"""

import cv2

from wrinkle.core.picture.allocation import keep_pages

# Frames and strips are spread over threads by the renderer; OpenCV's own threads would fight them.
cv2.setNumThreads(1)
keep_pages()
