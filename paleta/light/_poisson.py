"""Solving the heights of bodies.

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

from paleta.light._bodies import FORMS, Body, Form

TUBE_LEAK = 0.06
"""How much height flows along a tube compared with across it; 0 would be an endless tube."""
STRAIGHT_SHARE = 0.62
"""A tube that fills this share of its tightest rectangle is straight and has one axis; else it winds."""
SOLVER_TOLERANCE = 1e-4
Offset = tuple[int, int]


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


@dataclass(frozen=True, slots=True, eq=False)
class System:
    """matrix @ u = right over all pixels of all layers; `indices` says which u is a pixel's (-1: none)."""

    matrix: sparse.csr_matrix
    right: NDArray[np.float64]
    layers: list[NDArray[np.int32]]
    indices: list[NDArray[np.int32]]


def assemble(body_map: NDArray[np.int32], bodies: Sequence[Body]) -> System:
    """The equations of div(T grad u) = -right_side for all bodies (numbered from 1), in pixels squared."""
    forms = [FORMS[body.form] for body in bodies]
    layers = _layers(body_map, bodies, np.array([False] + [form.right_side > 0 for form in forms]))
    depth = np.array([-(10**6)] + [body.depth for body in bodies])
    conductions = _conductions(body_map, bodies, forms)
    right_sides = np.array([0.0] + [form.right_side for form in forms])
    size = sum(int(np.count_nonzero(layer)) for layer in layers)
    diagonal, right = np.zeros(size), np.zeros(size)
    rows, cols, values = [], [], []
    first = 0
    indices: list[NDArray[np.int32]] = []
    for layer in layers:
        inside = layer > 0
        count = int(np.count_nonzero(inside))
        index = np.full(layer.shape, -1, np.int32)
        index[inside] = np.arange(first, first + count, dtype=np.int32)
        right[first : first + count] = right_sides[layer[inside]]
        indices.append(index)
        first += count
        for offset, weight in conductions.items():
            here, there = views(layer.shape, offset)
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
    matrix = sparse.csr_matrix(
        (np.concatenate([*values, diagonal]), (np.concatenate([*rows, place]), np.concatenate([*cols, place]))),
        shape=(size, size),
    )
    return System(matrix=matrix, right=right, layers=layers, indices=indices)


def solve(system: System, body_map: NDArray[np.int32]) -> NDArray[np.float64]:
    """u on every pixel of a body, 0 elsewhere; what lies beneath nearer things is solved but not told."""
    solution = np.zeros(body_map.shape)
    if not len(system.right):
        return solution
    solver = pyamg.ruge_stuben_solver(system.matrix, max_coarse=500)
    found = solver.solve(system.right, tol=SOLVER_TOLERANCE, accel="cg", maxiter=40)
    for layer, index in zip(system.layers, system.indices, strict=True):
        own = (layer == body_map) & (layer > 0)
        solution[own] = found[index[own]]
    return solution


def _conductions(
    body_map: NDArray[np.int32], bodies: Sequence[Body], forms: Sequence[Form]
) -> dict[Offset, NDArray[np.float64]]:
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


def views(shape: tuple[int, ...], offset: Offset) -> tuple[tuple[slice, slice], tuple[slice, slice]]:
    """Slices of the pixels that have a partner at `offset`, and of those partners."""
    here, there = [], []
    for size, step in zip(shape, offset, strict=True):
        here.append(slice(max(0, -step), min(size, size - step)))
        there.append(slice(max(0, step), min(size, size + step)))
    return (here[0], here[1]), (there[0], there[1])
