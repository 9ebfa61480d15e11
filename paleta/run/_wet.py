"""How wet each region is."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from paleta.media import Paper
from paleta.order import PACES, Pace, Pass, Plan

THIRSTY = {"watercolour": 1.25}
"""How much longer a paper of this kind stays wet than card: it holds more of what is laid on it. From memory."""


@dataclass(frozen=True, slots=True)
class Wetness:
    """`state` is workable, wet, touch dry or dry. The times are what is left, in seconds: in which a blend still
    melts, until a touching region may be laid, until a second coat may be."""

    state: str
    workable_s: float = 0.0
    touch_dry_s: float = 0.0
    dry_s: float = 0.0


def slowness(paper: Paper | None) -> float:
    """How much longer drying takes on this paper than the pace says; never less than it says."""
    return THIRSTY.get(paper.kind, 1.0) if paper is not None else 1.0


@dataclass(frozen=True, slots=True)
class Need:
    """So many seconds must have passed since `region` was last touched."""

    region: int
    seconds: float


def needs_of(plan: Plan, *, slower: float = 1.0) -> dict[int, tuple[Need, ...]]:
    """For every pass by its number, what must be dry before it: its own coat below, and all that it touches as far as
    the plan knows its work."""
    pace = pace_of(plan)
    near = plan.work.neighbours() if plan.work is not None else {}
    return {one.number: tuple(_needs(one, pace, near.get(one.region, ()), slower)) for one in plan.passes}


def _needs(one: Pass, pace: Pace, near: Sequence[int], slower: float) -> Iterator[Need]:
    if one.join == "dry":
        yield Need(one.region, pace.coat_dry_s * slower)
    if pace.touch_dry_s > 0:
        for other in near:
            yield Need(other, pace.touch_dry_s * slower)


def pace_of(plan: Plan) -> Pace:
    """The pace a plan was made for; of one that was read from a file, common practice for its medium."""
    return plan.pace or PACES[plan.school.medium if plan.school else "marker"]


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
