"""How long things really took, pass by pass."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from paleta.order import Pass, TimedPasses
from paleta.run._events import ExtraCoat, PassesLaid
from paleta.run._replay import RunState
from paleta.run._wet import Touched, needs_of, ways_of

SHORTEST_S, BREAK_S = 0.5, 900.0
"""A tick sooner than this corrects another; longer nobody lays one pass: the kettle was on."""


def times_of(state: RunState) -> dict[str, list[TimedPasses]]:
    """By medium the times between one tick and the next, less what the paper made wait for. The first tick has none
    before it, and one before which another medium was set up tells nothing of the hand."""
    found: dict[str, list[TimedPasses]] = {}
    before: Pass | None = None
    for ones, seconds in _gaps(state):
        one = ones[0]
        if SHORTEST_S < seconds < BREAK_S and (before is None or before.medium == one.medium):
            area = sum(one.area_mm2 for one in ones)
            change = before is None or before.pen != one.pen
            found.setdefault(one.medium, []).append(TimedPasses(seconds, len(ones), area, change))
        before = ones[-1]
    return found


def seconds_of(state: RunState) -> float:
    """How long it took by the clock, from the first line that counts to the last pass; of a long break, or a night,
    only BREAK_S are counted."""
    done = [one.at_s for card in state.cards for one in (*card.laid.values(), *card.again)]
    if not done:
        return 0.0
    times = [event.at_s for event in state.log if event.at_s <= max(done)]
    return sum(min(after - before, BREAK_S) for before, after in pairwise(times))


def seconds_by_pass(state: RunState) -> dict[int, float]:
    """How long every pass took the hand, over all cards; what was ticked off together is shared out as it was planned.
    Passes nobody timed are missing."""
    found: dict[int, float] = {}
    for ones, seconds in _gaps(state):
        if SHORTEST_S < seconds < BREAK_S:
            planned = [max(one.end_s - one.start_s, 1e-3) for one in ones]
            for one, share in zip(ones, planned, strict=True):
                found[one.number] = found.get(one.number, 0.0) + seconds * share / sum(planned)
    return found


def _gaps(state: RunState) -> Iterator[tuple[list[Pass], float]]:
    """Every tick with its passes and the seconds of work before it; the first tick has none before it."""
    passes = {one.number: one for one in state.plan.passes}
    needs = needs_of(state.plan)
    paces = ways_of(state.plan).paces
    touched: dict[tuple[int, int], Touched] = {}
    before_s: float | None = None
    for event in state.log:
        if isinstance(event, PassesLaid | ExtraCoat):
            ones = [passes[number] for number in event.passes if number in passes]
            if ones and before_s is not None:
                asked = ((touched.get((event.card, need.region)), need) for need in needs[ones[0].number])
                dry = (last.ready_s(need) for last, need in asked if last is not None)
                yield ones, event.at_s - max(before_s, min(max(dry, default=0.0), event.at_s))
            for one in ones:
                touched[event.card, one.region] = Touched(event.at_s, paces[one.medium])
        before_s = event.at_s
