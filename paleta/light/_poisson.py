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
from scipy.sparse.linalg import LinearOperator, cg

from paleta.light._bodies import FORMS, Body, Form

TUBE_LEAK = 0.06
"""How much height flows along a tube compared with across it; 0 would be an endless tube."""
STRAIGHT_SHARE = 0.62
"""A tube that fills this share of its tightest rectangle is straight and has one axis; else it winds."""
HOLE_SHARE = 0.01
"""A hole smaller than this share of a tube is a spot on it."""
SOLVER_TOLERANCE, DIRECT_UNKNOWNS = 2e-3, 8000
"""Of the residual, and how many unknowns are left when the rest is solved exactly. Heights are then within 0.01 px of
the exact solution of the demo's panels (measured)."""
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
    depth = np.array([-(10**6)] + [body.depth for body in bodies], np.int32)
    right_sides = np.array([0.0] + [form.right_side for form in forms])
    groups = _conductions(body_map, bodies, forms)
    reach = max((abs(step) for _, weights in groups for offset, _ in weights for step in offset), default=1)
    standing = np.pad(depth[body_map], reach, constant_values=depth[0])
    rows, cols, values, diagonals, rights = [], [], [], [], []
    first = 0
    indices: list[NDArray[np.int32]] = []
    for layer in layers:
        padded = np.pad(layer, reach)
        places = np.flatnonzero(padded)
        index = np.full(padded.size, -1, np.int32)
        index[places] = np.arange(first, first + len(places), dtype=np.int32)
        diagonal = np.zeros(len(places))
        mine = padded.ravel()[places]
        for group, weights in groups:
            own = np.flatnonzero(group[mine])
            at, body = places[own], mine[own]
            for (down, across), weight in weights:
                there = at + down * padded.shape[1] + across
                linked = padded.ravel()[there] == body
                held = ~linked & (standing.ravel()[there] <= depth[body])
                diagonal[own] += weight * (linked | held)
                rows.append(index[at[linked]])
                cols.append(index[there[linked]])
                values.append(np.full(len(rows[-1]), -weight))
        diagonals.append(diagonal)
        rights.append(right_sides[mine])
        inside = index.reshape(padded.shape)[reach:-reach, reach:-reach]
        indices.append(np.ascontiguousarray(inside))
        first += len(places)
    place = np.arange(first, dtype=np.int32)
    # A body hemmed in by nearer ones on all sides has nothing to hold it; a breath of height loss keeps it finite.
    diagonal = np.concatenate([*diagonals, np.zeros(0)]) + 1e-6
    matrix = sparse.csr_matrix(
        (np.concatenate([*values, diagonal]), (np.concatenate([*rows, place]), np.concatenate([*cols, place]))),
        shape=(first, first),
    )
    return System(matrix=matrix, right=np.concatenate([*rights, np.zeros(0)]), layers=layers, indices=indices)


def solve(system: System, body_map: NDArray[np.int32]) -> NDArray[np.float64]:
    """u on every pixel of a body, 0 elsewhere; what lies beneath nearer things is solved but not told."""
    solution = np.zeros(body_map.shape)
    if not len(system.right):
        return solution
    # Half a sweep before and the other half after is as symmetric as conjugate gradients want it, at half the price.
    # What only prepares each of their steps is worked out in half the digits: half the memory to move, the same answer.
    prepare = pyamg.ruge_stuben_solver(
        system.matrix.astype(np.float32),
        max_coarse=DIRECT_UNKNOWNS,
        interpolation="direct",
        coarse_solver="splu",
        presmoother=("gauss_seidel", {"sweep": "forward"}),
        postsmoother=("gauss_seidel", {"sweep": "backward"}),
    ).aspreconditioner()
    prepared = LinearOperator(
        system.matrix.shape, matvec=lambda rest: prepare.matvec(rest.astype(np.float32)), dtype=np.float64
    )
    found, _ = cg(system.matrix, system.right, rtol=SOLVER_TOLERANCE, maxiter=40, M=prepared)
    for layer, index in zip(system.layers, system.indices, strict=True):
        own = (layer == body_map) & (layer > 0)
        solution[own] = found[index[own]]
    return solution


def _conductions(
    body_map: NDArray[np.int32], bodies: Sequence[Body], forms: Sequence[Form]
) -> list[tuple[NDArray[np.bool_], list[tuple[Offset, float]]]]:
    """Groups of bodies (a mask over their numbers, 0 = none) in which height flows alike, and how well it flows to the
    pixel at every (row, col) offset."""
    round_ones = np.array([False] + [form.right_side > 0 for form in forms])
    groups = []
    for number, axis in _straight_axes(body_map, bodies, forms).items():
        if round_ones[number]:
            round_ones[number] = False
            alone = np.zeros(len(bodies) + 1, bool)
            alone[number] = True
            groups.append((alone, _both_ways(selling_weights(axis))))
    return [(round_ones, _both_ways([((0, 1), 1.0), ((1, 0), 1.0)])), *groups]


def _both_ways(weights: list[tuple[Offset, float]]) -> list[tuple[Offset, float]]:
    return [((sign * down, sign * across), weight) for (down, across), weight in weights for sign in (1, -1)]


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
        mask = body_map == number
        rows, cols = np.nonzero(mask)
        if len(rows) < 12 or _has_hole(mask, rows, cols):
            continue
        (_, (width, height), turn) = cv2.minAreaRect(np.stack([cols, rows], axis=1).astype(np.float32))
        if len(rows) >= STRAIGHT_SHARE * (width + 1) * (height + 1):
            # OpenCV's turn is clockwise from the x axis to the side called width.
            axes[number] = (turn + (90 if width >= height else 180)) % 180
    return axes


def _has_hole(mask: NDArray[np.bool_], rows: NDArray[np.intp], cols: NDArray[np.intp]) -> bool:
    """A ring winds, however much of its rectangle it fills."""
    box = mask[rows.min() : rows.max() + 1, cols.min() : cols.max() + 1]
    holes = np.count_nonzero(binary_fill_holes(box)) - len(rows)
    return bool(holes > HOLE_SHARE * len(rows))


def views(shape: tuple[int, ...], offset: Offset) -> tuple[tuple[slice, slice], tuple[slice, slice]]:
    """Slices of the pixels that have a partner at `offset`, and of those partners."""
    here, there = [], []
    for size, step in zip(shape, offset, strict=True):
        here.append(slice(max(0, -step), min(size, size - step)))
        there.append(slice(max(0, step), min(size, size + step)))
    return (here[0], here[1]), (there[0], there[1])
