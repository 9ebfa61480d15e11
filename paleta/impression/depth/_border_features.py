"""What is measured of two regions that touch, to tell which of them stands in front."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.impression.depth._border_ends import BORDER_ENDS, MORE, border_ends
from paleta.impression.depth._junctions import Junction, on_rings, running_on, t_junctions
from paleta.impression.grouping._shapes import Shapes, shapes_of
from paleta.impression.regions._region_map import PAPER, RegionMap
from paleta.impression.regions._ring import is_ring

Floats = NDArray[np.float64]
OF_EACH = (
    "stems, near", "stems, far", "stems that go on", "enclosed", "border", "ring", "solid", "fills", "slim", "compact",
    "holes", "size", "on paper", "at the edge", "neighbours", "farness", "height in picture", "widest",
)  # fmt: skip
"""Of one region, the other one given; measured both ways round."""
OF_BOTH = (
    "bends, near", "bends, far", "lower", "right", "unlike", "shared neighbours", "straight", "length", *BORDER_ENDS,
)  # fmt: skip
FEATURES = (*(f"{name}, {side}" for side in ("one", "other") for name in OF_EACH), *OF_BOTH)
TURNED = tuple(range(len(OF_EACH), 2 * len(OF_EACH))) + tuple(range(len(OF_EACH)))
"""Where the columns of each go when the two are exchanged; then these of both change their sign."""
SIGNED = ("bends, near", "bends, far", "lower", "right", *MORE)
NEARER_MM, NEARER_FAR = 0.6, 1.6
"""Junctions are looked at as usual, and on smaller rings."""
MOST_STEMS = 4
BENDS_MM, BEND_SAMPLES, BENDS_LOOKED_AT = (0.8, 2.4), 24, 24
"""Radii on which a border's bend is looked at, and at how many of its places."""
ENCLOSED = 0.98
LEAST_BORDER_MM = 0.3


@dataclass(frozen=True, slots=True, eq=False)
class Touching:
    """Pairs of regions that touch: labels N x 2, their places in `Shapes` N x 2, features N x len(FEATURES)."""

    labels: NDArray[np.int64]
    places: NDArray[np.int64]
    features: NDArray[np.float32]


def touching_regions(
    region_map: RegionMap, shapes: Shapes | None = None, junctions: list[Junction] | None = None
) -> Touching:
    """All pairs of regions with a border of some length between them, and what is measured of them; shapes and
    junctions (as `t_junctions` gives them) where they are known already.

    Parameters
    ----------
    region_map
        the regions
    shapes
        of all regions, where they are measured already
    junctions
        as `t_junctions` gives them, where they are known
    """
    borders = [one for one in region_map.borders if one.a != PAPER and one.length_mm >= LEAST_BORDER_MM]
    labels = np.array([(one.a, one.b) for one in borders], np.int64).reshape(-1, 2)
    if not len(labels):
        return Touching(labels, labels, np.zeros((0, len(FEATURES)), np.float32))
    shapes = shapes or shapes_of(region_map)
    place = shapes.places()
    pairs = place[labels]
    length = np.array([one.length_mm for one in borders])
    n = len(shapes.labels)
    near = _stems(t_junctions(region_map, near_mm=NEARER_MM, far=NEARER_FAR), place, n)
    far = _stems(t_junctions(region_map) if junctions is None else junctions, place, n)
    towards = [
        *(np.minimum(stems, MOST_STEMS) for stems in (near[0], far[0], far[1])),
        _enclosed(region_map, place),
    ]
    alone = _alone(region_map, shapes, far[0], pairs)
    of_each = [
        [
            *(pair[one, other] for pair in towards),
            length / shapes.around_mm[one],
            *(own[one] for own in alone),
        ]
        for one, other in (pairs.T, pairs.T[::-1])
    ]
    columns = [*of_each[0], *of_each[1], *_of_both(region_map, shapes, labels, pairs, length)]
    return Touching(labels, pairs, np.stack(columns, axis=1).astype(np.float32))


def exchanged(features: NDArray[np.float32]) -> NDArray[np.float32]:
    """The same pairs, seen from the other region."""
    both = features[:, 2 * len(OF_EACH) :] * np.where(np.isin(OF_BOTH, SIGNED), -1, 1).astype(np.float32)
    return np.concatenate([features[:, TURNED], both], axis=1)


def _alone(region_map: RegionMap, shapes: Shapes, stems: Floats, pairs: NDArray[np.int64]) -> list[Floats]:
    """n each, of every region; `stems` n x n, how many end on the one beside the other."""
    n = len(shapes.labels)
    total = stems.sum(axis=0) + stems.sum(axis=1)
    touches = np.zeros((n, n), bool)
    touches[tuple(pairs.T)] = touches[tuple(pairs.T[::-1])] = True
    rows, cols = region_map.labels.shape
    return [
        np.array([is_ring(region_map, region) for region in region_map.regions], float),
        *shapes.measures[:, (2, 1, 0, 3, 6)].T,
        np.log(shapes.size_mm),
        shapes.on_paper.astype(float),
        np.array([_at_edge(region.bbox, rows, cols) for region in region_map.regions], float),
        np.log1p(touches.sum(axis=1)),
        # Of all that a region meets in a T: how much stands before it. 1 is a ground, 0 the foremost thing.
        np.where(total > 0, stems.sum(axis=0) / np.maximum(total, 1e-6), 0.5),
        shapes.middle_mm[:, 1] * region_map.px_per_mm / rows,
        np.log(np.array([region.inradius_mm for region in region_map.regions]) + 0.1),
    ]


def _stems(junctions: list[Junction], place: NDArray[np.int64], n: int) -> tuple[Floats, Floats]:
    """n x n each: how many lines beside the other region end on the outline of the one, and how many of these go on
    beyond it."""
    ends, on = np.zeros((n, n)), np.zeros((n, n))
    goes_on = {id(stem) for first, second, _ in running_on(junctions) for stem in (first, second)}
    for junction in junctions:
        for side in {junction.left, junction.right} - {PAPER}:
            ends[place[junction.through], place[side]] += junction.weight
            on[place[junction.through], place[side]] += id(junction) in goes_on
    return ends, on


def _at_edge(box: tuple[int, int, int, int], rows: int, cols: int) -> bool:
    top, left, bottom, right = box
    return top <= 1 or left <= 1 or bottom >= rows - 1 or right >= cols - 1


def _enclosed(region_map: RegionMap, place: NDArray[np.int64]) -> Floats:
    """n x n: whether the one lies in a hole of the other, alone or with others."""
    regions = region_map.regions
    result = np.zeros((len(regions), len(regions)))
    areas = np.bincount(region_map.labels.ravel(), minlength=len(place))
    for host, region in enumerate(regions):
        top, left, bottom, right = region.bbox
        window = region_map.labels[top:bottom, left:right]
        mask = (window == region.label).astype(np.uint8)
        outer, _ = cv2.findContours(mask, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
        filled = cv2.drawContours(np.zeros_like(mask), outer, -1, 1, cv2.FILLED)
        inside = np.bincount(window[(filled > 0) & (mask == 0)], minlength=len(place))
        within = np.flatnonzero(inside > ENCLOSED * np.maximum(areas, 1))
        result[place[within[(within > 0) & (place[within] >= 0)]], host] = 1
    return result


def _of_both(
    region_map: RegionMap, shapes: Shapes, labels: NDArray[np.int64], pairs: NDArray[np.int64], length: Floats
) -> list[Floats]:
    one, other = pairs.T
    n = len(shapes.labels)
    touches = np.zeros((n, n), np.float32)
    touches[one, other] = touches[other, one] = 1
    degree = touches.sum(axis=1)
    common = (touches @ touches)[one, other] / np.maximum(np.minimum(degree[one], degree[other]), 1)
    looks = shapes.looks
    size = np.sqrt(shapes.size_mm[one] * shapes.size_mm[other])
    apart = (shapes.middle_mm[one] - shapes.middle_mm[other]) / size[:, None]
    bends = _bends(region_map, labels)
    return [
        bends[:, 0],
        bends[:, 1],
        np.clip(apart[:, 1], -4, 4),
        np.clip(apart[:, 0], -4, 4),
        np.linalg.norm(looks[one] - looks[other], axis=1),
        common,
        np.abs(bends[:, 1]) < 0.04,
        np.log(length),
        *border_ends(region_map.labels, labels, region_map.px_per_mm).T,
    ]


def _bends(region_map: RegionMap, labels: NDArray[np.int64]) -> Floats:
    """N x 2: on small and large rings round the border's places, how much less of the one region there is than of the
    other. Above 0, the one bulges into the other."""
    seen = region_map.labels
    size = int(seen.max()) + 1
    codes, at = [], []
    for here, there in (
        ((slice(None), slice(None, -1)), (slice(None), slice(1, None))),
        ((slice(None, -1), slice(None)), (slice(1, None), slice(None))),
    ):
        first, second = seen[here], seen[there]
        rows, cols = np.nonzero((first != second) & (first > 0) & (second > 0))
        low, high = first[rows, cols].astype(np.int64), second[rows, cols].astype(np.int64)
        codes.append(np.minimum(low, high) * size + np.maximum(low, high))
        at.append(np.stack([rows, cols], axis=1))
    code, places = np.concatenate(codes), np.concatenate(at)
    order = np.argsort(code, kind="stable")
    code, places = code[order], places[order]
    wanted = np.minimum(*labels.T) * size + np.maximum(*labels.T)
    first, last = np.searchsorted(code, wanted), np.searchsorted(code, wanted, "right")
    picked = (first[:, None] + (np.linspace(0, 1, BENDS_LOOKED_AT)[None] * (last - first - 1)[:, None])).astype(int)
    spots = places[np.clip(picked, 0, len(places) - 1)].astype(float)
    result = np.zeros((len(labels), len(BENDS_MM)))
    for column, radius_mm in enumerate(BENDS_MM):
        ring = on_rings(seen, spots, radius_mm * region_map.px_per_mm, BEND_SAMPLES)
        own = (ring == labels[:, 0, None, None]).sum(axis=2).astype(float)
        others = (ring == labels[:, 1, None, None]).sum(axis=2)
        result[:, column] = ((others - own) / np.maximum(own + others, 1)).mean(axis=1)
    return result
