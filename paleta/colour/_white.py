"""Colours measured under another white point than ours."""

from __future__ import annotations

import numpy as np
from skimage.color.colorconv import xyz_tristimulus_values

from paleta.colour._convert import Lab, lab_of, xyz_over_white
from paleta.errors import ShapeError

WHITES = ("D65", "D50")
"""Ours first; D50 is what instruments of the printing trade give."""
BRADFORD = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])
"""XYZ to the cone responses in which white points are exchanged, [Lam1985]."""


def to_d65(lab: Lab, white: str) -> Lab:
    """L*a*b* as it is under D65, of a colour given under `white`, one of WHITES; to four decimals.

    Bradford adaptation in full, [Lam1985]. L*a*b* itself holds the white point, so without it a grey stays a grey, and
    only what is coloured moves.

    Parameters
    ----------
    lab
        L*a*b* under `white`.
    white
        A key of WHITES.

    Raises
    ------
    ShapeError
        If `white` is unknown.
    """
    if white not in WHITES:
        raise ShapeError(f"The white point is one of {', '.join(WHITES)}, got {white!r}.")
    if white == WHITES[0]:
        return lab
    theirs, ours = (np.array(xyz_tristimulus_values(illuminant=one, observer="2")) for one in (white, WHITES[0]))
    cones = BRADFORD @ (theirs * xyz_over_white(lab)) * (BRADFORD @ ours) / (BRADFORD @ theirs)
    light, a, b = lab_of(np.linalg.solve(BRADFORD, cones) / ours).tolist()
    return round(light, 4), round(a, 4), round(b, 4)
