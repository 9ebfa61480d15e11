"""How long things really took, pass by pass."""

from __future__ import annotations

from collections.abc import Sequence

from paleta.order import Pace, Pass, TimedPasses
from paleta.run._events import ExtraCoat, Laid
from paleta.run._replay import RunState

BREAK_S = 900.0
"""Longer than this nobody lays one pass: the kettle was on."""


def times_of(state: RunState) -> list[TimedPasses]:
    """The times between one tick and the next, less what the paper made wait for. The first tick has none before it."""
    passes = {one.number: one for one in state.plan.passes}
    pace, near = state.pace, state.plan.work.neighbours() if state.plan.work else {}
    touched: dict[tuple[int, int], float] = {}
    found: list[TimedPasses] = []
    before_s: float | None = None
    pen = None
    for event in state.log:
        if isinstance(event, Laid | ExtraCoat):
            ones = [passes[number] for number in event.passes if number in passes]
            if ones and before_s is not None:
                ready_s = max(_ready(one, event.card, touched, pace, near.get(one.region, ())) for one in ones[:1])
                seconds = event.at_s - max(before_s, min(ready_s, event.at_s))
                if 0.5 < seconds < BREAK_S:
                    area = sum(one.area_mm2 for one in ones)
                    found.append(TimedPasses(seconds, len(ones), area, ones[0].swatch != pen))
            for one in ones:
                touched[event.card, one.region] = event.at_s
                pen = one.swatch
        before_s = event.at_s
    return found


def _ready(one: Pass, card: int, touched: dict[tuple[int, int], float], pace: Pace, near: Sequence[int]) -> float:
    """When the paper was dry for it."""
    own = touched.get((card, one.region), 0.0) + pace.coat_dry_s if one.join == "dry" else 0.0
    return max([own, *(touched[card, other] + pace.touch_dry_s for other in near if (card, other) in touched)])
