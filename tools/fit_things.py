"""Fit the networks by which regions are taken for one surface, or for alike: `python -m tools.fit_things` (two hours).

Every pair of regions of drawings made by chance (tools/things) is measured; the drawing says whether the two belong
together. What is learnt from is told by networks that never saw a drawing's kinds, of what was fitted on them one is
too sure: what stands in front by those of tools/fit_fronts.py; and what is likely at first sight, for the second look,
which so learns how far a first one can be trusted on things that nobody drew before. Writes _things.npz and
_second_look.npz in paleta/impression. How well they do: `python -m tools.things`; the kinds held back there are never
trained on.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from paleta import impression
from paleta.impression._looks import FEWEST, MOST_SEEN_AGAIN, NETWORKS, SECOND_FEATURES, first_look, seen_again
from paleta.impression._thing_pairs import FEATURES, Pairs, pairs_of
from tools import fit_fronts
from tools.networks import EXERCISES, FOLDS, Samples, Weights, fitted, keep, told_of
from tools.things import Kind, exercise, fold_of

PLACE = Path(impression.__file__).parent
FIRST, SECOND = PLACE / "_things.npz", PLACE / "_second_look.npz"
HIDDEN, ROUNDS, BATCH = (256, 128), 10, 4096
HIDDEN_AGAIN, ROUNDS_AGAIN, BATCH_AGAIN = (128, 64), 16, 1024
AGAIN_EVERY = 3
"""One drawing in so many is looked at once more; of the others, what is likely at first sight is learnt for that: one
network a fold, as they are many pairs."""


@dataclass(frozen=True, slots=True, eq=False)
class Seen:
    """The pairs of a drawing of one fold, of which it is `told` whether they belong together, and that: a column for
    each of GROUPINGS."""

    fold: int
    pairs: Pairs
    told: NDArray[np.bool_]
    together: NDArray[np.int8]


def seen_in(seed: int, kinds: Mapping[str, Kind], fronts: Weights) -> Seen:
    drawn = exercise(seed, kinds, FOLDS)
    pairs = pairs_of(drawn.region_map, fronts)
    return Seen(fold_of(seed, FOLDS), pairs, *told_of(drawn, pairs))


def fit_first(drawings: Iterable[Seen], names: tuple[str, ...] = NETWORKS) -> Weights:
    shown = ((one.pairs.features[one.told], one.together) for one in drawings)
    return fitted(shown, names, hidden=HIDDEN, rounds=ROUNDS, batch=BATCH)


def shown_again(one: Seen, first: Weights) -> Samples:
    """What the second look sees of those pairs of one drawing of which it says whether they belong together."""
    if not FEWEST <= len(one.pairs.labels) <= MOST_SEEN_AGAIN:
        return np.zeros((0, len(SECOND_FEATURES)), np.float32), one.together[:0]
    return seen_again(one.pairs, first_look(one.pairs, first))[one.told], one.together


def fit_second(drawings: list[Seen], firsts: list[Weights]) -> Weights:
    """`firsts`: by fold, what was fitted on all others."""
    with ProcessPoolExecutor(2) as pool:
        shown = [*pool.map(shown_again, drawings, [firsts[one.fold] for one in drawings], chunksize=8)]
    return fitted(shown, hidden=HIDDEN_AGAIN, rounds=ROUNDS_AGAIN, batch=BATCH_AGAIN)


def main() -> None:
    told = fit_fronts.gather()
    fronts = [fit_fronts.fit([one for own, one in told if own != fold]) for fold in range(FOLDS)]
    seeds, kinds = zip(*EXERCISES, strict=True)
    with ProcessPoolExecutor(2) as pool:
        drawings = [*pool.map(seen_in, seeds, kinds, [fronts[fold_of(seed, FOLDS)] for seed in seeds], chunksize=8)]
    keep(FIRST, FEATURES, fit_first(drawings))
    others = [one for place, one in enumerate(drawings) if place % AGAIN_EVERY]
    firsts = [fit_first((one for one in others if one.fold != fold), NETWORKS[:1]) for fold in range(FOLDS)]
    keep(SECOND, SECOND_FEATURES, fit_second(drawings[::AGAIN_EVERY], firsts))


if __name__ == "__main__":
    main()
