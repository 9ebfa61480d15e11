"""Drawings of things (tools/things) as panels to stamp: other line art than this folder's own, for fitting only."""

from __future__ import annotations

from collections.abc import Mapping

import cv2
import numpy as np

from paleta.impression import MM_PER_INCH
from tools.stampings._draw import Panel
from tools.things import DPI, KINDS, Kind, exercise_canvas

SCALES = (0.75, 1.0, 1.5, 2.0)
"""A drawing is taken at 150 to 400 dpi, so its lines and cells stay as they are in millimetres."""
GAPS_MM = (0.0, 0.5, 0.8, 1.0, 1.4)
GAPS_PER_MM = 0.004
"""How many there are along a line."""


def panel_of_things(seed: int, kinds: Mapping[str, Kind] = KINDS) -> Panel:
    """The exercise of this number with gaps in its lines, as its maker may have left them."""
    chance = np.random.default_rng([13, seed])
    canvas = exercise_canvas(seed, kinds)
    ink = canvas.ink * 255
    scale = float(chance.choice(SCALES))
    height, width = ink.shape
    mm = MM_PER_INCH / DPI
    line_mm = canvas.line_px * mm
    gap_mm = float(chance.choice(GAPS_MM))
    made = Panel(width * mm, height * mm, DPI * scale, line_mm, gap_mm, gap_share=0.25)
    whole = cv2.resize(ink, made.whole.shape[::-1], interpolation=cv2.INTER_AREA if scale < 1 else cv2.INTER_CUBIC)
    made.whole = np.where(whole > 127, 255, 0).astype(np.uint8)
    made.drawn = made.whole.copy()
    rows, cols = np.nonzero(made.whole)
    if gap_mm and len(rows):
        long_mm = len(rows) / made.px**2 / line_mm
        for place in chance.integers(0, len(rows), chance.poisson(GAPS_PER_MM * long_mm)):
            reach = (chance.uniform(0.4, 1.0) * gap_mm + line_mm) / 2 * made.px
            cv2.circle(made.drawn, (int(cols[place]), int(rows[place])), max(1, round(reach)), 0, -1)
    return made
