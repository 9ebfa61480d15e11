"""How wet each region is."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from paleta.media import Paper
from paleta.order import Pace
from paleta.run._replay import RunState

THIRSTY = {"watercolour": 1.25}
"""How much longer a paper of this kind stays wet than card: it holds more of what is laid on it. From memory."""


@dataclass(frozen=True, slots=True)
class Wetness:
    """`state` is bare, workable, wet, touch dry or dry. The times are what is left, in seconds: in which a blend still
    melts, until a touching region may be laid, until a second coat may be."""

    state: str
    workable_s: float = 0.0
    touch_dry_s: float = 0.0
    dry_s: float = 0.0


BARE = Wetness("bare")


def slowness(paper: Paper | None) -> float:
    """How much longer drying takes on this paper than the pace says; never less than it says."""
    return THIRSTY.get(paper.kind, 1.0) if paper is not None else 1.0


def wetness(state: RunState, now: float, *, slower: float = 1.0) -> Mapping[tuple[int, int], Wetness]:
    """For every (card, region) that was touched, how wet it is at `now` (seconds since 1970)."""
    pace = state.pace
    return {
        (card.number, region): wetness_after(now - at_s, pace, slower=slower)
        for card in state.cards
        for region, at_s in card.touched.items()
    }


def wetness_after(age_s: float, pace: Pace, *, slower: float = 1.0) -> Wetness:
    """How wet a region is `age_s` seconds after its last pass. A medium that does not dry is dry at once."""
    age_s = max(age_s, 0.0)
    workable_s = max(pace.blend_s - age_s, 0.0)
    touch_s = max(pace.touch_dry_s * slower - age_s, 0.0)
    dry_s = max(pace.coat_dry_s * slower - age_s, 0.0)
    dries = pace.touch_dry_s > 0 or pace.coat_dry_s > 0
    if not dries or (touch_s == 0 and dry_s == 0):
        return Wetness("dry", workable_s if not dries else 0.0)
    word = "workable" if workable_s > 0 else "wet" if touch_s > 0 else "touch dry"
    return Wetness(word, workable_s, touch_s, dry_s)
