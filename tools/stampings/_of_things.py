"""Drawings of things (tools/things) as panels to stamp: other line art than this folder's own."""

from __future__ import annotations

import cv2
import numpy as np

from paleta.impression import MM_PER_INCH
from tools.stampings._draw import Panel
from tools.things import DPI, SCENES, Canvas, exercise_canvas, panel_canvas

SCALES = (0.75, 1.0, 1.5, 2.0)
"""A drawing is taken at 150 to 400 dpi, so its lines and cells stay as they are in millimetres."""
GAPS_MM = (0.0, 0.5, 0.8, 1.0, 1.4)
GAPS_PER_MM = 0.004
"""How many there are along a line."""
SCENES_FROM = 90_000
"""From which number on scenes are drawn to measure by."""


def panel_of_things(seed: int) -> Panel:
    """The exercise of this number, to fit on."""
    chance = np.random.default_rng([13, seed])
    return _printed(exercise_canvas(seed), DPI * float(chance.choice(SCALES)), chance)


def panel_of_scenes(seed: int, dpi: float = 300) -> Panel:
    """A drawing of scenes to measure by: no network was fitted on the drawing, those of things on such scenes."""
    return _printed(panel_canvas(SCENES_FROM + seed, SCENES), dpi, np.random.default_rng([17, seed]))


def _printed(canvas: Canvas, dpi: float, chance: np.random.Generator) -> Panel:
    """A canvas with gaps in its lines, as its maker may have left them."""
    ink = canvas.ink * 255
    height, width = ink.shape
    mm = MM_PER_INCH / DPI
    line_mm = canvas.line_px * mm
    gap_mm = float(chance.choice(GAPS_MM))
    made = Panel(width * mm, height * mm, dpi, line_mm, gap_mm, gap_share=0.25)
    smaller = dpi < DPI
    whole = cv2.resize(ink, made.whole.shape[::-1], interpolation=cv2.INTER_AREA if smaller else cv2.INTER_CUBIC)
    made.whole = np.where(whole > 127, 255, 0).astype(np.uint8)
    made.drawn = made.whole.copy()
    rows, cols = np.nonzero(made.whole)
    if gap_mm and len(rows):
        long_mm = len(rows) / made.px**2 / line_mm
        for place in chance.integers(0, len(rows), chance.poisson(GAPS_PER_MM * long_mm)):
            wide_mm = chance.uniform(0.4, 1.0) * gap_mm
            row, col = int(rows[place]), int(cols[place])
            cv2.circle(made.drawn, (col, row), max(1, round((wide_mm + line_mm) / 2 * made.px)), 0, -1)
            made.gaps.append((col / made.px, row / made.px, wide_mm))
    return made
