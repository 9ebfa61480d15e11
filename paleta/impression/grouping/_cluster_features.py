"""What is seen of two regions in the company each keeps: how likely every other region belongs with the one and with
the other."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.cluster.hierarchy import cophenet, fcluster, linkage
from scipy.spatial.distance import cdist, squareform

from paleta.impression.grouping._matrices import largest_step, less_and_more, max_product_path, ranks

Square = NDArray[np.float64]
"""n x n likelihoods 0..1 that two regions belong together; the same both ways, 0 on the diagonal."""
BARS = (0.32, 0.55)
"""Groups are looked at as they stand with a low bar and with a high one."""
MEASURES = (
    "same company", "best go-between", "company in common", "company of one only", "fewer mates", "more mates",
    "less of the likeliest", "more of the likeliest", "better rank", "worse rank", "grown together at", "linked at",
    *(f"{name} at {bar}" for bar in BARS for name in (
        "groups together", "in one group", "smaller group", "larger group", "lesser pull", "greater pull",
    )),
)  # fmt: skip
ALONE = 0.05
"""Who is with nobody as likely as this keeps no company to compare."""


def square_of(count: int, one: NDArray[np.intp], other: NDArray[np.intp], likelihood: NDArray[np.float32]) -> Square:
    """Pairs that were not looked at belong together as likely as their likeliest go-between with both: of a hundred
    scales each was seen beside those most like it only.

    Parameters
    ----------
    count
        of regions
    one, other
        places of the first and of the second of every pair that was looked at
    likelihood
        of each pair, 0..1

    Returns
    -------
    count x count, the same from either side.
    """
    square = np.full((count, count), np.nan)
    square[one, other] = square[other, one] = likelihood
    np.fill_diagonal(square, 0)
    unseen = np.isnan(square)
    square[unseen] = 0
    return np.where(unseen, max_product_path(square, square), square) if unseen.any() else square


def average_linkage(square: Square) -> NDArray[np.float64]:
    """The tree of average linkage over 1 - likelihood, as SciPy has it."""
    return np.asarray(linkage(squareform(1 - square, checks=False), "average"))


def cluster_features(square: Square) -> list[Square]:
    """MEASURES of every pair, each n x n."""
    total = square.sum(axis=1)
    own = total[:, None] - square
    apart = cdist(square, square, "cityblock") - 2 * square
    strength = np.sqrt(np.maximum((square**2).sum(axis=1)[:, None] - square**2, 1e-9))
    alone = (strength < ALONE) | (strength.T < ALONE)
    share = square / np.maximum(square.max(axis=1, keepdims=True), 1e-6)
    rank = np.log1p(ranks(-square))
    tree = average_linkage(square)
    return [
        np.where(alone, 0, square @ square / (strength * strength.T)),
        max_product_path(square, square),
        (own + own.T - apart) / 2,
        apart,
        *less_and_more(own, own.T),
        *less_and_more(share, share.T),
        *less_and_more(rank, rank.T),
        1 - squareform(cophenet(tree)),
        1 - largest_step(1 - square),
        *(measure for bar in BARS for measure in _of_groups(square, fcluster(tree, 1 - bar, "distance"))),
    ]


def _of_groups(square: Square, member: NDArray[np.int32]) -> list[Square]:
    """How the groups of two belong together on average, and how each is drawn to the rest of the other's group."""
    belongs = np.eye(int(member.max()) + 1)[member]
    sizes = belongs.sum(axis=0)
    pairs = np.maximum(np.outer(sizes, sizes) - np.diag(sizes), 1)
    between = (belongs.T @ square @ belongs) / pairs
    together = member[:, None] == member[None]
    size = sizes[member]
    others = size[None] - 1 - together
    pull = np.where(others > 0, ((square @ belongs)[:, member] - square) / np.maximum(others, 1), square)
    return [
        between[member][:, member],
        together.astype(float),
        np.log(np.minimum.outer(size, size)),
        np.log(np.maximum.outer(size, size)),
        *less_and_more(pull, pull.T),
    ]
