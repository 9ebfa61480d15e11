"""Where two cells meet, and what is measured of the ink round the place: a broken line, or a cell that narrows?"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeVar

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.impression._loops import loops

Kind = TypeVar("Kind", bound=np.generic)
RAYS = 48
STEPS = 40
DISC_RINGS = 10
"""How finely the ink round a place is sampled."""
FEATURES = (
    "smaller cell", "half width in gaps", "half width in lines", "half width of cell", "far bank",
    "banks opposite", "tight ring", "tight ring crossings", "wide ring",
    "ring round fuller bank", "ink on emptier bank", "ink near emptier bank", "free end", "smaller stroke",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Necks:
    """Where cells meet without ink between: pairs N x 2 (smaller first), half the width of the widest place of each
    in px, and that place as a flat position."""

    pairs: NDArray[np.int64]
    half_px: NDArray[np.float32]
    places: NDArray[np.int64]


def find_necks(cells: NDArray[np.int32], distance: NDArray[np.float32]) -> Necks:
    """Every pair of cells (> 0) that touch, and the place of each pair farthest from ink.

    Parameters
    ----------
    cells
        H x W, from 1; 0 and less are none
    distance
        H x W, of paper from ink in pixels
    """
    count = int(cells.max()) + 1
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
        rows, cols = np.nonzero(meets)
        places.append(rows * cells.shape[1] + cols)
    code, height, place = np.concatenate(codes), np.concatenate(heights), np.concatenate(places)
    order = np.lexsort((place, -height, code))
    code, height, place = code[order], height[order], place[order]
    found, first_of = np.unique(code, return_index=True)
    return Necks(np.stack([found // count, found % count], axis=1), height[first_of], place[first_of])


def evidence(
    necks: Necks, cells: NDArray[np.int32], distance: NDArray[np.float32], ink: NDArray[np.bool_],
    *, line: float, px_per_mm: float, gap_mm: float,
) -> NDArray[np.float64]:  # fmt: skip
    """N x len(FEATURES): what is seen round each neck. A break shows the end of a stroke on at least one bank, and a
    ring round it crosses little ink; where a cell narrows, lines run along on both sides.

    Parameters
    ----------
    necks
        N of them
    cells
        H x W, from 1
    distance
        H x W, of paper from ink in pixels
    ink
        H x W
    line
        usual width of the lines in pixels
    px_per_mm
        pixels to a millimetre
    gap_mm
        widest gap in a line
    """
    count = int(cells.max()) + 1
    area = loops().areas_and_firsts(cells, count)[0] / px_per_mm**2
    widest = np.zeros(count, np.float32)
    # Every second pixel: the middle of a cell is known to a pixel, in a quarter of the time.
    np.maximum.at(widest, np.maximum(cells[::2, ::2], 0).ravel(), distance[::2, ::2].ravel())
    half = necks.half_px.astype(float)
    rows, cols = (where.astype(float) for where in np.unravel_index(necks.places, ink.shape))
    banks = banks_of(ink, rows, cols, half, line)
    near, far = banks
    _, strokes, boxes, _ = cv2.connectedComponentsWithStats(ink.astype(np.uint8), connectivity=8)
    extent_mm = np.clip(boxes[:, [cv2.CC_STAT_WIDTH, cv2.CC_STAT_HEIGHT]].max(axis=1) / px_per_mm, 0.1, 10)
    extent_mm[0] = 10
    tight, crossings = _ring(ink, rows, cols, half + 0.4 * line)
    wide, _ = _ring(ink, rows, cols, half + 0.9 * line)
    fuller = np.maximum(*(_ring(ink, bank.rows, bank.cols, np.full(len(half), 2.5 * line))[0] for bank in banks))
    on, around = (np.minimum(*(_disc(ink, b.rows, b.cols, lines * line) for b in banks)) for lines in (1.0, 1.75))
    return np.stack(
        [
            np.log(area[necks.pairs].min(axis=1) + 0.01),
            2 * half / (px_per_mm * gap_mm),
            half / line,
            half / np.maximum(widest[necks.pairs].min(axis=1), half),
            np.minimum(far.away / np.maximum(near.away, 1), 3),
            np.cos(near.angle - far.angle),
            tight, crossings, wide, fuller,
            on * np.pi / 2, around * np.pi / 2 * 1.75,
            np.maximum(0.8 - around * np.pi / 2 * 1.75, 0),
            np.log(np.minimum(*(extent_mm[pick(strokes, b.rows, b.cols)] for b in banks))),
        ],
        axis=1,
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class _Bank:
    """The ink on one side of each neck: a point half a line inside it, its direction and how far away it begins."""

    rows: NDArray[np.float64]
    cols: NDArray[np.float64]
    angle: NDArray[np.float64]
    away: NDArray[np.float64]


def banks_of(
    ink: NDArray[np.bool_], rows: NDArray[np.float64], cols: NDArray[np.float64], half: NDArray[np.float64], line: float
) -> tuple[_Bank, _Bank]:
    """The nearest ink, and the nearest more than a right angle away from it.

    Parameters
    ----------
    ink
        H x W
    rows, cols
        N, the middles of the necks
    half
        N, half their widths in pixels
    line
        usual width of the lines in pixels
    """
    angle = np.linspace(0, 2 * np.pi, RAYS, endpoint=False)
    along = (1.5 * half[:, None] + line) * np.linspace(0, 1, STEPS)
    hit = pick(
        ink,
        rows[:, None, None] + along[:, None, :] * np.sin(angle)[:, None],
        cols[:, None, None] + along[:, None, :] * np.cos(angle)[:, None],
    )
    first = np.where(hit.any(axis=2), hit.argmax(axis=2), STEPS)
    near = first.argmin(axis=1)
    turn = np.abs((np.arange(RAYS) - near[:, None] + RAYS // 2) % RAYS - RAYS // 2)
    opposite = np.where(turn > RAYS // 4, first, STEPS + 1).argmin(axis=1)

    def bank(ray: NDArray[np.intp]) -> _Bank:
        step = np.minimum(np.take_along_axis(first, ray[:, None], 1)[:, 0], STEPS - 1)
        away = along[np.arange(len(step)), step]
        inside, to = away + line / 2, angle[ray]
        return _Bank(rows + inside * np.sin(to), cols + inside * np.cos(to), to, away)

    return bank(near), bank(opposite)


def _disc(
    ink: NDArray[np.bool_], rows: NDArray[np.float64], cols: NDArray[np.float64], radius: float
) -> NDArray[np.float64]:
    """Share of ink in discs of `radius` px."""
    angle = np.linspace(0, 2 * np.pi, RAYS, endpoint=False)
    out = radius * np.sqrt((np.arange(DISC_RINGS) + 0.5) / DISC_RINGS)
    y = rows[:, None, None] + out[:, None] * np.sin(angle)
    x = cols[:, None, None] + out[:, None] * np.cos(angle)
    share: NDArray[np.float64] = pick(ink, y, x).mean(axis=(1, 2))
    return share


def _ring(
    ink: NDArray[np.bool_], rows: NDArray[np.float64], cols: NDArray[np.float64], radius: NDArray[np.float64]
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Share of ink on rings, and how many strokes each crosses."""
    angle = np.linspace(0, 2 * np.pi, 64, endpoint=False)
    seen = pick(ink, rows[:, None] + radius[:, None] * np.sin(angle), cols[:, None] + radius[:, None] * np.cos(angle))
    return seen.mean(axis=1), (seen != np.roll(seen, 1, axis=1)).sum(axis=1) / 2


def pick(picture: NDArray[Kind], y: NDArray[np.float64], x: NDArray[np.float64]) -> NDArray[Kind]:
    """Values of a picture at places, taken from its edge where they lie outside.

    Parameters
    ----------
    picture
        H x W
    y, x
        places in pixels, of one shape
    """
    rows = np.clip(np.round(y), 0, picture.shape[0] - 1).astype(np.intp)
    cols = np.clip(np.round(x), 0, picture.shape[1] - 1).astype(np.intp)
    return picture[rows, cols]


def line_width(ink: NDArray[np.bool_]) -> float:
    """Usual width of the lines in pixels: twice the median distance to paper along their middle."""
    depth = cv2.distanceTransform(ink.astype(np.uint8), cv2.DIST_L2, 3)
    ridge = (depth >= cv2.dilate(depth, np.ones((3, 3), np.uint8))) & (depth > 0)
    return max(1.5, float(2 * np.median(depth[ridge]))) if ridge.any() else 1.5
