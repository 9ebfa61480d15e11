"""Building a sequence block by block."""

from __future__ import annotations

import numpy as np
from numba import njit

from paleta.order.columns import HABIT, KIND, LAY, LIFT, NEVER, PEN, PLAIN, RANK, STROKE
from paleta.order.compiled._times import change_of, evaluate_suffix, held_before

LAST_RESORT, THEN, ANOTHER_PEN = 10**14, 10**13, 10**9


@njit(cache=True, nogil=True)
def built(table, lists, covers, pace, blocks_at, blocks, way):
    """A sequence in which what must meet wet stays together, and how many strokes found no place.

    SOONEST: what can start soonest, its change of pen included. PLAIN: stay with the pen, then the pen with the most
    work ready. HABIT: as SOONEST, but the pen in the hand is not looked at.

    Parameters
    ----------
    table, lists, covers, pace
        the work in numbers, as paleta.order.columns names its columns; times in ms
    blocks_at, blocks
        the rows of each block: blocks[blocks_at[b]:blocks_at[b + 1]]
    way
        SOONEST, PLAIN or HABIT

    Returns
    -------
    A sequence of rows, and how many of them found no place.
    """
    count = len(table)
    start, end, pushed = np.zeros(count, np.int64), np.zeros(count, np.int64), np.full(count, NEVER, np.int64)
    laid, ready = np.zeros(blocks_at.size - 1, np.bool_), np.empty(blocks_at.size - 1, np.int64)
    waiting = np.zeros(table[:, PEN].max() + 1, np.int64)
    sequence = np.empty(count, np.int64)
    placed = 0
    while placed < count:
        lowest = 10**9
        for b in range(laid.size):
            if not laid[b] and table[blocks[blocks_at[b]], KIND] == STROKE:
                lowest = min(lowest, table[blocks[blocks_at[b]], RANK])
        waiting[:] = 0
        for b in range(laid.size):
            first = blocks[blocks_at[b]]
            ready[b] = -1
            if laid[b] or (table[first, KIND] == STROKE and table[first, RANK] > lowest):
                continue
            stop = _appended(sequence, placed, blocks_at, blocks, b)
            ends = evaluate_suffix(
                table, lists, covers, pace, sequence, placed, stop, start, end, pushed, stop, end, end, 0
            )
            if ends >= 0:
                ready[b] = start[first]
                if table[first, PEN] >= 0:
                    waiting[table[first, PEN]] += 1
            pushed[:] = NEVER
        held = held_before(table, sequence, placed)
        now = end[sequence[placed - 1]] if placed else 0
        best, best_cost, best_tie = -1, 10**15, 10**15
        for b in range(laid.size):
            if ready[b] >= 0:
                cost, tie = _cost(table, pace, blocks[blocks_at[b]], way, held, now, ready[b], waiting)
                if cost < best_cost or (cost == best_cost and tie < best_tie):
                    best, best_cost, best_tie = b, cost, tie
        if best < 0:
            break
        laid[best] = True
        stop = _appended(sequence, placed, blocks_at, blocks, best)
        evaluate_suffix(table, lists, covers, pace, sequence, placed, stop, start, end, pushed, stop, end, end, 0)
        placed = stop
    return sequence, count - placed


@njit(cache=True, nogil=True)
def _appended(sequence, placed, blocks_at, blocks, b):
    """Writes block `b` behind what is placed, and returns where it ends."""
    for k in range(blocks_at[b], blocks_at[b + 1]):
        sequence[placed] = blocks[k]
        placed += 1
    return placed


@njit(cache=True, nogil=True)
def _cost(table, pace, first, way, held, now, ready, waiting):
    """What speaks against beginning with the stroke `first`, and what decides between equals."""
    if table[first, KIND] == LAY:
        return LAST_RESORT, ready  # a mask is laid when nothing else is left to do
    if table[first, KIND] == LIFT:
        return THEN, ready
    stays = held < 0 or table[held, PEN] == table[first, PEN]
    if way == PLAIN:
        if stays:
            return ready - now, -waiting[table[first, PEN]]
        return ANOTHER_PEN - waiting[table[first, PEN]], ready
    if way == HABIT and not stays:
        ready = max(now, ready - change_of(table, pace, held, first))
    return ready, 0
