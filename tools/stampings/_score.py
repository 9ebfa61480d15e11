"""How well found regions agree with the cells that were drawn."""

from __future__ import annotations

from dataclasses import astuple, dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from tools.stampings._draw import Panel

OVERLAP = 0.7
"""Intersection over union from which a region is the cell."""
LEAST_MM2 = 0.2
"""Cells with less bare paper than this nobody colours."""
TINY_PX = 400
"""At 300 dpi."""


@dataclass(frozen=True)
class Score:
    """Counts of one stamping: cells drawn, found one to one, run together, spurious regions, tiny cells and those
    found, gaps of the drawing and those closed (the cells on either side found)."""

    cells: int = 0
    found: int = 0
    together: int = 0
    spurious: int = 0
    tiny: int = 0
    tiny_found: int = 0
    gaps: int = 0
    gaps_closed: int = 0

    def __add__(self, other: Score) -> Score:
        return Score(*(a + b for a, b in zip(astuple(self), astuple(other), strict=True)))


def true_cells(panel: Panel) -> NDArray[np.int32]:
    """Cells as 1..n with their lines shared out, 0 = the paper around; cells under LEAST_MM2 go to none (-1)."""
    white = (panel.whole < 128).astype(np.uint8)
    _, cells = cv2.connectedComponents(white, connectivity=4)
    paper = cells[0, 0]
    _, nearest = cv2.distanceTransformWithLabels(1 - white, cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL)
    full = np.concatenate([[0], cells[white > 0]])[nearest]
    areas = np.bincount(cells[white > 0], minlength=int(cells.max()) + 1)
    table = np.full(len(areas), -1, np.int32)
    large = np.flatnonzero(areas >= LEAST_MM2 * panel.px**2)
    large = large[large != paper]
    table[large] = np.arange(1, len(large) + 1)
    table[paper] = 0
    return table[full]


def score(panel: Panel, found: NDArray[np.int32] | None) -> Score:
    """Compare `found`, labels in the panel's pixels (0 = paper around, -1 = not in the picture), with what was drawn.

    None: nothing was found at all.
    """
    cells = true_cells(panel)
    count = int(cells.max())
    areas = np.bincount(np.maximum(cells, 0).ravel(), minlength=count + 1)
    tiny = areas < TINY_PX * (panel.dpi / 300) ** 2
    tiny[0] = False
    if found is None:
        return Score(cells=count, tiny=int(tiny.sum()), gaps=0)
    found = np.maximum(found, 0)
    most = int(found.max())
    known = cells >= 0
    shared = np.bincount(
        (cells[known].astype(np.int64) * (most + 1) + found[known]), minlength=(count + 1) * (most + 1)
    )
    shared = shared.reshape(count + 1, most + 1)
    own = shared.sum(axis=0)
    best = shared[1:, 1:].argmax(axis=1) + 1 if most else np.zeros(count, int)
    over = shared[np.arange(1, count + 1), best] / np.maximum(
        areas[1:] + own[best] - shared[np.arange(1, count + 1), best], 1
    ) if most else np.zeros(count)  # fmt: skip
    hit = over >= OVERLAP
    inside = shared[1:] / np.maximum(areas[1:, None], 1) >= 0.6
    in_paper = inside[:, 0]
    crowd = inside[:, 1:].sum(axis=0)
    together = ~hit & (in_paper | (inside[:, 1:] & (crowd >= 2)).any(axis=1))
    matched = set(best[hit].tolist())
    area = np.bincount(found.ravel(), minlength=most + 1)
    counted = own > 0.5 * area  # pockets too small to count are no fault either way
    alone = [k for k in range(1, most + 1) if k not in matched and crowd[k - 1] < 1 and counted[k]]
    closed, gaps = _gaps(panel, cells, hit)
    return Score(
        count, int(hit.sum()), int(together.sum()), len(alone), int(tiny.sum()), int((tiny[1:] & hit).sum()),
        gaps, closed,
    )  # fmt: skip


def _gaps(panel: Panel, cells: NDArray[np.int32], hit: NDArray[np.bool_]) -> tuple[int, int]:
    """Gaps that part two cells in the drawing as it ended, and how many lie between cells that were both found."""
    closed = total = 0
    broken = (panel.whole > 128) & (panel.drawn <= 128)
    for x, y, _ in panel.gaps:
        r = max(2, round(0.8 * panel.line_mm * panel.px))
        row, col = round(y * panel.px), round(x * panel.px)
        box = (slice(max(0, row - r), row + r + 1), slice(max(0, col - r), col + r + 1))
        if not broken[box].any():
            continue  # hidden by what was drawn later
        sides = np.unique(cells[box])
        if len(sides) < 2 or sides.min() < 0:
            continue
        total += 1
        closed += all(hit[side - 1] for side in sides if side > 0)
    return closed, total
