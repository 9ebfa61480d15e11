"""Balls that roll through the paper between lines, from the largest to the smallest."""

from __future__ import annotations

import numpy as np
from numba import njit


@njit(cache=True, nogil=True)
def _flood(cells, stage, k, queue, tail, steps):
    """On from the first `tail` pixels in `queue`, nearest first, over what is open at stage `k`."""
    head = 0
    while head < tail:
        at = queue[head]
        head += 1
        for step in steps:
            onward = at + step
            if stage[onward] == k and cells[onward] == 0:
                cells[onward] = cells[at]
                queue[tail] = onward
                tail += 1


@njit("int32[:,::1](float32[:,::1], float32[::1])", cache=True, nogil=True)
def roll(distance, radii):
    """Cells as H x W int32, 1..n in the order they are met, 0 where no ball comes.

    From ball to smaller ball: what it reaches from a cell belongs to the nearest one, what is new becomes a cell. Every
    pixel is met once, as only what the present ball reaches and the ones before did not is open to it.

    Parameters
    ----------
    distance
        float32, H x W: how large a ball may stand on each pixel, in pixels
    radii
        of the balls, falling, in pixels

    Returns
    -------
    int32, H x W: cells from 1 in the order they are met, 0 where no ball comes.
    """
    height, width = distance.shape
    wide = width + 2  # a frame of one pixel keeps neighbours inside
    steps = (-wide, -1, 1, wide)
    never = len(radii)
    stage = np.full((height + 2) * wide, never, np.uint8)
    cells = np.zeros((height + 2) * wide, np.int32)
    sizes = np.zeros(never + 1, np.int64)
    for row in range(height):
        at = (row + 1) * wide + 1
        for col in range(width):
            room = distance[row, col]
            if room > radii[never - 1]:
                low, high = 0, never - 1
                while low < high:
                    middle = (low + high) // 2
                    if room > radii[middle]:
                        high = middle
                    else:
                        low = middle + 1
                stage[at + col] = low
                sizes[low] += 1
    place = np.zeros(never + 1, np.int64)
    for k in range(never):
        place[k + 1] = place[k] + sizes[k]
    pixels = np.empty(place[never], np.int32)
    written = place.copy()
    for at in range(len(stage)):
        if stage[at] < never:
            pixels[written[stage[at]]] = at
            written[stage[at]] += 1
    queue = np.empty(sizes[:never].max() if never else 0, np.int32)
    given = np.empty(len(queue), np.int32)
    found = 0
    for k in range(never):
        first, end = place[k], place[k + 1]
        # The first ring is taken whole before it is written, or cells would run along it.
        tail = 0
        for i in range(first, end):
            at = pixels[i]
            best = 0
            for step in steps:
                best = max(best, cells[at + step])
            if best:
                queue[tail] = at
                given[tail] = best
                tail += 1
        for i in range(tail):
            cells[queue[i]] = given[i]
        _flood(cells, stage, k, queue, tail, steps)
        for i in range(first, end):
            if cells[pixels[i]] == 0:
                found += 1
                cells[pixels[i]] = found
                queue[0] = pixels[i]
                _flood(cells, stage, k, queue, 1, steps)
    return cells.reshape(height + 2, wide)[1:-1, 1:-1].copy()
