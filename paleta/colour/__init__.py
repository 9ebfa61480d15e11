"""CIE L*a*b*, sRGB, CIEDE2000 and plain words for colours. White is D65 throughout."""

from paleta.colour._convert import (
    Lab,
    difference,
    hex_to_lab,
    lab_to_hex,
    lab_to_srgb,
    linear_to_srgb,
    srgb_to_lab,
    srgb_to_linear,
)
from paleta.colour._names import plain_name

__all__ = [
    "Lab",
    "difference",
    "hex_to_lab",
    "lab_to_hex",
    "lab_to_srgb",
    "linear_to_srgb",
    "plain_name",
    "srgb_to_lab",
    "srgb_to_linear",
]
