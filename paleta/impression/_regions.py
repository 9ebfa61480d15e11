"""Finding the closed cells of a line drawing whose lines may be broken."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.errors import NoRegions
from paleta.impression._ink import separate_ink
from paleta.impression._read import Impression
from paleta.impression._region_map import CRACK_TO_LENGTH, RegionMap

BALL_STEPS = 9
"""How many ball sizes are tried between the widest gap and one pixel."""
NECK_SHARE = 0.55
"""Two cells that touch without ink between them, over a neck at least this share of the smaller one's own
width, are one cell that narrows. A gap in a line is narrow beside both cells; a waist is not."""
NARROWEST_MM = 0.34
"""Passages no wider than this are left parted, whatever the lines do: a brush does not go through."""
CHANNEL_INK = 0.66
"""A ring that runs through this much ink lies across a passage between two lines, not across a break in one."""
RING_LINES = 0.9
RING_POINTS = 48
CRUMB_MM2 = 0.03
"""Cells this small are what the smallest ball finds between grains of ink; they never become regions of their own."""
MOST_REGIONS = 4000
BARRIER = -1


def find_regions(
    impression: Impression, *, gap_mm: float = 1.0, smallest_mm2: float = 0.5, ink: float = 0.0
) -> RegionMap:
    """Find the regions of a stamped image.

    Trapped-ball filling after [Zhang2009]: a ball too large for any gap fills the cores of the cells, then smaller
    balls reach into corners and find thin cells; what a smaller ball reaches from a core belongs to that core.
    Left-over paper goes to the cell that reaches it first, ink to the nearest cell.

    Parameters
    ----------
    impression : Impression
    gap_mm : float
        Breaks in a line up to this width do not let two cells run together. 0.1 to 5.
    smallest_mm2 : float
        Cells smaller than this are handed to their neighbours.
    ink : float
        -1 to 1: more or less than usual is taken for ink.

    Returns
    -------
    RegionMap
        `labels` is a full partition: 0 is the paper around the image, 1..n the regions in reading order.

    Raises
    ------
    NoRegions
        If the sheet is blank, black, or no line closes.
    """
    if not 0.1 <= gap_mm <= 5:
        raise NoRegions(f"gap_mm must lie in 0.1..5, got {gap_mm}.")
    if not -1 <= ink <= 1:
        raise NoRegions(f"ink must lie in -1..1, got {ink}.")
    inked = separate_ink(impression, ink)
    px_per_mm = impression.px_per_mm
    distance = cv2.distanceTransform((~inked).astype(np.uint8), cv2.DIST_L2, 5)
    labels = _fill_with_balls(distance, inked, largest_px=gap_mm * px_per_mm / 2)
    labels = _drop_small(labels, CRUMB_MM2 * px_per_mm**2)
    labels = _merge_waists(labels, distance, inked, NARROWEST_MM * px_per_mm / 2)
    labels = _drop_small(labels, smallest_mm2 * px_per_mm**2)
    labels = _paper_first(labels)
    labels = give_leftovers_to_nearest(labels)
    labels = _number_in_reading_order(labels)
    count = int(labels.max())
    if count == 0:
        raise NoRegions("No closed region was found. Allow wider gaps, or scan the stamped image larger.")
    if count > MOST_REGIONS:
        raise NoRegions(
            f"More than {MOST_REGIONS} cells were found; this looks like a photo or a texture, "
            "not a stamped line drawing."
        )
    return RegionMap(labels=labels, ink=inked, dpi=impression.dpi)


def _fill_with_balls(distance: NDArray[np.float32], ink: NDArray[np.bool_], largest_px: float) -> NDArray[np.int32]:
    """Cells as 1..n, ink as BARRIER. The distance to ink says where a ball of a given size may stand."""
    labels = np.zeros(distance.shape, np.int32)
    canvas = np.zeros((*distance.shape, 3), np.uint8)
    used = 0
    radii = np.geomspace(max(largest_px, 1.5), 1.0, BALL_STEPS)
    for radius in [*radii, 0.5]:
        room = distance > radius
        labels = _spread(labels, room, canvas)
        _, cores = cv2.connectedComponents((room & (labels == 0)).astype(np.uint8), connectivity=4)
        fresh = cores > 0
        labels[fresh] = cores[fresh] + used
        used += int(cores.max())
    labels[ink] = BARRIER
    return labels


def _spread(labels: NDArray[np.int32], room: NDArray[np.bool_], canvas: NDArray[np.uint8]) -> NDArray[np.int32]:
    """Let every label grow inside `room`, nearest first. On a blank canvas OpenCV's watershed is a plain flood."""
    if not labels.any():
        return labels
    wall = int(labels.max()) + 1
    markers = np.where(room, labels, wall).astype(np.int32)
    if not (markers == 0).any():
        return labels
    # The flood leaves a one-pixel frame and meeting lines at -1; these are filled again at the end.
    flooded = cv2.watershed(canvas, markers)
    grown = np.where((flooded > 0) & (flooded != wall), flooded, labels)
    # Cores are larger balls' ground: what was labelled stays labelled.
    return np.where(labels > 0, labels, grown).astype(np.int32)


def _merge_waists(
    labels: NDArray[np.int32], distance: NDArray[np.float32], ink: NDArray[np.bool_], narrowest_px: float
) -> NDArray[np.int32]:
    """Join cells that were parted although no line is broken between them.

    Where a line is broken, only its two ends reach the place where the cells meet, so a ring round it sees little
    ink. A cell that merely narrows has lines along both sides there, and the ring runs through much of them.
    """
    count = int(labels.max()) + 1
    if count <= 2:
        return labels
    widest = np.zeros(count, np.float32)
    cells = labels > 0
    np.maximum.at(widest, labels[cells], distance[cells])
    full = give_leftovers_to_nearest(np.where(labels > 0, labels, 0), only=distance > 0, barrier=distance <= 0)
    pairs, heights, places = _necks(full, distance)
    channel = _ink_round(ink, places, heights) >= CHANNEL_INK
    parent = np.arange(count)

    def root(label: int) -> int:
        while parent[label] != label:
            parent[label] = parent[parent[label]]
            label = int(parent[label])
        return label

    for k in np.lexsort((pairs[:, 1], pairs[:, 0], -heights)).tolist():
        first, second, height = root(int(pairs[k, 0])), root(int(pairs[k, 1])), heights[k]
        wide = height >= NECK_SHARE * min(widest[first], widest[second])
        if first != second and (wide or (channel[k] and height > narrowest_px)):
            parent[second] = first
            widest[first] = max(widest[first], widest[second])
    table = np.array([root(label) for label in range(count)], np.int32)
    return np.where(labels > 0, table[np.maximum(labels, 0)], labels).astype(np.int32)


def _necks(
    cells: NDArray[np.int32], distance: NDArray[np.float32]
) -> tuple[NDArray[np.int64], NDArray[np.float32], NDArray[np.int64]]:
    """Pairs of touching cells (N x 2, smaller first); half the width of the widest place where each pair meets, and
    that place as a flat position."""
    count = int(cells.max()) + 1
    position = np.arange(cells.size).reshape(cells.shape)
    codes, heights, places = [], [], []
    for here, there in (
        ((slice(None), slice(None, -1)), (slice(None), slice(1, None))),
        ((slice(None, -1), slice(None)), (slice(1, None), slice(None))),
    ):
        one, other = cells[here], cells[there]
        meets = (one != other) & (one > 0) & (other > 0)
        first, second = one[meets].astype(np.int64), other[meets].astype(np.int64)
        codes.append(np.minimum(first, second) * count + np.maximum(first, second))
        heights.append(np.minimum(distance[here][meets], distance[there][meets]))
        places.append(position[here][meets])
    code, height, place = np.concatenate(codes), np.concatenate(heights), np.concatenate(places)
    order = np.lexsort((place, -height, code))
    code, height, place = code[order], height[order], place[order]
    found, first_of = np.unique(code, return_index=True)
    return np.stack([found // count, found % count], axis=1), height[first_of], place[first_of]


def _ink_round(ink: NDArray[np.bool_], places: NDArray[np.int64], heights: NDArray[np.float32]) -> NDArray[np.float64]:
    """Share of ink on a ring round each place, a line's width beyond the ink nearest to it."""
    line = _line_width(ink)
    angle = np.linspace(0, 2 * np.pi, RING_POINTS, endpoint=False)
    rows, cols = np.unravel_index(places, ink.shape)
    radius = heights + RING_LINES * line
    y = np.clip(np.round(rows[:, None] + radius[:, None] * np.sin(angle)), 0, ink.shape[0] - 1).astype(int)
    x = np.clip(np.round(cols[:, None] + radius[:, None] * np.cos(angle)), 0, ink.shape[1] - 1).astype(int)
    return ink[y, x].mean(axis=1)


def _line_width(ink: NDArray[np.bool_]) -> float:
    """Usual width of the lines in pixels: twice the area over the outline's length."""
    outline = np.count_nonzero(ink[:, 1:] != ink[:, :-1]) + np.count_nonzero(ink[1:] != ink[:-1])
    return max(1.5, 2 * np.count_nonzero(ink) / max(1.0, outline * CRACK_TO_LENGTH))


def _drop_small(labels: NDArray[np.int32], smallest_px: float) -> NDArray[np.int32]:
    areas = np.bincount(np.maximum(labels, 0).ravel())
    small = areas < smallest_px
    return np.where((labels > 0) & small[np.maximum(labels, 0)], 0, labels).astype(np.int32)


def _paper_first(labels: NDArray[np.int32]) -> NDArray[np.int32]:
    """The cell with the most of the picture's edge is the paper around the image; it gets a label of its own."""
    edge = np.concatenate([labels[1], labels[-2], labels[:, 1], labels[:, -2]])
    edge = edge[edge > 0]
    result = labels.copy()
    if edge.size:
        paper = int(np.bincount(edge).argmax())
        result[labels == paper] = int(labels.max()) + 1
    return result


def give_leftovers_to_nearest(
    labels: NDArray[np.int32], *, only: NDArray[np.bool_] | None = None, barrier: NDArray[np.bool_] | None = None
) -> NDArray[np.int32]:
    """Every pixel without a cell takes the label of the nearest pixel that has one."""
    empty = labels <= 0
    if barrier is not None:
        empty |= barrier
    if empty.all() or not empty.any():
        return labels
    _, nearest = cv2.distanceTransformWithLabels(empty.astype(np.uint8), cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL)
    source = np.zeros(int(nearest.max()) + 1, np.int32)
    source[nearest[~empty]] = labels[~empty]
    filled = source[nearest]
    if only is not None:
        return np.where(only, filled, 0).astype(np.int32)
    return filled.astype(np.int32)


def _number_in_reading_order(labels: NDArray[np.int32]) -> NDArray[np.int32]:
    """Renumber: the paper (the highest label by now, if there is one on the edge) 0, others by first pixel."""
    found, first = np.unique(labels, return_index=True)
    edge = set(np.concatenate([labels[0], labels[-1], labels[:, 0], labels[:, -1]]).tolist())
    paper = int(found[-1]) if int(found[-1]) in edge else None
    table = np.zeros(int(found[-1]) + 1, np.int32)
    order = [int(label) for label in found[np.argsort(first, kind="stable")] if label > 0 and int(label) != paper]
    table[order] = np.arange(1, len(order) + 1, dtype=np.int32)
    return table[np.maximum(labels, 0)]
