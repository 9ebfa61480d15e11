"""A pace from one's own logged times, as far as they say something; common practice for the rest."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.optimize import lsq_linear

from paleta.errors import PlanImpossible
from paleta.order._pace import PACES, Pace
from paleta.order._plan import Plan

TRUST = 0.1
"""Weight of the common factor against one run; smaller tells passes, areas and changes apart sooner."""
QUICKEST, SLOWEST = 0.2, 6.0
"""No part of the pace is scaled further than this: a forgotten clock is likelier."""


@dataclass(frozen=True, slots=True)
class Timed:
    """One making of a card: the seconds it took by the clock, and what the plan asked for.

    passes, area_mm2, changes, handling_s  of the plan; waits_s is what the plan idles, taken as it was.
    """

    seconds: float
    passes: int
    area_mm2: float
    changes: int
    waits_s: float
    handling_s: float = 0.0

    def __post_init__(self) -> None:
        if self.seconds <= 0 or self.passes <= 0:
            raise PlanImpossible("A timed run has at least one pass and took some time.")

    @staticmethod
    def of(plan: Plan, seconds: float) -> Timed:
        return Timed(
            seconds=seconds,
            passes=len(plan.passes),
            area_mm2=sum(one.area_mm2 for one in plan.passes),
            changes=plan.pen_changes,
            waits_s=sum(one.wait_s for one in plan.passes) + sum(one.wait_s for one in plan.handling),
            handling_s=sum(one.end_s - one.start_s for one in plan.handling),
        )


def own_pace(medium: str, runs: Sequence[Timed]) -> Pace:
    """The pace of `medium`, scaled so that it would have foretold `runs`; common practice when there are none.

    Start, area and change are factors on common practice, found by bounded least squares on the relative error and
    drawn towards their common factor (ridge regression, [Hoerl1970]), so that one run only sets the overall pace and
    many differing ones tell the three apart. Drying is the paper's and stays.
    """
    usual = PACES[medium]
    if not runs:
        return usual
    parts = np.array(
        [[usual.start_s * run.passes, usual.per_mm2_s * run.area_mm2, usual.change_s * run.changes] for run in runs]
    )
    # The hand has at least a tenth of the time, however long the plan meant to wait.
    hand = np.array([max(run.seconds - run.waits_s - run.handling_s, run.seconds / 10) for run in runs])
    common = float(np.median(hand / parts.sum(axis=1)))
    share = parts / hand[:, None]
    rows = np.vstack([share, np.sqrt(TRUST / 3) * np.eye(3)])
    wanted = np.concatenate([np.ones(len(runs)), np.full(3, np.sqrt(TRUST / 3) * common)])
    start, area, change = lsq_linear(rows, wanted, bounds=(QUICKEST, SLOWEST)).x
    change_s = min(usual.change_s * change, usual.blend_s)
    return replace(
        usual,
        start_s=round(float(usual.start_s * start), 2),
        per_mm2_s=round(float(usual.per_mm2_s * area), 4),
        change_s=round(float(change_s), 2),
    )
