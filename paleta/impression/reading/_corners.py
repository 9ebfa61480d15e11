"""Finding the sheet in a photo and laying it flat."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import cv2
import numpy as np
from numpy.typing import ArrayLike, NDArray

from paleta.errors import CornersWrong, ResolutionMissing
from paleta.impression.reading._impression import MM_PER_INCH, Impression
from paleta.impression.reading._read import WIDTH_RANGE_MM

Corners = tuple[tuple[float, float], ...]
"""Top left, top right, bottom right, bottom left as (x, y), each 0..1 across the picture."""
LOOKED_AT_PX = 700
LEAST_SHEET = 0.2
"""A sheet that covers less of the photo than this is not trusted to be one."""
FILLS = 0.955
"""A sheet that covers more is the whole picture: nothing to straighten."""
STRAIGHT = 0.93
"""Least share of its corner-to-corner outline that a sheet's contour fills."""
DARKEST = 0.06
"""Light (sRGB 0..1) below which steps are lost in the noise."""
LEAST_CONTRAST = 14
"""Levels of `_evened` between sheet and table."""
SHARP = 0.55
"""Of that contrast so much lies within a few pixels of the edge; the light of a lamp falls off over many."""
ALL_ALONG = 0.7
"""Of each side, how much must show that step."""
PLACES, REACH_PX, ON_LINE_PX = 48, 24, 1.5
"""Places looked at along a side, and how far beside it its true place is looked for."""
AT_THE_EDGE = 0.012
"""A side that lies so close to the edge of the picture has nothing beyond it to be seen."""
LEAST_SIDES = 3
"""So many must show the step; only a sheet that runs out of the picture on one side shows fewer than four."""
SQUARE_DEG = 28
"""How far from square a corner of a sheet may look; phones are not held that far askew."""
SMALLEST_CROP = 0.02


def find_sheet(impression: Impression) -> Corners | None:
    """The four corners of the sheet in a photo, or None if no sheet stands out from a background.

    The largest four-cornered outline among brightness thresholds and edges of a small copy; along its sides it must
    differ from what lies around it by a sharp step, which shade on a flat scan does not. A drawing has none.
    """
    if impression.drawn:
        return None
    scale = LOOKED_AT_PX / max(impression.pixels.shape[:2])
    small = cv2.resize(impression.pixels, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    grey = _evened(cv2.cvtColor(small, cv2.COLOR_RGB2GRAY))
    best, best_area = None, 0.0
    for mask in _candidates(grey):
        contours, _ = cv2.findContours(mask, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_SIMPLE)
        for contour in contours:
            hull = cv2.convexHull(contour)
            area = float(cv2.contourArea(hull))
            if area <= best_area or not LEAST_SHEET * grey.size <= area <= FILLS * grey.size:
                continue
            quad = _as_quad(hull)
            if quad is None or area < STRAIGHT * cv2.contourArea(quad.astype(np.float32)):
                continue
            quad = _snapped(grey, quad)
            if _is_square(quad) and _stands_out(grey, quad):
                best, best_area = quad, area
    if best is None:
        return None
    ordered = _in_order(best) / (grey.shape[1], grey.shape[0])
    return tuple((float(x), float(y)) for x, y in np.clip(ordered, 0, 1))


def check_corners(corners: ArrayLike) -> NDArray[np.float64]:
    """4 x 2 corners, or CornersWrong if they cross, fold in, or enclose nearly nothing."""
    points = np.asarray(corners, float)
    if points.shape != (4, 2) or not np.isfinite(points).all():
        raise CornersWrong("Four corners are needed, each as x and y.")
    if points.min() < -0.001 or points.max() > 1.001:
        raise CornersWrong("The corners must lie on the picture.")
    way, onward = np.roll(points, -1, axis=0) - points, np.roll(points, -2, axis=0) - np.roll(points, -1, axis=0)
    turns = way[:, 0] * onward[:, 1] - way[:, 1] * onward[:, 0]
    if not (turns > 0).all():
        raise CornersWrong(
            "The corners cross or fold in. Drag them so that they go round the sheet: top left, top right, bottom "
            "right, bottom left."
        )
    if cv2.contourArea(points.astype(np.float32)) < SMALLEST_CROP:
        raise CornersWrong("The corners enclose almost nothing. Drag them out to the edges of the sheet.")
    return points


def rectify(impression: Impression, corners: Sequence[Sequence[float]], *, width_mm: float | None = None) -> Impression:
    """Lay the part of the picture between four corners flat; also crops.

    `width_mm` is the real length of the top edge; without it the resolution of the picture is kept.

    Parameters
    ----------
    impression
        The picture.
    corners
        Four places (x, y), 0..1 across the picture, clockwise from the top left.
    width_mm
        The real length of the top edge; without it the resolution of the picture is kept.

    Raises
    ------
    CornersWrong
        If the corners do not go round a part of the picture.
    """
    height, width = impression.pixels.shape[:2]
    points = check_corners(corners) * (width, height)
    top, right, bottom, left = (float(np.hypot(*(points[(k + 1) % 4] - points[k]))) for k in range(4))
    size = (max(40, round(max(top, bottom))), max(40, round(max(left, right))))
    target = np.array([(0, 0), (size[0], 0), size, (0, size[1])], np.float32)
    matrix = cv2.getPerspectiveTransform(points.astype(np.float32), target)
    flat = cv2.warpPerspective(impression.pixels, matrix, size, flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)
    dpi = impression.dpi
    if width_mm is not None:
        if not WIDTH_RANGE_MM[0] <= width_mm <= WIDTH_RANGE_MM[1]:
            raise ResolutionMissing("The width must lie between 1 and 45 cm.")
        dpi = size[0] / width_mm * MM_PER_INCH
    return replace(impression, pixels=np.clip(flat, 0, 1).astype(np.float32), dpi=dpi)


def _evened(grey: NDArray[np.float32]) -> NDArray[np.uint8]:
    """Levels 0..255 by the logarithm of the light, so that a step weighs the same near the lamp and far from it."""
    soft = cv2.GaussianBlur(grey, (0, 0), 1.5)
    level = np.log2(np.maximum(soft, 0) + DARKEST) - np.log2(DARKEST)
    return np.asarray(np.clip(level * 255 / (np.log2(1 + DARKEST) - np.log2(DARKEST)), 0, 255), np.uint8)


def _candidates(grey: NDArray[np.uint8]) -> list[NDArray[np.uint8]]:
    _, bright = cv2.threshold(grey, 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    closed = np.ones((9, 9), np.uint8)
    edges = cv2.dilate(cv2.Canny(grey, 25, 75), np.ones((3, 3), np.uint8))
    masks = [cv2.morphologyEx(mask, cv2.MORPH_CLOSE, closed) for mask in (bright, cv2.bitwise_not(bright), edges)]
    # A sheet that runs out of the photo still shows a closed outline inside a one-pixel frame.
    for mask in masks:
        mask[[0, -1], :] = 0
        mask[:, [0, -1]] = 0
    return masks


def _as_quad(hull: NDArray[np.int32]) -> NDArray[np.float64] | None:
    length = cv2.arcLength(hull, True)
    for tolerance in (0.01, 0.02, 0.03, 0.05):
        quad = cv2.approxPolyDP(hull, tolerance * length, True)
        if len(quad) == 4:
            return quad.reshape(4, 2).astype(float)
    return None


def _is_square(quad: NDArray[np.float64]) -> bool:
    way = np.roll(quad, -1, axis=0) - quad
    way /= np.maximum(np.hypot(*way.T), 1e-9)[:, None]
    return bool(np.abs(np.sum(way * np.roll(way, 1, axis=0), axis=1)).max() < np.sin(np.radians(SQUARE_DEG)))


def _stands_out(grey: NDArray[np.uint8], quad: NDArray[np.float64]) -> bool:
    """Whether the sheet differs from what lies around it, by a sharp step along its sides and always in the same
    direction. Grey levels are compared close to a side, and farther off where the line of a drawn box no longer lies.
    """
    height, width = grey.shape
    steps = []
    for along, outward in _sides(quad):
        off = (along + 8 * outward) / (width, height)
        if np.median(np.minimum(off, 1 - off).min(axis=1)) < AT_THE_EDGE:
            continue
        near, far = (_across(grey, along, outward, reach) for reach in ((2.0, 6.0), (12.0, 20.0)))
        steps.append((near, far))
    if len(steps) < LEAST_SIDES:
        return False
    sign = np.sign(np.median(np.concatenate([far for _, far in steps])))
    return all(
        np.median(sign * far) >= LEAST_CONTRAST and np.mean(sign * near >= SHARP * np.median(sign * far)) >= ALL_ALONG
        for near, far in steps
    )


def _sides(quad: NDArray[np.float64]) -> list[tuple[NDArray[np.float64], NDArray[np.float64]]]:
    """Of each side places along it, and the way out of the sheet."""
    sides = []
    for start, end in zip(quad, np.roll(quad, -1, axis=0), strict=True):
        way = (end - start) / max(float(np.hypot(*(end - start))), 1e-9)
        outward = np.array([way[1], -way[0]])
        if (quad.mean(axis=0) - start) @ outward > 0:
            outward = -outward
        sides.append((start + np.linspace(0.06, 0.94, PLACES)[:, None] * (end - start), outward))
    return sides


def _snapped(grey: NDArray[np.uint8], quad: NDArray[np.float64]) -> NDArray[np.float64]:
    """The outline with every side moved onto the sharpest step near it: a threshold's outline is bitten into by shade
    and grown over by specks."""
    lines = []
    offs = np.arange(-REACH_PX, REACH_PX + 1)
    for along, outward in _sides(quad):
        profile = _sampled(grey, along[:, None] + offs[None, :, None] * outward)
        soft = cv2.blur(profile, (5, 1))
        step = np.zeros_like(profile)
        step[:, 3:-3] = soft[:, :-6] - soft[:, 6:]
        sign = 1 if np.median(step.max(axis=1)) >= np.median(-step.min(axis=1)) else -1
        lines.append(_line_through(along + offs[(sign * step).argmax(axis=1)][:, None] * outward))
    corners = [_crossing(lines[k - 1], lines[k]) for k in range(4)]
    return np.array(corners) if all(one is not None for one in corners) else quad


def _line_through(points: NDArray[np.float64]) -> NDArray[np.float64]:
    """Homogeneous line that passes within ON_LINE_PX of the most points, fitted to those."""
    first, second = np.triu_indices(len(points), 5)
    way = points[second] - points[first]
    size = np.hypot(*way.T)
    usable = size > 1
    first, way = first[usable], way[usable] / size[usable, None]
    normal = np.stack([way[:, 1], -way[:, 0]], axis=1)
    off = np.abs(normal @ points.T - np.sum(normal * points[first], axis=1)[:, None])
    on = off[np.argmax((off < ON_LINE_PX).sum(axis=1))] < ON_LINE_PX
    dx, dy, x, y = (
        float(one) for one in cv2.fitLine(points[on].astype(np.float32), cv2.DIST_L2, 0, 0.01, 0.01).ravel()
    )
    return np.array([dy, -dx, dx * y - dy * x])


def _crossing(one: NDArray[np.float64], other: NDArray[np.float64]) -> NDArray[np.float64] | None:
    x, y, w = np.cross(one, other)
    return np.array([x / w, y / w]) if abs(w) > 1e-6 else None


def _across(
    grey: NDArray[np.uint8], along: NDArray[np.float64], outward: NDArray[np.float64], reach: tuple[float, float]
) -> NDArray[np.float64]:
    """Inside minus outside, for each place of a side: medians over a stretch so far from it on either hand."""
    offs = np.linspace(*reach, 5)
    inside, outside = (
        np.median(_sampled(grey, along[:, None] + sign * offs[None, :, None] * outward), axis=1) for sign in (-1, 1)
    )
    return np.asarray(inside - outside)


def _sampled(grey: NDArray[np.uint8], at: NDArray[np.float64]) -> NDArray[np.float64]:
    cols = np.clip(np.round(at[..., 0]), 0, grey.shape[1] - 1).astype(int)
    rows = np.clip(np.round(at[..., 1]), 0, grey.shape[0] - 1).astype(int)
    return grey[rows, cols].astype(float)


def _in_order(quad: NDArray[np.float64]) -> NDArray[np.float64]:
    """Clockwise on the page, beginning at the top left."""
    middle = quad.mean(axis=0)
    angle = np.arctan2(quad[:, 1] - middle[1], quad[:, 0] - middle[0])
    ring = quad[np.argsort(angle)]
    return np.roll(ring, -int(np.argmin(ring.sum(axis=1))), axis=0)
