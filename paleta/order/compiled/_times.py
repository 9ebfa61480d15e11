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
    MEDIUM,
    NEAR_AT,
    NEAR_END,
    NEEDS_AT,
    NEEDS_END,
    NEVER,
    OVER,
    PEN,
    RANK,
    REGION,
    SETUP,
    STROKE,
    TOUCH,
    WET,
    WIPE,
)

MOST_PUSHES = 12
"""A wet blend that would break is mended by beginning it later, and so are those before it; not endlessly."""
LATER = -2


@njit(cache=True, nogil=True)
def change_of(table, pace, held, one):
    """What changing from the stroke `held` (-1: none yet) to the stroke `one` takes: another pen, and setting up its
    medium where another was in use.

    Parameters
    ----------
    table
        the work in numbers, as paleta.order.columns names its columns
    pace
        times by medium in ms
    held
        row of the stroke whose pen is in the hand, -1 for none
    one
        row of the next stroke

    Returns
    -------
    In ms.
    """
    if held < 0 or table[held, PEN] == table[one, PEN]:
        return 0
    medium = table[one, MEDIUM]
    return pace[medium, CHANGE] + (pace[medium, SETUP] if table[held, MEDIUM] != medium else 0)


@njit(cache=True, nogil=True)
def evaluate_suffix(
    table, lists, covers, pace, sequence, first, count, start, end, pushed, watched, known_end, rests, allowed
):
    """Fills in the earliest `start` and `end` from place `first` up to `count`; those before are given. When the last
    ends, or -1 if a rule is broken.

    LATER if a stroke that must meet wet paper would come too late although the hand is quick enough: what it follows
    must begin later then, which is noted in `pushed`. From place `watched` on it is given up (-1) as soon as the end
    must come more than `allowed` after a known one, which waits `rests` after each place: that may be made good again.
    There it also ends as soon as all goes on as in the known one; `end` must hold the known ends beforehand then.
    All in one piece: a call costs Numba more than the sums that are done here.

    Parameters
    ----------
    table, lists, covers, pace
        the work in numbers, as paleta.order.columns names its columns; times in ms
    sequence
        rows of `table` in the order they are laid
    first
        place from which times are worked out
    count
        how many rows of the sequence count
    start, end
        by place in ms; read before `first`, filled in from there on
    pushed
        by row, what must begin later than it could; changed in place
    watched
        place from which a late sequence is given up
    known_end
        ends of a sequence that is known to be good, by place
    rests
        its waits after each place
    allowed
        how much later the end may come, in ms
    """
    masks = covers.shape[1]
    touch_dry = np.full(covers.shape[2], NEVER, np.int64)  # when each region is, by what was laid there last
    coat_dry = np.full(covers.shape[2], NEVER, np.int64)
    done = np.zeros(len(table), np.bool_)
    on = np.zeros(masks, np.int64)  # 0: does not lie; else the place where it was laid, from 1
    soiled = np.full(masks, -1, np.int64)  # the pen whose ink is on it
    now, held, reached, settled = 0, -1, NEVER, NEVER
    for place in range(first):
        one = sequence[place]
        done[one] = True
        now = end[one]
        if table[one, KIND] == STROKE:
            where, medium, held, reached = table[one, REGION], table[one, MEDIUM], one, table[one, RANK]
            touch_dry[where], coat_dry[where] = now + pace[medium, TOUCH], now + pace[medium, COAT]
            if pace[medium, WIPE] > 0:
                for m in range(masks):
                    if on[m] and covers[DURING, m, where]:
                        soiled[m] = table[one, PEN]
        else:
            on[table[one, MASK]] = place + 1 if table[one, KIND] == LAY else 0
            soiled[table[one, MASK]] = -1
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
            medium = table[one, MEDIUM]
            ready += change_of(table, pace, held, one)
            held = one
            if pace[medium, WIPE] > 0:
                wiping = 0
                for m in range(masks):
                    if on[m] and covers[DURING, m, where]:
                        if soiled[m] >= 0 and soiled[m] != table[one, PEN]:
                            wiping = pace[medium, WIPE]
                        soiled[m] = table[one, PEN]
                ready += wiping
            for k in range(table[one, NEAR_AT], table[one, NEAR_END]):
                ready = max(ready, touch_dry[lists[k]])
            if table[one, JOIN] == DRY:
                ready = max(ready, coat_dry[where])
            ready = max(ready, pushed[one])
            if table[one, JOIN] == WET:
                before = table[one, BEFORE]
                blend = pace[medium, BLEND]
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
            for other in range(touch_dry.size):
                if covers[which, table[one, MASK], other]:
                    ready = max(ready, touch_dry[other])
            on[table[one, MASK]] = place + 1 if table[one, KIND] == LAY else 0
            soiled[table[one, MASK]] = -1
        start[one] = ready
        now = ready + table[one, DURATION]
        end[one] = now
        done[one] = True
        if table[one, KIND] == STROKE:
            medium = table[one, MEDIUM]
            touch_dry[where], coat_dry[where] = now + pace[medium, TOUCH], now + pace[medium, COAT]
        if place > watched and now - known_end[one] - rests[place] > allowed:
            return -1
        if masks == 0 and now != known_end[one]:
            # So long may be waited for it, or something must meet it wet; afterwards it makes no difference any more.
            lasts = max(pace[medium, TOUCH], pace[medium, COAT], pace[medium, BLEND])
            settled = max(settled, now + lasts, known_end[one] + lasts)
        elif place > watched and masks == 0 and now >= settled:
            return known_end[sequence[count - 1]]
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

    Parameters
    ----------
    table, lists, covers, pace
        the work in numbers, as paleta.order.columns names its columns; times in ms
    sequence
        rows of `table` in the order they are laid
    count
        how many of them count, from the first
    start, end
        filled in: when each row begins and ends, in ms
    pushed
        filled in: what a row was begun later for; NEVER where it was not

    Returns
    -------
    When the last ends, in ms; -1 if the sequence breaks a rule.
    """
    pushed[:] = NEVER
    for _ in range(MOST_PUSHES):
        now = evaluate_suffix(table, lists, covers, pace, sequence, 0, count, start, end, pushed, count, end, end, 0)
        if now != LATER:
            return now
    return -1


@njit(cache=True, nogil=True)
def rests_of(table, pace, sequence, start, end, rests):
    """Fills `rests` with the waiting after each place, backwards.

    Parameters
    ----------
    table
        the work in numbers, as paleta.order.columns names its columns
    pace
        times by medium in ms
    sequence
        rows of `table` in the order they are laid
    start, end
        by place, in ms
    rests
        filled in, in ms
    """
    total = 0
    for place in range(sequence.size - 1, -1, -1):
        rests[place] = total
        one = sequence[place]
        free = end[sequence[place - 1]] if place else 0
        if table[one, KIND] == STROKE:
            free += change_of(table, pace, held_before(table, sequence, place), one)
        total += start[one] - free


@njit(cache=True, nogil=True)
def worked(table, pace, sequence, place, first):
    """Hand time, without waits and wiping, between the end of the stroke `first` and what stands at `place`.

    Parameters
    ----------
    table
        the work in numbers, as paleta.order.columns names its columns
    pace
        times by medium in ms
    sequence
        rows of `table` in the order they are laid
    place
        where it is looked back from
    first
        row of the stroke since whose end it is counted

    Returns
    -------
    In ms.
    """
    later, total = sequence[place], 0
    for k in range(place - 1, -1, -1):
        one = sequence[k]
        if table[one, PEN] >= 0:
            total += change_of(table, pace, one, later)
            later = one
        if one == first:
            break
        total += table[one, DURATION]
    return total


@njit(cache=True, nogil=True)
def held_before(table, sequence, place):
    """The stroke whose pen is in the hand before `place`, -1: none yet.

    Parameters
    ----------
    table
        the work in numbers, as paleta.order.columns names its columns
    sequence
        rows of `table` in the order they are laid
    place
        from 0
    """
    for k in range(place - 1, -1, -1):
        if table[sequence[k], PEN] >= 0:
            return sequence[k]
    return -1


@njit(cache=True, nogil=True)
def changes_of(table, sequence):
    """How often another pen is taken up.

    Parameters
    ----------
    table
        the work in numbers, as paleta.order.columns names its columns
    sequence
        rows of `table` in the order they are laid

    Returns
    -------
    How often another pen is taken up, the first not counted.
    """
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
