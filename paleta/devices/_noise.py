"""Smooth noise: light, hands and fibres vary slowly."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray


def slow_noise(shape: tuple[int, ...], reach_px: float, chance: np.random.Generator) -> NDArray[np.float32]:
    """Smooth noise of unit spread whose waves are about `reach_px` long.

    Parameters
    ----------
    shape
        of the result
    reach_px
        length of its waves in pixels
    chance
        where it comes from
    """
    small = tuple(max(3, round(side / reach_px) + 2) for side in shape[:2])
    noise = chance.normal(0, 1, small).astype(np.float32)
    return np.asarray(cv2.resize(noise, shape[1::-1], interpolation=cv2.INTER_CUBIC), np.float32)
