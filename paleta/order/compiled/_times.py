"""When each stroke of a sequence begins."""

from __future__ import annotations

import numpy as np
from numba import njit

from paleta.order.columns import (
    BEFORE,
    BLEND,
    CHANGE,
    COAT,
    DRY,
    DURATION,
    DURING,
    JOIN,
    KIND,
    LAY,
    MASK,
    NEAR_AT,
    NEAR_END,
    NEEDS_AT,
    NEEDS_END,
    NEVER,
    OVER,
    PEN,
    RANK,
    REGION,
    STROKE,
    TOUCH,
    WET,
)

MOST_PUSHES = 12
"""A wet blend that would break is mended by beginning it later, and so are those before it; not endlessly."""
LATER = -2


@njit(cache=True, nogil=True)
def gone_on(table, lists, covers, pace, sequence, first, count, start, end, pushed, watched, known_end, rests, allowed):
    """Fills in the earliest `start` and `end` from place `first` up to `count`; those before are given. When the last
    ends, or -1 if a rule is broken.

    LATER if a stroke that must meet wet paper would come too late although the hand is quick enough: what it follows
    must begin later then, which is noted in `pushed`. From place `watched` on it is given up (-1) as soon as the end
    must come more than `allowed` after a known one, which waits `rests` after each place: that may be made good again.
    All in one piece: a call costs Numba more than the sums that are done here.
    """
    change, touch, coat, blend = pace[CHANGE], pace[TOUCH], pace[COAT], pace[BLEND]
    masks = covers.shape[1]
    last = np.full(covers.shape[2], NEVER, np.int64)
    done = np.zeros(len(table), np.bool_)
    on = np.zeros(masks, np.int64)  # 0: does not lie; else the place where it was laid, from 1
    now, hand, reached = 0, -1, NEVER
    for place in range(first):
        one = sequence[place]
        done[one] = True
        now = end[one]
        if table[one, KIND] == STROKE:
            last[table[one, REGION]], hand, reached = now, table[one, PEN], table[one, RANK]
        else:
            on[table[one, MASK]] = place + 1 if table[one, KIND] == LAY else 0
    for place in range(first, count):
        one = sequence[place]
        for k in range(table[one, NEEDS_AT], table[one, NEEDS_END]):
            if not done[lists[k]]:
                return -1
        where, ready = table[one, REGION], now
        if table[one, KIND] == STROKE:
            for m in range(masks):
                if on[m] and covers[OVER, m, where]:
                    return -1
            if table[one, RANK] < reached:
                return -1
            reached = table[one, RANK]
            if hand >= 0 and hand != table[one, PEN]:
                ready += change
            hand = table[one, PEN]
            for k in range(table[one, NEAR_AT], table[one, NEAR_END]):
                ready = max(ready, last[lists[k]] + touch)
            if table[one, JOIN] == DRY:
                ready = max(ready, last[where] + coat)
            ready = max(ready, pushed[one])
            if table[one, JOIN] == WET:
                before = table[one, BEFORE]
                late = ready - end[before] - blend
                if late > 0:
                    if worked(table, pace, sequence, place, before) > blend:
                        return -1
                    pushed[before] = start[before] + late
                    return LATER
        else:
            which = OVER if table[one, KIND] == LAY else DURING
            if which == DURING and _beneath(covers, on, table[one, MASK]):
                return -1
            for other in range(last.size):
                if covers[which, table[one, MASK], other]:
                    ready = max(ready, last[other] + touch)
            on[table[one, MASK]] = place + 1 if table[one, KIND] == LAY else 0
        start[one] = ready
        now = ready + table[one, DURATION]
        end[one] = now
        done[one] = True
        if table[one, KIND] == STROKE:
            last[where] = now
        if place > watched and now - known_end[one] - rests[place] > allowed:
            return -1
    return now


@njit(cache=True, nogil=True)
def _beneath(covers, on, m):
    """Whether mask `m` lies beneath another that was laid over part of it later."""
    for other in range(on.size):
        if on[other] > on[m]:
            for region in range(covers.shape[2]):
                if covers[OVER, m, region] and covers[OVER, other, region]:
                    return True
    return False


@njit(cache=True, nogil=True)
def times(table, lists, covers, pace, sequence, count, start, end, pushed):
    """Earliest `start` and `end` of the first `count` of `sequence`, and when the last ends; -1 if it breaks a rule.

    Where a wet blend would break by waiting in it, what it follows is begun later (`pushed`), as the earliest schedule
    with longest gaps is found.
    """
    pushed[:] = NEVER
    for _ in range(MOST_PUSHES):
        now = gone_on(table, lists, covers, pace, sequence, 0, count, start, end, pushed, count, end, end, 0)
        if now != LATER:
            return now
    return -1


@njit(cache=True, nogil=True)
def rests_of(table, pace, sequence, start, end, rests):
    """Fills `rests` with the waiting after each place, backwards."""
    total = 0
    for place in range(sequence.size - 1, -1, -1):
        rests[place] = total
        one = sequence[place]
        free = end[sequence[place - 1]] if place else 0
        if table[one, KIND] == STROKE:
            held = hand_before(table, sequence, place)
            if held >= 0 and held != table[one, PEN]:
                free += pace[CHANGE]
        total += start[one] - free


@njit(cache=True, nogil=True)
def worked(table, pace, sequence, place, first):
    """Hand time, without waits, between the end of the stroke `first` and what stands at `place`."""
    hand, total = table[sequence[place], PEN], 0
    for k in range(place - 1, -1, -1):
        one = sequence[k]
        if table[one, PEN] >= 0:
            if table[one, PEN] != hand:
                total += pace[CHANGE]
            hand = table[one, PEN]
        if one == first:
            break
        total += table[one, DURATION]
    return total


@njit(cache=True, nogil=True)
def hand_before(table, sequence, place):
    """The pen in the hand before `place`."""
    for k in range(place - 1, -1, -1):
        if table[sequence[k], PEN] >= 0:
            return table[sequence[k], PEN]
    return -1


@njit(cache=True, nogil=True)
def changes_of(table, sequence):
    hand, changes = -1, 0
    for one in sequence:
        if table[one, PEN] >= 0:
            if hand >= 0 and hand != table[one, PEN]:
                changes += 1
            hand = table[one, PEN]
    return changes


@njit(cache=True, nogil=True)
def following(table):
    """The stroke after each on its region, -1: none."""
    after = np.full(len(table), -1, np.int64)
    for one in range(len(table)):
        if table[one, BEFORE] >= 0:
            after[table[one, BEFORE]] = one
    return after
