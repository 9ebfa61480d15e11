"""Middle grey paper for light and dark pencils."""

from paleta.materials._paper import Paper

PAPER = Paper("toned-grey", "Toned grey, 220 g/m2", (71.0, 0.1, 1.4), 220, "text", rank=4)
