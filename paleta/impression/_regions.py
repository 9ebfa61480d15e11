"""Finding the closed cells of a line drawing whose lines may be broken."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.errors import NoRegions
from paleta.impression._impression import Impression
from paleta.impression._ink import separate_ink
from paleta.impression._judge import SURE, one_cell
from paleta.impression._necks import find_necks
from paleta.impression._region_map import RegionMap

BEYOND_GAP = 1.2
"""The largest ball is so much wider than the gap that is allowed: stamped ink shrinks from a gap's rims, and a cell
that is parted by it is put together again."""
BALL_STEPS = 8
"""How many ball sizes are tried between the widest gap and one pixel."""
SPLINTER_MM2 = 0.1
"""Pieces smaller than this go to the nearest cell beside them before any two cells are joined, or a splinter in a gap
would join the cells on either side."""
GROWING_STEPS = 4
LARGE_BALL_PX = 3.0
CROSS = cv2.getStructuringElement(cv2.MORPH_CROSS, (3, 3))
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
    widest_mm = BEYOND_GAP * gap_mm
    labels = _fill_with_balls(distance, inked, largest_px=widest_mm * px_per_mm / 2)
    labels = _merge_waists(labels, distance, inked, px_per_mm, widest_mm)
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
    """Cells as 1..n, ink as BARRIER. The distance to ink says where a ball of a given size may stand.

    Large balls roll on every second pixel, which finds the same cores in a quarter of the time.
    """
    radii = [*np.geomspace(max(largest_px, 1.5), 1.0, BALL_STEPS), 0.5]
    large = [radius for radius in radii if radius >= LARGE_BALL_PX]
    labels = np.zeros(distance.shape, np.int32)
    if large:
        coarse = _roll(np.zeros(distance[::2, ::2].shape, np.int32), distance[::2, ::2], large)
        doubled = cv2.resize(coarse.astype(np.float32), None, fx=2, fy=2, interpolation=cv2.INTER_NEAREST)
        labels = doubled[: distance.shape[0], : distance.shape[1]].astype(np.int32)
        labels[distance <= large[-1]] = 0
    labels = _roll(labels, distance, radii[len(large) :])
    labels[ink] = BARRIER
    return labels


def _roll(labels: NDArray[np.int32], distance: NDArray[np.float32], radii: Sequence[float]) -> NDArray[np.int32]:
    """From ball to smaller ball: what it reaches from a cell belongs to it, what is new becomes a cell."""
    canvas = np.zeros((*distance.shape, 3), np.uint8)
    for radius in radii:
        room = distance > radius
        labels = _spread(labels, room, canvas)
        _, cores = cv2.connectedComponents((room & (labels == 0)).astype(np.uint8), connectivity=4)
        fresh = cores > 0
        labels[fresh] = cores[fresh] + int(labels.max())
    return labels


def _spread(labels: NDArray[np.int32], room: NDArray[np.bool_], canvas: NDArray[np.uint8]) -> NDArray[np.int32]:
    """Let every label grow inside `room`, nearest first. From ball to ball that is mostly a ring of a pixel or two."""
    if not labels.any():
        return labels
    labels, done = _grow(labels, room)
    if done:
        return labels
    # A passage has opened into ground of some width: there OpenCV's watershed on a blank canvas is a plain flood.
    wall = int(labels.max()) + 1
    flooded = cv2.watershed(canvas, np.where(room, labels, wall).astype(np.int32))
    reached = np.where(room & (flooded > 0) & (flooded != wall), flooded, 0)
    # It leaves meeting lines and a frame at -1, and walls win some pixels beside them. Left over, these would be taken
    # for cells of their own, and lie in every gap.
    return _grow(np.where(labels > 0, labels, reached), room)[0]


def _grow(labels: NDArray[np.int32], room: NDArray[np.bool_]) -> tuple[NDArray[np.int32], bool]:
    """Labels grown inside `room` by up to GROWING_STEPS pixels, and whether that was all there was to grow."""
    open_ground = (room & (labels == 0)).astype(np.uint8)
    # OpenCV dilates 16-bit numbers several times faster than floats.
    grown = labels.astype(np.uint16 if labels.max() < 65535 else np.float32)
    for _ in range(GROWING_STEPS):
        fresh = cv2.copyTo(cv2.dilate(grown, CROSS), open_ground)
        if not cv2.hasNonZero(fresh.astype(np.uint16)):
            return grown.astype(np.int32), True
        grown = cv2.max(grown, fresh)
        open_ground[fresh > 0] = 0
    return grown.astype(np.int32), False


def _merge_waists(
    labels: NDArray[np.int32], distance: NDArray[np.float32], ink: NDArray[np.bool_], px_per_mm: float, gap_mm: float
) -> NDArray[np.int32]:
    """Join cells that were parted although no line is broken between them."""
    count = int(labels.max()) + 1
    if count <= 2:
        return labels
    seams = _closed_seams(_drop_small(labels, SPLINTER_MM2 * px_per_mm**2), ink)
    necks = find_necks(seams, distance)
    whole = one_cell(necks, seams, distance, ink, px_per_mm=px_per_mm, gap_mm=gap_mm)
    parent = np.arange(count)

    def root(label: int) -> int:
        while parent[label] != label:
            parent[label] = parent[parent[label]]
            label = int(parent[label])
        return label

    for k in np.flatnonzero(whole > SURE).tolist():
        first, second = root(int(necks.pairs[k, 0])), root(int(necks.pairs[k, 1]))
        parent[second] = first
    table = np.array([root(label) for label in range(count)], np.int32)
    return np.where(seams > 0, table[seams], labels).astype(np.int32)


def _closed_seams(labels: NDArray[np.int32], ink: NDArray[np.bool_]) -> NDArray[np.int32]:
    """The cells with the seams between them filled, but never across ink: crumbs keep no label."""
    paper = (~ink).astype(np.uint8)
    _, apart = cv2.connectedComponents(paper, connectivity=4)
    home = np.zeros(int(labels.max()) + 1, np.int32)
    cells = labels > 0
    home[labels[cells]] = apart[cells]
    full = give_leftovers_to_nearest(np.where(cells, labels, 0), only=paper > 0, barrier=ink)
    return np.where(home[full] == apart, full, 0).astype(np.int32)


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
    flat = labels.ravel()
    first = np.full(int(flat.max()) + 1, flat.size)
    first[flat[::-1]] = np.arange(flat.size - 1, -1, -1)  # of equal places the last written stays: the first pixel
    edge = set(np.concatenate([labels[0], labels[-1], labels[:, 0], labels[:, -1]]).tolist())
    last = len(first) - 1
    paper = last if last in edge else 0
    first[[0, paper]] = flat.size
    order = np.argsort(first, kind="stable")[: np.count_nonzero(first < flat.size)]
    table = np.zeros(len(first), np.int32)
    table[order] = np.arange(1, len(order) + 1, dtype=np.int32)
    return table[labels]
