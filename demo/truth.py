"""How well found regions agree with what a simulated scan truly shows."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from demo.lineart import DRAWINGS
from demo.scanner import Faults, scan
from paleta.impression import RegionMap, find_regions, read

DEGRADED = {
    "clean": Faults(patchy=0.1, specks=0),
    "light": Faults(gaps=1.5, gap_mm=0.6),
    "medium": Faults(turn_deg=1.2, patchy=0.6, specks=0.4, gaps=3, gap_mm=0.9, shading=0.12),
    "hard": Faults(turn_deg=1.6, patchy=0.9, specks=0.8, gaps=6, gap_mm=1.2, shading=0.2),
}
"""Gaps are per 10 cm of line."""
SMALLEST_MM2 = 0.8
OVERLAP = 0.75


@dataclass(frozen=True)
class Recovery:
    """recovered: share of true cells that one region covers one to one; leaked: share lost in a larger region."""

    recovered: float
    leaked: float
    cells: int


def recovery(found: RegionMap, seen: NDArray[np.int32], white: NDArray[np.bool_]) -> Recovery:
    """Compare a found map with the truth: the white cells that the clean drawing shows.

    A cell counts as recovered if the region that covers most of it overlaps it by OVERLAP (intersection over union).
    """
    good = leaked = total = 0
    for number in range(1, int(seen.max()) + 1):
        shape = ((seen == number) & white).astype(np.uint8)
        count, parts, stats, _ = cv2.connectedComponentsWithStats(shape, connectivity=4)
        for part in range(1, count):
            area = int(stats[part, cv2.CC_STAT_AREA])
            if area < SMALLEST_MM2 * found.px_per_mm**2:
                continue
            cell = parts == part
            label = int(np.bincount(found.labels[cell]).argmax())
            own = (found.labels == label) & white
            covered = label > 0 and (cell & own).sum() / (cell | own).sum() >= OVERLAP
            total += 1
            good += covered
            leaked += not covered and own.sum() > 1.6 * area
    return Recovery(good / max(total, 1), leaked / max(total, 1), total)


def measure(faults: Faults, seeds: tuple[int, ...] = (1,), gap_mm: float = 1.2) -> Recovery:
    """Recovery over all demo drawings, scanned with `faults`."""
    results = []
    for make in DRAWINGS.values():
        drawing = make()
        for seed in seeds:
            data, seen = scan(drawing, faults=faults, seed=seed)
            white = drawing.white(300, faults.turn_deg)
            results.append(recovery(find_regions(read(data), gap_mm=gap_mm), seen, white))
    cells = sum(one.cells for one in results)
    return Recovery(
        sum(one.recovered * one.cells for one in results) / cells,
        sum(one.leaked * one.cells for one in results) / cells,
        cells,
    )
