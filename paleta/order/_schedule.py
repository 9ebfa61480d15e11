"""The order of passes: a scheduling problem with set-up times and time windows.

One hand lays every pass. Passes of a region that must meet wet form a block that nothing long may interrupt.
1. Blocks of regions that use the same pens, do not touch, and are small enough to stay wet are laid pen by pen as
   one unit. 2. Units are taken greedily: least waiting and fewest pen changes next. 3. Moving and swapping units
   improves the order while that shortens it ([Bagchi1999] surveys sequencing with set-up times). 4. A constraint solver
goes on from there, and proves small works to be the best there is.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from paleta.errors import PlanImpossible
from paleta.order._clock import Clock, Unit, measure, to_plan
from paleta.order._masks import handling_s, with_masks
from paleta.order._pace import Pace
from paleta.order._plan import Plan
from paleta.order._rules import Rules, blocks_of, rules_of
from paleta.order._schools import School
from paleta.order._solve import solve
from paleta.order._work import Stroke, Work, expand

TRIALS = 1500
"""Moves tried in the improvement; a number and not a time, so that the same work gives the same plan."""
FEW_UNITS = 14
WINDOW_SHARE = 0.8
"""Units are packed to this part of the blend window; hands are not clocks."""


def make_plan(work: Work, school: School, pace: Pace) -> Plan:
    """Order all passes of all jobs.

    Returns
    -------
    Plan
        One that `check_plan` accepts. No jobs give an empty plan of 0 s.

    Raises
    ------
    PlanImpossible
        If the pace leaves no time for a wet blend, or a mask covers what must be coloured under it.
    """
    chains = [expand(job, school) for job in work.jobs if job.ramp]
    rules = rules_of(work, chains)
    bound = lower_bound(chains, pace)
    order = _improve(_greedy(_pack(chains, pace, rules), pace, rules), pace, rules)
    order, packed_bound = solve(order, pace, rules)
    units = _alone(chains, pace)
    if len(units) <= FEW_UNITS:
        # Small works are solved exactly, unpacked too: packing spares pens but ties regions together.
        apart, alone_bound = solve(_improve(_greedy(units, pace, rules), pace, rules), pace, rules)
        order = min(order, apart, key=lambda one: measure(one, pace, rules.near))
        bound = max(bound, min(packed_bound, alone_bound))
    return _finished(order, work, school, pace, rules, bound)


def plan_region_by_region(work: Work, school: School, pace: Pace) -> Plan:
    """The habit to compare with: one region after the other, going on with another while one dries.

    It waits as cleverly as `make_plan`, but does not look at which pen is in the hand.
    """
    chains = [expand(job, school) for job in work.jobs if job.ramp]
    rules = rules_of(work, chains)
    order = _greedy(_alone(chains, pace), pace, rules, mind_pens=False)
    return _finished(order, work, school, pace, rules, lower_bound(chains, pace))


def _finished(order: Sequence[Unit], work: Work, school: School, pace: Pace, rules: Rules, bound_s: float) -> Plan:
    """Times and masks on an order."""
    plan = to_plan(order, pace, rules.near, bound_s + handling_s(work))
    return with_masks(replace(plan, school=school, pace=pace), work, pace)


def lower_bound(chains: Sequence[Sequence[Stroke]], pace: Pace) -> float:
    """No order is shorter: every pass is laid, every pen taken up once, and every chain has its own waits."""
    strokes = [stroke for chain in chains for stroke in chain]
    if not strokes:
        return 0.0
    pens = len({stroke.swatch for stroke in strokes})
    hand = sum(pace.laying_s(stroke.area_mm2) for stroke in strokes) + (pens - 1) * pace.change_s
    return max(hand, *(measure(_alone([chain], pace), pace, {})[0] for chain in chains))


def _alone(chains: Sequence[Sequence[Stroke]], pace: Pace) -> list[Unit]:
    """Every block a unit of its own, region by region."""
    return [
        Unit(block, ((block[0].region, number),), pace)
        for chain in chains
        for number, block in enumerate(blocks_of(chain))
    ]


def _pack(chains: Sequence[Sequence[Stroke]], pace: Pace, rules: Rules) -> list[Unit]:
    """Blocks with the same pens in the same order, of regions that do not touch: one unit while they stay wet."""
    groups: list[list[tuple[tuple[int, int], list[Stroke]]]] = []
    for chain in chains:
        for number, block in enumerate(blocks_of(chain)):
            key = (block[0].region, number)
            for group in groups:
                if _fits(group, key, block, pace, rules):
                    group.append((key, block))
                    break
            else:
                groups.append([(key, block)])
    units = []
    for group in groups:
        blocks = [block for _, block in group]
        # Every pass visits the regions in the same order, so that each waits equally long for its next one.
        strokes = [block[i] for i in range(len(blocks[0])) for block in blocks]
        units.append(Unit(strokes, [key for key, _ in group], pace))
    return units


def _fits(
    group: Sequence[tuple[tuple[int, int], list[Stroke]]],
    key: tuple[int, int],
    block: Sequence[Stroke],
    pace: Pace,
    rules: Rules,
) -> bool:
    (_, number), pens = group[0][0], [stroke.swatch for stroke in group[0][1]]
    if number != key[1] or pens != [stroke.swatch for stroke in block]:
        return False
    regions = [other for (other, _), _ in group]
    if any(other in rules.near[key[0]] or rules.rank[other] != rules.rank[key[0]] for other in regions):
        return False
    if len(block) == 1:
        return True
    blocks = [other for _, other in group] + [list(block)]
    rounds = [[pace.laying_s(each[i].area_mm2) for each in blocks] for i in range(len(block))]
    for now, then, pen, next_pen in zip(rounds, rounds[1:], pens, pens[1:], strict=False):
        change = pace.change_s if pen != next_pen else 0.0
        for place in range(len(blocks)):
            if sum(now[place + 1 :]) + change + sum(then[:place]) > WINDOW_SHARE * pace.blend_s:
                return False
    return True


def _greedy(units: Sequence[Unit], pace: Pace, rules: Rules, *, mind_pens: bool = True) -> list[Unit]:
    """Take the unit that can start soonest, change of pen included; ties go to the first in the list."""
    clock = Clock(pace, rules.near)
    done: dict[int, int] = {}
    left = list(units)
    order: list[Unit] = []
    while left:
        best, best_cost = None, np.inf
        for unit in left:
            if not rules.may(unit, done):
                continue
            change = pace.change_s if mind_pens and clock.hand.pen not in (None, unit.strokes[0].swatch) else 0.0
            cost = max(clock.hand.now_s + change, clock.ready(unit)[0])
            if cost < best_cost:
                best, best_cost = unit, cost
        if best is None:
            raise PlanImpossible("The passes wait for each other in a circle.")
        left.remove(best)
        order.append(best)
        clock.lay(best)
        done.update({region: number + 1 for region, number in best.keys})
    return order


def _improve(order: list[Unit], pace: Pace, rules: Rules) -> list[Unit]:
    """Move one unit to another place, or swap two, whenever the whole gets shorter and stays in sequence."""
    if len(order) < 3:
        return order
    chance = np.random.default_rng(len(order))
    best, best_time = order, measure(order, pace, rules.near)
    for _ in range(TRIALS):
        trial = list(best)
        i, j = (int(value) for value in chance.choice(len(order), 2, replace=False))
        if chance.random() < 0.6:
            trial.insert(j, trial.pop(i))
        else:
            trial[i], trial[j] = trial[j], trial[i]
        if rules.in_sequence(trial):
            time = measure(trial, pace, rules.near)
            if time < best_time:
                best, best_time = trial, time
    return best
