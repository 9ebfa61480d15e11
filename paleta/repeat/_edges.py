"""Faults that have a place within or beside a region: colour run over the line, grounds laid unevenly."""

from __future__ import annotations

from collections.abc import Collection, Mapping

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.colour import difference, srgb_to_lab
from paleta.picture import Planned
from paleta.repeat._cast import Freed
from paleta.repeat._cells import Cells, lab_of_log
from paleta.repeat._faults import Fault
from paleta.repeat._readings import RegionReading

BAND_MM = 1.6
"""So far over its line colour is looked for."""
UNLIKE = 12.0
"""CIEDE2000 between a colour and what is planned beside it from which the one can be told from the other."""
NEARER = 0.45
"""A pixel beyond the line has the colour if it is so much nearer to it than to its own."""
LEAST_MM2, LEAST_REACH_MM = 2.0, 0.45
BLOTCH, LEAST_CELLS = 2.6, 12
"""Spread of lightness within a ground, beyond its fade, from which it is uneven."""


def run_over(
    plan: Planned,
    whole: NDArray[np.float32],
    clear: NDArray[np.bool_],
    readings: Mapping[int, RegionReading],
    others: Collection[int],
) -> list[Fault]:
    """Regions whose colour lies on their neighbour's side of the line. `whole` as of Freed.whole; `others`: labels of
    those that have another colour than planned, so that what lies on them is not told by the plan."""
    found = []
    band = max(3, round(BAND_MM * plan.px_per_mm))
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * band + 1, 2 * band + 1))
    mm2 = plan.px_per_mm**-2
    strange = np.isin(plan.labels, list(others))
    for label, one in sorted(readings.items()):
        box = plan.box((label,), band)
        own = (plan.labels[box] == label).astype(np.uint8)
        near = (cv2.dilate(own, kernel) > 0) & (own == 0) & clear[box] & ~strange[box]
        if not near.any():
            continue
        seen = lab_of_log(whole[box][near].astype(float))
        own_colour = np.array(one.seen)
        planned = srgb_to_lab(plan.rgb[box][near] / 255)
        told = difference(planned, own_colour) >= UNLIKE
        spilled = told & (difference(seen, own_colour) < NEARER * difference(seen, planned))
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


def grounds_uneven(plan: Planned, cells: Cells, freed: Freed, readings: Mapping[int, RegionReading]) -> list[Fault]:
    """Grounds that are blotchy beyond their fade."""
    found = []
    for label in plan.sheet.regions.fades():
        own = np.flatnonzero(cells.region == label)
        if label not in readings or len(own) < LEAST_CELLS:
            continue
        off = lab_of_log(freed.card[own])[:, 0] - lab_of_log(cells.plan[own])[:, 0]
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
