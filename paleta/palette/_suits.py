"""Which colours suit what a thing is: no blue trees, no brown skies."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from paleta.colour import Lab

HUES: dict[str, tuple[float, float]] = {
    "leaf": (95.0, 190.0), "stem": (80.0, 190.0), "sky": (200.0, 330.0), "water": (180.0, 300.0), "skin": (20.0, 85.0),
    "wood": (20.0, 95.0), "sand": (50.0, 105.0), "fire": (20.0, 105.0),
}  # fmt: skip
"""Degrees of hue by tag, from and to. Common practice; the limits are from memory."""
GREYS_SUIT = {"sky", "water", "wood"}
GREY = 8.0
"""Chroma below which a colour has no hue to be wrong in."""


def suits(tags: Iterable[str], lab: Lab) -> bool:
    """Whether a colour may be that of a thing with these tags; what no tag speaks of always may.

    Parameters
    ----------
    tags
        Of a region, as TAGS has them.
    lab
        A colour.
    """
    chroma, hue = float(np.hypot(lab[1], lab[2])), float(np.degrees(np.arctan2(lab[2], lab[1])) % 360)
    for tag in tags:
        if tag in HUES:
            low, high = HUES[tag]
            if not (low <= hue <= high if chroma >= GREY else tag in GREYS_SUIT):
                return False
    return True
