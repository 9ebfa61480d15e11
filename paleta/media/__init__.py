"""How a swatch looks on a paper: three media, each by its own optics."""

from paleta.media._appearance import Layer, appearance, appearance_of_layers, washes
from paleta.media._swatch import INKS, MEDIA, PAPERS, REFERENCE_PAPER, Paper, Swatch, check_lab
from paleta.media._table import MEASURED, Row, read_table, write_csv, write_gpl

__all__ = [
    "INKS",
    "MEASURED",
    "MEDIA",
    "PAPERS",
    "REFERENCE_PAPER",
    "Layer",
    "Paper",
    "Row",
    "Swatch",
    "appearance",
    "appearance_of_layers",
    "check_lab",
    "read_table",
    "washes",
    "write_csv",
    "write_gpl",
]
