"""Simulating one hand: which pen it holds, what time it is, and when the paper is dry."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import NamedTuple

from paleta.order._ways import Ways
from paleta.order._work import Stroke

Near = Mapping[int, Sequence[int]]


@dataclass(slots=True)
class Hand:
    """One hand at work: the time, and the stroke whose pen is in it."""

    ways: Ways
    now_s: float = 0.0
    held: Stroke | None = None
    changes: int = 0

    def take_up(self, stroke: Stroke) -> bool:
        """Change to the stroke's pen if it is not in the hand, and set up its medium if another was in use."""
        held, self.held = self.held, stroke
        if held is None or held.in_hand == stroke.in_hand:
            return False
        pace = self.ways.paces[stroke.medium]
        self.now_s += pace.change_s + (pace.setup_s if held.medium != stroke.medium else 0.0)
        self.changes += 1
        return True

    def wait_until(self, ready_s: float) -> float:
        """Rest until then; how long that was, in seconds."""
        waited_s = max(0.0, ready_s - self.now_s)
        self.now_s += waited_s
        return waited_s

    def lay(self, stroke: Stroke, paper: CardPaper, ready_s: float = 0.0) -> StrokeTiming:
        """Take the stroke's pen, wait until `ready_s`, and lay it on `paper`."""
        change = self.take_up(stroke)
        waited_s = self.wait_until(ready_s)
        start_s = self.now_s
        self.now_s += self.ways.paces[stroke.medium].laying_s(stroke.area_mm2)
        paper.touched(stroke, self.now_s)
        return StrokeTiming(change, waited_s, start_s)


class StrokeTiming(NamedTuple):
    """How a stroke was laid: whether the pen was changed for it, how long it waited, when it began; seconds."""

    change: bool
    waited_s: float
    start_s: float


@dataclass(slots=True)
class CardPaper:
    """One card: when each region was last touched, with what, and so when it is dry."""

    ways: Ways
    near: Near
    last: dict[int, tuple[str, float]] = field(default_factory=dict)

    def touched(self, stroke: Stroke, end_s: float) -> None:
        self.last[stroke.region] = stroke.medium, end_s

    def ready(self, strokes: Sequence[Stroke]) -> tuple[float, int | None]:
        """When the paper is dry for all `strokes`, and the region that is waited for (None: it is dry already)."""
        ready_s, cause = 0.0, None
        for stroke in strokes:
            if stroke.join == "dry":
                medium, end_s = self.last[stroke.region]
                if end_s + self.ways.paces[medium].coat_dry_s > ready_s:
                    ready_s, cause = end_s + self.ways.paces[medium].coat_dry_s, stroke.region
            for other in self.near.get(stroke.region, ()):
                if other in self.last:
                    medium, end_s = self.last[other]
                    if end_s + self.ways.paces[medium].touch_dry_s > ready_s:
                        ready_s, cause = end_s + self.ways.paces[medium].touch_dry_s, other
        return ready_s, cause

    def touch_dry(self, regions: Iterable[int]) -> float:
        """When all of `regions` are touch dry."""
        laid = (self.last[region] for region in regions if region in self.last)
        return max((end_s + self.ways.paces[medium].touch_dry_s for medium, end_s in laid), default=0.0)
