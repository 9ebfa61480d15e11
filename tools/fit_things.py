"""Fit the networks by which regions are taken for one surface, or for alike: `python -m tools.fit_things` (a quarter of
an hour).

Every pair of regions of drawings made by chance (tools/things) is measured; the drawing says whether the two belong
together. Writes paleta/impression/_things.npz. How well they do: `python -m tools.things`; the kinds held back there
are never trained on.
"""

from __future__ import annotations

from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from sklearn.neural_network import MLPClassifier

from paleta import impression
from paleta.impression._thing_pairs import FEATURES, pairs_of
from tools.networks import named
from tools.things import exercise

PLACE = Path(impression.__file__).with_name("_things.npz")
TRAINED_ON = range(1000, 2500)
HIDDEN, RIDGE, ROUNDS, BATCH = (64, 32), 0.03, 10, 2048
LEAST_SPREAD = 0.05

Samples = tuple[NDArray[np.float32], NDArray[np.int8], NDArray[np.int8]]


def samples(seed: int) -> Samples:
    """Features of all pairs of one drawing, and whether they are of one part, and alike; -1 = the drawing does not
    say."""
    drawn = exercise(seed)
    pairs = pairs_of(drawn.region_map)
    told = []
    for truth in (drawn.part[pairs.labels], drawn.alike[pairs.labels]):
        same = (truth[pairs.one] == truth[pairs.other]).astype(np.int8)
        same[(truth[pairs.one] == 0) | (truth[pairs.other] == 0)] = -1
        told.append(same)
    return pairs.features, told[0], told[1]


def fit(features: NDArray[np.float32], same: NDArray[np.int8]) -> MLPClassifier:
    net = MLPClassifier(HIDDEN, alpha=RIDGE, batch_size=BATCH, learning_rate_init=2e-3, max_iter=ROUNDS, random_state=1)
    return net.fit(features[same >= 0], same[same >= 0])


def main() -> None:
    with ProcessPoolExecutor(2) as pool:
        features, parts, alike = (
            np.concatenate(one) for one in zip(*pool.map(samples, TRAINED_ON, chunksize=8), strict=True)
        )
    middle, spread = features.mean(axis=0), features.std(axis=0) + LEAST_SPREAD
    weights: dict[str, NDArray[np.float32]] = {"middle": middle, "spread": spread}
    for name, same in (("parts", parts), ("alike", alike)):
        weights |= named(name, fit((features - middle) / spread, same))
    np.savez_compressed(PLACE, features=np.array(FEATURES), **weights)


if __name__ == "__main__":
    main()
