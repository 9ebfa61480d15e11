"""The most valuable way to cut one sheet, where any number of every kind may be cut [Gilmore1965]."""

from __future__ import annotations

from collections.abc import Sequence
from functools import reduce

import numpy as np
from numpy.typing import NDArray

from paleta.card._slicing import Kind, Tree, leaf

MOST_PLACES = 700
"""More places for cuts than this on a side are not looked through."""


def places(sides: Sequence[int], length: int) -> NDArray[np.int64] | None:
    """Every sum of sides up to a length [Herz1972]: a cut anywhere else could as well be made there. None: too many."""
    there = {0}
    for side in sorted(set(sides)):
        if side <= length:
            fresh = set(there)
            for _ in range(length // side):
                fresh = {one + side for one in fresh if one + side <= length}
                there |= fresh
                if len(there) > MOST_PLACES:
                    return None
    return np.array(sorted(there))


def best_sheet(
    kinds: Sequence[Kind], values: Sequence[float], xs: NDArray[np.int64], ys: NDArray[np.int64], size: tuple[int, int]
) -> tuple[float, Tree | None]:
    """The highest sum of values from a sheet of (width, height) units, and its layout.

    xs, ys  places for cuts, as `places` gives them for either side.
    """
    wide, high = (np.append(one, side) if one[-1] != side else one for one, side in zip((xs, ys), size, strict=True))
    best = np.zeros((len(wide), len(high)))
    how = np.full((len(wide), len(high), 2), -1)  # (-1, -1) nothing; (-2 - kind, way); (0, i) beside; (1, j) below
    for number, (kind, value) in enumerate(zip(kinds, values, strict=True)):
        for place, (width, height, _) in enumerate(kind.ways):
            i, j = int(np.searchsorted(wide, width)), int(np.searchsorted(high, height))
            if i < len(wide) and j < len(high):
                better = best[i:, j:] < value
                best[i:, j:][better] = value
                how[i:, j:][better] = (-2 - number, place)
    for i in range(len(wide)):
        # Cuts down: a part and what is left beside it, for all heights at once.
        parts = np.flatnonzero((wide > 0) & (2 * wide <= wide[i]))
        if parts.size:
            rest = np.searchsorted(wide, wide[i] - wide[parts], side="right") - 1
            sums = best[parts] + best[rest]
            most = sums.argmax(axis=0)
            top = sums[most, np.arange(len(high))]
            better = top > best[i] + 1e-12
            best[i][better] = top[better]
            how[i][better] = np.stack([np.zeros_like(most), parts[most]], axis=1)[better]
        for j in range(len(high)):
            parts = np.flatnonzero((high > 0) & (2 * high <= high[j]))
            if parts.size:
                rest = np.searchsorted(high, high[j] - high[parts], side="right") - 1
                sums = best[i, parts] + best[i, rest]
                most = int(sums.argmax())
                if sums[most] > best[i, j] + 1e-12:
                    best[i, j], how[i, j] = sums[most], (1, parts[most])
    return float(best[-1, -1]), _tree(kinds, how, wide, high, len(wide) - 1, len(high) - 1)


def _tree(
    kinds: Sequence[Kind], how: NDArray[np.int64], wide: NDArray[np.int64], high: NDArray[np.int64], i: int, j: int
) -> Tree | None:
    code, where = (int(one) for one in how[i, j])
    if code == -1:
        return None
    if code <= -2:
        return leaf(-2 - code, kinds[-2 - code].ways[where])
    if code == 0:
        rest = int(np.searchsorted(wide, wide[i] - wide[where], side="right")) - 1
        pair, join = ((where, j), (rest, j)), Tree.beside
    else:
        rest = int(np.searchsorted(high, high[j] - high[where], side="right")) - 1
        pair, join = ((i, where), (i, rest)), Tree.below
    parts = [tree for a, b in pair if (tree := _tree(kinds, how, wide, high, a, b)) is not None]
    return reduce(join, parts) if parts else None
