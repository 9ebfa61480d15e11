"""Inflating the bodies of a drawing into a relief.

Poisson's equation with a constant right side over each body, height as the root of its solution: over a disc of
radius R the solution of u_xx + u_yy = -4 is R^2 - r^2, so the height is exactly the hemisphere. A strip solves
u_yy = -2 to a^2 - y^2, so a tube is exactly the half cylinder. Where a body passes behind a nearer one its border
is free (Neumann): it keeps its height there. Everywhere else its height is zero (Dirichlet).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import pyamg
from numpy.typing import NDArray
from scipy import sparse
from scipy.ndimage import binary_fill_holes, find_objects

from paleta.errors import FormError
from paleta.impression import RegionMap

SCALE = 2
"""The relief is modelled on every second pixel: a form is smooth, and the solver needs a quarter of the time."""
TUBE_LEAK = 0.06
"""How much height flows along a tube compared with across it; 0 would be an endless tube."""
STRAIGHT_SHARE = 0.62
"""A tube that fills this share of its tightest rectangle is straight and has one axis; else it winds."""
STAIR_BLUR_PX = 1.0
SOLVER_TOLERANCE = 1e-4


@dataclass(frozen=True, slots=True)
class Form:
    """What the solver needs to know. `right_side` as in the module's docstring, `sign` -1 sinks the body in."""

    right_side: float
    sign: float
    has_axis: bool = False


FORMS = {"flat": Form(0.0, 0.0), "dome": Form(4.0, 1.0), "tube": Form(2.0, 1.0, has_axis=True),
         "hollow": Form(4.0, -1.0)}


@dataclass(frozen=True, slots=True)
class Body:
    """Regions that share one form.

    bulge     height over that of the full round form, 0.05 to 2.
    depth     higher is nearer the viewer.
    axis_deg  tubes only: the long direction, clockwise from the top edge; None lets Paleta read it off the shape.
    """

    regions: tuple[int, ...]
    form: str = "dome"
    bulge: float = 1.0
    depth: int = 0
    axis_deg: float | None = None

    def __post_init__(self) -> None:
        if self.form not in FORMS:
            raise FormError(f"The form must be one of {', '.join(FORMS)}, got {self.form!r}.")
        if not 0.05 <= self.bulge <= 2:
            raise FormError(f"bulge must lie in 0.05..2, got {self.bulge}.")
        if not self.regions:
            raise FormError("A body needs at least one region.")


@dataclass(frozen=True, slots=True, eq=False)
class Relief:
    """The surface of a picture, on every SCALE-th pixel.

    normals  h x w x 3 float32, unit length, page coordinates (x right, y down, z to the viewer).
    height   h x w float32, in label-map pixels.
    across   h x w x 2 float32, place within the body from its middle, -1..1 along x and y.
    shape    H x W of the label map it belongs to.
    """

    normals: NDArray[np.float32]
    height: NDArray[np.float32]
    across: NDArray[np.float32]
    shape: tuple[int, int]


def guess_bodies(region_map: RegionMap, merged: Sequence[Sequence[int]] = ()) -> list[Body]:
    """A first guess: one dome per region; a region that lies wholly inside another stands before it.

    Long straight regions are guessed as tubes. `merged` names regions that form one body together.
    """
    together = {label: tuple(group) for group in merged for label in group}
    neighbours, on_paper = region_map.neighbours(), _touching_paper(region_map)
    depths: dict[int, int] = {}

    def depth(label: int) -> int:
        if label not in depths:
            depths[label] = 0
            around = neighbours[label]
            if label not in on_paper and len(around) == 1:
                (host,) = around
                if neighbours[host] != {label}:
                    depths[label] = depth(host) + 1
        return depths[label]

    bodies, seen = [], set()
    for region in region_map.regions:
        group = together.get(region.label, (region.label,))
        if group[0] in seen:
            continue
        seen.add(group[0])
        top, left, bottom, right = region.bbox
        slim = region.inradius_mm * region_map.px_per_mm * 2 / max(bottom - top, right - left, 1)
        bodies.append(Body(regions=group, form="tube" if slim < 0.2 and len(group) == 1 else "dome",
                           depth=max(depth(label) for label in group)))
    return bodies


def _touching_paper(region_map: RegionMap) -> set[int]:
    return {border.b for border in region_map.borders if border.a == 0}


def model_forms(region_map: RegionMap, bodies: Sequence[Body]) -> Relief:
    """Solve the heights of all bodies at once. Regions in no body lie flat.

    Raises
    ------
    FormError
        If a region belongs to two bodies.
    """
    labels = region_map.labels[::SCALE, ::SCALE]
    owner = np.zeros(int(region_map.labels.max()) + 1, np.int32)
    for number, body in enumerate(bodies, start=1):
        for label in body.regions:
            if not 0 < label < len(owner):
                raise FormError(f"There is no region {label} for a body.")
            if owner[label]:
                raise FormError(f"Region {label} belongs to two bodies.")
            owner[label] = number
    body_map = owner[labels]
    forms = [FORMS[body.form] for body in bodies]
    rises = np.array([False] + [form.right_side > 0 for form in forms])
    solution = np.zeros(labels.shape)
    if rises.any():
        layers = _layers(body_map, bodies, rises)
        solved = _solve(layers, body_map, bodies, forms, rises)
        for layer, part in zip(layers, solved, strict=True):
            own = (layer == body_map) & (layer > 0)
            solution[own] = part[own]

    scale = np.array([0.0] + [form.sign * body.bulge for form, body in zip(forms, bodies, strict=True)])
    height = (np.sqrt(np.maximum(solution, 0)) * scale[body_map]).astype(np.float32)
    normals = _normals(solution, height, scale[body_map].astype(np.float32), body_map)
    return Relief(normals=normals, height=height * SCALE, across=_across(body_map, len(bodies)),
                  shape=region_map.labels.shape)


def _layers(body_map: NDArray[np.int32], bodies: Sequence[Body], rises: NDArray[np.bool_]) -> list[NDArray[np.int32]]:
    """Body maps in which every body runs on beneath the nearer things that lie wholly inside it.

    A moon goes on under its craters and a pot under its spots; without that a spot would dent the form round it.
    Bodies that would cover each other come into different layers.
    """
    layers = [np.zeros_like(body_map)]
    depth = np.array([-(10**6)] + [body.depth for body in bodies])
    for number, box in enumerate(find_objects(body_map, max_label=len(bodies)), start=1):
        if box is None or not rises[number]:
            continue
        mask = body_map[box] == number
        filled = mask | (binary_fill_holes(mask) & (depth[body_map[box]] > depth[number]))
        for layer in layers:
            if not layer[box][filled].any():
                break
        else:
            layer = np.zeros_like(body_map)
            layers.append(layer)
        layer[box][filled] = number
    return layers


def _solve(layers: Sequence[NDArray[np.int32]], body_map: NDArray[np.int32], bodies: Sequence[Body],
           forms: Sequence[Form], rises: NDArray[np.bool_]) -> list[NDArray[np.float64]]:
    """u of div(T grad u) = -right_side for every layer, in half-resolution pixels squared."""
    depth = np.array([-(10**6)] + [body.depth for body in bodies])
    conductions = _conductions(body_map, bodies, forms)
    right_sides = np.array([0.0] + [form.right_side for form in forms])
    size = sum(int(np.count_nonzero(layer)) for layer in layers)
    diagonal, right = np.zeros(size), np.zeros(size)
    rows, cols, values = [], [], []
    first, indices = 0, []
    for layer in layers:
        inside = layer > 0
        count = int(np.count_nonzero(inside))
        index = np.full(layer.shape, -1, np.int32)
        index[inside] = np.arange(first, first + count, dtype=np.int32)
        right[first:first + count] = right_sides[layer[inside]]
        indices.append(index)
        first += count
        for offset, weight in conductions.items():
            here, there = _views(layer.shape, offset)
            mine, w = layer[here], weight[layer[here]]
            counted = w > 0
            linked = counted & (mine == layer[there])
            held = counted & ~linked & (depth[body_map[there]] <= depth[mine])
            i, j = index[here], index[there]
            # One offset reaches a pixel once, so plain indexing adds up.
            diagonal[i[linked]] += w[linked]
            diagonal[i[held]] += w[held]
            rows.append(i[linked])
            cols.append(j[linked])
            values.append(-w[linked])
    # A body hemmed in by nearer ones on all sides has nothing to hold it; a breath of height loss keeps it finite.
    diagonal += 1e-6
    place = np.arange(size)
    matrix = sparse.csr_matrix((np.concatenate([*values, diagonal]),
                                (np.concatenate([*rows, place]), np.concatenate([*cols, place]))), shape=(size, size))
    solver = pyamg.ruge_stuben_solver(matrix, max_coarse=500)
    found = solver.solve(right, tol=SOLVER_TOLERANCE, accel="cg", maxiter=40)
    return [np.where(index >= 0, found[index], 0.0) for index in indices]


Offset = tuple[int, int]


def _conductions(body_map: NDArray[np.int32], bodies: Sequence[Body],
                 forms: Sequence[Form]) -> dict[Offset, NDArray[np.float64]]:
    """For every (row, col) offset, how well height flows to that pixel in each body (index 0 = none)."""
    table: dict[Offset, NDArray[np.float64]] = {}

    def put(number: int, offset: Offset, weight: float) -> None:
        for sign in (1, -1):
            key = (sign * offset[0], sign * offset[1])
            table.setdefault(key, np.zeros(len(bodies) + 1))[number] += weight

    straight = _straight_axes(body_map, bodies, forms)
    for number, form in enumerate(forms, start=1):
        if form.right_side == 0:
            continue
        axis = straight.get(number)
        if axis is None:
            put(number, (0, 1), 1.0)
            put(number, (1, 0), 1.0)
        else:
            for offset, weight in selling_weights(axis):
                put(number, offset, weight)
    return table


def selling_weights(axis_deg: float) -> list[tuple[Offset, float]]:
    """Non-negative weights on three grid offsets that add up to the tube's tensor (Selling's formula, [Selling1874]).

    The tensor conducts fully across the axis and TUBE_LEAK along it. Offsets are (row, col).
    """
    angle = np.radians(axis_deg)
    along = np.array([np.sin(angle), -np.cos(angle)])
    tensor = np.eye(2) - (1 - TUBE_LEAK) * np.outer(along, along)
    basis = [np.array([1, 0]), np.array([0, 1]), np.array([-1, -1])]
    for _ in range(50):
        pairs = [(i, j) for i in range(3) for j in range(i + 1, 3) if basis[i] @ tensor @ basis[j] > 1e-12]
        if not pairs:
            break
        i, j = pairs[0]
        one, other = basis[i], basis[j]
        basis = [-one, other, one - other]
    weights = []
    for k in range(3):
        i, j = [m for m in range(3) if m != k]
        weight = -float(basis[i] @ tensor @ basis[j])
        if weight > 1e-9:
            # e_k turned by a quarter: (x, y) -> (-y, x); as (row, col) = (x', -y') up to sign
            x, y = -int(basis[k][1]), int(basis[k][0])
            weights.append(((y, x), weight))
    return weights


def _straight_axes(body_map: NDArray[np.int32], bodies: Sequence[Body], forms: Sequence[Form]) -> dict[int, float]:
    axes: dict[int, float] = {}
    for number, (body, form) in enumerate(zip(bodies, forms, strict=True), start=1):
        if not form.has_axis:
            continue
        if body.axis_deg is not None:
            axes[number] = body.axis_deg
            continue
        rows, cols = np.nonzero(body_map == number)
        if len(rows) < 12:
            continue
        (_, (width, height), turn) = cv2.minAreaRect(np.stack([cols, rows], axis=1).astype(np.float32))
        if len(rows) >= STRAIGHT_SHARE * (width + 1) * (height + 1):
            # OpenCV's turn is clockwise from the x axis to the side called width.
            axes[number] = (turn + (90 if width >= height else 180)) % 180
    return axes


def _views(shape: tuple[int, ...], offset: Offset) -> tuple[tuple[slice, slice], tuple[slice, slice]]:
    """Slices of the pixels that have a partner at `offset`, and of those partners."""
    here, there = [], []
    for size, step in zip(shape, offset, strict=True):
        here.append(slice(max(0, -step), min(size, size - step)))
        there.append(slice(max(0, step), min(size, size + step)))
    return (here[0], here[1]), (there[0], there[1])


def _normals(solution: NDArray[np.float64], height: NDArray[np.float32], scale: NDArray[np.float32],
             body_map: NDArray[np.int32]) -> NDArray[np.float32]:
    """Unit normals of z = scale * sqrt(u): proportional to (-s^2 u_x / 2, -s^2 u_y / 2, |height|), sunk ones mirrored.

    Differences of u itself stay finite at the rim, where the height's own slope does not.
    """
    gradient = []
    for axis in (1, 0):
        forward = np.zeros(solution.shape)
        backward = np.zeros(solution.shape)
        ahead, behind = _views(solution.shape, (0, 1) if axis == 1 else (1, 0))
        step = np.where(body_map[ahead] == body_map[behind], solution[behind] - solution[ahead], np.nan)
        forward[ahead] = step
        backward[behind] = step
        # One-sided at borders: the neighbour across belongs to another form.
        both = np.stack([forward, backward])
        known = np.isfinite(both)
        gradient.append(np.where(known, both, 0).sum(axis=0) / np.maximum(known.sum(axis=0), 1))
    squared = scale * np.abs(scale)
    z = np.maximum(np.abs(height), 0.25)
    normal = np.stack([-0.5 * squared * gradient[0], -0.5 * squared * gradient[1], z], axis=-1)
    normal /= np.linalg.norm(normal, axis=-1, keepdims=True)
    # A slanting outline is a staircase of pixels; without this its steps show as ripples in the light.
    normal = cv2.GaussianBlur(normal.astype(np.float32), (0, 0), STAIR_BLUR_PX)
    normal[np.abs(scale) < 1e-6] = (0, 0, 1)
    return (normal / np.linalg.norm(normal, axis=-1, keepdims=True)).astype(np.float32)


def _across(body_map: NDArray[np.int32], count: int) -> NDArray[np.float32]:
    rows, cols = np.indices(body_map.shape, dtype=np.float32)
    flat = body_map.ravel()
    areas = np.maximum(np.bincount(flat, minlength=count + 1), 1)
    planes = []
    for place in (cols, rows):
        middle = np.bincount(flat, weights=place.ravel(), minlength=count + 1) / areas
        spread = np.sqrt(np.bincount(flat, weights=place.ravel() ** 2, minlength=count + 1) / areas - middle**2 + 1)
        # Two standard deviations reach the edge of a disc.
        planes.append(np.clip((place - middle[body_map]) / (2 * spread[body_map]), -1, 1))
    return np.stack(planes, axis=-1).astype(np.float32)
