"""How far a pixel is from where another region begins."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray


def to_edge(labels: NDArray[np.int32]) -> NDArray[np.float32]:
    """Distance of every pixel of a label map h x w to the edge of its region in px, never more than the map's height
    and width together, as where one region is all there is."""
    inner = np.ones(labels.shape, np.uint8)
    inner[:, 1:][labels[:, 1:] != labels[:, :-1]] = 0
    inner[1:][labels[1:] != labels[:-1]] = 0
    return np.asarray(np.minimum(cv2.distanceTransform(inner, cv2.DIST_L2, 3), sum(labels.shape)), np.float32)
