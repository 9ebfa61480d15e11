"""What cuts drawn things further: something lying across them. For fitting only: how well things are found is measured
on drawings as they are."""

from __future__ import annotations

import numpy as np

from tools.things._canvas import Canvas, band, box, circle, petal, turned


def cut(canvas: Canvas) -> None:
    """One to three things across the drawing."""
    for _ in range(int(canvas.chance.integers(1, 4))):
        lay_across(canvas)


def lay_across(canvas: Canvas) -> None:
    """A strip, a leaf, a disc or a board before all that is there."""
    chance = canvas.chance
    height, width = canvas.ink.shape
    size = min(height, width)
    x, y, turn = chance.uniform(0.2, 0.8) * width, chance.uniform(0.2, 0.8) * height, chance.uniform(0, np.pi)
    kind, own = int(chance.integers(0, 4)), canvas.group()
    if kind == 0:
        t = np.linspace(-1, 1, 50) * chance.uniform(0.3, 0.8)
        bend = chance.uniform(0, 0.12) * np.sin(chance.uniform(2, 6) * t + chance.uniform(0, 7))
        spine = turned(np.stack([t, bend], axis=1) * size, turn, x, y)
        outline = band(spine, size * chance.uniform(0.03, 0.12))
    elif kind == 1:
        outline = petal(x, y, size * chance.uniform(0.2, 0.6), size * chance.uniform(0.08, 0.25), turn, point=1.1)
    elif kind == 2:
        outline = circle(x, y, size * chance.uniform(0.05, 0.18), squash=chance.uniform(0.5, 1), turn=turn)
    else:
        a, b = size * chance.uniform(0.05, 0.4), size * chance.uniform(0.03, 0.1)
        outline = turned(box(-a, -b, a, b), turn, x, y)
    canvas.shape(outline, part=own, alike=own, wobble=0.002)
