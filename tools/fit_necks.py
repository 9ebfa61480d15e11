"""Fit the weights by which a broken line is told from a cell that narrows: `python -m tools.fit_necks`.

Scans of drawings made by chance are cut into cells; for every place where two cells meet, the drawing says whether
they are one cell. Prints the weights for paleta/impression/_necks.py and how they do on drawings not used for them.
"""

from __future__ import annotations

import sys

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.optimize import minimize

from demo.lineart import Drawing, sprays
from demo.scanner import Faults, scan
from demo.truth import DEGRADED, true_cells
from paleta.impression import _regions, read
from paleta.impression._ink import separate_ink
from paleta.impression._necks import FEATURES, evidence, find_necks

TRAINED_ON = tuple(range(100, 120))
TRIED_ON = tuple(range(200, 206))
GAPS_MM = (1.0, 1.2)
RIDGE = 3e-3
LEAK_COST = 2.0
"""Joining across a broken line loses two cells; leaving a cell in two is mended by one click."""


def samples(
    drawing: Drawing, faults: Faults, seed: int, gap_mm: float
) -> tuple[NDArray[np.float64], NDArray[np.bool_]]:
    """Evidence of every neck whose two cells each lie in one true cell, and whether that is the same cell."""
    data, _ = scan(drawing, faults=faults, seed=seed)
    truth = true_cells(drawing, faults.turn_deg)
    impression = read(data)
    px_per_mm = impression.px_per_mm
    ink = separate_ink(impression)
    distance = cv2.distanceTransform((~ink).astype(np.uint8), cv2.DIST_L2, 5)
    cells = _regions._fill_with_balls(distance, ink, gap_mm * px_per_mm / 2)
    cells = _regions._drop_small(cells, _regions.SPLINTER_MM2 * px_per_mm**2)
    cells = _regions._closed_seams(cells, ink)
    necks = find_necks(cells, distance)
    lies_in, pure = _true_cell_of(cells, truth)
    usable = pure[necks.pairs].all(axis=1)
    seen_round = evidence(necks, cells, distance, ink, px_per_mm=px_per_mm, gap_mm=gap_mm)
    return seen_round[usable], (lies_in[necks.pairs[:, 0]] == lies_in[necks.pairs[:, 1]])[usable]


def _true_cell_of(cells: NDArray[np.int32], truth: NDArray[np.int32]) -> tuple[NDArray[np.int64], NDArray[np.bool_]]:
    both = (cells > 0) & (truth > 0)
    size = int(truth.max()) + 1
    code, count = np.unique(cells[both].astype(np.int64) * size + truth[both], return_counts=True)
    order = np.argsort(count)
    best, most, total = (np.zeros(int(cells.max()) + 1, np.int64) for _ in range(3))
    np.add.at(total, code // size, count)
    best[(code // size)[order]] = (code % size)[order]
    most[(code // size)[order]] = count[order]
    return best, most > 0.75 * np.maximum(total, 1)


def gather(seeds: tuple[int, ...]) -> tuple[NDArray[np.float64], NDArray[np.bool_]]:
    rows, same = [], []
    for seed in seeds:
        drawing = sprays(seed)
        for faults in DEGRADED.values():
            one, two = samples(drawing, faults, seed, GAPS_MM[seed % 2])
            rows.append(one)
            same.append(two)
    return np.concatenate(rows), np.concatenate(same)


def fit(rows: NDArray[np.float64], same: NDArray[np.bool_]) -> NDArray[np.float64]:
    """Logistic regression, both answers weighing the same in all but LEAK_COST, with a little ridge."""
    scale = np.maximum(rows.std(axis=0), 1e-6)
    scale[0] = 1.0
    x, y = rows / scale, np.where(same, 1.0, -1.0)
    weight = np.where(same, 0.5 / same.mean(), LEAK_COST * 0.5 / (1 - same.mean())) / len(y)

    def loss(w: NDArray[np.float64]) -> tuple[float, NDArray[np.float64]]:
        margin = y * (x @ w)
        gradient = -(weight * y / (1 + np.exp(margin))) @ x + 2 * RIDGE * np.r_[0, w[1:]]
        return float(weight @ np.logaddexp(0, -margin) + RIDGE * (w[1:] @ w[1:])), gradient

    return np.asarray(minimize(loss, np.zeros(x.shape[1]), jac=True, method="L-BFGS-B").x / scale)


def main() -> None:
    weights = fit(*gather(TRAINED_ON))
    rows, same = gather(TRIED_ON)
    says = rows @ weights > 0
    for name, weight in zip(FEATURES, weights, strict=True):
        print(f"    {weight:8.3f},  # {name}")
    sys.stderr.write(
        f"of {len(same)} places not used: cells kept whole {says[same].mean():.1%}, "
        f"breaks seen {(~says[~same]).mean():.1%}\n"
    )


if __name__ == "__main__":
    main()
