"""What is to be coloured: one job per region, spelled out into passes by a school."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, field

from paleta.errors import PlanImpossible
from paleta.light import SHARES, ZONE_NAMES
from paleta.order._schools import Join, School, Step

SHARES_ROUNDING = 0.01
LEAST_SHARE = 0.004
"""A zone with less of the region than this is no zone to lay a pen on."""


@dataclass(frozen=True, slots=True)
class Job:
    """One region to colour.

    ramp    swatch codes, palest first; an empty one stays paper.
    shares  part of the area in each zone, deepest first; empty = the usual shares. A zone of no area gets no pass.
    reserved  part of the area that stays bare paper, the highlight.
    rank      jobs of a lower rank are finished before those of a higher one begin.
    """

    region: int
    name: str
    area_mm2: float
    ramp: tuple[str, ...]
    shares: tuple[float, ...] = ()
    reserved: float = 0.0
    rank: int = 0


@dataclass(frozen=True, slots=True)
class Mask:
    """Covers the regions `over` for as long as the regions `during` are worked on."""

    over: frozenset[int]
    during: frozenset[int]

    def __post_init__(self) -> None:
        if self.over & self.during:
            raise PlanImpossible("A region cannot lie under the mask and be coloured over it.")


@dataclass(frozen=True, slots=True)
class Work:
    """All jobs, and which regions touch each other (pairs in any order; pairs without jobs are ignored).

    creepers are swatches so dark that they creep past the line, to be laid after paler neighbours. What lies under a
    mask must have another rank than what is coloured over it.
    """

    jobs: tuple[Job, ...]
    touching: frozenset[frozenset[int]] = field(default_factory=frozenset)
    creepers: frozenset[str] = frozenset()
    masks: tuple[Mask, ...] = ()

    def __post_init__(self) -> None:
        regions = [job.region for job in self.jobs]
        if len(set(regions)) != len(regions):
            raise PlanImpossible("A region is listed twice in the work.")
        for job in self.jobs:
            if len(job.ramp) > 5:
                raise PlanImpossible(f"{job.name} has {len(job.ramp)} shades; 5 are the most.")
            if job.shares and len(job.shares) != len(job.ramp):
                raise PlanImpossible(f"{job.name} has {len(job.ramp)} shades but {len(job.shares)} zones.")
            if job.area_mm2 < 0:
                raise PlanImpossible(f"{job.name} has a negative area.")
            if not math.isfinite(job.area_mm2):
                raise PlanImpossible(f"{job.name} has no area that is a number.")
            if not 0 <= job.reserved <= 1:
                raise PlanImpossible(f"{job.name} keeps {job.reserved:g} of its area bare; it has only the whole.")
            if not all(0 <= share <= 1 for share in job.shares) or sum(job.shares) > 1 + SHARES_ROUNDING:
                raise PlanImpossible(f"The zones of {job.name} must be shares of its area.")

    @staticmethod
    def pairs(pairs: Iterable[tuple[int, int]]) -> frozenset[frozenset[int]]:
        return frozenset(frozenset(pair) for pair in pairs)

    def neighbours(self) -> dict[int, tuple[int, ...]]:
        """For each job's region the job regions it touches, rising."""
        known = {job.region for job in self.jobs if job.ramp}
        near: dict[int, set[int]] = {region: set() for region in known}
        for pair in self.touching:
            if len(pair) == 2 and pair <= known:
                one, other = pair
                near[one].add(other)
                near[other].add(one)
        return {region: tuple(sorted(others)) for region, others in near.items()}


@dataclass(frozen=True, slots=True)
class Stroke:
    """One swatch to be laid on one region: a pass before it has a time.

    shade  1 = palest. zones: zone numbers covered, 0 = deepest; `zone` says the same in words.
    join   how it follows the region's pass before: "start", "wet", "dry" or "any".
    """

    region: int
    name: str
    swatch: str
    shade: int
    zones: tuple[int, ...]
    zone: str
    join: Join
    how: str
    area_mm2: float


def expand(job: Job, school: School) -> list[Stroke]:
    """The strokes of one region in the school's order; none for an empty ramp, one flat coat for a single shade.

    Where a school goes over something again to melt steps and the region has none there, the same coat is not laid
    twice.
    """
    count = len(job.ramp)
    if count == 0:
        return []
    over = "all but the highlight" if job.reserved else "all over"
    if count == 1:
        return [
            Stroke(
                region=job.region,
                name=job.name,
                swatch=job.ramp[0],
                shade=1,
                zones=(0,),
                zone=over,
                join="start",
                how="one even, flat coat",
                area_mm2=job.area_mm2 * (1 - job.reserved),
            )
        ]
    shares = job.shares or SHARES[count]
    there = {zone for zone in range(count) if shares[zone] >= LEAST_SHARE}
    strokes: list[Stroke] = []
    for step in school.steps:
        for shade in _shades(step, school, count):
            zone = count - shade
            everywhere = step.where == "all over"
            zones = tuple(range(count)) if everywhere else (zone,)
            if not everywhere and zone not in there:
                continue
            if strokes and step.join != "dry" and _again(strokes[-1], job.ramp[shade - 1], zones, there):
                continue
            strokes.append(
                Stroke(
                    region=job.region,
                    name=job.name,
                    swatch=job.ramp[shade - 1],
                    shade=shade,
                    zones=zones,
                    zone=over if everywhere else ZONE_NAMES[count][zone],
                    join="start" if not strokes else "wet" if step.join == "start" else step.join,
                    how=step.how,
                    area_mm2=job.area_mm2 * (1 - job.reserved if everywhere else shares[zone]),
                )
            )
    return strokes


def _again(before: Stroke, swatch: str, zones: tuple[int, ...], there: set[int]) -> bool:
    return before.swatch == swatch and there & set(before.zones) == there & set(zones)


def _shades(step: Step, school: School, count: int) -> list[int]:
    """Shade numbers, 1 = palest. A school that names the second darkest leaves it out of its middles."""
    middles = list(range(2, count))
    if any(other.which == "second darkest" for other in school.steps):
        middles = middles[:-1]
    table = {
        "palest": [1],
        "middle": [(count + 1) // 2],
        "darkest": [count],
        "second darkest": [count - 1] if count > 2 else [],
        "middles from pale": middles,
        "middles from dark": middles[::-1],
    }
    return table[step.which]
