"""How likely one region stands before another it touches: what the network of tools/fit_fronts.py says."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from paleta.impression._networks import Weights, forward, weights_of
from paleta.impression.depth._border_features import FEATURES, exchanged

LEVEL, BEFORE, BEHIND = 0, 1, 2
"""What a pair can be: beside each other in one plane, the one before the other, or behind it."""


def likelihoods(features: NDArray[np.float32], net: Weights | None = None) -> NDArray[np.float64]:
    """N x 3: how likely each pair is LEVEL, BEFORE and BEHIND. What is seen from the other region is the same pair.
    Another network than Paleta's own may be asked.

    Parameters
    ----------
    features
        N x F, what is seen at each pair of regions
    net
        weights; None: Paleta's own
    """
    net = net or weights_of("border_classifier.npz", FEATURES, "tools/fit_fronts.py")
    odds = np.zeros((len(features), 3))
    for seen, order in ((features, [LEVEL, BEFORE, BEHIND]), (exchanged(features), [LEVEL, BEHIND, BEFORE])):
        odds += forward(net, "order", seen)[:, order]
    odds = np.exp((odds - odds.max(axis=1, keepdims=True)) / 2)
    return np.asarray(odds / odds.sum(axis=1, keepdims=True))
