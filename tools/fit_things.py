"""Fit the networks by which regions are taken for one surface, or for alike: `python -m tools.fit_things` (two hours).

Every pair of regions of drawings made by chance (tools/things) is measured; the drawing says whether the two belong
together. What stands in front is told by networks that never saw a drawing's kinds: of what it was fitted on, one is
too sure. Writes paleta/impression/_things.npz. How well they do: `python -m tools.things`; the kinds held back there
are never trained on.
"""

from __future__ import annotations

from collections.abc import Mapping
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from sklearn.neural_network import MLPClassifier

from paleta import impression
from paleta.impression._thing_pairs import FEATURES, pairs_of
from tools import fit_fronts
from tools.networks import EXERCISES, FOLDS, Weights, fitted, named, spread_of
from tools.things import Kind, exercise, fold_of

PLACE = Path(impression.__file__).with_name("_things.npz")
HIDDEN, RIDGE, ROUNDS, BATCH = (128, 64), 0.03, 8, 2048

Samples = tuple[NDArray[np.float32], NDArray[np.int8], NDArray[np.int8]]


def samples(seed: int, kinds: Mapping[str, Kind], fronts: Weights) -> Samples:
    """Features of all pairs of one drawing, and whether they are of one part, and alike; -1 = the drawing does not
    say."""
    drawn = exercise(seed, kinds, FOLDS)
    pairs = pairs_of(drawn.region_map, fronts)
    told = []
    for truth in (drawn.part[pairs.labels], drawn.alike[pairs.labels]):
        same = (truth[pairs.one] == truth[pairs.other]).astype(np.int8)
        same[(truth[pairs.one] == 0) | (truth[pairs.other] == 0)] = -1
        told.append(same)
    return pairs.features, told[0], told[1]


def fit(features: NDArray[np.float32], same: NDArray[np.int8]) -> MLPClassifier:
    net = MLPClassifier(HIDDEN, alpha=RIDGE, batch_size=BATCH, learning_rate_init=2e-3, max_iter=ROUNDS, random_state=1)
    return fitted(net, features[same >= 0], same[same >= 0])


def main() -> None:
    seen = fit_fronts.gather()
    fronts = [fit_fronts.fit([one for own, one in seen if own != fold]) for fold in range(FOLDS)]
    seeds, kinds = zip(*EXERCISES, strict=True)
    with ProcessPoolExecutor(2) as pool:
        found = pool.map(samples, seeds, kinds, [fronts[fold_of(seed, FOLDS)] for seed in seeds], chunksize=8)
        features, parts, alike = (np.concatenate(one) for one in zip(*found, strict=True))
    weights = spread_of(features)
    features = (features - weights["middle"]) / weights["spread"]
    for name, same in (("parts", parts), ("alike", alike)):
        weights |= named(name, fit(features, same))
    np.savez_compressed(PLACE, features=np.array(FEATURES), **weights)


if __name__ == "__main__":
    main()
