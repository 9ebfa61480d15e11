"""How two regions stand to each other: whether one is the other moved or mirrored as they lie in the picture, whether
both are as thick, as long, as high, and whether they lie side by side or in one line."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from paleta.impression.grouping._matrices import Floats, less_and_more
from paleta.impression.grouping._shapes import OVERLAY, Places, Shapes

MEASURES = (
    "same way up", "mirrored", "upside down", "thickness apart", "length apart", "width apart", "height apart",
    "level with each other", "above each other", "side by side, less", "side by side, more", "in line, less",
    "in line, more", "axes mirrored", "pointing at each other",
)  # fmt: skip


def poses(shapes: Shapes, one: Places, other: Places) -> list[Floats]:
    """MEASURES of every pair.

    Parameters
    ----------
    shapes
        what is measured of each region
    one, other
        places of the first and of the second of every pair
    """
    low, high = shapes.rims_mm.min(axis=1), shapes.rims_mm.max(axis=1)
    sides = np.log(high - low + shapes.size_mm[:, None] * 0.05)
    long = np.log(shapes.length_mm)
    thick = np.log(shapes.thick_mm)
    apart = np.abs(sides[one] - sides[other])
    return [
        *_upright(shapes, one, other),
        np.abs(thick[one] - thick[other]),
        np.abs(long[one] - long[other]),
        apart[:, 0],
        apart[:, 1],
        *(_overlap(low[one, k], high[one, k], low[other, k], high[other, k]) for k in (1, 0)),
        *_beside(shapes, one, other),
        *_axes(shapes, one, other),
    ]


def overlay(shapes: Shapes) -> Floats:
    """n x n: how well two shapes cover each other in the best of all quarter turns and mirrorings."""
    grid = shapes.overlays.reshape(-1, OVERLAY, OVERLAY)
    both = grid, grid.transpose(0, 2, 1)
    ways = (one[:, ::down, ::right] for one in both for down in (1, -1) for right in (1, -1))
    return np.maximum.reduce([_cover(shapes.overlays, way) for way in ways])


def _upright(shapes: Shapes, one: Places, other: Places) -> list[Floats]:
    """How well two shapes cover each other as they stand, left and right exchanged, and top and bottom."""
    grid = shapes.upright.reshape(-1, OVERLAY, OVERLAY)
    return [_cover(shapes.upright, seen)[one, other] for seen in (grid, grid[:, :, ::-1], grid[:, ::-1])]


def _cover(shown: NDArray[np.float32], seen: NDArray[np.float32]) -> Floats:
    """n x n: what shapes `shown` share with what is `seen` of the same, over their joint area."""
    shared = shown @ seen.reshape(shown.shape).T
    # Soft edges: a shape shares less than its own area with itself.
    own = np.maximum(np.einsum("ij,ij->i", shown, shown), 1e-6)
    joint = own[:, None] + own[None] - shared
    return np.clip(shared / np.maximum(joint, 1e-6), 0, 1).astype(np.float64)


def _overlap(low: Floats, high: Floats, other_low: Floats, other_high: Floats) -> Floats:
    """Of two stretches of a line what they share over what both take up."""
    shared = np.minimum(high, other_high) - np.maximum(low, other_low)
    joint = np.maximum(high, other_high) - np.minimum(low, other_low)
    return np.asarray(np.clip(shared / np.maximum(joint, 1e-6), 0, 1))


def _beside(shapes: Shapes, one: Places, other: Places) -> list[Floats]:
    """Seen along the long side of each: how well both cover the same stretch of it, so that they lie side by side; and
    of what is across it, so that they lie in line."""
    found: list[Floats] = []
    for way in (shapes.axis, shapes.axis[:, ::-1] * (-1, 1)):
        seen = []
        for first, second in ((one, other), (other, one)):
            own, its = (np.einsum("nij,nj->ni", shapes.rims_mm[at], way[first]) for at in (first, second))
            seen.append(_overlap(own.min(axis=1), own.max(axis=1), its.min(axis=1), its.max(axis=1)))
        found += less_and_more(*seen)
    return found


def _axes(shapes: Shapes, one: Places, other: Places) -> list[Floats]:
    """Whether the long sides mirror each other across the middle between the two, and whether they point at each other;
    nothing of round ones."""
    apart = shapes.middle_mm[other] - shapes.middle_mm[one]
    way = apart / (np.hypot(*apart.T)[:, None] + 1e-6)
    towards = [(shapes.axis[side] * way).sum(axis=1) for side in (one, other)]
    mirrored = shapes.axis[one] - 2 * towards[0][:, None] * way
    slim = 1 - np.maximum(shapes.measures[one, 0], shapes.measures[other, 0])
    return [
        np.abs((mirrored * shapes.axis[other]).sum(axis=1)) * slim,
        np.minimum(*np.abs(towards)) * slim,
    ]
