"""Light thrown back by the surface of a card: where it drowns the colours, and the veil it lays over the rest."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.colour import linear_to_srgb, srgb_to_linear

DROWNED, SPOT_MM = 0.06, 1.0
"""Light by which the line is lifted where nothing can be measured any more, and how far that reaches from the line."""
VEIL_MM, VEILED = 4.0, 0.03
"""Over so much a veil changes; less than so much is a matter of how thin lines are seen. With 0.012 the poorest photos
had 27 false findings where they have 8 (tools/photo_check)."""
USUAL_LINE = 35
"""Percentile of the line's light that counts as usual: a shine may lie over half of a card."""
DARK_LINE = 0.2
"""Light of the line above which it is gold, white or pale itself and cannot tell of a shine."""
TINY = 1e-6
"""Marks where something is known, though it be nothing."""


def without_shine(laid: NDArray[np.float32], ink: NDArray[np.bool_], px_per_mm: float) -> NDArray[np.float32]:
    """h x w x 3: the photo `laid` on the plan without the veil of a shine; NaN where it shines too much.

    Nothing a hand does makes the stamped line paler, light thrown back by the surface does: it is added to dark and
    pale alike, as much as to the line beside it.

    Parameters
    ----------
    laid
        h x w x 3 sRGB, NaN outside the photo
    ink
        h x w, the stamped line
    px_per_mm
        pixels to a millimetre
    """
    if not ink.any():
        return laid
    light = srgb_to_linear(np.nan_to_num(laid, nan=1.0).min(axis=-1)).astype(np.float32)
    if float(np.median(light[ink])) > DARK_LINE:
        return laid
    lifted = _lifted(light, ink)
    sigma = SPOT_MM * px_per_mm
    reach = max(1, round(2 * sigma))
    drowned = (_spread_out(lifted, sigma) > DROWNED).astype(np.uint8)
    drowned = cv2.dilate(drowned, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (reach, reach)))
    veil = np.maximum(_spread_out(lifted, VEIL_MM * px_per_mm) - VEILED, 0)
    clear = laid.copy()
    veiled = veil > 0
    linear = srgb_to_linear(laid[veiled]) - veil[veiled][:, None]
    clear[veiled] = linear_to_srgb(np.maximum(linear, 0))
    clear[drowned > 0] = np.nan
    return clear


def _lifted(light: NDArray[np.float32], ink: NDArray[np.bool_]) -> NDArray[np.float32]:
    """h x w: by how much `light` the stamped line is paler than it usually is; 0 beside it."""
    # The darkest that is near: a thin line has a middle of less than a pixel.
    light = cv2.erode(light, np.ones((3, 3), np.uint8))
    usual = float(np.percentile(light[ink], USUAL_LINE))
    return np.where(ink, np.maximum(light - usual, 0) + TINY, 0).astype(np.float32)


def _spread_out(lifted: NDArray[np.float32], sigma: float) -> NDArray[np.float32]:
    """h x w: what is known along the line, over all of the picture."""
    known = cv2.GaussianBlur((lifted > 0).astype(np.float32), (0, 0), sigma)
    return np.asarray(cv2.GaussianBlur(lifted, (0, 0), sigma) / np.maximum(known, 1e-4), np.float32)
