"""Choosing shade ramps out of the swatches that are really in the drawer."""

from paleta.palette._ramp import SMALL_STEP, WIDE_STEP, Ramp, judge
from paleta.palette._search import SHADE_HUES, find_ramps

__all__ = ["SHADE_HUES", "SMALL_STEP", "WIDE_STEP", "Ramp", "find_ramps", "judge"]
