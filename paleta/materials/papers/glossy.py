"""Coated card on which alcohol inks run. That inks slide and dry slowly is common practice; how slowly, from memory."""

from paleta.materials._paper import Paper

PAPER = Paper(
    "glossy",
    "Glossy white card, 250 g/m2",
    (95.9, 0.6, -2.4),
    250,
    surface="glossy",
    behaves=("slides", "streaks"),
    dries=4.0,
    rank=8,
)
