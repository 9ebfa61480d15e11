"""What stands in front of what, guessed from the drawing."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from paleta.impression._front_pairs import FEATURES, exchanged, touching_regions
from paleta.impression._region_map import RegionMap
from paleta.impression._weights import Weights, heard, weights_of

MOST_LEVEL, LEAST_LEVEL = 0.6, 0.9
"""A front is told where it is no likelier than this that there is none; what is level, only where that is as good as
sure. In between nothing is said."""
LEVEL, BEFORE, BEHIND = 0, 1, 2
"""What a pair can be: beside each other in one plane, the one before the other, or behind it."""


@dataclass(frozen=True, slots=True)
class Front:
    """One region stands before another it touches; `weight` says how sure that is."""

    nearer: int
    farther: int
    weight: float = 1.0


@dataclass(frozen=True, slots=True)
class Level:
    """Two regions that touch lie in one plane; `weight` says how sure that is."""

    one: int
    other: int
    weight: float = 1.0


def guess_order(region_map: RegionMap) -> list[Front | Level]:
    """Of regions that touch, who stands before whom, and who lies in one plane; no word of what is too doubtful.

    Where a line ends on another one that runs straight on, what lies beyond that stands before what the line parts
    ([Guzman1968]); what bulges into the other, is enclosed by it or goes on behind it says more. A small network fitted
    on drawings made by script (tools/fit_fronts.py; no published source) weighs it all. What is seen through a ring
    does not stand on it; what fills a ring alone lies in its plane.
    """
    met = touching_regions(region_map)
    likely = likelihoods(met.features)
    through, alone = _through_rings(met.features)
    order: list[Front | Level] = []
    for (one, other), (level, before, behind), beyond, only in zip(
        met.labels.tolist(), likely.tolist(), through.tolist(), alone.tolist(), strict=True
    ):
        if beyond:
            order += [Level(one, other)] if only else []
            continue
        weight = round(abs(before - behind), 3)
        if level <= MOST_LEVEL:
            order.append(Front(one, other, weight) if before > behind else Front(other, one, weight))
        elif level > LEAST_LEVEL:
            order.append(Level(one, other, round(level - max(before, behind), 3)))
    return order


def _through_rings(features: NDArray[np.float32]) -> tuple[NDArray[np.bool_], NDArray[np.bool_]]:
    """N each: whether one is seen through the other, which is a ring, and whether it fills the ring alone."""
    of = {name: features[:, FEATURES.index(name)] for name in FEATURES}
    through, alone = np.zeros(len(features), bool), np.zeros(len(features), bool)
    for inner, ring in (("one", "other"), ("other", "one")):
        seen = (of[f"enclosed, {inner}"] > 0) & (of[f"ring, {ring}"] > 0)
        through |= seen
        alone |= seen & (of[f"neighbours, {inner}"] < np.log1p(1.5))
    return through, alone


def likelihoods(features: NDArray[np.float32], net: Weights | None = None) -> NDArray[np.float64]:
    """N x 3: how likely each pair is LEVEL, BEFORE and BEHIND. What is seen from the other region is the same pair.
    Another network than Paleta's own may be asked."""
    net = net or weights_of("_fronts.npz", FEATURES, "tools/fit_fronts.py")
    odds = np.zeros((len(features), 3))
    for seen, order in ((features, [LEVEL, BEFORE, BEHIND]), (exchanged(features), [LEVEL, BEHIND, BEFORE])):
        odds += heard(net, "order", seen)[:, order]
    odds = np.exp((odds - odds.max(axis=1, keepdims=True)) / 2)
    return np.asarray(odds / odds.sum(axis=1, keepdims=True))
