"""First guesses: which form a region has and where its base is."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.impression import PAPER, SURE, PairScores, RegionMap, Things, guess_order, is_ring, weigh
from paleta.light._bodies import Body
from paleta.light._depths import settle_depths

SLIM_SHARE = 0.2
"""A region whose widest place is less than this part of its length is guessed as a tube."""
POINTED = 0.47
"""Near its ends (at 0.86 of half its length) a pointed shape is at most this wide; an ellipse has 0.51."""
LEAF_FILLS, LEAF_RATIO = (0.5, 0.76), (1.6, 6.0)
PETAL_RATIO = (1.1, 4.5)
FEWEST_PETALS = 4
GROUND_WIDE, GROUND_LOW, GROUND_SHARE = 0.55, 0.6, 0.04
"""Ground reaches over this much of the picture's width, lies in its lower part, and has this share of its area."""
STAFF_SLIM = 0.34
"""A region that fills its tightest rectangle as a bar does is a tube already at this part of its length, however it is
turned. From memory."""
BAR_SLIM, BAR_FILLS = 0.15, 0.85
"""A region so slim that fills so much of its rectangle is a bar and no ground, however wide it lies in the picture."""


@dataclass(frozen=True, slots=True)
class _Shape:
    """A region seen as a rectangle at its own slant: long and short side in mm, share filled, the wider of its widths
    near both ends in shares of its greatest, whether it is nearly convex, both ends and the middle in mm."""

    label: int
    long_mm: float
    short_mm: float
    filled: float
    blunt: float
    convex: bool
    ends: NDArray[np.float64]
    middle: NDArray[np.float64]


def guess_bodies(region_map: RegionMap, weighed: PairScores | None = None) -> list[Body]:
    """One body per region, with form and base guessed from shapes, and depth from what stands before what, both with
    the help of things; `weighed` as `weigh` has it, where that is known already.

    Parameters
    ----------
    region_map
        Regions 1..n.
    weighed
        As `paleta.impression.weigh` gives, where that is known already.

    Returns
    -------
    n bodies of one region each, in the order of labels.
    """
    weighed = weighed or weigh(region_map)
    shapes = {shape.label: shape for shape in _shapes(region_map)}
    forms, bases = _guess_forms(region_map, shapes)
    _help(region_map, shapes, forms, bases, weighed.things(SURE))
    order = guess_order(region_map, weighed)
    depths, _ = settle_depths([region.label for region in region_map.regions], order)
    return [
        Body(
            regions=(region.label,),
            form=forms[region.label],
            depth=depths[region.label],
            base_mm=bases.get(region.label),
        )
        for region in region_map.regions
    ]


def _shapes(region_map: RegionMap) -> list[_Shape]:
    shapes = []
    scale = region_map.px_per_mm
    for region in region_map.regions:
        top, left, bottom, right = region.bbox
        mask = (region_map.labels[top:bottom, left:right] == region.label).astype(np.uint8)
        contours, _ = cv2.findContours(mask, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_SIMPLE)
        outline = np.concatenate([contour.reshape(-1, 2) for contour in contours]).astype(np.float32)
        (x, y), (width, height), turn = cv2.minAreaRect(outline)
        along = np.radians(turn if width >= height else turn + 90)
        half = np.array([np.cos(along), np.sin(along)]) * max(width, height) / 2
        middle = np.array([x + left, y + top])
        shapes.append(
            _Shape(
                region.label,
                max(width, height) / scale,
                min(width, height) / scale,
                float(mask.sum()) / max(1.0, (width + 1) * (height + 1)),
                _bluntness(outline - (x, y), half),
                float(mask.sum()) > 0.9 * cv2.contourArea(cv2.convexHull(outline)),
                np.stack([middle - half, middle + half]) / scale,
                middle / scale,
            )
        )
    return shapes


def _bluntness(outline: NDArray[np.float32], half: NDArray[np.float64]) -> float:
    """The wider of an outline's widths near both ends of its long axis, in shares of its greatest width."""
    length = max(float(np.hypot(*half)), 1e-6)
    along, off = outline @ half / length**2, outline @ np.array([-half[1], half[0]]) / length
    dense = np.linspace(0, 1, 8)
    along = (along[:, None] * (1 - dense) + np.roll(along, -1)[:, None] * dense).ravel()
    off = (off[:, None] * (1 - dense) + np.roll(off, -1)[:, None] * dense).ravel()
    widths = []
    for low, high in ((-0.92, -0.8), (0.8, 0.92)):
        near = off[(along >= low) & (along <= high)]
        widths.append(float(np.ptp(near)) if near.size else 1.0)
    return max(widths) / max(float(np.ptp(off)), 1e-6)


def _guess_forms(
    region_map: RegionMap, shapes: Mapping[int, _Shape]
) -> tuple[dict[int, str], dict[int, tuple[float, float]]]:
    forms: dict[int, str] = {}
    bases: dict[int, tuple[float, float]] = {}
    rows, cols = region_map.labels.shape
    whole = rows * cols / region_map.px_per_mm**2
    for region in region_map.regions:
        top, left, bottom, right = region.bbox
        slim = region.inradius_mm * region_map.px_per_mm * 2 / max(bottom - top, right - left, 1)
        wide = (right - left) >= GROUND_WIDE * cols and region.centroid[0] >= GROUND_LOW * rows
        bar = slim < BAR_SLIM and shapes[region.label].filled >= BAR_FILLS
        if wide and region.area_mm2 >= GROUND_SHARE * whole and not bar:
            forms[region.label] = "ground"
        elif is_ring(region_map, region) or slim < SLIM_SHARE or _is_staff(shapes[region.label]):
            forms[region.label] = "tube"
        else:
            forms[region.label] = "dome"
    neighbours = region_map.neighbours()
    for centre in region_map.regions:
        petals = _petals_round(shapes[centre.label], [shapes[other] for other in neighbours[centre.label]])
        if len(petals) >= FEWEST_PETALS and forms[centre.label] == "dome":
            for petal in petals:
                forms[petal.label] = "petal"
                x, y = petal.ends[np.argmin(np.linalg.norm(petal.ends - shapes[centre.label].middle, axis=1))]
                bases[petal.label] = (round(float(x), 1), round(float(y), 1))
    for label, shape in shapes.items():
        ratio = shape.long_mm / max(shape.short_mm, 0.1)
        long_enough = LEAF_RATIO[0] <= ratio <= LEAF_RATIO[1]
        filled = LEAF_FILLS[0] <= shape.filled <= LEAF_FILLS[1]
        if forms[label] in ("dome", "tube") and long_enough and filled and shape.convex and shape.blunt <= POINTED:
            forms[label] = "leaf"
            bases[label] = _tucked_end(region_map, shape)
    return forms, bases


def _help(
    region_map: RegionMap,
    shapes: Mapping[int, _Shape],
    forms: dict[int, str],
    bases: dict[int, tuple[float, float]],
    things: Things,
) -> None:
    """Of what is hidden in part the shape says little; its fellows say what it is. In place: the rest of a flower are
    petals where most are, and pieces of one surface are what the largest of them is."""
    for group in things.alike:
        petals = [label for label in group if forms[label] == "petal"]
        if len(petals) < max(FEWEST_PETALS, len(group) // 2 + 1):
            continue
        for label in group.difference(petals):
            middle = shapes[label].middle
            nearest = min(petals, key=lambda petal: float(np.linalg.norm(shapes[petal].middle - middle)))
            forms[label], bases[label] = "petal", _nearest_to(region_map, label, bases[nearest])
    area = {region.label: region.area_mm2 for region in region_map.regions}
    for surface in things.parts:
        largest = max(surface, key=lambda label: (area[label], -label))
        for label in surface:
            if forms[label] != forms[largest]:
                forms[label] = forms[largest]
                bases.pop(label, None)


def _nearest_to(region_map: RegionMap, label: int, place: tuple[float, float]) -> tuple[float, float]:
    """Where a region comes nearest to a place, x and y in mm."""
    rows, cols = np.nonzero(region_map.labels == label)
    at = np.stack([cols, rows], axis=1) / region_map.px_per_mm
    x, y = at[np.argmin(np.linalg.norm(at - place, axis=1))]
    return round(float(x), 1), round(float(y), 1)


def _is_staff(shape: _Shape) -> bool:
    return shape.filled >= BAR_FILLS and shape.short_mm < STAFF_SLIM * shape.long_mm


def _petals_round(centre: _Shape, around: Sequence[_Shape]) -> list[_Shape]:
    """Those that point away from the centre and are longer than wide."""
    petals = []
    if centre.long_mm > 1.6 * max(centre.short_mm, 0.1):
        return []
    for shape in around:
        ratio = shape.long_mm / max(shape.short_mm, 0.1)
        outward = shape.middle - centre.middle
        along = shape.ends[1] - shape.ends[0]
        length = float(np.linalg.norm(outward)) * float(np.linalg.norm(along))
        aligned = length > 0 and abs(float(outward @ along)) / length > 0.7
        if PETAL_RATIO[0] <= ratio <= PETAL_RATIO[1] and aligned and shape.long_mm > 0.8 * centre.long_mm:
            petals.append(shape)
    return petals


def _tucked_end(region_map: RegionMap, shape: _Shape) -> tuple[float, float]:
    """The end with less paper round it; the lower one if both are alike."""
    bareness = []
    for x, y in shape.ends:
        row, col = int(y * region_map.px_per_mm), int(x * region_map.px_per_mm)
        reach = int(1.5 * region_map.px_per_mm)
        window = region_map.labels[max(0, row - reach) : row + reach, max(0, col - reach) : col + reach]
        bareness.append(float((window == PAPER).mean()) if window.size else 1.0)
    end = int(np.argmin(bareness)) if abs(bareness[0] - bareness[1]) > 0.05 else int(np.argmax(shape.ends[:, 1]))
    x, y = shape.ends[end]
    return round(float(x), 1), round(float(y), 1)
