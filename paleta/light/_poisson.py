"""Solving the heights of bodies.

Poisson's equation with a constant right side over each body, height as the root of its solution: over a disc of
radius R the solution of u_xx + u_yy = -4 is R^2 - r^2, so the height is exactly the hemisphere. A strip solves
u_yy = -2 to a^2 - y^2, so a tube is exactly the half cylinder. Where a body passes behind a nearer one its border
is free (Neumann): it keeps its height there, and so it does where a straight tube is cut off. Everywhere else its
height is zero (Dirichlet).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import pyamg
from numpy.typing import NDArray
from scipy import sparse
from scipy.ndimage import binary_fill_holes, find_objects
from scipy.sparse.linalg import LinearOperator, cg

from paleta.light._bodies import FORMS, PAPER_DEPTH, Body
from paleta.light._loops import loops
from paleta.light._tubes import NO_ENDS, straight_tubes

SOLVER_TOLERANCE, DIRECT_UNKNOWNS = 2e-3, 8000
"""Of the residual, and how many unknowns are left when the rest is solved exactly. Heights are then within 0.03 px of
the exact solution of the demo's panels (measured)."""
EVENLY = 0
"""The kind of body in which height flows alike in all directions."""
Offset = tuple[int, int]


def _layers(body_map: NDArray[np.int32], bodies: Sequence[Body], rises: NDArray[np.bool_]) -> list[NDArray[np.int32]]:
    """Body maps in which every body runs on beneath the nearer things that lie wholly inside it.

    A moon goes on under its craters and a pot under its spots; without that a spot would dent the form round it.
    Bodies that would cover each other come into different layers.
    """
    layers = [np.zeros_like(body_map)]
    depth = np.array([PAPER_DEPTH] + [body.depth for body in bodies])
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
    """matrix @ u = right over all pixels of all layers; `indices` says which u is a pixel's (-1: none). No two of the
    unknowns `apart` stand in one equation: the chequered half of every body in which height flows evenly."""

    matrix: sparse.csr_matrix
    right: NDArray[np.float64]
    apart: NDArray[np.bool_]
    layers: list[NDArray[np.int32]]
    indices: list[NDArray[np.int32]]


def assemble(body_map: NDArray[np.int32], bodies: Sequence[Body]) -> System:
    """The equations of div(T grad u) = -right_side for all bodies (numbered from 1), in pixels squared.

    Parameters
    ----------
    body_map
        h x w, the body of each pixel from 1, 0 for none
    bodies
        in the order of their numbers
    """
    forms = [FORMS[body.form] for body in bodies]
    layers = _layers(body_map, bodies, np.array([False] + [form.right_side > 0 for form in forms]))
    depth = np.array([PAPER_DEPTH] + [body.depth for body in bodies], np.int32)
    kind, steps, weights, ends = _conductions(body_map, bodies)
    reach = int(np.abs(steps).max())
    # The rim shifts every place by as much.
    ends[..., 2] += reach * ends[..., :2].sum(axis=-1)
    rim = np.pad(np.stack(layers), ((0, 0), (reach, reach), (reach, reach)))
    index = np.full(rim.shape, -1, np.int32)
    index[rim > 0] = np.arange(np.count_nonzero(rim), dtype=np.int32)
    standing = np.pad(depth[body_map], reach, constant_values=PAPER_DEPTH)
    data, cols, starts = loops().equations(rim, index, standing, depth, kind, steps, weights, ends)
    _, row, col = np.nonzero(rim)
    body = rim[rim > 0]
    return System(
        matrix=sparse.csr_matrix((data, cols, starts), shape=(len(body), len(body))),
        right=np.array([0.0] + [form.right_side for form in forms])[body],
        apart=(kind[body] == EVENLY) & ((row + col) % 2 == 1),
        layers=layers,
        indices=list(index[:, reach:-reach, reach:-reach]),
    )


def solve(system: System, body_map: NDArray[np.int32]) -> NDArray[np.float64]:
    """u on every pixel of a body, 0 elsewhere; what lies beneath nearer things is solved but not told.

    Parameters
    ----------
    system
        as `assemble` gives it
    body_map
        h x w, the same
    """
    solution = np.zeros(body_map.shape)
    if not len(system.right):
        return solution
    # What stands apart is written by its neighbours, which leaves about half as many equations, and the same answer.
    rest, apart = np.flatnonzero(~system.apart), np.flatnonzero(system.apart)
    rows = system.matrix[rest]
    link = rows[:, apart]
    share = 1 / system.matrix.diagonal()[apart]
    spread = sparse.diags_array(share) @ link.T
    found = np.empty(len(system.right))
    found[rest] = _solved(
        sparse.csr_matrix(rows[:, rest] - link @ spread), system.right[rest] - link @ (share * system.right[apart])
    )
    found[apart] = share * system.right[apart] - spread @ found[rest]
    for layer, index in zip(system.layers, system.indices, strict=True):
        own = (layer == body_map) & (layer > 0)
        solution[own] = found[index[own]]
    return solution


def _solved(matrix: sparse.csr_matrix, right: NDArray[np.float64]) -> NDArray[np.float64]:
    # Half a sweep before and the other half after is as symmetric as conjugate gradients want it, at half the price.
    # What only prepares each of their steps is worked out in half the digits: half the memory to move, the same answer.
    prepare = pyamg.ruge_stuben_solver(
        matrix.astype(np.float32),
        max_coarse=DIRECT_UNKNOWNS,
        interpolation="direct",
        coarse_solver="splu",
        presmoother=("gauss_seidel", {"sweep": "forward"}),
        postsmoother=("gauss_seidel", {"sweep": "backward"}),
    ).aspreconditioner()
    prepared = LinearOperator(matrix.shape, matvec=lambda rest: prepare.matvec(rest.astype(np.float32)), dtype=float)
    found, _ = cg(matrix, right, rtol=SOLVER_TOLERANCE, maxiter=40, M=prepared)
    return np.asarray(found)


def _conductions(
    body_map: NDArray[np.int32], bodies: Sequence[Body]
) -> tuple[NDArray[np.int64], NDArray[np.int64], NDArray[np.float64], NDArray[np.float64]]:
    """How height flows: by body (0 = none) its row in the tables, which say for each of six offsets (down, across;
    kinds x 6 x 2, sorted) how well it flows to the pixel there (kinds x 6), and beyond which lines it is cut off
    (kinds x 2 x 3, as `Tube.ends`)."""
    kind = np.full(len(bodies) + 1, EVENLY, np.int64)
    rows, ends = [_both_ways([((0, 1), 1.0), ((1, 0), 1.0)])], [NO_ENDS]
    for number, tube in straight_tubes(body_map, bodies).items():
        kind[number] = len(rows)
        rows.append(_both_ways(selling_weights(tube.axis_deg, tube.leak)))
        ends.append(tube.ends)
    steps, weights = np.zeros((len(rows), 6, 2), np.int64), np.zeros((len(rows), 6))
    for row, flows in enumerate(rows):
        steps[row, : len(flows)] = [offset for offset, _ in flows]
        weights[row, : len(flows)] = [weight for _, weight in flows]
    return kind, steps, weights, np.array(ends)


def _both_ways(weights: list[tuple[Offset, float]]) -> list[tuple[Offset, float]]:
    return sorted(((sign * down, sign * across), weight) for (down, across), weight in weights for sign in (1, -1))


def selling_weights(axis_deg: float, leak: float) -> list[tuple[Offset, float]]:
    """Non-negative weights on three grid offsets that add up to the tube's tensor (Selling's formula, [Selling1874]).

    The tensor conducts fully across the axis and `leak` of it along. Offsets are (row, col).

    Parameters
    ----------
    axis_deg
        of the tube, clockwise from the top
    leak
        how much conducts along it, 0..1
    """
    angle = np.radians(axis_deg)
    along = np.array([np.sin(angle), -np.cos(angle)])
    tensor = np.eye(2) - (1 - leak) * np.outer(along, along)
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
