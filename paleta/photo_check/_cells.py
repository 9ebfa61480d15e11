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
HAND_MM, EVEN, LEAST_BELIEVED = 0.15, 0.03, 0.03
"""So far from where it is planned a shade ends, and so little of a change (logarithm of light) over that is even; a
pixel is believed at least so far."""
DARKEST = 0.012
"""Added to light before its logarithm is taken: noise and stray light drown what is darker."""
BURNT = 0.985
"""A channel brighter than this says nothing but that it is bright."""
TABLE = 1024
LINEAR = srgb_to_linear(np.linspace(0, 1, TABLE)).astype(np.float32)
"""A look-up is far quicker than a power for every pixel."""


@dataclass(frozen=True, eq=False)
class Cells:
    """N cells: region and zone (NO_ZONE on bare paper), at N x 2 (x, y in mm), pixels N (those believed, so parts of
    one too) of how many (count N), and the logarithm of the light N x 3 that was seen and that was planned."""

    region: NDArray[np.int32]
    zone: NDArray[np.int32]
    at: NDArray[np.float64]
    pixels: NDArray[np.float64]
    count: NDArray[np.int64]
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
    """Measure the photo `laid` on the plan; the stamped line is left out, with its edge.

    Parameters
    ----------
    plan
        what was to be laid
    laid
        h x w x 3 sRGB, the photo laid on the plan; NaN outside and where it shines
    ink
        h x w, the stamped line
    """
    px = plan.px_per_mm
    clear = ~near_ink(ink, px)
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
    wanted = planned_light(plan)
    believed = _believed(wanted, px)[rows, cols]
    seen, planned = log_light(laid)[rows, cols], wanted[rows, cols]
    keep = [(int(start), int(end)) for start, end in zip(starts, ends, strict=True) if end - start >= LEAST_PX]
    first = [start for start, _ in keep]
    return Cells(
        region=plan.labels[rows[first], cols[first]].astype(np.int32),
        zone=plan.zones[rows[first], cols[first]].astype(np.int32),
        at=_means(np.stack([cols, rows], axis=1), believed, keep) / px,
        pixels=_sums(believed[:, None], keep)[:, 0],
        count=np.array([end - start for start, end in keep], np.int64),
        seen=_means(seen, believed, keep),
        plan=_means(planned, believed, keep),
        covered=covered,
    )


def planned_light(plan: Planned) -> NDArray[np.float32]:
    """h x w x 3: the logarithm of the plan's light."""
    return log_light((plan.rgb / 255).astype(np.float32))


def _believed(wanted: NDArray[np.float32], px_per_mm: float) -> NDArray[np.float32]:
    """h x w, 0..1: where the plan (logarithm of light) changes from shade to shade no hand ends one quite as planned,
    and what is seen there says less of the colours."""
    soft = cv2.GaussianBlur(wanted, (0, 0), 0.5 * HAND_MM * px_per_mm)
    steep = sum(cv2.Sobel(soft, cv2.CV_32F, *way, scale=px_per_mm / 8) ** 2 for way in ((1, 0), (0, 1))).max(axis=-1)
    return np.asarray(np.maximum(1 / (1 + steep * (HAND_MM / EVEN) ** 2), LEAST_BELIEVED), np.float32)


def near_ink(ink: NDArray[np.bool_], px_per_mm: float) -> NDArray[np.bool_]:
    """h x w: the line and what lies within INK_MM of it.

    Parameters
    ----------
    ink
        h x w, the stamped line
    px_per_mm
        pixels to a millimetre
    """
    reach = max(1, round(INK_MM * px_per_mm))
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * reach + 1, 2 * reach + 1))
    return cv2.dilate(ink.astype(np.uint8), kernel) > 0


def _sums(values: NDArray[np.float32], stretches: list[tuple[int, int]]) -> NDArray[np.float64]:
    """The sum of each stretch of rows."""
    sums = np.concatenate([np.zeros((1, values.shape[1])), np.cumsum(values, axis=0, dtype=np.float64)])
    starts, ends = np.array(stretches, int).reshape(-1, 2).T
    return sums[ends] - sums[starts]


def _means(
    values: NDArray[np.float32], weight: NDArray[np.float32], stretches: list[tuple[int, int]]
) -> NDArray[np.float64]:
    """The weighted mean of each stretch of rows."""
    return _sums(values * weight[:, None], stretches) / _sums(weight[:, None], stretches)


def on_paper(cells: Cells) -> NDArray[np.bool_]:
    """N: which cells should be bare paper."""
    return (cells.region == PAPER) | (cells.zone == NO_ZONE)


def shown(cells: Cells) -> float:
    """How much of the planned differences in colour a photo shows: about 1 on a card as planned, 0 on bare paper. A
    light that changes smoothly over the card, and its colour, count for nothing."""
    x, y = (cells.at - cells.at.mean(axis=0)).T / 50
    light = np.column_stack([np.ones_like(x), x, y, x * y, x**2, y**2])
    root = np.sqrt(np.minimum(cells.pixels, 200))[:, None]
    along = across = 0.0
    for channel in range(3):
        planned, seen = (root[:, 0] * one[:, channel] for one in (cells.plan, cells.seen))
        planned = planned - root * light @ np.linalg.lstsq(root * light, planned, rcond=None)[0]
        along += float(planned @ seen)
        across += float(planned @ planned)
    return along / max(across, 1e-9)
