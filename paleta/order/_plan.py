"""A plan: passes with their times."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

from paleta.errors import SchoolError
from paleta.media import School
from paleta.order._ways import Paces, Schools, Ways
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
    """A mask being laid, wiped between two inks or lifted: `kind` is "lay", "wipe" or "lift"; it comes before the pass
    numbered `before_pass`."""

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

    handling  masks laid, wiped and lifted between the passes, by time.
    work, ways  what it was made for; a plan read from a file does not know them.
    """

    passes: tuple[Pass, ...]
    pen_changes: int
    duration_s: float
    bound_s: float
    handling: tuple[Handling, ...] = ()
    ways: Ways | None = field(default=None, compare=False, repr=False)
    work: Work | None = field(default=None, compare=False, repr=False)

    def laid_by(self, school: Schools | None = None, pace: Paces | None = None) -> Ways:
        """How it is laid: as it was made for, save where schools or paces are named.

        Raises
        ------
        SchoolError
            If neither the plan nor the caller names a school.
        """
        if school is not None:
            ways = Ways.of(school, pace or (self.ways.paces if self.ways else None))
            named = {school.medium: school} if isinstance(school, School) else school
            known = self.ways.schools if self.ways is not None else {}
            return replace(ways, schools={**ways.schools, **known, **named})
        if self.ways is None:
            raise SchoolError("A plan that was read from a file is judged by a school: name it.")
        return replace(self.ways, paces=Ways.of(self.ways.schools[self.ways.usual], pace).paces) if pace else self.ways
