"""Dye ink: sinks in and dries at once, and water takes it up again."""

from paleta.materials._line import Line

LINE = Line("dye", "Dye ink for alcohol markers, dry", 1, words=frozenset({"runs in water"}))
