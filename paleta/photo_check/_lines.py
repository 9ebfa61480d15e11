"""The stamped line as a picture of its own, whatever is coloured around it."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

REACH_MM = 1.7
"""Nothing stamped as a line is wider than this; the colour beside it shows within it."""
SOFT_MM = 0.07
GRAIN = 2.5
"""Spreads of the paper's or pigment's grain that count as nothing."""
FULL = 0.45
"""A line that takes this share of the light beside it is as good as black."""


def lines_of(pixels: NDArray[np.float32], px_per_mm: float, *, paler: bool | None = None) -> NDArray[np.float32]:
    """H x W float32 0..1: how much of a line runs through every pixel of `pixels` (H x W x 3 sRGB 0..1).

    The brightest channel is looked at: a marker takes one or two of them, a stamped line all. `paler` lines lie on
    darker paper, as white on kraft; None = whichever of the two the picture has more of.

    Parameters
    ----------
    pixels
        H x W x 3 sRGB, 0..1.
    px_per_mm
        Of the picture.
    paler
        Whether lines are paler than the paper, as white on kraft; None = whichever the picture has more of.
    """
    if paler is None:
        paler = pale_lines(pixels, px_per_mm)
    bright = cv2.max(cv2.max(pixels[..., 0], pixels[..., 1]), pixels[..., 2])
    soft = cv2.GaussianBlur(bright, (0, 0), max(0.45, SOFT_MM * px_per_mm))
    size = max(3, round(REACH_MM * px_per_mm) | 1)
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
    beside = cv2.morphologyEx(soft, cv2.MORPH_OPEN if paler else cv2.MORPH_CLOSE, kernel)
    off = (soft - beside) / np.maximum(1.05 - beside, 0.2) if paler else 1 - soft / np.maximum(beside, 0.04)
    grain = float(np.percentile(off[::4, ::4], 40)) * GRAIN
    return np.asarray(np.clip((off - grain) / max(FULL - grain, 0.1), 0, 1), np.float32)


def pale_lines(pixels: NDArray[np.float32], px_per_mm: float) -> bool:
    """Whether the stamped lines are paler than their paper.

    Parameters
    ----------
    pixels
        h x w x 3 sRGB
    px_per_mm
        pixels to a millimetre
    """
    dark, pale = (float(np.percentile(lines_of(pixels, px_per_mm, paler=one), 98)) for one in (False, True))
    return pale > 2 * dark
