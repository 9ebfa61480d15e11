"""The line of a horizon or a hill: a smooth curve through a few handles."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from scipy.interpolate import PchipInterpolator, splev, splprep

STEPS = 60


def smooth(handles: Sequence[Sequence[float]]) -> list[list[float]]:
    """A polyline through all handles, (x, y) in mm; two of them are joined straight.

    Handles that run from left to right are joined by a monotone cubic ([Fritsch1980]), which does not overshoot; others
    by a cubic spline.
    """
    points = np.asarray(handles, float)
    if len(points) < 3:
        return [[round(float(x), 3), round(float(y), 3)] for x, y in points]
    if np.all(np.diff(points[:, 0]) > 0):
        xs = np.linspace(points[0, 0], points[-1, 0], STEPS)
        line = np.stack([xs, PchipInterpolator(points[:, 0], points[:, 1])(xs)], axis=1)
    else:
        knots, _ = splprep(points.T, s=0, k=min(3, len(points) - 1))
        line = np.stack(splev(np.linspace(0, 1, STEPS), knots), axis=1)
    return [[round(float(x), 3), round(float(y), 3)] for x, y in line]
