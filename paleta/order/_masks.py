"""Masks: what covers some regions while others are coloured, laid and lifted between the passes.

Times are common practice and from memory: a mask is stamped a second time on masking paper and cut slightly inside
the line, which is done before colouring begins; here it is only laid and lifted.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from itertools import pairwise

from paleta.errors import PlanImpossible
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
    return (LAY_S + LIFT_S) * sum(1 for mask in work.masks if _used(mask, work))


def with_masks(plan: Plan, work: Work, pace: Pace) -> Plan:
    """The plan with its masks laid and lifted, and the later passes moved back.

    Raises
    ------
    PlanImpossible
        If a region beneath a mask has its turn while the mask lies on it; ranks keep them apart.
    """
    for number, mask in enumerate(work.masks):
        if not _used(mask, work):
            continue
        covered = [one for one in plan.passes if one.region in mask.during]
        first, last = covered[0].number, covered[-1].number
        if any(one.region in mask.over for one in plan.passes[first - 1 : last]):
            raise PlanImpossible("What lies under a mask cannot be coloured while the mask is on.")
        plan = _insert(plan, number, "lay", first, mask.over, pace)
        plan = _insert(plan, number, "lift", last + 1, mask.during, pace)
    return plan


def _used(mask: Mask, work: Work) -> bool:
    return any(job.ramp and job.region in mask.during for job in work.jobs)


def _insert(plan: Plan, mask: int, kind: str, before: int, dry: frozenset[int], pace: Pace) -> Plan:
    """Put one handling before pass `before`, when the regions `dry` are; what comes later moves back."""
    earlier, later = plan.passes[: before - 1], plan.passes[before - 1 :]
    done = [one.end_s for one in earlier] + [one.end_s for one in plan.handling if one.before_pass <= before]
    free_s = max(done, default=0.0)
    start_s = max([free_s, *(one.end_s + pace.touch_dry_s for one in earlier if one.region in dry)])
    end_s = start_s + (LAY_S if kind == "lay" else LIFT_S)
    name, how = HOW[kind]
    handled = Handling(kind, mask, name, how, before, round(start_s, 1), round(end_s, 1), round(start_s - free_s, 1))
    shift = 0.0
    if later:
        following = later[0]
        change_s = pace.change_s if following.change else 0.0
        wait_s = max(0.0, following.start_s - end_s - change_s) if following.wait_s else 0.0
        shift = round(end_s + change_s + wait_s - following.start_s, 1)
        rested = replace(following, wait_s=round(wait_s, 1), wait_for=following.wait_for if wait_s else "")
        later = (rested, *later[1:])
    moved = [replace(one, start_s=round(one.start_s + shift, 1), end_s=round(one.end_s + shift, 1)) for one in later]
    others = [
        replace(one, start_s=one.start_s + shift, end_s=one.end_s + shift) if one.before_pass > before else one
        for one in plan.handling
    ]
    return replace(
        plan,
        passes=(*earlier, *moved),
        handling=tuple(sorted([*others, handled], key=lambda one: one.start_s)),
        duration_s=max(handled.end_s, moved[-1].end_s if moved else 0.0),
    )


def mask_faults(work: Work, plan: Plan, pace: Pace, rounding_s: float) -> Iterable[tuple[str, tuple[int, ...], str]]:
    """Broken rules of masks as (kind, passes, sentence)."""
    for number, mask in enumerate(work.masks):
        if not _used(mask, work):
            continue
        kinds = [one.kind for one in plan.handling if one.mask == number]
        if kinds != ["lay", "lift"]:
            yield "mask", (), "A mask is not laid once and lifted once."
            continue
        lay, lift = (one for one in plan.handling if one.mask == number)
        for one in plan.passes:
            yield from _beside(one, mask, lay, lift, pace.touch_dry_s, rounding_s)
    # Passes among themselves are looked at by the check of the one hand.
    steps: list[Pass | Handling] = sorted([*plan.passes, *plan.handling], key=lambda one: one.start_s)
    for before, after in pairwise(steps):
        if isinstance(before, Handling) != isinstance(after, Handling) and after.start_s < before.end_s - rounding_s:
            number = after.before_pass if isinstance(after, Handling) else after.number
            yield "hand", (number,), "A mask is handled while a pass is laid."


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
