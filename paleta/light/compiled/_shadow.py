"""What keeps the lamp from each pixel."""

from __future__ import annotations

import numpy as np
from numba import njit


@njit(
    "uint8[:,::1](int16[:,::1], float32[:,::1], float32[::1], int64[::1], int64[::1], float32[::1], int64)",
    cache=True,
    nogil=True,
)
def shaded(depth, height, tallest, downs, acrosses, rises, behind):
    """H x W: 1 where the ray to the lamp meets something nearer, else 0. After each step (down, across) the ray has
    risen by so much; nothing falls on what stands at the depth `behind` or deeper. `tallest` is the highest of a row.

    Step by step and not pixel by pixel, so that a row is worked out several pixels at once.

    Parameters
    ----------
    depth
        H x W: how near each pixel's body is
    height
        float, H x W: height above the paper, in pixels
    tallest
        the highest of each row, in pixels
    downs, acrosses, rises
        by step on the way to the lamp: pixels down, pixels across, pixels that the ray has risen
    behind
        what stands at this depth or deeper takes no shadow

    Returns
    -------
    H x W: 1 where the ray to the lamp meets something nearer, else 0.
    """
    rows, cols = depth.shape
    result = np.zeros((rows, cols), np.uint8)
    for row in range(rows):
        own, dark = depth[row], result[row]
        for step in range(len(rises)):
            y, across = row + downs[step], acrosses[step]
            if not 0 <= y < rows or tallest[y] <= rises[step]:
                continue
            first, last = max(0, -across), min(cols, cols - across)
            if last <= first:
                continue
            rise = rises[step]
            high, near = height[y, first + across : last + across], depth[y, first + across : last + across]
            mine, found = own[first:last], dark[first:last]
            for at in range(len(found)):
                found[at] |= np.uint8((high[at] > rise) & (near[at] > mine[at]))
        for col in range(cols):
            dark[col] &= np.uint8(own[col] > behind)
    return result
