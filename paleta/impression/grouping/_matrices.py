"""What the measures of pairs of regions have in common."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.cluster.hierarchy import cophenet, linkage
from scipy.spatial.distance import squareform
from scipy.stats import rankdata

from paleta.impression._loops import loops

Floats = NDArray[np.float64]


def less_and_more(one: Floats, other: Floats) -> tuple[Floats, Floats]:
    """The same whichever of two comes first.

    Parameters
    ----------
    one, other
        a measure of the first and of the second of every pair

    Returns
    -------
    The smaller and the larger of each.
    """
    return np.minimum(one, other), np.maximum(one, other)


def ranks(square: Floats) -> Floats:
    """Row by row, of how many others each is larger; of equal ones the first is the smaller."""
    return np.asarray(rankdata(square, "ordinal", axis=1) - 1.0)


def max_product_path(one: Floats, other: Floats) -> Floats:
    """The likeliest way from the first to the second over a third: one and the same for [i, j], other for [k, j].

    Parameters
    ----------
    one, other
        n x n likelihoods of the first part of a way and of the second
    """
    return np.asarray(loops().likeliest_way(np.ascontiguousarray(one, float), np.ascontiguousarray(other, float)))


def largest_step(apart: Floats) -> Floats:
    """The largest step on the way of smallest steps from each to each (single linkage, [Gower1969])."""
    return np.asarray(squareform(cophenet(linkage(squareform(apart, checks=False), "single"))))
