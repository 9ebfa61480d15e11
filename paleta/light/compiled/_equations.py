"""One row of a sparse matrix for every pixel of every body."""

from __future__ import annotations

import numpy as np
from numba import njit

LOSS = 1e-6
"""A body hemmed in by nearer ones on all sides has nothing to hold it; a breath of height loss keeps it finite."""


@njit(
    "Tuple((float64[::1], int32[::1], int32[::1]))"
    "(int32[:,:,::1], int32[:,:,::1], int32[:,::1], int32[::1], int64[::1], int64[:,:,::1], float64[:,::1],"
    " float64[:,:,::1])",
    cache=True,
    nogil=True,
)
def equations(layers, index, standing, depth, kind, steps, weights, ends):
    """Data, columns and row starts of the rows that `index` numbers (L x H x W from 0, -1: none), sorted.

    Parameters
    ----------
    layers
        int, L x H x W: the body of each pixel in each layer, 0 for none, with a rim of nothing as wide as the
        longest step
    index
        int, L x H x W: number of each pixel's unknown from 0, -1 for none
    standing
        int, H x W: how near what stands there is
    depth
        by body, the same measure: a nearer thing leaves a border free
    kind
        by body, its row in `steps`, `weights` and `ends`
    steps
        int, kinds x n x 2: the neighbours of a pixel, down and across, sorted
    weights
        float, kinds x n: how strongly each neighbour counts
    ends
        float, kinds x 2 x 3: what has down * row + across * column > reach lies beyond an end, where a border is
        free too

    Returns
    -------
    Data, column numbers and row starts of a sparse matrix by rows, columns sorted.
    """
    count = index.max() + 1
    most = steps.shape[1] + 1
    data, cols = np.empty(count * most), np.empty(count * most, np.int32)
    starts = np.zeros(count + 1, np.int32)
    filled = 0
    for layer in range(layers.shape[0]):
        for row in range(layers.shape[1]):
            for col in range(layers.shape[2]):
                own = index[layer, row, col]
                if own < 0:
                    continue
                body = layers[layer, row, col]
                middle, total = -1, LOSS
                for step in range(steps.shape[1]):
                    weight = weights[kind[body], step]
                    if weight == 0:
                        continue
                    down, across = steps[kind[body], step]
                    if middle < 0 and (down > 0 or (down == 0 and across > 0)):
                        middle, filled = filled, filled + 1
                    if layers[layer, row + down, col + across] == body:
                        data[filled], cols[filled] = -weight, index[layer, row + down, col + across]
                        filled += 1
                        total += weight
                    elif standing[row + down, col + across] <= depth[body]:
                        beyond = False
                        for end in range(2):
                            y, x, reach = ends[kind[body], end]
                            beyond |= y * (row + down) + x * (col + across) > reach
                        if not beyond:
                            total += weight
                data[middle], cols[middle] = total, own
                starts[own + 1] = filled
    return data[:filled].copy(), cols[:filled].copy(), starts
