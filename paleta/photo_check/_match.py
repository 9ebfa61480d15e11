"""Small patches of a line picture looked for near where they should be, and a smooth field through what was found."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.sparse import block_array, coo_array, csr_array, diags_array, eye_array, kron, vstack
from scipy.sparse.linalg import spsolve
from scipy.spatial import cKDTree

LEAST_LINE = 0.02
"""A patch with less line than this (mean of 0..1) says nothing."""
STAY = 0.12
"""What a patch's likeness must rise by to have moved as far as was looked: a line alone can slide along itself."""
AROUND = 9
"""Patches that a patch is compared with: one that moves otherwise than these is mistaken."""
STIFF, AT_REST = 0.02, 1e-4
"""What a field's bending and its moving at all weigh beside what patches say."""
BELIEVED_PX = 0.8
"""Patches that lie farther off the field count less (Cauchy's weights, [Huber2009])."""
PASSES = 3


@dataclass(frozen=True, eq=False)
class Matched:
    """at N x 2 (x, y of the middle), off N x 2 (by how much it lies elsewhere), alike N (-1..1), weight N (how much
    line the patch holds), sure N x 3 (how fast the likeness falls along x, along y, and both): a patch with but one
    line slides along it."""

    at: NDArray[np.float64]
    off: NDArray[np.float64]
    alike: NDArray[np.float64]
    weight: NDArray[np.float64]
    sure: NDArray[np.float64]

    @property
    def likeness(self) -> float:
        """Mean likeness of all patches by the line they hold; 0 for none."""
        return self.likeness_of(np.ones(len(self.weight), bool))

    def likeness_of(self, some: NDArray[np.bool_]) -> float:
        """The same of some of the patches (N)."""
        weight = self.weight[some]
        total = float(weight.sum())
        return float((weight * np.maximum(self.alike[some], 0)).sum() / total) if total > 0 else 0.0


def match(
    template: NDArray[np.float32], seen: NDArray[np.float32], *, patch_px: int, reach_px: int, step_px: int
) -> Matched:
    """Where the patches of `template` lie in `seen`, to a fraction of a pixel; both of one shape, laid on each other
    but for `reach_px`.

    Parameters
    ----------
    template
        h x w
    seen
        h x w, laid on it
    patch_px
        side of a patch
    reach_px
        how far a patch may have moved
    step_px
        from patch to patch
    """
    height, width = template.shape
    ring = cv2.copyMakeBorder(seen, reach_px, reach_px, reach_px, reach_px, cv2.BORDER_REPLICATE)
    sides = np.arange(-reach_px, reach_px + 1) / reach_px
    stay = STAY * (sides[:, None] ** 2 + sides[None, :] ** 2) / 2
    at, off, alike, weight, sure = [], [], [], [], []
    for top in range(0, max(1, height - patch_px // 2), step_px):
        for left in range(0, max(1, width - patch_px // 2), step_px):
            patch = template[top : top + patch_px, left : left + patch_px]
            line = float(patch.mean())
            if line < LEAST_LINE or min(patch.shape) < patch_px // 2:
                continue
            around = ring[top : top + patch.shape[0] + 2 * reach_px, left : left + patch.shape[1] + 2 * reach_px]
            likeness = cv2.matchTemplate(around, patch, cv2.TM_CCOEFF_NORMED)
            likeness[~np.isfinite(likeness)] = 0
            row, col = np.unravel_index(int((likeness - stay).argmax()), likeness.shape)
            best = float(likeness[row, col])
            dy, dx = _between(likeness[:, col], int(row)), _between(likeness[row], int(col))
            at.append((left + (patch.shape[1] - 1) / 2, top + (patch.shape[0] - 1) / 2))
            off.append((col + dx - reach_px, row + dy - reach_px))
            alike.append(best)
            weight.append(line * patch.size)
            sure.append(_falling(likeness, int(row), int(col)))
    return Matched(
        np.array(at).reshape(-1, 2),
        np.array(off).reshape(-1, 2),
        np.array(alike),
        np.array(weight),
        np.array(sure).reshape(-1, 3),
    )


def _falling(likeness: NDArray[np.float32], row: int, col: int) -> tuple[float, float, float]:
    """The bend of the likeness downwards at its top: along x, along y, mixed; of a form that falls in no direction."""
    if not (0 < row < likeness.shape[0] - 1 and 0 < col < likeness.shape[1] - 1):
        return 0.0, 0.0, 0.0
    top = likeness[row - 1 : row + 2, col - 1 : col + 2].astype(float)
    along_x, along_y = 2 * top[1, 1] - top[1, 0] - top[1, 2], 2 * top[1, 1] - top[0, 1] - top[2, 1]
    mixed = (top[0, 2] + top[2, 0] - top[0, 0] - top[2, 2]) / 4
    along_x, along_y = max(along_x, 0.0), max(along_y, 0.0)
    most = np.sqrt(along_x * along_y)
    return along_x, along_y, float(np.clip(mixed, -most, most))


def _between(likeness: NDArray[np.float32], place: int) -> float:
    """Where between the pixels a parabola through the highest and its neighbours has its top."""
    if not 0 < place < len(likeness) - 1:
        return 0.0
    before, here, after = (float(one) for one in likeness[place - 1 : place + 2])
    bend = before - 2 * here + after
    return float(np.clip(0.5 * (before - after) / bend, -0.5, 0.5)) if bend < -1e-9 else 0.0


def trusted(found: Matched, least: float, odd_px: float) -> NDArray[np.bool_]:
    """N: which patches are alike enough and move as those around them do.

    Parameters
    ----------
    found
        what `match` found
    least
        likeness that a patch must have
    odd_px
        how far it may move otherwise than its neighbours
    """
    good = found.alike >= least
    if good.sum() < 3:
        return good
    places = np.flatnonzero(good)
    tree = cKDTree(found.at[places])
    _, near = tree.query(found.at[places], k=min(AROUND, len(places)))
    usual = np.median(found.off[places][near], axis=1)
    good[places[np.hypot(*(found.off[places] - usual).T) > odd_px]] = False
    return good


def field_through(
    found: Matched, good: NDArray[np.bool_], shape: tuple[int, int], *, step_px: int
) -> NDArray[np.float32]:
    """h x w x 2 float32: the least bent field through what the `good` patches say, on every pixel of `shape`; zeros if
    there are too few. Least squares with a penalty on second differences ([Horn1981]).

    Parameters
    ----------
    found
        what `match` found
    good
        N, which of its patches count
    shape
        h, w of the field
    step_px
        from patch to patch
    """
    if good.sum() < 6:
        return np.zeros((*shape, 2), np.float32)
    rows, cols = (size // step_px + 2 for size in shape)
    places = spread(found.at[good] / step_px, rows, cols)
    both = kron(eye_array(2), places, format="csr")
    off, sure = found.off[good].T.ravel(), found.sure[good]
    bend = STIFF * kron(eye_array(2), bending(rows, cols), format="csr")
    resting = AT_REST * eye_array(2 * rows * cols, format="csr")
    weight = np.ones(good.sum())
    nodes = np.zeros(2 * rows * cols)
    for _ in range(PASSES):
        along_x, along_y, mixed = (weight[:, None] * sure).T
        cross = diags_array(mixed)
        known = csr_array(block_array([[diags_array(along_x), cross], [cross, diags_array(along_y)]]))
        held = (both.T @ known @ both + bend + resting).tocsc()
        nodes = spsolve(held, both.T @ (known @ off), permc_spec="MMD_AT_PLUS_A")
        left = (both @ nodes - off).reshape(2, -1)
        felt = left[0] ** 2 * sure[:, 0] + left[1] ** 2 * sure[:, 1] + 2 * left[0] * left[1] * sure[:, 2]
        away = np.maximum(felt, 0) / np.maximum(sure[:, :2].max(axis=1), 1e-9)
        weight = 1 / (1 + away / BELIEVED_PX**2)
    bent = np.moveaxis(nodes.reshape(2, rows, cols), 0, -1).astype(np.float32)
    x, y = np.meshgrid(np.arange(shape[1], dtype=np.float32), np.arange(shape[0], dtype=np.float32))
    return cv2.remap(np.ascontiguousarray(bent), x / step_px, y / step_px, cv2.INTER_LINEAR)


def spread(at: NDArray[np.float64], rows: int, cols: int) -> csr_array:
    """N x nodes: which share of each node a place between them (x, y in steps) has.

    Parameters
    ----------
    at
        N x 2, (x, y) in steps
    rows, cols
        of the grid
    """
    left, top = np.clip(np.floor(at).astype(int), 0, (cols - 2, rows - 2)).T
    x, y = at[:, 0] - left, at[:, 1] - top
    places, nodes, shares = [], [], []
    for down, over, share in ((0, 0, (1 - x) * (1 - y)), (0, 1, x * (1 - y)), (1, 0, (1 - x) * y), (1, 1, x * y)):
        places.append(np.arange(len(at)))
        nodes.append((top + down) * cols + left + over)
        shares.append(share)
    entries = (np.concatenate(shares), (np.concatenate(places), np.concatenate(nodes)))
    return csr_array(coo_array(entries, shape=(len(at), rows * cols)))


def bending(rows: int, cols: int) -> csr_array:
    """nodes x nodes: the sum of squared second differences of a field on a grid.

    Parameters
    ----------
    rows, cols
        of the grid
    """

    def second(size: int) -> csr_array:
        return csr_array(diags_array([1.0, -2.0, 1.0], offsets=[0, 1, 2], shape=(size - 2, size)))

    every = vstack(
        [
            kron(eye_array(rows), second(cols)),
            kron(second(rows), eye_array(cols)),
            np.sqrt(2) * kron(_first(rows), _first(cols)),
        ]
    )
    return csr_array(every.T @ every)


def tilting(rows: int, cols: int) -> csr_array:
    """nodes x nodes: the sum of squared first differences of a field on a grid.

    Parameters
    ----------
    rows, cols
        of the grid
    """
    every = vstack([kron(eye_array(rows), _first(cols)), kron(_first(rows), eye_array(cols))])
    return csr_array(every.T @ every)


def _first(size: int) -> csr_array:
    return csr_array(diags_array([-1.0, 1.0], offsets=[0, 1], shape=(size - 1, size)))
