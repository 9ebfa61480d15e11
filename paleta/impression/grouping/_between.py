"""What lies between two regions."""

from __future__ import annotations

import numpy as np

from paleta.impression.grouping._matrices import Floats
from paleta.impression.grouping._shapes import LIKE, RIM, Places, Shapes
from paleta.impression.regions._region_map import PAPER, RegionMap

MEASURES = (
    "gap", "paper between", "nearer between", "farther between", "like between", "others between",
)  # fmt: skip
ON_THE_WAY = 24
"""Places looked at between two regions."""
AT_ONCE = 4096
"""Pairs taken together, for memory's sake."""


def between(
    region_map: RegionMap, shapes: Shapes, unlike: Floats, before: Floats, one: Places, other: Places
) -> list[Floats]:
    """MEASURES of every pair; `before` n x n, how likely each stands before what it touches.

    Parameters
    ----------
    region_map
        the regions
    shapes
        what is measured of each
    unlike
        n x n, how unlike two regions look
    before
        n x n, how likely each stands before what it touches
    one, other
        places of the first and of the second of every pair
    """
    if not len(one):
        return [np.zeros(0)] * len(MEASURES)
    chunks = [
        _met(region_map, shapes, unlike, before, one[first : first + AT_ONCE], other[first : first + AT_ONCE])
        for first in range(0, len(one), AT_ONCE)
    ]
    return [*np.concatenate(chunks, axis=1)]


def _met(region_map: RegionMap, shapes: Shapes, unlike: Floats, before: Floats, one: Places, other: Places) -> Floats:
    """The gap where two come nearest, against their size; and of what lies in it how much is paper, stands before one
    of them, stands behind one, looks like one, or is something else."""
    start, end = _nearest(shapes, one, other)
    size = np.sqrt(shapes.size_mm[one] * shapes.size_mm[other])
    at = np.linspace(0, 1, ON_THE_WAY)[:, None]
    x, y = np.moveaxis((start[:, None] * (1 - at) + end[:, None] * at) * region_map.px_per_mm, 2, 0).astype(int)
    labels = region_map.labels
    met = labels[np.clip(y, 0, labels.shape[0] - 1), np.clip(x, 0, labels.shape[1] - 1)]
    third, a, b = shapes.places()[met], one[:, None], other[:, None]
    new = (third >= 0) & (third != a) & (third != b)
    nearer = new * np.maximum(before[third, a], before[third, b])
    farther = new * np.maximum(before[a, third], before[b, third])
    like = new & (np.minimum(unlike[third, a], unlike[third, b]) < LIKE)
    return np.stack([
        np.log(np.hypot(*(end - start).T) / size + 0.05),
        (met == PAPER).mean(axis=1),
        nearer.mean(axis=1),
        farther.mean(axis=1),
        like.mean(axis=1),
        (new & (nearer < 0.5) & (farther < 0.5) & ~like).mean(axis=1),
    ])  # fmt: skip


def _nearest(shapes: Shapes, one: Places, other: Places) -> tuple[Floats, Floats]:
    """Where two outlines come nearest, x and y on either."""
    rims = shapes.rims_mm[one], shapes.rims_mm[other]
    square = [(rim**2).sum(axis=2) for rim in rims]
    apart = square[0][:, :, None] + square[1][:, None] - 2 * rims[0] @ rims[1].transpose(0, 2, 1)
    nearest, row = apart.reshape(len(one), -1).argmin(axis=1), np.arange(len(one))
    return rims[0][row, nearest // RIM], rims[1][row, nearest % RIM]
