"""Lines to cut along, as closed paths in millimetres: round things that are cut out, inside masks."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray
from skimage.measure import approximate_polygon, find_contours

SMALLEST_MM2 = 2.0
"""Specks are not cut out. Common practice: nothing smaller can be held."""
STRAIGHT_MM = 0.08
"""How far a path may lie off the line it follows: less than a knife's edge can do."""
MASK_INSIDE_MM = 0.3
"""A mask is cut slightly inside the line, so that no bare rim stays (common practice; the figure from memory)."""


def cut_lines(
    labels: NDArray[np.int32], regions: Sequence[int], margin_mm: float, px_per_mm: float
) -> list[NDArray[np.float64]]:
    """Closed outlines (N x 2, x and y in mm, first point again at the end) `margin_mm` outside of regions.

    A negative margin lies inside of them. Holes narrower than what could be cut are left; others come as paths of
    their own. The line is the level of the distance to the regions' edge, which is exact for any margin
    [Danielsson1980], followed between pixels [Lorensen1987].

    Parameters
    ----------
    labels
        H x W int32.
    regions
        Labels that are cut round as one.
    margin_mm
        Outwards; below 0 inwards.
    px_per_mm
        Of `labels`.

    Returns
    -------
    Paths of N x 2 float64, mm.
    """
    mask = np.isin(labels, regions)
    rows, columns = (np.flatnonzero(mask.any(axis=axis)) for axis in (1, 0))
    if not rows.size:
        return []
    room = int(np.ceil(abs(margin_mm) * px_per_mm)) + 3
    top, left = rows[0], columns[0]
    part = np.pad(mask[top : rows[-1] + 1, left : columns[-1] + 1], room).astype(np.uint8)
    outside = cv2.distanceTransform(1 - part, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    inside = cv2.distanceTransform(part, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    # The edge lies between pixels: half a pixel from the middle of the first one on either side.
    signed = np.where(part > 0, 0.5 - inside, outside - 0.5)
    signed = cv2.GaussianBlur(signed.astype(np.float32), (0, 0), max(0.6, 0.12 * px_per_mm))
    paths = []
    for line in find_contours(signed, margin_mm * px_per_mm):
        if not np.array_equal(line[0], line[-1]):
            continue
        xy = (line[:, ::-1] + 0.5 - room + np.array([left, top])) / px_per_mm
        if abs(_area(xy)) < SMALLEST_MM2:
            continue
        # Straightened from where it begins; a closed path needs three corners at least.
        simple = approximate_polygon(xy, STRAIGHT_MM)
        paths.append(simple if len(simple) >= 4 else xy)
    return sorted(paths, key=lambda path: -abs(_area(path)))


def _area(path: NDArray[np.float64]) -> float:
    x, y = path[:, 0], path[:, 1]
    return 0.5 * float(np.dot(x[:-1], y[1:]) - np.dot(x[1:], y[:-1]))
