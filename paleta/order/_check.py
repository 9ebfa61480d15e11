"""Checking a plan against the rules, without trusting whoever made it."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from itertools import pairwise

from paleta.errors import SchoolError
from paleta.order._copies import Batch
from paleta.order._masks import mask_faults
from paleta.order._pace import PACES, Pace
from paleta.order._plan import Handling, Pass, Plan
from paleta.order._schools import School, school_named
from paleta.order._work import Work, expand

ROUNDING_S = 0.25
"""Times are kept to a tenth of a second."""
ROUNDING_MM2 = 0.01


@dataclass(frozen=True, slots=True)
class Violation:
    """A broken rule: its kind, the numbers of the passes at fault, and a sentence."""

    kind: str
    passes: tuple[int, ...]
    sentence: str


def check_plan(work: Work, plan: Plan, school: School | str | None = None, pace: Pace | None = None) -> list[Violation]:
    """All rules that `plan` breaks; an empty list is a sound plan.

    School and pace are those the plan was made for, unless others are named.

    Numbers and totals are right; every region has its school's passes and no others in their order, on all of their
    area; one hand; a change of pen takes its time; wet
    blends are not interrupted for too long; second coats and touching regions find dry paper; masks lie where and when
    they must.

    Raises
    ------
    SchoolError
        If neither the plan nor the caller names a school, or there is no such school.
    """
    school = school_named(school) if isinstance(school, str) else school or plan.school
    if school is None:
        raise SchoolError("A plan that was read from a file is checked against a school: name it.")
    pace = pace or plan.pace or PACES[school.medium]
    by_region: dict[int, list[Pass]] = {}
    for one in plan.passes:
        by_region.setdefault(one.region, []).append(one)
    return [
        *_numbers(plan),
        *_chains(work, by_region, school),
        *_hand(plan, pace),
        *_blends(by_region, pace),
        *_neighbours(work, by_region, pace),
        *_first_things(work, by_region, school),
        *(Violation(*fault) for fault in mask_faults(work, plan, pace, ROUNDING_S)),
    ]


def check_batch(work: Work, plan: Plan, batch: Batch, pace: Pace | None = None) -> list[Violation]:
    """All rules that a batch breaks beside those its plan does: on every card the passes come in the plan's order,
    second coats and touching regions find dry paper, wet blends are not interrupted; one hand does them all, and
    changes its pens.

    Raises
    ------
    SchoolError
        If neither the plan nor the caller names a pace.
    """
    pace = pace or plan.pace
    if pace is None:
        raise SchoolError("A batch of a plan that was read from a file is checked against a pace: name it.")
    found: list[Violation] = []
    laid: list[Pass] = []
    for starts_s in batch.starts_s:
        passes = [
            replace(one, start_s=start_s, end_s=start_s + pace.laying_s(one.area_mm2))
            for one, start_s in zip(plan.passes, starts_s, strict=True)
        ]
        by_region: dict[int, list[Pass]] = {}
        for one in passes:
            by_region.setdefault(one.region, []).append(one)
        found += [*_blends(by_region, pace), *_neighbours(work, by_region, pace)]
        for before, after in pairwise(passes):
            if after.start_s < before.end_s - ROUNDING_S:
                numbers = (before.number, after.number)
                found.append(Violation("order", numbers, f"Pass {after.number} is laid before pass {before.number}."))
        laid += passes
    in_turn = replace(plan, passes=tuple(sorted(laid, key=lambda one: one.start_s)))
    return [*found, *_hand(in_turn, pace)]


def _numbers(plan: Plan) -> list[Violation]:
    """Passes are numbered as they come, all times can be times, and the totals are those of the passes."""
    found = []
    steps: list[Pass | Handling] = [*plan.passes, *plan.handling]
    for one in steps:
        if not (0 <= one.start_s <= one.end_s < math.inf and 0 <= one.wait_s < math.inf):
            number = one.number if isinstance(one, Pass) else one.before_pass
            found.append(Violation("time", (number,), f"A time of pass {number} is none."))
    numbers = tuple(one.number for one in plan.passes)
    if numbers != tuple(range(1, len(numbers) + 1)):
        found.append(Violation("number", numbers, "The passes are not numbered as they come."))
    last_s = max((one.end_s for one in steps), default=0.0)
    if not abs(plan.duration_s - last_s) <= ROUNDING_S:
        found.append(Violation("total", (), f"The plan says {plan.duration_s} s, its last step ends at {last_s} s."))
    changes = [one.swatch != before.swatch for before, one in pairwise(plan.passes)]
    if plan.pen_changes != sum(changes) or [one.change for one in plan.passes[1:]] != changes:
        found.append(
            Violation("total", (), f"The plan says {plan.pen_changes} changes of pen, there are {sum(changes)}.")
        )
    if not plan.bound_s <= plan.duration_s + ROUNDING_S:
        found.append(Violation("total", (), "The plan is shorter than it says that any can be."))
    return found


def _chains(work: Work, by_region: dict[int, list[Pass]], school: School) -> list[Violation]:
    found = []
    for job in work.jobs:
        wanted = [(stroke.swatch, stroke.zones, stroke.join) for stroke in expand(job, school)]
        passes = by_region.get(job.region, [])
        for one, stroke in zip(passes, expand(job, school), strict=False):
            if not abs(one.area_mm2 - stroke.area_mm2) <= ROUNDING_MM2:
                found.append(Violation("area", (one.number,), f"{job.name} is not laid on all of its area."))
        if [(one.swatch, one.zones, one.join) for one in passes] != wanted:
            found.append(
                Violation(
                    "chain",
                    tuple(one.number for one in passes),
                    f"{job.name} does not get the passes of {school.name} in their order.",
                )
            )
    for region in by_region.keys() - {job.region for job in work.jobs}:
        found.append(
            Violation(
                "chain", tuple(one.number for one in by_region[region]), f"Region {region} is not part of the work."
            )
        )
    return found


def _hand(plan: Plan, pace: Pace) -> list[Violation]:
    found = []
    for one in plan.passes:
        if one.end_s - one.start_s < pace.laying_s(one.area_mm2) - ROUNDING_S:
            found.append(Violation("laying", (one.number,), f"Pass {one.number} is given too little time."))
    for before, after in pairwise(plan.passes):
        change = pace.change_s if before.swatch != after.swatch else 0.0
        if after.start_s < before.end_s + change - ROUNDING_S:
            found.append(
                Violation("hand", (before.number, after.number), f"Pass {after.number} starts before the hand is free.")
            )
    return found


def _blends(by_region: dict[int, list[Pass]], pace: Pace) -> list[Violation]:
    found = []
    for passes in by_region.values():
        for before, after in pairwise(passes):
            gap = after.start_s - before.end_s
            if after.join == "wet" and gap > pace.blend_s + ROUNDING_S:
                found.append(
                    Violation(
                        "blend",
                        (before.number, after.number),
                        f"{after.name}: pass {before.number} has dried before pass {after.number}.",
                    )
                )
            if after.join == "dry" and gap < pace.coat_dry_s - ROUNDING_S:
                found.append(
                    Violation(
                        "coat",
                        (before.number, after.number),
                        f"{after.name}: pass {after.number} comes before the coat below is dry.",
                    )
                )
    return found


def _first_things(work: Work, by_region: dict[int, list[Pass]], school: School) -> list[Violation]:
    """Dark creepers after touching paler regions; regions of a lower rank before those of a higher one."""
    found = []
    ranks = {job.region: job.rank for job in work.jobs}
    dark = {job.region for job in work.jobs if work.creepers & {stroke.swatch for stroke in expand(job, school)}}
    near = work.neighbours()
    for region, passes in by_region.items():
        creeping = [one for one in passes if one.swatch in work.creepers]
        for other, others in by_region.items():
            if ranks.get(other, 0) < ranks.get(region, 0) and others[-1].number > passes[0].number:
                sentence = f"{passes[0].name} is begun before {others[0].name} is finished."
                found.append(Violation("rank", (passes[0].number, others[-1].number), sentence))
            touches = other in near.get(region, ()) and ranks.get(other, 0) <= ranks.get(region, 0)
            if creeping and touches and other not in dark and others[-1].number > creeping[0].number:
                sentence = f"{creeping[0].name} is laid dark before the paler {others[0].name} beside it is finished."
                found.append(Violation("creeper", (creeping[0].number, others[-1].number), sentence))
    return found


def _neighbours(work: Work, by_region: dict[int, list[Pass]], pace: Pace) -> list[Violation]:
    found: list[Violation] = []
    for region, others in work.neighbours().items():
        for other in others:
            for after in by_region.get(region, []):
                wet = [
                    one
                    for one in by_region.get(other, [])
                    if one.number < after.number and after.start_s < one.end_s + pace.touch_dry_s - ROUNDING_S
                ]
                found.extend(
                    Violation(
                        "wet neighbour",
                        (one.number, after.number),
                        f"{after.name} is laid while {one.name} beside it is wet.",
                    )
                    for one in wet
                )
    return found
