"""Tubes that run straight: their axis, and where they are cut off."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import binary_fill_holes, find_objects

from paleta.light._bodies import FORMS, Body

STRAIGHT_SHARE = 0.62
"""A tube that fills this share of its tightest rectangle is straight and has one axis; else it winds."""
HOLE_SHARE = 0.01
"""A hole smaller than this share of a tube is a spot on it."""
LEAST_PX = 12
LEAK, CUT_LEAK = 0.06, 0.5
"""How much height flows along a tube compared with across it; 0 would be an endless tube. Where both ends are cut off
there is none that could flow out, and the more flows, the less the stairs of a slanting outline show."""
MIDDLE_SHARE, FLAT_SHARE, STEEPEST = 0.8, 0.03, 1.0
"""An end is cut off if over so much of the tube's width it strays from a line by no more than FLAT_SHARE of the width
(root mean square), and that line leans no more than half a right angle. A half circle strays by 0.06."""
NO_ENDS = np.array([(0.0, 0.0, np.inf)] * 2)


@dataclass(frozen=True, slots=True, eq=False)
class Tube:
    """axis_deg  the long direction, clockwise from the top edge.
    ends      2 x 3 (down, across, reach): beyond an end lies what has down * row + across * col > reach; reach is
              infinite where the tube is not cut off but comes to an end of itself."""

    axis_deg: float
    ends: NDArray[np.float64]

    @property
    def leak(self) -> float:
        return CUT_LEAK if np.isfinite(self.ends[:, 2]).all() else LEAK


def straight_tubes(body_map: NDArray[np.int32], bodies: Sequence[Body]) -> dict[int, Tube]:
    """The bodies (from 1) that have one axis: what was set by hand, or read off a shape without holes.

    Parameters
    ----------
    body_map
        h x w, the body of each pixel from 1
    bodies
        in the order of their numbers
    """
    tubes: dict[int, Tube] = {}
    boxes = find_objects(body_map, max_label=len(bodies))
    for number, (body, box) in enumerate(zip(bodies, boxes, strict=True), start=1):
        form = FORMS[body.form]
        if not (form.axis and form.rounded) or box is None:
            continue
        mask = body_map[box] == number
        rows, cols = np.nonzero(mask)
        axis = body.axis_deg if body.axis_deg is not None else _axis(mask, rows, cols)
        if axis is not None:
            tubes[number] = Tube(axis, _ends(rows + box[0].start, cols + box[1].start, axis))
    return tubes


def _axis(mask: NDArray[np.bool_], rows: NDArray[np.intp], cols: NDArray[np.intp]) -> float | None:
    if len(rows) < LEAST_PX or _has_hole(mask):
        return None
    (_, (width, height), turn) = cv2.minAreaRect(np.stack([cols, rows], axis=1).astype(np.float32))
    if len(rows) < STRAIGHT_SHARE * (width + 1) * (height + 1):
        return None
    # OpenCV's turn is clockwise from the x axis to the side called width.
    return float((turn + (90 if width >= height else 180)) % 180)


def _has_hole(mask: NDArray[np.bool_]) -> bool:
    """A ring winds, however much of its rectangle it fills."""
    filled = np.count_nonzero(mask)
    return bool(np.count_nonzero(binary_fill_holes(mask)) - filled > HOLE_SHARE * filled)


def _ends(rows: NDArray[np.intp], cols: NDArray[np.intp], axis_deg: float) -> NDArray[np.float64]:
    """Lines along the two cut ends, as `Tube.ends`."""
    ends = NO_ENDS.copy()
    angle = np.radians(axis_deg)
    along, across = cols * np.sin(angle) - rows * np.cos(angle), cols * np.cos(angle) + rows * np.sin(angle)
    middle, width = (across.max() + across.min()) / 2, across.max() - across.min()
    place = np.round(across - across.min()).astype(np.intp)
    for end, sign in enumerate((1, -1)):
        profile = np.full(place.max() + 1, -np.inf)
        np.maximum.at(profile, place, sign * along)
        side = np.arange(len(profile)) + across.min() - middle
        counted = np.isfinite(profile) & (np.abs(side) <= MIDDLE_SHARE / 2 * width)
        if np.count_nonzero(counted) < LEAST_PX / 2:
            continue
        slope, height = np.polyfit(side[counted], profile[counted], 1)
        off = profile[counted] - slope * side[counted] - height
        if abs(slope) <= STEEPEST and np.sqrt(np.mean(off**2)) <= max(FLAT_SHARE * width, 0.5):
            # sign * along - slope * (across - middle) > height, in rows and columns.
            down, right = -sign * np.cos(angle) - slope * np.sin(angle), sign * np.sin(angle) - slope * np.cos(angle)
            ends[end] = (down, right, height - slope * middle)
    return ends
