"""What several cards say of a swatch: its values as they come out in this hand."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from paleta.colour import Lab, as_lab, difference
from paleta.order import Pen
from paleta.photo_check._faults import common_shift, own_change
from paleta.photo_check._readings import RegionReading
from paleta.recipe import Sheet

LEAST_CARDS = 3
WORTH, AGREE = 2.0, 2.5
"""CIEDE2000 from which a new value is offered, and within which cards count as agreeing about it."""


@dataclass(frozen=True, slots=True)
class Measured:
    """A swatch whose values should be others: as it stands, as it comes out, on how many cards, how far that is
    (CIEDE2000), and by how much they differ about it at most."""

    pen: Pen
    name: str
    old: Lab
    new: Lab
    cards: int
    size: float
    spread: float


def swatches_measured(sheet: Sheet, cards: Sequence[Mapping[int, RegionReading]]) -> list[Measured]:
    """Swatches that come out otherwise than their values say, on LEAST_CARDS or more cards of one recipe that agree;
    largest first.

    Parameters
    ----------
    sheet
        The recipe's.
    cards
        Readings of each card by label.
    """
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
        values = np.clip(np.add(swatch.lab, shifts), (0, -128, -128), (100, 128, 128))
        away = difference(values, np.median(values, axis=0))
        agree = away <= AGREE
        new = np.median(values[agree], axis=0) if agree.any() else np.array(swatch.lab)
        size = float(difference(swatch.lab, new))
        spread = float(away[agree].max(initial=0.0))
        if agree.sum() >= LEAST_CARDS and size >= WORTH and spread < size:
            found.append(
                Measured(
                    pen,
                    swatch.name,
                    swatch.lab,
                    as_lab(np.round(new, 2)),
                    int(agree.sum()),
                    round(size, 1),
                    round(spread, 1),
                )
            )
    return sorted(found, key=lambda one: (-one.size, one.pen))
