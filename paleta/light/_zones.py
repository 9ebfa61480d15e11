"""From light to zones: which part of each region is deep, shade, middle, light or highlight."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from paleta.errors import ZoningError
from paleta.impression import RegionMap

LEVELS = 512
"""Light is sorted into this many steps; a fifth of a percent is finer than any eye or pen."""
NO_ZONE = 255
"""Paper and regions left as paper."""
SHARES: dict[int, tuple[float, ...]] = {
    1: (1.0,),
    2: (0.38, 0.62),
    3: (0.26, 0.36, 0.38),
    4: (0.18, 0.26, 0.29, 0.27),
    5: (0.14, 0.2, 0.24, 0.24, 0.18),
}
"""Part of a region's area in each zone, darkest first. Common practice: a third or less in the darkest shade."""
ZONE_NAMES: dict[int, tuple[str, ...]] = {
    1: ("all over",),
    2: ("shade", "light"),
    3: ("shade", "middle", "light"),
    4: ("deep", "shade", "middle", "light"),
    5: ("deep", "shade", "middle", "light", "highlight"),
}


@dataclass(frozen=True, slots=True)
class Zoning:
    """How many zones each region gets.

    shades         label to number of zones, 0 = left as paper; regions not named get `default`.
    bodies         label to body for regions that form one body: their zones run across all of them.
    true_to_scene  0: every region gets its whole ramp by shares; 1: thresholds over the whole picture; or between.
    apart          labels that are no part of the scene, grounds: always by their own shares.
    shade          -1 to 1: less or more of every region lies in the darker zones than usual.
    """

    shades: Mapping[int, int] = field(default_factory=dict)
    default: int = 3
    true_to_scene: float = 0.0
    bodies: Mapping[int, int] = field(default_factory=dict)
    shade: float = 0.0
    apart: frozenset[int] = frozenset()

    def __post_init__(self) -> None:
        for label, count in [(None, self.default), *self.shades.items()]:
            if count not in range(0, 6):
                where = f"Region {label}" if label else "A region"
                raise ZoningError(f"{where} can have 1 to 5 zones, or 0 to stay paper; got {count}.")
        if not 0 <= self.true_to_scene <= 1:
            raise ZoningError(f"true_to_scene must lie in 0..1, got {self.true_to_scene}.")
        if not -1 <= self.shade <= 1:
            raise ZoningError(f"shade must lie in -1..1, got {self.shade}.")

    def count(self, label: int) -> int:
        return self.shades.get(label, self.default)


def levels(illumination: NDArray[np.float32]) -> NDArray[np.int32]:
    """Light 0..1 as whole steps 0..LEVELS-1."""
    return (illumination * (LEVELS - 1) + 0.5).astype(np.int32)


def thresholds(
    light_levels: NDArray[np.int32], labels: NDArray[np.int32], zoning: Zoning
) -> dict[int, NDArray[np.int32]]:
    """For every region the light levels at which the next lighter zone begins: count - 1 rising numbers.

    Parameters
    ----------
    light_levels
        h x w int32, 0..LEVELS.
    labels
        h x w int32.
    zoning
        How many zones each region has, and how its light is shared out.
    """
    span = int(labels.max()) + 1
    histogram = _histogram(light_levels, labels, span)
    inside = [label for label in range(1, span) if label not in zoning.apart]
    picture = np.cumsum(histogram[inside].sum(axis=0))
    own = np.cumsum(_with_bodies(histogram, zoning.bodies), axis=1)
    result: dict[int, NDArray[np.int32]] = {}
    by_count: dict[int, list[int]] = {}
    for label in range(1, span):
        by_count.setdefault(zoning.count(label), []).append(label)
    for count, alike in by_count.items():
        if count < 1:
            continue
        wanted = np.cumsum(SHARES[count])[:-1] ** (2.0**-zoning.shade)
        rows = own[alike]
        # How many levels lie below each share of the region's area, as searchsorted would count them.
        by_region = np.zeros((len(alike), count - 1))
        for place, part in enumerate(wanted):
            by_region[:, place] = (rows < part * rows[:, -1:]).sum(axis=1) + 1
        by_scene = np.searchsorted(picture, wanted * picture[-1]) + 1
        scene = np.array([[0.0 if label in zoning.apart else zoning.true_to_scene] for label in alike])
        mix = np.round((1 - scene) * by_region + scene * by_scene).astype(np.int32)
        mix[rows[:, -1] == 0] = 0
        result.update(zip(alike, mix, strict=True))
    return dict(sorted(result.items()))


def _histogram(light_levels: NDArray[np.int32], labels: NDArray[np.int32], span: int) -> NDArray[np.int64]:
    """span x LEVELS: how many pixels of each region lie at each level."""
    places = labels.astype(np.int64)
    places *= LEVELS
    places += light_levels
    return np.bincount(places.ravel(), minlength=span * LEVELS).reshape(span, LEVELS)


def _with_bodies(histogram: NDArray[np.int64], bodies: Mapping[int, int]) -> NDArray[np.int64]:
    """Every region of a body with what all of the body holds."""
    together: dict[int, list[int]] = {}
    for label, body in bodies.items():
        if 0 < label < len(histogram):
            together.setdefault(body, []).append(label)
    if not together:
        return histogram
    summed = histogram.copy()
    for labels in together.values():
        summed[labels] = histogram[labels].sum(axis=0)
    return summed


def zone_shares(
    light_levels: NDArray[np.int32], labels: NDArray[np.int32], starts: Mapping[int, NDArray[np.int32]]
) -> dict[int, tuple[float, ...]]:
    """Part of each region's area in each of its zones, deepest first, to a thousandth; a part may be 0.

    What is rounded are the sums from the deepest on, so that all parts together are 1 and no more.

    Parameters
    ----------
    light_levels
        h x w int32, 0..LEVELS.
    labels
        h x w int32.
    starts
        As `thresholds` gives.
    """
    span = int(labels.max()) + 1
    histogram = _histogram(light_levels, labels, span)
    shares = {}
    for label, begin in starts.items():
        total = max(1, int(histogram[label].sum()))
        parts = np.add.reduceat(np.append(histogram[label], 0), [0, *np.minimum(begin, LEVELS)])
        # Where two thresholds fall together reduceat gives the single level there, not nothing.
        parts = np.where(np.diff([0, *begin, LEVELS]) > 0, parts, 0)
        shares[label] = tuple(np.diff(np.round(np.cumsum(parts) / total, 3), prepend=0.0).round(3).tolist())
    return shares


def zone_map(illumination: NDArray[np.float32], region_map: RegionMap, zoning: Zoning) -> NDArray[np.uint8]:
    """H x W uint8: 0 = the deepest zone of its region, NO_ZONE on paper and regions left as paper.

    Parameters
    ----------
    illumination
        H x W float32, 0..1.
    region_map
        Of the same H x W.
    zoning
        How many zones each region has, and how its light is shared out.

    Raises
    ------
    ZoningError
        If the illumination is not of the map's shape.
    """
    if illumination.shape != region_map.labels.shape:
        raise ZoningError(f"The light {illumination.shape} and the map {region_map.labels.shape} differ in shape.")
    return zones_at(levels(illumination), region_map.labels, zoning)


def zones_at(light_levels: NDArray[np.int32], labels: NDArray[np.int32], zoning: Zoning) -> NDArray[np.uint8]:
    """h x w uint8: the zone of every pixel of `labels` (h x w) by its light level, NO_ZONE where there is none.

    Parameters
    ----------
    light_levels
        h x w int32, 0..LEVELS.
    labels
        h x w int32.
    zoning
        How many zones each region has, and how its light is shared out.
    """
    table = np.full((int(labels.max()) + 1, LEVELS), NO_ZONE, np.uint8)
    ladder = np.arange(LEVELS)
    for label, starts in thresholds(light_levels, labels, zoning).items():
        table[label] = np.searchsorted(starts, ladder, side="right")
    return table[labels, light_levels]
