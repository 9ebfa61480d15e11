"""Fit the network that tells which of two regions stands in front: `python -m tools.fit_fronts` (a quarter
of an hour).

Pairs of regions that touch, of drawings made by chance (tools/things): the order of drawing says which lies before the
other, or that neither does; pieces of one surface are left out. Writes paleta/impression/_fronts.npz. How well it does:
`python -m tools.things`; the kinds held back there are never trained on.
"""

from __future__ import annotations

import sys
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from sklearn.neural_network import MLPClassifier

from paleta import impression
from paleta.impression._front_pairs import FEATURES, exchanged, touching_regions
from paleta.impression._fronts import BEFORE, BEHIND, LEVEL
from tools.networks import named
from tools.things import exercise

PLACE = Path(impression.__file__).with_name("_fronts.npz")
TRAINED_ON = range(1000, 2500)
HIDDEN, RIDGE, ROUNDS, BATCH = (128, 64), 0.1, 15, 1024
LEAST_SPREAD = 0.05

Samples = tuple[NDArray[np.float32], NDArray[np.int64]]


def samples(seed: int) -> Samples:
    """Features of all pairs of one drawing, and what each is."""
    drawn = exercise(seed)
    met = touching_regions(drawn.region_map)
    owners = drawn.owner[met.labels]
    truth = np.full(len(owners), LEVEL)
    for row, (one, other) in enumerate(owners.tolist()):
        if (one, other) in drawn.over:
            truth[row] = BEFORE
        elif (other, one) in drawn.over:
            truth[row] = BEHIND
    parts = drawn.part[met.labels]
    known = (owners > 0).all(axis=1) & (parts[:, 0] != parts[:, 1])
    return met.features[known], truth[known]


def gather(seeds: range) -> Samples:
    with ProcessPoolExecutor(2) as pool:
        features, truth = (np.concatenate(one) for one in zip(*pool.map(samples, seeds, chunksize=8), strict=True))
    return features, truth


def fit(features: NDArray[np.float32], truth: NDArray[np.int64]) -> dict[str, NDArray[np.float32]]:
    """Weights by their names in the file; every pair is shown from either side."""
    both = np.concatenate([features, exchanged(features)])
    said = np.concatenate([truth, np.array([LEVEL, BEHIND, BEFORE])[truth]])
    middle, spread = both.mean(axis=0), both.std(axis=0) + LEAST_SPREAD
    net = MLPClassifier(HIDDEN, alpha=RIDGE, batch_size=BATCH, learning_rate_init=2e-3, max_iter=ROUNDS, random_state=1)
    net.fit((both - middle) / spread, said)
    return {"middle": middle, "spread": spread, **named("order", net)}


def main() -> None:
    features, truth = gather(TRAINED_ON)
    np.savez_compressed(PLACE, features=np.array(FEATURES), **fit(features, truth))
    sys.stdout.write(f"fitted on {len(truth)} pairs, {np.bincount(truth).tolist()} level, before, behind\n")


if __name__ == "__main__":
    main()
