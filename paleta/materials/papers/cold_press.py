"""Paper made for water, with a little tooth. It holds more of what is laid on it than card, and dries later: from
memory."""

from paleta.materials._paper import Paper

PAPER = Paper(
    "cold-press",
    "Watercolour paper, 300 g/m2",
    (94.6, -0.2, 3.0),
    300,
    "watercolour",
    "tooth",
    water="much",
    dries=1.25,
    rank=3,
)
