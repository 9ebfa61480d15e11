"""Sums and exchanges over a picture of labels."""

from __future__ import annotations

import numpy as np
from numba import njit


@njit("int32[:,::1](int32[:,::1], int32[:,::1])", cache=True, nogil=True)
def handed(labels, nearest):
    """H x W: `labels`, where 0 and less are replaced by the label of the pixel that `nearest` names. It counts the
    pixels with a label from 1, line by line.

    Parameters
    ----------
    labels
        H x W labels; 0 and less are none
    nearest
        int, H x W: of each pixel the number of the pixel to take from, counted from 1 line by line

    Returns
    -------
    H x W labels without a hole, as far as the nearest ones have a label.
    """
    source = np.empty(labels.size + 1, np.int32)
    known = 0
    flat, told = labels.ravel(), nearest.ravel()
    for at in range(len(flat)):
        if flat[at] > 0:
            known += 1
            source[known] = flat[at]
    result = np.empty(len(flat), np.int32)
    for at in range(len(flat)):
        result[at] = flat[at] if flat[at] > 0 else source[told[at]]
    return result.reshape(labels.shape)


@njit("Tuple((int64[::1], int64[::1]))(int32[:,::1], int64)", cache=True, nogil=True)
def areas_and_firsts(labels, count):
    """Pixels of each label 0..count - 1, and the flat place of its first (-1: none); less than 0 is not counted.

    Parameters
    ----------
    labels
        H x W labels; less than 0 is not counted
    count
        how many labels there are, from 0

    Returns
    -------
    Two rows of `count` whole numbers: pixels, and the flat place of the first one (-1: none).
    """
    areas, first = np.zeros(count, np.int64), np.full(count, -1, np.int64)
    flat = labels.ravel()
    for at in range(len(flat)):
        label = flat[at]
        if label >= 0:
            if areas[label] == 0:
                first[label] = at
            areas[label] += 1
    return areas, first


@njit("int32[:,::1](int32[:,::1], int64[::1])", cache=True, nogil=True)
def renamed(labels, table):
    """H x W int32: the table's name for each label; 0 for less than 0.

    Parameters
    ----------
    labels
        H x W labels; less than 0 is none
    table
        the new name of each label, by its number

    Returns
    -------
    int32, H x W: the new names, 0 where there was none.
    """
    result = np.zeros(labels.size, np.int32)
    flat = labels.ravel()
    for at in range(len(flat)):
        if flat[at] >= 0:
            result[at] = table[flat[at]]
    return result.reshape(labels.shape)


@njit("int32[:,::1](int32[:,::1], int32[:,::1], int32[::1])", cache=True, nogil=True)
def kept_at_home(labels, pieces, home):
    """H x W int32: `labels` where `pieces` (0 on ink) is the one that `home` names for the label, else 0.

    Parameters
    ----------
    labels
        H x W labels
    pieces
        H x W numbers of connected pieces of paper, 0 on ink
    home
        the piece in which each label may stay, by its number

    Returns
    -------
    int32, H x W: `labels` inside their own piece, else 0.
    """
    result = np.zeros(labels.size, np.int32)
    flat, piece = labels.ravel(), pieces.ravel()
    for at in range(len(flat)):
        if piece[at] > 0 and home[flat[at]] == piece[at]:
            result[at] = flat[at]
    return result.reshape(labels.shape)
