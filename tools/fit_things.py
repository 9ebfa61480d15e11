"""Fit the networks by which regions are taken for one surface, or for alike: `python -m tools.fit_things` (three
hours).

Every pair of regions of drawings made by chance (tools/things) is measured; the drawing says whether the two belong
together. What stands in front is told by networks that never saw a drawing's kinds: of what it was fitted on, one is
too sure. Writes paleta/impression/_things.npz. How well they do: `python -m tools.things`; the kinds held back there
are never trained on.
"""

from __future__ import annotations

import math
import warnings
from collections.abc import Mapping
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from sklearn.exceptions import ConvergenceWarning
from sklearn.neural_network import MLPClassifier

from paleta import impression
from paleta.impression._looks import NETWORKS
from paleta.impression._thing_pairs import FEATURES, Pairs, pairs_of
from tools import fit_fronts
from tools.networks import EXERCISES, FOLDS, Weights, named, spread_of
from tools.things import Drawn, Kind, exercise, fold_of

PLACE = Path(impression.__file__).with_name("_things.npz")
HIDDEN, ROUNDS, BATCH = (256, 128), 13, 4096
RIDGE, STEP = 0.03, 2e-3
SHOWN = 3
"""Of pairs that have nothing in common each round shows one in so many, which counts as much more."""

Samples = tuple[NDArray[np.float32], NDArray[np.int8]]


def samples(seed: int, kinds: Mapping[str, Kind], fronts: Weights) -> Samples:
    """Features of those pairs of one drawing of which it says whether they belong together, and that: a column for each
    of GROUPINGS."""
    drawn = exercise(seed, kinds, FOLDS)
    pairs = pairs_of(drawn.region_map, fronts)
    told, together = told_of(drawn, pairs)
    return pairs.features[told], together


def told_of(drawn: Drawn, pairs: Pairs) -> tuple[NDArray[np.bool_], NDArray[np.int8]]:
    """Of which pairs a drawing says whether they belong together; and that of those, a column for each of GROUPINGS."""
    both = np.stack([drawn.part[pairs.labels], drawn.alike[pairs.labels]], axis=1)
    one, other = both[pairs.one], both[pairs.other]
    told = (one > 0).all(axis=1) & (other > 0).all(axis=1)
    return told, (one == other)[told].astype(np.int8)


def steps(rounds: int) -> list[float]:
    """How long steps are, round by round: from STEP down to almost nothing along half a cosine ([Loshchilov2017])."""
    return [STEP * (1 + math.cos(math.pi * (k + 0.5) / rounds)) / 2 for k in range(rounds)]


def fit(
    features: NDArray[np.float32], together: NDArray[np.int8], seed: int, *,
    hidden: tuple[int, int] = HIDDEN, rounds: int = ROUNDS, batch: int = BATCH,
) -> MLPClassifier:  # fmt: skip
    """One network for all of GROUPINGS."""
    chance, some = np.random.default_rng(seed), together.any(axis=1)
    net = MLPClassifier(hidden, alpha=RIDGE, batch_size=batch, max_iter=1, warm_start=True, random_state=seed)
    for step in steps(rounds):
        rows = np.flatnonzero(some | (chance.random(len(some)) < 1 / SHOWN))
        net.set_params(learning_rate_init=step)
        with warnings.catch_warnings():
            # One round is meant; that it does not come to rest in it goes without saying.
            warnings.simplefilter("ignore", ConvergenceWarning)
            net.fit(features[rows], together[rows], sample_weight=np.where(some[rows], 1, SHOWN))
    return net


def main() -> None:
    seen = fit_fronts.gather()
    fronts = [fit_fronts.fit([one for own, one in seen if own != fold]) for fold in range(FOLDS)]
    seeds, kinds = zip(*EXERCISES, strict=True)
    with ProcessPoolExecutor(2) as pool:
        found = pool.map(samples, seeds, kinds, [fronts[fold_of(seed, FOLDS)] for seed in seeds], chunksize=8)
        features, together = (np.concatenate(one) for one in zip(*found, strict=True))
    keep(PLACE, FEATURES, features, together)


def keep(
    place: Path, names: tuple[str, ...], features: NDArray[np.float32], together: NDArray[np.int8], **how: Any
) -> None:
    """Fit NETWORKS on the features and write them to `place`."""
    weights = spread_of(features)
    features = (features - weights["middle"]) / weights["spread"]
    for seed, name in enumerate(NETWORKS):
        weights |= named(name, fit(features, together, seed, **how))
    np.savez_compressed(place, features=np.array(names), **weights)


if __name__ == "__main__":
    main()
