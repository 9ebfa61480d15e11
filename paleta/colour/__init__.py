"""CIE L*a*b*, sRGB, CIEDE2000 and plain words for colours. White is D65 throughout."""

from paleta.colour._check import check_lab
from paleta.colour._convert import (
    Lab,
    as_lab,
    difference,
    hex_to_lab,
    lab_to_hex,
    lab_to_linear,
    lab_to_srgb,
    linear_to_lab,
    linear_to_srgb,
    srgb_to_lab,
    srgb_to_linear,
)
from paleta.colour._names import plain_name
from paleta.colour._white import WHITES, to_d65

__all__ = [
    "WHITES",
    "Lab",
    "as_lab",
    "check_lab",
    "difference",
    "hex_to_lab",
    "lab_to_hex",
    "lab_to_linear",
    "lab_to_srgb",
    "linear_to_lab",
    "linear_to_srgb",
    "plain_name",
    "srgb_to_lab",
    "srgb_to_linear",
    "to_d65",
]
