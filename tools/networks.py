"""What the fitting scripts share."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from sklearn.neural_network import MLPClassifier

from paleta.impression._weights import Weights
from tools.things import KINDS, OTHER_HAND, SCENES, THIRD_HAND

EXERCISES = [
    *((seed, KINDS) for seed in range(5000, 7000)),
    *((seed, OTHER_HAND) for seed in range(7000, 8600)),
    *((seed, SCENES) for seed in range(8600, 10600)),
    *((seed, THIRD_HAND) for seed in range(10800, 12800)),
]
"""The drawings of things that networks are fitted on."""
FOLDS = 4
"""Each shows the kinds of one fold, so that a network fitted on the other folds never saw them."""
LEAST_SPREAD = 0.05
LEAST_WEIGHT = 1e-12
"""Weights that fade away are written as 0: a processor multiplies what is all but nothing many times more slowly."""


def spread_of(features: NDArray[np.float32]) -> Weights:
    """By what features are moved and divided before a network sees them."""
    return {"middle": features.mean(axis=0), "spread": features.std(axis=0) + LEAST_SPREAD}


def named(name: str, net: MLPClassifier) -> Weights:
    """A fitted network's weights as paleta.impression reads them."""
    weights = {}
    for layer, (weight, bias) in enumerate(zip(net.coefs_, net.intercepts_, strict=True)):
        heard = np.where(np.abs(weight) < LEAST_WEIGHT, 0, weight)
        weights |= {f"{name}_{layer}": heard.astype(np.float32), f"{name}_bias_{layer}": bias.astype(np.float32)}
    return weights
