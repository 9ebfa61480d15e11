"""What a form adds to its rounded surface: the arch of a petal, the fold of a leaf, ground that lies back, tucked ends.

The shapes are common practice (docs/trade-notes.md, section Light); the amounts are from memory.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import find_objects

from paleta.light._bodies import FORMS, Body
from paleta.light._form import Stretch

TUCK_DARK = 0.6
TUCK_REACH = 0.4
"""The dark of a tucked end takes this much light at the base and has faded at this part of the body's length."""


def shape_bodies(
    normals: NDArray[np.float32],
    tuck: NDArray[np.float32],
    body_map: NDArray[np.int32],
    bodies: Sequence[Body],
    *,
    px_per_mm: float,
) -> None:
    """Bend `normals` (h x w x 3) and fill in `tuck` (h x w) for all bodies whose form or base asks for it, in place.

    Parameters
    ----------
    normals
        h x w x 3, changed in place
    tuck
        h x w, how far each pixel is tucked in, 0..1; changed in place
    body_map
        h x w, the body of each pixel from 1
    bodies
        in the order of their numbers
    px_per_mm
        pixels to a millimetre
    """
    for number, box in enumerate(find_objects(body_map, max_label=len(bodies)), start=1):
        body = bodies[number - 1]
        form = FORMS[body.form]
        based = body.base_mm is not None or form.has_base
        if box is None or not (based or form.bend or body.turn_deg):
            continue
        inside = body_map[box] == number
        here = normals[box][inside]
        stretch = None
        if based:
            rows, cols = np.nonzero(inside)
            places = np.stack([cols + box[1].start, rows + box[0].start], axis=1) / px_per_mm
            base = np.array(body.base_mm) if body.base_mm is not None else _lower_end(places)
            stretch, reach = _stretched(places, base)
            away = np.hypot(*(places - base).T)
            tuck[box][inside] = TUCK_DARK * np.exp(-((away / max(TUCK_REACH * reach, 0.5)) ** 2))
        if form.bend is not None:
            here = form.bend(here, stretch, body.bulge)
        if body.turn_deg:
            here = _turned(here, body.turn_deg)
        normals[box][inside] = here


def _stretched(places: NDArray[np.float64], base: NDArray[np.float64]) -> tuple[Stretch, float]:
    """How places (n x 2, mm) lie to a base, and how far the farthest is from it along the way, mm."""
    middle = places.mean(axis=0)
    way = middle - base
    way /= max(float(np.hypot(*way)), 1e-6)
    ahead = (places - base) @ way
    reach = float(ahead.max())
    off = (places - middle) @ np.array([-way[1], way[0]])
    along = np.clip(ahead / max(reach, 1e-6), 0, 1)
    return Stretch(way, along, off / max(float(np.abs(off).max()), 1e-6)), reach


def with_axes_from_bases(bodies: Sequence[Body], body_map: NDArray[np.int32], *, px_per_mm: float) -> list[Body]:
    """Bodies round along the way from their base get that axis: a shape that narrows, as a cone does, fills its
    tightest rectangle too little to read it off.

    Parameters
    ----------
    bodies
        in the order of their numbers
    body_map
        h x w, the body of each pixel from 1
    px_per_mm
        pixels to a millimetre
    """
    placed = list(bodies)
    for number, box in enumerate(find_objects(body_map, max_label=len(bodies)), start=1):
        body = bodies[number - 1]
        if FORMS[body.form].axis != "base" or body.axis_deg is not None or box is None:
            continue
        rows, cols = np.nonzero(body_map[box] == number)
        places = np.stack([cols + box[1].start, rows + box[0].start], axis=1) / px_per_mm
        base = np.array(body.base_mm) if body.base_mm is not None else _lower_end(places)
        x, y = base - places.mean(axis=0)
        placed[number - 1] = replace(body, axis_deg=float(np.degrees(np.arctan2(x, -y)) % 180))
    return placed


def _turned(normals: NDArray[np.float32], turn_deg: float) -> NDArray[np.float32]:
    """Turned against the clock by `turn_deg`, which is the lamp turned with it."""
    angle = np.radians(turn_deg)
    cos, sin = np.cos(angle), np.sin(angle)
    x, y = normals[:, 0], normals[:, 1]
    return np.stack([cos * x + sin * y, cos * y - sin * x, normals[:, 2]], axis=1).astype(np.float32)


def _lower_end(places: NDArray[np.float64]) -> NDArray[np.float64]:
    """The lower end of the longest direction."""
    middle = places.mean(axis=0)
    spread = np.cov((places - middle).T) if len(places) > 2 else np.eye(2)
    way = np.linalg.eigh(spread)[1][:, -1]
    way = way if way[1] >= 0 else -way
    return middle + way * float(((places - middle) @ way).max())
