"""Whether a greeting can be read where it is stamped: its contrast with what lies under it, and how busy that is."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from paleta.colour import srgb_to_lab, srgb_to_linear

LARGE_TEXT, SMALL_TEXT = 3.0, 4.5
"""Least contrast of large and of other letters. [WCAG22], 1.4.3"""
LARGE_MM = 6.35
"""Large letters are 18 points high or more. [WCAG22]"""
WORST_SHARE = 0.15
"""So much of the ground may be worse before letters are lost in it. From memory."""
BUSY = 16.0
"""Spread of L* (standard deviation) from which a ground draws the eye from letters on it. From memory."""
LETTER_SHARE = 0.5
"""How much of a greeting's height its letters take, as it is drawn."""


@dataclass(frozen=True, slots=True)
class Legibility:
    """contrast: of the ink with the worst part of the ground that counts, 1..21; least: what it should be at least;
    spread: of the ground's L*."""

    contrast: float
    least: float
    spread: float

    @property
    def fine(self) -> bool:
        return self.contrast >= self.least and self.spread < BUSY


def luminance(srgb: NDArray[np.uint8]) -> NDArray[np.float64]:
    """Relative luminance (...) of 8-bit sRGB colours (..., 3), 0..1. [WCAG22]"""
    return np.asarray(srgb_to_linear(np.asarray(srgb, float) / 255) @ np.array([0.2126, 0.7152, 0.0722]))


def contrasts(ink: str, ground: NDArray[np.uint8]) -> NDArray[np.float64]:
    """Contrast (...), 1..21, of an ink with every colour of a ground. [WCAG22]

    Parameters
    ----------
    ink
        as #rrggbb
    ground
        8-bit sRGB (..., 3)
    """
    one, other = float(luminance(_rgb(ink))), luminance(ground)
    return (np.maximum(one, other) + 0.05) / (np.minimum(one, other) + 0.05)


def legibility(ink: str, ground: NDArray[np.uint8], height_mm: float) -> Legibility:
    """How well a greeting in `ink` is read on a ground.

    Parameters
    ----------
    ink
        as #rrggbb
    ground
        8-bit sRGB (..., 3) of what lies under it
    height_mm
        of the room the greeting has, its letters half as high
    """
    found = np.quantile(contrasts(ink, ground), WORST_SHARE)
    spread = float(srgb_to_lab(np.asarray(ground, float).reshape(-1, 3) / 255)[:, 0].std())
    least = LARGE_TEXT if height_mm * LETTER_SHARE >= LARGE_MM else SMALL_TEXT
    return Legibility(float(found), least, spread)


def _rgb(code: str) -> NDArray[np.uint8]:
    return np.array([int(code[place : place + 2], 16) for place in (1, 3, 5)], np.uint8)


def flat(code: str) -> NDArray[np.uint8]:
    """A ground of one colour, given as #rrggbb."""
    return _rgb(code)[None]
