"""What on a card is a fault, of which kind and how large, and in words."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from paleta.colour import Lab, as_lab, difference, plain_name
from paleta.order import Pen
from paleta.photo_check._readings import RegionReading, ZoneReading, by_thing, mean_of, short
from paleta.picture import looks_of
from paleta.recipe import Sheet

FAULT_KINDS = {
    "missing": "Not coloured",
    "reversed": "Lit from the other side",
    "pale": "Too pale",
    "dark": "Too dark",
    "colour": "Another colour",
    "pen": "A pen that is off everywhere",
    "uneven": "Ground uneven",
    "over": "Run over the line",
}
WITHIN = 3.0
"""CIEDE2000 within which two things count as alike: about what is seen side by side without looking for it."""
NOTICED, BESIDE = 1.8, 2.0
"""CIEDE2000 from which a region is told, and of what it lies beside its ramp; the hand alone makes about 1."""
DOUBTS = 0.3
"""Of what measuring alone may make, so many times are added."""
USUAL, MOST_UNSURE = 0.9, 1.0
"""Median CIEDE2000 of the regions of a card in good light; in poor light as much is added to what is told as the median
lies above that, and no more than this."""
IN_PATCHES = 2.5
"""Where light lies in patches, nearly all that it makes lies below so many times the median."""
BARE = 0.35
"""Laid less far from the paper than this share of the plan: not coloured."""
AWAY, SURE_AWAY = 0.0, -0.25
"""A slope below the first is light from the other side, if the correlation lies below the second."""
MOSTLY = 0.6
"""A shift of which lightness is this share is a matter of pale and dark."""
PEN_LEAST, PEN_SIZE, PEN_CHANCE, PEN_UNSURE, PEN_AGREE = 3, 1.0, 2.4, 2.0, 0.7
"""Zones a pen must be measured in; how far it must be off if it is in very many, what is added to that for the chance
in one (it falls with the root of their number), and how often what poor light adds to single regions, for what light
makes of a colour it makes of all its zones; how large a share of them must agree."""


@dataclass(frozen=True, slots=True)
class Fault:
    """Something on the card that is not as planned.

    kind     one of FAULT_KINDS. regions: labels, the largest first; region the first of them.
    size     CIEDE2000 between plan and card; of a colour run over its line, mm.
    sentence  for the colourist. plan, seen: L*a*b*, where colours are compared. pen: the swatch, of a pen that is off.
    """

    kind: str
    regions: tuple[int, ...]
    size: float
    sentence: str
    plan: Lab | None = None
    seen: Lab | None = None
    pen: Pen | None = None

    @property
    def region(self) -> int:
        return self.regions[0]

    @property
    def slight(self) -> bool:
        """Whether it is a matter of how a hand varies: listed for who wants to see it, and not called a finding."""
        return self.kind in ("pale", "dark", "colour") and self.size < WITHIN


def find_faults(
    sheet: Sheet, readings: Mapping[int, RegionReading], than: str = "planned", *, patchy: bool = False
) -> list[Fault]:
    """Pens that are off wherever they are used, then what is wrong with single regions beyond that; largest first.

    Parameters
    ----------
    sheet
        What was planned.
    readings
        By label.
    than
        What the card is held against, as sentences say it.
    patchy
        Whether light and shadow lie in patches on the photo: then nothing is told that they may make.
    """
    usual = float(np.median([one.size for one in readings.values()])) if readings else USUAL
    unsure = max(IN_PATCHES * usual - NOTICED, 0.0) if patchy else float(np.clip(usual - USUAL, 0, MOST_UNSURE))
    pens, rest = _pens_off(sheet, readings, unsure, than)
    faults = [*pens, *filter(None, (_of_region(sheet, one, unsure, than) for one in rest.values()))]
    return sorted(faults, key=lambda one: (-one.size, one.regions))


def _of_region(sheet: Sheet, one: RegionReading, unsure: float, than: str) -> Fault | None:
    name = sheet.regions.settings[one.label].name
    limit, beside = (least + DOUBTS * one.doubt + unsure for least in (NOTICED, BESIDE))

    def fault(kind: str, sentence: str, size: float = one.size) -> Fault:
        return Fault(kind, (one.label,), round(size, 1), sentence, one.plan, one.seen)

    if one.laid is not None and one.laid < BARE and one.size > limit:
        return fault("missing", f"{name} is not coloured: it looks like bare paper.")
    if one.slope is not None and one.slope < AWAY and one.alike < SURE_AWAY:
        # As a whole it may be no paler or darker: its zones tell.
        farthest = max(float(difference(each.plan, each.seen)) for each in one.zones)
        return fault("reversed", f"{name} is shaded on the wrong side.", max(one.size, farthest))
    if one.size <= limit and one.off_ramp <= beside:
        return None
    kind, how = kind_of(one.plan, one.seen, than)
    return fault(kind, f"{name} {how} by {one.size:.0f}.")


def not_yet(sheet: Sheet, bare: Mapping[int, RegionReading]) -> list[Fault]:
    """What a card that is not finished still lacks, by thing.

    Parameters
    ----------
    sheet
        What was planned.
    bare
        Readings of regions that look like paper, by label.
    """
    found = []
    for name, several in by_thing(sheet, bare).items():
        labels = tuple(one.label for one in several)
        parts = f" ({len(labels)} parts)" if len(labels) > 1 else ""
        largest = several[0]
        sentence = f"{name} is not coloured yet{parts}."
        found.append(Fault("missing", labels, round(largest.size, 1), sentence, largest.plan, largest.seen))
    return sorted(found, key=lambda one: (-len(one.regions), one.regions))


def kind_of(plan: Lab, seen: Lab, than: str = "planned") -> tuple[str, str]:
    """Whether a colour is too pale, too dark or another one, and how that is said.

    Parameters
    ----------
    plan, seen
        Lab of a region as planned and as seen.
    than
        What the card is held against, as sentences say it.

    Returns
    -------
    A key of FAULTS, and words.
    """
    light, a, b = np.subtract(seen, plan)
    along = np.array(plan[1:]) / max(float(np.hypot(*plan[1:])), 1e-6)
    # More or less of a colour moves it along its own chroma too: that is no other colour.
    stray = abs(float(a * -along[1] + b * along[0])) if np.hypot(*plan[1:]) > 6 else float(np.hypot(a, b))
    if abs(light) >= MOSTLY * float(np.hypot(light, stray)) and abs(light) > 1:
        return ("pale", f"is paler than {than}") if light > 0 else ("dark", f"is darker than {than}")
    return "colour", f"is another colour than {than}, more {_more(plan, seen)}: off"


def _more(plan: Lab, seen: Lab) -> str:
    """In which direction a colour is off, as a plain word."""
    a, b = np.subtract(seen, plan)[1:]
    if max(abs(a), abs(b)) < 0.5:
        return plain_name(seen)
    return {(0, 1): "red", (0, -1): "green", (1, 1): "yellow", (1, -1): "blue"}[
        (int(abs(b) > abs(a)), int(np.sign(b if abs(b) > abs(a) else a)))
    ]


def _pens_off(
    sheet: Sheet, readings: Mapping[int, RegionReading], unsure: float, than: str
) -> tuple[list[Fault], dict[int, RegionReading]]:
    """Pens whose zones are all off alike, and the readings with that taken out. The palest are looked at first: they
    lie under the others, so what they are off shows there too."""
    faults, rest = [], dict(readings)
    pens = {zone.pen for one in readings.values() for zone in one.zones if zone.pen is not None}
    for pen in sorted(pens, key=lambda pen: (-sheet.colours.swatches[pen].lab[0], pen)):
        several = [
            (label, zone)
            for label, one in rest.items()
            if one.laid is None or one.laid >= BARE
            for zone in one.zones
            if zone.pen == pen
        ]
        shift = common_shift(several)
        if shift is None:
            continue
        plan, _ = mean_of([one for _, one in several])
        size = float(difference(plan, plan + shift))
        if size < PEN_SIZE + PEN_CHANCE / len(several) ** 0.5 + PEN_UNSURE * unsure:
            continue
        rest = _without(rest, _wherever(sheet, pen, shift, several))
        _, how = kind_of(as_lab(plan), as_lab(plan + shift), than)
        name = sheet.colours.swatches[pen].name
        labels = tuple(sorted({label for label, _ in several}, key=lambda label: (-readings[label].pixels, label)))
        sentence = f"{name} {how} by {size:.0f} wherever it is used."
        faults.append(Fault("pen", labels, round(size, 1), sentence, as_lab(plan), as_lab(plan + shift), pen))
    return faults, rest


def _wherever(
    sheet: Sheet, pen: Pen, shift: NDArray[np.float64], several: Sequence[tuple[int, ZoneReading]]
) -> dict[tuple[int, int], NDArray[np.float64]]:
    """By how much every zone is off, under other pens too, if this one is off by `shift` where it shows."""
    own = [(label, one.zone) for label, one in several]
    return {**_looks_moved(sheet, pen, own_change(sheet, pen, shift, several)), **dict.fromkeys(own, shift)}


def own_change(
    sheet: Sheet, pen: Pen, shift: NDArray[np.float64], several: Sequence[tuple[int, ZoneReading]]
) -> NDArray[np.float64]:
    """What a swatch itself must be off in L*a*b* for its zones to be off by `shift`: through other coats it shows less,
    in several coats of its own more.

    Parameters
    ----------
    sheet
        what was to be laid
    pen
        whose change is asked for
    shift
        of its zones, in L*a*b*
    several
        regions, each with the reading of a zone that has the swatch
    """
    once = _looks_moved(sheet, pen, shift)
    shown = np.mean([once.get((label, one.zone), np.zeros(3)) @ shift for label, one in several])
    return shift * float(np.clip(float(shift @ shift) / max(float(shown), 0.2 * float(shift @ shift), 1e-6), 0.5, 4.0))


def _looks_moved(sheet: Sheet, pen: Pen, by: NDArray[np.float64]) -> dict[tuple[int, int], NDArray[np.float64]]:
    """By region and zone, how planned colours change if a swatch is off `by`."""
    swatch, before = sheet.colours.swatches[pen], looks_of(sheet)
    lab = np.clip(np.add(swatch.lab, by), (0, -128, -128), (100, 128, 128))
    other = swatch.recoloured(swatch.code, swatch.name, as_lab(lab))
    after = looks_of(sheet.with_part("colours", swatches={**sheet.colours.swatches, pen: other}))
    return {
        (label, zone): np.subtract(now, was)
        for label, zones in after.items()
        for zone, (now, was) in enumerate(zip(zones, before[label], strict=True))
        if now != was
    }


def common_shift(several: Sequence[tuple[int, ZoneReading]]) -> NDArray[np.float64] | None:
    """The shift that most zones of a pen share; None if they are too few, or do not agree."""
    if len({label for label, _ in several}) < PEN_LEAST:
        return None
    shifts = np.array([one.shift for _, one in several])
    weight = np.sqrt([min(one.pixels, 400) for _, one in several])
    middle = np.array([_weighted_median(shifts[:, k], weight) for k in range(3)])
    # How many lie on the same side, and how far: a fault of a pen is in all of its zones.
    along = shifts @ middle / max(float(middle @ middle), 1e-6)
    agree = (along > 0.4) & (along < 2.2)
    return middle if weight[agree].sum() >= PEN_AGREE * weight.sum() else None


def _weighted_median(values: NDArray[np.float64], weight: NDArray[np.float64]) -> float:
    order = np.argsort(values)
    return float(values[order[int(np.searchsorted(np.cumsum(weight[order]), weight.sum() / 2))]])


def _without(
    readings: Mapping[int, RegionReading], off: Mapping[tuple[int, int], NDArray[np.float64]]
) -> dict[int, RegionReading]:
    """The readings with what zones are `off` (by region and zone) taken out."""
    rest = dict(readings)
    for label, one in readings.items():
        if not any((label, each.zone) in off for each in one.zones):
            continue
        zones = tuple(
            replace(each, seen=as_lab(np.subtract(each.seen, off.get((label, each.zone), np.zeros(3)))))
            for each in one.zones
        )
        _, seen = mean_of(zones)
        size = float(difference(one.plan, seen))
        rest[label] = replace(one, zones=zones, seen=as_lab(seen), size=size, off_ramp=min(one.off_ramp, size))
    return rest


def fault_to_plain(one: Fault) -> dict[str, Any]:
    """A fault as JSON."""
    plain = {name: getattr(one, name) for name in ("kind", "size", "sentence")}
    plain |= {"plan": one.plan and short(one.plan), "seen": one.seen and short(one.seen)}
    return {**plain, "regions": list(one.regions), "pen": list(one.pen) if one.pen else None}


def fault_from_plain(plain: Mapping[str, Any]) -> Fault:
    """A fault from what `fault_to_plain` gave.

    Raises
    ------
    KeyError, TypeError, ValueError
        If it is no fault.
    """
    whole = all(isinstance(label, int) and 0 <= label <= 1_000_000 for label in plain["regions"])
    if plain["kind"] not in FAULT_KINDS or not whole or not np.isfinite(plain["size"]):
        raise ValueError("A fault has a kind, regions by their labels and a size.")
    plan, seen = (None if plain[name] is None else as_lab(plain[name]) for name in ("plan", "seen"))
    pen = (str(plain["pen"][0]), str(plain["pen"][1])) if plain["pen"] else None
    return Fault(plain["kind"], tuple(plain["regions"]), plain["size"], plain["sentence"], plan, seen, pen)
