"""How a swatch looks on a paper: three media, each by its own optics."""

from paleta.media._appearance import Layer, appearance, appearance_of_layers, washes
from paleta.media._swatch import INKS, MEDIA, PAPERS, REFERENCE_PAPER, Paper, Swatch

__all__ = [
    "INKS",
    "MEDIA",
    "PAPERS",
    "REFERENCE_PAPER",
    "Layer",
    "Paper",
    "Swatch",
    "appearance",
    "appearance_of_layers",
    "washes",
]
