"""A plan: passes with their times."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.order._schools import Join


@dataclass(frozen=True, slots=True)
class Pass:
    """One swatch laid on one region.

    shade     1 = palest. zones: zone numbers covered, 0 = deepest; `zone` says the same in words.
    join      how it follows the region's pass before: "start", "wet", "dry" or "any".
    wait_s    idle time just before it, with `wait_for` saying why.
    change    whether the pen is changed for it.
    """

    number: int
    region: int
    name: str
    swatch: str
    shade: int
    zones: tuple[int, ...]
    zone: str
    join: Join
    how: str
    area_mm2: float
    start_s: float
    end_s: float
    wait_s: float
    wait_for: str
    change: bool


@dataclass(frozen=True, slots=True)
class Plan:
    """Passes in order. `bound_s` is a time no order can beat."""

    passes: tuple[Pass, ...]
    pen_changes: int
    duration_s: float
    bound_s: float
