"""Fit the networks that look at every pair of regions once more: `python -m tools.fit_second_look` (20 minutes).

The networks of tools/fit_things.py weigh each pair of other drawings of the kinds they were fitted on; from what they
say of all pairs of a drawing, and from what they saw themselves, is learnt what to make of each. Writes
paleta/impression/networks/second_pair_classifier.npz.

What it brings it brings where things are of kinds that were fitted on (alike F1 .96, where the first look alone comes
to .93) and where they are of no usual sort (.62 and .57); of the usual sorts by another hand both tell .89.
"""

from __future__ import annotations

from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np

from paleta import impression
from paleta.impression.grouping._pair_classifier import FEWEST, SECOND_FEATURES, first_look, seen_again
from paleta.impression.grouping._pairs import pairs_of
from tools.networks import Samples, keep, told_of
from tools.things import FOURTH_HAND, KINDS, ONCE_HELD_BACK, OTHER_HAND, SCENES, THIRD_HAND, Kind, panel

PLACE = Path(impression.__file__).parent / "networks" / "second_pair_classifier.npz"
DRAWINGS = [
    *((seed, KINDS) for seed in range(35_000, 35_200)),
    *((seed, OTHER_HAND) for seed in range(65_000, 65_160)),
    *((seed, SCENES) for seed in range(85_000, 85_220)),
    *((seed, THIRD_HAND) for seed in range(95_000, 95_220)),
    *((seed, FOURTH_HAND) for seed in range(105_000, 105_160)),
    *((seed, ONCE_HELD_BACK) for seed in range(48_000, 48_080)),
]
"""None of them is one that networks were fitted on, or that they are measured by."""
HIDDEN, ROUNDS, BATCH, SHOWN = (128, 64), 16, 1024, 3


def samples(seed: int, kinds: dict[str, Kind]) -> Samples:
    """What is seen at the second look of those pairs of one drawing of which it says whether they belong together."""
    drawn = panel(seed, kinds)
    pairs = pairs_of(drawn.region_map)
    told, together = told_of(drawn, pairs)
    if len(pairs.labels) < FEWEST:
        return np.zeros((0, len(SECOND_FEATURES)), np.float32), together[:0]
    return seen_again(pairs, first_look(pairs))[told], together


def main() -> None:
    seeds, kinds = zip(*DRAWINGS, strict=True)
    with ProcessPoolExecutor(2) as pool:
        found = pool.map(samples, seeds, kinds, chunksize=8)
        features, together = (np.concatenate(one) for one in zip(*found, strict=True))
    keep(PLACE, SECOND_FEATURES, features, together, hidden=HIDDEN, rounds=ROUNDS, batch=BATCH, shown=SHOWN)


if __name__ == "__main__":
    main()
