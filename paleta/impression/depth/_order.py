"""What stands in front of what, guessed from the drawing."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import softmax

from paleta.impression.depth._border_classifier import BEFORE, BEHIND, LEVEL, likelihoods
from paleta.impression.depth._border_features import FEATURES, touching_regions
from paleta.impression.grouping._things import PairScores
from paleta.impression.regions._region_map import RegionMap

MOST_LEVEL, LEAST_LEVEL = 0.7, 0.9
"""A front is told where it is no likelier than this that there is none; what is level, only where that is as good as
sure. In between nothing is said."""
HELPED = 0.5
"""So much of what is told of a border comes from all borders like it, the rest from itself alone."""
SUREST = 1e-3
"""No border counts as surer than this."""


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


def guess_order(region_map: RegionMap, weighed: PairScores | None = None) -> list[Front | Level]:
    """Of regions that touch, who stands before whom, and who lies in one plane; no word of what is too doubtful.

    Where a line ends on another one that runs straight on, what lies beyond that stands before what the line parts
    ([Guzman1968]); what bulges into the other, is enclosed by it or goes on behind it says more. A small network fitted
    on drawings made by script (tools/fit_fronts.py; no published source) weighs it all. What is alike stands as its
    like does: where it was `weighed`, every leaf before or behind every berry has a say on all of them. What is seen
    through a ring does not stand on it; what fills a ring alone lies in its plane.

    Parameters
    ----------
    region_map
        H x W labels, ink and borders.
    weighed
        What is alike, as `weigh` gives.

    Returns
    -------
    Fronts and levels of pairs of labels, with how sure they are, 0..1.
    """
    met = (weighed and weighed.pairs.touching) or touching_regions(region_map)
    likely = likelihoods(met.features)
    if weighed is not None and len(weighed.pairs.one):
        likely = _helped(likely, met.places, weighed)
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


def _helped(likely: NDArray[np.float64], places: NDArray[np.int64], weighed: PairScores) -> NDArray[np.float64]:
    """`likely` (N x 3, of N x 2 places) with the help of things: the geometric mean with what is told of all borders
    between the like of the one and the like of the other, each as far as they are alike."""
    n, (one, other) = len(weighed.pairs.labels), places.T
    like = weighed.square("alike") + np.eye(n)
    said = np.log(np.maximum(likely, SUREST))
    met, level, before = np.zeros((3, n, n))
    met[one, other] = met[other, one] = 1
    level[one, other] = level[other, one] = said[:, LEVEL]
    before[one, other], before[other, one] = said[:, BEFORE], said[:, BEHIND]
    of_all = like @ np.stack([met, level, before]) @ like
    many = of_all[0, one, other]
    sums = [of_all[1, one, other], of_all[2, one, other], of_all[2, other, one]]
    return np.asarray(softmax((1 - HELPED) * said + HELPED * np.stack(sums, axis=1) / many[:, None], axis=1))


def _through_rings(features: NDArray[np.float32]) -> tuple[NDArray[np.bool_], NDArray[np.bool_]]:
    """N each: whether one is seen through the other, which is a ring, and whether it fills the ring alone."""
    of = {name: features[:, FEATURES.index(name)] for name in FEATURES}
    through, alone = np.zeros(len(features), bool), np.zeros(len(features), bool)
    for inner, ring in (("one", "other"), ("other", "one")):
        seen = (of[f"enclosed, {inner}"] > 0) & (of[f"ring, {ring}"] > 0)
        through |= seen
        alone |= seen & (of[f"neighbours, {inner}"] < np.log1p(1.5))
    return through, alone
