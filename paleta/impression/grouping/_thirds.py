"""Two regions and a third: round which they lie, which lies between them as a stripe does, with which their row goes
on."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import KDTree

from paleta.impression.grouping._matrices import Floats
from paleta.impression.grouping._shapes import LIKE, Places, Shapes

NEAR = 3
"""Of so many regions next to where a row would go on, the likest counts."""


def round_a_centre(
    shapes: Shapes, touching: NDArray[np.bool_], one: Places, other: Places
) -> tuple[Floats, Floats, Floats]:
    """Of pairs that touch a third: whether both lie round it, equally far away, pointing at it.

    Parameters
    ----------
    shapes
        what is measured of each region
    touching
        n x n
    one, other
        places of the first and of the second of every pair

    Returns
    -------
    Three rows, 0..1 for each pair.
    """
    centred, equally, pointing = (np.zeros(len(one)) for _ in range(3))
    middle = shapes.middle_mm
    for centre in range(len(touching)):
        around = touching[centre]
        both = np.flatnonzero(around[one] & around[other])
        if not len(both) or np.count_nonzero(around) < 3:
            continue
        ways = [middle[side[both]] - middle[centre] for side in (one, other)]
        far = [np.hypot(*way.T) + 1e-6 for way in ways]
        even = 1 - np.abs(far[0] - far[1]) / (far[0] + far[1])
        aims = [
            np.abs((shapes.axis[side[both]] * way).sum(axis=1)) / reach
            for side, way, reach in zip((one, other), ways, far, strict=True)
        ]
        aim = np.minimum(*aims)
        worth = even * (0.5 + aim)
        better = worth > centred[both]
        at = both[better]
        centred[at], equally[at], pointing[at] = worth[better], even[better], aim[better]
    return centred, equally, pointing


def across(shapes: Shapes, one: Places, other: Places, borders: NDArray[np.float32]) -> list[Floats]:
    """Of every other stripe: a third lies between the two, with borders of like length to both, and all are as wide.

    Parameters
    ----------
    shapes
        what is measured of each region
    one, other
        places of the first and of the second of every pair
    borders
        n x n, lengths of common borders in mm
    """
    straight, equal = np.zeros(len(one)), np.zeros(len(one))
    for middle in range(len(borders)):
        length = borders[middle]
        both = np.flatnonzero((length[one] > 0) & (length[other] > 0))
        if not len(both):
            continue
        ways = [shapes.middle_mm[side[both]] - shapes.middle_mm[middle] for side in (one, other)]
        far = [np.hypot(*way.T) + 1e-6 for way in ways]
        opposite = -(ways[0] * ways[1]).sum(axis=1) / (far[0] * far[1])
        even = 1 - np.abs(length[one[both]] - length[other[both]]) / (length[one[both]] + length[other[both]])
        between = (length[one[both]] + length[other[both]]) / shapes.around_mm[middle]
        worth = np.maximum(opposite, 0) * even * between
        better = worth > straight[both]
        at = both[better]
        straight[at], equal[at] = worth[better], even[better]
    return [straight, equal]


def in_a_row(shapes: Shapes, unlike: Floats, one: Places, other: Places) -> list[Floats]:
    """Whether a third of the same looks lies as far beyond one of the two as they are apart; and midway between.

    Parameters
    ----------
    shapes
        what is measured of each region
    unlike
        n x n, how unlike two regions look
    one, other
        places of the first and of the second of every pair
    """
    middle, count = shapes.middle_mm, min(NEAR, len(shapes.labels))
    tree, apart = KDTree(middle), middle[other] - middle[one]
    reach = np.hypot(*apart.T)[:, None] + 1e-6

    def found(where: Floats) -> Floats:
        off, third = (seen.reshape(len(where), count) for seen in tree.query(where, k=count))
        looks = np.exp(-np.maximum(unlike[one[:, None], third], unlike[other[:, None], third]) / LIKE)
        new = (third != one[:, None]) & (third != other[:, None])
        return np.asarray((np.maximum(1 - 2 * off / reach, 0) * looks * new).max(axis=1))

    beyond = np.maximum(found(middle[other] + apart), found(middle[one] - apart))
    return [beyond, found((middle[one] + middle[other]) / 2)]
