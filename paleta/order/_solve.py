"""The order of units as a constraint programme: a route through all units with set-up times and least gaps.

Solved with CP-SAT of OR-Tools ([Perron2023]) within a fixed amount of work, not of time, so that the same sheet gives
the same plan on every machine.
"""

from __future__ import annotations

from collections.abc import Sequence

from ortools.sat.python import cp_model

from paleta.order._clock import Unit, measure
from paleta.order._pace import Pace
from paleta.order._rules import Rules

TICK_S = 0.1
WORK, WORK_ON_MANY, MANY = 0.35, 0.1, 14
"""CP-SAT's own deterministic seconds, each about three real ones here; with many units more time gains nothing."""
LONGEST_S = 12.0
"""Safety on a machine that is very slow."""
MOST_UNITS = 70
"""With more the route alone has too many arcs to build in time; the heuristic's order then stands."""


def solve(order: Sequence[Unit], pace: Pace, rules: Rules) -> tuple[list[Unit], float]:
    """The best order found, never worse than `order`, and a duration in seconds that no order of these units beats.

    `order` must be in sequence; it is where the search begins.
    """
    count = len(order)
    if not 2 <= count <= MOST_UNITS:
        return list(order), 0.0
    best_s, _ = measure(order, pace, rules.near)
    model = cp_model.CpModel()
    horizon = _ticks(best_s) + 1
    lengths = [_ticks(unit.length_s) for unit in order]
    starts = [model.new_int_var(0, horizon, f"s{i}") for i in range(count)]
    finish = model.new_int_var(0, horizon, "finish")
    arcs = []
    for i, unit in enumerate(order):
        model.add(finish >= starts[i] + lengths[i])
        first, last = model.new_bool_var(f"f{i}"), model.new_bool_var(f"l{i}")
        arcs += [(0, i + 1, first), (i + 1, 0, last)]
        model.add_hint(first, i == 0)
        model.add_hint(last, i == count - 1)
        for j, other in enumerate(order):
            if i == j:
                continue
            follows = model.new_bool_var(f"{i}>{j}")
            arcs.append((i + 1, j + 1, follows))
            change = _ticks(pace.change_s) if unit.strokes[-1].swatch != other.strokes[0].swatch else 0
            model.add(starts[j] >= starts[i] + lengths[i] + change).only_enforce_if(follows)
            model.add_hint(follows, j == i + 1)
    model.add_circuit(arcs)
    _gaps(model, order, starts, pace, rules)
    model.minimize(finish)
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 7
    solver.parameters.max_deterministic_time = WORK if count <= MANY else WORK_ON_MANY
    solver.parameters.max_time_in_seconds = LONGEST_S
    status = solver.solve(model)
    bound_s = max(0.0, solver.best_objective_bound * TICK_S - count * TICK_S)
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return list(order), bound_s
    found = [order[i] for i in sorted(range(count), key=lambda i: solver.value(starts[i]))]
    if rules.in_sequence(found) and measure(found, pace, rules.near) < measure(order, pace, rules.near):
        return found, bound_s
    return list(order), bound_s


def _gaps(
    model: cp_model.CpModel, order: Sequence[Unit], starts: Sequence[cp_model.IntVar], pace: Pace, rules: Rules
) -> None:
    """Chains, what must be finished first, and dry paper beside touching regions."""
    ends = [unit.ends_s for unit in order]
    where = {key: i for i, unit in enumerate(order) for key in unit.keys}
    joins = {
        stroke_key: stroke.join for unit in order for stroke_key, stroke in zip(unit.keys, unit.openings, strict=True)
    }
    for (region, number), i in where.items():
        if number:
            before = where[region, number - 1]
            gap = pace.coat_dry_s if joins[region, number] == "dry" else 0.0
            model.add(starts[i] >= starts[before] + _ticks(ends[before][region] + gap))
        for other in rules.needs.get((region, number), frozenset()):
            last = where[other, rules.blocks[other] - 1]
            if last != i:
                model.add(starts[i] >= starts[last] + _ticks(ends[last][other]))
    for i in range(len(order)):
        for j in range(i + 1, len(order)):
            pairs = [(a, b) for a in ends[i] for b in ends[j] if b in rules.near.get(a, ())]
            if not pairs:
                continue
            forth = model.new_bool_var(f"{i}<{j}")
            wet = max(ends[i][a] for a, _ in pairs) + pace.touch_dry_s
            back = max(ends[j][b] for _, b in pairs) + pace.touch_dry_s
            model.add(starts[j] >= starts[i] + _ticks(wet)).only_enforce_if(forth)
            model.add(starts[i] >= starts[j] + _ticks(back)).only_enforce_if(forth.negated())


def _ticks(seconds: float) -> int:
    return round(seconds / TICK_S)
