"""What a card's readings come to in a line, and what the trade would do about a fault."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

import numpy as np

from paleta.colour import difference
from paleta.recipe import Sheet
from paleta.repeat._faults import Fault
from paleta.repeat._readings import RegionReading, ZoneReading
from paleta.run import Rescue, rescues_for

WITHIN = 3.0
"""CIEDE2000 within which two things count as alike: about what is seen side by side without looking for it."""
SLIP_OF = {
    "missing": "missed spot",
    "pale": "no depth",
    "dark": "too dark",
    "over": "over the line",
    "uneven": "stripe",
}
NEXT_TIME = {
    "missing": "Colour it now: the plan's passes of this part are still to be laid.",
    "reversed": "Turn the card so that the lamp's side is the same for every shape, and begin at the deep end.",
    "pale": "Once dry, go over it again with its own pens from the shade outwards.",
    "dark": "Next time begin with the palest pen and stop one pass earlier; here only lifting helps.",
    "colour": "Was another pen in the hand? Note it in the log; next time lay the caps out in the plan's order.",
    "pen": "Test this pen on scrap beside its swatch: it may be dry, refilled, or not what its values say.",
    "uneven": "Lay a ground in wet-in-wet strokes of one direction and keep the edge wet.",
    "over": "Stop a pen's width short of the line and let the colour creep up to it.",
}
"""By kind of fault. Common practice."""


def things_off(sheet: Sheet, readings: Mapping[int, RegionReading]) -> dict[str, float]:
    """By the name of each thing, or of a region that stands for itself, how far it is off (CIEDE2000, the mean over its
    regions by what was seen of them)."""
    found: dict[str, list[tuple[float, int]]] = {}
    for label, one in readings.items():
        setting = sheet.regions.settings[label]
        found.setdefault(setting.thing or setting.name, []).append((one.size, one.pixels))
    return {
        name: sum(size * px for size, px in several) / sum(px for _, px in several) for name, several in found.items()
    }


def verdict(sheet: Sheet, readings: Mapping[int, RegionReading], faults: Sequence[Fault], what: str) -> str:
    """One line: how many things are like `what` ("the plan", "card 1"), and the largest fault."""
    off = things_off(sheet, readings)
    if not off:
        return "Nothing on the card could be measured."
    alike = sum(1 for size in off.values() if size <= WITHIN)
    line = f"{alike} of {len(off)} things within {WITHIN:.0f}"
    if not faults:
        return f"Like {what}: {line}."
    first = faults[0].sentence.rstrip(".")
    rest = f", and {len(faults) - 1} more" if len(faults) > 1 else ""
    return f"{f'Like {what}: ' if alike > 0.9 * len(off) else f'Beside {what}: '}{line}; {first}{rest}."


def against(now: Mapping[int, RegionReading], then: Mapping[int, RegionReading]) -> dict[int, RegionReading]:
    """Readings of one card held against those of another instead of the plan: regions and zones that both show."""
    found = {}
    for label, one in now.items():
        other = then.get(label)
        if other is None:
            continue
        before = {each.zone: each.seen for each in other.zones}
        zones = tuple(replace(each, plan=before[each.zone]) for each in one.zones if each.zone in before)
        if not zones:
            continue
        off_ramp = _mean_shift(zones)
        size = float(difference(other.seen, one.seen))
        doubt = float(np.hypot(one.doubt, other.doubt))
        found[label] = replace(
            one, zones=zones, plan=other.seen, size=size, doubt=doubt, off_ramp=off_ramp, slope=None, laid=None
        )
    return found


def _mean_shift(zones: Iterable[ZoneReading]) -> float:
    several = tuple(zones)
    weights = [each.pixels for each in several]
    plan, seen = (
        np.average([getattr(each, name) for each in several], axis=0, weights=weights) for name in ("plan", "seen")
    )
    return float(difference(plan, seen))


def ways_out(fault: Fault, sheet: Sheet) -> tuple[str, tuple[Rescue, ...]]:
    """What to do about a fault, next time or now, and the rescues of the trade for it in the region's media."""
    media = [coat.medium for coat in sheet.regions.settings[fault.region].coats][::-1]
    slip = SLIP_OF.get(fault.kind)
    rescues = {one.key: one for medium in media if slip for one in rescues_for(slip, medium)}
    return NEXT_TIME[fault.kind], tuple(rescues.values())
