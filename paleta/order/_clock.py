"""Simulating one hand: given an order of units, when does each pass start and what does it wait for."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field

from paleta.order._pace import Pace
from paleta.order._plan import Pass, Plan
from paleta.order._work import Stroke

Near = Mapping[int, Sequence[int]]


@dataclass(frozen=True, slots=True)
class Unit:
    """Strokes that are laid in one go, without a wait in between.

    keys  (region, number of its block) of every region in it: where it stands in their chains.
    """

    strokes: tuple[Stroke, ...]
    keys: tuple[tuple[int, int], ...]

    @property
    def openings(self) -> tuple[Stroke, ...]:
        """The first stroke of each of its regions."""
        return self.strokes[: len(self.keys)]


@dataclass(slots=True)
class Clock:
    """One hand at work: the time, the pen in it, and when each region was last touched."""

    pace: Pace
    near: Near
    now_s: float = 0.0
    pen: str | None = None
    changes: int = 0
    region_end_s: dict[int, float] = field(default_factory=dict)

    def ready(self, unit: Unit) -> tuple[float, int | None]:
        """When the paper is dry for all of `unit`, and the region that is waited for (None: it is dry already).

        A wait inside a unit could spoil a blend, so every region of it must be ready before its first stroke.
        """
        ready_s, cause = 0.0, None
        for stroke in unit.openings:
            if stroke.join == "dry" and self.region_end_s[stroke.region] + self.pace.coat_dry_s > ready_s:
                ready_s, cause = self.region_end_s[stroke.region] + self.pace.coat_dry_s, stroke.region
            for other in self.near.get(stroke.region, ()):
                dry_s = self.region_end_s.get(other, -1e9) + self.pace.touch_dry_s
                if dry_s > ready_s:
                    ready_s, cause = dry_s, other
        return ready_s, cause

    def take_up(self, pen: str) -> bool:
        """Change to `pen` if it is not in the hand."""
        change = self.pen not in (None, pen)
        if change:
            self.now_s += self.pace.change_s
            self.changes += 1
        self.pen = pen
        return change

    def lay(self, unit: Unit) -> None:
        """Do the whole unit."""
        self.take_up(unit.strokes[0].swatch)
        self.now_s = max(self.now_s, self.ready(unit)[0])
        for stroke in unit.strokes:
            self.take_up(stroke.swatch)
            self.now_s += self.pace.laying_s(stroke.area_mm2)
            self.region_end_s[stroke.region] = self.now_s


def measure(order: Sequence[Unit], pace: Pace, near: Near) -> tuple[float, int]:
    """Duration in seconds and pen changes of an order."""
    clock = Clock(pace, near)
    for unit in order:
        clock.lay(unit)
    return clock.now_s, clock.changes


def to_plan(order: Sequence[Unit], pace: Pace, near: Near, bound_s: float) -> Plan:
    """Put times on an order."""
    names = {stroke.region: stroke.name for unit in order for stroke in unit.strokes}
    clock = Clock(pace, near)
    passes: list[Pass] = []
    for unit in order:
        for place, stroke in enumerate(unit.strokes):
            change = clock.take_up(stroke.swatch)
            ready_s, cause = clock.ready(unit) if place == 0 else (0.0, None)
            start_s = max(clock.now_s, ready_s)
            wait_s = round(start_s - clock.now_s, 1)
            clock.now_s = start_s + pace.laying_s(stroke.area_mm2)
            clock.region_end_s[stroke.region] = clock.now_s
            timed = {
                "number": len(passes) + 1,
                "area_mm2": round(stroke.area_mm2, 2),
                "start_s": round(start_s, 1),
                "end_s": round(clock.now_s, 1),
                "wait_s": wait_s,
                "wait_for": _reason(unit, cause, names) if wait_s > 0 else "",
                "change": change,
            }
            passes.append(Pass(**{**asdict(stroke), **timed}))
    return Plan(
        passes=tuple(passes), pen_changes=clock.changes, duration_s=round(clock.now_s, 1), bound_s=round(bound_s, 1)
    )


def _reason(unit: Unit, cause: int | None, names: Mapping[int, str]) -> str:
    if cause is None:
        return ""
    if cause in {region for region, _ in unit.keys}:
        return f"the first coat of {names[cause]} to dry"
    return f"{names[cause]} to be touch dry"
