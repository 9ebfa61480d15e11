"""Inflating the bodies of a drawing into a relief of heights and normals."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.errors import FormError
from paleta.impression import RegionMap
from paleta.light._bodies import FORMS, PAPER_DEPTH, Body
from paleta.light._loops import loops
from paleta.light._poisson import assemble, solve
from paleta.light._shaping import shape_bodies, with_axes_from_bases

SCALE = 2
"""The relief is modelled on every second pixel: a form is smooth, and the solver needs a quarter of the time."""
STAIR_BLUR_PX = 1.0


FLAT_FADE = 0.16
"""A flat body loses this much light from the side of the lamp to the far side, so that it can be shaded at all:
walls grow darker towards the far end (common practice)."""


@dataclass(frozen=True, eq=False)
class Relief:
    """The surface of a picture, on every SCALE-th pixel.

    normals  h x w x 3 float32, unit length, page coordinates (x right, y down, z to the viewer).
    height   h x w float32, in label-map pixels.
    depth    h x w int16, of the body there; PAPER_DEPTH on the paper around.
    flat     n, positions in the flattened h x w of all pixels that lie flat.
    across   n x 2 float32, their place within their body from its middle, -1..1 along x and y.
    tuck     h x w float32, 0..1, how much of the light the dark of a tucked base takes.
    shape    H x W of the label map it belongs to; step_px of its pixels to one of the relief's; px_per_mm of them.
    """

    normals: NDArray[np.float32]
    height: NDArray[np.float32]
    depth: NDArray[np.int16]
    flat: NDArray[np.int64]
    across: NDArray[np.float32]
    tuck: NDArray[np.float32]
    shape: tuple[int, int]
    px_per_mm: float
    step_px: int = SCALE

    @cached_property
    def facing(self) -> NDArray[np.float32]:
        """h x w x 3: what a lamp's direction is multiplied by. The normals, and what lies flat leans a little, so that
        it darkens away from the lamp; it does not change while the lamp turns."""
        found = self.normals.copy()
        found.reshape(-1, 3)[self.flat, :2] += FLAT_FADE * self.across
        return found

    @cached_property
    def casting(self) -> Casting:
        """What shadows are cast with; it does not change while the lamp turns."""
        height = np.maximum(self.height, 0) / self.step_px
        standing = self.depth[self.depth > PAPER_DEPTH]
        level = not standing.size or standing.min() == standing.max()
        return Casting(np.ascontiguousarray(height, np.float32), height.max(axis=1, initial=0.0), level)


@dataclass(frozen=True, slots=True, eq=False)
class Casting:
    """What rises on a relief: h x w float32 in pixels of the relief, the tallest of each row, and whether everything
    stands equally far away, so that nothing casts a shadow on anything."""

    height: NDArray[np.float32]
    tallest: NDArray[np.float32]
    level: bool


def model_forms(region_map: RegionMap, bodies: Sequence[Body]) -> Relief:
    """Solve the heights of all bodies at once. Regions in no body lie flat.

    Parameters
    ----------
    region_map
        H x W labels, px_per_mm.
    bodies
        Each region in one at most.

    Returns
    -------
    The surface on every SCALE-th pixel.

    Raises
    ------
    FormError
        If a region belongs to two bodies.
    """
    body_map = body_map_of(region_map, bodies)
    bodies = with_axes_from_bases(bodies, body_map, px_per_mm=region_map.px_per_mm / SCALE)
    solution = solve(assemble(body_map, bodies), body_map)
    forms = [FORMS[body.form] for body in bodies]
    scale = np.array([0.0] + [form.sign * form.rise * body.bulge for form, body in zip(forms, bodies, strict=True)])
    height = (np.sqrt(np.maximum(solution, 0)) * scale[body_map]).astype(np.float32)
    normals = _normals(solution, height, scale[body_map].astype(np.float32), body_map)
    flat = np.flatnonzero((scale[body_map] == 0) & (region_map.labels[::SCALE, ::SCALE] > 0))
    tuck = np.zeros(height.shape, np.float32)
    shape_bodies(normals, tuck, body_map, bodies, px_per_mm=region_map.px_per_mm / SCALE)
    return Relief(
        normals=normals,
        height=height * SCALE,
        depth=_depths(region_map, body_map, bodies),
        flat=flat,
        across=_turned_across(flat, body_map, bodies),
        tuck=tuck,
        shape=region_map.labels.shape,
        px_per_mm=region_map.px_per_mm,
    )


def smaller(relief: Relief, step_px: int) -> Relief:
    """The same surface on every `step_px`-th pixel of the label map: enough for a picture while the lamp moves.

    Parameters
    ----------
    relief
        The surface, on every `relief.step_px`-th pixel.
    step_px
        More than that.
    """
    rows, cols = -(-relief.shape[0] // step_px), -(-relief.shape[1] // step_px)

    def fewer(plane: NDArray[Any], interpolation: int = cv2.INTER_AREA) -> NDArray[Any]:
        return cv2.resize(plane, (cols, rows), interpolation=interpolation)

    normals = fewer(relief.normals)
    lying = np.zeros(relief.height.size, np.uint8)
    lying[relief.flat] = 1
    places = np.zeros((relief.height.size, 2), np.float32)
    places[relief.flat] = relief.across
    shape = relief.height.shape
    flat = np.flatnonzero(fewer(lying.reshape(shape), cv2.INTER_NEAREST))
    return Relief(
        normals=normals / np.maximum(np.linalg.norm(normals, axis=-1, keepdims=True), 1e-6),
        height=fewer(relief.height),
        depth=fewer(relief.depth, cv2.INTER_NEAREST),
        flat=flat,
        across=fewer(places.reshape(*shape, 2), cv2.INTER_NEAREST).reshape(-1, 2)[flat],
        tuck=fewer(relief.tuck),
        shape=relief.shape,
        px_per_mm=relief.px_per_mm,
        step_px=step_px,
    )


def _depths(region_map: RegionMap, body_map: NDArray[np.int32], bodies: Sequence[Body]) -> NDArray[np.int16]:
    depth = np.array([0] + [body.depth for body in bodies], np.int16)[body_map]
    depth[region_map.labels[::SCALE, ::SCALE] == 0] = PAPER_DEPTH
    return depth


def body_map_of(region_map: RegionMap, bodies: Sequence[Body]) -> NDArray[np.int32]:
    """Which body (from 1) each SCALE-th pixel belongs to, 0 = none.

    Parameters
    ----------
    region_map
        the regions
    bodies
        with the regions they hold
    """
    owner = np.zeros(int(region_map.labels.max()) + 1, np.int32)
    for number, body in enumerate(bodies, start=1):
        for label in body.regions:
            if not 0 < label < len(owner):
                raise FormError(f"There is no region {label} for a body.")
            if owner[label]:
                raise FormError(f"Region {label} belongs to two bodies.")
            owner[label] = number
    return owner[region_map.labels[::SCALE, ::SCALE]]


def _normals(
    solution: NDArray[np.float64], height: NDArray[np.float32], scale: NDArray[np.float32], body_map: NDArray[np.int32]
) -> NDArray[np.float32]:
    """Unit normals of z = scale * sqrt(u): proportional to (-s^2 u_x / 2, -s^2 u_y / 2, |height|), sunk ones mirrored.

    Differences of u itself stay finite at the rim, where the height's own slope does not.
    """
    u = solution.astype(np.float32)
    squared = -0.5 * scale * np.abs(scale)
    normal = np.empty((*u.shape, 3), np.float32)
    for plane, axis in enumerate((1, 0)):
        first = (slice(None),) * axis + (slice(None, -1),)
        second = (slice(None),) * axis + (slice(1, None),)
        alike = body_map[first] == body_map[second]
        step = np.where(alike, u[second] - u[first], np.float32(0))
        # One-sided at borders: the neighbour across belongs to another form.
        total, known = np.zeros_like(u), np.zeros(u.shape, np.uint8)
        for half in (first, second):
            total[half] += step
            known[half] += alike
        total /= np.maximum(known, 1)
        np.multiply(squared, total, out=normal[..., plane])
    np.maximum(np.abs(height), 0.25, out=normal[..., 2])
    normal /= np.sqrt(np.einsum("...k,...k", normal, normal))[..., None]
    # A slanting outline is a staircase of pixels; without this its steps show as ripples in the light.
    part = np.exp(-0.5 * (np.arange(3) / STAIR_BLUR_PX) ** 2).astype(np.float32)
    normal = loops().smoothed(normal, np.where(np.abs(scale) < 1e-6, 0, body_map).astype(np.int32), part)
    return np.asarray(normal)


def _turned_across(flat: NDArray[np.intp], body_map: NDArray[np.int32], bodies: Sequence[Body]) -> NDArray[np.float32]:
    """Places within their body of the pixels `flat`, which are all of it, turned with a light that was turned by hand;
    n x 2."""
    owner = body_map.ravel()[flat]
    across = _across(flat, owner, body_map.shape[1], len(bodies))
    angle = np.radians([0.0] + [body.turn_deg for body in bodies]).astype(np.float32)
    cos, sin = np.cos(angle)[owner], np.sin(angle)[owner]
    # Turning the light by an angle is turning the thing back by it.
    return np.stack([cos * across[:, 0] + sin * across[:, 1], cos * across[:, 1] - sin * across[:, 0]], axis=1)


def _across(flat: NDArray[np.intp], owner: NDArray[np.int32], width: int, count: int) -> NDArray[np.float32]:
    areas = np.maximum(np.bincount(owner, minlength=count + 1), 1)
    planes = []
    for place in (flat % width, flat // width):
        middle = np.bincount(owner, weights=place, minlength=count + 1) / areas
        spread = np.sqrt(np.bincount(owner, weights=(place - middle[owner]) ** 2, minlength=count + 1) / areas + 1)
        # Two standard deviations reach the edge of a disc.
        planes.append(np.clip((place - middle[owner]) / (2 * spread[owner]), -1, 1))
    return np.stack(planes, axis=-1).astype(np.float32)


def relief_to_bytes(relief: Relief) -> bytes:
    """Pack a relief for keeping; half precision is finer than any shading needs."""
    out = io.BytesIO()
    np.savez_compressed(
        out,
        normals=relief.normals[..., :2].astype(np.float16),
        sunk=np.signbit(relief.height),
        height=np.abs(relief.height).astype(np.float16),
        depth=relief.depth,
        flat=relief.flat,
        across=relief.across,
        tuck=(relief.tuck * 255 + 0.5).astype(np.uint8),
        shape=np.array(relief.shape),
        px_per_mm=np.array(relief.px_per_mm),
    )
    return out.getvalue()


def relief_from_bytes(data: bytes) -> Relief:
    """Undo `relief_to_bytes`."""
    with np.load(io.BytesIO(data), allow_pickle=False) as kept:
        slope = kept["normals"].astype(np.float32)
        height = kept["height"].astype(np.float32)
        rows, cols = (int(size) for size in kept["shape"])
        upward = np.sqrt(np.maximum(1 - (slope**2).sum(axis=-1, keepdims=True), 0))
        return Relief(
            normals=np.concatenate([slope, upward], axis=-1),
            height=np.where(kept["sunk"], -height, height),
            depth=kept["depth"],
            flat=kept["flat"],
            across=kept["across"],
            tuck=kept["tuck"].astype(np.float32) / 255,
            shape=(rows, cols),
            px_per_mm=float(kept["px_per_mm"]),
        )
