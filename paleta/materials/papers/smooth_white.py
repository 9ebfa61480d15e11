"""Card for markers and blended ink."""

from paleta.materials._paper import Paper

PAPER = Paper("smooth-white", "Smooth white card, 250 g/m2", (95.6, 0.3, -1.8), 250, surface="very smooth", rank=1)
