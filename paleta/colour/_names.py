"""Plain words for a colour: lightness, strength and hue."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

# Hue angles in L*a*b* where one colour word gives way to the next. From memory, common practice.
HUES = (
    (20, "rose"),
    (48, "red"),
    (72, "orange"),
    (88, "ochre"),
    (108, "yellow"),
    (128, "lime"),
    (150, "green"),
    (180, "sea green"),
    (220, "teal"),
    (252, "sky blue"),
    (300, "blue"),
    (320, "violet"),
    (340, "plum"),
    (361, "rose"),
)
NEUTRAL_CHROMA = 6.0
"""Below this a colour reads as grey. Common practice."""


def plain_name(lab: Sequence[float]) -> str:
    """A colour in words, for example "dark blue", "pale rose", "mid grey"."""
    lightness, a, b = (float(value) for value in lab)
    chroma = float(np.hypot(a, b))
    if chroma < NEUTRAL_CHROMA:
        if lightness > 95:
            return "white"
        if lightness < 12:
            return "black"
        return f"{_depth(lightness)} grey"
    hue = float(np.degrees(np.arctan2(b, a)) % 360)
    word = next(name for limit, name in HUES if hue < limit)
    if word in ("orange", "ochre", "red") and lightness < 45 and chroma < 45:
        word = "brown"
    dull = "dull " if chroma < 20 and word != "brown" and 30 < lightness < 80 else ""
    return f"{_depth(lightness)} {dull}{word}"


def _depth(lightness: float) -> str:
    for limit, word in ((25, "very dark"), (45, "dark"), (65, "mid"), (82, "light")):
        if lightness < limit:
            return word
    return "pale"
