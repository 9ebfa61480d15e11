"""Telling ink from paper: even out the light, then threshold the darkness."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.errors import NoRegions
from paleta.impression.reading._dark_rim import dark_rim
from paleta.impression.reading._impression import Impression
from paleta.impression.regions._necks import line_width

PAPER_SCALE = 8
"""The paper's shading is slow, so it is measured on a picture this many times smaller."""
PAPER_REACH_MM = 6.0
"""Nothing inked is solid over more than about this width; the paper shows again within it."""
FAINTEST_INK = 0.06
"""Least darkness (share of the paper's own light) between ink and paper; below lies paper grain."""
DARK_SHEET = 0.12
"""Paper darker than this (linear 0..1) is no paper a stamped line can be seen on."""
LINE_SCALE = 3
WHITE_PAPER = 0.84
GREY_PICTURE = 14
"""Levels between the channels of a picture that holds no colour but its paper's."""
STANDS_OUT = 0.08
LIGHTER_LINES = 3.0
"""How many times more must be paler than the paper than darker, before the paler marks are taken for the drawing."""
MANY_MARKS, STROKE_MM, LEAST_STROKES = 800, 4.0, 0.3
"""Of so many marks at least this share of the ink must lie in strokes of this length."""
PALE_SHARE = 0.3
"""Ink down to this share of the usual threshold is followed where a line leads into it."""
GRAINS = 3.0
"""Spreads above the middle of the paper's own darkness; what is paler may be its grain."""
SOFT_EDGE_MM, PALE_STRETCH_MM, WIDEST_PALE = 0.12, 0.4, 1.6
"""The last in widths of the drawing's lines."""
SPECK_MM2 = 0.06
"""Ink blots smaller than a 0.28 mm dot are dust and over-inked grain, not outlines."""


def separate_ink(impression: Impression, more: float = 0.0) -> NDArray[np.bool_]:
    """Return H x W bool, True on ink.

    The paper's light is taken as the grey closing of a small copy, blurred; dividing by it removes vignettes and
    page shading. The threshold is Otsu's ([Otsu1979]) on what remains, kept within bounds that paper grain and
    pale ink ask for. `more` from -1 to 1 takes paler (or only darker) marks for ink.

    Parameters
    ----------
    impression
        what was read
    more
        -1..1, how readily grey is taken for ink; 0 as usual

    Raises
    ------
    NoRegions
        If the sheet is blank or solid black.
    """
    smooth, dimness = _darkness_and_dimness(impression)
    grain = paper_grain(smooth) * dimness
    levels = cv2.convertScaleAbs(smooth, alpha=255)
    threshold, _ = cv2.threshold(levels, 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    # Otsu splits half way between the two means; a stamped edge is soft, so the line is taken a little wider.
    cut = max(FAINTEST_INK * (1 - 0.5 * max(more, 0)), 0.8 * 2.0**-more * threshold / 255)
    ink = smooth > np.maximum(cut, grain)
    share = float(ink.mean())
    if share < 5e-4 or float(np.percentile(smooth[ink], 60)) < FAINTEST_INK * 1.5:
        raise NoRegions(
            "No stamped line was found: the paper looks blank. Scan again with more contrast, or "
            "check that the stamped side lay on the glass. A white or clear line on white paper cannot be scanned: "
            "stamp the same image once in dark ink on scrap, scan that, and say afterwards what the line is made of."
        )
    pale_cut = np.maximum(max(FAINTEST_INK, PALE_SHARE * cut), grain)
    return _without_specks(_with_pale_stretches(ink, smooth, cut, pale_cut, impression.px_per_mm), impression.px_per_mm)


def smooth_darkness(impression: Impression) -> NDArray[np.float32]:
    """H x W: the share of the paper's light that is missing, grain smoothed away; of pale lines, how far they exceed
    their paper. 0 on dark table at the rim."""
    return _darkness_and_dimness(impression)[0]


def _darkness_and_dimness(impression: Impression) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
    """`smooth_darkness`, and how many times dimmer than usual the paper is there (at least 1): noise that is the same
    all over weighs so much more."""
    pixels = cv2.convertScaleAbs(impression.pixels, alpha=255)
    rim = None if impression.drawn else dark_rim(pixels, impression.px_per_mm)
    if _lines_are_lighter(pixels, impression.px_per_mm):
        pixels = cv2.bitwise_not(pixels)
    small = _small(pixels, PAPER_SCALE)
    paper = _paper_light(small, impression.px_per_mm, rim)
    darkness = _darkness(pixels, small, paper)
    smooth = cv2.GaussianBlur(darkness, (0, 0), max(0.5, 0.035 * impression.px_per_mm))
    if rim is not None:
        smooth[rim > 0] = 0
    light = np.maximum(cv2.cvtColor(paper, cv2.COLOR_RGB2GRAY), 1).astype(np.float32)
    dimness = cv2.resize(np.maximum(float(np.median(light)) / light, 1), smooth.shape[::-1])
    return np.asarray(smooth, np.float32), np.asarray(dimness, np.float32)


def paper_grain(darkness: NDArray[np.float32]) -> float:
    """How dark a pixel of bare paper may well be: GRAINS times the spread above the middle, as most of any stamping is
    paper."""
    middle, upper = np.percentile(darkness[::4, ::4], (35, 60))
    # In a bell curve the 35th and 60th percentile lie 0.64 spreads apart.
    return float(middle + 0.39 * (upper - middle) / 0.64 + GRAINS * (upper - middle) / 0.64)


def _with_pale_stretches(
    ink: NDArray[np.bool_], darkness: NDArray[np.float32], cut: float, pale_cut: NDArray[np.float32], px_per_mm: float
) -> NDArray[np.bool_]:
    """The ink, and where a line goes on paler because the stamp was badly inked: two thresholds, as [Canny1986].

    Pale marks count only where they lead on from ink, are long and no wider than a line; so neither soft edges nor
    smudges and printed tints do.
    """
    if (pale_cut >= cut).all():
        return ink
    edge = max(2, round(SOFT_EDGE_MM * px_per_mm))
    near = cv2.dilate(ink.astype(np.uint8), cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * edge + 1, 2 * edge + 1)))
    pale = ((darkness > pale_cut) & (near == 0)).astype(np.uint8)
    count, marks, boxes, _ = cv2.connectedComponentsWithStats(pale, connectivity=8)
    length = boxes[:, [cv2.CC_STAT_WIDTH, cv2.CC_STAT_HEIGHT]].max(axis=1) / px_per_mm
    width = boxes[:, cv2.CC_STAT_AREA] / px_per_mm / np.maximum(length, 1e-6)
    keep = length >= PALE_STRETCH_MM
    keep[0] = False
    if not keep.any():
        return ink
    beside = cv2.dilate(near, np.ones((3, 3), np.uint8))
    keep &= width <= WIDEST_PALE * line_width(ink)
    keep &= np.bincount(marks[(beside > 0) & (marks > 0)], minlength=count) > 0
    if not keep.any():
        return ink
    # Back over the soft edge to the ink it leads on from.
    reach = cv2.dilate(keep[marks].astype(np.uint8), np.ones((2 * edge + 3, 2 * edge + 3), np.uint8))
    return ink | ((reach > 0) & (darkness > pale_cut))


def _check_lines(sizes_mm: NDArray[np.float64], areas: NDArray[np.int64]) -> None:
    """A drawing has most of its ink in strokes; thousands of dots without any are dust, a halftone or a texture."""
    if len(sizes_mm) > MANY_MARKS and areas[sizes_mm >= STROKE_MM].sum() < LEAST_STROKES * areas.sum():
        raise NoRegions(
            f"{len(sizes_mm):,} separate specks were found and hardly a line. This looks like dust, a printed "
            "halftone or a texture; clean the glass or take less for ink."
        )


def _lines_are_lighter(pixels: NDArray[np.uint8], px_per_mm: float) -> bool:
    """Whether the drawing is paler than its paper, as white or metallic lines on kraft or dark card are.

    Against the local median, marks of the ink's own kind stand out on one side only.
    """
    grey = _small(cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY), LINE_SCALE)
    reach = max(3, round(PAPER_REACH_MM * px_per_mm / LINE_SCALE) | 1)
    paper = cv2.medianBlur(grey, min(reach, 255)).astype(np.float32)
    if float(np.median(paper)) / 255 > WHITE_PAPER:
        return False  # nothing is paler than white paper but glare
    off = (grey - paper) / 255
    return bool(np.count_nonzero(off > STANDS_OUT) > LIGHTER_LINES * np.count_nonzero(off < -STANDS_OUT))


def _paper_light(small: NDArray[np.uint8], px_per_mm: float, rim: NDArray[np.uint8] | None) -> NDArray[np.uint8]:
    """The paper of the `small` picture, carried on beneath the ink and over the table at the `rim`."""
    if rim is not None:
        table = cv2.resize(rim, small.shape[1::-1], interpolation=cv2.INTER_AREA)
        small = cv2.inpaint(small, cv2.compare(table, 0, cv2.CMP_GT), 3, cv2.INPAINT_TELEA)
    reach = max(3, round(PAPER_REACH_MM * px_per_mm / PAPER_SCALE) | 1)
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (reach, reach))
    paper = cv2.morphologyEx(small, cv2.MORPH_CLOSE, kernel, borderType=cv2.BORDER_REPLICATE)
    paper = cv2.GaussianBlur(paper, (0, 0), reach / 2)
    if float(np.median(paper)) / 255 < DARK_SHEET:
        raise NoRegions("The picture is almost black all over, so no lines can be told from the paper.")
    return np.asarray(paper, np.uint8)


def _darkness(pixels: NDArray[np.uint8], small: NDArray[np.uint8], paper: NDArray[np.uint8]) -> NDArray[np.float32]:
    """How far every pixel falls short of its paper, over all three channels alike: a red line is ink as a black one
    is."""
    if float(np.percentile(np.ptp(small.astype(np.int16), axis=2), 99)) < GREY_PICTURE:
        # Nothing is coloured, so one channel says it all.
        return _short_of(cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY), cv2.cvtColor(paper, cv2.COLOR_RGB2GRAY))
    total = np.zeros(pixels.shape[:2], np.float32)
    for channel in range(3):
        total += _short_of(pixels[..., channel], paper[..., channel]) ** 2
    return np.sqrt(total / 3)


def _short_of(channel: NDArray[np.uint8], paper: NDArray[np.uint8]) -> NDArray[np.float32]:
    """Share of the paper's light that is missing, 0 where it is brighter."""
    light = cv2.resize(np.maximum(paper, 1), channel.shape[::-1], interpolation=cv2.INTER_LINEAR)
    return np.maximum(1 - cv2.divide(channel, light, dtype=cv2.CV_32F), 0)


def _small(picture: NDArray[np.uint8], times: int) -> NDArray[np.uint8]:
    size = (max(1, picture.shape[1] // times), max(1, picture.shape[0] // times))
    return np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA), np.uint8)


def _without_specks(ink: NDArray[np.bool_], px_per_mm: float) -> NDArray[np.bool_]:
    count, marks, stats, _ = cv2.connectedComponentsWithStats(ink.astype(np.uint8), connectivity=8)
    keep = stats[:, cv2.CC_STAT_AREA] >= SPECK_MM2 * px_per_mm**2
    keep[0] = False
    sizes = stats[1:, [cv2.CC_STAT_WIDTH, cv2.CC_STAT_HEIGHT]].max(axis=1) / px_per_mm
    _check_lines(sizes, stats[1:, cv2.CC_STAT_AREA].astype(np.int64))
    return keep[marks] if count > 1 else ink
