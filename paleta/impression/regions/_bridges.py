"""Where two ends of lines face each other across paper: a line with a gap in it, however wide balls may be."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree
from skimage.morphology import skeletonize

from paleta.impression.regions._necks import line_width

THIN_SCALE = 2
"""Lines are thinned on every second pixel; an end is wanted to a pixel or two."""
FARTHEST = 2.0
"""Ends bridge up to so many times the gap that is allowed; a ball so large would close doors and narrow cells."""
FACING = 0.85
"""Cosine of the angle between an end's way and the other end: within about 30 degrees."""
LOOKED_BACK_MM = 1.0
"""An end's way is that of its last stretch of this length."""


def bridges(ink: NDArray[np.bool_], px_per_mm: float, gap_mm: float) -> NDArray[np.uint8]:
    """H x W, 255 on straight lines from end to end where two lines face each other.

    Parameters
    ----------
    ink
        H x W
    px_per_mm
        pixels to a millimetre
    gap_mm
        widest gap that is bridged
    """
    mask = np.zeros(ink.shape, np.uint8)
    px = px_per_mm / THIN_SCALE
    height, width = (size // THIN_SCALE for size in ink.shape)
    small = cv2.resize(ink.astype(np.uint8) * 255, (width, height), interpolation=cv2.INTER_AREA) > 100
    thin = skeletonize(small).astype(np.uint8)
    ends, ways = _ends(thin, max(3, round(LOOKED_BACK_MM * px)))
    if len(ends) < 2:
        return mask
    line = line_width(small)
    reach = FARTHEST * gap_mm * px + line
    pairs = cKDTree(ends).query_pairs(reach, output_type="ndarray")
    if not len(pairs):
        return mask
    one, other = pairs.T
    to = ends[other] - ends[one]
    far = np.hypot(*to.T)
    to /= np.maximum(far, 1e-6)[:, None]
    facing = np.minimum(np.sum(ways[one] * to, axis=1), -np.sum(ways[other] * to, axis=1))
    taken: set[int] = set()
    # The nearest and straightest first; an end is bridged once.
    for k in np.argsort(far / np.maximum(facing, 1e-3)):
        if facing[k] < FACING or {one[k], other[k]} & taken:
            continue
        steps = np.linspace(ends[one[k]], ends[other[k]], max(3, int(far[k])))
        cols, rows = np.round(steps).astype(int).T
        crossed = small[np.clip(rows, 0, height - 1), np.clip(cols, 0, width - 1)]
        inner = (np.hypot(*(steps - ends[one[k]]).T) > line) & (np.hypot(*(steps - ends[other[k]]).T) > line)
        if crossed[inner].any():
            continue
        taken |= {one[k], other[k]}
        start, end = (np.round((ends[which] + 0.5) * THIN_SCALE).astype(int).tolist() for which in (one[k], other[k]))
        cv2.line(mask, start, end, 255, 3)
    return mask


def _ends(thin: NDArray[np.uint8], back: int) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Ends of a skeleton as N x 2 (x, y), and the way each points, of unit length."""
    around = cv2.filter2D(thin, -1, np.ones((3, 3), np.uint8), borderType=cv2.BORDER_CONSTANT)
    rows, cols = np.nonzero((thin > 0) & (around == 2))
    ends, ways = [], []
    for row, col in zip(rows.tolist(), cols.tolist(), strict=True):
        trail = _walked(thin, row, col, back)
        way = np.array([col - trail[-1][1], row - trail[-1][0]], float)
        size = float(np.hypot(*way))
        if len(trail) > back // 2 and size > 0:
            ends.append((col, row))
            ways.append(way / size)
    return np.array(ends, float).reshape(-1, 2), np.array(ways, float).reshape(-1, 2)


def _walked(thin: NDArray[np.uint8], row: int, col: int, steps: int) -> list[tuple[int, int]]:
    """The pixels of a thin line from its end inwards, up to `steps` or to where it branches."""
    trail = [(row, col)]
    before = (-1, -1)
    for _ in range(steps):
        row, col = trail[-1]
        onward = [
            (r, c)
            for r in range(max(0, row - 1), min(thin.shape[0], row + 2))
            for c in range(max(0, col - 1), min(thin.shape[1], col + 2))
            if thin[r, c] and (r, c) not in (before, (row, col)) and max(abs(r - before[0]), abs(c - before[1])) > 1
        ]
        if len(onward) != 1:
            break
        before = trail[-1]
        trail.append(onward[0])
    return trail
