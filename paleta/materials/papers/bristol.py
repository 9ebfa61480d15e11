"""Hard, smooth board: brush pens, light washes and drops of ink, with very little water. Common practice."""

from paleta.materials._paper import Paper

PAPER = Paper(
    "bristol",
    "Smooth bristol board, 270 g/m2",
    (95.2, 0.1, 0.4),
    270,
    surface="very smooth",
    water="little",
    behaves=("curls",),
    rank=6,
)
