"""How long things really took, pass by pass."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from paleta.order import Pass, TimedPasses
from paleta.run._events import ExtraCoat, Laid
from paleta.run._replay import RunState
from paleta.run._wet import needs_of

SHORTEST_S, BREAK_S = 0.5, 900.0
"""A tick sooner than this corrects another; longer nobody lays one pass: the kettle was on."""


def times_of(state: RunState) -> list[TimedPasses]:
    """The times between one tick and the next, less what the paper made wait for. The first tick has none before it."""
    found: list[TimedPasses] = []
    pen = None
    for ones, seconds in _gaps(state):
        if SHORTEST_S < seconds < BREAK_S:
            area = sum(one.area_mm2 for one in ones)
            found.append(TimedPasses(seconds, len(ones), area, ones[0].swatch != pen))
        pen = ones[-1].swatch
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
    touched: dict[tuple[int, int], float] = {}
    before_s: float | None = None
    for event in state.log:
        if isinstance(event, Laid | ExtraCoat):
            ones = [passes[number] for number in event.passes if number in passes]
            if ones and before_s is not None:
                dry = (touched.get((event.card, need.region), 0.0) + need.seconds for need in needs[ones[0].number])
                yield ones, event.at_s - max(before_s, min(max(dry, default=0.0), event.at_s))
            for one in ones:
                touched[event.card, one.region] = event.at_s
        before_s = event.at_s
