"""Chance that falls alike on every machine: nothing here calls its exp, log or pow, which differ in the last bit."""

from __future__ import annotations

import numpy as np
from numba import njit


@njit(cache=True, nogil=True)
def next_chance(state):
    """Marsaglia's xorshift of 64 bits [Marsaglia2003]."""
    state ^= state << np.uint64(13)
    state ^= state >> np.uint64(7)
    state ^= state << np.uint64(17)
    return state


@njit(cache=True, nogil=True)
def below(state, limit):
    """A whole number from 0 up to `limit`, without it.

    Parameters
    ----------
    state
        of the generator
    limit
        above 0
    """
    return np.int64((state >> np.uint64(11)) % np.uint64(limit))


@njit(cache=True, nogil=True)
def worst_allowed(heat, state):
    """How much worse chance allows the next to be: spread as -heat * log(u) is, the logarithm added up as a series.

    Parameters
    ----------
    heat
        in units of cost
    state
        of the generator
    """
    u = (np.float64(state >> np.uint64(11)) + 1.0) / 9007199254740993.0
    halved = 0
    while u < 0.5:
        u *= 2.0
        halved += 1
    x = (u - 1.0) / (u + 1.0)
    square = x * x
    log = 2.0 * x * (1.0 + square * (1.0 / 3.0 + square * (0.2 + square / 7.0)))
    return np.int64(heat * (0.6931471805599453 * halved - log))


COOLINGS, COOLER = 60, 0.9


@njit(cache=True, nogil=True)
def cooled(heat, turn, rounds):
    """Heat falls in COOLINGS steps over all rounds, each COOLER than the one before.

    Parameters
    ----------
    heat
        before this turn
    turn
        from 0
    rounds
        of all
    """
    return heat * COOLER if turn and turn % (rounds // COOLINGS + 1) == 0 else heat
