"""Choosing shade ramps out of the swatches that are really in the drawer."""

from paleta.palette._accent import usual_accent
from paleta.palette._advice import (
    SCHEMES,
    Missing,
    counterparts,
    in_betweens,
    missing_pen,
    palette_of_photo,
    scheme,
    substitutes,
)
from paleta.palette._drawn_out import drawn_out, find_drawn_out
from paleta.palette._ramp import Ramp, judge
from paleta.palette._search import AMONG, MEANT, SHADE_HUES, find_ramps
from paleta.palette._share_out import share_out
from paleta.palette._suits import suits

__all__ = [
    "AMONG",
    "MEANT",
    "SCHEMES",
    "SHADE_HUES",
    "Missing",
    "Ramp",
    "counterparts",
    "drawn_out",
    "find_drawn_out",
    "find_ramps",
    "in_betweens",
    "judge",
    "missing_pen",
    "palette_of_photo",
    "scheme",
    "share_out",
    "substitutes",
    "suits",
    "usual_accent",
]
