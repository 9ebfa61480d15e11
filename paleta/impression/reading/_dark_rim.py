"""Dark table that shows along a side of a scan: broad, dark, touching the edge, and ending in a sharp step."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

RIM_SCALE = 4
"""Looked for on a picture this many times smaller."""
DARK = 0.6
"""Of the paper's light; what is darker may be table."""
BROAD_MM = 1.4
"""Of lines that run out of the picture none is broader. Half of it counts, as the table goes on outside."""
STEP_MM, STEP = 0.5, 0.75
"""The table has less than this share of the light that lies so far outside of it; shade falls off slower."""
SOFT_MM = 0.35
"""The edge of a sheet is soft and throws a shadow; so much beside the table is no ink either."""


def dark_rim(pixels: NDArray[np.uint8], px_per_mm: float) -> NDArray[np.uint8] | None:
    """H x W, 255 on dark table that touches the edge, or None if there is none.

    Parameters
    ----------
    pixels
        H x W x 3 sRGB, 0..255
    px_per_mm
        pixels to a millimetre
    """
    height, width = pixels.shape[:2]
    size = (max(8, width // RIM_SCALE), max(8, height // RIM_SCALE))
    grey = cv2.cvtColor(cv2.resize(pixels, size, interpolation=cv2.INTER_AREA), cv2.COLOR_RGB2GRAY)
    edge = np.concatenate([grey[0], grey[-1], grey[:, 0], grey[:, -1]])
    limit = DARK * float(np.median(grey))
    if not (edge < limit).any():
        return None
    px = px_per_mm / RIM_SCALE
    broad = _disc(BROAD_MM / 2 * px)
    around = len(broad)
    # The table goes on outside of the picture.
    dark = cv2.copyMakeBorder(cv2.compare(grey, limit, cv2.CMP_LT), *(around,) * 4, cv2.BORDER_REPLICATE)
    opened = cv2.morphologyEx(dark, cv2.MORPH_OPEN, broad)[around:-around, around:-around]
    _, parts = cv2.connectedComponents(opened, connectivity=8)
    touching = set(np.concatenate([parts[0], parts[-1], parts[:, 0], parts[:, -1]]).tolist()) - {0}
    table = np.zeros(grey.shape, np.uint8)
    reach = _disc(max(1.0, STEP_MM * px))
    for part in touching:
        inside = (parts == part).astype(np.uint8)
        ring = cv2.dilate(inside, reach) - cv2.dilate(inside, np.ones((3, 3), np.uint8))
        beside = cv2.dilate(ring, reach) & inside
        if ring.any() and beside.any():
            step = float(np.median(grey[beside > 0])) / max(1.0, float(np.median(grey[ring > 0])))
            if step < STEP:
                table |= inside
    if not table.any():
        return None
    table = cv2.dilate(table * 255, _disc(max(1.0, SOFT_MM * px)))
    return np.asarray(cv2.resize(table, (width, height), interpolation=cv2.INTER_NEAREST), np.uint8)


def _disc(radius: float) -> NDArray[np.uint8]:
    side = 2 * max(1, round(radius)) + 1
    return np.asarray(cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (side, side)), np.uint8)
