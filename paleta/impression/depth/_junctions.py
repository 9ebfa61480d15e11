"""Where a line ends on another one that runs straight on: the sign of something that goes on behind."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.typing import NDArray

from paleta.impression.regions._region_map import PAPER, RegionMap

NEAR_MM, FAR = 0.8, 2.2
"""A junction of lines is looked at on a ring of this radius, and on one so many times larger. What lines do farther
out says more of what runs on behind; nearer by, of what stands in front."""
SAMPLES = 96
STRAIGHT_ON_DEG = 30.0
"""A line goes straight on through a junction if it bends by less."""
RUNS_ON_COS = 0.8
"""Two lines that end on one thing may be one line behind it if both turn by less than some 37 degrees."""


@dataclass(frozen=True, slots=True)
class Junction:
    """A T: the line between `left` and `right` ends on the outline of `through`. (x, y) in px, (dx, dy) the way the
    stem leads away from `through`, of unit length; left and right as seen going that way. `weight` 0.5 to 1 says how
    straight the through line runs on."""

    through: int
    left: int
    right: int
    x: float
    y: float
    dx: float
    dy: float
    weight: float


def t_junctions(region_map: RegionMap, *, near_mm: float = NEAR_MM, far: float = FAR) -> list[Junction]:
    """All T-junctions whose through line belongs to a region, in reading order; looked at on rings of `near_mm`, and
    `far` times that.

    Parameters
    ----------
    region_map
        H x W labels and ink.
    near_mm
        Radius of the ring that is looked at round a place where lines meet.
    far
        The wider ring's radius in shares of that.
    """
    labels = region_map.labels
    near_px = near_mm * region_map.px_per_mm
    met: dict[tuple[frozenset[int], int, int], tuple[int, int]] = {}
    for row, col, names in meeting_places(labels):
        if len(names) == 3:
            met.setdefault((frozenset(names), int(row / near_px / 2), int(col / near_px / 2)), (row, col))
    places = np.array([*met.values()], float).reshape(-1, 2)
    all_near, all_away = (
        _lines_on_rings(labels, places, radius, [names for names, _, _ in met]) for radius in (near_px, far * near_px)
    )
    found: list[Junction] = []
    for (row, col), near, away in zip(met.values(), all_near, all_away, strict=True):
        if near is None:
            continue
        x, y = float(col), float(row)
        # Inside of a stroke the three meet a little off; from ring to ring the lines show where they lead.
        if away is not None and away.keys() == near.keys():
            ways = {pair: _way(near[pair], end) for pair, end in away.items()}
        else:
            ways = {pair: _way((x, y), end) for pair, end in near.items()}
        junction = _as_t(ways, x, y)
        if junction is not None:
            found.append(junction)
    return found


def meeting_places(labels: NDArray[np.int32]) -> Iterator[tuple[int, int, list[int]]]:
    """Row and column of every pixel at whose lower right corner three or four labels meet, with them, lowest first; in
    reading order."""
    first, *others = labels[:-1, :-1], labels[:-1, 1:], labels[1:, :-1], labels[1:, 1:]
    rows, cols = np.nonzero(np.logical_or.reduce([first != other for other in others]))
    ordered = np.sort([corner[rows, cols] for corner in (first, *others)], axis=0)
    several = (ordered[1:] != ordered[:-1]).sum(axis=0) >= 2
    for row, col, met in zip(
        rows[several].tolist(), cols[several].tolist(), ordered[:, several].T.tolist(), strict=True
    ):
        yield row, col, sorted(set(met))


@cache
def _compass(samples: int) -> NDArray[np.float64]:
    """2 x samples, the ways down and to the right from the middle; never written to."""
    angles = np.linspace(0, 2 * np.pi, samples, endpoint=False)
    return np.stack([np.sin(angles), np.cos(angles)])


def on_rings(
    labels: NDArray[np.int32], places: NDArray[np.float64], radius_px: float, samples: int
) -> NDArray[np.int32]:
    """... x samples: the labels on a ring round each of the places (... x 2, row and column), clockwise on the screen
    from the right.

    Parameters
    ----------
    labels
        H x W regions
    places
        ... x 2, row and column of the middles
    radius_px
        of the rings
    samples
        on each ring
    """
    y, x = (
        np.clip(np.round(places[..., axis, None] + radius_px * way), 0, labels.shape[axis] - 1).astype(int)
        for axis, way in enumerate(_compass(samples))
    )
    return labels[y, x]


def running_on(junctions: Iterable[Junction]) -> Iterator[tuple[Junction, Junction, float]]:
    """Pairs of stems on one thing that lead into each other behind it ([Kellman1991]), with how straight they do."""
    by_front: dict[int, list[Junction]] = defaultdict(list)
    for junction in junctions:
        by_front[junction.through].append(junction)
    for ends in by_front.values():
        for k, first in enumerate(ends):
            for second in ends[:k]:
                x, y = second.x - first.x, second.y - first.y
                far = math.hypot(x, y)
                if far < 1:
                    continue
                straight = min(-(first.dx * x + first.dy * y), second.dx * x + second.dy * y) / far
                if straight >= RUNS_ON_COS:
                    yield first, second, straight


def _lines_on_rings(
    labels: NDArray[np.int32], places: NDArray[np.float64], radius: float, names: Sequence[frozenset[int]]
) -> list[dict[tuple[int, int], tuple[float, float]] | None]:
    """Where on a ring round each place the lines between its three regions lie: by what lies left and right of each,
    seen going outwards. None if anything else lies on the ring, or one of them in two pieces."""
    rings = on_rings(labels, places, radius, SAMPLES)
    befores = np.roll(rings, 1, axis=1)
    turned = rings != befores
    lines: list[dict[tuple[int, int], tuple[float, float]] | None] = [None] * len(places)
    for k in np.flatnonzero(turned.sum(axis=1) == 3).tolist():
        turns = np.flatnonzero(turned[k])
        left, right = befores[k, turns].tolist(), rings[k, turns].tolist()
        if set(right) != names[k]:
            continue
        row, col = places[k].tolist()
        # Angles grow clockwise on the screen, y pointing down: what comes before a line lies on its left.
        lines[k] = {
            pair: (col + radius * math.cos(angle), row + radius * math.sin(angle))
            for pair, angle in zip(
                zip(left, right, strict=True), ((turns - 0.5) * 2 * np.pi / SAMPLES).tolist(), strict=True
            )
        }
    return lines


def _way(start: tuple[float, float], end: tuple[float, float]) -> tuple[float, float]:
    dx, dy = end[0] - start[0], end[1] - start[1]
    size = max(math.hypot(dx, dy), 1e-6)
    return dx / size, dy / size


def _as_t(ways: dict[tuple[int, int], tuple[float, float]], x: float, y: float) -> Junction | None:
    """The T whose through line bends least; None if that bends too much or is the paper's."""
    best: Junction | None = None
    for (left, right), (dx, dy) in ways.items():
        (ax, ay), (bx, by) = (way for pair, way in ways.items() if pair != (left, right))
        through = ({side for pair in ways for side in pair} - {left, right}).pop()
        bend = math.degrees(math.acos(min(1.0, max(-1.0, -(ax * bx + ay * by)))))
        weight = 1 - bend / (2 * STRAIGHT_ON_DEG)
        if bend <= STRAIGHT_ON_DEG and (best is None or weight > best.weight):
            best = Junction(through, left, right, x, y, dx, dy, weight)
    return None if best is None or best.through == PAPER else best
