"""Pencil strokes follow the form: along the edge of what is coloured near it, the hand's own way far from any edge.

That they do is common practice; the lengths are from memory.
"""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

STROKE_MM = 3.0
HAND_DEG = 58.0
"""How a right hand that rests on the card draws by itself, against the clock from the right."""
HAND = 0.06
"""Its pull against that of a near edge."""
FORM_MM = 0.9
"""Over this much a stroke goes from one edge's way to another's."""
NEAR_MM = 6.0
"""An edge farther off than this guides no stroke."""
STEP_PX = 3.0

Floats = NDArray[np.float32]


def strokes(noise: Floats, inner: Floats, px_per_mm: float) -> Floats:
    """`noise` (h x w) drawn out along the strokes, of standard deviation 1; `inner` is the distance in px of every
    pixel to the edge of its region. The mean over each stroke's length, as in a line integral convolution.

    Parameters
    ----------
    noise
        h x w
    inner
        h x w, distance to the edge of the region in pixels
    px_per_mm
        pixels to a millimetre
    """
    along = _directions(inner, px_per_mm)
    rows, cols = noise.shape
    start = cv2.merge(np.meshgrid(np.arange(cols, dtype=np.float32), np.arange(rows, dtype=np.float32)))
    drawn = noise.copy()
    for sense in (STEP_PX, -STEP_PX):
        place, step = start, sense * along
        for _ in range(max(1, round(STROKE_MM * px_per_mm / 2 / STEP_PX))):
            place = cv2.add(place, step)
            drawn += cv2.remap(noise, place, None, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REFLECT)
            there = cv2.remap(along, place, None, cv2.INTER_NEAREST, borderMode=cv2.BORDER_REPLICATE)
            # A stroke has no front: it goes on in whichever of the two senses does not turn back.
            turned = there[..., 0] * step[..., 0] + there[..., 1] * step[..., 1] < 0
            step = there * np.where(turned, -STEP_PX, STEP_PX).astype(np.float32)[..., None]
    return np.asarray(drawn / max(float(drawn.std()), 1e-6), np.float32)


def _directions(inner: Floats, px_per_mm: float) -> Floats:
    """h x w x 2: a stroke's direction (x, y) of length 1, sense left open. Directions are averaged by their doubled
    angles, in which opposite senses are one."""
    across_x, across_y = (cv2.Sobel(inner, cv2.CV_32F, dx, 1 - dx, ksize=3, scale=1 / 8) for dx in (1, 0))
    near = np.exp(-((inner / (NEAR_MM * px_per_mm)) ** 2))
    doubled = (near * (across_y**2 - across_x**2), -2 * near * across_x * across_y)
    # Rows grow downwards, so angles against the clock are negative here.
    hand = -2 * np.radians(HAND_DEG)
    cos, sin = (
        cv2.GaussianBlur(part, (0, 0), FORM_MM * px_per_mm) + HAND * float(own)
        for part, own in zip(doubled, (np.cos(hand), np.sin(hand)), strict=True)
    )
    angle = np.arctan2(sin, cos) / 2
    return np.asarray(cv2.merge([np.cos(angle), np.sin(angle)]), np.float32)
