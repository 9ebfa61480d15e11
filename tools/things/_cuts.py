"""What cuts drawn things further: something lying across, or lines over one surface. For fitting only: how well things
are found is measured on drawings as they are."""

from __future__ import annotations

import cv2
import numpy as np

from tools.things._canvas import Canvas, Points, band, box, circle, petal, turned

LEAST_SHARE = 0.012
"""Of the picture, what a surface must show to be cut by lines."""


def cut(canvas: Canvas) -> None:
    """Up to three things across the drawing, and lines over up to three of its surfaces."""
    chance = canvas.chance
    if chance.random() < 0.6:
        for _ in range(int(chance.integers(1, 4))):
            lay_across(canvas)
    if chance.random() < 0.6:
        for _ in range(int(chance.integers(1, 4))):
            line_over(canvas)


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


def line_over(canvas: Canvas) -> None:
    """A surface that is there in strips side by side, in sectors, or in rings: still one surface, of one colour or of
    two in turn."""
    chance = canvas.chance
    seen = np.bincount(canvas.owner.ravel(), minlength=len(canvas.part))
    seen[0] = 0
    large = np.flatnonzero(seen > LEAST_SHARE * canvas.owner.size)
    if not len(large):
        return
    chosen = int(large[chance.integers(len(large))])
    mask = (canvas.owner == chosen).astype(np.uint8)
    rows, cols = np.nonzero(mask)
    x, y, reach = float(cols.mean()), float(rows.mean()), float(max(np.ptp(rows), np.ptp(cols)))
    part, alike = canvas.part[chosen], canvas.alike[chosen]
    second = canvas.group() if chance.random() < 0.3 else alike
    n, turn, kind = int(chance.integers(2, 7)), chance.uniform(0, np.pi), int(chance.integers(0, 3))
    for k in range(n):
        outline: Points
        if kind == 0:
            w = 1.05 * reach / n
            left = (k - n / 2) * w
            outline = turned(box(left, -reach, left + w, reach), turn, x, y)
        elif kind == 1:
            angles = turn + 2 * np.pi * np.linspace(k, k + 1, 8) / n
            outline = np.concatenate([[[0.0, 0.0]], np.stack([np.cos(angles), np.sin(angles)], axis=1) * 2 * reach])
            outline += (x, y)
        else:
            outline = circle(x, y, 0.55 * reach * (n - k) / n, squash=chance.uniform(0.8, 1.0))
        piece = np.zeros_like(mask)
        cv2.fillPoly(piece, [np.round(outline).astype(np.int32)], 1)
        if (piece & mask).any():
            canvas.shape(outline, part=part, alike=second if k % 2 else alike, within=mask, wobble=0.0)
