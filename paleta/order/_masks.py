"""Masks: what covers some regions while others are coloured, laid and lifted between the passes.

Times are common practice and from memory: a mask is stamped a second time on masking paper and cut slightly inside
the line, which is done before colouring begins; here it is only laid and lifted.
"""

from __future__ import annotations

from collections.abc import Iterable
from itertools import pairwise

from paleta.order._pace import Pace
from paleta.order._plan import Handling, Pass, Plan
from paleta.order._work import Mask, Work

LAY_S, LIFT_S = 45.0, 30.0
HOW = {
    "lay": ("Lay the mask", "over the figure, pressed down along its line; the paper beneath must be dry"),
    "lift": ("Lift the mask", "slowly, away from the figure, once the colour round it is dry"),
}


def handling_s(work: Work) -> float:
    """What the masks add to any order."""
    return (LAY_S + LIFT_S) * len(used_masks(work))


def used_masks(work: Work) -> list[tuple[int, Mask]]:
    """The masks beneath which something is coloured, with their numbers."""
    return [(number, mask) for number, mask in enumerate(work.masks) if _used(mask, work)]


def _used(mask: Mask, work: Work) -> bool:
    return any(job.ramp and job.region in mask.during for job in work.jobs)


def mask_faults(work: Work, plan: Plan, pace: Pace, rounding_s: float) -> Iterable[tuple[str, tuple[int, ...], str]]:
    """Broken rules of masks as (kind, passes, sentence)."""
    for number, mask in used_masks(work):
        kinds = [one.kind for one in plan.handling if one.mask == number]
        if kinds != ["lay", "lift"]:
            yield "mask", (), "A mask is not laid once and lifted once."
            continue
        lay, lift = (one for one in plan.handling if one.mask == number)
        for one in plan.passes:
            yield from _beside(one, mask, lay, lift, pace.touch_dry_s, rounding_s)
    yield from _stacked(work, plan)
    # Passes among themselves are looked at by the check of the one hand.
    steps: list[Pass | Handling] = sorted([*plan.passes, *plan.handling], key=lambda one: one.start_s)
    for before, after in pairwise(steps):
        if isinstance(before, Handling) != isinstance(after, Handling) and after.start_s < before.end_s - rounding_s:
            number = after.before_pass if isinstance(after, Handling) else after.number
            yield "hand", (number,), "A mask is handled while a pass is laid."


def _stacked(work: Work, plan: Plan) -> Iterable[tuple[str, tuple[int, ...], str]]:
    """A mask that another was laid over, wholly or in part, is lifted after that one."""
    times: dict[int, dict[str, float]] = {}
    for one in plan.handling:
        times.setdefault(one.mask, {})[one.kind] = one.start_s
    whole = {number: when for number, when in times.items() if when.keys() == {"lay", "lift"}}
    for number, when in whole.items():
        for other, later in whole.items():
            over = when["lay"] < later["lay"] < when["lift"] < later["lift"]
            if over and work.masks[number].over & work.masks[other].over:
                yield "mask", (), "A mask is lifted from beneath another."


def _beside(
    one: Pass, mask: Mask, lay: Handling, lift: Handling, dry_s: float, rounding_s: float
) -> Iterable[tuple[str, tuple[int, ...], str]]:
    if one.region in mask.during and one.start_s < lay.end_s - rounding_s:
        yield "mask", (one.number,), f"{one.name} is coloured before the mask lies."
    if one.region in mask.during and lift.start_s < one.end_s + dry_s - rounding_s:
        yield "mask", (one.number,), f"The mask is lifted while {one.name} is wet."
    covered = one.start_s < lift.end_s - rounding_s and one.end_s + dry_s - rounding_s > lay.start_s
    if one.region in mask.over and covered:
        yield "mask", (one.number,), f"{one.name} lies under the mask or is wet when it is laid."
