"""One swatch drawn out until only paper is left: the commonest blend of all that is laid with water."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from paleta.colour import Lab, difference
from paleta.errors import WishError
from paleta.materials import Paper
from paleta.media import LEAST_STRENGTH, MEDIUMS, Swatch, at_strength, seen_on, split_code, strengths_of
from paleta.palette._ramp import SHALLOW_RANGE, Ramp, judge

MOST_ZONES = 6
STEPS_TRIED = 12
"""Halvings after which a strength is known to less than a hundredth."""


def drawn_out(swatch: Swatch, zones: int, paper: Paper | None = None) -> Ramp:
    """The ramp that draws `swatch` out over `zones` zones, the palest of them bare paper, falling evenly in L*.

    Parameters
    ----------
    swatch
        At full strength, of a medium that can be laid weaker.
    zones
        2 to 6, the bare one among them.
    paper
        What it is drawn out on; None: its own.

    Raises
    ------
    SwatchError
        If its medium knows no strengths.
    WishError
        If there are too few or too many zones.
    """
    if not 2 <= zones <= MOST_ZONES:
        raise WishError(f"A swatch is drawn out over 2 to {MOST_ZONES} zones, not over {zones}.")
    darkest, palest = seen_on(swatch, paper)[0], (paper or swatch.paper).lab[0]
    lights = np.linspace(darkest, palest, zones)[1:-1]
    weaker = {one.code: one for one in (at_strength(swatch, _strength_for(swatch, light, paper)) for light in lights)}
    weaker.pop(swatch.code, None)
    return judge([*sorted(weaker.values(), key=lambda one: -one.lab[0]), swatch], to_paper=True, paper=paper)


def find_drawn_out(drawer: Sequence[Swatch], target_lab: Lab, zones: int, *, paper: Paper | None = None) -> list[Ramp]:
    """The swatch that at some strength comes nearest to a wish, drawn out to bare paper; none where nothing can be.

    Parameters
    ----------
    drawer
        Swatches of one medium; those at less than full strength are passed over.
    target_lab
        The wished colour.
    zones
        Of the region, the bare one among them; fewer than 2 leave nothing to draw out into.
    paper
        What it is drawn out on; None: its own.
    """
    able = [one for one in drawer if MEDIUMS[one.medium].weaker_by and split_code(one.code)[1] == 1]
    deep = [one for one in able if (paper or one.paper).lab[0] - seen_on(one, paper)[0] >= SHALLOW_RANGE]
    if zones < 2 or not deep:
        return []
    apart = {
        one.code: float(np.min(difference([seen_on(each, paper) for each in strengths_of(one)], target_lab)))
        for one in deep
    }
    best = min(deep, key=lambda one: (apart[one.code], one.code))
    return [replace(drawn_out(best, zones, paper), cost=round(apart[best.code], 2))]


def _strength_for(swatch: Swatch, light: float, paper: Paper | None) -> float:
    """The strength at which it is as light as `light`."""
    low, high = LEAST_STRENGTH, 1.0
    for _ in range(STEPS_TRIED):
        middle = (low + high) / 2
        low, high = (middle, high) if seen_on(at_strength(swatch, middle), paper)[0] > light else (low, middle)
    return round(max(LEAST_STRENGTH, (low + high) / 2), 2)
