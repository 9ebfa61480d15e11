"""What was measured of each region and swatch, before anything is called a fault."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from paleta.colour import Lab, as_lab, difference
from paleta.impression import PAPER
from paleta.light import NO_ZONE
from paleta.order import Pen
from paleta.photo_check._cast import Corrected
from paleta.photo_check._cells import Cells, lab_of_log
from paleta.picture import Planned
from paleta.recipe import Sheet, spread_over

ENOUGH_PX = 60.0
"""Pixels from which a zone is known about as well as the hand lets it be."""
NEIGHBOURS, ENOUGH_REGIONS = 6, 20
TOGETHER, PATCHES = 0.15, 1.4
"""Likeness among neighbours, and spread of lightness, from which a photo's light lies in patches. Photos of the
simulated homes have up to 0.07 and 1.2; with a hard shadow 0.18 to 0.54 and 3 to 5 (tools/photo_check)."""
FLAT_LIGHTNESS = 5.0
"""Planned lightness must span this much before its direction can be seen."""


@dataclass(frozen=True, slots=True)
class ZoneReading:
    """A zone of a region: planned and seen L*a*b*, its pixels, and the pen that makes most of its colour."""

    zone: int
    plan: Lab
    seen: Lab
    pixels: int
    pen: Pen | None = None

    @property
    def shift(self) -> NDArray[np.float64]:
        return np.subtract(self.seen, self.plan)


@dataclass(frozen=True, slots=True)
class RegionReading:
    """A region as a whole.

    plan, seen  mean L*a*b* over its zones by their areas. size: CIEDE2000 between the two; doubt: what of it measuring
                alone may make.
    slope       lightness seen over lightness planned within it: 1 as planned, 0 flat, below 0 lit from the other side;
                None where hardly any is planned. alike: correlation of the two, 0 where there is no slope.
    off_ramp    CIEDE2000 by which it is off the colours of its ramp and all between them: a shade that reaches farther
                than planned changes the mean, but is no other colour.
    laid        0 as bare as the paper, 1 as far from it as planned; None where the plan is hardly off the paper.
    """

    label: int
    zones: tuple[ZoneReading, ...]
    plan: Lab
    seen: Lab
    size: float
    doubt: float
    off_ramp: float
    slope: float | None
    alike: float
    laid: float | None

    @property
    def shift(self) -> NDArray[np.float64]:
        return np.subtract(self.seen, self.plan)

    @property
    def pixels(self) -> int:
        return sum(one.pixels for one in self.zones)


def readings_of(plan: Planned, cells: Cells, corrected: Corrected) -> dict[int, RegionReading]:
    """Of every coloured region of which enough was seen.

    Parameters
    ----------
    plan
        what was to be laid
    cells
        what the photo shows on each zone
    corrected
        its light and what is left of it

    Returns
    -------
    By region.
    """
    pens = pens_by_zone(plan.sheet)
    codes = cells.region.astype(np.int64) * 256 + cells.zone
    offs = {(int(label), int(zone)): place for place, (label, zone) in enumerate(corrected.zones)}
    zones: dict[int, list[tuple[ZoneReading, float]]] = {}
    for (label, zone), place in offs.items():
        if label == PAPER or zone == NO_ZONE:
            continue
        own = codes == label * 256 + zone
        planned = np.average(cells.plan[own], axis=0, weights=cells.pixels[own])
        reading = ZoneReading(
            zone=zone,
            plan=as_lab(lab_of_log(planned)),
            seen=as_lab(lab_of_log(corrected.came[place])),
            pixels=max(1, round(float(cells.pixels[own].sum()))),
            pen=pens.get((label, zone)),
        )
        zones.setdefault(label, []).append((reading, float(corrected.doubt[place])))
    paper = np.array(plan.sheet.stamp.paper_used.lab)
    found = {}
    for label, several in sorted(zones.items()):
        readings = tuple(one for one, _ in sorted(several, key=lambda each: each[0].zone))
        own = np.flatnonzero(cells.region == label)
        planned, seen = (lab_of_log(each[own])[:, 0] for each in (cells.plan, corrected.card))
        # Where light falls the wrong way, what should be even no longer is: all pixels count.
        slope, alike = slope_of(planned, seen, np.minimum(cells.count[own], 100).astype(float))
        planned, seen = mean_of(readings)
        weights = _weights([one for one, _ in several])
        doubt = np.hypot.reduce(weights * [each for _, each in several]) / weights.sum()
        found[label] = RegionReading(
            label=label,
            zones=readings,
            plan=as_lab(planned),
            seen=as_lab(seen),
            size=float(difference(planned, seen)),
            # 1 % of light is about a third of a step of lightness.
            doubt=float(100 * doubt / 3),
            off_ramp=_off_ramp(readings, lab_of_log(corrected.card[own]), cells.pixels[own], planned),
            slope=slope,
            alike=alike,
            laid=_laid(planned, seen, paper),
        )
    return found


def mean_of(zones: Sequence[ZoneReading]) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Planned and seen L*a*b* of zones together: the hand is off by zones, so many pixels say little more."""
    planned, seen = (np.average([getattr(one, name) for one in zones], axis=0, weights=_weights(zones))
                     for name in ("plan", "seen"))  # fmt: skip
    return planned, seen


def _weights(zones: Sequence[ZoneReading]) -> NDArray[np.float64]:
    pixels = np.array([one.pixels for one in zones], float)
    return pixels / (pixels + ENOUGH_PX)


def _off_ramp(
    zones: Sequence[ZoneReading], seen: NDArray[np.float64], pixels: NDArray[np.float64], middle: NDArray[np.float64]
) -> float:
    """CIEDE2000 from the `middle` colour of a region to that moved as `seen` (N x 3) lies beside its ramp."""
    ramp = np.array([one.plan for one in zones])
    nearest = np.repeat(ramp[:1], len(seen), axis=0)
    away = ((seen - nearest) ** 2).sum(axis=1)
    for start, end in pairwise(ramp):
        way = end - start
        along = np.clip((seen - start) @ way / max(float(way @ way), 1e-9), 0, 1)
        place = start + along[:, None] * way
        off = ((seen - place) ** 2).sum(axis=1)
        nearest[off < away], away = place[off < away], np.minimum(off, away)
    beside = np.average(seen - nearest, axis=0, weights=pixels)
    return float(difference(middle, middle + beside))


def _laid(plan: NDArray[np.float64], seen: NDArray[np.float64], paper: NDArray[np.float64]) -> float | None:
    way = plan - paper
    far = float(way @ way)
    return float((seen - paper) @ way / far) if far > 8.0**2 else None


def slope_of(
    planned: NDArray[np.float64], seen: NDArray[np.float64], weight: NDArray[np.float64]
) -> tuple[float | None, float]:
    """Lightness seen over lightness planned of places N, and their correlation; (None, 0) where hardly any is
    planned.

    Parameters
    ----------
    planned, seen
        N, lightness at the same places
    weight
        N
    """
    if len(planned) < 2 or np.ptp(planned) < FLAT_LIGHTNESS:
        return None, 0.0
    planned, seen = (each - np.average(each, weights=weight) for each in (planned, seen))
    across, own = (float(np.average(each**2, weights=weight)) for each in (planned, seen))
    both = float(np.average(planned * seen, weights=weight))
    return both / across, both / np.sqrt(across * max(own, 1e-9))


def patchy_light(cells: Cells, readings: Mapping[int, RegionReading]) -> bool:
    """Whether regions that lie beside each other are too dark or too pale together: a hand is off here and there, what
    was left of a shadow, a shine or a filter is off by places. Moran's measure of likeness among neighbours
    ([Moran1950]), of lightness as seen against the plan.

    Parameters
    ----------
    cells
        what the photo shows on each zone
    readings
        by region; what is bare is not asked
    """
    known = [label for label, one in readings.items() if one.laid is None or one.laid > 0.5]
    if len(known) < ENOUGH_REGIONS:
        return False
    places = np.searchsorted(known, cells.region)
    own = np.isin(cells.region, known)
    pixels = np.bincount(places[own], weights=cells.pixels[own], minlength=len(known))
    at = np.stack([np.bincount(places[own], weights=cells.pixels[own] * axis[own]) for axis in cells.at.T], axis=1)
    off = np.array([readings[label].shift[0] for label in known])
    off -= np.median(off)
    spread = 1.4826 * float(np.median(np.abs(off)))
    off = np.clip(off, -2.5 * spread, 2.5 * spread)
    off -= off.mean()
    _, near = cKDTree(at / pixels[:, None]).query(at / pixels[:, None], k=NEIGHBOURS + 1)
    alike = float((off * off[near[:, 1:]].mean(axis=1)).mean() / max(float((off**2).mean()), 1e-9))
    return alike > TOGETHER and spread > PATCHES


def by_thing(sheet: Sheet, readings: Mapping[int, RegionReading]) -> dict[str, list[RegionReading]]:
    """Readings by the thing they belong to, or the region that stands for itself; the largest first.

    Parameters
    ----------
    sheet
        what was planned
    readings
        by label
    """
    things: dict[str, list[RegionReading]] = {}
    for label, one in sorted(readings.items(), key=lambda each: (-each[1].pixels, each[0])):
        setting = sheet.regions.settings[label]
        things.setdefault(setting.thing or setting.name, []).append(one)
    return things


def pens_by_zone(sheet: Sheet) -> Mapping[tuple[int, int], Pen]:
    """The pen of the uppermost coat that makes each zone, by region and zone (0 = the deepest)."""
    pens: dict[tuple[int, int], Pen] = {}
    for label, setting in sheet.regions.settings.items():
        if setting.coats and not setting.left_as_paper:
            coat = setting.coats[-1]
            for zone, shade in enumerate(spread_over(len(coat.ramp), setting.zones)):
                # Ramps run from the palest, zones from the deepest.
                pens[label, zone] = coat.pens[len(coat.ramp) - 1 - shade]
    return pens


def reading_to_plain(one: RegionReading) -> dict[str, Any]:
    """A reading as JSON."""
    return {
        **{name: getattr(one, name) for name in PLAIN},
        **{name: short(getattr(one, name)) for name in ("plan", "seen")},
        "zones": [
            {"zone": z.zone, "plan": short(z.plan), "seen": short(z.seen), "pixels": z.pixels, "pen": z.pen}
            for z in one.zones
        ],
    }


def reading_from_plain(plain: Mapping[str, Any]) -> RegionReading:
    """A reading from what `reading_to_plain` gave.

    Raises
    ------
    KeyError, TypeError, ValueError
        If it is no reading.
    """
    numbers = [plain[name] for name in PLAIN if name != "alike"]
    if not isinstance(plain["label"], int) or not 0 < plain["label"] <= MOST_LABELS:
        raise ValueError("A reading is of a region by its label.")
    if not all(one is None or (isinstance(one, int | float) and np.isfinite(one)) for one in numbers):
        raise ValueError("A reading's sizes are finite numbers.")
    if not all(0 <= int(one["zone"]) < MOST_ZONES and 0 <= int(one["pixels"]) < MOST_PIXELS for one in plain["zones"]):
        raise ValueError("A reading's zones are few, and so are their pixels.")
    zones = tuple(
        ZoneReading(
            zone=int(one["zone"]),
            plan=as_lab(one["plan"]),
            seen=as_lab(one["seen"]),
            pixels=int(one["pixels"]),
            pen=(str(one["pen"][0]), str(one["pen"][1])) if one["pen"] else None,
        )
        for one in plain["zones"]
    )
    return RegionReading(
        zones=zones,
        plan=as_lab(plain["plan"]),
        seen=as_lab(plain["seen"]),
        **{name: plain[name] for name in PLAIN},
    )


MOST_LABELS, MOST_ZONES, MOST_PIXELS = 1_000_000, 10, 1_000_000_000
"""Beyond these nothing is a reading of a card."""
PLAIN = ("label", "size", "doubt", "off_ramp", "slope", "alike", "laid")


def short(lab: Lab) -> list[float]:
    """To a hundredth, as it is written."""
    return [round(value, 2) for value in lab]
