"""What is to be coloured: one job for every coat of a region, spelled out into passes by a school."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, field

from paleta.errors import PlanImpossible
from paleta.light import SHARES, ZONE_NAMES
from paleta.media import MEDIA, Join, School, SchoolStep, split_code

SHARES_ROUNDING = 0.01
MASK_KINDS = ("mask", "tape")
Pen = tuple[str, str]
"""A swatch to be taken up: its medium, since drawers may use the same codes, and its code."""
LEAST_SHARE = 0.004
"""A zone with less of the region than this is no zone to lay a pen on."""


@dataclass(frozen=True, slots=True)
class Job:
    """One coat on one region.

    ramp    swatch codes, palest first; an empty one stays paper.
    shares  part of the area in each zone, deepest first; empty = the usual shares. A zone of no area gets no pass.
    reserved  part of the area that stays bare paper, the highlight.
    rank      jobs of a lower rank are finished before those of a higher one begin.
    medium    empty = that of the school the plan is made with.
    coat      coats of a region are laid lowest first; no two have the same number.
    school    how this coat is laid; None = by the school of its medium.
    zones     for each zone of the coat the region's zones it covers, where a region has more of them than the coat.
    whole     a single shade is laid in all steps of its school, as on grounds, not in one flat coat.
    thing     the number of the thing that the region belongs to; 0 = it is one by itself.
    place, how  of an accent, which is no zone: where it goes and how, in words; it is one stroke.
    """

    region: int
    name: str
    area_mm2: float
    ramp: tuple[str, ...]
    shares: tuple[float, ...] = ()
    reserved: float = 0.0
    rank: int = 0
    medium: str = ""
    coat: int = 0
    school: School | None = None
    zones: tuple[tuple[int, ...], ...] = ()
    whole: bool = False
    place: str = ""
    how: str = ""
    thing: int = 0

    def __post_init__(self) -> None:
        if self.medium and self.medium not in MEDIA:
            raise PlanImpossible(f"{self.name}: the medium must be one of {', '.join(MEDIA)}, got {self.medium!r}.")
        if self.school is not None and self.school.medium != self.medium:
            raise PlanImpossible(f"{self.name}: {self.school.name} is no school for its medium.")
        if self.zones and len(self.zones) != len(self.ramp):
            raise PlanImpossible(f"{self.name} has {len(self.ramp)} shades for {len(self.zones)} zones.")
        if self.place and len(self.ramp) != 1:
            raise PlanImpossible(f"{self.name}: an accent has one swatch.")


@dataclass(frozen=True, slots=True)
class Mask:
    """Covers the regions `over` for as long as the regions `during` are worked on. `kind` is "mask" or "tape", which
    may cover no region but only the line it lies on."""

    over: frozenset[int]
    during: frozenset[int]
    kind: str = "mask"

    def __post_init__(self) -> None:
        if self.kind not in MASK_KINDS:
            raise PlanImpossible(f"What covers is one of {', '.join(MASK_KINDS)}, got {self.kind!r}.")
        if self.over & self.during:
            raise PlanImpossible("A region cannot lie under the mask and be coloured over it.")


@dataclass(frozen=True, slots=True)
class Work:
    """All jobs, and which regions touch each other (pairs in any order; pairs without jobs are ignored).

    creepers are swatches so dark that they creep past the line, to be laid after paler neighbours of their medium; by
    their code, or as pens where media may share codes. What lies under a mask must have another rank than what is
    coloured over it.
    """

    jobs: tuple[Job, ...]
    touching: frozenset[frozenset[int]] = field(default_factory=frozenset)
    creepers: frozenset[str | Pen] = frozenset()
    masks: tuple[Mask, ...] = ()

    def __post_init__(self) -> None:
        coats = [(job.region, job.coat) for job in self.jobs]
        if len(set(coats)) != len(coats):
            raise PlanImpossible("A coat of a region is listed twice in the work.")
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

    def creeps(self, stroke: Stroke) -> bool:
        return stroke.swatch in self.creepers or stroke.pen in self.creepers

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

    coat   which of the region's coats it belongs to.
    shade  1 = palest. zones: zones of the region that it covers, 0 = deepest, none of an accent; `zone` says the same
           in words.
    join   how it follows the region's pass before: "start", "wet", "dry" or "any".
    """

    region: int
    name: str
    medium: str
    coat: int
    swatch: str
    shade: int
    zones: tuple[int, ...]
    zone: str
    join: Join
    how: str
    area_mm2: float

    @property
    def pen(self) -> Pen:
        return self.medium, self.swatch

    @property
    def in_hand(self) -> Pen:
        """What is in the hand: the same pen or paint at whatever strength."""
        return self.medium, split_code(self.swatch)[0]


def expand(job: Job, school: School) -> list[Stroke]:
    """The strokes of one coat in the school's order; none for an empty ramp, one flat coat for a single shade.

    Where a school goes over something again to melt steps and the region has none there, the same coat is not laid
    twice.

    Parameters
    ----------
    job
        One coat of a region: swatch codes, palest first, and its area in mm2.
    school
        Of the coat's medium.
    """
    count = len(job.ramp)
    if count == 0:
        return []
    over = "all but the highlight" if job.reserved else "all over"
    if job.place or (count == 1 and not job.whole):
        return [_single(job, school, over)]
    shares = job.shares or SHARES[count]
    covered = job.zones or tuple((zone,) for zone in range(count))
    there = {zone for zone in range(count) if shares[zone] >= LEAST_SHARE}
    strokes: list[Stroke] = []
    own: tuple[int, ...] = ()
    for step in school.steps:
        for shade in _shades(step, school, count):
            zone = count - shade
            everywhere = step.where == "all over"
            zones = tuple(range(count)) if everywhere else (zone,)
            if not everywhere and zone not in there:
                continue
            if strokes and step.join != "dry" and _again(strokes[-1], own, job.ramp[shade - 1], zones, there):
                continue
            own = zones
            strokes.append(
                Stroke(
                    region=job.region,
                    name=job.name,
                    medium=school.medium,
                    coat=job.coat,
                    swatch=job.ramp[shade - 1],
                    shade=shade,
                    zones=tuple(one for zone in zones for one in covered[zone]),
                    zone=over if everywhere or count == 1 else ZONE_NAMES[count][zone],
                    join="start" if not strokes else "wet" if step.join == "start" else step.join,
                    how=step.how,
                    area_mm2=job.area_mm2 * (1 - job.reserved if everywhere else shares[zone]),
                )
            )
    return strokes


def _single(job: Job, school: School, over: str) -> Stroke:
    """A flat coat, or an accent."""
    covered = job.zones[0] if job.zones else (0,)
    return Stroke(
        region=job.region,
        name=job.name,
        medium=school.medium,
        coat=job.coat,
        swatch=job.ramp[0],
        shade=1,
        zones=() if job.place else covered,
        zone=job.place or over,
        join="start",
        how=job.how or "one even, flat coat",
        area_mm2=job.area_mm2 * (1 - job.reserved),
    )


def _again(before: Stroke, own: tuple[int, ...], swatch: str, zones: tuple[int, ...], there: set[int]) -> bool:
    """Whether the stroke laid before, on the coat's zones `own`, is to be laid once more."""
    return before.swatch == swatch and there & set(own) == there & set(zones)


def _shades(step: SchoolStep, school: School, count: int) -> list[int]:
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
