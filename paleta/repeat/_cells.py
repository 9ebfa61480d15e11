"""Small pieces of a card to be measured: parts of a zone of a region, within a few millimetres."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.colour import linear_to_lab, srgb_to_linear
from paleta.impression import PAPER
from paleta.light import NO_ZONE
from paleta.picture import Planned

BLOCK_MM = 3.0
INK_MM = 0.3
"""So near the stamped line a photo's blur and what is left of its bends mix colours."""
LEAST_PX = 6
DARKEST = 0.012
"""Added to light before its logarithm is taken: noise and stray light drown what is darker."""
BURNT = 0.985
"""A channel brighter than this says nothing but that it is bright."""
TABLE = 1024
LINEAR = srgb_to_linear(np.linspace(0, 1, TABLE)).astype(np.float32)
"""A look-up is far quicker than a power for every pixel."""


@dataclass(frozen=True, eq=False)
class Cells:
    """N cells: region and zone (NO_ZONE on bare paper), at N x 2 (x, y in mm), pixels N, and the logarithm of the light
    N x 3 that was seen and that was planned."""

    region: NDArray[np.int32]
    zone: NDArray[np.int32]
    at: NDArray[np.float64]
    pixels: NDArray[np.int64]
    seen: NDArray[np.float64]
    plan: NDArray[np.float64]
    covered: float
    """Share of the card's pixels that could be measured: not cut off, not burnt out."""


def log_light(rgb: NDArray[np.float32]) -> NDArray[np.float32]:
    """Logarithm of linear light of sRGB 0..1; NaN stays."""
    place = np.clip(np.nan_to_num(rgb, nan=0.0) * (TABLE - 1) + 0.5, 0, TABLE - 1).astype(np.int32)
    light = np.log(LINEAR[place] + DARKEST)
    light[np.isnan(rgb)] = np.nan
    return np.asarray(light, np.float32)


def lab_of_log(log: NDArray[np.float64]) -> NDArray[np.float64]:
    """L*a*b* (..., 3) of what `log_light` gave."""
    return linear_to_lab(np.maximum(np.exp(log) - DARKEST, 0))


def cells_of(plan: Planned, laid: NDArray[np.float32], ink: NDArray[np.bool_]) -> Cells:
    """Measure the photo `laid` on the plan (h x w x 3 sRGB, NaN outside); `ink` h x w is left out, with its edge."""
    px = plan.px_per_mm
    reach = max(1, round(INK_MM * px))
    clear = cv2.dilate(ink.astype(np.uint8), cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * reach + 1,) * 2)) == 0
    good = clear & ~np.isnan(laid).any(axis=-1) & (np.nan_to_num(laid, nan=1.0).max(axis=-1) < BURNT)
    covered = float(good.sum() / max(1, clear.sum()))
    rows, cols = np.nonzero(good)
    block = max(2, round(BLOCK_MM * px))
    zone = plan.zones[rows, cols].astype(np.int64)
    wide = plan.labels.shape[1] // block + 1
    place = (rows // block) * wide + cols // block
    code = (plan.labels[rows, cols].astype(np.int64) * 256 + zone) * (int(place.max(initial=0)) + 1) + place
    order = np.argsort(code, kind="stable")
    code, rows, cols = code[order], rows[order], cols[order]
    starts = np.flatnonzero(np.concatenate([[True], np.diff(code) != 0])) if len(code) else np.zeros(0, int)
    ends = np.append(starts[1:], len(code))
    seen, planned = log_light(laid)[rows, cols], log_light(plan.rgb.astype(np.float32) / 255)[rows, cols]
    keep = [(start, end) for start, end in zip(starts, ends, strict=True) if end - start >= LEAST_PX]
    return Cells(
        region=np.array([plan.labels[rows[start], cols[start]] for start, _ in keep], np.int32),
        zone=np.array([plan.zones[rows[start], cols[start]] for start, _ in keep], np.int32),
        at=np.array([(cols[start:end].mean(), rows[start:end].mean()) for start, end in keep]).reshape(-1, 2) / px,
        pixels=np.array([end - start for start, end in keep], np.int64),
        seen=np.array([np.median(seen[start:end], axis=0) for start, end in keep], float).reshape(-1, 3),
        plan=np.array([np.median(planned[start:end], axis=0) for start, end in keep], float).reshape(-1, 3),
        covered=covered,
    )


def on_paper(cells: Cells) -> NDArray[np.bool_]:
    """N: which cells should be bare paper."""
    return (cells.region == PAPER) | (cells.zone == NO_ZONE)
