"""What the fitting scripts share."""

from __future__ import annotations

import math
import warnings
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from sklearn.exceptions import ConvergenceWarning
from sklearn.neural_network import MLPClassifier
from sklearn.preprocessing import StandardScaler

from paleta.impression._networks import Weights
from paleta.impression.grouping._pair_classifier import NETWORKS
from paleta.impression.grouping._pairs import Pairs
from tools.things import FOURTH_HAND, KINDS, ONCE_HELD_BACK, OTHER_HAND, SCENES, THIRD_HAND, Drawn

EXERCISES = [
    *((seed, KINDS) for seed in range(5000, 6000)),
    *((seed, OTHER_HAND) for seed in range(7000, 7800)),
    *((seed, SCENES) for seed in range(8600, 9600)),
    *((seed, THIRD_HAND) for seed in range(10800, 11800)),
    *((seed, FOURTH_HAND) for seed in range(13000, 13800)),
    *((seed, ONCE_HELD_BACK) for seed in range(14000, 14400)),
]
"""The drawings of things that networks are fitted on."""
FOLDS = 4
"""Each shows the kinds of one fold, so that a network fitted on the other folds never saw them."""
LEAST_SPREAD = 0.05
RIDGE, STEP = 0.03, 2e-3
LEAST_WEIGHT = 1e-12
"""Weights that fade away are written as 0: a processor multiplies what is all but nothing many times more slowly."""

Samples = tuple[NDArray[np.float32], NDArray[np.int8]]
"""Features of pairs, and whether they belong together: a column for each of GROUPINGS."""


def spread_of(features: NDArray[np.float32]) -> Weights:
    """By what features are moved and divided before a network sees them."""
    scale = StandardScaler().fit(features)
    return {
        "middle": scale.mean_.astype(np.float32),
        "spread": (np.sqrt(scale.var_) + LEAST_SPREAD).astype(np.float32),
    }


def named(name: str, net: MLPClassifier) -> Weights:
    """A fitted network's weights as paleta.impression reads them."""
    weights = {}
    for layer, (weight, bias) in enumerate(zip(net.coefs_, net.intercepts_, strict=True)):
        forward = np.where(np.abs(weight) < LEAST_WEIGHT, 0, weight)
        weights |= {f"{name}_{layer}": forward.astype(np.float32), f"{name}_bias_{layer}": bias.astype(np.float32)}
    return weights


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
    hidden: tuple[int, int], rounds: int, batch: int, shown: int,
) -> MLPClassifier:  # fmt: skip
    """One network for all of GROUPINGS. Of pairs that have nothing in common each round shows one in `shown`, which
    counts as much more."""
    chance, some = np.random.default_rng(seed), together.any(axis=1)
    net = MLPClassifier(hidden, alpha=RIDGE, batch_size=batch, max_iter=1, warm_start=True, random_state=seed)
    for step in steps(rounds):
        rows = np.flatnonzero(some | (chance.random(len(some)) < 1 / shown))
        net.set_params(learning_rate_init=step)
        with warnings.catch_warnings():
            # One round is meant; that it does not come to rest in it goes without saying.
            warnings.simplefilter("ignore", ConvergenceWarning)
            net.fit(features[rows], together[rows], sample_weight=np.where(some[rows], 1, shown))
    return net


def keep(
    place: Path, names: tuple[str, ...], features: NDArray[np.float32], together: NDArray[np.int8], *,
    hidden: tuple[int, int], rounds: int, batch: int, shown: int,
) -> None:  # fmt: skip
    """Fit NETWORKS on the features and write them to `place`."""
    weights = spread_of(features)
    features = (features - weights["middle"]) / weights["spread"]
    for seed, name in enumerate(NETWORKS):
        net = fit(features, together, seed, hidden=hidden, rounds=rounds, batch=batch, shown=shown)
        weights |= named(name, net)
    np.savez_compressed(place, features=np.array(names), **weights)
