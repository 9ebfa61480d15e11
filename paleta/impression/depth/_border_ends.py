"""What lies round the ends of a border between two regions, where a third one meets them.

Where the one takes half of a small ring and the other shares the rest with the third, the one runs straight past: it
stands in front, and the line that parts the two others ends on it ([Guzman1968]). Shares on rings of several sizes say
so also where lines are crowded and no ring is crossed three times only.
"""

from __future__ import annotations

from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from paleta.impression.depth._junctions import meeting_places, on_rings

RINGS_MM = (0.45, 0.8, 1.3, 2.0)
RANKED_ON = 1
"""The ring by which the ends of a border are ranked: the one that says most comes first."""
SAMPLES = 64
ENDS = ("first", "second")
NO_THIRD = 0.33
"""What a third one has where there is no such end."""
ONE_END_MM = 0.5
"""Places nearer together are one end."""
MORE = tuple(f"more at {end} end, {mm} mm" for end in ENDS for mm in RINGS_MM)
"""How much more of the ring the one has than the other; changes its sign when the two are exchanged."""
REST = tuple(f"rest at {end} end, {mm} mm" for end in ENDS for mm in RINGS_MM)
BORDER_ENDS = (*MORE, *REST, "ends")


def border_ends(labels: NDArray[np.int32], pairs: NDArray[np.int64], px_per_mm: float) -> NDArray[np.float32]:
    """N x len(BORDER_ENDS) of each pair of regions that touch; N x 2 labels, the lower first.

    Parameters
    ----------
    labels
        H x W regions
    pairs
        N x 2 labels of regions that touch, the lower first
    px_per_mm
        pixels to a millimetre
    """
    more = np.zeros((len(pairs), len(ENDS), len(RINGS_MM)), np.float32)
    rest = np.full_like(more, NO_THIRD)
    of_pair, places = _ends_of(labels, pairs, px_per_mm)
    rings = np.stack([on_rings(labels, places, mm * px_per_mm, SAMPLES) for mm in RINGS_MM], axis=1)
    own, others = ((rings == pairs[of_pair, side][:, None, None]).mean(axis=2) for side in (0, 1))
    order = np.lexsort((-np.abs(own - others)[:, RANKED_ON], of_pair))
    counted = np.bincount(of_pair, minlength=len(pairs))
    first = np.concatenate([[0], np.cumsum(counted)[:-1]])
    for rank in range(len(ENDS)):
        has = np.flatnonzero(counted > rank)
        end = order[first[has] + rank]
        more[has, rank], rest[has, rank] = (own - others)[end], (1 - own - others)[end]
    flat = (-1, len(ENDS) * len(RINGS_MM))
    return np.concatenate(
        [more.reshape(flat), rest.reshape(flat), np.log1p(counted)[:, None]], axis=1, dtype=np.float32
    )


def _ends_of(
    labels: NDArray[np.int32], pairs: NDArray[np.int64], px_per_mm: float
) -> tuple[NDArray[np.int64], NDArray[np.float64]]:
    """M places in px where a pair and something else meet, and which pair that is."""
    number = {pair: k for k, pair in enumerate(map(tuple, pairs.tolist()))}
    seen: set[tuple[int, int, int]] = set()
    of_pair, places = [], []
    cell = ONE_END_MM * px_per_mm
    for row, col, met in meeting_places(labels):
        for pair in combinations(met, 2):
            k = number.get(pair, -1)
            end = (k, int(row / cell), int(col / cell))
            if k >= 0 and end not in seen:
                seen.add(end)
                of_pair.append(k)
                places.append((row + 0.5, col + 0.5))
    return np.array(of_pair, np.int64), np.array(places, float).reshape(-1, 2)
