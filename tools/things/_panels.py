"""Whole panels: one kind large, several kinds side by side, or a few repeated."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from tools.things._canvas import Canvas, Drawn, box
from tools.things._cuts import cut as cut_further
from tools.things._further_kinds import FURTHER
from tools.things._kinds import BASIC, Kind
from tools.things._made_up import made_up_kinds

KINDS = {**BASIC, **FURTHER}

CUT_EVERY = 4
"""Of the drawings to fit on, how many are cut further."""
SIDES = (760, 980)
"""Height and width in px, upright or lying; 200 dpi."""


def panel(seed: int, kinds: Mapping[str, Kind], *, cut: bool = False) -> Drawn:
    """The drawing of this number, of these kinds; the same number is always the same drawing. It may be cut further."""
    return panel_canvas(seed, kinds, cut=cut).finished()


def exercise(seed: int, kinds: Mapping[str, Kind] = KINDS, folds: int = 1) -> Drawn:
    """A drawing to fit networks on: of kinds and of things made up by chance, as many of these as of those. In one of
    so many `folds` it shows only the fold's own kinds, so that what is fitted on the others never saw them."""
    return exercise_canvas(seed, kinds, folds).finished()


def exercise_canvas(seed: int, kinds: Mapping[str, Kind] = KINDS, folds: int = 1) -> Canvas:
    """The same as drawn, before any region is found in it."""
    own = {name: kinds[name] for name in [*kinds][fold_of(seed, folds) :: folds]}
    return panel_canvas(seed, {**own, **made_up_kinds(seed, len(own))}, cut=seed // folds % CUT_EVERY == 1)


def fold_of(seed: int, folds: int) -> int:
    """Which of so many folds the drawing of this number is in."""
    return seed % folds


def panel_canvas(seed: int, kinds: Mapping[str, Kind], *, cut: bool = False) -> Canvas:
    """`panel` as drawn, before any region is found in it."""
    chance = np.random.default_rng(seed)
    height, width = SIDES if chance.random() < 0.5 else SIDES[::-1]
    canvas = Canvas(height, width, int(chance.integers(2, 6)), chance)
    if chance.random() < 0.35:
        sky = canvas.group()
        frame = box(0.03 * width, 0.03 * height, 0.97 * width, 0.97 * height)
        canvas.shape(frame, part=sky, alike=sky, wobble=0.0)
    rows, cols = [(1, 1), (1, 2), (2, 1), (2, 2), (2, 3), (3, 2)][int(chance.integers(0, 6))]
    names = [*kinds]
    chosen = [names[int(k)] for k in chance.integers(0, len(names), int(chance.integers(1, 4)))]
    for place in range(rows * cols):
        name = chosen[int(chance.integers(0, len(chosen)))]
        x = width * (place % cols + 0.5) / cols + chance.normal(0, 12)
        y = height * (place // cols + 0.5) / rows + chance.normal(0, 12)
        size = min(width / cols, height / rows) * chance.uniform(0.36, 0.48)
        if name in ("flower", "balloon", "pot"):
            size *= 0.75
        kinds[name](canvas, x, y, size)
        canvas.kinds.append(name)
    if cut:
        cut_further(canvas)
    return canvas
