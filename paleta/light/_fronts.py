"""What stands in front of what, guessed from the drawing."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from paleta.impression import RegionMap, weights_of
from paleta.light._depths import Front, Level
from paleta.light._front_pairs import FEATURES, exchanged, touching_regions

LEAST_LEVEL = 0.9
"""Only what is as good as sure to be level is told: a front that is missed costs more."""
LEVEL, BEFORE, BEHIND = 0, 1, 2
"""What a pair can be: beside each other in one plane, the one before the other, or behind it."""


def guess_fronts(region_map: RegionMap) -> list[Front]:
    """Who stands before whom, of regions that touch; see `guess_order`."""
    return [guess for guess in guess_order(region_map) if isinstance(guess, Front)]


def guess_order(region_map: RegionMap) -> list[Front | Level]:
    """Of regions that touch, who stands before whom, and who lies in one plane; no word of what is too doubtful.

    Where a line ends on another one that runs straight on, what lies beyond that stands before what the line parts
    ([Guzman1968]); what bulges into the other, is enclosed by it or goes on behind it says more. A small network fitted
    on drawings made by script (tools/fit_fronts.py; no published source) weighs it all. What is seen through a ring
    does not stand on it.
    """
    met = touching_regions(region_map)
    likely = likelihoods(met.features)
    column = {name: FEATURES.index(name) for name in ("enclosed, one", "enclosed, other", "ring, one", "ring, other")}
    seen = {name: met.features[:, at] > 0 for name, at in column.items()}
    through = (seen["enclosed, one"] & seen["ring, other"]) | (seen["enclosed, other"] & seen["ring, one"])
    order: list[Front | Level] = []
    for (one, other), (level, before, behind), beyond in zip(
        met.labels.tolist(), likely.tolist(), through.tolist(), strict=True
    ):
        if beyond:
            continue
        weight = round(abs(before - behind), 3)
        if level <= max(before, behind):
            order.append(Front(one, other, weight) if before > behind else Front(other, one, weight))
        elif level > LEAST_LEVEL:
            order.append(Level(one, other, round(level - max(before, behind), 3)))
    return order


def likelihoods(features: NDArray[np.float32]) -> NDArray[np.float64]:
    """N x 3: how likely each pair is LEVEL, BEFORE and BEHIND. What is seen from the other region is the same pair."""
    net = weights_of("paleta.light", "_fronts.npz", FEATURES, "tools/fit_fronts.py")
    odds = np.zeros((len(features), 3))
    for seen, order in ((features, [LEVEL, BEFORE, BEHIND]), (exchanged(features), [LEVEL, BEHIND, BEFORE])):
        x = (seen - net["middle"]) / net["spread"]
        for layer in range(3):
            x = x @ net[f"layer_{layer}"] + net[f"bias_{layer}"]
            if layer < 2:
                x = np.maximum(x, 0)
        odds += x[:, order]
    odds = np.exp((odds - odds.max(axis=1, keepdims=True)) / 2)
    return np.asarray(odds / odds.sum(axis=1, keepdims=True))
