"""How likely two regions belong together: at first sight, and once more in the light of all other pairs."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from numpy.typing import NDArray
from scipy.special import expit, logit

from paleta.impression._networks import Weights, forward, weights_of
from paleta.impression.grouping import _cluster_features
from paleta.impression.grouping._matrices import max_product_path
from paleta.impression.grouping._pairs import FEATURES, Pairs

Floats = NDArray[np.float32]
GROUPINGS = ("parts", "alike")
NETWORKS = ("one", "other")
"""Fitted on the same from different beginnings; each has a say for every grouping."""
FEWEST = 5
"""Of fewer regions how a pair stands out among all pairs says nothing."""
MOST_SEEN_AGAIN = 400
"""Of more regions the first look stands: going over all thirds would take seconds."""
SECOND_FEATURES = (
    *(f"odds of {grouping}" for grouping in GROUPINGS),
    *(f"{grouping}, {name}" for grouping in GROUPINGS for name in _cluster_features.MEASURES),
    "alike with a part of it, less", "alike with a part of it, more", "regions", "mates on average",
    *FEATURES,
)  # fmt: skip
SUREST = 1e-4
"""How near to 0 and 1 odds are taken from a likelihood."""


def likely(pairs: Pairs) -> dict[str, Floats]:
    """How likely each pair belongs together, 0..1, by grouping."""
    first = first_look(pairs)
    if not FEWEST <= len(pairs.labels) <= MOST_SEEN_AGAIN:
        return first
    return _said(
        weights_of("second_pair_classifier.npz", SECOND_FEATURES, "tools/fit_second_look.py"), seen_again(pairs, first)
    )


def first_look(pairs: Pairs) -> dict[str, Floats]:
    return _said(weights_of("pair_classifier.npz", FEATURES, "tools/fit_things.py"), pairs.features)


def seen_again(pairs: Pairs, first: Mapping[str, Floats]) -> Floats:
    """N x len(SECOND_FEATURES), given what was likely at first sight.

    Parameters
    ----------
    pairs
        with their features
    first
        likelihood of each pair by grouping, at first sight
    """
    n, at = len(pairs.labels), (pairs.one, pairs.other)
    squares = {name: _cluster_features.square_of(n, *at, first[name]) for name in GROUPINGS}
    over_parts = max_product_path(squares["parts"] + np.eye(n), squares["alike"])
    columns: list[NDArray[np.floating]] = [
        *(logit(np.clip(first[name], SUREST, 1 - SUREST)) for name in GROUPINGS),
        *(measure[at] for name in GROUPINGS for measure in _cluster_features.cluster_features(squares[name])),
        np.minimum(over_parts, over_parts.T)[at],
        np.maximum(over_parts, over_parts.T)[at],
        np.full(len(pairs.one), np.log(n)),
        np.full(len(pairs.one), squares["alike"].sum() / n),
    ]
    return np.concatenate([np.stack(columns, axis=1), pairs.features], axis=1).astype(np.float32)


def _said(net: Weights, features: Floats) -> dict[str, Floats]:
    """What NETWORKS say together."""
    odds = np.mean([forward(net, name, features) for name in NETWORKS], axis=0)
    return dict(zip(GROUPINGS, expit(odds).T, strict=True))
