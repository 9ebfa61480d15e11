"""Searching small works through by branch and bound [Land1960]."""

from __future__ import annotations

import numpy as np
from numba import njit

from paleta.order.columns import BEFORE, CHANGE, COAT, DRY, DURATION, JOIN, MEDIUM, PEN, SETUP
from paleta.order.compiled._times import change_of, held_before, times


@njit(cache=True, nogil=True)
def proved(table, lists, covers, pace, best, best_cost, most, unit):
    """Every sequence is looked at or shown to be no better than `best`: the best, its cost, and whether that was
    finished within `most` steps. At each depth the strokes that may follow are tried, the least bound first.

    Parameters
    ----------
    table, lists, covers, pace
        the work in numbers, as paleta.order.columns names its columns; times in ms
    best, best_cost
        the best sequence known and its cost
    most
        how many steps may be looked at
    unit
        what one ms costs where one change of pen costs 1

    Returns
    -------
    The best sequence, its cost, and whether all were looked at or ruled out.
    """
    count = len(table)
    start, end, pushed = np.empty(count, np.int64), np.empty(count, np.int64), np.empty(count, np.int64)
    sequence, done = np.empty(count, np.int64), np.zeros(count, np.bool_)
    tail = _tails(table, pace)
    wanted = np.zeros(table[:, PEN].max() + 1, np.int64)
    medium = np.zeros(wanted.size, np.int64)
    for one in range(count):
        if table[one, PEN] >= 0:
            wanted[table[one, PEN]] += 1
            medium[table[one, PEN]] = table[one, MEDIUM]
    left = table[:, DURATION].sum()
    order, bounds = np.empty((count, count), np.int64), np.empty(count, np.int64)
    width, turn = np.zeros(count + 1, np.int64), np.zeros(count + 1, np.int64)
    swaps = np.zeros(count + 1, np.int64)
    depth, steps, fresh = 0, 0, True
    while depth >= 0:
        if fresh and depth < count:
            size = 0
            held = held_before(table, sequence, depth)
            for one in range(count):
                if done[one]:
                    continue
                sequence[depth] = one
                now = times(table, lists, covers, pace, sequence, depth + 1, start, end, pushed)
                if now < 0:
                    continue
                steps += 1
                bound = _bound(table, pace, one, now, held, swaps[depth], left, end, done, wanted, medium, tail, unit)
                if bound < best_cost:
                    _insert(order[depth], bounds, size, one, bound)
                    size += 1
            if steps > most:
                return best, best_cost, False
            width[depth], turn[depth] = size, 0
        if depth < count and turn[depth] < width[depth]:
            one = order[depth, turn[depth]]
            turn[depth] += 1
            held = held_before(table, sequence, depth)
            sequence[depth] = one
            swaps[depth + 1] = swaps[depth] + _swapped(table, held, one)
            done[one] = True
            left -= table[one, DURATION]
            if table[one, PEN] >= 0:
                wanted[table[one, PEN]] -= 1
            depth += 1
            fresh = True
            if depth == count:
                now = times(table, lists, covers, pace, sequence, count, start, end, pushed)
                if now >= 0 and now * unit + swaps[depth] < best_cost:
                    best, best_cost = sequence.copy(), now * unit + swaps[depth]
            continue
        depth -= 1
        fresh = False
        if depth >= 0:
            one = sequence[depth]
            done[one] = False
            left += table[one, DURATION]
            if table[one, PEN] >= 0:
                wanted[table[one, PEN]] += 1
    return best, best_cost, True


@njit(cache=True, nogil=True)
def _swapped(table, held, one):
    return table[one, PEN] >= 0 and held >= 0 and table[held, PEN] != table[one, PEN]


@njit(cache=True, nogil=True)
def _bound(table, pace, one, now, held, swaps, left, end, done, wanted, medium, tail, unit):
    """What no sequence that goes on with `one`, ending at `now`, costs less than: all that is left to lay, every pen
    still to be taken up and every other medium to be set up, or the longest way any region has to go."""
    if table[one, PEN] >= 0:
        swaps += _swapped(table, held, one)
        held = one
    others, changing = 0, 0
    to_set_up = np.zeros(len(pace), np.bool_)
    for p in range(wanted.size):
        if wanted[p] > 0 and (held < 0 or p != table[held, PEN]):
            others += 1
            changing += pace[medium[p], CHANGE]
            to_set_up[medium[p]] = held >= 0 and medium[p] != table[held, MEDIUM]
    for m in range(len(pace)):
        if to_set_up[m]:
            changing += pace[m, SETUP]
    if held < 0 and others > 0:
        # The first pen is taken up, and its medium set up, before the clock runs.
        others, changing = 0, 0
    bound = (now + left - table[one, DURATION] + changing) * unit + swaps + others
    for other in range(done.size):
        before = table[other, BEFORE]
        if done[other] or other == one or (before >= 0 and before != one and not done[before]):
            continue
        free = now
        if table[other, PEN] >= 0:
            free += change_of(table, pace, held, other)
        if before >= 0 and table[other, JOIN] == DRY:
            free = max(free, end[before] + pace[table[before, MEDIUM], COAT])
        bound = max(bound, (free + tail[other]) * unit + swaps)
    return bound


@njit(cache=True, nogil=True)
def _tails(table, pace):
    """Least time from the start of each stroke to the end of its region."""
    tail = table[:, DURATION].copy()
    # A stroke's number is higher than that of the one before it.
    for one in range(len(table) - 1, -1, -1):
        before = table[one, BEFORE]
        if before >= 0:
            # Whatever is in the hand meanwhile, the pen must be changed; its medium may be set up already.
            gap = pace[table[one, MEDIUM], CHANGE] if table[before, PEN] != table[one, PEN] else 0
            if table[one, JOIN] == DRY:
                gap = max(gap, pace[table[before, MEDIUM], COAT])
            tail[before] = table[before, DURATION] + gap + tail[one]
    return tail


@njit(cache=True, nogil=True)
def _insert(order, bounds, size, one, bound):
    """`one` into the first `size` of `order`, which rise by their bounds."""
    k = size
    while k > 0 and bounds[k - 1] > bound:
        bounds[k], order[k] = bounds[k - 1], order[k - 1]
        k -= 1
    bounds[k], order[k] = bound, one
