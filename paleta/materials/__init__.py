"""What is stamped and coloured on, and what the line is made of: papers, lines and powders, each described in a
module."""

from paleta.descriptions import described_in
from paleta.materials._line import Line
from paleta.materials._paper import BEHAVIOURS, LEAST_DRIES, MOST_DRIES, SURFACES, WATER, Paper
from paleta.materials._powder import Powder
from paleta.materials._weight import BASIS_IN, grams_per_m2, pounds_of

PAPERS = described_in("paleta.materials.papers", Paper)
REFERENCE_PAPER = PAPERS["smooth-white"]
"""The paper a swatch was measured on where nothing else is said."""
LINES = described_in("paleta.materials.lines", Line)
POWDERS = described_in("paleta.materials.powders", Powder)

__all__ = [
    "BASIS_IN",
    "BEHAVIOURS",
    "LEAST_DRIES",
    "LINES",
    "MOST_DRIES",
    "PAPERS",
    "POWDERS",
    "REFERENCE_PAPER",
    "SURFACES",
    "WATER",
    "Line",
    "Paper",
    "Powder",
    "grams_per_m2",
    "pounds_of",
]
