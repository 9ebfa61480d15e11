"""Freeing a photo from the colour of its light, its fall-off and mild shadows, without explaining faults away."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import block_diag, coo_array, csr_array, diags_array, hstack, vstack
from scipy.sparse.linalg import spsolve

from paleta.colour import Lab, lab_to_srgb
from paleta.repeat._cells import Cells, log_light, on_paper
from paleta.repeat._match import bending, spread

FIELD_MM = 6.0
TONE, COLOURFUL = 0.06, 0.05
"""Spreads of what phones do to contrast and to colour; held near none, or a pen that is off would be explained."""
HAND = 0.035
"""Spread of the hand in the logarithm of light: about 1 CIEDE2000."""
NOISE = 0.012
STIFF, MIXED_STIFF, LIFT = 30.0, 600.0, 1e-3
"""What it costs the light to bend, its colour to bend, and the field to be there at all."""
FAR = 2.0
"""Zones farther off than so many of the hand's spreads hold the field back no more (Cauchy's weights, [Huber1981])."""
PASSES = 8
PATCH_TRUST = 4.0


@dataclass(frozen=True, slots=True)
class GreyPatch:
    """A printed grey in the margin: where its middle lies, in mm of the impression (x, y; may lie outside of it), its
    side in mm and its colour."""

    x_mm: float
    y_mm: float
    side_mm: float
    lab: Lab


@dataclass(frozen=True, eq=False)
class Freed:
    """What is left of the photo once its light is taken out.

    off     Z x 3: by how much the logarithm of the light of each zone is off, R, G and B; of `zones` Z x 2 (region,
            zone). doubt Z: the spread that measuring leaves.
    left    N x 3: the same of each cell, the field taken out.
    tone    what the phone did to contrast, 1 = nothing.
    """

    zones: NDArray[np.int32]
    off: NDArray[np.float64]
    doubt: NDArray[np.float64]
    left: NDArray[np.float64]
    tone: float


def free(
    cells: Cells, patches: Sequence[GreyPatch] = (), seen_patches: NDArray[np.float32] | None = None
) -> Freed:
    """Part what was seen into light and hand.

    The logarithm of the light seen is a gain per channel, times a contrast and a colourfulness near 1, a smooth field
    over the card whose colour bends far less, and what each zone is off: small for most (the hand), large for a few
    (faults), nothing for bare paper. All of it is one robust least-squares fit. Printed greys (`seen_patches` P x 3
    sRGB) join as paper does.
    """
    paper = on_paper(cells)
    seen, plan, at = cells.seen, cells.plan, cells.at
    weight = np.sqrt(np.minimum(cells.pixels, 200) / 200)
    if len(patches) and seen_patches is not None:
        known = ~np.isnan(seen_patches).any(axis=1)
        greys = np.array([lab_to_srgb(np.array(one.lab)) for one in patches], np.float32)
        seen = np.concatenate([seen, log_light(seen_patches[known])])
        plan = np.concatenate([plan, log_light(greys[known])])
        at = np.concatenate([at, np.array([(one.x_mm, one.y_mm) for one in patches])[known]])
        weight = np.concatenate([weight, np.full(int(known.sum()), PATCH_TRUST)])
    count = len(seen)
    codes = cells.region.astype(np.int64) * 256 + cells.zone
    names, zone_of = np.unique(codes[~paper], return_inverse=True)
    low = np.minimum(at.min(axis=0, initial=0), 0)
    cols, rows = (int(side) + 2 for side in np.ceil((at.max(axis=0, initial=1) - low) / FIELD_MM))
    places = spread(np.clip((at - low) / FIELD_MM, 0, None), rows, cols)
    nodes = rows * cols
    # Columns: 3 gains, tone, colour; the field of light; fields of red and blue against green; zones, three channels.
    blocks, knowns, weights = [], [], []
    grey = plan.mean(axis=1)
    for channel in range(3):
        gains = np.zeros((count, 5))
        gains[:, channel] = 1
        gains[:, 3], gains[:, 4] = grey - grey.mean(), plan[:, channel] - grey
        tint = [csr_array((count, nodes)), csr_array((count, nodes))]
        if channel != 1:
            tint[channel // 2] = places
        own = [csr_array((count, len(names))) for _ in range(3)]
        own[channel] = _members(np.flatnonzero(~paper), zone_of, count, len(names))
        blocks.append(hstack([csr_array(gains), places, *tint, *own], format="csr"))
        knowns.append(seen[:, channel] - plan[:, channel])
        weights.append(weight / NOISE)
    matrix, known, trust = vstack(blocks, format="csr"), np.concatenate(knowns), np.concatenate(weights)
    bend = bending(rows, cols)
    still = LIFT * diags_array(np.ones(nodes))
    prior_field = [STIFF * bend + still, MIXED_STIFF * bend + 30 * still, MIXED_STIFF * bend + 30 * still]
    plain = np.array([1e-6, 1e-6, 1e-6, 1 / TONE**2, 1 / COLOURFUL**2])
    hand = np.ones(len(names))
    doubtful = np.ones(len(known))
    solved = np.zeros(matrix.shape[1])
    for _ in range(PASSES):
        zones = np.tile(hand / HAND**2, 3)
        prior = block_diag([diags_array(plain), *prior_field, diags_array(zones)], format="csr")
        weighted = matrix.T @ diags_array(trust**2 * doubtful)
        solved = spsolve((weighted @ matrix + prior).tocsc(), weighted @ known)
        off = solved[5 + 3 * nodes :].reshape(3, -1).T
        hand = 1 / (1 + (np.sqrt((off**2).mean(axis=1)) / (FAR * HAND)) ** 2)
        left = (known - matrix @ solved).reshape(3, -1)
        spread_ = max(1.4826 * float(np.median(np.abs(left))), NOISE / 2)
        doubtful = np.tile(1 / (1 + ((left**2).mean(axis=0) / (3 * spread_) ** 2)), 3)
    cell_off = (known - matrix @ solved).reshape(3, -1).T
    cell_off[np.flatnonzero(~paper)] += off[zone_of]
    size = np.bincount(zone_of, weights=np.minimum(cells.pixels[~paper], 200) / 200, minlength=len(names))
    tone = 1 + float(solved[3])
    return Freed(
        zones=np.stack([names // 256, names % 256], axis=1).astype(np.int32),
        off=off / tone,
        doubt=spread_ / np.sqrt(np.maximum(size, 1e-3)),
        left=cell_off[: len(cells.region)] / tone,
        tone=tone,
    )


def _members(rows: NDArray[np.int64], columns: NDArray[np.int64], height: int, width: int) -> csr_array:
    return csr_array(coo_array((np.ones(len(rows)), (rows, columns)), shape=(height, width)))
