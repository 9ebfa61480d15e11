"""Accents: passes that follow the light without being a zone, and the touches of a background.

Where each goes is worked out from light and outlines; what they are is common practice (docs/trade-notes.md, section
Accents), their measures are from memory.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.impression import to_edge
from paleta.light._lamp import Lamp
from paleta.light._zones import LEVELS


@dataclass(frozen=True, slots=True)
class AccentKind:
    """place    where it goes, in words; how it is laid.
    background  a touch of a ground, not of what stands there. dark: usually a shade of what it lies on, else the palest
                there is.
    """

    code: str
    name: str
    place: str
    how: str
    background: bool = False
    dark: bool = False


ACCENTS = {
    kind.code: kind
    for kind in (
        AccentKind(
            "crease",
            "A deeper shade in the creases",
            "deepest creases",
            "touch it to the deepest points only",
            dark=True,
        ),
        AccentKind(
            "shadow", "Shadow beneath", "shadow beneath, away from the lamp", "small circles, fading outwards",
            dark=True,
        ),
        AccentKind(
            "stencil", "Stencil", "through the stencil", "pounce lightly, shift it a little, repeat paler", True
        ),
        AccentKind(
            "stamps", "Repeated stamp", "stamped as a pattern",
            "large ones first, turned different ways, off the edge; small ones fill the gaps", True,
        ),
        AccentKind(
            "splatter", "Splatter", "splattered", "last of all on the ground, with the greeting's place covered", True
        ),
        AccentKind("halo", "Pale halo", "all round, outside its outline", "one thin, even rim"),
        AccentKind("rim", "Light rims", "rims that face the lamp", "a thin line just inside the outline"),
    )
}  # fmt: skip
"""In the order in which they are laid."""
CREASE_SHARE, CREASE_MM = 0.35, 1.4
RIM_MM = (0.25, 0.8)
RIM_FACING = 0.35
HALO_MM = 1.2
SHADOW_MM = (1.0, 4.0)
"""A shadow beneath reaches so far at the least and the most."""
STANDS_MM = 1.2
SPLATTER_PER_CM2, STAMPS_MM, STENCIL_MM = 3.0, 9.0, 3.2


@dataclass(frozen=True, slots=True, eq=False)
class Cover:
    """Where an accent lies: share h x w float32, 0..1, and for every region that has it the area in pixels."""

    share: NDArray[np.float32]
    areas: Mapping[int, float]


def accent_cover(
    kind: str,
    regions: Mapping[int, int],
    labels: NDArray[np.int32],
    light_levels: NDArray[np.int32],
    lamp: Lamp,
    *,
    px_per_mm: float,
) -> Cover:
    """Where the accent `kind` lies on all `regions` that have it (label to body: outlines within a body count for
    nothing), on a label map and light of h x w with `px_per_mm`.

    Parameters
    ----------
    kind
        A key of ACCENTS.
    regions
        Label to body, of all regions that have it; outlines within a body count for nothing.
    labels
        h x w int32, region labels.
    light_levels
        h x w int32, 0..LEVELS, as `levels` gives.
    lamp
        The lamp that rims and shadows turn to or from.
    px_per_mm
        Of `labels`.
    """
    share = np.zeros(labels.shape, np.float32)
    areas: dict[int, float] = {}
    if kind == "crease":
        return _creases(regions, labels, light_levels, px_per_mm)
    for body in sorted(set(regions.values())):
        mates = [label for label, other in regions.items() if other == body]
        box, inside = _cut_out(labels, mates, round(1.5 * SHADOW_MM[1] * px_per_mm) + 3)
        if not inside.any():
            continue
        part = _PARTS[kind](inside, lamp, px_per_mm)
        np.maximum(share[box], part, out=share[box])
        own = np.bincount(np.where(inside, labels[box], 0).ravel(), minlength=max(mates) + 1)
        for label in mates:
            # What lies outside of a body belongs to all of its regions, by their size.
            weight = part[labels[box] == label].sum() if kind in WITHIN else part.sum() * own[label] / inside.sum()
            areas[label] = float(weight)
    return Cover(share, areas)


WITHIN = ("rim", "stencil", "stamps", "splatter")
"""Accents that lie inside the region that has them."""


def _cut_out(labels: NDArray[np.int32], mates: list[int], margin: int) -> tuple[tuple[slice, slice], NDArray[np.bool_]]:
    whole = np.isin(labels, mates)
    rows, cols = np.flatnonzero(whole.any(axis=1)), np.flatnonzero(whole.any(axis=0))
    if not rows.size:
        return (slice(0, 0), slice(0, 0)), whole[:0, :0]
    box = (
        slice(max(0, int(rows[0]) - margin), int(rows[-1]) + 1 + margin),
        slice(max(0, int(cols[0]) - margin), int(cols[-1]) + 1 + margin),
    )
    return box, whole[box]


def _creases(
    regions: Mapping[int, int], labels: NDArray[np.int32], light_levels: NDArray[np.int32], px_per_mm: float
) -> Cover:
    """Along the edges of each region where it is darkest: from all of the accent in its darkest hundredth to none where
    CREASE_SHARE of it is darker."""
    span = int(labels.max()) + 1
    histogram = np.bincount((labels.astype(np.int64) * LEVELS + light_levels).ravel(), minlength=span * LEVELS)
    summed = np.cumsum(histogram.reshape(span, LEVELS), axis=1)
    ends, there = np.full((2, span), -1.0, np.float32), [label for label in regions if label < span]
    for label in there:
        for place, part in enumerate((0.01, CREASE_SHARE)):
            ends[place, label] = np.searchsorted(summed[label], part * summed[label, -1])
    low, high = ends[:, labels]
    dark = np.clip((high - light_levels) / np.maximum(high - low, 1), 0, 1)
    share = np.where(high >= 0, dark * np.exp(-((to_edge(labels) / px_per_mm / CREASE_MM) ** 2)), 0).astype(np.float32)
    areas = np.bincount(labels.ravel(), weights=share.ravel(), minlength=span)
    return Cover(share, {label: float(areas[label]) for label in there})


def _rims(inside: NDArray[np.bool_], lamp: Lamp, px_per_mm: float) -> NDArray[np.float32]:
    """A line just inside of the outline where that faces the lamp."""
    deep = _distance(inside) / px_per_mm
    soft = cv2.GaussianBlur(inside.astype(np.float32), (0, 0), max(0.7, 0.8 * px_per_mm))
    down, across = np.gradient(soft)
    length = np.hypot(across, down) + 1e-6
    to_lamp = _towards(lamp)
    facing = -(across * to_lamp[0] + down * to_lamp[1]) / length
    line = inside & (deep >= RIM_MM[0]) & (deep <= max(RIM_MM[1], RIM_MM[0] + 1.5 / px_per_mm))
    strength = np.clip((facing - RIM_FACING) / (0.8 - RIM_FACING), 0, 1)
    return np.where(line, strength, 0).astype(np.float32)


def _shadow(inside: NDArray[np.bool_], lamp: Lamp, px_per_mm: float) -> NDArray[np.float32]:
    """Where the outline, moved away from the lamp, comes to lie; softer the farther."""
    reach = np.clip(STANDS_MM / max(np.tan(np.radians(lamp.elevation_deg)), 1e-3), *SHADOW_MM) * px_per_mm
    to_lamp = _towards(lamp)
    move = np.array([[1, 0, -to_lamp[0] * reach], [0, 1, -to_lamp[1] * reach]], np.float32)
    moved = cv2.warpAffine(inside.astype(np.float32), move, inside.shape[::-1])
    soft = cv2.GaussianBlur(moved, (0, 0), max(0.6, 0.3 * float(reach)))
    return np.where(inside, 0, soft * 0.9).astype(np.float32)


def _halo(inside: NDArray[np.bool_], lamp: Lamp, px_per_mm: float) -> NDArray[np.float32]:
    away = cv2.distanceTransform((~inside).astype(np.uint8), cv2.DIST_L2, 5) / px_per_mm
    return np.where(inside | (away > HALO_MM), 0, 1).astype(np.float32)


def _splatter(inside: NDArray[np.bool_], lamp: Lamp, px_per_mm: float) -> NDArray[np.float32]:
    """Drops of many sizes, the same each time."""
    chance = np.random.default_rng(5)
    drops = np.zeros(inside.shape, np.float32)
    count = int(SPLATTER_PER_CM2 * inside.size / (10 * px_per_mm) ** 2)
    for row, col, size in zip(
        chance.uniform(0, inside.shape[0], count),
        chance.uniform(0, inside.shape[1], count),
        np.exp(chance.normal(-1.25, 0.5, count)),
        strict=True,
    ):
        cv2.circle(drops, (int(col * 16), int(row * 16)), max(8, int(size * px_per_mm * 16)), 1, -1, cv2.LINE_AA, 4)
    return np.where(inside, drops, 0).astype(np.float32)


def _stencil(inside: NDArray[np.bool_], lamp: Lamp, px_per_mm: float) -> NDArray[np.float32]:
    """A lattice of lozenges, soft where the pad went."""
    rows, cols = np.ogrid[: inside.shape[0], : inside.shape[1]]
    step = STENCIL_MM * px_per_mm
    wave = np.abs(((cols + rows) / step) % 2 - 1) + np.abs(((cols - rows) / step) % 2 - 1)
    return np.where(inside, 0.6 * np.clip((wave - 0.85) * 4, 0, 1), 0).astype(np.float32)


def _stamps(inside: NDArray[np.bool_], lamp: Lamp, px_per_mm: float) -> NDArray[np.float32]:
    """Small stars as if stamped, turned different ways, in rows that are shifted against each other."""
    chance = np.random.default_rng(7)
    plane = np.zeros(inside.shape, np.float32)
    step = STAMPS_MM * px_per_mm
    for number, row in enumerate(np.arange(0, inside.shape[0] + step, step * 0.8)):
        for col in np.arange((number % 2) * step / 2, inside.shape[1] + step, step):
            turn, size = chance.uniform(0, 2 * np.pi), chance.uniform(0.1, 0.22) * step
            angles = turn + np.arange(10) * np.pi / 5
            radii = np.where(np.arange(10) % 2, 0.45, 1.0) * size
            star = np.stack([col + radii * np.cos(angles), row + radii * np.sin(angles)], axis=1)
            cv2.fillPoly(plane, [np.round(star * 16).astype(np.int32)], 0.8, cv2.LINE_AA, 4)
    return np.where(inside, plane, 0).astype(np.float32)


_PARTS = {
    "rim": _rims, "shadow": _shadow, "halo": _halo, "splatter": _splatter, "stencil": _stencil, "stamps": _stamps,
}  # fmt: skip


def _towards(lamp: Lamp) -> tuple[float, float]:
    """Unit vector on the paper towards the lamp, (x right, y down)."""
    angle = np.radians(lamp.azimuth_deg)
    return float(np.sin(angle)), float(-np.cos(angle))


def _distance(inside: NDArray[np.bool_]) -> NDArray[np.float32]:
    return cv2.distanceTransform(np.pad(inside.astype(np.uint8), 1), cv2.DIST_L2, 5)[1:-1, 1:-1]
