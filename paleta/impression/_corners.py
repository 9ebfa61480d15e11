"""Finding the sheet in a photo and laying it flat."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import cv2
import numpy as np
from numpy.typing import ArrayLike, NDArray

from paleta.errors import CornersWrong, ResolutionMissing
from paleta.impression._impression import MM_PER_INCH, Impression
from paleta.impression._read import WIDTH_RANGE_MM

Corners = tuple[tuple[float, float], ...]
"""Top left, top right, bottom right, bottom left as (x, y), each 0..1 across the picture."""
LOOKED_AT_PX = 700
LEAST_SHEET = 0.2
"""A sheet that covers less of the photo than this is not trusted to be one."""
FILLS = 0.955
"""A sheet that covers more is the whole picture: nothing to straighten."""
STRAIGHT = 0.93
"""Least share of its corner-to-corner outline that a sheet's contour fills."""
LEAST_CONTRAST = 14
"""Grey levels between sheet and table."""
SMALLEST_CROP = 0.02


def find_sheet(impression: Impression) -> Corners | None:
    """The four corners of the sheet in a photo, or None if no sheet stands out from a background.

    The largest four-cornered outline among brightness thresholds and edges of a small copy; it must differ from what
    lies around it. A drawing has none.
    """
    if impression.drawn:
        return None
    scale = LOOKED_AT_PX / max(impression.pixels.shape[:2])
    small = cv2.resize(impression.pixels, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    grey = cv2.GaussianBlur((cv2.cvtColor(small, cv2.COLOR_RGB2GRAY) * 255).astype(np.uint8), (0, 0), 1.5)
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
            if _contrast(grey, quad) >= LEAST_CONTRAST:
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


def _contrast(grey: NDArray[np.uint8], quad: NDArray[np.float64]) -> float:
    """Grey levels between a band inside and one outside the outline; the line of a drawn box lies in neither."""
    filled = np.zeros_like(grey)
    cv2.fillConvexPoly(filled, quad.astype(np.int32), 1)
    close, far = np.ones((25, 25), np.uint8), np.ones((47, 47), np.uint8)
    inner = (cv2.erode(filled, close) > 0) & (cv2.erode(filled, far) == 0)
    outer = (cv2.dilate(filled, far) > 0) & (cv2.dilate(filled, close) == 0)
    if not inner.any() or not outer.any():
        return 0.0
    return abs(float(np.median(grey[inner])) - float(np.median(grey[outer])))


def _in_order(quad: NDArray[np.float64]) -> NDArray[np.float64]:
    """Clockwise on the page, beginning at the top left."""
    middle = quad.mean(axis=0)
    angle = np.arctan2(quad[:, 1] - middle[1], quad[:, 0] - middle[0])
    ring = quad[np.argsort(angle)]
    return np.roll(ring, -int(np.argmin(ring.sum(axis=1))), axis=0)
