"""Finding the closed cells of a line drawing whose lines may be broken."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy import sparse
from scipy.sparse.csgraph import connected_components

from paleta.errors import NoRegions
from paleta.impression._loops import loops
from paleta.impression.reading._impression import Impression
from paleta.impression.regions._bridges import bridges
from paleta.impression.regions._gap_classifier import SURE, one_cell
from paleta.impression.regions._ink import separate_ink
from paleta.impression.regions._necks import find_necks, line_width
from paleta.impression.regions._region_map import RegionMap

BEYOND_GAP = 1.2
"""The largest ball is so much wider than the gap that is allowed: stamped ink shrinks from a gap's rims, and a cell
that is parted by it is put together again."""
BALL_STEPS = 8
"""How many ball sizes are tried between the widest gap and one pixel."""
SPLINTER_MM2 = 0.1
"""Pieces smaller than this go to the nearest cell beside them before any two cells are joined, or a splinter in a gap
would join the cells on either side."""
PINHOLE = 0.15
"""A cell has at least this share of the smallest cell's area as bare paper; less is a hole in the ink."""
SLIT_MM = 0.07
"""A cell lets a ball of this radius in somewhere; what is narrower all along is the end of a wedge that ink cut off."""
HOLE, THIN_WALL = 0.6, 0.5
"""A cell of less bare paper than this share of the smallest cell's area is a hole in a line where what parts it from
other cells is thinner than this share of a line: round a cell that was drawn lines are as wide as elsewhere."""
MOST_REGIONS = 4000
MOST_PIECES = 12_000
"""Before any are joined; a stamping at its worst is cut into some hundreds."""
BARRIER = -1
NOTHING_CLOSED = "No closed region was found. Allow wider gaps, or scan the stamped image larger."


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
    if not inked.any():
        raise NoRegions(NOTHING_CLOSED)
    window, beyond, outside = _drawn_part(inked, impression.px_per_mm * gap_mm)
    # A ball may roll between a line and the picture's edge: what lies at the edge goes on beyond it.
    labels = _cells(np.pad(inked[window], beyond, mode="edge"), impression.px_per_mm, gap_mm, smallest_mm2)
    (top, bottom), (left, right) = beyond
    labels = labels[top : labels.shape[0] - bottom, left : labels.shape[1] - right]
    return RegionMap(labels=np.pad(labels, outside, mode="edge"), ink=inked, dpi=impression.dpi)


Sides = list[tuple[int, int]]
"""Pixels before and after, along each axis."""


def _drawn_part(ink: NDArray[np.bool_], gap_px: float) -> tuple[tuple[slice, slice], Sides, Sides]:
    """The part of the picture with ink in it and room for the largest ball around; how much of that room lies beyond
    the picture; and how much of the picture lies outside of it: paper that goes on."""
    room = int(BEYOND_GAP * gap_px / 2) + 3
    window, beyond, outside = [], [], []
    for axis in (0, 1):
        inked, size = np.flatnonzero(ink.any(axis=1 - axis)), ink.shape[axis]
        start, end = int(inked[0]) - room, int(inked[-1]) + 1 + room
        beyond.append((max(0, -start), max(0, end - size)))
        start, end = max(0, start), min(size, end)
        window.append(slice(start, end))
        outside.append((start, size - end))
    return (window[0], window[1]), beyond, outside


def _cells(inked: NDArray[np.bool_], px_per_mm: float, gap_mm: float, smallest_mm2: float) -> NDArray[np.int32]:
    """`find_regions` from the ink on."""
    distance = _to_ink(inked)
    widest_mm = BEYOND_GAP * gap_mm
    labels = cut_apart(inked, distance, px_per_mm, gap_mm)
    _check_count(int(labels.max()), MOST_PIECES)
    labels = _merge_waists(labels, distance, inked, px_per_mm, widest_mm)
    smallest_px = smallest_mm2 * px_per_mm**2
    labels = _drop_pockets(labels, distance, smallest_px, SLIT_MM * px_per_mm)
    labels = _drop_holes(labels, HOLE * smallest_px, THIN_WALL * line_width(inked))
    labels = _paper_first(labels)
    labels = give_leftovers_to_nearest(labels)
    labels = _number_in_reading_order(labels)
    count = int(labels.max())
    if count == 0:
        raise NoRegions(NOTHING_CLOSED)
    _check_count(count, MOST_REGIONS)
    return labels


def cut_apart(
    ink: NDArray[np.bool_], distance: NDArray[np.float32], px_per_mm: float, gap_mm: float
) -> NDArray[np.int32]:
    """Cells as 1..n, ink as BARRIER, cut wherever a line may be broken: rather too often than run together.

    Parameters
    ----------
    ink
        H x W
    distance
        H x W, of paper from ink in pixels
    px_per_mm
        pixels to a millimetre
    gap_mm
        widest gap in a line
    """
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
    """Cells as 1..n, ink as BARRIER. The distance to ink says where a ball of a given size may stand."""
    radii = np.array([*np.geomspace(max(largest_px, 1.5), 1.0, BALL_STEPS), 0.5], np.float32)
    cells: NDArray[np.int32] = loops().roll(distance, radii)
    cells[ink] = BARRIER
    return cells


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
    joined: NDArray[np.int32] = loops().renamed(seams, lowest[group])
    return np.where(seams > 0, joined, labels)


def _closed_seams(labels: NDArray[np.int32], ink: NDArray[np.bool_]) -> NDArray[np.int32]:
    """The cells with the seams between them filled, but never across ink: crumbs keep no label."""
    _, pieces = cv2.connectedComponents((~ink).view(np.uint8), connectivity=4)
    _, first = loops().areas_and_firsts(labels, int(labels.max()) + 1)
    home = np.where(first < 0, 0, pieces.ravel()[first])  # all pixels of a cell lie in one piece of paper
    home[0] = 0
    closed: NDArray[np.int32] = loops().kept_at_home(give_leftovers_to_nearest(labels), pieces, home)
    return closed


def _drop_pockets(
    labels: NDArray[np.int32], distance: NDArray[np.float32], smallest_px: float, slit_px: float
) -> NDArray[np.int32]:
    """Without cells smaller than `smallest_px` when the ink is shared out, of almost no paper, or nowhere wide."""
    count = int(labels.max()) + 1
    shared, _ = loops().areas_and_firsts(give_leftovers_to_nearest(labels), count)
    paper, _ = loops().areas_and_firsts(labels, count)
    roomy, _ = loops().areas_and_firsts(np.where(distance >= slit_px, labels, 0), count)
    return _without(labels, (shared < smallest_px) | (paper < PINHOLE * smallest_px) | (roomy == 0))


def _drop_holes(labels: NDArray[np.int32], hole_px: float, wall_px: float) -> NDArray[np.int32]:
    """Without cells smaller than `hole_px` that less than `wall_px` parts from a larger one."""
    count = int(labels.max()) + 1
    paper, _ = loops().areas_and_firsts(labels, count)
    small = (paper < hole_px)[np.maximum(labels, 0)] & (labels > 0)
    away = cv2.distanceTransform((small | (labels <= 0)).astype(np.uint8), cv2.DIST_L2, 5)
    walled = np.full(count, np.inf)
    # A pixel lies one step from the next one even where there is no wall.
    np.minimum.at(walled, labels[small], away[small] - 1)
    return _without(labels, walled < wall_px)


def _drop_small(labels: NDArray[np.int32], smallest_px: float) -> NDArray[np.int32]:
    """Small cells, and what is no cell, become 0."""
    areas, _ = loops().areas_and_firsts(labels, int(labels.max()) + 1)
    return _without(labels, areas < smallest_px)


def _without(labels: NDArray[np.int32], gone: NDArray[np.bool_]) -> NDArray[np.int32]:
    kept: NDArray[np.int32] = loops().renamed(labels, np.where(gone, 0, np.arange(len(gone))))
    return kept


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
    handed: NDArray[np.int32] = loops().handed(labels, nearest)
    return handed


def _number_in_reading_order(labels: NDArray[np.int32]) -> NDArray[np.int32]:
    """Renumber: the paper (the highest label by now, if there is one on the edge) 0, others by first pixel."""
    count = int(labels.max()) + 1
    _, first = loops().areas_and_firsts(labels, count)
    edge = set(np.concatenate([labels[0], labels[-1], labels[:, 0], labels[:, -1]]).tolist())
    first[[0, count - 1 if count - 1 in edge else 0]] = -1
    order = np.argsort(first, kind="stable")[np.count_nonzero(first < 0) :]
    table = np.zeros(count, np.int64)
    table[order] = np.arange(1, len(order) + 1)
    numbered: NDArray[np.int32] = loops().renamed(labels, table)
    return numbered
