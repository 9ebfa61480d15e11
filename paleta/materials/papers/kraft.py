"""Brown card."""

from paleta.materials._paper import Paper

PAPER = Paper("kraft", "Kraft card, 280 g/m2", (64.5, 8.3, 21.5), 280, rank=5)
