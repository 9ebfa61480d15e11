"""Shading that the stamp itself prints: hatching, dots, solid two-tone patches."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.impression import RegionMap
from paleta.light._relief import SCALE

OUTLINE_MM = 0.7
"""Ink this near to another region is outline, not shading."""
REACH_MM = 1.3
"""Dots and strokes are seen as a tone over about this distance."""
DENSE = 0.35
"""Share of ink that counts as full shade."""


def printed_shading(region_map: RegionMap) -> NDArray[np.float32]:
    """h x w float32 on every SCALE-th pixel, 0 = no printed shading, 1 = dense; tones do not run across outlines."""
    labels = region_map.labels
    # A pixel is near an outline where the smallest and the largest label around it differ.
    width = 2 * round(OUTLINE_MM * region_map.px_per_mm) + 1
    kernel = np.ones((width, width), np.uint8)
    plain = labels.astype(np.float32)
    inner = cv2.dilate(plain, kernel) == cv2.erode(plain, kernel)
    inner &= labels > 0
    marks = (region_map.ink & inner).astype(np.float32)[::SCALE, ::SCALE]
    counted = inner.astype(np.float32)[::SCALE, ::SCALE]
    if not marks.any():
        return np.zeros(marks.shape, np.float32)
    sigma = REACH_MM * region_map.px_per_mm / SCALE
    tone = cv2.GaussianBlur(marks, (0, 0), sigma) / np.maximum(cv2.GaussianBlur(counted, (0, 0), sigma), 0.05)
    tone = np.clip(tone / DENSE, 0, 1)
    tone[labels[::SCALE, ::SCALE] == 0] = 0
    return tone.astype(np.float32)
