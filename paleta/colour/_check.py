"""Colours that were given by hand or read from a file."""

from __future__ import annotations

import math

from paleta.colour._convert import Lab
from paleta.errors import SwatchError


def check_lab(lab: Lab, whose: str) -> None:
    """Raise SwatchError unless `lab` can be a measured surface colour.

    Parameters
    ----------
    lab
        L*, a*, b*.
    whose
        How a sentence about it begins.
    """
    if len(lab) != 3 or not all(isinstance(value, int | float) and math.isfinite(value) for value in lab):
        raise SwatchError(f"{whose}: a colour is three numbers L*, a*, b*, got {lab!r}.")
    if not (0 <= lab[0] <= 100 and abs(lab[1]) <= 128 and abs(lab[2]) <= 128):
        raise SwatchError(f"{whose}: L* must lie in 0..100 and a*, b* in -128..128, got {tuple(lab)}.")
