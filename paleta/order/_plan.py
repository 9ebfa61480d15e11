"""A plan: passes with their times."""

from __future__ import annotations

from dataclasses import dataclass, field

from paleta.order._pace import Pace
from paleta.order._schools import School
from paleta.order._work import Stroke, Work


@dataclass(frozen=True, slots=True)
class Pass(Stroke):
    """A stroke with its number and its time.

    wait_s    idle time just before it, with `wait_for` saying why.
    change    whether the pen is changed for it.
    """

    number: int
    start_s: float
    end_s: float
    wait_s: float
    wait_for: str
    change: bool


@dataclass(frozen=True, slots=True)
class Handling:
    """A mask being laid or lifted: `kind` is "lay" or "lift"; it comes before the pass numbered `before_pass`."""

    kind: str
    mask: int
    name: str
    how: str
    before_pass: int
    start_s: float
    end_s: float
    wait_s: float


@dataclass(frozen=True, slots=True)
class Plan:
    """Passes in order. `bound_s` is a time no order can beat.

    handling  masks laid and lifted between the passes, by time.
    work, school, pace  what it was made for; a plan read from a file does not know them.
    """

    passes: tuple[Pass, ...]
    pen_changes: int
    duration_s: float
    bound_s: float
    handling: tuple[Handling, ...] = ()
    school: School | None = field(default=None, compare=False, repr=False)
    pace: Pace | None = field(default=None, compare=False, repr=False)
    work: Work | None = field(default=None, compare=False, repr=False)
