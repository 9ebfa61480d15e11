"""Where nothing must meet wet: the order of visits of pens, and the strokes that follow from it."""

from __future__ import annotations

import numpy as np
from numba import njit

from paleta.order.columns import NEEDS_AT, NEEDS_END, PEN, RANK
from paleta.order.compiled._anneal import shift
from paleta.order.compiled._chance import below, cooled, next_chance, worst_allowed

IDLE = 16
"""Cost of a visit against one on which nothing is laid."""


@njit(cache=True, nogil=True)
def by_visits(table, visits, by_pen_at, by_pen, freed_at, freed, sequence):
    """Strokes in the order in which `visits` of pens come to them, drying left aside; what is left over at the end is
    laid by the pen with the most work ready.

    Parameters
    ----------
    table
        the work in numbers, as paleta.order.columns names its columns
    visits
        pens in the order in which they are taken up
    by_pen_at, by_pen
        the strokes of each pen: by_pen[by_pen_at[p]:by_pen_at[p + 1]]
    freed_at, freed
        likewise the strokes that need each stroke
    sequence
        filled in: the strokes in their order

    Returns
    -------
    How many visits were made; -1 if it got stuck.
    """
    pen, level, count = table[:, PEN].copy(), table[:, RANK].copy(), len(table)
    pens = by_pen_at.size - 1
    open_ = table[:, NEEDS_END] - table[:, NEEDS_AT]  # needs of each that are not laid; -1: laid itself
    left_of = np.zeros(pens, np.int64)
    levels = 0
    for one in range(count):
        levels = max(levels, level[one] + 1)
        left_of[pen[one]] += 1
    left_in = np.zeros(levels, np.int64)
    for one in range(count):
        left_in[level[one]] += 1
    lowest, placed, taken, turn, hand = 0, 0, 0, 0, -1
    while lowest < levels - 1 and left_in[lowest] == 0:
        lowest += 1
    while placed < count:
        if turn < visits.size:
            now = visits[turn]
            turn += 1
        else:
            now, most = -1, 0
            for p in range(pens):
                ready = 0
                if left_of[p] > 0:
                    for k in range(by_pen_at[p], by_pen_at[p + 1]):
                        ready += open_[by_pen[k]] == 0 and level[by_pen[k]] == lowest
                if ready > most:
                    now, most = p, ready
            if now < 0:
                return -1
        if left_of[now] == 0:
            continue
        before = placed
        more = True
        while more:
            more = False
            for k in range(by_pen_at[now], by_pen_at[now + 1]):
                one = by_pen[k]
                if open_[one] != 0 or level[one] != lowest:
                    continue
                open_[one] = -1
                for q in range(freed_at[one], freed_at[one + 1]):
                    open_[freed[q]] -= 1
                    if pen[freed[q]] == now and open_[freed[q]] == 0:
                        more = True
                sequence[placed] = one
                placed += 1
                left_of[now] -= 1
                left_in[lowest] -= 1
                while lowest < levels - 1 and left_in[lowest] == 0:
                    lowest += 1
                    more = True
        if placed > before and hand != now:
            taken += 1
            hand = now
    return taken


@njit(cache=True, nogil=True)
def better_visits(table, visits, by_pen_at, by_pen, freed_at, freed, least, rounds, hot, seed):
    """Fewer visits of pens, by annealing over their order: a visit is dropped, moved, swapped or added.

    Parameters
    ----------
    table
        the work in numbers, as paleta.order.columns names its columns
    visits
        pens in the order in which they are taken up, to begin with
    by_pen_at, by_pen
        the strokes of each pen: by_pen[by_pen_at[p]:by_pen_at[p + 1]]
    freed_at, freed
        likewise the strokes that need each stroke
    least
        fewer visits than this cannot be
    rounds
        how many changes are tried
    hot
        the heat to begin with, in visits
    seed
        of the generator
    """
    pens = by_pen_at.size - 1
    sequence = np.empty(len(table), np.int64)
    room = 4 * visits.size + 16
    now = np.empty(room, np.int64)
    now[: visits.size] = visits
    size = visits.size
    # A visit that nothing is laid on costs a little too, or the list grows full of them.
    cost = IDLE * by_visits(table, now[:size], by_pen_at, by_pen, freed_at, freed, sequence) + size
    best, best_cost = now[:size].copy(), cost
    trial = np.empty(room, np.int64)
    state, heat = np.uint64(seed), hot * IDLE
    for turn in range(rounds):
        heat = cooled(heat, turn, rounds)
        state = next_chance(state)
        what = below(state, 10)
        state = next_chance(state)
        i = below(state, size)
        state = next_chance(state)
        j = below(state, size)
        trial[:size] = now[:size]
        length = size
        if what < 3:
            trial[i : size - 1] = now[i + 1 : size]
            length = size - 1
        elif what < 7:
            shift(trial, now, i, 1, j)
        elif what < 9:
            trial[i], trial[j] = now[j], now[i]
        elif size < room - 1:
            state = next_chance(state)
            trial[j + 1 : size + 1] = now[j:size]
            trial[j] = below(state, pens)
            length = size + 1
        if length < 1:
            continue
        taken = by_visits(table, trial[:length], by_pen_at, by_pen, freed_at, freed, sequence)
        if taken < 0:
            continue
        found = IDLE * taken + length
        state = next_chance(state)
        if found - cost <= worst_allowed(heat, state):
            now[:length] = trial[:length]
            size, cost = length, found
            if cost < best_cost:
                best, best_cost = now[:size].copy(), cost
                if taken <= least:
                    break
    return best
