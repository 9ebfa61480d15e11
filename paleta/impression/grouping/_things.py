"""From likely pairs to groups."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

import numpy as np
from scipy.cluster.hierarchy import fcluster

from paleta.impression.grouping._cluster_features import Square, average_linkage, square_of
from paleta.impression.grouping._matrices import max_product_path
from paleta.impression.grouping._pair_classifier import FEWEST, Floats, likely
from paleta.impression.grouping._pairs import FEATURES, Pairs, pairs_of
from paleta.impression.regions._region_map import RegionMap

LEAST = 0.4
"""Regions are joined while their groups belong together with this likelihood on average."""
SURE = 0.55
"""Groups this sure are taken for granted; of less sure ones a user is asked."""


class Group(frozenset[int]):
    """Labels of regions that belong together, and how `sure` that is, 0..1: the least likely of the pairs' averages by
    which it grew together."""

    sure: float

    def __new__(cls, labels: Iterable[int], sure: float) -> Group:
        made = super().__new__(cls, labels)
        made.sure = sure
        return made

    def __reduce__(self) -> tuple[type[Group], tuple[list[int], float]]:
        return Group, (sorted(self), self.sure)


@dataclass(frozen=True, slots=True)
class Things:
    """Groups of two and more regions; within each list no region is in two.

    parts  pieces of one surface: become one body.
    alike  what gets one ramp at first go: become one thing.
    """

    parts: tuple[Group, ...]
    alike: tuple[Group, ...]


@dataclass(frozen=True, slots=True, eq=False)
class PairScores:
    """Every pair of a map with the likelihood that it belongs together, by grouping."""

    pairs: Pairs
    likelihoods: Mapping[str, Floats]

    def things(self, least: float = LEAST) -> Things:
        """Groups that belong together with at least this likelihood on average. A surface goes on from piece to piece:
        its ends are as likely one as what lies between them belongs to both."""
        parts = self.square("parts")
        through = np.maximum(parts, max_product_path(parts, parts))
        return Things(self._groups(through, least), self._groups(self.square("alike"), least))

    def square(self, grouping: str) -> Square:
        """How likely any two belong together, by places in `pairs.labels`."""
        pairs = self.pairs
        return square_of(len(pairs.labels), pairs.one, pairs.other, self.likelihoods[grouping])

    def _groups(self, square: Square, least: float) -> tuple[Group, ...]:
        """Groups of at least two, in the order of their lowest label."""
        n = len(square)
        if n < FEWEST:
            return ()
        tree = average_linkage(square)
        member = fcluster(tree, 1 - least, "distance")
        widest: dict[int, float] = {}
        for a, _, height, _ in tree[tree[:, 2] <= 1 - least]:
            # Heights rise: the last one that joins into a group is its widest.
            leaf = int(a)
            while leaf >= n:
                leaf = int(tree[leaf - n, 0])
            widest[int(member[leaf])] = float(height)
        groups = [
            Group((int(label) for label in self.pairs.labels[member == number]), round(1 - height, 3))
            for number, height in widest.items()
        ]
        return tuple(sorted(groups, key=min))

    def touching(self, one: int, other: int) -> bool:
        """Whether two regions have a border in common."""
        pairs = self.pairs
        first, second = sorted((one, other))
        met = (pairs.labels[pairs.one] == first) & (pairs.labels[pairs.other] == second)
        return bool(pairs.features[met, FEATURES.index("touching")].any())

    def like(self, label: int, least: float) -> list[int]:
        """Regions that are alike with this one, likeliest first."""
        labels = self.pairs.labels
        likely = self.square("alike")[int(np.flatnonzero(labels == label)[0])]
        found = sorted(np.flatnonzero(likely >= least), key=lambda place: (-likely[place], labels[place]))
        return [int(labels[place]) for place in found]


def find_things(region_map: RegionMap) -> Things:
    """Propose both groupings over a found map.

    Every pair of regions is measured (FEATURES) and weighed by small networks fitted on drawings made by script
    (tools/fit_things.py; no published source), which say together what they say on average ([Hansen1990]), and weighed
    again beside what was likely of all other pairs (tools/fit_second_look.py, after [Wolpert1992]); groups grow
    together by average linkage ([Sokal1958]). Of fewer than FEWEST regions none are joined: each is soon decided by
    itself. The same map always gives the same groups.
    """
    return weigh(region_map).things()


def weigh(region_map: RegionMap) -> PairScores:
    pairs = pairs_of(region_map)
    return PairScores(pairs, likely(pairs))
