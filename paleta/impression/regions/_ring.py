"""Which regions are rings."""

from __future__ import annotations

import cv2
import numpy as np

from paleta.impression.regions._region_map import Region, RegionMap

EVEN_BAND, LEAST_HOLE = 0.82, 0.3
"""A ring is nearly as wide everywhere as at its widest, and its hole goes round at least so much of its outline."""


def is_ring(region_map: RegionMap, region: Region) -> bool:
    """Whether a region is a band of even width that goes round a hole of some size.

    Parameters
    ----------
    region_map
        H x W labels.
    region
        One of its regions.
    """
    top, left, bottom, right = region.bbox
    mask = np.pad((region_map.labels[top:bottom, left:right] == region.label).astype(np.uint8), 1)
    contours, nested = cv2.findContours(mask, cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)
    holes = [contour for contour, (_, _, _, parent) in zip(contours, nested[0], strict=True) if parent >= 0]
    if not holes:
        return False
    outer = max(cv2.arcLength(contour, True) for contour in contours)
    inner = max(cv2.arcLength(hole, True) for hole in holes)
    around = sum(cv2.arcLength(contour, True) for contour in contours)
    even = 2 * float(mask.sum()) / around
    return bool(inner >= LEAST_HOLE * outer and even >= EVEN_BAND * 2 * region.inradius_mm * region_map.px_per_mm)
