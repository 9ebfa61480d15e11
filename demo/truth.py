"""How well found regions agree with what a simulated scan truly shows."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from demo.lineart import Drawing
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


def true_cells(drawing: Drawing, turn_deg: float, dpi: float = 300) -> NDArray[np.int32]:
    """Every cell the drawing shows with its gaps closed, numbered from 1; 0 on its lines."""
    white = drawing.white(dpi, turn_deg).astype(np.uint8)
    return np.asarray(cv2.connectedComponents(white, connectivity=4)[1], np.int32)


def recovery(found: RegionMap, cells: NDArray[np.int32], seen: NDArray[np.int32]) -> Recovery:
    """Compare a found map with the true cells; `seen` is 0 where the drawing shows paper around the image.

    A cell counts as recovered if the region that covers most of it overlaps it by OVERLAP (intersection over union,
    lines left out).
    """
    rows, cols = int(cells.max()) + 1, int(found.labels.max()) + 1
    shared = np.bincount((cells.astype(np.int64) * cols + found.labels).ravel(), minlength=rows * cols)
    shared = shared.reshape(rows, cols)
    shared[0] = 0
    area, own = shared.sum(axis=1), shared.sum(axis=0)
    paper = np.bincount(cells.ravel(), weights=(seen == 0).ravel(), minlength=rows) > area / 2
    label = shared.argmax(axis=1)
    covered = shared.max(axis=1) / np.maximum(area + own[label] - shared.max(axis=1), 1)
    counts = ~paper & (area >= SMALLEST_MM2 * found.px_per_mm**2)
    good = counts & (label > 0) & (covered >= OVERLAP)
    leaked = counts & ~good & ((label == 0) | (own[label] > 1.6 * area))
    total = int(counts.sum())
    return Recovery(int(good.sum()) / max(total, 1), int(leaked.sum()) / max(total, 1), total)


def measure(
    faults: Faults, drawings: Iterable[Drawing], seeds: tuple[int, ...] = (1,), gap_mm: float = 1.0
) -> Recovery:
    """Recovery over all `drawings`, each scanned once per seed with `faults`."""
    results = []
    for drawing in drawings:
        for seed in seeds:
            data, seen = scan(drawing, faults=faults, seed=seed)
            found = find_regions(read(data), gap_mm=gap_mm)
            results.append(recovery(found, true_cells(drawing, faults.turn_deg), seen))
    cells = sum(one.cells for one in results)
    return Recovery(
        sum(one.recovered * one.cells for one in results) / cells,
        sum(one.leaked * one.cells for one in results) / cells,
        cells,
    )
