"""First guesses of where a stamped image lies in a photo: by features of its lines, or by the sheet's corners."""

from __future__ import annotations

from collections.abc import Iterator

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import map_coordinates

Matrix = NDArray[np.float64]
"""3 x 3, from pixels (x, y, 1) of one picture to those of another."""
RATIO = 0.86
"""The nearest feature must be so much nearer than the second ([Lowe2004], which takes 0.8; lines have few of them)."""
LEAST_MATCHES = 8
NEAR_PX = 5.0
MOST_FEATURES = 4000
FINE, MOST_HALVES = 1.5, 6
SCALES = (0.25, 4.0)
"""Of one picture to the other that are believed, besides what their sizes say."""


def by_features(template: NDArray[np.float32], seen: NDArray[np.float32]) -> Matrix | None:
    """The likeliest plane view ([Hartley2004], chapter 4) of line picture `template` in line picture `seen`, by
    scale-invariant features ([Lowe2004]) and random samples; None if too few of them agree.

    Parameters
    ----------
    template
        h x w
    seen
        h x w

    Returns
    -------
    3 x 3 from the one to the other.
    """
    finder = cv2.SIFT.create(nfeatures=MOST_FEATURES, contrastThreshold=0.02, edgeThreshold=16)
    (points, marks), (others, other_marks) = (
        finder.detectAndCompute(cv2.convertScaleAbs(one, alpha=255), None) for one in (template, seen)
    )
    if marks is None or other_marks is None or min(len(marks), len(other_marks)) < LEAST_MATCHES:
        return None
    # Square roots of shares are compared better than the features as they are ([Arandjelovic2012]).
    marks, other_marks = (np.sqrt(one / np.maximum(one.sum(axis=1, keepdims=True), 1)) for one in (marks, other_marks))
    pairs = cv2.BFMatcher(cv2.NORM_L2).knnMatch(marks, other_marks, k=2)
    good = [pair[0] for pair in pairs if len(pair) == 2 and pair[0].distance < RATIO * pair[1].distance]
    if len(good) < LEAST_MATCHES:
        return None
    here = np.array([points[one.queryIdx].pt for one in good])
    there = np.array([others[one.trainIdx].pt for one in good])
    cv2.setRNGSeed(5)
    matrix, _ = cv2.findHomography(here, there, cv2.USAC_MAGSAC, NEAR_PX, maxIters=5000, confidence=0.999)
    return matrix if matrix is not None and believable(matrix, template.shape) else None


def by_corners(corners: NDArray[np.float64], shape: tuple[int, ...]) -> Iterator[Matrix]:
    """The four ways a picture of `shape` can lie between four corners (x, y in pixels).

    Parameters
    ----------
    corners
        4 x 2, (x, y) in pixels
    shape
        h, w of the picture

    Returns
    -------
    Four matrices of 3 x 3.
    """
    height, width = shape[:2]
    own = np.array([(0, 0), (width, 0), (width, height), (0, height)], np.float32)
    for turn in range(4):
        yield cv2.getPerspectiveTransform(own, np.roll(corners, -turn, axis=0).astype(np.float32)).astype(float)


def believable(matrix: Matrix, shape: tuple[int, ...]) -> bool:
    """Whether a plane sheet seen by a camera may look like this: not mirrored, not folded, not absurdly large.

    Parameters
    ----------
    matrix
        3 x 3
    shape
        h, w of the picture
    """
    height, width = shape[:2]
    own = np.array([(0, 0), (width, 0), (width, height), (0, height)], float)
    seen = moved(matrix, own)
    if not np.isfinite(seen).all():
        return False
    way = np.roll(seen, -1, axis=0) - seen
    turns = way[:, 0] * np.roll(way, -1, axis=0)[:, 1] - way[:, 1] * np.roll(way, -1, axis=0)[:, 0]
    sides = np.hypot(*way.T) / np.hypot(*(np.roll(own, -1, axis=0) - own).T)
    return bool((turns > 0).all() and SCALES[0] < sides.min() and sides.max() < min(SCALES[1], 2 * sides.min()))


def moved(matrix: Matrix, points: NDArray[np.float64]) -> NDArray[np.float64]:
    """N x 2 points through a matrix.

    Parameters
    ----------
    matrix
        3 x 3
    points
        N x 2, (x, y)
    """
    whole = np.concatenate([points, np.ones((len(points), 1))], axis=1) @ matrix.T
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.asarray(whole[:, :2] / whole[:, 2:])


def resized(across: float, down: float | None = None) -> Matrix:
    """What making a picture so many times as large does to its pixels; they are counted from their middles.

    Parameters
    ----------
    across
        times as wide
    down
        times as high; None: the same

    Returns
    -------
    3 x 3.
    """
    down = across if down is None else down
    return np.array([(across, 0, (across - 1) / 2), (0, down, (down - 1) / 2), (0, 0, 1)])


def scale_of(places: NDArray[np.float32]) -> float:
    """How many pixels lie between the places (h x w x 2) of one row, in the middle."""
    rows = places[:: max(1, len(places) // 40)]
    return float(np.median(np.hypot(*np.diff(rows, axis=1).reshape(-1, 2).T)))


class SoftPicture:
    """A picture that is looked at from near and from far: what is seen small is taken from halves of it and made as
    soft as a picture of that size would be, so that nothing finer is left to jump.

    pixels : H x W x 3 float32. Each half is made once, when it is first needed.
    """

    def __init__(self, pixels: NDArray[np.float32]) -> None:
        self._halves = [pixels]

    def at(self, places: NDArray[np.float32], *, beyond: float | None = None) -> NDArray[np.float32]:
        """h x w x 3: the picture at `places` (h x w x 2, x and y of its pixels); outside of it `beyond`, or what is
        at its edge."""
        scale, level = scale_of(places), 0
        while scale >= 2 and level < MOST_HALVES:
            scale, level = scale / 2, level + 1
        pixels = self._halved(level)
        if scale > FINE:
            pixels = cv2.GaussianBlur(pixels, (0, 0), 0.4 * scale)
        if level:
            # Pixels are counted from their middles.
            places = (places + np.float32(0.5)) / np.float32(2**level) - np.float32(0.5)
        if beyond is None:
            return cv2.remap(pixels, places, None, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
        edge = (beyond,) * 3
        return cv2.remap(pixels, places, None, cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT, borderValue=edge)

    def _halved(self, level: int) -> NDArray[np.float32]:
        while len(self._halves) <= level:
            last = self._halves[-1]
            # An odd last row or column is left out, so that every pixel of the half is four of the whole.
            last = last[: last.shape[0] // 2 * 2, : last.shape[1] // 2 * 2]
            self._halves.append(cv2.resize(last, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA))
        return self._halves[level]


def sampled(field: NDArray[np.float32], points: NDArray[np.float64]) -> NDArray[np.float64]:
    """N x 2: a field h x w x 2 at N x 2 points (x, y), between its pixels too and carried on beyond its edge.

    Parameters
    ----------
    field
        h x w x 2
    points
        N x 2, (x, y) in pixels
    """
    places = points[:, 1], points[:, 0]
    return np.stack([map_coordinates(field[..., k], places, order=1, mode="nearest") for k in (0, 1)], axis=1)
