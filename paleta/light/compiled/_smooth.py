"""Smoothing a surface without mixing what does not belong together."""

from __future__ import annotations

import numpy as np
from numba import njit


@njit("float32[:,:,::1](float32[:,:,::1], int32[:,::1], float32[::1])", cache=True, nogil=True)
def smoothed(normals, body_map, part):
    """H x W x 3 normals, each the mean of those around it on the same body and of unit length again; flat where there
    is no body.

    Parameters
    ----------
    normals
        float, H x W x 3, of unit length
    body_map
        int, H x W: the body of each pixel, 0 for none
    part
        how much a normal counts 0, 1, 2 ... pixels away, in a row as in a column

    Returns
    -------
    H x W x 3 of unit length; flat (0, 0, 1) where there is no body.
    """
    rows, cols = body_map.shape
    result = np.empty_like(normals)
    reach = len(part) - 1
    for row in range(rows):
        for col in range(cols):
            own = body_map[row, col]
            if own == 0:
                result[row, col, 0], result[row, col, 1], result[row, col, 2] = 0, 0, 1
                continue
            x, y, z = np.float32(0), np.float32(0), np.float32(0)
            for there in range(max(0, row - reach), min(rows, row + reach + 1)):
                down = part[abs(there - row)]
                for beside in range(max(0, col - reach), min(cols, col + reach + 1)):
                    if body_map[there, beside] == own:
                        weight = down * part[abs(beside - col)]
                        x += weight * normals[there, beside, 0]
                        y += weight * normals[there, beside, 1]
                        z += weight * normals[there, beside, 2]
            length = np.sqrt(x * x + y * y + z * z)
            result[row, col, 0], result[row, col, 1], result[row, col, 2] = x / length, y / length, z / length
    return result
