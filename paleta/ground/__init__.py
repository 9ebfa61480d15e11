"""Grounds: what of the paper round the figure is coloured too, how its colour fades, and how it is laid."""

from paleta.ground._curve import smooth
from paleta.ground._fade import DIRECTIONS, FADES, PROFILES, Fade, bare, fade, faded, length_mm
from paleta.ground._shades import WAYS, shades_for

__all__ = [
    "DIRECTIONS",
    "FADES",
    "PROFILES",
    "WAYS",
    "Fade",
    "bare",
    "fade",
    "faded",
    "length_mm",
    "shades_for",
    "smooth",
]
