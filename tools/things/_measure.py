"""How well two groupings agree: pairs rightly together, and how many decisions are left to a hand."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import astuple, dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_matrix
from scipy.sparse.csgraph import connected_components

from paleta.impression import PAPER, Front, Group, Level, RegionMap, Things, find_things, guess_order, weigh
from paleta.impression.grouping._pairs import FEATURES, pairs_of
from paleta.impression.grouping._shapes import shapes_of
from paleta.light import settle_depths
from tools.things._canvas import Drawn

SHORT_MM = 1.0
Members = NDArray[np.int64]
LIKE_SIZE, LIKE_SLIM, LIKE_FILL = 1.5, 0.15, 0.12
"""What the plain rule takes for the same shape: times in area, and how far apart in slimness and fill."""
PLAIN_RUNS_ON = 0.6
"""How straight it wants two lines to lead into each other."""


@dataclass(frozen=True)
class Agreement:
    """Counts of pairs, and of decisions against regions; they add up."""

    right: int = 0
    wrong: int = 0
    missed: int = 0
    decisions: int = 0
    regions: int = 0

    def __add__(self, other: Agreement) -> Agreement:
        return Agreement(*(a + b for a, b in zip(astuple(self), astuple(other), strict=True)))

    @property
    def precision(self) -> float:
        return self.right / max(self.right + self.wrong, 1)

    @property
    def recall(self) -> float:
        return self.right / max(self.right + self.missed, 1)

    @property
    def f1(self) -> float:
        return 2 * self.right / max(2 * self.right + self.wrong + self.missed, 1)

    @property
    def decisions_per_region(self) -> float:
        return self.decisions / max(self.regions, 1)


def agreement(found: Members, truth: Members) -> Agreement:
    """Both name each region's group. Decisions are the groups, and one for every piece that must be moved."""
    together, belong = found[:, None] == found[None], truth[:, None] == truth[None]
    pairs = np.triu_indices(len(found), 1)
    crossings = len(set(zip(found.tolist(), truth.tolist(), strict=True)))
    groups, true_groups = len(set(found.tolist())), len(set(truth.tolist()))
    return Agreement(
        right=int((together & belong)[pairs].sum()),
        wrong=int((together & ~belong)[pairs].sum()),
        missed=int((~together & belong)[pairs].sum()),
        decisions=groups + (crossings - groups) + (crossings - true_groups),
        regions=len(found),
    )


def members(groups: Iterable[Group], count: int) -> Members:
    """By label from 0: the number of its group; whoever is in none is alone."""
    result = np.arange(count)
    for group in groups:
        result[list(group)] = min(group)
    return result


def plain_things(region_map: RegionMap) -> Things:
    """The plain rule: alike is what is of like shape and size, and touches a common neighbour or each other; parts are
    what a line that ends on a nearer thing leads on into, straight, beyond it."""
    shapes, around = shapes_of(region_map), region_map.neighbours()
    rows, cols = np.triu_indices(len(shapes.labels), 1)
    slim, fill = shapes.measures[:, 0], shapes.measures[:, 1]
    like = (
        (np.abs(np.log(shapes.size_mm[rows] / shapes.size_mm[cols])) * 2 < np.log(LIKE_SIZE))
        & (np.abs(slim[rows] - slim[cols]) < LIKE_SLIM)
        & (np.abs(fill[rows] - fill[cols]) < LIKE_FILL)
    )
    near = [
        bool(around[a] & around[b]) or b in around[a]
        for a, b in zip(shapes.labels[rows].tolist(), shapes.labels[cols].tolist(), strict=True)
    ]
    joined = like & np.array(near, bool)
    pairs = pairs_of(region_map)
    leads_on = pairs.features[:, FEATURES.index("runs on behind")] > PLAIN_RUNS_ON
    return Things(
        _joined(shapes.labels, pairs.one[leads_on], pairs.other[leads_on]),
        _joined(shapes.labels, rows[joined], cols[joined]),
    )


def _joined(labels: Members, one: NDArray[np.intp], other: NDArray[np.intp]) -> tuple[Group, ...]:
    """Whoever is joined with somebody, directly or through others, as groups."""
    n = len(labels)
    links = coo_matrix((np.ones(len(one)), (one, other)), shape=(n, n))
    _, member = connected_components(links, directed=False)
    groups = [labels[member == number].tolist() for number in np.unique(member)]
    return tuple(Group(group, 0.5) for group in groups if len(group) > 1)


WAYS = {"Paleta": find_things, "plain": plain_things, "nothing": lambda _: Things((), ())}


def measured(drawn: Drawn, way: str) -> dict[str, Agreement]:
    """By grouping, over the regions of which the drawing says something."""
    things = WAYS[way](drawn.region_map)
    count = int(drawn.region_map.labels.max()) + 1
    result = {}
    for name, groups, truth in (("parts", things.parts, drawn.part), ("alike", things.alike, drawn.alike)):
        told = np.flatnonzero(truth > 0)
        told = told[told < count]
        result[name] = agreement(members(groups, count)[told], truth[told])
    return result


def exact(drawn: Drawn) -> dict[str, Agreement]:
    """What the truth itself would be measured as: how many decisions are left where nothing is wrong."""
    return {
        name: agreement(truth[truth > 0], truth[truth > 0])
        for name, truth in (("parts", drawn.part), ("alike", drawn.alike))
    }


@dataclass(frozen=True)
class Fronts:
    """Borders of what was drawn over something: guessed right, wrong, or left level. And borders of what lies side by
    side: how many got one depth, and how many two."""

    right: int = 0
    wrong: int = 0
    level: int = 0
    one_plane: int = 0
    two_planes: int = 0

    def __add__(self, other: Fronts) -> Fronts:
        return Fronts(*(a + b for a, b in zip(astuple(self), astuple(other), strict=True)))


def fronts(drawn: Drawn, order: Sequence[Front | Level] | None = None) -> Fronts:
    """How often the guessed depths put what was drawn later in front, and leave in one plane what does not overlap; by
    this order, or by Paleta's own."""
    found = drawn.region_map
    order = guess_order(found, weigh(found)) if order is None else order
    depth, _ = settle_depths([region.label for region in found.regions], order)
    counts = Fronts()
    for border in found.borders:
        pair = int(drawn.owner[border.a]), int(drawn.owner[border.b])
        one_surface = drawn.part[border.a] == drawn.part[border.b]
        if border.a == PAPER or border.length_mm < SHORT_MM or one_surface:
            continue
        if {pair, pair[::-1]} & drawn.over:
            fall = (depth[border.a] - depth[border.b]) * (1 if pair in drawn.over else -1)
            counts += Fronts(right=int(fall > 0), wrong=int(fall < 0), level=int(fall == 0))
        elif 0 not in pair:
            same = depth[border.a] == depth[border.b]
            counts += Fronts(one_plane=int(same), two_planes=int(not same))
    return counts


def table(rows: Sequence[tuple[str, Agreement]]) -> str:
    lines = [f"{'':34}{'F1':>7}{'precision':>11}{'recall':>8}{'decisions a region':>20}"]
    for name, one in rows:
        lines.append(f"{name:34}{one.f1:7.2f}{one.precision:11.2f}{one.recall:8.2f}{one.decisions_per_region:20.2f}")
    return "\n".join(lines)
