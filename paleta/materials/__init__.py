"""What is stamped and coloured on, and what the line is made of: papers and lines, each described in a module."""

from paleta.descriptions import described_in
from paleta.materials._line import Line
from paleta.materials._paper import SURFACES, Paper
from paleta.materials._weight import BASIS_IN, grams_per_m2, pounds_of

PAPERS = described_in("paleta.materials.papers", Paper)
REFERENCE_PAPER = PAPERS["smooth-white"]
"""The paper a swatch was measured on where nothing else is said."""
LINES = described_in("paleta.materials.lines", Line)

__all__ = [
    "BASIS_IN",
    "LINES",
    "PAPERS",
    "REFERENCE_PAPER",
    "SURFACES",
    "Line",
    "Paper",
    "grams_per_m2",
    "pounds_of",
]
