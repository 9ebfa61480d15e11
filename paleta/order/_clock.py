"""Simulating one hand: which pen it holds, what time it is, and when the paper is dry."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import NamedTuple

from paleta.order._pace import Pace
from paleta.order._work import Stroke

Near = Mapping[int, Sequence[int]]


@dataclass(slots=True)
class Hand:
    """One hand at work: the time, and the pen in it."""

    pace: Pace
    now_s: float = 0.0
    pen: str | None = None
    changes: int = 0

    def take_up(self, pen: str) -> bool:
        """Change to `pen` if it is not in the hand."""
        change = self.pen not in (None, pen)
        if change:
            self.now_s += self.pace.change_s
            self.changes += 1
        self.pen = pen
        return change

    def wait_until(self, ready_s: float) -> float:
        """Rest until then; how long that was, in seconds."""
        waited_s = max(0.0, ready_s - self.now_s)
        self.now_s += waited_s
        return waited_s

    def lay(self, stroke: Stroke, paper: Paper, ready_s: float = 0.0) -> Laid:
        """Take the stroke's pen, wait until `ready_s`, and lay it on `paper`."""
        change = self.take_up(stroke.swatch)
        waited_s = self.wait_until(ready_s)
        start_s = self.now_s
        self.now_s += self.pace.laying_s(stroke.area_mm2)
        paper.region_end_s[stroke.region] = self.now_s
        return Laid(change, waited_s, start_s)


class Laid(NamedTuple):
    """How a stroke was laid: whether the pen was changed for it, how long it waited, when it began; seconds."""

    change: bool
    waited_s: float
    start_s: float


@dataclass(slots=True)
class Paper:
    """One card: when each region was last touched, and so when it is dry."""

    pace: Pace
    near: Near
    region_end_s: dict[int, float] = field(default_factory=dict)

    def ready(self, strokes: Sequence[Stroke]) -> tuple[float, int | None]:
        """When the paper is dry for all `strokes`, and the region that is waited for (None: it is dry already)."""
        ready_s, cause = 0.0, None
        for stroke in strokes:
            if stroke.join == "dry" and self.region_end_s[stroke.region] + self.pace.coat_dry_s > ready_s:
                ready_s, cause = self.region_end_s[stroke.region] + self.pace.coat_dry_s, stroke.region
            for other in self.near.get(stroke.region, ()):
                dry_s = self.region_end_s.get(other, -1e9) + self.pace.touch_dry_s
                if dry_s > ready_s:
                    ready_s, cause = dry_s, other
        return ready_s, cause
