"""Faults that have a place within or beside a region: colour run over the line, grounds laid unevenly."""

from __future__ import annotations

from collections.abc import Mapping

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.colour import difference, lab_to_srgb
from paleta.photo_check._cast import Corrected
from paleta.photo_check._cells import Cells, lab_of_log, log_light, planned_light
from paleta.photo_check._faults import Fault
from paleta.photo_check._readings import RegionReading
from paleta.picture import Planned

BAND_MM = 1.6
"""So far over its line colour is looked for."""
UNLIKE = 10.0
"""CIEDE2000 between a colour and what is planned beside it from which the one can be told from the other."""
LAID = 0.6
"""A pixel beyond the line has the colour if it has come so far from its own to both on each other."""
LEAST_MM2, LEAST_REACH_MM = 2.0, 0.45
ZONES = 16
"""More than any region has."""
LEAST_PX = 20
"""A middle has so many pixels."""
BLOTCH, LEAST_CELLS = 2.6, 12
"""Spread of lightness within a ground, beyond its fade, from which it is uneven."""


def run_over(
    plan: Planned, whole: NDArray[np.float32], clear: NDArray[np.bool_], readings: Mapping[int, RegionReading]
) -> list[Fault]:
    """Regions whose colour lies on their neighbour's side of the line. `whole` as of Corrected.whole.

    Parameters
    ----------
    plan
        what was to be laid
    whole
        h x w x 3, the photo with its light taken out, as of Corrected.whole
    clear
        h x w, what is no line and was seen
    readings
        by region
    """
    found = []
    band = max(3, round(BAND_MM * plan.px_per_mm))
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * band + 1, 2 * band + 1))
    mm2 = plan.px_per_mm**-2
    wanted = planned_light(plan)
    pens = {label: set(one.pens) for label, one in plan.sheet.regions.settings.items()}
    usual, shades = _usual(plan, whole - wanted, clear, band), _Shades(plan, wanted)
    for label, one in sorted(readings.items()):
        box = plan.box((label,), band)
        own = (plan.labels[box] == label).astype(np.uint8)
        # On what shares a pen with it its colour may be a shade of that one's own.
        kin = [other for other, used in pens.items() if used & pens[label]]
        near = (cv2.dilate(own, kernel) > 0) & (own == 0) & clear[box] & ~np.isin(plan.labels[box], kin)
        if not near.any():
            continue
        seen = lab_of_log(whole[box][near].astype(float))
        # Measured by how its neighbours came out, not by how they were planned.
        planned, seen = wanted[box][near] + usual[plan.labels[box][near]], whole[box][near]
        # What lies over another colour takes light from it and gives none back.
        both = np.minimum(planned, log_light(lab_to_srgb(one.seen).astype(np.float32)))
        way = both - planned
        moved = ((seen - planned) * way).sum(axis=1) / np.maximum((way**2).sum(axis=1), 1e-6)
        spilled = (difference(lab_of_log(planned), lab_of_log(both)) >= UNLIKE) & (moved > LAID)
        # A neighbour that is shaded from the wrong side has its own dark shade here.
        spilled &= ((seen - both) ** 2).sum(axis=1) < shades.away(
            plan.labels[box][near], seen - usual[plan.labels[box][near]]
        )
        mark = np.zeros(own.shape, np.uint8)
        mark[near] = spilled
        mark = cv2.morphologyEx(mark, cv2.MORPH_OPEN, np.ones((2, 2), np.uint8))
        area = float(mark.sum()) * mm2
        if area < LEAST_MM2:
            continue
        away = cv2.distanceTransform(1 - own, cv2.DIST_L2, 3)[mark > 0] / plan.px_per_mm
        reach = float(np.percentile(away, 90))
        # A shade of the neighbour's own that is like this colour lies anywhere; what ran over hangs on the line.
        if reach < LEAST_REACH_MM or float(np.percentile(away, 25)) > 0.6 * BAND_MM:
            continue
        name = plan.sheet.regions.settings[label].name
        sentence = f"{name} has run over its line by about {reach:.1f} mm."
        found.append(Fault("over", (label,), round(reach, 1), sentence, one.plan, one.seen))
    return found


class _Shades:
    """The colours that a region has anywhere, as logarithms of light: those of its zones."""

    def __init__(self, plan: Planned, wanted: NDArray[np.float32]) -> None:
        code = plan.labels.astype(np.int64) * ZONES + np.minimum(plan.zones, ZONES - 1)
        pixels = np.bincount(code.ravel())
        sums = np.stack([np.bincount(code.ravel(), weights=wanted[..., k].ravel()) for k in range(3)], axis=-1)
        self._by_label: dict[int, list[NDArray[np.float64]]] = {}
        for each in np.flatnonzero(pixels):
            self._by_label.setdefault(int(each) // ZONES, []).append(sums[each] / pixels[each])

    def away(self, labels: NDArray[np.int32], seen: NDArray[np.float64]) -> NDArray[np.float64]:
        """N: the square of the way from `seen` (N x 3) to the nearest shade of the region of that label."""
        found = np.full(len(labels), np.inf)
        for label in np.unique(labels):
            own = labels == label
            shades = np.array(self._by_label[int(label)])
            found[own] = ((seen[own][:, None] - shades) ** 2).sum(axis=-1).min(axis=1)
        return found


def _usual(plan: Planned, off: NDArray[np.float32], clear: NDArray[np.bool_], band_px: int) -> NDArray[np.float32]:
    """By label (up to the highest) x 3: by how much what was seen is off the plan in its middle, where nothing can have
    run over; as planned where it has none."""
    usual = np.zeros((int(plan.labels.max(initial=0)) + 1, 3), np.float32)
    for label in range(1, len(usual)):
        box = plan.box((label,))
        own = (plan.labels[box] == label).astype(np.uint8)
        middle = cv2.distanceTransform(cv2.copyMakeBorder(own, 1, 1, 1, 1, cv2.BORDER_CONSTANT), cv2.DIST_L2, 3)
        deep = (middle[1:-1, 1:-1] > band_px) & clear[box]
        if deep.sum() >= LEAST_PX:
            usual[label] = np.median(off[box][deep], axis=0)
    return usual


def grounds_uneven(
    plan: Planned, cells: Cells, corrected: Corrected, readings: Mapping[int, RegionReading]
) -> list[Fault]:
    """Grounds that are blotchy beyond their fade.

    Parameters
    ----------
    plan
        what was to be laid
    cells
        what the photo shows on each zone
    corrected
        its light and what is left of it
    readings
        by region
    """
    found = []
    for label in plan.sheet.regions.fades():
        own = np.flatnonzero(cells.region == label)
        if label not in readings or len(own) < LEAST_CELLS:
            continue
        off = lab_of_log(corrected.card[own])[:, 0] - lab_of_log(cells.plan[own])[:, 0]
        weight = np.minimum(cells.pixels[own], 100).astype(float)
        # A fade that is deeper or longer than planned is no blotch.
        place = np.column_stack(
            [np.ones(len(own)), cells.at[own] - cells.at[own].mean(axis=0), cells.plan[own].mean(axis=1)]
        )
        smooth = place @ np.linalg.lstsq(place * weight[:, None], off * weight, rcond=None)[0]
        spread = float(np.sqrt(np.average((off - smooth) ** 2, weights=weight)))
        if spread > BLOTCH:
            one, name = readings[label], plan.sheet.regions.settings[label].name
            found.append(
                Fault(
                    "uneven",
                    (label,),
                    round(spread, 1),
                    f"{name} is blotchy: it varies by {spread:.0f} in lightness beside its fade.",
                    one.plan,
                    one.seen,
                )
            )
    return found
