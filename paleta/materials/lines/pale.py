"""Pale ink that is to vanish in the colour."""

from paleta.materials._line import Line

LINE = Line("pale", "Pale ink for no-line work", 4, words=frozenset({"may run in water"}), unseen=True)
