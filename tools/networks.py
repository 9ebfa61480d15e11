"""What the fitting scripts share."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray
from sklearn.neural_network import MLPClassifier

from paleta.impression._weights import Weights
from tools.things import KINDS, OTHER_HAND, SCENES

EXERCISES = [
    *((seed, KINDS) for seed in range(5000, 7000)),
    *((seed, OTHER_HAND) for seed in range(7000, 8600)),
    *((seed, SCENES) for seed in range(8600, 10600)),
]
"""The drawings of things that networks are fitted on."""
FOLDS = 4
"""Each shows the kinds of one fold, so that a network fitted on the other folds never saw them."""
LEAST_SPREAD = 0.05
LAST_ROUNDS, SLOWER = 2, 10
"""After all its rounds a network goes so many more, in steps so many times smaller."""


def fitted(net: MLPClassifier, features: NDArray[np.float32], truth: NDArray[Any]) -> MLPClassifier:
    """The network fitted in its rounds and the last ones, so that it comes to rest."""
    net.fit(features, truth)
    small = net.learning_rate_init / SLOWER
    net.set_params(warm_start=True, learning_rate_init=small, max_iter=LAST_ROUNDS)
    return net.fit(features, truth)


def spread_of(features: NDArray[np.float32]) -> Weights:
    """By what features are moved and divided before a network sees them."""
    return {"middle": features.mean(axis=0), "spread": features.std(axis=0) + LEAST_SPREAD}


def named(name: str, net: MLPClassifier) -> Weights:
    """A fitted network's weights as paleta.impression reads them."""
    weights = {}
    for layer, (weight, bias) in enumerate(zip(net.coefs_, net.intercepts_, strict=True)):
        weights |= {f"{name}_{layer}": weight.astype(np.float32), f"{name}_bias_{layer}": bias.astype(np.float32)}
    return weights
