"""Paper made for water, with a little tooth."""

from paleta.materials._paper import Paper

PAPER = Paper("cold-press", "Watercolour paper, 300 g/m2", (94.6, -0.2, 3.0), 300, "watercolour", "tooth", rank=3)
