"""What is measured of every pair of regions that may belong together."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.impression._networks import Weights
from paleta.impression.depth._border_classifier import BEFORE, BEHIND, LEVEL, likelihoods
from paleta.impression.depth._border_features import Touching, touching_regions
from paleta.impression.depth._junctions import Junction, running_on, t_junctions
from paleta.impression.grouping import _between, _context, _poses
from paleta.impression.grouping._matrices import Floats, less_and_more, max_product_path, ranks
from paleta.impression.grouping._shapes import LIKE, MEASURES, Places, Shapes, shapes_of
from paleta.impression.grouping._thirds import across, in_a_row, round_a_centre
from paleta.impression.regions._region_map import PAPER, RegionMap

FEATURES = (
    "size", "smaller size", *(f"{name} apart" for name in MEASURES), *(f"{name}, less" for name in MEASURES),
    "waves apart", "overlay", "overlay rank", "likeness rank", "mutual rank", "alike around one", "alike around other",
    "away", "away in picture", "touching", "border of smaller", "border of larger", "shared neighbours",
    "same longest neighbour", "longest neighbour of one", "both on paper", "one on paper", "parallel",
    "round a centre", "as far from it", "pointing at it", "level", "upright", "before", "same front",
    "ends on a third", "runs on behind", "behind, less", "behind, more", "hull of both",
    "neighbours of one", "neighbours of other", "straight across", "equal width across",
    "in one plane", "one before the other", "behind one thing", "before one thing", "behind what it touches, less",
    "behind what it touches, more", *_poses.MEASURES, *_context.MEASURES,
    "goes on", "midway", *_between.MEASURES,
)  # fmt: skip
MOST_WEIGHED = 1500
"""Of more regions no pairs are looked at: that would take many seconds, and no hand colours them thing by thing."""
NEAREST = 60
"""For every region so many others by likeness are looked at, beside all that it touches or may run on into."""


@dataclass(frozen=True, slots=True, eq=False)
class Pairs:
    """`one` < `other` are places in `labels`; `features` is N x len(FEATURES). What was measured of those that
    touch is kept; None where no pairs were looked at."""

    labels: NDArray[np.int64]
    one: Places
    other: Places
    features: NDArray[np.float32]
    touching: Touching | None = None


def pairs_of(region_map: RegionMap, fronts: Weights | None = None) -> Pairs:
    """Every pair worth looking at with all its features; the same for the same map. None of more than MOST_WEIGHED
    regions. What stands in front is told by the network `fronts`, or Paleta's own.

    Parameters
    ----------
    region_map
        the regions
    fronts
        the network that says what stands in front; None: Paleta's own
    """
    shapes = shapes_of(region_map)
    n = len(shapes.labels)
    if not 2 <= n <= MOST_WEIGHED:
        nobody = np.zeros(0, np.intp)
        return Pairs(shapes.labels, nobody, nobody, np.zeros((0, len(FEATURES)), np.float32))
    place = {int(label): k for k, label in enumerate(shapes.labels)}
    borders = np.zeros((n, n), np.float32)
    for border in region_map.borders:
        if border.a != PAPER:
            a, b = place[border.a], place[border.b]
            borders[a, b] = borders[b, a] = border.length_mm
    junctions = t_junctions(region_map)
    unlike = shapes.unlike()
    runs_on = _runs_on(junctions, place)
    one, other = _chosen(unlike, borders, runs_on)
    met = touching_regions(region_map, shapes, junctions)
    level, before = _fronts(met, n, fronts)
    columns = [
        *_likeness(shapes, unlike, one, other),
        *_arrangement(shapes, borders, one, other),
        *_overlap(shapes, borders, junctions, runs_on, place, one, other),
        *across(shapes, one, other, borders),
        *_order(level, before, borders, one, other),
        *_poses.poses(shapes, one, other),
        *_context.context(shapes, unlike, borders, one, other),
        *in_a_row(shapes, unlike, one, other),
        *_between.between(region_map, shapes, unlike, before, one, other),
    ]
    return Pairs(shapes.labels, one, other, np.stack(columns, axis=1).astype(np.float32), met)


def _chosen(
    unlike: Floats, borders: NDArray[np.float32], runs_on: dict[tuple[int, int], float]
) -> tuple[Places, Places]:
    n = len(unlike)
    wanted = borders > 0
    for a, b in runs_on:
        wanted[a, b] = True
    if n <= NEAREST + 1:
        wanted[:] = True
    else:
        nearest = np.argpartition(unlike, NEAREST, axis=1)[:, : NEAREST + 1]
        np.put_along_axis(wanted, nearest, True, axis=1)
    one, other = np.nonzero(np.triu(wanted | wanted.T, 1))
    return one, other


def _likeness(shapes: Shapes, unlike: Floats, one: Places, other: Places) -> list[Floats]:
    log_size = np.log(shapes.size_mm)
    rank = ranks(unlike)
    covers = _poses.overlay(shapes)
    covers_rank = ranks(-covers)
    alike = np.log1p(np.count_nonzero(unlike < LIKE, axis=1) - 1)
    first, second = shapes.measures[one], shapes.measures[other]
    return [
        np.abs(log_size[one] - log_size[other]),
        np.minimum(log_size[one], log_size[other]),
        *np.abs(first - second).T,
        *np.minimum(first, second).T,
        np.linalg.norm(shapes.harmonics[one] - shapes.harmonics[other], axis=1),
        covers[one, other],
        np.log(np.maximum(np.maximum(covers_rank[one, other], covers_rank[other, one]), 1)),
        np.log(np.maximum(np.minimum(rank[one, other], rank[other, one]), 1)),
        np.log(np.maximum(np.maximum(rank[one, other], rank[other, one]), 1)),
        np.maximum(alike[one], alike[other]),
        np.minimum(alike[one], alike[other]),
    ]


def _arrangement(shapes: Shapes, borders: NDArray[np.float32], one: Places, other: Places) -> list[Floats]:
    apart = shapes.middle_mm[other] - shapes.middle_mm[one]
    away = np.hypot(*apart.T)
    size = np.sqrt(shapes.size_mm[one] * shapes.size_mm[other])
    whole = float(np.hypot(*np.ptp(shapes.middle_mm, axis=0))) + 1e-6
    border = borders[one, other]
    shares = border / shapes.around_mm[one], border / shapes.around_mm[other]
    touching = borders > 0
    degree = touching.sum(axis=1)
    common = (touching.astype(np.float32) @ touching.astype(np.float32))[one, other]
    longest = np.where(borders.max(axis=1) > 0, borders.argmax(axis=1), -1)
    parallel = np.abs((shapes.axis[one] * shapes.axis[other]).sum(axis=1))
    slim = 1 - np.maximum(shapes.measures[one, 0], shapes.measures[other, 0])
    centred, equally, pointing = round_a_centre(shapes, touching, one, other)
    return [
        np.log(away / size + 0.1),
        away / whole,
        (border > 0).astype(float),
        np.maximum(*shares),
        np.minimum(*shares),
        common / np.maximum(np.minimum(degree[one], degree[other]), 1),
        ((longest[one] == longest[other]) & (longest[one] >= 0)).astype(float),
        ((longest[one] == other) | (longest[other] == one)).astype(float),
        (shapes.on_paper[one] & shapes.on_paper[other]).astype(float),
        (shapes.on_paper[one] ^ shapes.on_paper[other]).astype(float),
        parallel * slim,
        centred,
        equally,
        pointing,
        np.abs(apart[:, 1]) / size,
        np.abs(apart[:, 0]) / size,
    ]


def _overlap(
    shapes: Shapes, borders: NDArray[np.float32], junctions: list[Junction], runs_on: dict[tuple[int, int], float],
    place: dict[int, int], one: Places, other: Places,
) -> list[Floats]:  # fmt: skip
    n = len(shapes.labels)
    fronts, ends = np.zeros((n, n), np.float32), np.zeros((n, n), np.float32)
    for junction in junctions:
        sides = [place[side] for side in (junction.left, junction.right) if side in place]
        for side in sides:
            fronts[place[junction.through], side] += junction.weight
        if len(sides) == 2:
            ends[sides[0], sides[1]] += junction.weight
            ends[sides[1], sides[0]] += junction.weight
    behind = (fronts > 0).astype(np.float32)
    # Of all that a region meets in a T: how much stands before it. 1 is a ground, 0 the foremost thing.
    total = fronts.sum(axis=0) + fronts.sum(axis=1)
    farness = np.where(total > 0, fronts.sum(axis=0) / np.maximum(total, 1e-6), 0.5)
    hidden = np.zeros((n, n), np.float32)
    for (a, b), weight in runs_on.items():
        hidden[a, b] = hidden[b, a] = weight
    degree = np.log1p(np.count_nonzero(borders > 0, axis=1))
    return [
        np.minimum(np.abs(fronts[one, other] - fronts[other, one]), 3),
        np.minimum((behind.T @ behind)[one, other], 3),
        np.minimum(ends[one, other], 3),
        np.minimum(hidden[one, other], 3),
        *less_and_more(farness[one], farness[other]),
        _hull_of_both(shapes, borders, one, other),
        *less_and_more(degree[one], degree[other]),
    ]


def _runs_on(junctions: list[Junction], place: dict[int, int]) -> dict[tuple[int, int], float]:
    """Pairs whose outlines lead into each other behind a nearer thing, with how well they do."""
    found: dict[tuple[int, int], float] = defaultdict(float)
    for first, second, straight in running_on(junctions):
        # Going through, the first stem is met backwards: its right is what lies on the left.
        for a, b in ((first.right, second.left), (first.left, second.right)):
            if a != b and a in place and b in place:
                key = min(place[a], place[b]), max(place[a], place[b])
                found[key] += straight * first.weight * second.weight
    return dict(found)


def _hull_of_both(shapes: Shapes, borders: NDArray[np.float32], one: Places, other: Places) -> Floats:
    """How nearly convex two that touch are together; 0 for others."""
    result = np.zeros(len(one))
    area = shapes.size_mm**2
    for k in np.flatnonzero(borders[one, other] > 0):
        a, b = one[k], other[k]
        hull = cv2.convexHull(np.concatenate([shapes.hulls[a], shapes.hulls[b]]))
        result[k] = min(1.2, (area[a] + area[b]) / max(float(cv2.contourArea(hull)), 1e-3))
    return result


def _fronts(met: Touching, n: int, fronts: Weights | None) -> tuple[Floats, Floats]:
    """n x n each: how likely two that touch lie in one plane, and that the first stands before the second."""
    level, before = np.zeros((n, n)), np.zeros((n, n))
    likely = likelihoods(met.features, fronts)
    first, second = met.places.T
    level[first, second] = level[second, first] = likely[:, LEVEL]
    before[first, second], before[second, first] = likely[:, BEFORE], likely[:, BEHIND]
    return level, before


def _order(level: Floats, before: Floats, borders: NDArray[np.float32], one: Places, other: Places) -> list[Floats]:
    """What stands before what, as likely as it is: of the two, and of what both touch."""
    # Of all that a region touches, how much stands before it: 1 is a ground, 0 the foremost thing.
    behind = (before.T * borders).sum(axis=1) / np.maximum(borders.sum(axis=1), 1e-6)
    return [
        level[one, other],
        np.abs(before[one, other] - before[other, one]),
        max_product_path(before.T, before)[one, other],
        max_product_path(before, before.T)[one, other],
        *less_and_more(behind[one], behind[other]),
    ]
