"""What surrounds two regions: how many steps they are from each other and from the paper, whether what they touch looks
alike, what company they are in when like is joined to like step by step."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.sparse.csgraph import connected_components, shortest_path
from scipy.spatial.distance import cdist

from paleta.impression.grouping._matrices import Floats, largest_step, less_and_more, ranks
from paleta.impression.grouping._shapes import Places, Shapes

MEASURES = (
    "hops", "one figure", "hops from paper, less", "hops from paper, more", "as far from the figure's middle",
    "nearer ones, fewer", "nearer ones, more", "looks apart", "liker ones nearby, fewer", "liker ones nearby, more",
    "surroundings apart", "surroundings in common", "paper around, less", "paper around, more",
    "step over neighbours", "company over neighbours", "step over near ones", "company over near ones", "regions",
)  # fmt: skip
FAR = 8
"""Hops that count as no way at all."""
UNLIKE = 3.0
"""How unlike two regions are that do not meet."""
NEARBY = 12
"""How many that lie nearest are compared by their looks."""


def context(shapes: Shapes, unlike: Floats, borders: NDArray[np.float32], one: Places, other: Places) -> list[Floats]:
    """MEASURES of every pair.

    Parameters
    ----------
    shapes
        what is measured of each region
    unlike
        n x n, how unlike two regions look
    borders
        n x n, lengths of common borders in mm
    one, other
        places of the first and of the second of every pair
    """
    n, touching = len(borders), borders > 0
    hops = np.minimum(shortest_path(touching, unweighted=True), FAR)
    from_paper = np.min(hops[:, shapes.on_paper], axis=1, initial=FAR)
    nearer = ranks(cdist(shapes.middle_mm, shapes.middle_mm))
    liker = np.minimum(ranks(np.where(nearer <= NEARBY, unlike, np.inf)), NEARBY)
    paper = 1 - np.minimum(borders.sum(axis=1) / shapes.around_mm, 1)
    return [
        hops[one, other],
        (hops[one, other] < FAR).astype(float),
        *less_and_more(from_paper[one], from_paper[other]),
        _from_the_middle(shapes, touching, one, other),
        *less_and_more(np.log1p(nearer[one, other]), np.log1p(nearer[other, one])),
        unlike[one, other],
        *less_and_more(np.log1p(liker[one, other]), np.log1p(liker[other, one])),
        *_surroundings(shapes, borders, one, other),
        *less_and_more(paper[one], paper[other]),
        *_joined(np.where(touching, unlike, UNLIKE), one, other),
        *_joined(np.where(hops <= 2, unlike, UNLIKE), one, other),
        np.full(len(one), np.log(n)),
    ]


def _from_the_middle(shapes: Shapes, touching: NDArray[np.bool_], one: Places, other: Places) -> Floats:
    """1 where two of one figure lie equally far from its middle, as what is mirrored or turned in it does; 0 for
    others."""
    count, figure = connected_components(touching, directed=False)
    weight = shapes.size_mm**2
    whole = np.bincount(figure, weight, count)
    middle = np.stack([np.bincount(figure, weight * at, count) / whole for at in shapes.middle_mm.T], axis=1)
    reach = np.hypot(*(shapes.middle_mm - middle[figure]).T)
    less, more = less_and_more(reach[one], reach[other])
    return np.asarray((figure[one] == figure[other]) * (less + 1e-6) / (more + 1e-6))


def _surroundings(shapes: Shapes, borders: NDArray[np.float32], one: Places, other: Places) -> list[Floats]:
    """How unlike what two touch looks on average, and how much of their borders is with the same."""
    share = borders / np.maximum(borders.sum(axis=1, keepdims=True), 1e-6)
    looks = share @ shapes.looks
    common = np.zeros(len(one))
    for third in share.T:
        common += np.minimum(third[one], third[other])
    return [np.linalg.norm(looks[one] - looks[other], axis=1), common]


def _joined(unlike: Floats, one: Places, other: Places) -> list[Floats]:
    """The largest step in looks on the way of smallest steps from one to the other, and how many are joined by steps no
    larger."""
    step = largest_step(unlike)
    joined = np.stack([np.searchsorted(np.sort(row), row, "right") for row in step])
    return [step[one, other], np.log(joined[one, other])]
