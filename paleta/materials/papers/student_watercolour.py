"""Cheap watercolour paper of wood pulp: weakly sized, so that water runs in it past the line. Common practice."""

from paleta.materials._paper import Paper

PAPER = Paper(
    "student-watercolour",
    "Student watercolour paper, 200 g/m2",
    (93.4, 0.2, 5.1),
    200,
    "watercolour",
    "tooth",
    water="much",
    behaves=("leaks", "curls"),
    rank=7,
)
