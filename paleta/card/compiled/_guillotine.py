"""The best cut of every part of a sheet [Gilmore1965], at places where a cut can matter [Herz1972]."""

from __future__ import annotations

from numba import njit

NOTHING, BESIDE, BELOW = -1, 0, 1


@njit("void(float64[:,::1], int64[:,:,::1], int64[::1], int64[::1])", cache=True, nogil=True)
def best_cuts(best, how, wide, high):
    """Fill in what every part of the sheet is worth.

    Parameters
    ----------
    best
        float64, len(wide) x len(high): what a part wide[i] x high[j] is worth; as the best single piece on it to
        begin with, changed in place
    how
        int64, the same by 2, changed in place: (code, number) of the best; as it came for a single piece, (BESIDE,
        i of the left part) or (BELOW, j of the upper part)
    wide, high
        int64 places where a cut can matter, rising from 0
    """
    for i in range(len(wide)):
        for j in range(len(high)):
            most = best[i, j]
            rest = i
            for part in range(1, i + 1):
                if 2 * wide[part] > wide[i]:
                    break
                while wide[rest] > wide[i] - wide[part]:
                    rest -= 1
                worth = best[part, j] + best[rest, j]
                if worth > most + 1e-12:
                    most = worth
                    how[i, j, 0], how[i, j, 1] = BESIDE, part
            rest = j
            for part in range(1, j + 1):
                if 2 * high[part] > high[j]:
                    break
                while high[rest] > high[j] - high[part]:
                    rest -= 1
                worth = best[i, part] + best[i, rest]
                if worth > most + 1e-12:
                    most = worth
                    how[i, j, 0], how[i, j, 1] = BELOW, part
            best[i, j] = most
