"""A ramp and what is to be said about it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from paleta.colour import Lab
from paleta.errors import WishError
from paleta.materials import Paper
from paleta.media import MEDIUMS, Swatch, doubt_of, seen_on, split_code

SMALL_STEP = 6.0
"""Lightness steps below this melt into one: no depth. Common practice, from memory."""
WIDE_STEP = 25.0
"""Lightness steps above this do not melt any more: a stripe. Common practice, from memory."""
SHALLOW_RANGE = 14.0
"""A blend whose palest and darkest lie closer than this looks flat beside others. Common practice, from memory."""
GREY_CHROMA = 8.0


@dataclass(frozen=True, slots=True)
class Ramp:
    """Swatches palest first, with what they do to the eye.

    steps          fall in L* from each swatch to the next, from bare paper to the first if it is drawn out to that.
    hue_drift_deg  hue of the darkest minus that of the palest coloured one, -180..180; 0 for greys.
    weakest        index of the step that is farthest from even, None with fewer than two steps.
    warnings       sentences; empty means even.
    cost           0 is ideal; only for comparing ramps for the same wish.
    looks          L*a*b* of each on the paper that was named.
    bare           L*a*b* of the bare paper that the palest swatch is drawn out to; None: the palest zone is coloured.
    """

    swatches: tuple[Swatch, ...]
    steps: tuple[float, ...]
    hue_drift_deg: float
    weakest: int | None
    warnings: tuple[str, ...]
    cost: float = 0.0
    bare: Lab | None = None
    looks: tuple[Lab, ...] = ()

    @property
    def explanation(self) -> str:
        """The ramp in one line, for example "steps 14 · 16 · 12, hue stays"."""
        medium = MEDIUMS[self.swatches[0].medium]
        if self.bare is not None and medium.weaker_by and len({split_code(one.code)[0] for one in self.swatches}) == 1:
            return f"one {medium.drawn_out} to bare paper"
        if not self.steps:
            return "one flat colour"
        steps = " · ".join(f"{step:.0f}" for step in self.steps)
        if abs(self.hue_drift_deg) < 8:
            return f"lightness steps {steps}, hue stays"
        return f"lightness steps {steps}, hue drifts {abs(self.hue_drift_deg):.0f}° towards the dark"


def judge(swatches: Sequence[Swatch], cost: float = 0.0, *, to_paper: bool = False, paper: Paper | None = None) -> Ramp:
    """Measure any choice of swatches, also one made by hand. They are kept in the order given, palest first.

    Parameters
    ----------
    swatches
        One to five, palest first.
    cost
        What speaks against the choice beside its steps; less is better.
    to_paper
        Whether the palest zone of the region is bare paper.
    paper
        What they lie on; None: each on its own.

    Returns
    -------
    The ramp with its steps in CIEDE2000 and its warnings.

    Raises
    ------
    WishError
        If there are none, more than five, or one appears twice.
    """
    if not 1 <= len(swatches) <= 5:
        raise WishError(f"A ramp has 1 to 5 swatches, got {len(swatches)}.")
    if len({swatch.code for swatch in swatches}) != len(swatches):
        raise WishError("A swatch stands twice in this ramp. Choose another for one of the two.")
    looks = tuple(seen_on(swatch, paper) for swatch in swatches)
    lab = np.array(looks, dtype=float)
    bare = (paper or swatches[0].paper).lab if to_paper and swatches else None
    lights = lab[:, 0] if bare is None else [bare[0], *lab[:, 0]]
    steps = tuple(round(float(step), 1) for step in -np.diff(lights))
    return Ramp(
        swatches=tuple(swatches),
        steps=steps,
        hue_drift_deg=_hue_drift(lab),
        weakest=_weakest(steps),
        warnings=tuple(_warnings(swatches, steps[to_paper:])),
        cost=round(float(cost), 4),
        bare=bare,
        looks=looks,
    )


def _warnings(swatches: Sequence[Swatch], steps: Sequence[float]) -> list[str]:
    found = [doubt for doubt in map(doubt_of, swatches) if doubt]
    for upper, lower, step in zip(swatches, swatches[1:], steps, strict=False):
        if step <= 0:
            found.append(f"{lower.name} is not darker than {upper.name}.")
        elif step < SMALL_STEP:
            found.append(f"{upper.name} to {lower.name} is only {step:.0f} in lightness: no depth.")
        elif step > WIDE_STEP:
            found.append(f"{upper.name} to {lower.name} is {step:.0f} in lightness: may show a stripe.")
    if len(swatches) > 1 and not found and sum(steps) < SHALLOW_RANGE:
        found.append(f"The darkest is only {sum(steps):.0f} below the palest: little depth.")
    return found


def _weakest(steps: Sequence[float]) -> int | None:
    if len(steps) < 2:
        return None
    return int(np.argmax(np.abs(np.array(steps) - np.mean(steps))))


def _hue_drift(lab: np.ndarray) -> float:
    coloured = lab[np.hypot(lab[:, 1], lab[:, 2]) >= GREY_CHROMA]
    if len(coloured) < 2:
        return 0.0
    hue = np.degrees(np.arctan2(coloured[:, 2], coloured[:, 1]))
    return round(float((hue[-1] - hue[0] + 180) % 360 - 180), 1)
