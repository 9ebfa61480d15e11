"""Fit the networks by which regions are taken for one surface, or for alike: `python -m tools.fit_things` (two
hours).

Every pair of regions of drawings made by chance (tools/things) is measured; the drawing says whether the two belong
together. What stands in front is told by networks that never saw a drawing's kinds: of what it was fitted on, one is
too sure. Writes
paleta/impression/networks/pair_classifier.npz. How well they do: `python -m tools.things`; the kinds held back there
are never trained on.
"""

from __future__ import annotations

from collections.abc import Mapping
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np

from paleta import impression
from paleta.impression.grouping._pairs import FEATURES, pairs_of
from tools import fit_fronts
from tools.networks import EXERCISES, FOLDS, Samples, Weights, keep, told_of
from tools.things import Kind, exercise, fold_of

PLACE = Path(impression.__file__).parent / "networks" / "pair_classifier.npz"
HIDDEN, ROUNDS, BATCH, SHOWN = (256, 128), 12, 4096, 4


def samples(seed: int, kinds: Mapping[str, Kind], fronts: Weights) -> Samples:
    """Features of those pairs of one drawing of which it says whether they belong together, and that: a column for each
    of GROUPINGS."""
    drawn = exercise(seed, kinds, FOLDS)
    pairs = pairs_of(drawn.region_map, fronts)
    told, together = told_of(drawn, pairs)
    return pairs.features[told], together


def main() -> None:
    seen = fit_fronts.gather()
    fronts = [fit_fronts.fit([one for own, one in seen if own != fold]) for fold in range(FOLDS)]
    seeds, kinds = zip(*EXERCISES, strict=True)
    with ProcessPoolExecutor(2) as pool:
        found = pool.map(samples, seeds, kinds, [fronts[fold_of(seed, FOLDS)] for seed in seeds], chunksize=8)
        features, together = (np.concatenate(one) for one in zip(*found, strict=True))
    keep(PLACE, FEATURES, features, together, hidden=HIDDEN, rounds=ROUNDS, batch=BATCH, shown=SHOWN)


if __name__ == "__main__":
    main()
