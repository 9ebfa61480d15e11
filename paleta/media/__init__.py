"""How a swatch looks on a paper: every medium by its own optics."""

from paleta.media._appearance import appearance, appearance_of_layers, blended, covers_of, doubt_of, tip_to_tip, washes
from paleta.media._optics import Layer
from paleta.media._over import Over, over, stack_fault
from paleta.media._swatch import (
    DILUTED,
    FIRM_PRESSURE,
    FURTHER,
    INKS,
    LIGHT_PRESSURE,
    LONGEST_CODE,
    MEDIA,
    PAPERS,
    REFERENCE_PAPER,
    SURFACES,
    Paper,
    Swatch,
    check_lab,
    code_fault,
)
from paleta.media._table import MEASURED, Row, read_table, write_csv, write_gpl
from paleta.media._weight import BASIS_IN, grams_per_m2, pounds_of

__all__ = [
    "BASIS_IN",
    "DILUTED",
    "FIRM_PRESSURE",
    "FURTHER",
    "INKS",
    "LIGHT_PRESSURE",
    "LONGEST_CODE",
    "MEASURED",
    "MEDIA",
    "PAPERS",
    "REFERENCE_PAPER",
    "SURFACES",
    "Layer",
    "Over",
    "Paper",
    "Row",
    "Swatch",
    "appearance",
    "appearance_of_layers",
    "blended",
    "check_lab",
    "code_fault",
    "covers_of",
    "doubt_of",
    "grams_per_m2",
    "over",
    "pounds_of",
    "read_table",
    "stack_fault",
    "tip_to_tip",
    "washes",
    "write_csv",
    "write_gpl",
]
