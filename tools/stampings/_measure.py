"""Measuring the finder on many stampings."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import partial

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.errors import NoRegions
from paleta.impression import Impression, find_regions, find_sheet, read, rectify
from tools.stampings._draw import Panel, closing_panel, panel
from tools.stampings._of_things import panel_of_scenes
from tools.stampings._plain import find_plainly
from tools.stampings._print import Degree, Stamping, stamp
from tools.stampings._score import Score, score

HELD_BACK = 1000
DPI = (150, 200, 300, 300, 400, 600)
ALL_PAPERS = ("white", "cream", "watercolour", "kraft", "grey")
DEGREES = {
    "clean": Degree(light=0.08),
    "light": Degree(pale=0.15, grain=0.1, dust=15, light=0.18, noise=0.01, quality=90, breaks=0.4, break_mm=0.3,
                    papers=ALL_PAPERS[:3], inks=("black", "brown"), rim=0.15, photo=0.2),
    "medium": Degree(pale=0.4, grain=0.3, dust=60, smudge=0.05, light=0.3, noise=0.015, quality=82, breaks=1.5,
                     break_mm=0.6, papers=ALL_PAPERS, inks=("black", "brown", "grey"), rim=0.3, photo=0.3),
    "hard": Degree(pale=0.65, grain=0.5, dust=150, smudge=0.12, light=0.45, noise=0.025, quality=72, breaks=3,
                   break_mm=0.9, papers=ALL_PAPERS, inks=("black", "brown", "grey", "tone on tone"), rim=0.4,
                   photo=0.35),
    "worn": Degree(pale=0.45, grain=0.33, dust=90, smudge=0.06, light=0.35, noise=0.018, quality=80, breaks=1.7,
                   break_mm=0.6, papers=ALL_PAPERS, inks=("black", "brown", "grey"), rim=0.35, photo=0.3),
}  # fmt: skip
"""Damage, papers, inks and light rise together; worn, which came last, lies between medium and hard."""

Finder = Callable[[Impression], NDArray[np.int32]]


@dataclass(frozen=True)
class Tally:
    """What a way of finding scored; `cut` of its pictures lost more than a twentieth at the sheet's corners."""

    score: Score
    pictures: int
    cut: int
    lost: int


def by_paleta(impression: Impression) -> NDArray[np.int32]:
    return find_regions(impression).labels


def by_plain(impression: Impression) -> NDArray[np.int32]:
    return find_plainly(impression.pixels, impression.px_per_mm)


FINDERS: dict[str, Finder] = {"Paleta": by_paleta, "plain": by_plain}
DRAWINGS: dict[str, Callable[[int, float], Panel]] = {
    "own": panel, "closing": closing_panel, "scenes": panel_of_scenes,
}  # fmt: skip
"""By a number and dpi."""


def case(finder: str, degree: str, drawing: str, seed: int) -> Tally:
    """One stamping of a seed."""
    number = [*DEGREES].index(degree)
    drawn = DRAWINGS[drawing](seed, DPI[(seed + number) % len(DPI)])
    picture = stamp(drawn, DEGREES[degree], seed * 10 + number)
    impression = read(picture.data, dpi=picture.dpi)
    corners = find_sheet(impression)
    matrix = scaled_to(impression, picture)
    cut = False
    if corners is not None:
        height, width = impression.pixels.shape[:2]
        points = np.array(corners) * (width, height)
        impression = rectify(impression, corners)
        size = impression.pixels.shape[1::-1]
        target = np.array([(0, 0), (size[0], 0), size, (0, size[1])], np.float32)
        matrix = cv2.getPerspectiveTransform(points.astype(np.float32), target) @ matrix
        shape = drawn.whole.shape
        rim = np.array([(0, 0), (shape[1], 0), shape[::-1], (0, shape[0])], np.float32)
        seen = cv2.perspectiveTransform(rim[None], matrix)[0]
        shares = np.clip(seen / size, 0, 1)
        cut = float(cv2.contourArea(shares.astype(np.float32)) * size[0] * size[1] / cv2.contourArea(seen)) < 0.95
    try:
        labels = FINDERS[finder](impression)
    except NoRegions:
        return Tally(score(drawn, None), 1, int(cut), 1)
    back = cv2.warpPerspective(
        labels.astype(np.float32), matrix, drawn.whole.shape[::-1], flags=cv2.INTER_NEAREST | cv2.WARP_INVERSE_MAP
    )
    return Tally(score(drawn, back.astype(np.int32)), 1, int(cut), 0)


def scaled_to(impression: Impression, picture: Stamping) -> NDArray[np.float64]:
    """`to_picture`, for a picture that was made smaller when it was read."""
    times = impression.dpi / picture.dpi
    return np.diag([times, times, 1.0]) @ picture.to_picture


def measure(finder: str, degree: str, seeds: Iterable[int], *, drawing: str = "own", workers: int = 2) -> Tally:
    with ProcessPoolExecutor(workers) as pool:
        each = list(pool.map(partial(case, finder, degree, drawing), seeds))
    total = Score()
    for one in each:
        total = total + one.score
    return Tally(total, len(each), sum(one.cut for one in each), sum(one.lost for one in each))
