"""Cast shadows: what nearer bodies keep the lamp from."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.light._bodies import PAPER_DEPTH
from paleta.light._lamp import Lamp
from paleta.light._loops import loops
from paleta.light._relief import Relief

FARTHEST_PX = 60
"""No shadow is followed farther than this (coarse pixels, 2 cm at 300 dpi): it would leave the scene."""
STEP_PX = 1.0
NEAR_PX = 12.0
"""Farther off every second step is enough: what casts is wider than two coarse pixels."""
EDGE_BLUR_PX = 0.8


def cast_shadow(relief: Relief, lamp: Lamp) -> NDArray[np.float32] | None:
    """How much every pixel of the relief lies in the shadow of a nearer body, 0..1; None where nothing can cast one.

    A pixel is in shadow if on the way to the lamp a nearer body rises above the ray: at distance t the ray is
    t * tan(elevation) above the surface behind. A thing of height h so throws a shadow of length h / tan(elevation).
    The surface behind counts as level; nearer bodies stand on it.
    """
    casting = relief.casting
    depth, height = casting.depth, casting.height
    tangent = np.tan(np.radians(lamp.elevation_deg))
    if casting.level or tangent > 50:
        return None
    reach = min(FARTHEST_PX, casting.tallest / max(tangent, 1e-3))
    x, y, _ = lamp.direction
    length = max(float(np.hypot(x, y)), 1e-9)
    near, far = np.arange(STEP_PX, min(reach, NEAR_PX) + STEP_PX, STEP_PX), np.arange(NEAR_PX, reach + 2, 2 * STEP_PX)
    steps = np.concatenate([near, far[1:]])
    downs, acrosses = (np.rint(steps * part / length).astype(np.int64) for part in (y, x))
    rises = (steps * tangent).astype(np.float32)
    shaded = loops().shaded(depth, height, downs, acrosses, rises, PAPER_DEPTH)
    soft = cv2.GaussianBlur(shaded.astype(np.float32), (0, 0), EDGE_BLUR_PX)
    return cv2.resize(soft, relief.height.shape[::-1], interpolation=cv2.INTER_LINEAR)
