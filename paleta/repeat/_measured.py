"""What several cards say of a swatch: its values as they come out in this hand."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from paleta.colour import Lab, difference
from paleta.order import Pen
from paleta.recipe import Sheet
from paleta.repeat._faults import common_shift, own_change
from paleta.repeat._readings import RegionReading

LEAST_CARDS = 3
WORTH, AGREE = 2.0, 2.5
"""CIEDE2000 from which a new value is offered, and within which the cards must agree about it."""


@dataclass(frozen=True, slots=True)
class Measured:
    """A swatch whose values should be others: as it stands, as it comes out, on how many cards, how far that is
    (CIEDE2000), and by how much the cards differ about it."""

    pen: Pen
    name: str
    old: Lab
    new: Lab
    cards: int
    size: float
    spread: float


def swatches_measured(sheet: Sheet, cards: Sequence[Mapping[int, RegionReading]]) -> list[Measured]:
    """Swatches that come out otherwise than their values say, on LEAST_CARDS or more cards of one recipe that agree;
    largest first."""
    found = []
    for pen, swatch in sorted(sheet.colours.swatches.items()):
        shifts = []
        for readings in cards:
            several = [(label, zone) for label, one in readings.items() for zone in one.zones if zone.pen == pen]
            shift = common_shift(several)
            if shift is not None:
                shifts.append(own_change(sheet, pen, shift, several))
        if len(shifts) < LEAST_CARDS:
            continue
        middle = np.median(shifts, axis=0)
        new = np.clip(np.add(swatch.lab, middle), (0, -128, -128), (100, 128, 128))
        size = float(difference(swatch.lab, new))
        spread = float(np.median([float(difference(np.add(swatch.lab, one), new)) for one in shifts]))
        if size >= WORTH and spread <= AGREE and spread < size:
            lab = (round(float(new[0]), 2), round(float(new[1]), 2), round(float(new[2]), 2))
            found.append(Measured(pen, swatch.name, swatch.lab, lab, len(shifts), round(size, 1), round(spread, 1)))
    return sorted(found, key=lambda one: (-one.size, one.pen))
