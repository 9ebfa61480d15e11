"""Reading a photographed chart: find the marks, lay the sheet flat, even out light and colour, measure the boxes.

The paper between the boxes says how light and which cast falls where; the
printed greys say how the camera renders tones.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.optimize import least_squares

from paleta.chart._draw import DICTIONARY
from paleta.chart._layout import GREY_MM, MARK_MM, PAGE_MM, Chart, grey_places, mark_places
from paleta.colour import Lab, difference, lab_to_srgb, linear_to_srgb, srgb_to_lab, srgb_to_linear
from paleta.errors import ChartError
from paleta.impression import Impression

Floats = NDArray[np.float64]
PX_PER_MM = 6.0
INNER = 0.55
"""Part of a box, from its middle, that is measured: rims are uneven."""
SHARPEST_BLUR = 3.0
"""Marks whose rims are softer than this many pixels at PX_PER_MM make a blurred photo."""
FILLED_BY = 1.8
"""A box this near (CIEDE2000) to the paper counts as left empty."""
PAPER_GRID = (7, 9)
PAPER_NOISE = 0.01
"""How far (in the logarithm of light) blank places scatter round the surface. From memory."""
BURNT_OUT = 253
BURNT_SHARE = 0.5
LEAST_RANGE = 60.0
GREY_SPREAD = 3.0
"""Limits of exposure, in steps of 255 and shares of the sheet. From memory; tested on photos made so."""


@dataclass(frozen=True, slots=True)
class Reading:
    """What was read in one box; None if it was left empty. `spread` is how uneven it was (CIEDE2000 of its halves)."""

    code: str
    which: int
    lab: Lab | None
    spread: float


def read_chart(photo: Impression, chart: Chart, *, paper_lab: Lab) -> list[Reading]:
    """All boxes of a photographed chart, in its own order.

    Parameters
    ----------
    photo
        Of the filled chart, in any light.
    chart
        The chart it should be.
    paper_lab
        Lab of the paper it was printed on.

    Raises
    ------
    ChartError
        If marks are missing (cropped or covered), belong to another chart, or the photo is blurred.
    """
    pixels = np.clip(photo.pixels * 255 + 0.5, 0, 255).astype(np.uint8)
    flat = _flatten(pixels, chart)
    _check_exposure(flat)
    linear = srgb_to_linear(flat.astype(np.float64) / 255)
    linear = linear / _paper_light(linear) * srgb_to_linear(np.asarray(lab_to_srgb(paper_lab)))
    linear = _toned(linear)
    readings = []
    for box in chart.boxes:
        patch = _patch(linear, box.x_mm, box.y_mm, box.width_mm, box.height_mm)
        lab = _lab_of(np.median(patch.reshape(-1, 3), axis=0))
        halves = [_lab_of(np.median(part.reshape(-1, 3), axis=0)) for part in np.array_split(patch, 2, axis=1)]
        empty = float(difference(lab, paper_lab)) < FILLED_BY
        spread = round(float(difference(halves[0], halves[1])), 1)
        readings.append(Reading(box.code, box.which, None if empty else lab, spread))
    return readings


def _flatten(pixels: NDArray[np.uint8], chart: Chart) -> NDArray[np.uint8]:
    detector = cv2.aruco.ArucoDetector(DICTIONARY, cv2.aruco.DetectorParameters())
    grey = cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY)
    corners, found, _ = detector.detectMarkers(grey)
    ids = [] if found is None else [int(number) for number in found.ravel()]
    if not ids:
        raise ChartError(
            "No corner marks of a swatch chart were found. Photograph the whole sheet, sharp and in even light."
        )
    wanted = chart.mark_ids
    if not set(ids) & set(wanted):
        raise ChartError(f"This is the photo of another chart, not of chart {chart.number}.")
    missing = [place for place, number in enumerate(wanted) if number not in ids]
    if missing:
        names = ("top left", "top right", "bottom right", "bottom left")
        words = " and ".join(names[place] for place in missing)
        raise ChartError(f"The {words} mark cannot be seen. All four corners must be in the picture, sharp.")
    seen, true = [], []
    for number, (x, y) in zip(wanted, mark_places(), strict=True):
        seen.append(corners[ids.index(number)].reshape(4, 2))
        true.append(np.array([(x, y), (x + MARK_MM, y), (x + MARK_MM, y + MARK_MM), (x, y + MARK_MM)]) * PX_PER_MM)
    matrix, _ = cv2.findHomography(np.concatenate(seen), np.concatenate(true))
    size = (round(PAGE_MM[0] * PX_PER_MM), round(PAGE_MM[1] * PX_PER_MM))
    flat: NDArray[np.uint8] = cv2.warpPerspective(pixels, matrix, size, flags=cv2.INTER_AREA)
    _check_sharp(flat)
    return flat


def _check_sharp(flat: NDArray[np.uint8]) -> None:
    """How many pixels the rim of the first mark takes from black to white."""
    x, y = mark_places()[0]
    row = round((y + MARK_MM / 2) * PX_PER_MM)
    start = round((x - 3) * PX_PER_MM)
    line = flat[row - 4 : row + 5, start : start + round(6 * PX_PER_MM)].mean(axis=(0, 2))
    low, high = np.percentile(line, 3), np.percentile(line, 97)
    slope = float(np.abs(np.diff(line)).max())
    if slope <= 0 or (high - low) / slope > SHARPEST_BLUR * 2:
        raise ChartError("The photo is blurred. Hold the camera still, tap to focus, and take it again.")


def _check_exposure(flat: NDArray[np.uint8]) -> None:
    """Raise ChartError unless paper and printed greys can be told apart and the picture has colours at all."""
    # A channel that is full says no more, be the others as they may: cast and light are read off the paper.
    if float((flat.max(axis=-1) >= BURNT_OUT).mean()) > BURNT_SHARE:
        raise ChartError("The photo is overexposed: its paper is full white. Take it again with less light.")
    patches = [_patch(flat.astype(np.float64), x, y, *GREY_MM).reshape(-1, 3) for x, y, _ in grey_places()]
    greys = [float(np.median(patch, axis=0).max()) for patch in patches]
    if max(greys) - min(greys) < LEAST_RANGE:
        raise ChartError("The photo is too dark or too flat to read. Take it again in more, and even, light.")
    spread = flat.max(axis=-1).astype(int) - flat.min(axis=-1)
    if float(np.percentile(spread, 99.9)) < GREY_SPREAD:
        raise ChartError("The photo is in shades of grey. Take it again in colour.")


def _paper_light(linear: Floats) -> Floats:
    """The light the bare paper shows, smooth over the sheet: a quadratic surface through bright blank places."""
    rows, cols = linear.shape[:2]
    places, values = [], []
    for i in range(PAPER_GRID[1]):
        for j in range(PAPER_GRID[0]):
            top, left = i * rows // PAPER_GRID[1], j * cols // PAPER_GRID[0]
            tile = linear[top : top + rows // PAPER_GRID[1], left : left + cols // PAPER_GRID[0]].reshape(-1, 3)
            # Paper is the brightest thing on the sheet; the very brightest is noise.
            bright = tile[tile.sum(axis=1) >= np.percentile(tile.sum(axis=1), 70)]
            places.append(
                ((top + rows / PAPER_GRID[1] / 2) / rows - 0.5, (left + cols / PAPER_GRID[0] / 2) / cols - 0.5)
            )
            values.append(np.median(bright, axis=0))
    basis = _surface(np.array(places))
    target = np.log(np.maximum(np.array(values), 1e-4))
    factors = _robust(basis, target)
    y, x = np.meshgrid(np.linspace(-0.5, 0.5, rows), np.linspace(-0.5, 0.5, cols), indexing="ij")
    light: Floats = np.exp(_surface(np.stack([y.ravel(), x.ravel()], axis=1)) @ factors).reshape(rows, cols, 3)
    return light


def _surface(places: Floats) -> Floats:
    y, x = places[:, 0], places[:, 1]
    return np.stack([np.ones(len(y)), x, y, x * x, y * y, x * y], axis=1)


def _robust(basis: Floats, target: Floats) -> Floats:
    """The surface through most places; those that show no paper lie far off and are hardly heard (SciPy's least squares
    with Cauchy's loss)."""

    def fit(channel: Floats) -> Floats:
        start = np.zeros(basis.shape[1])
        start[0] = float(np.median(channel))
        found = least_squares(lambda factors: basis @ factors - channel, start, loss="cauchy", f_scale=PAPER_NOISE)
        return np.asarray(found.x, np.float64)

    return np.stack([fit(channel) for channel in target.T], axis=1)


def _toned(linear: Floats) -> Floats:
    """Through each channel's curve from the greys as seen to the greys as printed."""
    seen, true = [], []
    for x, y, light in grey_places():
        seen.append(np.median(_patch(linear, x, y, *GREY_MM).reshape(-1, 3), axis=0))
        true.append(float(srgb_to_linear(np.asarray(lab_to_srgb((light, 0.0, 0.0))))[0]))
    curve = np.array(seen)
    result = np.empty_like(linear)
    for channel in range(3):
        # A power with a factor: two numbers that fourteen patches fix well, and that keep order.
        slope, offset = np.polyfit(np.log(np.maximum(curve[:, channel], 1e-4)), np.log(np.array(true)), 1)
        result[..., channel] = np.exp(offset) * np.maximum(linear[..., channel], 1e-5) ** slope
    return result


def _patch(linear: Floats, x: float, y: float, width: float, height: float) -> Floats:
    middle_x, middle_y = (x + width / 2) * PX_PER_MM, (y + height / 2) * PX_PER_MM
    half_x, half_y = INNER * width / 2 * PX_PER_MM, INNER * height / 2 * PX_PER_MM
    return linear[
        round(middle_y - half_y) : round(middle_y + half_y), round(middle_x - half_x) : round(middle_x + half_x)
    ]


def _lab_of(linear: Floats) -> Lab:
    lab = srgb_to_lab(linear_to_srgb(np.clip(linear, 0, 1)))
    return round(float(lab[0]), 1), round(float(lab[1]), 1), round(float(lab[2]), 1)
