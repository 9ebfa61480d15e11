"""Bettering a sequence by annealing [Kirkpatrick1983]."""

from __future__ import annotations

import numpy as np
from numba import njit

from paleta.order.columns import GROUP, JOIN, KIND, NEEDS_AT, NEEDS_END, NEVER, PEN, RANK, STROKE, WET
from paleta.order.compiled._chance import below, cooled, next_chance, worst_allowed
from paleta.order.compiled._times import (
    LATER,
    change_of,
    changes_of,
    evaluate_suffix,
    following,
    held_before,
    rests_of,
    times,
)

NEAR_BY = 20
"""Places within which a stroke that meets wet may find another of its pen."""
LONGEST_STRETCH, FARTHEST, MOST_VISITS = 8, 12, 6


@njit(cache=True, nogil=True)
def annealed(table, lists, covers, pace, given, block_of, blocks_at, blocks, rounds, hot, seed, unit, change, group):
    """The best sequence found from `given` on in so many rounds, and its cost: `unit` for each of its ms, `change` for
    each change of pen, `group` for each place at which another group begins.

    A stroke is moved beside another of its pen; a stretch is moved; whole visits of pens are moved; a block is laid
    into the visits that others make of its pens, or put together again elsewhere.

    Parameters
    ----------
    table, lists, covers, pace
        the work in numbers, as paleta.order.columns names its columns; times in ms
    given
        the sequence to begin with, as rows of `table`
    block_of
        the block of each row
    blocks_at, blocks
        the rows of each block: blocks[blocks_at[b]:blocks_at[b + 1]]
    rounds
        how many changes are tried
    hot
        the heat to begin with, in the units of cost
    seed
        of the generator
    unit, change, group
        what one ms, one change of pen and one more group cost

    Returns
    -------
    The best sequence found, and its cost.
    """
    count = given.size
    after = following(table)
    start, end, pushed = np.empty(count, np.int64), np.empty(count, np.int64), np.empty(count, np.int64)
    now, trial, chosen = given.copy(), given.copy(), np.zeros(count, np.bool_)
    length = times(table, lists, covers, pace, now, count, start, end, pushed)
    cost = length * unit + changes_of(table, now) * change + groups_in(table, now, 0, count - 1) * group
    best, best_cost = now.copy(), cost
    known, rests = np.stack((start, end)), np.empty(count, np.int64)
    rests_of(table, pace, now, start, end, rests)
    plain = pushed.max() == NEVER  # no stroke of `now` is begun later for what follows it
    place_of, seen = np.empty(count, np.int64), np.full(count, -1, np.int64)
    place_of[now] = np.arange(count)
    state, heat = np.uint64(seed), hot
    for turn in range(rounds):
        heat = cooled(heat, turn, rounds)
        state = next_chance(state)
        what = below(state, 10)
        if what < 3:
            column = GROUP if group and what else PEN
            state, first, last = _beside_its_like(table, after, now, trial, state, column)
        elif what < 5:
            state, first, last = _visits_elsewhere(table, now, trial, state)
        elif what < 7:
            state, first, last = _stretch_elsewhere(now, trial, state)
        else:
            state, first, last = _block_elsewhere(table, block_of, blocks_at, blocks, chosen, now, trial, state)
        if first < 0:
            continue
        state = next_chance(state)
        worst = worst_allowed(heat, state)
        more, changes = changing(table, pace, trial, first, last)
        less, changes_now = changing(table, pace, now, first, last)
        beside = (changes - changes_now) * change
        if group:
            beside += (groups_in(table, trial, first, last) - groups_in(table, now, first, last)) * group
        # What is waited for now is the most that another order could save.
        least = (more - less - rests[0]) * unit + beside
        if least > worst or not in_turn(table, lists, trial, first, last, place_of, seen, turn):
            trial[first : last + 1] = now[first : last + 1]
            continue
        total, pushes = LATER, False
        if plain:
            allowed = (worst - beside) // unit + 1
            start[:], end[:], pushed[:] = known[0], known[1], NEVER
            total = evaluate_suffix(
                table, lists, covers, pace, trial, first, count, start, end, pushed, last, known[1], rests, allowed
            )
        if total == LATER:
            total = times(table, lists, covers, pace, trial, count, start, end, pushed)
            pushes = pushed.max() > NEVER
        dearer = (total - length) * unit + beside
        if total < 0 or dearer > worst:
            trial[first : last + 1] = now[first : last + 1]
            continue
        now[first : last + 1] = trial[first : last + 1]
        for place in range(first, last + 1):
            place_of[now[place]] = place
        cost, length = cost + dearer, total
        known[0], known[1] = start, end
        rests_of(table, pace, now, start, end, rests)
        plain = not pushes
        if cost < best_cost:
            best[:] = now
            best_cost = cost
    return best, best_cost


@njit(cache=True, nogil=True)
def changing(table, pace, sequence, first, last):
    """How long taking up other pens takes from what stands before `first` to what stands behind `last`, in ms, and how
    often that is.

    Parameters
    ----------
    table, pace
        the work in numbers, as paleta.order.columns names its columns
    sequence
        rows of `table` in the order they are laid
    first, last
        places
    """
    held, total, often = held_before(table, sequence, first), 0, 0
    for place in range(first, sequence.size):
        one = sequence[place]
        if table[one, PEN] >= 0:
            total += change_of(table, pace, held, one)
            often += held >= 0 and table[held, PEN] != table[one, PEN]
            held = one
            if place > last:
                break
    return total, often


@njit(cache=True, nogil=True)
def groups_in(table, sequence, first, last):
    """How often another group begins from `first` to what stands behind `last`.

    Parameters
    ----------
    table
        the work in numbers, as paleta.order.columns names its columns
    sequence
        rows of `table` in the order they are laid
    first, last
        places
    """
    found = 0
    for place in range(max(first, 1), min(last + 2, sequence.size)):
        found += table[sequence[place], GROUP] != table[sequence[place - 1], GROUP]
    return found


@njit(cache=True, nogil=True)
def in_turn(table, lists, trial, first, last, place_of, seen, turn):
    """Whether what stands from `first` to `last` comes after what it needs and after lower ranks. Most changes of
    chance break that, and this finds it out in a fraction of the time that timing takes.

    Parameters
    ----------
    table, lists
        the work in numbers, as paleta.order.columns names its columns
    trial
        a sequence that differs from a good one from `first` to `last` only
    first, last
        places
    place_of
        where each row stands in the good one
    seen
        by row, the last turn in which it was met here; changed in place
    turn
        this turn
    """
    reached = NEVER
    for place in range(first - 1, -1, -1):
        if table[trial[place], KIND] == STROKE:
            reached = table[trial[place], RANK]
            break
    for place in range(first, last + 1):
        one = trial[place]
        for k in range(table[one, NEEDS_AT], table[one, NEEDS_END]):
            needed = lists[k]
            if place_of[needed] >= first and seen[needed] != turn:
                return False
        seen[one] = turn
        if table[one, KIND] == STROKE:
            if table[one, RANK] < reached:
                return False
            reached = table[one, RANK]
    return True


@njit(cache=True, nogil=True)
def shift(trial, now, i, length, target):
    """`now` with its stretch of `length` from `i` on moved so that it begins at `target`.

    Parameters
    ----------
    trial
        filled in
    now
        the sequence as it is
    i
        where the stretch begins
    length
        of the stretch
    target
        where it begins afterwards
    """
    if target < i:
        trial[target : target + length] = now[i : i + length]
        trial[target + length : i + length] = now[target:i]
    else:
        trial[i:target] = now[i + length : target + length]
        trial[target : target + length] = now[i : i + length]


# Each of these writes a changed `now` into `trial` and returns the state of chance and the first and last place that
# changed, or -1 for both if nothing did.


@njit(cache=True, nogil=True)
def _beside_its_like(table, after, now, trial, state, column):
    """A stroke beside another of the same pen or group. What meets wet cannot go far, so that is looked for near by."""
    count = now.size
    state = next_chance(state)
    i = below(state, count)
    one = now[i]
    near = table[one, JOIN] == WET or (after[one] >= 0 and table[after[one], JOIN] == WET)
    spread = min(NEAR_BY, count) if near else count
    state = next_chance(state)
    j = i + below(state, 2 * spread + 1) - spread
    for step in range(spread):
        k = (j + step) % count
        if k != i and table[now[k], column] == table[one, column]:
            state = next_chance(state)
            target = k + below(state, 2)
            if target > i:
                target -= 1
            if target == i:
                break
            shift(trial, now, i, 1, target)
            return state, min(i, target), max(i, target)
    return state, -1, -1


@njit(cache=True, nogil=True)
def _visits_elsewhere(table, now, trial, state):
    """Some whole visits of pens, to where another visit begins."""
    count = now.size
    state = next_chance(state)
    i = below(state, count)
    while i > 0 and table[now[i - 1], PEN] == table[now[i], PEN]:
        i -= 1
    state = next_chance(state)
    visits = 1 + below(state, MOST_VISITS)
    stop = i
    while stop < count and visits > 0:
        stop += 1
        if stop == count or table[now[stop], PEN] != table[now[stop - 1], PEN]:
            visits -= 1
    length = stop - i
    if length == count:
        return state, -1, -1
    state = next_chance(state)
    # Places are counted without the stretch itself.
    target = below(state, count - length + 1)
    border = target if target < i else target + length
    while 0 < border < count and table[now[border - 1], PEN] == table[now[border], PEN]:
        border -= 1
    target = border if border <= i else max(i, border - length)
    if target == i:
        return state, -1, -1
    shift(trial, now, i, length, target)
    return state, min(i, target), max(i, target) + length - 1


@njit(cache=True, nogil=True)
def _stretch_elsewhere(now, trial, state):
    """A few strokes, not far."""
    count = now.size
    state = next_chance(state)
    i = below(state, count)
    state = next_chance(state)
    length = min(1 + below(state, min(LONGEST_STRETCH, count)), count - i)
    state = next_chance(state)
    target = max(0, min(count - length, i + below(state, 2 * FARTHEST + 1) - FARTHEST))
    if target == i:
        return state, -1, -1
    shift(trial, now, i, length, target)
    return state, min(i, target), max(i, target) + length - 1


@njit(cache=True, nogil=True)
def _block_elsewhere(table, block_of, blocks_at, blocks, chosen, now, trial, state):
    """A block stroke by stroke into the visits that others make of its pens, or in one piece."""
    count = now.size
    state = next_chance(state)
    b = block_of[now[below(state, count)]]
    begin, stop = blocks_at[b], blocks_at[b + 1]
    for k in range(begin, stop):
        chosen[blocks[k]] = True
    state = next_chance(state)
    where = below(state, count)
    state = next_chance(state)
    zipped = below(state, 3) > 0 and stop - begin > 1
    ahead = below(state >> np.uint64(8), 2)  # of the other's stroke, or behind it
    written, own = 0, begin
    for k in range(count):
        one = now[k]
        if chosen[one]:
            continue
        if not zipped and k >= where:
            while own < stop:
                trial[written] = blocks[own]
                written, own = written + 1, own + 1
        mine = zipped and k >= where and own < stop and table[blocks[own], PEN] == table[one, PEN]
        if mine and ahead:
            trial[written] = blocks[own]
            written, own = written + 1, own + 1
        trial[written] = one
        written += 1
        if mine and not ahead:
            trial[written] = blocks[own]
            written, own = written + 1, own + 1
    while own < stop:
        trial[written] = blocks[own]
        written, own = written + 1, own + 1
    for k in range(begin, stop):
        chosen[blocks[k]] = False
    first, last = 0, count - 1
    while first < count and trial[first] == now[first]:
        first += 1
    if first == count:
        return state, -1, -1
    while trial[last] == now[last]:
        last -= 1
    return state, first, last
