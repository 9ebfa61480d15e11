"""Finding the closed cells of a line drawing whose lines may be broken."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy import sparse
from scipy.sparse.csgraph import connected_components

from paleta.errors import NoRegions
from paleta.impression._bridges import bridges
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
PINHOLE = 0.1
"""A cell has at least this share of the smallest cell's area as bare paper; less is a hole in the ink."""
GROWING_STEPS = 4
LARGE_BALL_PX = 3.0
CROSS = cv2.getStructuringElement(cv2.MORPH_CROSS, (3, 3))
MOST_REGIONS = 4000
MOST_PIECES = 12_000
"""Before any are joined; a stamping at its worst is cut into some hundreds."""
BARRIER = -1


def find_regions(
    impression: Impression, *, gap_mm: float = 1.0, smallest_mm2: float = 0.5, sensitivity: float = 0.0
) -> RegionMap:
    """Find the regions of a stamped image.

    Trapped-ball filling after [Zhang2009]: a ball too large for any gap fills the cores of the cells, then smaller
    balls reach into corners and find thin cells; what a smaller ball reaches from a core belongs to that core.
    Left-over paper goes to the cell that reaches it first, ink to the nearest cell.

    Parameters
    ----------
    impression : Impression
    gap_mm : float
        Breaks in a line up to this width do not let two cells run together, nor up to twice this width where two ends
        face each other. 0.1 to 5.
    smallest_mm2 : float
        Cells smaller than this, measured to the middle of their lines, are handed to their neighbours.
    sensitivity : float
        -1 to 1: how readily grey is taken for ink, 0 = as usual.

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
    if not -1 <= sensitivity <= 1:
        raise NoRegions(f"sensitivity must lie in -1..1, got {sensitivity}.")
    inked = separate_ink(impression, sensitivity)
    px_per_mm = impression.px_per_mm
    distance = _to_ink(inked)
    widest_mm = BEYOND_GAP * gap_mm
    labels = cut_apart(inked, distance, px_per_mm, gap_mm)
    _check_count(int(labels.max()), MOST_PIECES)
    labels = _merge_waists(labels, distance, inked, px_per_mm, widest_mm)
    labels = _drop_pockets(labels, smallest_mm2 * px_per_mm**2)
    labels = _paper_first(labels)
    labels = give_leftovers_to_nearest(labels)
    labels = _number_in_reading_order(labels)
    count = int(labels.max())
    if count == 0:
        raise NoRegions("No closed region was found. Allow wider gaps, or scan the stamped image larger.")
    _check_count(count, MOST_REGIONS)
    return RegionMap(labels=labels, ink=inked, dpi=impression.dpi)


def cut_apart(
    ink: NDArray[np.bool_], distance: NDArray[np.float32], px_per_mm: float, gap_mm: float
) -> NDArray[np.int32]:
    """Cells as 1..n, ink as BARRIER, cut wherever a line may be broken: rather too often than run together."""
    bridged = bridges(ink, px_per_mm, gap_mm)
    held = _to_ink(ink | (bridged > 0)) if bridged.any() else distance
    return _fill_with_balls(held, ink, largest_px=BEYOND_GAP * gap_mm * px_per_mm / 2)


def _to_ink(ink: NDArray[np.bool_]) -> NDArray[np.float32]:
    return np.asarray(cv2.distanceTransform((~ink).astype(np.uint8), cv2.DIST_L2, 5), np.float32)


def _check_count(cells: int, most: int) -> None:
    if cells > most:
        raise NoRegions(
            f"More than {most:,} cells were found; this looks like a photo or a texture, not a stamped line drawing."
        )


def _fill_with_balls(distance: NDArray[np.float32], ink: NDArray[np.bool_], largest_px: float) -> NDArray[np.int32]:
    """Cells as 1..n, ink as BARRIER. The distance to ink says where a ball of a given size may stand.

    Large balls roll on every second pixel, which finds the same cores in a quarter of the time.
    """
    radii = [*np.geomspace(max(largest_px, 1.5), 1.0, BALL_STEPS), 0.5]
    large = [radius for radius in radii if radius >= LARGE_BALL_PX]
    found: _Cells = np.zeros(distance.shape, np.uint16)
    if large:
        found = _roll(found[::2, ::2].copy(), np.ascontiguousarray(distance[::2, ::2]), large)
        found = cv2.resize(found, None, fx=2, fy=2, interpolation=cv2.INTER_NEAREST)
        found = found[: distance.shape[0], : distance.shape[1]]
        found = cv2.copyTo(found, cv2.compare(distance, large[-1], cv2.CMP_GT))
    labels = _roll(found, distance, radii[len(large) :]).astype(np.int32)
    labels[ink] = BARRIER
    return labels


_Cells = NDArray[np.uint16] | NDArray[np.float32]
"""Cells while balls roll: OpenCV has no 32-bit dilation, and dilates 16-bit numbers several times faster than floats,
which take over when there are too many cells for 16 bits."""


def _roll(cells: _Cells, distance: NDArray[np.float32], radii: Sequence[float]) -> _Cells:
    """From ball to smaller ball: what it reaches from a cell belongs to it, what is new becomes a cell."""
    canvas = np.zeros((*distance.shape, 3), np.uint8)
    for radius in radii:
        room = cv2.compare(distance, radius, cv2.CMP_GT)
        cells = _spread(cells, room, canvas)
        count, cores = cv2.connectedComponents(_open_ground(cells, room), connectivity=4)
        known = int(cells.max())
        if known + count > np.iinfo(np.uint16).max:
            cells = cells.astype(np.float32)
        fresh = cores.astype(cells.dtype)
        cells = cv2.max(cells, cv2.add(fresh, known, mask=cv2.compare(fresh, 0, cv2.CMP_GT)))
    return cells


def _open_ground(cells: _Cells, room: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """255 where there is room and no cell yet."""
    return cv2.bitwise_and(room, cv2.compare(cells, 0, cv2.CMP_EQ))


def _spread(cells: _Cells, room: NDArray[np.uint8], canvas: NDArray[np.uint8]) -> _Cells:
    """Let every cell grow inside `room`, nearest first. From ball to ball that is mostly a ring of a pixel or two."""
    if not cells.any():
        return cells
    cells, done = _grow(cells, room)
    if done:
        return cells
    # A passage has opened into ground of some width: there OpenCV's watershed on a blank canvas is a plain flood.
    wall = int(cells.max()) + 1
    flooded = cv2.watershed(canvas, cv2.copyTo(cells.astype(np.int32), room, np.full(cells.shape, wall, np.int32)))
    reached = cv2.copyTo(flooded, cv2.bitwise_and(room, cv2.inRange(flooded, 1, wall - 1)))
    # It leaves meeting lines and a frame at -1, and walls win some pixels beside them. Left over, these would be taken
    # for cells of their own, and lie in every gap.
    return _grow(cv2.max(cells, reached.astype(cells.dtype)), room)[0]


def _grow(cells: _Cells, room: NDArray[np.uint8]) -> tuple[_Cells, bool]:
    """Cells grown inside `room` by up to GROWING_STEPS pixels, and whether that was all there was to grow."""
    cells = cells.copy()
    ring = np.empty_like(cells)
    ground = _open_ground(cells, room)
    left = cv2.countNonZero(ground)
    for _ in range(GROWING_STEPS):
        if not left:
            break
        cv2.dilate(cells, CROSS, dst=ring)
        cv2.copyTo(ring, ground, dst=cells)
        ground = _open_ground(cells, ground)
        before, left = left, cv2.countNonZero(ground)
        if left == before:
            return cells, True
    return cells, not left


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
    pairs = necks.pairs[whole > SURE]
    links = sparse.coo_matrix((np.ones(len(pairs)), (pairs[:, 0], pairs[:, 1])), shape=(count, count))
    _, group = connected_components(links, directed=False)
    # Cells that are one take the lowest label among them.
    lowest = np.full(count, count)
    np.minimum.at(lowest, group, np.arange(count))
    table = lowest[group].astype(np.int32)
    return np.where(seams > 0, table[seams], labels).astype(np.int32)


def _closed_seams(labels: NDArray[np.int32], ink: NDArray[np.bool_]) -> NDArray[np.int32]:
    """The cells with the seams between them filled, but never across ink: crumbs keep no label."""
    paper = (~ink).astype(np.uint8)
    _, apart = cv2.connectedComponents(paper, connectivity=4)
    home = np.zeros(int(labels.max()) + 1, np.int32)
    starts = _starts(labels)
    home[labels.ravel()[starts]] = apart.ravel()[starts]  # all pixels of a cell lie in one piece of paper
    home[0] = 0
    full = give_leftovers_to_nearest(labels)
    return np.where((home[full] == apart) & ~ink, full, 0).astype(np.int32)


def _drop_pockets(labels: NDArray[np.int32], smallest_px: float) -> NDArray[np.int32]:
    """Without cells smaller than `smallest_px` when the ink is shared out, or of almost no paper."""
    areas = np.bincount(give_leftovers_to_nearest(labels).ravel(), minlength=int(labels.max()) + 1)
    table = np.arange(len(areas), dtype=np.int32)
    table[areas < smallest_px] = 0
    return _drop_small(np.take(table, np.maximum(labels, 0)), PINHOLE * smallest_px)


def _drop_small(labels: NDArray[np.int32], smallest_px: float) -> NDArray[np.int32]:
    """Small cells, and what is no cell, become 0."""
    starts = _starts(labels)
    lengths = np.diff(starts, append=labels.size)
    areas = np.bincount(labels.ravel()[starts] + 1, weights=lengths)[1:]
    table = np.arange(len(areas) + 1, dtype=np.int32)
    table[:-1][areas < smallest_px] = 0
    table[[0, -1]] = 0  # the last is where BARRIER, counted from behind, looks
    return np.take(table, labels, mode="wrap")


def _starts(labels: NDArray[np.int32]) -> NDArray[np.intp]:
    """Where, line by line, a run of equal labels starts: far fewer places than pixels, and all that is needed to count
    or to find the first of each."""
    flat = labels.ravel()
    return np.concatenate([np.zeros(1, np.intp), np.flatnonzero(flat[1:] != flat[:-1]) + 1])


def _paper_first(labels: NDArray[np.int32]) -> NDArray[np.int32]:
    """The cell with the most of the picture's edge is the paper around the image; it gets a label of its own."""
    edge = np.concatenate([labels[1], labels[-2], labels[:, 1], labels[:, -2]])
    edge = edge[edge > 0]
    result = labels.copy()
    if edge.size:
        paper = int(np.bincount(edge).argmax())
        result[labels == paper] = int(labels.max()) + 1
    return result


def give_leftovers_to_nearest(labels: NDArray[np.int32]) -> NDArray[np.int32]:
    """Every pixel without a cell takes the label of the nearest pixel that has one."""
    empty = labels <= 0
    if empty.all() or not empty.any():
        return labels
    _, nearest = cv2.distanceTransformWithLabels(empty.astype(np.uint8), cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL)
    # OpenCV numbers the pixels that have a cell from 1, line by line.
    source = np.concatenate([np.zeros(1, np.int32), labels[~empty]])
    return np.take(source, nearest)


def _number_in_reading_order(labels: NDArray[np.int32]) -> NDArray[np.int32]:
    """Renumber: the paper (the highest label by now, if there is one on the edge) 0, others by first pixel."""
    flat = labels.ravel()
    first = np.full(int(flat.max()) + 1, flat.size)
    starts = _starts(labels)[::-1]
    first[flat[starts]] = starts  # of equal places the last written stays: the first pixel
    edge = set(np.concatenate([labels[0], labels[-1], labels[:, 0], labels[:, -1]]).tolist())
    last = len(first) - 1
    paper = last if last in edge else 0
    first[[0, paper]] = flat.size
    order = np.argsort(first, kind="stable")[: np.count_nonzero(first < flat.size)]
    table = np.zeros(len(first), np.int32)
    table[order] = np.arange(1, len(order) + 1, dtype=np.int32)
    return table[labels]
