"""The most valuable way to cut one sheet, where any number of every kind may be cut [Gilmore1965]."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np
from numpy.typing import NDArray

from paleta.card._slicing import PieceKind, Tree, leaf

MOST_PLACES = 500
"""More places for cuts than this on a side are not looked through."""
Join = Callable[[Tree, Tree], Tree]
BESIDE = 0
NO_PIECE = -1
FIRST_PIECE = -2
"""Codes of what a part holds: from this one downwards, a single piece of kind 0, 1, 2 and so on."""


def places(sides: Sequence[int], length: int) -> NDArray[np.int64] | None:
    """Every sum of sides up to a length [Herz1972]: a cut anywhere else could as well be made there. None: too many.

    Parameters
    ----------
    sides
        of the pieces, in whole units
    length
        of the sheet's side, in the same
    """
    there = {0}
    for side in sorted(set(sides)):
        if side <= length:
            fresh = set(there)
            for _ in range(length // side):
                fresh = {one + side for one in fresh if one + side <= length}
                there |= fresh
                if len(there) > MOST_PLACES:
                    return None
    return np.array(sorted(there), np.int64)


def best_sheet(
    kinds: Sequence[PieceKind],
    values: Sequence[float],
    xs: NDArray[np.int64],
    ys: NDArray[np.int64],
    size: tuple[int, int],
) -> tuple[float, Tree | None]:
    """The highest sum of values from a sheet of (width, height) units, and its layout.

    xs, ys  places for cuts, as `places` gives them for either side.

    Parameters
    ----------
    kinds
        of pieces, with their sides
    values
        what one of each kind is worth
    xs, ys
        int64 places for cuts, as `places` gives them for either side
    size
        width and height of the sheet
    """
    from paleta.card.compiled import best_cuts

    wide, high = (np.append(one, side) if one[-1] != side else one for one, side in zip((xs, ys), size, strict=True))
    best = np.zeros((len(wide), len(high)))
    how = np.full((len(wide), len(high), 2), NO_PIECE, np.int64)
    for number, (kind, value) in enumerate(zip(kinds, values, strict=True)):
        for place, (width, height, _) in enumerate(kind.ways):
            i, j = int(np.searchsorted(wide, width)), int(np.searchsorted(high, height))
            if i < len(wide) and j < len(high):
                better = best[i:, j:] < value
                best[i:, j:][better] = value
                how[i:, j:][better] = (FIRST_PIECE - number, place)
    best_cuts(best, how, wide, high)
    return float(best[-1, -1]), _tree(kinds, how, wide, high, len(wide) - 1, len(high) - 1)


def _tree(
    kinds: Sequence[PieceKind], how: NDArray[np.int64], wide: NDArray[np.int64], high: NDArray[np.int64], i: int, j: int
) -> Tree | None:
    made: list[Tree | None] = []
    waiting: list[tuple[int, int, Join | None]] = [(i, j, None)]
    while waiting:
        i, j, join = waiting.pop()
        if join is not None:
            second, first = made.pop(), made.pop()
            made.append(join(first, second) if first and second else first or second)
            continue
        code, where = (int(one) for one in how[i, j])
        if code == NO_PIECE:
            made.append(None)
        elif code <= FIRST_PIECE:
            made.append(leaf(FIRST_PIECE - code, kinds[FIRST_PIECE - code].ways[where]))
        elif code == BESIDE:
            rest = int(np.searchsorted(wide, wide[i] - wide[where], side="right")) - 1
            waiting += [(i, j, Tree.beside), (rest, j, None), (where, j, None)]
        else:
            rest = int(np.searchsorted(high, high[j] - high[where], side="right")) - 1
            waiting += [(i, j, Tree.below), (i, rest, None), (i, where, None)]
    return made[0]
