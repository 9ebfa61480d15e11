"""What a card's readings come to in a line, and what the trade would do about a fault."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from paleta.colour import Lab, difference
from paleta.photo_check._faults import WITHIN, Fault
from paleta.photo_check._readings import RegionReading, by_thing, slope_of
from paleta.recipe import Sheet
from paleta.run import Rescue, rescues_for

MOSTLY_ALIKE = 0.9
"""A card of which so many things are alike is called like the other, faults or not."""
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


@dataclass(frozen=True, slots=True)
class ThingOff:
    """A thing, or a region that stands for itself: how far it is off (CIEDE2000, the mean over its regions by what was
    seen of them); planned and seen L*a*b* of the largest of them, and its label; all their labels."""

    name: str
    size: float
    plan: Lab
    seen: Lab
    regions: tuple[int, ...]


def things_off(sheet: Sheet, readings: Mapping[int, RegionReading]) -> list[ThingOff]:
    """Every thing that was seen, the one farthest off first.

    Parameters
    ----------
    sheet
        What was planned.
    readings
        By label.
    """
    found = []
    for name, several in by_thing(sheet, readings).items():
        size = float(np.average([one.size for one in several], weights=[one.pixels for one in several]))
        labels = tuple(one.label for one in several)
        found.append(ThingOff(name, round(size, 1), several[0].plan, several[0].seen, labels))
    return sorted(found, key=lambda one: (-one.size, one.name))


def verdict(sheet: Sheet, readings: Mapping[int, RegionReading], faults: Sequence[Fault], what: str) -> str:
    """One line: how many things are like `what` ("the plan", "card 1"), and the largest fault.

    Parameters
    ----------
    sheet
        What was planned.
    readings
        By label.
    faults
        Largest first.
    what
        What the card is held against, "the plan", "card 1".
    """
    things = things_off(sheet, readings)
    if not things:
        return "Nothing on the card could be measured."
    alike = sum(1 for one in things if one.size <= WITHIN)
    line = f"{alike} of {len(things)} things within {WITHIN:.0f}"
    faults = [one for one in faults if not one.slight]
    if not faults:
        return f"Like {what}: {line}."
    head = "Like" if alike > MOSTLY_ALIKE * len(things) else "Beside"
    rest = f", and {len(faults) - 1} more" if len(faults) > 1 else ""
    return f"{head} {what}: {line}; {faults[0].sentence.rstrip('.')}{rest}."


def against(now: Mapping[int, RegionReading], then: Mapping[int, RegionReading]) -> dict[int, RegionReading]:
    """Readings of one card held against those of another instead of the plan: regions and zones that both show.

    Parameters
    ----------
    now, then
        Readings by label.
    """
    found = {}
    for label, one in now.items():
        other = then.get(label)
        if other is None:
            continue
        before = {each.zone: each.seen for each in other.zones}
        zones = tuple(replace(each, plan=before[each.zone]) for each in one.zones if each.zone in before)
        if not zones:
            continue
        size = float(difference(other.seen, one.seen))
        planned, seen = (np.array([getattr(each, name)[0] for each in zones]) for name in ("plan", "seen"))
        slope, alike = slope_of(planned, seen, np.array([each.pixels for each in zones], float))
        doubt = float(np.hypot(one.doubt, other.doubt))
        # Between two cards there is no ramp: all of the difference lies beside it.
        beside = replace(one, zones=zones, plan=other.seen, size=size, doubt=doubt, off_ramp=size, laid=None)
        found[label] = replace(beside, slope=slope, alike=alike)
    return found


def ways_out(fault: Fault, sheet: Sheet) -> tuple[str, tuple[Rescue, ...]]:
    """What to do about a fault, next time or now, and the rescues of the trade for it in the region's media.

    Parameters
    ----------
    fault
        One of a region.
    sheet
        What was planned.
    """
    media = [coat.medium for coat in sheet.regions.settings[fault.region].coats][::-1]
    slip = SLIP_OF.get(fault.kind)
    rescues = {one.key: one for medium in media if slip for one in rescues_for(slip, medium)}
    return NEXT_TIME[fault.kind], tuple(rescues.values())
