"""Simulating one hand: given an order of units, when does each pass start and what does it wait for."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field
from typing import NamedTuple

from paleta.order._pace import Pace
from paleta.order._plan import Pass, Plan
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


class Unit:
    """Strokes that are laid in one go, without a wait in between.

    strokes   in order; the first of each region comes before the second of any.
    keys      (region, number of its block) of every region in it: where it stands in their chains.
    openings  the first stroke of each of its regions.
    ends_s    when the last stroke on each region ends, in seconds from the first stroke.
    changes   of pen inside of it.
    """

    __slots__ = ("changes", "ends_s", "keys", "length_s", "openings", "strokes")

    def __init__(self, strokes: Sequence[Stroke], keys: Sequence[tuple[int, int]], pace: Pace) -> None:
        self.strokes, self.keys = tuple(strokes), tuple(keys)
        self.openings = self.strokes[: len(self.keys)]
        hand, paper = Hand(pace), Paper(pace, {})
        for stroke in self.strokes:
            hand.lay(stroke, paper)
        self.ends_s, self.changes, self.length_s = paper.region_end_s, hand.changes, hand.now_s


@dataclass(slots=True)
class Clock:
    """One hand on one card, unit by unit."""

    pace: Pace
    near: Near
    hand: Hand = field(init=False)
    paper: Paper = field(init=False)

    def __post_init__(self) -> None:
        self.hand, self.paper = Hand(self.pace), Paper(self.pace, self.near)

    def ready(self, unit: Unit) -> tuple[float, int | None]:
        """When all of `unit` may begin: a wait inside of it could spoil a blend."""
        return self.paper.ready(unit.openings)

    def lay(self, unit: Unit) -> None:
        """Do the whole unit. What happens inside of it is always the same, so it is not gone through again."""
        hand = self.hand
        hand.take_up(unit.strokes[0].swatch)
        hand.wait_until(self.ready(unit)[0])
        for region, end_s in unit.ends_s.items():
            self.paper.region_end_s[region] = hand.now_s + end_s
        hand.now_s += unit.length_s
        hand.changes += unit.changes
        hand.pen = unit.strokes[-1].swatch


def measure(order: Sequence[Unit], pace: Pace, near: Near) -> tuple[float, int]:
    """Duration in seconds and pen changes of an order."""
    clock = Clock(pace, near)
    for unit in order:
        clock.lay(unit)
    return clock.hand.now_s, clock.hand.changes


def to_plan(order: Sequence[Unit], pace: Pace, near: Near, bound_s: float) -> Plan:
    """Put times on an order."""
    names = {stroke.region: stroke.name for unit in order for stroke in unit.strokes}
    clock = Clock(pace, near)
    passes: list[Pass] = []
    for unit in order:
        ready_s, cause = clock.ready(unit)
        for place, stroke in enumerate(unit.strokes):
            laid = clock.hand.lay(stroke, clock.paper, ready_s if place == 0 else 0.0)
            wait_s = round(laid.waited_s, 1)
            timed = {
                "number": len(passes) + 1,
                "area_mm2": round(stroke.area_mm2, 2),
                "start_s": round(laid.start_s, 1),
                "end_s": round(clock.hand.now_s, 1),
                "wait_s": wait_s,
                "wait_for": _reason(unit, cause, names) if wait_s > 0 else "",
                "change": laid.change,
            }
            passes.append(Pass(**{**asdict(stroke), **timed}))
    hand = clock.hand
    return Plan(
        passes=tuple(passes), pen_changes=hand.changes, duration_s=round(hand.now_s, 1), bound_s=round(bound_s, 1)
    )


def _reason(unit: Unit, cause: int | None, names: Mapping[int, str]) -> str:
    if cause is None:
        return ""
    if cause in {region for region, _ in unit.keys}:
        return f"the first coat of {names[cause]} to dry"
    return f"{names[cause]} to be touch dry"
