"""A pace from one's own logged times, of whole cards or pass by pass, as far as they say something; common practice for
the rest."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import least_squares, lsq_linear

from paleta.errors import PlanImpossible
from paleta.media import Pace
from paleta.order._paces import PACES
from paleta.order._plan import Plan

TRUST = 0.1
"""Weight of the common factor against one run; smaller tells passes, areas and changes apart sooner."""
QUICKEST, SLOWEST = 0.2, 6.0
"""No part of the pace is scaled further than this: a forgotten clock is likelier."""
LEAST_TIMED = 12
"""So many timed passes say more than the clock of a whole card."""
SPREAD = 0.35
"""Scatter of one hand's times around its own pace, as a natural logarithm; what lies far beyond weighs little. From
memory."""


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

    Parameters
    ----------
    medium
        A key of MEDIA.
    runs
        Whole cards with the seconds they took.
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


@dataclass(frozen=True, slots=True)
class TimedPasses:
    """Passes ticked off together: how long the hand was at them, waiting left out.

    change  whether another pen was taken up for them.
    """

    seconds: float
    count: int
    area_mm2: float
    change: bool


@dataclass(frozen=True, slots=True)
class Learnt:
    """A pace, from how many times, and how sure it is: the likely error as a share of it (0.1: a tenth either way)."""

    pace: Pace
    counted: int
    doubt: float


def learn(medium: str, timed: Sequence[TimedPasses]) -> Learnt:
    """The pace of `medium` by these times; common practice, with a doubt of 1, where they are too few.

    Start, area and change are factors on common practice, fitted to the logarithms of the times under Cauchy's loss
    ([Huber2009]): a coffee break or a forgotten tick hardly moves them. Drying is the paper's and stays.

    Parameters
    ----------
    medium
        A key of MEDIA.
    timed
        Passes ticked off together, seconds and mm2.
    """
    usual = PACES[medium]
    if len(timed) < LEAST_TIMED:
        return Learnt(usual, len(timed), 1.0)
    parts = np.array(
        [[usual.start_s * one.count, usual.per_mm2_s * one.area_mm2, usual.change_s * one.change] for one in timed]
    )
    seen = np.log([one.seconds for one in timed])
    common = float(np.clip(np.exp(np.median(seen - np.log(parts.sum(axis=1)))), QUICKEST, SLOWEST))

    def off(factors: NDArray[np.float64]) -> NDArray[np.float64]:
        # Times that all look alike cannot tell the three apart: they are drawn a little towards the common factor.
        return np.concatenate([np.log(parts @ factors) - seen, 0.3 * SPREAD * np.log(factors / common)])

    fitted = least_squares(off, np.full(3, common), bounds=(QUICKEST, SLOWEST), loss="cauchy", f_scale=SPREAD)
    start, area, change = (float(one) for one in fitted.x)
    rest = np.abs(off(fitted.x)[:-3])
    # 1.4826 makes the median deviation of normal scatter its standard deviation.
    doubt = float(1.4826 * np.median(rest) / np.sqrt(len(timed)))
    pace = replace(
        usual,
        start_s=round(usual.start_s * start, 2),
        per_mm2_s=round(usual.per_mm2_s * area, 4),
        change_s=round(min(usual.change_s * change, usual.blend_s), 2),
    )
    return Learnt(pace, len(timed), round(doubt, 3))
