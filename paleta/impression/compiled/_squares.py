"""Ways over a third among all regions of a drawing."""

from __future__ import annotations

import numpy as np
from numba import njit


@njit("float64[:,::1](float64[:,::1], float64[:,::1])", cache=True, nogil=True)
def likeliest_way(one, other):
    """n x n: the largest product over all k of one[i, k] and other[k, j]; nothing is below 0. Zeros cost nothing.

    Parameters
    ----------
    one, other
        float64, n x n, 0..1: likelihoods of the first part of a way and of the second

    Returns
    -------
    float64, n x n: the best product over all places between.
    """
    n = len(one)
    best = np.zeros((n, n))
    for i in range(n):
        for k in range(n):
            first = one[i, k]
            if first > 0:
                for j in range(n):
                    way = first * other[k, j]
                    best[i, j] = max(best[i, j], way)
    return best
