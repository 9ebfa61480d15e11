"""Cast shadows: what nearer bodies keep the lamp from."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.light._bodies import PAPER_DEPTH
from paleta.light._lamp import Lamp
from paleta.light._loops import loops
from paleta.light._relief import Relief

FARTHEST_MM = 20.0
"""No shadow is followed farther than this: it would leave the scene."""
NEAR_PX = 24.0
"""Farther off, in pixels of the relief, every second step is enough: what casts is wider than two of them."""
EDGE_BLUR_PX = 1.0


def cast_shadow(relief: Relief, lamp: Lamp) -> NDArray[np.float32] | None:
    """How much every pixel of the relief lies in the shadow of a nearer body, 0..1; None where nothing can cast one.

    A pixel is in shadow if on the way to the lamp a nearer body rises above the ray: at distance t the ray is
    t * tan(elevation) above the surface behind. A thing of height h so throws a shadow of length h / tan(elevation).
    The surface behind counts as level; nearer bodies stand on it.

    Parameters
    ----------
    relief
        modelled forms
    lamp
        its direction and height
    """
    casting = relief.casting
    tangent = np.tan(np.radians(lamp.elevation_deg))
    if casting.level or tangent > 50:
        return None
    farthest = FARTHEST_MM * relief.px_per_mm / relief.step_px
    reach = min(farthest, float(casting.tallest.max(initial=0.0)) / max(tangent, 1e-3))
    x, y, _ = lamp.direction
    length = max(float(np.hypot(x, y)), 1e-9)
    steps = np.concatenate([np.arange(1, min(reach, NEAR_PX) + 1), np.arange(NEAR_PX + 2, reach + 2, 2)])
    downs, acrosses = (np.rint(steps * part / length).astype(np.int64) for part in (y, x))
    rises = (steps * tangent).astype(np.float32)
    shaded = loops().shaded(relief.depth, casting.height, casting.tallest, downs, acrosses, rises, PAPER_DEPTH)
    return cv2.GaussianBlur(shaded.astype(np.float32), (0, 0), EDGE_BLUR_PX)
