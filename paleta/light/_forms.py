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

ARCH = 0.85
"""Slope of a petal at either end: it rises from its deep-set base into the light and turns away at the tip."""
FOLD = 0.45
"""Slope of either half of a leaf, away from its vein."""
GROUND_TILT_DEG = 50.0
"""Ground seen from where one stands: its surface looks up the page rather than at the viewer."""
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
    """Bend `normals` (h x w x 3) and fill in `tuck` (h x w) for all bodies whose form or base asks for it, in place."""
    for number, box in enumerate(find_objects(body_map, max_label=len(bodies)), start=1):
        body = bodies[number - 1]
        plain = body.base_mm is None and not FORMS[body.form].has_base
        if box is None or (plain and body.form != "ground" and not body.turn_deg):
            continue
        inside = body_map[box] == number
        here = normals[box][inside]
        rows, cols = np.nonzero(inside)
        places = np.stack([cols + box[1].start, rows + box[0].start], axis=1) / px_per_mm
        if body.form == "ground":
            tilt = np.radians(GROUND_TILT_DEG * min(body.bulge, 1.5))
            here[:] = (0.0, -np.sin(tilt), np.cos(tilt))
        if body.base_mm is not None or FORMS[body.form].has_base:
            base = np.array(body.base_mm) if body.base_mm is not None else _lower_end(places)
            middle = places.mean(axis=0)
            way = middle - base
            way /= max(float(np.hypot(*way)), 1e-6)
            reach = float(((places - base) @ way).max())
            along = np.clip((places - base) @ way / max(reach, 1e-6), 0, 1)
            if body.form == "petal":
                here = _tilted(here, way, -ARCH * body.bulge * np.cos(np.pi * along))
            elif body.form == "leaf":
                side = np.array([-way[1], way[0]])
                off = (places - middle) @ side
                width = max(float(np.abs(off).max()), 1e-6)
                here = _tilted(here, side, FOLD * body.bulge * np.tanh(8 * off / width))
            away = np.hypot(*(places - base).T)
            tuck[box][inside] = TUCK_DARK * np.exp(-((away / max(TUCK_REACH * reach, 0.5)) ** 2))
        if body.turn_deg:
            here = _turned(here, body.turn_deg)
        normals[box][inside] = here


def with_cone_axes(bodies: Sequence[Body], body_map: NDArray[np.int32], *, px_per_mm: float) -> list[Body]:
    """Cones get the axis from their base through their middle: a shape that narrows fills its tightest rectangle too
    little to read it off."""
    placed = list(bodies)
    for number, box in enumerate(find_objects(body_map, max_label=len(bodies)), start=1):
        body = bodies[number - 1]
        if body.form != "cone" or body.axis_deg is not None or box is None:
            continue
        rows, cols = np.nonzero(body_map[box] == number)
        places = np.stack([cols + box[1].start, rows + box[0].start], axis=1) / px_per_mm
        base = np.array(body.base_mm) if body.base_mm is not None else _lower_end(places)
        x, y = base - places.mean(axis=0)
        placed[number - 1] = replace(body, axis_deg=float(np.degrees(np.arctan2(x, -y)) % 180))
    return placed


def _tilted(normals: NDArray[np.float32], way: NDArray[np.float64], slope: NDArray[np.float64]) -> NDArray[np.float32]:
    """Normals of the surface with a fall of `slope` along `way` added: towards `way` they lean by it."""
    steep = np.maximum(normals[:, 2:], 0.05)
    flat = normals[:, :2] / steep + slope[:, None] * way
    bent = np.concatenate([flat, np.ones((len(flat), 1))], axis=1)
    return (bent / np.linalg.norm(bent, axis=1, keepdims=True)).astype(np.float32)


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
