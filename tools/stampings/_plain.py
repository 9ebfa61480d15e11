"""The plain classical finder to stand beside: threshold, facing line ends bridged, small balls, watershed."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray
from skimage.morphology import skeletonize
from skimage.segmentation import watershed

LEAST_MM2 = 0.25


def find_plainly(pixels: NDArray[np.float32], px_per_mm: float, gap_mm: float = 1.0) -> NDArray[np.int32]:
    """Labels H x W, 0 = the paper around."""
    grey = cv2.cvtColor((np.clip(pixels, 0, 1) * 255).astype(np.uint8), cv2.COLOR_RGB2GRAY).astype(np.float32)
    light = cv2.GaussianBlur(
        cv2.morphologyEx(grey, cv2.MORPH_CLOSE, np.ones((31, 31), np.uint8)), (0, 0), 4 * px_per_mm
    )
    even = np.clip(cv2.GaussianBlur(grey, (0, 0), 0.8) / np.maximum(light, 1) * 255, 0, 255).astype(np.uint8)
    _, ink = cv2.threshold(even, 0, 255, cv2.THRESH_BINARY_INV + cv2.THRESH_OTSU)
    ink = _bridged(ink, gap_mm * px_per_mm)
    distance = cv2.distanceTransform(255 - ink, cv2.DIST_L2, 5)
    ball = max(0.8, 0.12 * px_per_mm)
    _, cores = cv2.connectedComponents((distance > ball).astype(np.uint8), connectivity=4)
    areas = np.bincount(cores.ravel())
    small = areas < LEAST_MM2 * 0.3 * px_per_mm**2
    cores[small[cores]] = 0
    paper = cores[1, 1]
    labels = watershed(255 - distance, cores).astype(np.int32)
    areas = np.bincount(labels.ravel())
    table = np.zeros(len(areas), np.int32)
    keep = np.flatnonzero(areas >= LEAST_MM2 * px_per_mm**2)
    keep = keep[(keep != paper) & (keep > 0)]
    table[keep] = np.arange(1, len(keep) + 1)
    return table[labels]


def _bridged(ink: NDArray[np.uint8], reach: float) -> NDArray[np.uint8]:
    """Ends of lines that face each other within `reach` are joined."""
    thin = skeletonize(ink > 0).astype(np.uint8)
    around = cv2.filter2D(thin, -1, np.ones((3, 3), np.uint8), borderType=cv2.BORDER_CONSTANT)
    rows, cols = np.nonzero((thin > 0) & (around == 2))
    ends = np.stack([cols, rows], axis=1).astype(float)
    width = 2 * float(np.median(cv2.distanceTransform(ink, cv2.DIST_L2, 5)[thin > 0])) if len(rows) else 1.0
    ways = np.array([_way(thin, int(r), int(c)) for r, c in zip(rows, cols, strict=True)]).reshape(-1, 2)
    out = ink.copy()
    for i, end in enumerate(ends):
        off = ends - end
        far = np.hypot(*off.T)
        near = np.flatnonzero((far > 0) & (far < reach + width))
        for j in near[np.argsort(far[near])][:1]:
            to = off[j] / far[j]
            if ways[i] @ to > 0.4 and ways[j] @ to < -0.4:
                cv2.line(out, end.astype(int).tolist(), ends[j].astype(int).tolist(), 255, max(1, round(width)))
    return out


def _way(thin: NDArray[np.uint8], row: int, col: int, reach: int = 7) -> tuple[float, float]:
    """Where a line's end points, as (x, y)."""
    box = thin[max(0, row - reach) : row + reach + 1, max(0, col - reach) : col + reach + 1]
    rows, cols = np.nonzero(box)
    to = np.array([min(col, reach) - cols.mean(), min(row, reach) - rows.mean()])
    size = float(np.hypot(*to))
    return (to[0] / size, to[1] / size) if size else (0.0, 0.0)
