"""Telling ink from paper: even out the light, then threshold the darkness."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.errors import NoRegions
from paleta.impression._read import Impression

PAPER_SCALE = 8
"""The paper's shading is slow, so it is measured on a picture this many times smaller."""
PAPER_REACH_MM = 6.0
"""Nothing inked is solid over more than about this width; the paper shows again within it."""
FAINTEST_INK = 0.06
"""Least darkness (share of the paper's own light) between ink and paper; below lies paper grain."""
DARK_SHEET = 0.12
"""Paper darker than this (linear 0..1) is no paper a stamped line can be seen on."""
SPECK_MM2 = 0.06
"""Ink blots smaller than a 0.28 mm dot are dust and over-inked grain, not outlines."""


def separate_ink(impression: Impression, more: float = 0.0) -> NDArray[np.bool_]:
    """Return H x W bool, True on ink.

    The paper's light is taken as the grey closing of a small copy, blurred; dividing by it removes vignettes and
    page shading. The threshold is Otsu's ([Otsu1979]) on what remains, kept within bounds that paper grain and
    pale ink ask for. `more` from -1 to 1 takes paler (or only darker) marks for ink.

    Raises
    ------
    NoRegions
        If the sheet is blank or solid black.
    """
    grey = cv2.cvtColor(np.clip(impression.pixels * 255, 0, 255).astype(np.uint8), cv2.COLOR_RGB2GRAY)
    darkness = _darkness(grey, impression.px_per_mm)
    smooth = cv2.GaussianBlur(darkness, (0, 0), max(0.5, 0.035 * impression.px_per_mm))
    levels = np.clip(smooth * 255, 0, 255).astype(np.uint8)
    threshold, _ = cv2.threshold(levels, 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    # Otsu splits half way between the two means; a stamped edge is soft, so the line is taken a little wider.
    cut = max(FAINTEST_INK * (1 - 0.5 * max(more, 0)), 0.8 * 2.0**-more * threshold / 255)
    ink = smooth > cut
    share = float(ink.mean())
    if share < 5e-4 or float(np.percentile(smooth[ink], 60)) < FAINTEST_INK * 1.5:
        raise NoRegions(
            "No stamped line was found: the paper looks blank. Scan again with more contrast, or "
            "check that the stamped side lay on the glass."
        )
    return _without_specks(ink, impression.px_per_mm)


def _darkness(grey: NDArray[np.uint8], px_per_mm: float) -> NDArray[np.float32]:
    small_size = (max(1, grey.shape[1] // PAPER_SCALE), max(1, grey.shape[0] // PAPER_SCALE))
    small = cv2.resize(grey, small_size, interpolation=cv2.INTER_AREA)
    reach = max(3, round(PAPER_REACH_MM * px_per_mm / PAPER_SCALE) | 1)
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (reach, reach))
    paper = cv2.morphologyEx(small, cv2.MORPH_CLOSE, kernel, borderType=cv2.BORDER_REPLICATE)
    paper = cv2.GaussianBlur(paper, (0, 0), reach / 2)
    if float(np.median(paper)) / 255 < DARK_SHEET:
        raise NoRegions("The picture is almost black all over, so no lines can be told from the paper.")
    light = cv2.resize(paper, grey.shape[::-1], interpolation=cv2.INTER_LINEAR).astype(np.float32)
    return np.maximum(1.0 - grey / np.maximum(light, 1.0), 0.0).astype(np.float32)


def _without_specks(ink: NDArray[np.bool_], px_per_mm: float) -> NDArray[np.bool_]:
    count, marks, stats, _ = cv2.connectedComponentsWithStats(ink.astype(np.uint8), connectivity=8)
    keep = stats[:, cv2.CC_STAT_AREA] >= SPECK_MM2 * px_per_mm**2
    keep[0] = False
    return keep[marks] if count > 1 else ink
