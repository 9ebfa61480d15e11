"""Fit the network that tells which of two regions stands in front: `python -m tools.fit_fronts` (half an hour).

Pairs of regions that touch, of drawings made by chance (tools/things): the order of drawing says which lies before the
other, or that neither does; pieces of one surface are left out. Writes
paleta/impression/networks/border_classifier.npz. How well it does:
`python -m tools.things`; the kinds held back there are never trained on.
"""

from __future__ import annotations

import sys
from collections.abc import Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from sklearn.neural_network import MLPClassifier

from paleta import impression
from paleta.impression.depth._border_classifier import BEFORE, BEHIND, LEVEL
from paleta.impression.depth._border_features import FEATURES, exchanged, touching_regions
from tools.networks import EXERCISES, FOLDS, Weights, named, spread_of
from tools.things import Kind, exercise, fold_of

PLACE = Path(impression.__file__).parent / "networks" / "border_classifier.npz"
HIDDEN, RIDGE, ROUNDS, BATCH = (128, 64), 0.1, 10, 1024

Samples = tuple[NDArray[np.float32], NDArray[np.int64]]


def samples(seed: int, kinds: Mapping[str, Kind]) -> Samples:
    """Features of all pairs of one drawing, and what each is."""
    drawn = exercise(seed, kinds, FOLDS)
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


def gather() -> list[tuple[int, Samples]]:
    """Of every exercise its fold and its samples."""
    with ProcessPoolExecutor(2) as pool:
        found = pool.map(samples, *zip(*EXERCISES, strict=True), chunksize=8)
        return [(fold_of(seed, FOLDS), one) for (seed, _), one in zip(EXERCISES, found, strict=True)]


def fit(drawings: Sequence[Samples]) -> Weights:
    """Weights by their names in the file; every pair is shown from either side."""
    features, truth = (np.concatenate(one) for one in zip(*drawings, strict=True))
    both = np.concatenate([features, exchanged(features)])
    said = np.concatenate([truth, np.array([LEVEL, BEHIND, BEFORE])[truth]])
    scale = spread_of(both)
    net = MLPClassifier(HIDDEN, alpha=RIDGE, batch_size=BATCH, learning_rate_init=2e-3, max_iter=ROUNDS, random_state=1)
    net.fit((both - scale["middle"]) / scale["spread"], said)
    return scale | named("order", net)


def main() -> None:
    drawings = [one for _, one in gather()]
    np.savez_compressed(PLACE, features=np.array(FEATURES), **fit(drawings))
    told = np.bincount(np.concatenate([truth for _, truth in drawings])).tolist()
    sys.stdout.write(f"fitted on {told} pairs that are level, before, behind\n")


if __name__ == "__main__":
    main()
