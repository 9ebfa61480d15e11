"""Two stampings of one drawing, the second turned, shifted, scaled, on other paper, scanned or photographed, and bent
as rubber peeled off its block bends; and pairs that are not of one stamp."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import map_coordinates

from paleta.impression import Impression, RegionMap, read
from tools.stampings import Panel, panel, stamp, true_cells
from tools.stampings._print import Degree

HELD_BACK = 1000
SHIFT_MM, SLANT_DEG, SCALES = 20.0, 10.0, (0.95, 1.05)
BEND_MM, BEND_REACH_MM = 1.0, 15.0
FIRST = Degree(pale=0.1, grain=0.08, dust=8, light=0.12, noise=0.008, papers=("white", "cream"))
SECOND = Degree(pale=0.2, grain=0.15, dust=20, light=0.22, noise=0.012, quality=85, breaks=0.4, break_mm=0.3,
                papers=("white", "cream", "watercolour", "kraft", "grey"), inks=("black", "brown"),
                photo=0.4)  # fmt: skip
KINDS = ("plain", "bent", "like", "other")
Points = NDArray[np.float64]


@dataclass(frozen=True)
class Pair:
    """first with the true cells on it; the second as a file with its dpi; truth: pixels (x, y) of the first to those
    of the second."""

    first: Impression
    first_map: RegionMap
    second: bytes
    second_dpi: float
    truth: Callable[[Points], Points]
    photo: bool

    def upright(self, second: Impression, matrix: NDArray[np.float64]) -> NDArray[np.float32]:
        """H x W x 2: which pixel of the first truly lies at each pixel of the `second` once `matrix` (first to second)
        is undone."""
        height, width = self.first_map.labels.shape
        x, y = np.meshgrid(np.arange(0, width, 4.0), np.arange(0, height, 4.0))
        points = np.stack([x.ravel(), y.ravel()], axis=1)
        shrunk = second.dpi / self.second_dpi
        seen = _moved(np.linalg.inv(matrix), (self.truth(points) + 0.5) * shrunk - 0.5)
        off = cv2.resize((seen - points).reshape(*x.shape, 2).astype(np.float32), (width, height))
        x, y = np.meshgrid(np.arange(width, dtype=np.float32), np.arange(height, dtype=np.float32))
        source = np.stack([x, y], axis=-1)
        for _ in range(5):
            there = cv2.remap(off, source, None, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
            source = np.stack([x, y], axis=-1) - there
        return source


def pair(kind: str, seed: int) -> Pair:
    chance = np.random.default_rng([31, seed, KINDS.index(kind)])
    drawn = panel(seed)
    first = stamp(drawn, FIRST, seed)
    one = read(first.data, dpi=first.dpi)
    source = drawn
    if kind == "like":
        source = panel(seed, other_from=3)
    elif kind == "other":
        source = panel(seed + 500)
    pressed, onward = _pressed(source, chance, bent=kind == "bent")
    second = stamp(pressed, SECOND, seed + 77)
    cells = np.maximum(true_cells(drawn), 0)
    height, width = one.pixels.shape[:2]
    to_first = first.to_picture[:2]
    labels = cv2.warpAffine(cells.astype(np.float32), to_first, (width, height), flags=cv2.INTER_NEAREST)
    ink = cv2.warpAffine(drawn.drawn, to_first, (width, height)) > 127
    first_map = RegionMap(labels=labels.astype(np.int32), ink=ink, dpi=one.dpi)
    back = np.linalg.inv(first.to_picture)

    def truth(points: Points) -> Points:
        return _moved(second.to_picture, onward(_moved(back, points)))

    return Pair(one, first_map, second.data, second.dpi, truth, second.photo)


def _pressed(panel: Panel, chance: np.random.Generator, *, bent: bool) -> tuple[Panel, Callable[[Points], Points]]:
    """The drawing pressed somewhere on a larger sheet at another resolution, and where its pixels went."""
    dpi = float(chance.choice([200, 300, 300, 400]))
    px = dpi / 25.4
    room = 2 * SHIFT_MM + 14
    quarter = int(chance.integers(4))
    turn = np.radians(90 * quarter + chance.uniform(-SLANT_DEG, SLANT_DEG))
    size = chance.uniform(*SCALES) * px / panel.px
    sheet_mm = (panel.width_mm, panel.height_mm)[:: -1 if quarter % 2 else 1]
    other = Panel(sheet_mm[0] + room, sheet_mm[1] + room, dpi, panel.line_mm, 0.0, 0.0)
    shift = chance.uniform(-SHIFT_MM, SHIFT_MM, 2) * 0.9
    middle = np.array([other.width_mm, other.height_mm]) / 2 * px + shift * px * 0.7
    own = np.array(panel.drawn.shape[::-1]) / 2
    spin = size * np.array([[np.cos(turn), -np.sin(turn)], [np.sin(turn), np.cos(turn)]])
    matrix = np.eye(3)
    matrix[:2, :2], matrix[:2, 2] = spin, middle - spin @ own
    shape = panel.drawn.shape
    field = np.zeros((*shape, 2), np.float32)
    if bent:
        field = _bends(shape, panel.px, chance)

    def onward(points: Points) -> Points:
        return _moved(matrix, points + _at(field, points))

    x, y = np.meshgrid(*(np.arange(side, dtype=np.float32) for side in other.drawn.shape[::-1]))
    flat = cv2.perspectiveTransform(np.stack([x, y], axis=-1), np.linalg.inv(matrix))
    source = flat.copy()
    for _ in range(6):  # where it came from, so that bending takes it there
        off = cv2.remap(field, source, None, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
        source = flat - off
    other.drawn = cv2.remap(panel.drawn, source, None, cv2.INTER_CUBIC)
    return other, onward


def _bends(shape: tuple[int, int], px: float, chance: np.random.Generator) -> NDArray[np.float32]:
    """Shifts that change by up to BEND_MM over BEND_REACH_MM, in pixels."""
    small = tuple(max(3, round(side / px / BEND_REACH_MM) + 2) for side in shape)
    knots = chance.uniform(-BEND_MM / 2, BEND_MM / 2, (*small, 2)).astype(np.float32) * px
    return cv2.resize(knots, shape[::-1], interpolation=cv2.INTER_CUBIC)


def _at(field: NDArray[np.float32], points: Points) -> Points:
    return np.stack([map_coordinates(field[..., k], points.T[::-1], order=1, mode="nearest") for k in (0, 1)], axis=1)


def _moved(matrix: NDArray[np.float64], points: Points) -> Points:
    whole = np.concatenate([points, np.ones((len(points), 1))], axis=1) @ matrix.T
    return whole[:, :2] / whole[:, 2:]
