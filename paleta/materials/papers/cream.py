"""Card with a warm white."""

from paleta.materials._paper import Paper

PAPER = Paper("cream", "Cream card, 250 g/m2", (92.8, 0.6, 8.2), 250, rank=2)
