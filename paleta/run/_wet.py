"""How wet each region is."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from paleta.order import DEFAULT_SCHOOL, SCHOOLS, Pace, Pass, Plan, Ways, dry_before


@dataclass(frozen=True, slots=True)
class Wetness:
    """`state` is workable, wet, touch dry or dry. The times are what is left, in seconds: in which a blend still
    melts, until a touching region may be laid, until a second coat may be."""

    state: str
    workable_s: float = 0.0
    touch_dry_s: float = 0.0
    dry_s: float = 0.0


@dataclass(frozen=True, slots=True)
class DryNeed:
    """`region` must be touch dry, or dry enough for a coat over what is there."""

    region: int
    coat: bool


@dataclass(frozen=True, slots=True)
class Touched:
    """A region was last wetted then, in seconds since 1970, and with a medium that dries at this pace."""

    at_s: float
    pace: Pace

    def ready_s(self, need: DryNeed) -> float:
        """When the need is met."""
        return self.at_s + (self.pace.coat_dry_s if need.coat else self.pace.touch_dry_s)


def needs_of(plan: Plan) -> dict[int, tuple[DryNeed, ...]]:
    """For every pass by its number, what must be dry before it: its own coat below, and all that it touches and that
    dries, as far as the plan knows its work."""
    ways = ways_of(plan)
    drying = {one.region for one in plan.passes if ways.paces[one.medium].touch_dry_s > 0}
    near = plan.work.neighbours() if plan.work is not None else {}
    return {one.number: tuple(_needs(one, near.get(one.region, ()), drying)) for one in plan.passes}


def needs_of_handling(plan: Plan) -> tuple[tuple[DryNeed, ...], ...]:
    """For every step of the plan's handling what must be dry before it, as far as the plan knows its work."""
    if plan.work is None:
        return tuple(() for _ in plan.handling)
    return tuple(
        tuple(DryNeed(region, False) for region in sorted(dry_before(step, plan.work))) for step in plan.handling
    )


def _needs(one: Pass, near: Sequence[int], drying: set[int]) -> Iterator[DryNeed]:
    if one.join == "dry":
        yield DryNeed(one.region, True)
    for other in near:
        if other in drying:
            yield DryNeed(other, False)


def ways_of(plan: Plan) -> Ways:
    """How a plan is laid; of one that was read from a file, by common practice for its media."""
    if plan.ways is not None:
        return plan.ways
    media = dict.fromkeys(one.medium for one in plan.passes) or {"marker": None}
    return Ways.of({medium: SCHOOLS[DEFAULT_SCHOOL[medium]] for medium in media})


def wetness_after(age_s: float, pace: Pace) -> Wetness:
    """How wet a region is `age_s` seconds after its last pass. A medium that does not dry is dry at once.

    Parameters
    ----------
    age_s
        Seconds since the last pass.
    pace
        Of its medium on this paper.
    """
    age_s = max(age_s, 0.0)
    workable_s = max(pace.blend_s - age_s, 0.0)
    touch_s = max(pace.touch_dry_s - age_s, 0.0)
    dry_s = max(pace.coat_dry_s - age_s, 0.0)
    dries = pace.touch_dry_s > 0 or pace.coat_dry_s > 0
    if not dries or (touch_s == 0 and dry_s == 0):
        return Wetness("dry", workable_s if not dries else 0.0)
    word = "workable" if workable_s > 0 else "wet" if touch_s > 0 else "touch dry"
    return Wetness(word, workable_s, touch_s, dry_s)
