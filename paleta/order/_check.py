"""Checking a plan against the rules, without trusting whoever made it."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from paleta.media import stack_fault
from paleta.order._copies import Batch
from paleta.order._masks import mask_faults
from paleta.order._plan import Handling, Pass, Plan
from paleta.order._rules import chains_of, earlier_turns, paler_first, ranks_of
from paleta.order._schools import school_named
from paleta.order._ways import Paces, Schools, Ways
from paleta.order._work import Job, Work

ROUNDING_S = 0.25
"""Times are kept to a tenth of a second."""
ROUNDING_MM2 = 0.01


@dataclass(frozen=True, slots=True)
class Violation:
    """A broken rule: its kind, the numbers of the passes at fault, and a sentence."""

    kind: str
    passes: tuple[int, ...]
    sentence: str


def check_plan(
    work: Work, plan: Plan, school: Schools | str | None = None, pace: Paces | None = None
) -> list[Violation]:
    """All rules that `plan` breaks; an empty list is a sound plan.

    Schools and paces are those the plan was made for, unless others are named.

    Numbers and totals are right; every region has the passes of its coats' schools and no others in their order, on all
    of their area; one hand; a change of pen takes its time, and so does setting up another medium; wet blends are not
    interrupted for too long; second coats, coats over others and touching regions find dry paper; masks lie where and
    when they must, and are wiped between inks.

    Parameters
    ----------
    work
        What is to be coloured.
    plan
        Its passes in order, in seconds.
    school
        By medium, or one for all; the plan's own where nothing is said.
    pace
        By medium; the plan's own where nothing is said.

    Raises
    ------
    SchoolError
        If neither the plan nor the caller names a school, or there is no such school.
    """
    ways = plan.laid_by(school_named(school) if isinstance(school, str) else school, pace)
    by_region: dict[int, list[Pass]] = {}
    for one in plan.passes:
        by_region.setdefault(one.region, []).append(one)
    return [
        *_numbers(plan),
        *_chains(work, by_region, ways),
        *_hand(plan, ways),
        *_blends(by_region, ways),
        *_neighbours(work, by_region, ways),
        *_first_things(work, by_region),
        *(Violation(*fault) for fault in mask_faults(work, plan, ways, ROUNDING_S)),
    ]


def check_batch(work: Work, plan: Plan, batch: Batch, pace: Paces | None = None) -> list[Violation]:
    """All rules that a batch breaks beside those its plan does: on every card the passes come in the plan's order,
    second coats and touching regions find dry paper, wet blends are not interrupted, masks lie where and when they
    must; one hand does them all, and changes its pens.

    Parameters
    ----------
    work
        Of one card.
    plan
        Of one card.
    batch
        As `batch` gives.
    pace
        By medium; the plan's own where nothing is said.

    Raises
    ------
    SchoolError
        If neither the plan nor the caller names a pace.
    """
    ways = plan.laid_by(pace=pace)
    found: list[Violation] = []
    laid: list[Pass] = []
    handled: list[Handling] = []
    for starts_s, handled_s in zip(batch.starts_s, batch.handled_s, strict=True):
        passes = [
            replace(one, start_s=start_s, end_s=start_s + ways.paces[one.medium].laying_s(one.area_mm2))
            for one, start_s in zip(plan.passes, starts_s, strict=True)
        ]
        by_region: dict[int, list[Pass]] = {}
        for one in passes:
            by_region.setdefault(one.region, []).append(one)
        found += [*_blends(by_region, ways), *_neighbours(work, by_region, ways)]
        for before, after in pairwise(passes):
            if after.start_s < before.end_s - ROUNDING_S:
                numbers = (before.number, after.number)
                found.append(Violation("order", numbers, f"Pass {after.number} is laid before pass {before.number}."))
        steps = [
            replace(one, start_s=start_s, end_s=start_s + one.end_s - one.start_s)
            for one, start_s in zip(plan.handling, handled_s, strict=True)
        ]
        card = replace(plan, passes=tuple(passes), handling=tuple(steps))
        found += [Violation(*fault) for fault in mask_faults(work, card, ways, ROUNDING_S)]
        laid += passes
        handled += steps
    in_turn = replace(plan, passes=tuple(sorted(laid, key=lambda one: one.start_s)), handling=())
    return [*found, *_hand(in_turn, ways), *_one_at_a_time(laid, handled)]


def _one_at_a_time(laid: Sequence[Pass], handled: Sequence[Handling]) -> list[Violation]:
    """No mask of any card is handled while the hand lays a pass or handles another."""
    steps: list[Pass | Handling] = sorted([*laid, *handled], key=lambda one: (one.start_s, one.end_s))
    return [
        Violation("hand", (), "A mask is handled while the hand is busy on another card.")
        for before, after in pairwise(steps)
        if (isinstance(before, Handling) or isinstance(after, Handling)) and after.start_s < before.end_s - ROUNDING_S
    ]


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
    changes = [one.in_hand != before.in_hand for before, one in pairwise(plan.passes)]
    if plan.pen_changes != sum(changes) or [one.change for one in plan.passes[1:]] != changes:
        found.append(
            Violation("total", (), f"The plan says {plan.pen_changes} changes of pen, there are {sum(changes)}.")
        )
    if not plan.bound_s <= plan.duration_s + ROUNDING_S:
        found.append(Violation("total", (), "The plan is shorter than it says that any can be."))
    return found


def _chains(work: Work, by_region: dict[int, list[Pass]], ways: Ways) -> list[Violation]:
    found = []
    wanted = {chain[0].region: chain for chain in chains_of(work, ways)}
    coats: dict[int, list[Job]] = {}
    for job in work.jobs:
        coats.setdefault(job.region, []).append(job)
    for region, jobs in coats.items():
        name, passes, chain = jobs[0].name, by_region.get(region, []), wanted.get(region, [])
        for one, stroke in zip(passes, chain, strict=False):
            if not abs(one.area_mm2 - stroke.area_mm2) <= ROUNDING_MM2:
                found.append(Violation("area", (one.number,), f"{name} is not laid on all of its area."))
        numbers = tuple(one.number for one in passes)
        fault = stack_fault(tuple(dict.fromkeys(one.medium for one in passes)))
        if fault:
            found.append(Violation("coats", numbers, f"{name}: {fault}"))
        if [(one.pen, one.zones, one.join) for one in passes] != [(one.pen, one.zones, one.join) for one in chain]:
            schools = " and ".join(dict.fromkeys(ways.school_of(job).name for job in jobs))
            sentence = f"{name} does not get the passes of {schools} in their order."
            found.append(Violation("chain", numbers, sentence))
    for region in by_region.keys() - coats.keys():
        numbers = tuple(one.number for one in by_region[region])
        found.append(Violation("chain", numbers, f"Region {region} is not part of the work."))
    return found


def _hand(plan: Plan, ways: Ways) -> list[Violation]:
    found = []
    for one in plan.passes:
        if one.end_s - one.start_s < ways.paces[one.medium].laying_s(one.area_mm2) - ROUNDING_S:
            found.append(Violation("laying", (one.number,), f"Pass {one.number} is given too little time."))
    handled: dict[int, float] = {}
    for step in plan.handling:
        handled[step.before_pass] = handled.get(step.before_pass, 0.0) + step.end_s - step.start_s
    for before, after in pairwise(plan.passes):
        pace = ways.paces[after.medium]
        change = pace.change_s if before.in_hand != after.in_hand else 0.0
        setup = pace.setup_s if before.medium != after.medium else 0.0
        if after.start_s < before.end_s + change + setup + handled.get(after.number, 0.0) - ROUNDING_S:
            found.append(
                Violation("hand", (before.number, after.number), f"Pass {after.number} starts before the hand is free.")
            )
    return found


def _blends(by_region: dict[int, list[Pass]], ways: Ways) -> list[Violation]:
    found = []
    for passes in by_region.values():
        for before, after in pairwise(passes):
            gap, pace = after.start_s - before.end_s, ways.paces[before.medium]
            numbers = (before.number, after.number)
            if after.join == "wet" and gap > pace.blend_s + ROUNDING_S:
                sentence = f"{after.name}: pass {before.number} has dried before pass {after.number}."
                found.append(Violation("blend", numbers, sentence))
            if after.join == "dry" and gap < pace.coat_dry_s - ROUNDING_S:
                sentence = f"{after.name}: pass {after.number} comes before the coat below is dry."
                found.append(Violation("coat", numbers, sentence))
    return found


def _first_things(work: Work, by_region: dict[int, list[Pass]]) -> list[Violation]:
    """Dark creepers after touching paler regions of their medium; what has a lower rank before what has a higher."""
    found = []
    ranks = ranks_of(work)
    by_rank: dict[int, list[Pass]] = {}
    for passes in by_region.values():
        for one in passes:
            by_rank.setdefault(ranks.get((one.region, one.coat), 0), []).append(one)
    for rank, later in by_rank.items():
        first = min(later, key=lambda one: one.number)
        for lower, earlier in by_rank.items():
            last = max(earlier, key=lambda one: one.number)
            if lower < rank and last.number > first.number:
                sentence = f"{first.name} is begun before {last.name} is finished."
                found.append(Violation("rank", (first.number, last.number), sentence))
    near = work.neighbours()
    for region, passes in by_region.items():
        beside = [by_region[other] for other in near.get(region, ()) if other in by_region]
        for others in beside:
            found += _out_of_turn(passes, others, ranks)
        dark = next((one for one in passes if work.creeps(one)), None)
        if dark is None:
            continue
        for others in beside:
            paler = paler_first(work, dark, others, ranks)
            late = [one for one in paler if one.number > dark.number]
            if late:
                sentence = f"{dark.name} is laid dark before the paler {late[-1].name} beside it is finished."
                found.append(Violation("creeper", (dark.number, late[-1].number), sentence))
    return found


def _out_of_turn(passes: list[Pass], beside: list[Pass], ranks: Mapping[tuple[int, int], int]) -> Iterator[Violation]:
    """Marker or pad before water that touches it, or pencil before anything wet."""
    for one in passes:
        late = [other for other in earlier_turns(one, passes, beside, ranks) if other.number > one.number]
        if late:
            sentence = (
                f"{one.name} is laid in {one.medium} before {late[-1].name} beside it is finished in {late[-1].medium}."
            )
            yield Violation("turn", (one.number, late[-1].number), sentence)
            return


def _neighbours(work: Work, by_region: dict[int, list[Pass]], ways: Ways) -> list[Violation]:
    found: list[Violation] = []
    for region, others in work.neighbours().items():
        for other in others:
            for after in by_region.get(region, []):
                wet = [
                    one
                    for one in by_region.get(other, [])
                    if one.number < after.number
                    and after.start_s < one.end_s + ways.paces[one.medium].touch_dry_s - ROUNDING_S
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
